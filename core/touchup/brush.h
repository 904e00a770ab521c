#pragma once
// Brushes as functions on positions: the topology and the UVs are never touched.
//
// What a brush reaches is found along the surface, not through the air: the way over the mesh's edges and
// face diagonals [Dijkstra 1959] from the place under the pointer, so that the upper lip does not move the lower.
// Everything is in the kit frame, mm. A brush only moves the skin; what hangs on it follows afterwards.
#include <optional>

#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"
#include "core/mesh/topology.h"

namespace veld {

// Smooth takes away bumps that the base has not, so lid and lip edges stay; Relax brings the base's even edge
// flow back without changing the form.
enum class Brush { Grab, Smooth, Relax, Inflate, Deflate, Flatten, PullToSource, PushFromEye, BackToBase };
constexpr int kBrushCount = 9;
const char* brush_name(Brush brush);  // "pull to source"
std::optional<Brush> brush_from_name(const std::string& name);

// How the strength falls from the middle (t = 0) to the rim (t = 1).
enum class Falloff { Soft, Round, Pointed, Even };
double falloff_weight(Falloff falloff, double t);

struct BrushSettings {
    Brush brush = Brush::Grab;
    double radius_mm = 12;
    double strength = 0.5;  // 0..1
    Falloff falloff = Falloff::Soft;
    bool mirrored = false;   // the other side gets the mirrored stroke, by the kit's mirror map
    bool front_only = true;  // skin that turns away from the camera stays
};

// What brushes need to know of a kit; made once. The kit must outlive it.
struct TouchBase {
    explicit TouchBase(const BaseKit& kit);
    const BaseKit* kit;
    std::vector<Triangle> triangles;  // fan triangles of the skin
    VertexMask skin;                  // per vertex
    Adjacency ways;                   // edges and both diagonals of quads
    Adjacency rings;                  // edges only
    Adjacency triangles_of;           // per vertex, into triangles
    std::vector<double> ring_weight;  // parallel to rings.items: cotangent weights of the base, each row adds up to 1
    std::vector<Vec3> ring_offset;    // per vertex: sum of weight * (neighbour - vertex) on the base
};

struct TouchPlace {
    Index triangle = kNone;  // of TouchBase::triangles; kNone: nothing there
    Vec3 position = Vec3::Zero();
};
// Where a ray first meets the skin's outside. Looks at every triangle: right after any change, without a tree.
TouchPlace touch_place(const TouchBase& base, const Points& now, const Vec3& origin, const Vec3& direction);

struct Touched {
    Index vertex = kNone;
    double weight = 0;  // 0..1
};
// Skin within the brush's radius of a place, ascending by vertex. to_camera: unit, for front_only.
// mask: null, or per vertex 0..1 of how much may be moved.
std::vector<Touched> brush_reach(const TouchBase& base, const Points& now, const TouchPlace& place,
                                 const BrushSettings& settings, const Vec3& to_camera, const std::vector<float>* mask);

// Moves what was reached by `drag`, from where it was when the stroke began.
void grab(const TouchBase& base, const std::vector<Touched>& reached, const Points& start, const Vec3& drag,
          bool mirrored, Points& now);

struct DabSurroundings {
    const SourceSurface* source = nullptr;  // for pull to source, in the kit frame
};
// One touch of any brush but grab. pressure: 0..1 of a pen, 1 of a mouse. Vertices that moved are
// those of `reached` and their mirror partners.
void dab(const TouchBase& base, const std::vector<Touched>& reached, const BrushSettings& settings, double pressure,
         const DabSurroundings& around, Points& now);

}  // namespace veld
