#pragma once
// How easily each joint of a person turns, and which turn together: what a pose is taken to be where a surface does
// not tell. By the joints' names as kits have them (docs/formats.md); a joint of another name turns like a limb's.
#include "core/rig/rig.h"

namespace veld {

struct JointRange {
    // Cost of a turn away from rest, per squared radian about each axis of the rest frame, counted in squared mm by
    // which one point of the skin is off.
    Mat3 stiffness = Mat3::Zero();
    Vec3 hinge = Vec3::Zero();  // unit, rest frame: a turn about it bends the joint as people bend it; zero: none
    double low = 0, high = 0;   // of the turn about the hinge, radians; both 0: any
    // The turn about the hinge is about `share` of the turn of that joint about its own; -1: of none. A shoulder
    // rises with its arm and does not sink below rest with it, so only what is positive counts there.
    int like = -1;
    double share = 1, tie = 0;
    bool only_up = false;
};

// One per joint. Fingers bend about the axis across them towards the palm, like their neighbours; knees backwards;
// collar bones with the arms [a third of an arm's rise: Inman, Saunders, Abbott 1944].
std::vector<JointRange> joint_ranges(const std::vector<Joint>& joints);

// Whether the joint belongs to a finger or the thumb.
bool of_finger(const std::string& joint);
// The joint of that name on the other side ("_l" and "_r"); -1: it has none.
int other_side(const std::vector<Joint>& joints, int joint);

// A turn as degrees about X, then Y, then Z, and back; where Y is a right angle, X is 0.
Vec3 degrees_of_turn(const Mat3& turn);
Mat3 turn_by_degrees(const Vec3& degrees);

}  // namespace veld
