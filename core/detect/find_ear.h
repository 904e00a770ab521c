#pragma once
// An ear by its own shape: the base's ear, made larger, wider, rounder, longer in the lobe, higher at the top and
// standing off more or less, registered over a window of the surface around where the head says an ear should be.
//
// Starts are ranked by what stands out from the side of the head (side_relief.h); the best are refined by ICP with
// point-to-plane distances both ways [Chen & Medioni 1992]: the base's ear must find a surface that faces its way,
// and what stands out must be covered by the ear. The best is compared with the best one elsewhere.
#include <map>
#include <optional>
#include <string>

#include "core/base/progress.h"
#include "core/detect/ear_rim.h"
#include "core/detect/surface_view.h"
#include "core/kit/base_kit.h"

namespace veld {

struct FoundEar {
    VertexIndices vertices;       // of the base's ear on that side
    Points places;                // parallel: where they lie on the surface, its frame
    Vec3 tragion = Vec3::Zero();  // by the form around the base's, a small window moved until it lies on the surface
    std::vector<RimPoint> rim;    // from its root above the tragus to the lobe, as the base's curve runs
    double lies = 0;              // 0..1: how much of it finds its surface
    double covers = 0;            // 0..1: how much of what stands out there it explains
    double clear = 0;             // 0..1: mean over the rim
    double rival = 0;             // 0..1: how well the best one elsewhere lies, as a share of this one
    double off_mm = 0;            // median distance of what was matched
};

// side: "l" or "r". surface: in the kit's frame, about in its size, the face laid on the kit's. base_points: of the
// kit. Nothing when the kit has no ear region, rim or landmarks there, or the surface none.
std::optional<FoundEar> find_ear(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                 const std::string& side, const SourceSurface& surface, const Progress& progress = {});

}  // namespace veld
