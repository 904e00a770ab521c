#pragma once
// An open mouth: how far a subject's jaw is down, the kit with its jaw turned so, and the same shape with the mouth
// shut again.
#include <map>
#include <string>

#include "core/kit/base_kit.h"
#include "core/rig/pose.h"

namespace veld {

// Degrees that the kit's jaw must turn until its lips lie as far apart as `gap_mm`, in the kit's size, against shut
// lips; 0 when the kit has no joint of the jaw or lips' landmarks, or the gap is too small to be one.
double jaw_turn_for_gap(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points, double gap_mm);

// The same of marked lips: landmarks in the kit's frame and size. What thick lips explain is no gap, and
// lips whose stomion is marked meet.
double jaw_turn_of(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                   const std::map<std::string, Vec3>& marked);

Pose jaw_pose(const BaseKit& kit, double degrees);

// Is this the pose of a jaw alone? How far it is down, degrees; 0: no.
double jaw_of(const BaseKit& kit, const Pose& pose);

// Is this the pose of a head alone: its jaw and its lids?
bool of_head(const BaseKit& kit, const Pose& pose);

// A shape in the pose of an open jaw, with the mouth shut: the jaw's turn taken out through the skin weights, then
// the lips brought together where the base's meet, both by the same way (meeting.h).
Points mouth_shut(const BaseKit& kit, const Points& open, const Pose& pose);

}  // namespace veld
