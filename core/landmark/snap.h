#pragma once
// From a hand's rough click to the place that the definition means.
//
// A small patch of the surface around the click is sampled in its tangent plane. What the point's
// definition names decides: the farthest place in a direction (most forward, lowest, most lateral), the
// sharpest ridge or valley (lid and lip edges, creases), or the strongest edge of the skin's colour.
#include <functional>
#include <optional>

#include "core/base/similarity.h"
#include "core/landmark/landmarks.h"
#include "core/spatial/surface_query.h"

namespace veld {

enum class SnapKind { None, Extreme, Ridge, Valley, ColourEdge };
struct SnapRule {
    SnapKind kind = SnapKind::None;
    Vec3 direction = Vec3::Zero();  // Extreme only; kit frame
    std::string says;               // "the most forward place"
};
// What the scheme's definition of a point or curve asks for.
SnapRule snap_rule(const std::string& name);

struct SnapSurface {
    const SurfaceQuery* query = nullptr;                 // of the source, in its own coordinates
    Similarity to_kit;                                   // where its coordinates lie in the kit frame
    std::function<double(const SurfaceHit&)> lightness;  // 0..1; empty: no colours
};
// start: on the surface, source coordinates; reach in mm of the kit frame. The start itself when nothing
// nearby fits the rule better, or at most `reach` from it.
Vec3 snap(const SnapSurface& surface, const SnapRule& rule, const Vec3& start, double reach_mm = 5);

// A guide curve through handles: laid over the surface between them and drawn onto the ridge, valley or
// colour edge of its rule, handle to handle by dynamic programming over steps across the path [Amini et
// al. 1990]; handles stay. count: points of the result. Fails with BadInput below two handles.
Result<Points> trace_curve(const SnapSurface& surface, const SnapRule& rule, const Points& handles, int count,
                           double reach_mm = 3);

// Handles that stand for a dense curve: its ends and evenly spaced places between.
Points handles_of(const Points& curve, int count);

// Along the surface by mm to the right and upwards of a view whose axes are given in source coordinates.
Vec3 nudge(const SnapSurface& surface, const Vec3& at, const Vec3& right, const Vec3& up, double right_mm,
           double up_mm);

// The subject's own mirror plane: the reflection of the source's coordinates that best exchanges its marked
// sides [as fit_similarity, on mirrored points]; nothing below four sided or midline points.
std::optional<Similarity> own_mirror(const LandmarkSet& set, const Similarity& to_kit);
Vec3 mirrored(const Vec3& p, const Similarity& mirror, const Similarity& to_kit);

}  // namespace veld
