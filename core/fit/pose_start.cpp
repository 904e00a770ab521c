#include "core/fit/pose_start.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/fit/skin_sample.h"
#include "core/linalg/fit_similarity.h"

namespace veld {
namespace {

constexpr std::size_t kCoarse = 400, kDense = 3000, kHandSample = 500;
constexpr double kStartFarMm = 150, kHandFarMm = 40;
constexpr int kTryRounds = 10, kHandRounds = 10;
constexpr std::size_t kArmed = 10, kTried = 6;  // of the starts, how many are tried further
constexpr double kTryFirstMm = 110, kTryAgainMm = 90, kTryLastMm = 80, kTryEase = 0.3;
constexpr double kHandFirstMm = 30, kHandLastMm = 10;
constexpr double kHandPull = 2, kHeadPull = 2;
constexpr double kStartBuild = 1e4;
constexpr double kSameSize = 0.07;     // log: sizes nearer than this are tried once
constexpr double kSitsTallerBy = 1.3;  // a figure as tall as the kit that sits would stand this tall
constexpr double kReachesUpBy = 0.8;
constexpr double kSameTurn = 8;  // degrees
constexpr double kNoticedArm = 0.97;
constexpr double kNoticedShare = 0.9;  // a hand is bent only when it lies that much nearer then
constexpr double kHandReachMm = 260;   // from the wrist
constexpr double kDegree = M_PI / 180;

// Towards the outside, up, to the front; of the upper arm and the forearm. None: as the kit's.
struct ArmWay {
    Vec3 upper, fore;
};
const std::vector<ArmWay>& arm_ways() {
    static const std::vector<ArmWay> all = {
        {{0.15, -1, 0}, {0.1, -1, 0.15}},      // hanging
        {{0.7, -0.7, 0}, {0.7, -0.7, 0.1}},    // A
        {{1, 0, 0}, {1, 0, 0.1}},              // T
        {{0.75, 0.65, 0}, {0.75, 0.65, 0.1}},  // raised aside
        {{0.2, 1, 0}, {0.2, 1, 0}},            // straight up
        {{0.2, -0.9, 0.2}, {0, -0.3, 0.95}},   // in the lap
        {{0.35, -0.9, 0}, {0, -0.75, 0.65}},
        {{0.3, -0.2, 0.95}, {0.1, 0, 1}},  // to the front
    };
    return all;
}

struct LegWay {
    double out = 0, bent = 0;  // degrees: of the thigh; of thigh and knee
};
constexpr const char* kSides[] = {"_l", "_r"};
constexpr LegWay kLegWays[] = {{0, 0}, {16, 0}, {4, 82}};

Mat3 about(const Vec3& axis, double degrees) { return Eigen::AngleAxisd(degrees * kDegree, axis).toRotationMatrix(); }
Mat3 between(const Vec3& from, const Vec3& to) {
    return Eigen::Quaterniond::FromTwoVectors(from, to).toRotationMatrix();
}

class Starts {
 public:
    Starts(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& head, PoseSolver& solver)
        : kit_(kit), surface_(surface), solver_(solver) {
        const Points normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
        sample_ = skin_sample(kit, kit.part("skin")->vertices, normals, kCoarse);
        dense_ = skin_sample(kit, kit.part("skin")->vertices, normals, kDense);
        points_ = surface_sample(surface, kCoarse);
        Points from, to;
        for (const PosePull& pull : head) {
            head_.emplace_back(skin_place(kit, pull.place), pull.target);
            from.push_back(head_.back().first.rest), to.push_back(pull.target);
        }
        if (const auto seat = fit_similarity(from, to)) head_seat_ = *seat;
    }
    bool choose(const Progress& progress);  // false: cancelled
    bool choose_arms();

 private:
    struct Start {
        double size = 1, apart = 0;
        Pose pose;
    };

    int joint(const std::string& name) const {
        for (std::size_t j = 0; j < kit_.joints.size(); ++j)
            if (kit_.joints[j].name == name) return static_cast<int>(j);
        return -1;
    }
    std::vector<double> sizes() const;
    std::vector<Mat3> turns() const;
    Vec3 head_middle(const PoseSolver& solver) const {
        Vec3 out = Vec3::Zero();
        for (const auto& [place, target] : head_) out += solver.at(place) / static_cast<double>(head_.size());
        return out;
    }
    // with a solver of their own: starts are tried side by side
    void measure(PoseSolver& solver, Start& start) const;
    bool bend_arms(PoseSolver& solver, Start& best, bool alike) const;
    void bend_arm(Pose& pose, std::size_t side, const ArmWay& way) const;
    void bend_leg(Pose& pose, std::size_t side, const LegWay& way) const;
    void go_on(PoseSolver& solver, Start& start, double first) const;

    const BaseKit& kit_;
    const SourceSurface& surface_;
    PoseSolver& solver_;
    SkinSample sample_, dense_;
    Points points_;
    std::vector<std::pair<SkinPlace, Vec3>> head_;
    std::optional<Similarity> head_seat_;  // the kit's head -> the figure's
};

// As tall as it is, as it would be were it to sit or to reach up, and as the head tells.
std::vector<double> Starts::sizes() const {
    std::vector<double> out;
    const auto add = [&](double size) {
        const bool known = std::any_of(out.begin(), out.end(),
                                       [&](double other) { return std::abs(std::log(size / other)) < kSameSize; });
        if (!known) out.push_back(size);
    };
    Box figure, base;
    for (const Vec3& p : points_) figure.add(p);
    for (const SkinPlace& place : dense_) base.add(place.rest);
    const double tall = figure.size().y() / base.size().y();
    for (const double size : {1.0, kSitsTallerBy, kReachesUpBy}) add(size * tall);
    if (head_seat_ && head_seat_->scale > 0.4 && head_seat_->scale < 2.5) add(head_seat_->scale);
    return out;
}

// Upright as it is placed, and as its head is.
std::vector<Mat3> Starts::turns() const {
    std::vector<Mat3> out{Mat3::Identity()};
    if (!head_seat_) return out;
    const double angle = Eigen::AngleAxisd(head_seat_->rotation).angle() / kDegree;
    if (angle > kSameTurn) out.push_back(head_seat_->rotation);
    return out;
}

// The arm so that it points there in the figure's own frame, whatever carries it.
void Starts::bend_arm(Pose& pose, std::size_t side, const ArmWay& way) const {
    const std::string end = kSides[side];
    const int upper = joint("upper_arm" + end), fore = joint("forearm" + end), hand = joint("hand" + end);
    if (upper < 0 || fore < 0 || hand < 0) return;
    const auto u = static_cast<std::size_t>(upper), f = static_cast<std::size_t>(fore);
    const Vec3 arm = (kit_.joints[f].position - kit_.joints[u].position).normalized(),
               lower = (kit_.joints[static_cast<std::size_t>(hand)].position - kit_.joints[f].position).normalized();
    const auto there = [&](const Vec3& w) {
        return Vec3(pose.turns[0] * Vec3(side == 0 ? w.x() : -w.x(), w.y(), w.z()).normalized());
    };
    const int parent = kit_.joints[u].parent;
    const Mat3 up =
        parent < 0 ? Mat3(Mat3::Identity()) : pose_joints(kit_.joints, pose).turn[static_cast<std::size_t>(parent)];
    pose.turns[u] = up.transpose() * between(up * arm, there(way.upper)) * up;
    const Mat3 turned = up * pose.turns[u];
    pose.turns[f] = turned.transpose() * between(turned * lower, there(way.fore)) * turned;
}

void Starts::bend_leg(Pose& pose, std::size_t side, const LegWay& way) const {
    const int thigh = joint(std::string("thigh") + kSides[side]), shin = joint(std::string("shin") + kSides[side]);
    if (thigh < 0 || shin < 0) return;
    const double outwards = side == 0 ? 1 : -1;
    pose.turns[static_cast<std::size_t>(thigh)] =
        about(Vec3::UnitZ(), outwards * way.out) * about(Vec3::UnitX(), -way.bent);
    pose.turns[static_cast<std::size_t>(shin)] = about(Vec3::UnitX(), way.bent);
}

// The head where it is known to be, and how far all is apart then.
void Starts::measure(PoseSolver& solver, Start& start) const {
    solver.set(start.pose, start.size);
    Vec3 there = head_middle(solver);
    if (!head_.empty()) there.setZero();
    for (const auto& [place, target] : head_) there += target / static_cast<double>(head_.size());
    solver.move_by(there - head_middle(solver));
    start.pose = solver.pose();
    start.apart = apart(solver, sample_, dense_, surface_, points_, kStartFarMm);
}

// A few rounds from there.
void Starts::go_on(PoseSolver& solver, Start& start, double first) const {
    solver.set(start.pose, start.size);
    for (int r = 0; r < kTryRounds; ++r) {
        const double t = static_cast<double>(r) / (kTryRounds - 1);
        solver.begin();
        const double reach = first * std::pow(kTryLastMm / first, t);
        (void)add_matches(solver, sample_, surface_, reach);
        add_back_matches(solver, dense_, points_, reach, 1);
        const Vec3 middle = head_middle(solver);
        for (const auto& [place, target] : head_)
            solver.want(place, target - solver.at(place), kHeadPull * Mat3::Identity(), &middle);
        solver.add_priors(kTryEase, kStartBuild);
        if (!solver.take_step()) break;
    }
    start.pose = solver.pose(), start.size = solver.size();
    start.apart = apart(solver, sample_, dense_, surface_, points_, kStartFarMm);
}

// Both arms alike, then each by itself; whether any lies nearer than as it was.
bool Starts::bend_arms(PoseSolver& solver, Start& best, bool alike) const {
    bool better = false;
    const auto offer = [&](Start start) {
        measure(solver, start);
        if (start.apart < best.apart) best = start, better = true;
    };
    for (std::size_t side = 0; side < (alike ? 1 : 2); ++side) {
        const Start from = best;
        for (const ArmWay& way : arm_ways()) {
            Start start = from;
            bend_arm(start.pose, side, way);
            if (alike) bend_arm(start.pose, 1, way);
            offer(start);
        }
    }
    return better;
}

bool Starts::choose(const Progress& progress) {
    std::vector<Start> all;
    for (const double size : sizes()) {
        for (const Mat3& turn : turns()) {
            for (const LegWay& legs : kLegWays) {
                Start start{size, 0, rest_pose(kit_.joints)};
                start.pose.turns[0] = turn;
                for (std::size_t side = 0; side < 2; ++side) bend_leg(start.pose, side, legs);
                all.push_back(start);
            }
        }
    }
    const auto nearer = [](const Start& a, const Start& b) { return a.apart < b.apart; };
    // each as `change` has it, the nearest first, no more than `most`
    const auto each = [&](std::size_t most, const std::function<void(PoseSolver&, Start&)>& change) {
        tbb::parallel_for(std::size_t{0}, all.size(), [&](std::size_t i) {
            if (progress.is_cancelled()) return;
            PoseSolver own = solver_;
            change(own, all[i]);
        });
        std::stable_sort(all.begin(), all.end(), nearer);
        if (all.size() > most) all.resize(most);
        return !progress.is_cancelled();
    };
    const bool done = each(kArmed,
                           [&](PoseSolver& solver, Start& start) {
                               measure(solver, start);
                               (void)bend_arms(solver, start, true);
                           }) &&
                      each(kTried, [&](PoseSolver& solver, Start& start) { (void)bend_arms(solver, start, false); }) &&
                      each(1, [&](PoseSolver& solver, Start& start) {
                          go_on(solver, start, kTryFirstMm);
                          if (bend_arms(solver, start, false)) go_on(solver, start, kTryAgainMm);
                      });
    if (done) solver_.set(all.front().pose, all.front().size);
    return done;
}

bool Starts::choose_arms() {
    Start now{solver_.size(), 0, solver_.pose()};
    measure(solver_, now);
    const double before = now.apart;
    const bool better = bend_arms(solver_, now, false) && now.apart < kNoticedArm * before;
    if (better) solver_.set(now.pose, now.size);
    return better;
}

// One hand: its fingers bent by themselves.
class Hand {
 public:
    Hand(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls, std::size_t wrist,
         PoseSolver& solver)
        : kit_(kit), surface_(surface), wrist_(wrist), solver_(solver), ranges_(joint_ranges(kit.joints)) {
        for (std::size_t j = 0; j < kit.joints.size(); ++j) held_.push_back(!solver.moves_with(j, wrist));
        const auto mine = [&](const SkinPlace& place) {
            const auto most = std::max_element(place.joints.begin(), place.joints.end(),
                                               [](const auto& a, const auto& b) { return a.second < b.second; });
            return !held_[most->first];
        };
        const Points normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
        VertexIndices vertices;
        for (const Index v : kit.part("skin")->vertices)
            if (mine(skin_place(kit, v, normals[v]))) vertices.push_back(v);
        if (vertices.empty()) return;
        sample_ = skin_sample(kit, vertices, normals, kHandSample);
        for (const PosePull& pull : pulls) {
            const SkinPlace place = skin_place(kit, pull.place);
            if (mine(place)) pulls_.push_back({place, pull.target, pull.weight});
        }
    }
    void bend();

 private:
    void gather_points();
    double curled(double degrees);

    const BaseKit& kit_;
    const SourceSurface& surface_;
    std::size_t wrist_;
    PoseSolver& solver_;
    std::vector<JointRange> ranges_;
    std::vector<char> held_;
    SkinSample sample_;
    Points points_;  // of the surface, of this hand
    struct Pull {
        SkinPlace place;
        Vec3 target;
        double weight;
    };
    std::vector<Pull> pulls_;
};

// What of the surface lies beyond the wrist.
void Hand::gather_points() {
    Vec3 middle = Vec3::Zero();
    for (const SkinPlace& place : sample_) middle += solver_.at(place) / static_cast<double>(sample_.size());
    SkinPlace wrist;
    wrist.rest = kit_.joints[wrist_].position;
    wrist.joints[0] = {static_cast<Index>(wrist_), 1.0};
    const Vec3 from = solver_.at(wrist), along = (middle - from).normalized();
    for (const Triangle& t : surface_.triangles) {
        const Vec3& p = surface_.positions[t[0]];
        const Vec3 way = p - from;
        if (way.norm() < kHandReachMm * solver_.size() && way.dot(along) > 0.6 * way.norm()) points_.push_back(p);
    }
    const std::size_t step = std::max<std::size_t>(1, points_.size() / kHandSample);
    Points few;
    for (std::size_t i = 0; i < points_.size(); i += step) few.push_back(points_[i]);
    points_ = std::move(few);
}

// Fingers as far shut at first, then as the surface has them; how far it is from there.
double Hand::curled(double degrees) {
    Pose pose = solver_.pose();
    for (std::size_t j = 0; j < held_.size(); ++j) {
        if (held_[j] || j == wrist_ || ranges_[j].hinge.isZero()) continue;
        pose.turns[j] = about(ranges_[j].hinge, degrees);
    }
    solver_.set(pose, solver_.size());
    std::vector<std::size_t> own;  // may be of another size than the figure's other bones say
    for (std::size_t j = 0; j < held_.size(); ++j)
        if (!held_[j]) own.push_back(j);
    solver_.hold(held_, true, own);
    for (int r = 0; r < kHandRounds; ++r) {
        const double t = static_cast<double>(r) / (kHandRounds - 1);
        solver_.begin();
        (void)add_matches(solver_, sample_, surface_,
                          solver_.size() * kHandFirstMm * std::pow(kHandLastMm / kHandFirstMm, t));
        for (const auto& [place, target, weight] : pulls_)
            solver_.want(place, target - solver_.at(place), kHandPull * weight * Mat3::Identity());
        solver_.add_priors(1, 1);
        if (!solver_.take_step()) break;
    }
    solver_.hold({}, false);
    double off = 0;
    for (const auto& [place, target, weight] : pulls_)
        off += weight * std::min(kHandFarMm, (target - solver_.at(place)).norm()) / static_cast<double>(pulls_.size());
    return apart(solver_, sample_, sample_, surface_, points_, kHandFarMm) + off;
}

void Hand::bend() {
    if (sample_.empty()) return;
    gather_points();
    if (points_.empty()) return;
    const Pose before = solver_.pose();
    Pose best = before;
    double least = std::numeric_limits<double>::infinity();
    for (const double degrees : {0.0, 35.0, 65.0}) {
        solver_.set(before, solver_.size());
        // an open hand is what it is unless another is clearly nearer
        const double off = curled(degrees) / (degrees > 0 ? kNoticedShare : 1);
        if (off < least) least = off, best = solver_.pose();
    }
    solver_.set(best, solver_.size());
}

}  // namespace

bool choose_start(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& head,
                  PoseSolver& solver, const Progress& progress) {
    return head.size() < 3 || Starts(kit, surface, head, solver).choose(progress);
}

bool choose_arms(const BaseKit& kit, const SourceSurface& surface, PoseSolver& solver) {
    const Pose before = solver.pose();
    const double size = solver.size();
    const bool better = Starts(kit, surface, {}, solver).choose_arms();
    if (!better) solver.set(before, size);
    return better;
}

void bend_fingers(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
                  PoseSolver& solver) {
    for (std::size_t j = 0; j < kit.joints.size(); ++j)
        if (kit.joints[j].name.starts_with("hand_")) Hand(kit, surface, pulls, j, solver).bend();
}

}  // namespace veld
