#include "core/proof/proof_subject.h"

#include <algorithm>
#include <set>

#include "core/kit/kit_joints.h"
#include "core/kit/kit_surface.h"
#include "core/rig/dual_quaternion.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

bool can_pose(const BaseKit& kit, const Pose& pose) {
    return pose.turns.size() == kit.joints.size() && kit.weights.weight.size() == kit.mesh.positions.size();
}

bool of_leg(const std::string& joint) {
    return joint.starts_with("thigh") || joint.starts_with("shin") || joint.starts_with("foot");
}

}  // namespace

const char* skinning_name(Skinning skinning) { return skinning == Skinning::Linear ? "linear" : "dual quaternion"; }

std::optional<Skinning> skinning_from_name(const std::string& name) {
    for (const Skinning s : {Skinning::Linear, Skinning::DualQuaternion})
        if (name == skinning_name(s)) return s;
    return {};
}

Result<ProofSubject> ProofSubject::make(const BaseKit& kit, Points shape, const std::vector<std::string>& expressions,
                                        const Progress& progress, const std::map<std::string, Points>& own) {
    ProofSubject out(kit, std::move(shape));
    if (!kit.joints.empty()) out.joints_ = joints_in(kit, out.shape_);
    if (expressions.empty()) return out;
    auto face = Face::make(kit, out.shape_, progress, expressions, own);
    if (!face) return face.error();
    out.face_ = std::make_shared<const Face>(std::move(*face));
    return out;
}

ProofSubject ProofSubject::base_of(const BaseKit& kit) {
    ProofSubject out(kit, kit.mesh.positions);
    out.joints_ = kit.joints;
    if (!kit.expressions.empty()) out.face_ = std::make_shared<const Face>(Face::of_base(kit));
    return out;
}

Points ProofSubject::rest(double amount) const {
    if (amount == 1) return shape_;
    Points out = kit_->mesh.positions;
    for (std::size_t v = 0; v < out.size(); ++v) out[v] += amount * (shape_[v] - out[v]);
    return out;
}

const std::vector<std::pair<Index, Index>>& ProofSubject::rest_cuts() const {
    return cuts_->get([this] { return self_intersections(shape_, skin_triangles(*kit_)); });
}

std::vector<Joint> ProofSubject::joints_of(double amount) const {
    return amount == 1 || joints_.empty() ? joints_ : joints_in(*kit_, rest(amount));
}

// On the lower foot, where legs are bent.
Pose ProofSubject::standing(const std::vector<Joint>& joints, const Pose& pose) const {
    Pose out = pose;
    bool bent = false;
    for (std::size_t j = 0; j < joints.size(); ++j)
        bent = bent || (of_leg(joints[j].name) && !pose.turns[j].isIdentity(1e-9));
    if (!bent) return out;
    const PosedJoints posed = pose_joints(joints, pose);
    double lowest = std::numeric_limits<double>::infinity();
    for (std::size_t j = 0; j < joints.size(); ++j)
        if (joints[j].name.starts_with("foot")) lowest = std::min(lowest, posed.place[j].y() - joints[j].position.y());
    if (std::isfinite(lowest)) out.move.y() -= lowest;
    return out;
}

ProofSubject ProofSubject::corrected(std::vector<ShapeCorrection> corrections,
                                     std::map<std::string, double> heads) const {
    ProofSubject out = *this;
    out.corrections_ = std::move(corrections), out.heads_ = std::move(heads);
    return out;
}

Driving ProofSubject::driving(const ProofStop& stop) const {
    Driving out;
    for (const auto& [name, amount] : heads_) out.amounts[name] = amount * stop.amount;
    for (const auto& [name, amount] : stop.expressions) out.amounts[name] += amount;
    if (!can_pose(*kit_, stop.pose)) return out;
    for (std::size_t j = 0; j < kit_->joints.size(); ++j) {
        const Eigen::AngleAxisd turn(stop.pose.turns[j]);
        out.turns[kit_->joints[j].name] = turn.angle() * turn.axis();
    }
    return out;
}

Points ProofSubject::at(const ProofStop& stop, Skinning skinning) const { return bent(unbent(stop), stop, skinning); }

Points ProofSubject::unbent(const ProofStop& stop) const {
    Points out = rest(stop.amount);
    if (!stop.expressions.empty() && face_) {
        const Points face = (*face_)(stop.expressions);
        for (std::size_t v = 0; v < out.size(); ++v) out[v] += face[v] - shape_[v];
    }
    if (corrections_.empty()) return out;
    const Driving by = driving(stop);
    for (const auto& [morph, amount] : corrections_) {
        const double share = amount * driven_share(morph->drivers, by);
        for (std::size_t i = 0; share != 0 && i < morph->index.size(); ++i)
            out[morph->index[i]] += share * morph->delta[i];
    }
    return out;
}

Points ProofSubject::bent(const Points& unbent, const ProofStop& stop, Skinning skinning) const {
    if (!can_pose(*kit_, stop.pose)) return unbent;
    const std::vector<Joint> joints = joints_of(stop.amount);
    const Pose pose = standing(joints, stop.pose);
    return skinning == Skinning::Linear ? skin(unbent, joints, kit_->weights, pose)
                                        : skin_by_dual_quaternions(unbent, joints, kit_->weights, pose);
}

Points ProofSubject::joints_at(const ProofStop& stop) const {
    const std::vector<Joint> joints = joints_of(stop.amount);
    if (can_pose(*kit_, stop.pose)) return pose_joints(joints, standing(joints, stop.pose)).place;
    Points out;
    for (const Joint& joint : joints) out.push_back(joint.position);
    return out;
}

std::vector<std::string> expressions_of(const BaseKit& kit, const std::vector<Proof>& proofs) {
    std::set<std::string> out;
    for (const Proof& proof : proofs)
        for (const ProofStop& stop : proof.stops)
            for (const ExpressionAmount& e : stop.expressions)
                if (kit.expressions.contains(e.name)) out.insert(e.name);
    return {out.begin(), out.end()};
}

}  // namespace veld
