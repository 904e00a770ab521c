#pragma once
// Where the head stands before something else: its occluding contour on the model, and the edge in the
// photograph that belongs to it.
//
// Contour: edges of the surface between a triangle that faces the camera and one that does not, seen, with
// nothing of the head close behind. Along the contour's normal in the picture the strongest step between the
// colour inside and outside is looked for [Harris & Stennett 1990, along-normal search]. It counts only where
// the inside has the colours of this face: hair, collars and hands are no outline of a head.
#include "core/io/image.h"
#include "core/kit/base_kit.h"
#include "core/photo/solve.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct ContourPoint {
    SurfacePoint place;
    Vec2 pixel = Vec2::Zero(), outward = Vec2::UnitX();  // unit, in the picture
    double behind_mm = 1e9;                              // how far behind it the next surface of the head lies
};
// The skin's triangles above the neck band and the eyes', once for a kit.
struct OutlineSurface {
    std::vector<Triangle> triangles;
    std::vector<std::array<Index, 2>> edges;  // with their two triangles below
    std::vector<std::array<Index, 2>> sides;
    std::vector<float> weight;  // per vertex: how much its outline may say; 0 in the neck
};
OutlineSurface outline_surface(const BaseKit& kit);

// At most one point for each spacing_mm.
std::vector<ContourPoint> contour(const OutlineSurface& surface, const Points& shape, const PhotoCamera& camera,
                                  double spacing_mm = 4);

// A photograph made ready for looking for edges: colours averaged over about half a millimetre.
struct EdgePicture {
    int width = 0, height = 0;
    double shrunk = 1;                     // pixels here for one of the photograph
    std::vector<float> rgb;                // 0..1
    Vec3 colour(const Vec2& pixel) const;  // of a place in the photograph; nearest inside it
};
EdgePicture edge_picture(const Pixels& photo, double pixels_per_mm);

// How this face's skin looks in the photograph, from where it certainly is skin: chromaticity and its scatter.
struct SkinTone {
    Eigen::Vector2d mean = Eigen::Vector2d::Zero();
    Eigen::Matrix2d inverse_scatter = Eigen::Matrix2d::Identity();
    double darkest = 0;
    bool known = false;
    bool skin(const Vec3& rgb) const;
};
SkinTone skin_tone(const EdgePicture& picture, const std::vector<Vec2>& on_skin);

// The edges found, as sights. reach_mm: how far from the contour is looked. hair: may lie beyond the step, between
// head and wall; steps beyond which something else begins soon are left out then.
std::vector<Sight> outline_sights(const std::vector<ContourPoint>& points, const EdgePicture& picture,
                                  const SkinTone& tone, const PhotoCamera& camera, const Points& shape,
                                  double reach_mm, bool hair = true);
// The same from a line that a person drew.
std::vector<Sight> drawn_outline_sights(const std::vector<ContourPoint>& points, const std::vector<Vec2>& line,
                                        const PhotoCamera& camera, const Points& shape, double reach_mm);

}  // namespace veld
