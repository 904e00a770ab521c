#pragma once
// Pictures of a surface as a portrait camera would take them, cast ray by ray: no graphics card, so the
// command line can look at a scan anywhere, and the same scan always gives the same picture.
//
// The light is the one that face networks read best on plain clay: two high key lights and a weak fill,
// fixed to the camera. Triangles that turn their back are not there: the hollow side of a mask must not
// be taken for a face.
#include <optional>
#include "core/base/similarity.h"
#include "core/fit/source_surface.h"

#include "core/io/surface_colour.h"

namespace veld {

// Where a picture is taken from. Pixels count from the upper left, x right, y down.
struct ViewCamera {
    Vec3 target = Vec3::Zero();
    Mat3 axes = Mat3::Identity();  // columns: right, up, from the target to the camera
    double radius = 100;           // half the picture's height at the target, in the surface's unit
    double distance = 600;         // from the target, same unit
    int size = 192;                // pixels, width and height

    Vec3 eye() const { return target + distance * axes.col(2); }
    Vec3 direction(const Vec2& pixel) const;  // not unit
    Vec2 project(const Vec3& p) const;        // meaningless behind the camera
};
// yaw: towards the subject's left, pitch: upwards, roll: the head's own clockwise as it is seen; degrees
ViewCamera portrait_camera(const Vec3& target, double radius, double yaw, double pitch, double roll = 0);

// A surface with what it needs to be drawn.
struct SurfaceLook {
    SourceSurface surface;        // in the frame that cameras stand in
    Points normals;               // per vertex, seams do not show
    const Mesh* mesh = nullptr;   // of the colours; must outlive this
    Triangulation triangulation;  // of the mesh
    SurfaceColour colour;
    bool coloured = false;  // there are colours of vertices or a texture
};
// colours false: clay only, textures are not decoded.
SurfaceLook look_at_surface(const Mesh& mesh, const Similarity& to_frame, const VertexMask* ignored = nullptr,
                            bool colours = true);
// The same surface in another frame (sizes change with it).
SurfaceLook moved_look(SurfaceLook&& look, const Similarity& by);

// Share 0..1 of each channel; plain clay where nothing is known.
Vec3 colour_at(const SurfaceLook& look, const SurfaceHit& hit);

enum class Skin { Clay, Colours };
// samples x samples rays for every pixel. Colours falls back to clay where there are none.
Pixels draw_view(const SurfaceLook& look, const ViewCamera& camera, Skin skin = Skin::Clay, int samples = 2);

// The place on the surface under a pixel; nothing beside the surface, where it is seen at more than
// `grazing_degrees` from its normal, and where depth jumps within `steady_pixels` around.
std::optional<SurfaceHit> lift(const SurfaceLook& look, const ViewCamera& camera, const Vec2& pixel,
                               double grazing_degrees = 72, double steady_pixels = 1.2);

}  // namespace veld
