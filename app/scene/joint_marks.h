#pragma once
// Joints in a view: small squares with the bones between them, diamonds where a hand placed one.
#include <QString>
#include <functional>
#include <optional>

#include "app/views/pane.h"
#include "core/rig/rig.h"

namespace veld {

struct JointMarks {
    const std::vector<Joint>& joints;
    std::function<std::optional<Vec3>(std::size_t joint)> place;  // in the view's frame
    std::function<bool(const std::string& joint)> by_hand;
    std::string selected;
};
// Those of fingers only where the camera is near enough to tell them apart.
void add_joint_marks(const JointMarks& which, const Camera& camera, Marks& out);

// Of add_joint_marks(): the joint's name; empty: it is no joint's.
std::string joint_of_marker(const std::string& marker);
QString joint_text(const std::string& joint);  // as people read it
// Where a place comes to lie that is dragged at its depth.
Vec3 dragged_to(const Ray& ray, const Vec3& from);

}  // namespace veld
