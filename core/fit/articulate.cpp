#include "core/fit/articulate.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/fit/lids.h"
#include "core/fit/skin_sample.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr int kPoseRounds = 40, kPullRounds = 15, kJointRounds = 25, kArmRounds = 20, kFingerRounds = 5;
constexpr std::size_t kSample = 3000, kBackSample = 1000;
constexpr std::ptrdiff_t kLimbPulls = 12, kLeastJoints = 12;
constexpr double kBackWeight = 1;
constexpr double kPullWeight = 2, kLedWeight = 6;
constexpr double kBuildReachMm = 80, kStiffBuild = 1e4;  // the pose first
constexpr double kFirstReachMm = 160, kLastReachMm = 25;
constexpr double kLedReachMm = 80;  // where points have bent the limbs already
constexpr double kJointReachMm = 45, kJointEase = 0.02, kJointWeight = 1, kByHandWeight = 300;
constexpr double kStartedReachMm = 80;
constexpr double kSettled = 1e-3;  // change of the median by which a round brings nothing more
constexpr double kReachOfFar = 3.5;
constexpr double kLedEase = 0.2;

class Bending {
 public:
    Bending(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
            const std::vector<JointPull>& joints)
        : kit_(kit), surface_(surface), pulls_(pulls), joints_(joints), solver_(kit) {
        const Points normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
        sample_ = skin_sample(kit, kit.part("skin")->vertices, normals, kSample);
        points_ = surface_sample(surface, kBackSample);
        for (const Joint& joint : kit.joints) fingers_.push_back(of_finger(joint.name));
        for (const PosePull& pull : pulls) {
            const bool limb = !kit.neck_ring.empty() &&
                              pull.place.at(kit.mesh.positions).y() < kit.mesh.positions[kit.neck_ring.front()].y();
            (limb ? limbs_ : head_).push_back(pull);
        }
    }

    Result<Articulated> run(const Progress& progress);

 private:
    void by_pulls();
    bool by_joints();
    void add_joints(double found, double by_hand);
    bool round(double reach);
    Status rounds(int count, double& reach, const Progress& progress, const std::function<void(double)>& done);
    void add_pulls(const std::vector<PosePull>& pulls, double weight, bool as_one);

    const BaseKit& kit_;
    const SourceSurface& surface_;
    const std::vector<PosePull>& pulls_;
    const std::vector<JointPull>& joints_;
    std::vector<PosePull> limbs_, head_;
    PoseSolver solver_;
    bool led_ = false;  // by points, near enough already
    SkinSample sample_;
    Points points_;  // of the surface
    std::vector<char> fingers_;
    std::vector<double> distances_;
};

// as_one: the whole does not grow for how they spread.
void Bending::add_pulls(const std::vector<PosePull>& pulls, double weight, bool as_one) {
    std::vector<SkinPlace> places;
    Vec3 middle = Vec3::Zero();
    for (const PosePull& pull : pulls) {
        places.push_back(skin_place(kit_, pull.place));
        middle += solver_.at(places.back()) / static_cast<double>(pulls.size());
    }
    for (std::size_t i = 0; i < pulls.size(); ++i)
        solver_.want(places[i], pulls[i].target - solver_.at(places[i]), weight * pulls[i].weight * Mat3::Identity(),
                     as_one ? &middle : nullptr);
}

bool Bending::round(double reach) {
    solver_.begin();
    distances_ = add_matches(solver_, sample_, surface_, reach);
    if (distances_.size() < sample_.size() / 8) return false;
    add_back_matches(solver_, sample_, points_, reach, kBackWeight);
    // a large head makes no tall figure
    const double weight = led_ ? kLedWeight : kPullWeight;
    add_pulls(head_, weight, true);
    add_pulls(limbs_, weight, false);
    add_joints(0, kByHandWeight);
    solver_.add_priors(kLedEase, reach > kBuildReachMm ? kStiffBuild : 1);
    return solver_.take_step();
}

// Where limbs are marked they lead: a figure that sits is too far from the kit's for its surface to tell.
void Bending::by_pulls() {
    // those that were found say no more than the surface that they were found on
    const auto sure =
        std::count_if(limbs_.begin(), limbs_.end(), [](const PosePull& pull) { return pull.weight >= 1; });
    if (sure < kLimbPulls) return;
    for (int r = 0; r < kPullRounds; ++r) {
        solver_.begin();
        add_pulls(limbs_, kPullWeight, false);
        solver_.add_priors(1, kStiffBuild);
        if (!solver_.take_step()) return;
    }
    led_ = true;
}

void Bending::add_joints(double found, double by_hand) {
    for (const JointPull& pull : joints_) {
        const double weight = pull.by_hand ? by_hand : found;
        if (weight == 0) continue;
        SkinPlace place;
        place.rest = kit_.joints[pull.joint].position;
        place.joints[0] = {static_cast<Index>(pull.joint), 1.0};
        solver_.want(place, pull.target - solver_.at(place), weight * Mat3::Identity());
    }
}

// Where the skeleton is known, its bones' lengths are too.
bool Bending::by_joints() {
    if (std::ssize(joints_) < kLeastJoints) return false;
    solver_.hold({}, false);
    for (int r = 0; r < kJointRounds; ++r) {
        solver_.begin();
        add_joints(kJointWeight, kByHandWeight);
        solver_.add_priors(kJointEase, kJointEase);
        if (!solver_.take_step()) return false;
    }
    return true;
}

// Rounds with ever less reach.
Status Bending::rounds(int count, double& reach, const Progress& progress, const std::function<void(double)>& done) {
    const double step = std::pow(kLastReachMm / reach, 1 / (0.75 * count));
    double last = 0;
    for (int r = 0; r < count; ++r) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        if (done) done(static_cast<double>(r) / count);
        if (!round(reach))
            return Error{ErrorCode::DegenerateInput,
                         "The source does not look like a standing figure: hardly any of the kit's skin finds its "
                         "counterpart."};
        // what is still far off must stay in reach: a knee that is a hand's breadth away is no detail
        const double before = reach, now = median(distances_);
        reach = std::clamp(kReachOfFar * quantile(distances_, 0.85), std::max(kLastReachMm, step * reach), reach);
        if (reach == before && std::abs(now - last) < kSettled * last) break;
        last = now;
    }
    return Done{};
}

Result<Articulated> Bending::run(const Progress& progress) {
    const bool known = by_joints();
    solver_.hold(fingers_, false);
    by_pulls();
    progress.say(0, "Bending the skeleton");
    if (!led_ && !known && !choose_start(kit_, surface_, head_, solver_, progress))
        return Error{ErrorCode::Cancelled, "Cancelled."};
    solver_.hold(fingers_, false);
    const auto spread = [&](double from, double to) {
        return
            [&progress, from, to](double share) { progress.say(from + (to - from) * share, "Bending the skeleton"); };
    };
    double reach = known ? kJointReachMm : led_ ? kLedReachMm : head_.size() >= 3 ? kStartedReachMm : kFirstReachMm;
    if (auto ok = rounds(kPoseRounds, reach, progress, spread(0.2, 0.7)); !ok) return ok.error();
    if (!led_ && !known && choose_arms(kit_, surface_, solver_)) {
        reach = kStartedReachMm;
        if (auto ok = rounds(kArmRounds, reach, progress, spread(0.7, 0.8)); !ok) return ok.error();
    }
    progress.say(0.8, "Bending the fingers");
    if (known)
        solver_.hold({}, false);
    else
        bend_fingers(kit_, surface_, pulls_, solver_);
    if (auto ok = rounds(kFingerRounds, reach, progress, {}); !ok) return ok.error();
    Articulated out;
    out.pose = solver_.pose();
    out.to_kit.scale = 1 / solver_.size();
    out.fit_mm = median(distances_) / solver_.size();
    return out;
}

}  // namespace

Result<Articulated> articulate(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
                               const std::vector<JointPull>& joints, const Progress& progress) {
    if (kit.joints.empty() || kit.weights.weight.size() != kit.mesh.positions.size())
        return Error{ErrorCode::DegenerateInput, "The kit has no joints with skin weights."};
    return Bending(kit, surface, pulls, joints).run(progress);
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
