#include "app/scene/joint_marks.h"

#include "app/scene/base_marks.h"
#include "app/theme.h"
#include "core/rig/joint_range.h"

namespace veld {
namespace {

const std::string kMarker = "joint:";
constexpr double kFingersWithinMm = 900;  // height of the view

}  // namespace

void add_joint_marks(const JointMarks& which, const Camera& camera, Marks& out) {
    const bool near = camera.height_at_target() < kFingersWithinMm;
    for (std::size_t j = 0; j < which.joints.size(); ++j) {
        const Joint& joint = which.joints[j];
        const auto at = which.place(j);
        if (!at || (of_finger(joint.name) && !near)) continue;
        const bool by_hand = which.by_hand(joint.name);
        Marker m;
        m.name = kMarker + joint.name;
        m.label = joint_text(joint.name);
        m.position = *at;
        m.selected = joint.name == which.selected;
        m.shape = by_hand ? MarkerShape::Diamond : MarkerShape::Handle;
        m.colour = by_hand ? theme::kTeal.lighter(135) : theme::kText;
        out.markers.push_back(m);
        if (joint.parent < 0) continue;
        if (const auto parent = which.place(static_cast<std::size_t>(joint.parent)))
            out.lines.push_back({{*parent, *at}, faint(theme::kText, 120), false, false});
    }
}

std::string joint_of_marker(const std::string& marker) {
    return marker.starts_with(kMarker) ? marker.substr(kMarker.size()) : std::string();
}

QString joint_text(const std::string& joint) { return QString::fromStdString(joint).replace('_', ' '); }

Vec3 dragged_to(const Ray& ray, const Vec3& from) {
    const Vec3 along = ray.direction.normalized();
    return ray.origin + along * along.dot(from - ray.origin);
}

}  // namespace veld
