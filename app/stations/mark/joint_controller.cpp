#include "app/stations/mark/joint_controller.h"

#include "app/scene/joint_marks.h"
#include "core/kit/base_kit.h"
#include "core/landmark/landmarks.h"
#include "core/project/records/source.h"

namespace veld {

JointController::JointController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::selection_changed, this, &JointController::deselect);
    connect(&s_, &Session::project_changed, this, &JointController::deselect);
}

bool JointController::known() const { return source() && !s_.photo() && !source()->landmarks.joints.empty(); }

void JointController::show(bool on) {
    shown_ = on;
    if (!on) selected_.clear();
    emit changed();
}

bool JointController::can_find() const {
    if (!source() || s_.photo() || !s_.has_kit() || s_.state().kit->joints.empty() || s_.busy()) return false;
    int marked = 0;
    for (const std::string& name : minimal_points()) marked += source()->landmarks.points.contains(name);
    return marked >= 3;
}

void JointController::deselect() {
    if (selected_.empty()) return;
    selected_.clear();
    emit changed();
}

bool JointController::by_hand(const std::string& joint) const {
    if (!source()) return false;
    const auto at = source()->landmarks.joints.find(joint);
    return at != source()->landmarks.joints.end() && at->second.by_hand;
}

void JointController::add_marks(const Camera& camera, Marks& out) const {
    if (!shown() || !s_.state().kit) return;
    const std::vector<Joint>& joints = s_.state().kit->joints;
    const auto place = [&](std::size_t j) -> std::optional<Vec3> {
        const auto at = source()->landmarks.joints.find(joints[j].name);
        if (at == source()->landmarks.joints.end()) return {};
        return s_.source_to_view()(at->second.at);
    };
    add_joint_marks({joints, place, [this](const std::string& joint) { return by_hand(joint); }, selected_}, camera,
                    out);
}

bool JointController::press(const std::string& marker) {
    const std::string joint = joint_of_marker(marker);
    if (joint.empty()) return false;
    s_.select({});
    selected_ = joint, dragged_ = false;
    emit changed();
    return true;
}

void JointController::drag(const Ray& ray) {
    if (selected_.empty() || !known()) return;
    ProjectState next = s_.state();
    Source* edited = find_source(next, source()->id);
    const auto at = edited ? edited->landmarks.joints.find(selected_) : std::map<std::string, JointMark>::iterator();
    if (!edited || at == edited->landmarks.joints.end()) return;
    const Similarity& to_view = s_.source_to_view();
    at->second = {to_view.inverse()(dragged_to(ray, to_view(at->second.at))), true};
    dragged_ = true;
    s_.change(tr("Move the joint %1").arg(joint_text(selected_)), std::move(next), "drag joint " + selected_);
}

void JointController::release() {
    s_.document().seal();
    if (std::exchange(dragged_, false)) s_.follow_joints(true, {});
}

void JointController::give_back() {
    if (!by_hand(selected_)) return;
    ProjectState next = s_.state();
    Source* edited = find_source(next, source()->id);
    if (!edited) return;
    edited->landmarks.joints[selected_].by_hand = false;
    s_.change(tr("Look for the joint %1 again").arg(joint_text(selected_)), std::move(next));
    s_.follow_joints(true, {});
}

void JointController::find_anew() {
    if (can_find()) s_.follow_joints(false, tr("Find joints"));
}

}  // namespace veld
