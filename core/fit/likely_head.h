#pragma once
// The most likely head of those that are known, for a source: components of known_heads.h and a small move, turn and
// change of size, by marked points and by the surface [point-to-plane: Chen & Medioni 1991; robust weights: Geman &
// McClure 1987; components as unknowns: Blanz & Vetter 1999]. The face leads; the rest of the head counts once the
// face has said what head this is, and what lies outside of it (hair, a cap) counts less than what lies inside.
#include <optional>

#include "core/fit/wrap.h"
#include "core/kit/base_kit.h"
#include "core/rig/pose.h"

namespace veld {

struct LikelyInput {
    const BaseKit* kit = nullptr;                // with known_heads, as the pose bends it
    const Pose* pose = nullptr;                  // of its jaw; null: none
    const SourceSurface* source = nullptr;       // kit frame; null: points alone
    const std::vector<double>* match = nullptr;  // per vertex of the base, 0..1
    std::vector<PointPull> points;               // weight: 1 for a point that is sure
    bool face_only = false;                      // nothing but the face says what head it is
    double point_mm = 1.5;                       // how far a sure point lies off, one deviation
};

struct LikelyHead {
    Points positions;          // all vertices of the base, kit frame, in the pose
    std::vector<double> sure;  // per vertex, mm: one deviation of the true place; 0 where nothing is known
};

// Empty where the kit knows no heads.
std::optional<LikelyHead> likely_head(const LikelyInput& input);

}  // namespace veld
