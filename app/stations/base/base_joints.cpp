// What BaseController does with joints: roles, poses to look at, and the skin that each is tied to.
#include "app/stations/base/base_controller.h"
#include "core/kit/kit_joints.h"
#include "core/rig/pose.h"

namespace veld {

void BaseController::select_joint(const std::string& name) {
    joint_ = name;
    emit changed();
}

std::vector<float> BaseController::joint_weights() const {
    if (!s_.has_kit() || joint_.empty()) return {};
    if (shows_tie_) return stroking_ ? painted_ : tie_shares();
    const BaseKit& kit = *s_.state().kit;
    std::vector<float> out(kit.mesh.positions.size(), 0);
    for (std::size_t v = 0; v < kit.weights.joint.size(); ++v) {
        for (std::size_t k = 0; k < 4; ++k) {
            if (kit.weights.weight[v][k] > 0 && kit.joints[kit.weights.joint[v][k]].name == joint_)
                out[v] += static_cast<float>(kit.weights.weight[v][k]);
        }
    }
    return out;
}

void BaseController::set_role(const std::string& role, const std::string& name) {
    if (!s_.has_kit()) return;
    ProjectState next = s_.state();
    next.kit_edits.roles[role] = name;
    if (!change_kit(tr("Role of %1").arg(QString::fromStdString(role)), std::move(next))) emit changed();
}

void BaseController::select_pose(const std::string& name) {
    pose_ = name;
    emit changed();
}

std::optional<Points> BaseController::posed() const {
    if (!s_.has_kit()) return {};
    const BaseKit& kit = *s_.state().kit;
    const auto pose = kit.rest_poses.find(pose_);
    if (pose == kit.rest_poses.end()) return {};
    return skin(kit.mesh.positions, kit.joints, kit.weights, pose->second);
}

void BaseController::show_tie(bool on) {
    if (on == shows_tie_) return;
    shows_tie_ = on;
    emit changed();
}

std::vector<float> BaseController::tie_shares() const {
    const BaseKit& kit = *s_.state().kit;
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        if (kit.joints[j].name != joint_) continue;
        const std::vector<double> shares = shares_of(joint_ties(kit)[j], kit.mesh.positions.size());
        return {shares.begin(), shares.end()};
    }
    return {};
}

bool BaseController::tied_by_hand() const { return s_.has_kit() && s_.state().kit->joint_ties.contains(joint_); }

void BaseController::tie_to_painted() {
    if (painted_ == tie_shares()) return void(emit changed());  // the brush met no skin
    const BaseKit& kit = *s_.state().kit;
    auto ties = ties_by_shares(kit, joint_, {painted_.begin(), painted_.end()}, mirrored);
    if (!ties) {
        s_.report(ties.error());
        return void(emit changed());
    }
    ProjectState next = s_.state();
    for (auto& [name, tie] : *ties) next.kit_edits.ties[name] = std::move(tie);
    change_kit(tr("Tie %1").arg(QString::fromStdString(joint_).replace('_', ' ')), std::move(next));
}

void BaseController::untie() {
    if (!tied_by_hand()) return;
    ProjectState next = s_.state();
    next.kit_edits.ties[joint_] = {};
    const std::string other = other_side(joint_);
    if (mirrored && !other.empty() && next.kit->joint_ties.contains(other)) next.kit_edits.ties[other] = {};
    change_kit(tr("Tie %1 as its weights say").arg(QString::fromStdString(joint_).replace('_', ' ')), std::move(next));
}

}  // namespace veld
