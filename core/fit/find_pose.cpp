#include "core/fit/find_pose.h"

#include <algorithm>
#include <cmath>

#include "core/fit/pose_solver.h"
#include "core/kit/flesh.h"
#include "core/kit/kit_joints.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr std::size_t kPlaces = 3000;
constexpr int kNearRounds = 12, kFarRounds = 40;
constexpr double kNearReachMm = 30, kFarReachMm = 400, kFoundReachMm = 12;  // a belly is no turn of the back
constexpr double kOfFirst = 0.8;  // weight of the first joint from which on a place is taken to hang on it alone
constexpr double kNearEase = 0.05, kFarEase = 0.05;
constexpr double kHardly = 2, kHardlyOfRound = 4;  // degrees; of fingers and of the trunk, which is nearly round

// Places of the skin and where they came to lie.
class Known {
 public:
    Known(const BaseKit& kit, const Points& positions) {
        const VertexIndices& vertices = kit.part("skin")->vertices;
        const std::size_t step = std::max<std::size_t>(1, vertices.size() / kPlaces);
        const std::vector<double> firm = firmness(kit);
        for (std::size_t i = 0; i < vertices.size(); i += step) {
            all_.emplace_back(skin_place(kit, vertices[i], Vec3::Zero()), positions[vertices[i]]);
            all_.back().first.firm = firm[vertices[i]];
        }
    }
    bool round(PoseSolver& solver, double reach, double ease) const {
        solver.begin();
        for (const auto& [place, there] : all_) {
            const Vec3 gap = there - solver.at(place);
            solver.want(place, gap, place.firm * geman_mcclure(gap.norm(), reach) * Mat3::Identity());
        }
        solver.add_priors(ease, 1);
        return solver.take_step();
    }
    double left(const PoseSolver& solver) const {
        std::vector<double> off;
        for (const auto& [place, there] : all_) off.push_back((there - solver.at(place)).norm());
        return median(std::move(off));
    }

 private:
    std::vector<std::pair<SkinPlace, Vec3>> all_;
};

Status check(const BaseKit& kit, const Points& positions) {
    if (kit.joints.empty() || kit.weights.weight.size() != kit.mesh.positions.size())
        return Error{ErrorCode::DegenerateInput, "The kit has no joints with skin weights: it knows no poses."};
    if (positions.size() != kit.mesh.positions.size())
        return Error{ErrorCode::DegenerateInput, "The shape has " + std::to_string(positions.size()) +
                                                     " vertices, the kit " +
                                                     std::to_string(kit.mesh.positions.size()) + "."};
    return Done{};
}

double lowest(const BaseKit& kit, const Points& positions) {
    double y = std::numeric_limits<double>::infinity();
    for (const Index v : kit.part("skin")->vertices) y = std::min(y, positions[v].y());
    return y;
}

double hardly(const std::string& joint) {
    bool round = of_finger(joint);
    for (const char* trunk : {"pelvis", "spine", "neck", "clavicle"}) round = round || joint.starts_with(trunk);
    return round ? kHardlyOfRound : kHardly;
}

double degrees_of(const Mat3& turn) { return Eigen::AngleAxisd(turn).angle() * 180 / M_PI; }

}  // namespace

Pose settled_pose(const BaseKit& kit, const Points& positions, const Pose& pose) {
    const Known known(kit, positions);
    PoseSolver solver(kit);
    solver.set_whole(pose);
    for (int r = 0; r < kNearRounds; ++r)
        if (!known.round(solver, kNearReachMm, kNearEase)) return pose;
    Pose out = solver.whole();
    out.lids = pose.lids;
    return out;
}

Result<FoundPose> find_pose(const BaseKit& kit, const Points& positions) {
    if (auto ok = check(kit, positions); !ok) return ok.error();
    const Known known(kit, positions);
    PoseSolver solver(kit);
    solver.let_face_turn();
    const auto solve = [&](int rounds, double first) {
        for (int r = 0; r < rounds; ++r) {
            const double t = std::min(1.0, r / (0.7 * rounds));
            if (!known.round(solver, first * std::pow(kFoundReachMm / first, t), kFarEase)) return false;
        }
        return true;
    };
    const Error failed{ErrorCode::DegenerateInput, "No pose of the kit's joints comes near this shape."};
    if (!solve(kFarRounds, kFarReachMm)) return failed;
    // what hardly turned did not turn: its share goes to the shape. Twice, since the others turn less then
    std::vector<char> still(kit.joints.size(), 0);
    for (int pass = 0; pass < 2; ++pass) {
        Pose pose = solver.pose();
        for (std::size_t j = 0; j < still.size(); ++j) {
            still[j] = still[j] || degrees_of(pose.turns[j]) < hardly(kit.joints[j].name);
            if (!still[j]) continue;
            pose.turns[j].setIdentity();
            if (kit.joints[j].parent < 0) pose.move.setZero();
        }
        solver.set(pose, solver.size());
        solver.hold(still, false);
        if (!solve(kNearRounds, kFoundReachMm)) return failed;
    }
    FoundPose out;
    out.pose = solver.whole();
    for (std::size_t j = 0; j < still.size(); ++j)
        if (!still[j]) out.turned.push_back(j);
    std::stable_sort(out.turned.begin(), out.turned.end(), [&](std::size_t a, std::size_t b) {
        return degrees_of(out.pose.turns[a]) > degrees_of(out.pose.turns[b]);
    });
    out.left_mm = known.left(solver);
    return out;
}

Vec3 place_of_pose(const BaseKit& kit, const Points& positions, const Pose& pose) {
    Pose still = pose;
    still.move.setZero();
    const Points there = skin(kit.mesh.positions, kit.joints, kit.weights, still);
    Vec3 sum = Vec3::Zero();
    double count = 0;
    for (const Index v : kit.part("skin")->vertices) {
        double own = 0;
        for (std::size_t k = 0; k < 4; ++k) own += kit.weights.joint[v][k] == 0 ? kit.weights.weight[v][k] : 0;
        if (own < kOfFirst) continue;
        sum += positions[v] - there[v];
        ++count;
    }
    return count > 0 ? Vec3(sum / count) : Vec3(Vec3::Zero());
}

Result<Points> without_pose(const BaseKit& kit, const Points& positions, const Pose& pose) {
    if (auto ok = check(kit, positions); !ok) return ok.error();
    Points out = unposed(positions, kit.joints, kit.weights, pose);
    const double up = lowest(kit, positions) - lowest(kit, out);
    for (Vec3& p : out) p.y() += up;
    return out;
}

Result<Points> in_pose(const BaseKit& kit, const Points& rest, const Pose& pose) {
    if (auto ok = check(kit, rest); !ok) return ok.error();
    Pose turns = pose;
    turns.stretch.clear();  // the shape has its build already
    Points out = skin(rest, joints_in(kit, rest), kit.weights, turns);
    const double up = lowest(kit, kit.mesh.positions) - lowest(kit, out);
    for (Vec3& p : out) p.y() += up;
    return out;
}

}  // namespace veld
