#include "core/fit/articulate.h"
#include "core/fit/lids.h"

#include <Eigen/Dense>
#include <cmath>

#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr int kPoseRounds = 40;
constexpr std::size_t kSample = 3000;
constexpr double kPullWeight = 2, kLedWeight = 6;
constexpr double kTrunk = 5e6, kLimb = 1e5,
                 kFine = 3e6;         // cost of one radian away from rest, in squared mm of a skin point
constexpr double kBuild = 2e5;        // of a bone e times as long or as stout
constexpr double kTrunkLength = 6e5;  // no joint shows where a back ends: a belly would lengthen it
constexpr double kBuildReachMm = 80;
constexpr double kMostBuild = 0.4;  // log: two thirds to one and a half
constexpr double kFirstReachMm = 160, kLastReachMm = 25;
constexpr double kLedReachMm = 80;  // where points have bent the limbs already
constexpr double kLedStiffness = 0.2;
constexpr std::size_t kLimbPulls = 12;
constexpr int kPullRounds = 15;
constexpr int kSettleRounds = 12;
constexpr double kSettleReachMm = 30;

// Bones that are of one length: left and right, all of a hand, all of a back.
std::string build_group(std::string joint) {
    if (joint.ends_with("_l") || joint.ends_with("_r")) joint.resize(joint.size() - 2);
    for (const char* finger : {"thumb", "index", "middle", "ring", "little"}) {
        if (joint.starts_with(finger)) return "hand";
    }
    if (joint.starts_with("spine")) return "spine";
    if (joint == "toe") return "foot";
    if (joint == "eye" || joint == "jaw") return "head";
    return joint;
}

double stiffness_of(const std::string& joint) {
    // fingers and toes hardly bend on scans
    for (const char* fine : {"thumb", "index", "middle", "ring", "little", "toe", "eye", "jaw", "finger"}) {
        if (joint.find(fine) != std::string::npos) return kFine;
    }
    // a trunk is nearly round: matches alone would let it twist
    for (const char* trunk : {"spine", "neck", "clavicle"}) {
        if (joint.find(trunk) != std::string::npos) return kTrunk;
    }
    return kLimb;
}

class Bending {
 public:
    Bending(const BaseKit& kit, const SourceSurface* surface, const std::vector<PosePull>& pulls)
        : kit_(kit), surface_(surface), pulls_(pulls), pose_(rest_pose(kit.joints)) {
        const std::vector<Index>& all = kit.part("skin")->vertices;
        const std::size_t step = std::max<std::size_t>(1, all.size() / kSample);
        for (std::size_t i = 0; i < all.size(); i += step) sample_.push_back(all[i]);
        // below[j]: the joints that move with j
        below_.assign(kit.joints.size(), std::vector<char>(kit.joints.size(), 0));
        for (std::size_t j = 0; j < kit.joints.size(); ++j) {
            for (int up = static_cast<int>(j); up >= 0; up = kit.joints[static_cast<std::size_t>(up)].parent)
                below_[static_cast<std::size_t>(up)][j] = 1;
        }
        find_bones();
    }

    Result<Articulated> run(const Progress& progress);
    Pose settle(const Points& positions, const Pose& from);

 private:
    void by_pulls();
    bool round(double reach);
    void begin_round();
    void add_matches(const Points& now, const PosedJoints& posed, double reach);
    void add_pulls(const std::vector<PosePull>& pulls, const Points& now, const PosedJoints& posed, double weight,
                   bool sizes);
    bool take_step(const PosedJoints& posed);
    void take_build(const Pose& pose);
    void find_bones();
    Mat3 stretch_of(std::size_t joint) const;
    std::pair<Vec3, Vec3> growth(std::size_t joint, const std::array<std::pair<Index, double>, 4>& joints,
                                 const PosedJoints& posed, const Vec3& rest) const;
    void add(const Vec3& now, const Vec3& rest, const std::array<std::pair<Index, double>, 4>& joints,
             const PosedJoints& posed, const Vec3& direction, double gap, double weight, bool sizes = true);
    void add_priors(const PosedJoints& posed, double reach);
    std::array<std::pair<Index, double>, 4> joints_of(Index v) const {
        std::array<std::pair<Index, double>, 4> out;
        for (std::size_t k = 0; k < 4; ++k) out[k] = {kit_.weights.joint[v][k], kit_.weights.weight[v][k]};
        return out;
    }

    const BaseKit& kit_;
    const SourceSurface* surface_;  // null: only settle() is asked for
    const std::vector<PosePull>& pulls_;
    Pose pose_;
    bool led_ = false;  // by points, near enough already
    double size_ = 1;   // the figure is this much larger than the kit
    std::vector<Index> sample_;
    std::vector<std::vector<char>> below_;
    std::vector<std::vector<Index>> way_;  // way_[j][k]: the child of j that leads to k
    std::vector<Eigen::Index> group_;      // per joint: whose build it shares
    std::vector<Vec3> along_;              // per joint: the bone's direction at rest; zero: grows on all sides
    Eigen::Index back_ = -1;               // the spine's group
    Eigen::VectorXd build_;                // per group: logarithms of length and girth
    std::vector<double> distances_;
    Eigen::MatrixXd left_;  // unknowns: three turns per joint, three moves, one size, the groups' lengths
    Eigen::VectorXd right_;
};

// Limbs and the back grow along the bone, so that a stout arm makes no long one; head, hands, feet and
// pelvis on all sides.
void Bending::find_bones() {
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
    build_ = Eigen::VectorXd::Zero(2 * static_cast<Eigen::Index>(groups.size()));
    pose_.stretch.assign(count, Mat3::Identity());
}

Mat3 Bending::stretch_of(std::size_t j) const {
    const double length = std::exp(build_[2 * group_[j]]), girth = std::exp(build_[2 * group_[j] + 1]);
    if (along_[j].isZero()) return length * Mat3::Identity();
    return girth * Mat3::Identity() + (length - girth) * along_[j] * along_[j].transpose();
}

// How a place of the skin moves when the bone of `j` grows by a share, in length and in girth.
std::pair<Vec3, Vec3> Bending::growth(std::size_t j, const std::array<std::pair<Index, double>, 4>& joints,
                                      const PosedJoints& posed, const Vec3& rest) const {
    Vec3 from = Vec3::Zero();
    for (const auto& [k, w] : joints) {
        if (w <= 0 || !below_[j][k]) continue;
        from += w * ((k == j ? rest : kit_.joints[way_[j][k]].position) - kit_.joints[j].position);
    }
    const double length = std::exp(build_[2 * group_[j]]), girth = std::exp(build_[2 * group_[j] + 1]);
    if (along_[j].isZero()) return {length * (posed.turn[j] * from), Vec3::Zero()};
    const Vec3 on = along_[j].dot(from) * along_[j];
    return {length * (posed.turn[j] * on), girth * (posed.turn[j] * (from - on))};
}

void Bending::add(const Vec3& now, const Vec3& rest, const std::array<std::pair<Index, double>, 4>& joints,
                  const PosedJoints& posed, const Vec3& direction, double gap, double weight, bool sizes) {
    // direction . (change of the place) = gap; the place is size * skinned
    const std::size_t count = kit_.joints.size();
    std::vector<std::pair<Eigen::Index, double>> row;
    for (std::size_t j = 0; j < count; ++j) {
        double share = 0;
        for (const auto& [k, w] : joints) share += w > 0 && below_[j][k] ? w : 0;
        if (share <= 0) continue;
        const Vec3 turn = share * size_ * (now / size_ - posed.place[j]).cross(direction);
        for (int a = 0; a < 3; ++a) row.emplace_back(static_cast<Eigen::Index>(3 * j) + a, turn[a]);
    }
    const Eigen::Index first = static_cast<Eigen::Index>(3 * count);
    for (int a = 0; a < 3; ++a) row.emplace_back(first + a, size_ * direction[a]);
    if (sizes) row.emplace_back(first + 3, direction.dot(now));  // of log size
    for (std::size_t j = 0; j < count; ++j) {
        const auto [longer, stouter] = growth(j, joints, posed, rest);
        const Eigen::Index column = first + 4 + 2 * group_[j];
        if (!longer.isZero()) row.emplace_back(column, size_ * direction.dot(longer));
        if (!stouter.isZero()) row.emplace_back(column + 1, size_ * direction.dot(stouter));
    }
    for (const auto& [i, x] : row) {
        right_[i] += weight * gap * x;
        for (const auto& [k, y] : row) left_(i, k) += weight * x * y;
    }
}

void Bending::add_priors(const PosedJoints& posed, double reach) {
    for (std::size_t j = 0; j < kit_.joints.size(); ++j) {
        if (kit_.joints[j].parent < 0) continue;
        const Eigen::AngleAxisd now(pose_.turns[j]);
        const Mat3& up = posed.turn[static_cast<std::size_t>(kit_.joints[j].parent)];
        const Vec3 away = up * (now.angle() * now.axis());
        const double k = stiffness_of(kit_.joints[j].name) * (led_ ? kLedStiffness : 1);
        for (int a = 0; a < 3; ++a) {
            const Eigen::Index i = static_cast<Eigen::Index>(3 * j) + a;
            left_(i, i) += k;
            right_[i] -= k * away[a];
        }
    }
    const Eigen::Index first = static_cast<Eigen::Index>(3 * kit_.joints.size()) + 4;
    for (Eigen::Index g = 0; g < build_.size(); ++g) {
        const double k =
            (g == 2 * back_ ? kTrunkLength : kBuild) * (reach > kBuildReachMm ? 100 : 1);  // the pose first
        left_(first + g, first + g) += k;
        right_[first + g] -= k * build_[g];
    }
    left_.diagonal().array() += 1e-3;
}

void Bending::begin_round() {
    const auto count = static_cast<Eigen::Index>(3 * kit_.joints.size() + 4) + build_.size();
    left_ = Eigen::MatrixXd::Zero(count, count);
    right_ = Eigen::VectorXd::Zero(count);
}

void Bending::add_matches(const Points& now, const PosedJoints& posed, double reach) {
    const Points normals = vertex_normals(now, kit_.triangulation.triangles);
    distances_.clear();
    for (const Index v : sample_) {
        const FacingFilter facing{normals[v], 0.5};
        const SurfaceHit hit = surface_->closest(now[v], 2 * reach, &facing);
        if (!hit || surface_->on_border(hit)) continue;
        distances_.push_back(hit.distance);
        const double weight = geman_mcclure(hit.distance, reach);
        const Vec3 n = surface_->query->triangle_normals()[hit.triangle];
        add(now[v], kit_.mesh.positions[v], joints_of(v), posed, n, n.dot(hit.position - now[v]), weight);
        // a little of the plain distance: planes alone let arms and legs slide
        for (int a = 0; a < 3; ++a)
            add(now[v], kit_.mesh.positions[v], joints_of(v), posed, Vec3::Unit(a), (hit.position - now[v])[a],
                0.05 * weight);
    }
}

void Bending::add_pulls(const std::vector<PosePull>& pulls, const Points& now, const PosedJoints& posed, double weight,
                        bool sizes) {
    for (const PosePull& pull : pulls) {
        const Vec3 at = pull.place.at(now);
        for (int a = 0; a < 3; ++a)
            add(at, pull.place.at(kit_.mesh.positions), joints_of(pull.place.vertices[0]), posed, Vec3::Unit(a),
                (pull.target - at)[a], weight, sizes);
    }
}

bool Bending::round(double reach) {
    begin_round();
    const PosedJoints posed = pose_joints(kit_.joints, pose_);
    Points now = skin(kit_.mesh.positions, kit_.joints, kit_.weights, pose_);
    for (Vec3& p : now) p *= size_;
    add_matches(now, posed, reach);
    if (distances_.size() < sample_.size() / 8) return false;
    // a large head makes no tall figure
    add_pulls(pulls_, now, posed, led_ ? kLedWeight : kPullWeight, false);
    add_priors(posed, reach);
    return take_step(posed);
}

// Where limbs are marked they lead: a figure that sits is too far from the kit's for its surface to tell.
void Bending::by_pulls() {
    if (kit_.neck_ring.empty()) return;
    std::vector<PosePull> limbs;
    for (const PosePull& pull : pulls_) {
        if (pull.place.at(kit_.mesh.positions).y() < kit_.mesh.positions[kit_.neck_ring.front()].y())
            limbs.push_back(pull);
    }
    if (limbs.size() < kLimbPulls) return;
    for (int r = 0; r < kPullRounds; ++r) {
        begin_round();
        const PosedJoints posed = pose_joints(kit_.joints, pose_);
        Points now = skin(kit_.mesh.positions, kit_.joints, kit_.weights, pose_);
        for (Vec3& p : now) p *= size_;
        add_pulls(limbs, now, posed, kPullWeight, true);
        add_priors(posed, kFirstReachMm);
        if (!take_step(posed)) return;
    }
    led_ = true;
}

// The build that a pose holds, as this class writes it: the whole's size apart.
void Bending::take_build(const Pose& pose) {
    if (pose.stretch.empty()) return;
    double size = 0;
    for (const Mat3& s : pose.stretch)
        size += std::log(s.determinant()) / 3 / static_cast<double>(pose.stretch.size());
    size_ = std::exp(size);
    for (std::size_t j = 0; j < pose.stretch.size(); ++j) {
        const Mat3 own = pose.stretch[j] / size_;
        const double length = along_[j].isZero() ? std::cbrt(own.determinant()) : along_[j].dot(own * along_[j]);
        build_[2 * group_[j]] = std::log(length);
        build_[2 * group_[j] + 1] = along_[j].isZero() ? 0 : 0.5 * std::log(own.determinant() / length);
        pose_.stretch[j] = own;
    }
    const Vec3 first = kit_.joints.front().position;
    pose_.move = (pose.move + first) / size_ - first;
}

Pose Bending::settle(const Points& positions, const Pose& from) {
    pose_.turns = from.turns;
    led_ = true;
    take_build(from);
    for (int r = 0; r < kSettleRounds; ++r) {
        begin_round();
        const PosedJoints posed = pose_joints(kit_.joints, pose_);
        Points now = skin(kit_.mesh.positions, kit_.joints, kit_.weights, pose_);
        for (Vec3& p : now) p *= size_;
        for (const Index v : sample_) {
            const Vec3 gap = positions[v] - now[v];
            const double weight = geman_mcclure(gap.norm(), kSettleReachMm);
            for (int a = 0; a < 3; ++a)
                add(now[v], kit_.mesh.positions[v], joints_of(v), posed, Vec3::Unit(a), gap[a], weight);
        }
        add_priors(posed, 0);
        if (!take_step(posed)) return from;
    }
    Pose out = pose_;
    out.lids = from.lids;
    const Vec3 first = kit_.joints.front().position;
    out.move = (pose_.move + first) * size_ - first;
    for (Mat3& s : out.stretch) s *= size_;
    return out;
}

bool Bending::take_step(const PosedJoints& posed) {
    const std::size_t count = kit_.joints.size();
    const Eigen::VectorXd step = left_.ldlt().solve(right_);
    if (!step.allFinite()) return false;
    // turned about the world's axes: the parent's turn is taken out again
    std::vector<Mat3> turn = posed.turn;
    for (std::size_t j = 0; j < count; ++j) {
        const Vec3 w = step.segment<3>(static_cast<Eigen::Index>(3 * j));
        const double angle = std::min(w.norm(), 0.35);
        const Mat3 by =
            angle > 1e-12 ? Eigen::AngleAxisd(angle, w.normalized()).toRotationMatrix() : Mat3(Mat3::Identity());
        const Mat3 up = kit_.joints[j].parent < 0 ? Mat3(Mat3::Identity())
                                                  : posed.turn[static_cast<std::size_t>(kit_.joints[j].parent)];
        pose_.turns[j] = Eigen::Quaterniond(Mat3(up.transpose() * by * turn[j])).normalized().toRotationMatrix();
    }
    pose_.move += step.segment<3>(static_cast<Eigen::Index>(3 * count));
    size_ *= std::exp(std::clamp(step[static_cast<Eigen::Index>(3 * count) + 3], -0.05, 0.05));
    for (Eigen::Index g = 0; g < build_.size(); ++g) {
        build_[g] = std::clamp(build_[g] + std::clamp(step[static_cast<Eigen::Index>(3 * count) + 4 + g], -0.05, 0.05),
                               -kMostBuild, kMostBuild);
    }
    for (std::size_t j = 0; j < count; ++j) pose_.stretch[j] = stretch_of(j);
    return true;
}

Result<Articulated> Bending::run(const Progress& progress) {
    by_pulls();
    const double first = led_ ? kLedReachMm : kFirstReachMm;
    for (int r = 0; r < kPoseRounds; ++r) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        progress.say(static_cast<double>(r) / kPoseRounds, "Bending the skeleton");
        const double t = std::min(1.0, r / (0.75 * kPoseRounds));
        if (!round(first * std::pow(kLastReachMm / first, t))) {
            return Error{ErrorCode::DegenerateInput,
                         "The source does not look like a standing figure: hardly any of the kit's skin finds its "
                         "counterpart."};
        }
    }
    Articulated out;
    out.pose = pose_;
    out.to_kit.scale = 1 / size_;
    out.fit_mm = median(distances_) / size_;
    return out;
}

}  // namespace

Result<Articulated> articulate(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
                               const Progress& progress) {
    if (kit.joints.empty() || kit.weights.weight.size() != kit.mesh.positions.size())
        return Error{ErrorCode::DegenerateInput, "The kit has no joints with skin weights."};
    return Bending(kit, &surface, pulls).run(progress);
}

Pose settled_pose(const BaseKit& kit, const Points& positions, const Pose& pose) {
    return Bending(kit, nullptr, {}).settle(positions, pose);
}

BaseKit posed_kit(const BaseKit& kit, const Pose& pose) {
    BaseKit out = kit;
    out.mesh.positions = skin(kit.mesh.positions, kit.joints, kit.weights, pose);
    if (pose.lids != LidsShut{0, 0}) out.mesh.positions = move_lids(kit, out.mesh.positions, pose.lids);
    for (KitEye& eye : out.eyes) {
        const auto moved = eye_seat(kit, eye, out.mesh.positions);
        if (moved) eye.centre = (*moved)(eye.centre), eye.radius *= moved->scale;
    }
    return out;
}

}  // namespace veld
