#include "core/fit/pose_solver.h"

#include <cmath>

namespace veld {
namespace {

constexpr double kBuild = 2e5;        // cost of a bone e times as long or as stout, as JointRange::stiffness
constexpr double kTrunkLength = 6e5;  // no joint shows where a back ends: a belly would lengthen it
constexpr double kHips = 4e6;         // what makes hips wide is flesh more than bone: the legs' joints stay
constexpr double kMostBuild = 0.4;    // log: two thirds to one and a half
constexpr double kLimitCost = 3e5, kHoldCost = 1e13;
constexpr double kMostTurn = 0.35, kMostGrowth = 0.05;  // of one step

// Bones that are of one length: left and right, all of a hand, all of a back.
std::string build_group(std::string joint) {
    if (joint.ends_with("_l") || joint.ends_with("_r")) joint.resize(joint.size() - 2);
    if (of_finger(joint)) return "hand";
    if (joint.starts_with("spine")) return "spine";
    if (joint == "toe") return "foot";
    if (joint == "eye" || joint == "jaw") return "head";
    return joint;
}

Vec3 turn_vector(const Mat3& turn) {
    const Eigen::AngleAxisd angle(turn);
    return angle.angle() * angle.axis();
}

}  // namespace

SkinPlace skin_place(const BaseKit& kit, Index v, const Vec3& normal) {
    SkinPlace out;
    out.rest = kit.mesh.positions[v], out.normal = normal;
    for (std::size_t k = 0; k < 4; ++k) out.joints[k] = {kit.weights.joint[v][k], kit.weights.weight[v][k]};
    return out;
}

SkinPlace skin_place(const BaseKit& kit, const SurfacePoint& point) {
    SkinPlace out = skin_place(kit, point.vertices[0], Vec3::Zero());
    out.rest = point.at(kit.mesh.positions);
    return out;
}

PoseSolver::PoseSolver(const BaseKit& kit)
    : kit_(kit), ranges_(joint_ranges(kit.joints)), pose_(rest_pose(kit.joints)) {
    below_.assign(kit.joints.size(), std::vector<char>(kit.joints.size(), 0));
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        for (int up = static_cast<int>(j); up >= 0; up = kit.joints[static_cast<std::size_t>(up)].parent)
            below_[static_cast<std::size_t>(up)][j] = 1;
    }
    find_bones();
    posed_ = pose_joints(kit_.joints, pose_);
}

// Limbs and the back grow along the bone, so that a stout arm makes no long one; head, hands, feet and
// pelvis on all sides.
void PoseSolver::find_bones() {
    const std::size_t count = kit_.joints.size();
    way_.assign(count, std::vector<Index>(count, kNone));
    along_.assign(count, Vec3::Zero());
    std::map<std::string, Eigen::Index> groups;
    for (std::size_t j = 0; j < count; ++j) {
        const std::string group = build_group(kit_.joints[j].name);
        group_.push_back(groups.emplace(group, static_cast<Eigen::Index>(groups.size())).first->second);
        for (std::size_t k = 0; k < count; ++k) {
            if (k == j || !below_[j][k]) continue;
            std::size_t child = k;
            while (static_cast<std::size_t>(kit_.joints[child].parent) != j)
                child = static_cast<std::size_t>(kit_.joints[child].parent);
            way_[j][k] = static_cast<Index>(child);
        }
        const bool limb = group == "spine" || group == "neck" || group == "clavicle" || group == "upper_arm" ||
                          group == "forearm" || group == "thigh" || group == "shin";
        Index longest = kNone;
        for (std::size_t c = 0; c < count && limb; ++c) {
            if (kit_.joints[c].parent != static_cast<int>(j)) continue;
            const bool trunk = kit_.joints[c].name.starts_with("spine") ||
                               kit_.joints[c].name == "neck";  // not the shoulder beside it
            if (longest == kNone || trunk) longest = static_cast<Index>(c);
        }
        if (longest != kNone) along_[j] = (kit_.joints[longest].position - kit_.joints[j].position).normalized();
    }
    if (const auto spine = groups.find("spine"); spine != groups.end()) back_ = spine->second;
    if (const auto pelvis = groups.find("pelvis"); pelvis != groups.end()) hips_ = pelvis->second;
    build_ = Eigen::VectorXd::Zero(2 * static_cast<Eigen::Index>(groups.size()));
    pose_.stretch.assign(count, Mat3::Identity());
}

void PoseSolver::set(const Pose& pose, double size) {
    pose_ = pose, size_ = size;
    if (pose_.stretch.empty()) pose_.stretch.assign(kit_.joints.size(), Mat3::Identity());
    for (std::size_t j = 0; j < pose_.stretch.size(); ++j) {
        const Mat3& own = pose_.stretch[j];
        const double length = along_[j].isZero() ? std::cbrt(own.determinant()) : along_[j].dot(own * along_[j]);
        build_[2 * group_[j]] = std::log(length);
        build_[2 * group_[j] + 1] = along_[j].isZero() ? 0 : 0.5 * std::log(own.determinant() / length);
    }
    posed_ = pose_joints(kit_.joints, pose_);
}

void PoseSolver::set_whole(const Pose& pose) {
    Pose own = pose;
    double size = 0;
    for (const Mat3& s : own.stretch) size += std::log(s.determinant()) / 3 / static_cast<double>(own.stretch.size());
    size = std::exp(size);
    for (Mat3& s : own.stretch) s /= size;
    const Vec3 first = kit_.joints.front().position;
    own.move = (own.move + first) / size - first;
    set(own, size);
}

Pose PoseSolver::whole() const {
    Pose out = pose_;
    const Vec3 first = kit_.joints.front().position;
    out.move = (pose_.move + first) * size_ - first;
    for (Mat3& s : out.stretch) s *= size_;
    return out;
}

void PoseSolver::move_by(const Vec3& way) {
    pose_.move += way / size_;
    posed_ = pose_joints(kit_.joints, pose_);
}

Vec3 PoseSolver::at(const SkinPlace& place) const {
    Vec3 out = Vec3::Zero();
    for (const auto& [j, w] : place.joints)
        if (w > 0) out += w * posed_(kit_.joints, j, place.rest);
    return size_ * out;
}

Vec3 PoseSolver::normal_at(const SkinPlace& place) const {
    Vec3 out = Vec3::Zero();
    for (const auto& [j, w] : place.joints)
        if (w > 0) out += w * (posed_.turn[j] * place.normal);
    return out.normalized();
}

Mat3 PoseSolver::stretch_of(std::size_t j) const {
    const double length = std::exp(build_[2 * group_[j]]), girth = std::exp(build_[2 * group_[j] + 1]);
    if (along_[j].isZero()) return length * Mat3::Identity();
    return girth * Mat3::Identity() + (length - girth) * along_[j] * along_[j].transpose();
}

// How a place of the skin moves when the bone of `j` grows by a share, in length and in girth.
std::pair<Vec3, Vec3> PoseSolver::growth(std::size_t j, const SkinPlace& place) const {
    Vec3 from = Vec3::Zero();
    for (const auto& [k, w] : place.joints) {
        if (w <= 0 || !below_[j][k]) continue;
        from += w * ((k == j ? place.rest : kit_.joints[way_[j][k]].position) - kit_.joints[j].position);
    }
    const double length = std::exp(build_[2 * group_[j]]), girth = std::exp(build_[2 * group_[j] + 1]);
    if (along_[j].isZero()) return {length * (posed_.turn[j] * from), Vec3::Zero()};
    const Vec3 on = along_[j].dot(from) * along_[j];
    return {length * (posed_.turn[j] * on), girth * (posed_.turn[j] * (from - on))};
}

void PoseSolver::begin() {
    const auto count = static_cast<Eigen::Index>(3 * kit_.joints.size() + 4) + build_.size();
    left_ = Eigen::MatrixXd::Zero(count, count);
    right_ = Eigen::VectorXd::Zero(count);
    slot_.assign(static_cast<std::size_t>(count), -1);
    columns_.clear();
}

// How the place goes with each unknown, one entry per column: bones of a group share theirs.
void PoseSolver::gather_ways(const SkinPlace& place, const Vec3& now, const Vec3* as) {
    for (const Eigen::Index c : columns_) slot_[static_cast<std::size_t>(c)] = -1;
    columns_.clear(), ways_.clear();
    const auto add = [&](Eigen::Index column, const Vec3& way) {
        int& slot = slot_[static_cast<std::size_t>(column)];
        if (slot >= 0) return void(ways_[static_cast<std::size_t>(slot)] += way);
        slot = static_cast<int>(columns_.size());
        columns_.push_back(column), ways_.push_back(way);
    };
    const std::size_t count = kit_.joints.size();
    const auto first = static_cast<Eigen::Index>(3 * count);
    for (std::size_t j = 0; j < count; ++j) {
        double share = 0;
        for (const auto& [k, w] : place.joints) share += w > 0 && below_[j][k] ? w : 0;
        if (share <= 0) continue;
        const Vec3 arm = now - size_ * posed_.place[j];
        for (int a = 0; a < 3; ++a) add(static_cast<Eigen::Index>(3 * j) + a, share * Vec3::Unit(a).cross(arm));
        const auto [longer, stouter] = growth(j, place);
        const Eigen::Index column = first + 4 + 2 * group_[j];
        if (!longer.isZero()) add(column, size_ * longer);
        if (!stouter.isZero()) add(column + 1, size_ * stouter);
    }
    for (int a = 0; a < 3; ++a) add(first + a, size_ * Vec3::Unit(a));
    add(first + 3, as ? *as : now);  // of log size
}

void PoseSolver::want(const SkinPlace& place, const Vec3& gap, const Mat3& weight, const Vec3* as) {
    gather_ways(place, at(place), as);
    const Vec3 pull = weight * gap;
    for (std::size_t i = 0; i < columns_.size(); ++i) {
        const Eigen::Index c = columns_[i];
        right_[c] += ways_[i].dot(pull);
        const Vec3 weighed = weight * ways_[i];
        // the half that take_step() reads
        for (std::size_t k = 0; k <= i; ++k)
            left_(std::max(c, columns_[k]), std::min(c, columns_[k])) += ways_[k].dot(weighed);
    }
}

void PoseSolver::add_range(std::size_t j, double ease) {
    const JointRange& range = ranges_[j];
    const auto parent = [&](std::size_t joint) {
        const int up = kit_.joints[joint].parent;
        return up < 0 ? Mat3(Mat3::Identity()) : posed_.turn[static_cast<std::size_t>(up)];
    };
    const Mat3 up = parent(j);
    const Vec3 now = turn_vector(pose_.turns[j]);
    const auto i = static_cast<Eigen::Index>(3 * j);
    left_.block<3, 3>(i, i) += ease * up * range.stiffness * up.transpose();
    right_.segment<3>(i) -= ease * up * (range.stiffness * now);
    if (range.hinge.isZero()) return;
    const Vec3 axis = up * range.hinge;
    const double turn = range.hinge.dot(now);
    if (range.low < range.high && (turn < range.low || turn > range.high)) {
        left_.block<3, 3>(i, i) += kLimitCost * axis * axis.transpose();
        right_.segment<3>(i) += kLimitCost * (std::clamp(turn, range.low, range.high) - turn) * axis;
    }
    if (range.like < 0) return;
    const auto other = static_cast<std::size_t>(range.like);
    const double led = ranges_[other].hinge.dot(turn_vector(pose_.turns[other]));
    const bool idle = range.only_up && led < 0;
    const double share = idle ? 0 : range.share, gap = share * led - turn;
    const Vec3 other_axis = -share * (parent(other) * ranges_[other].hinge);
    const auto k = static_cast<Eigen::Index>(3 * other);
    const double tie = ease * range.tie;
    left_.block<3, 3>(i, i) += tie * axis * axis.transpose();
    left_.block<3, 3>(i, k) += tie * axis * other_axis.transpose();
    left_.block<3, 3>(k, i) += tie * other_axis * axis.transpose();
    left_.block<3, 3>(k, k) += tie * other_axis * other_axis.transpose();
    right_.segment<3>(i) += tie * gap * axis;
    right_.segment<3>(k) += tie * gap * other_axis;
}

void PoseSolver::add_priors(double ease, double builds) {
    for (std::size_t j = 0; j < kit_.joints.size(); ++j)
        if (kit_.joints[j].parent >= 0) add_range(j, ease);
    const Eigen::Index first = static_cast<Eigen::Index>(3 * kit_.joints.size()) + 4;
    for (Eigen::Index g = 0; g < build_.size(); ++g) {
        const double k = (g == 2 * back_ ? kTrunkLength : g == 2 * hips_ ? kHips : kBuild) * builds;
        left_(first + g, first + g) += k;
        right_[first + g] -= k * build_[g];
    }
    left_.diagonal().array() += 1e-3;
}

void PoseSolver::add_held() {
    for (std::size_t j = 0; j < held_.size(); ++j) {
        if (held_[j]) left_.diagonal().segment<3>(static_cast<Eigen::Index>(3 * j)).array() += kHoldCost;
    }
    for (std::size_t j = 0; j < kit_.joints.size() && !face_turns_; ++j) {
        const std::string& name = kit_.joints[j].name;
        if (name == "jaw" || name.starts_with("eye"))
            left_.diagonal().segment<3>(static_cast<Eigen::Index>(3 * j)).array() += kHoldCost;
    }
    if (!rest_held_) return;
    const Eigen::Index first = static_cast<Eigen::Index>(3 * kit_.joints.size());
    left_.diagonal().segment<4>(first).array() += kHoldCost;
    for (Eigen::Index g = 0; g < build_.size() / 2; ++g)
        if (std::find(growing_.begin(), growing_.end(), g) == growing_.end())
            left_.diagonal().segment<2>(first + 4 + 2 * g).array() += kHoldCost;
}

bool PoseSolver::take_step() {
    add_held();
    const std::size_t count = kit_.joints.size();
    const Eigen::VectorXd step = left_.ldlt().solve(right_);
    if (!step.allFinite()) return false;
    // turned about the world's axes: the parent's turn is taken out again
    for (std::size_t j = 0; j < count; ++j) {
        const Vec3 w = step.segment<3>(static_cast<Eigen::Index>(3 * j));
        const double angle = std::min(w.norm(), kMostTurn);
        const Mat3 by =
            angle > 1e-12 ? Eigen::AngleAxisd(angle, w.normalized()).toRotationMatrix() : Mat3(Mat3::Identity());
        const Mat3 up = kit_.joints[j].parent < 0 ? Mat3(Mat3::Identity())
                                                  : posed_.turn[static_cast<std::size_t>(kit_.joints[j].parent)];
        pose_.turns[j] =
            Eigen::Quaterniond(Mat3(up.transpose() * by * posed_.turn[j])).normalized().toRotationMatrix();
    }
    pose_.move += step.segment<3>(static_cast<Eigen::Index>(3 * count));
    size_ *= std::exp(std::clamp(step[static_cast<Eigen::Index>(3 * count) + 3], -kMostGrowth, kMostGrowth));
    for (Eigen::Index g = 0; g < build_.size(); ++g) {
        const double by = step[static_cast<Eigen::Index>(3 * count) + 4 + g];
        build_[g] = std::clamp(build_[g] + std::clamp(by, -kMostGrowth, kMostGrowth), -kMostBuild, kMostBuild);
    }
    for (std::size_t j = 0; j < count; ++j) pose_.stretch[j] = stretch_of(j);
    posed_ = pose_joints(kit_.joints, pose_);
    return true;
}

}  // namespace veld
