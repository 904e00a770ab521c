#include "core/proof/proofs.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/rig/stock_poses.h"

namespace veld {
namespace {

constexpr double kGazeDown = 30, kGazeUp = 20, kGazeAside = 30;  // degrees; where the kit's lids belong to
constexpr int kGazeStops = 16;
constexpr double kQuarters[] = {0.25, 0.5, 0.75, 1};
constexpr double kExtremes[] = {-1, -0.5, 0, 0.5, 1, 1.5, 2};
const std::string kLidsDown = "gaze_down_lids", kLidsUp = "gaze_up_lids";

Mat3 turn_of(const Pose& pose, std::size_t joint) {
    return joint < pose.turns.size() ? pose.turns[joint] : Mat3(Mat3::Identity());
}

}  // namespace

const char* proof_kind_name(ProofKind kind) {
    constexpr const char* kNames[] = {"pose", "face", "shape", "motion"};
    return kNames[static_cast<std::size_t>(kind)];
}

ProofStop gaze(const BaseKit& kit, double up, double left) {
    ProofStop out;
    out.pose = rest_pose(kit.joints);
    const Mat3 turn =
        (Eigen::AngleAxisd(left * M_PI / 180, Vec3::UnitY()) * Eigen::AngleAxisd(-up * M_PI / 180, Vec3::UnitX()))
            .toRotationMatrix();
    for (std::size_t j = 0; j < kit.joints.size(); ++j)
        if (kit.joints[j].name == "eye_l" || kit.joints[j].name == "eye_r") out.pose.turns[j] = turn;
    if (up < 0 && kit.expressions.contains(kLidsDown)) out.expressions.push_back({kLidsDown, -up / kGazeDown});
    if (up > 0 && kit.expressions.contains(kLidsUp)) out.expressions.push_back({kLidsUp, up / kGazeUp});
    return out;
}

std::vector<Proof> stock_proofs(const BaseKit& kit) {
    const Pose rest = rest_pose(kit.joints);
    std::vector<Proof> out{{"rest", ProofKind::Pose, {{rest, {}}}}};
    for (StockPose& stock : stock_poses(kit.joints))
        out.push_back({stock.name, ProofKind::Pose, {{std::move(stock.pose), {}}}});
    const bool eyes =
        std::any_of(kit.joints.begin(), kit.joints.end(), [](const Joint& j) { return j.name == "eye_l"; });
    if (eyes) {
        Proof round{"gaze", ProofKind::Face, {}};
        for (int i = 0; i < kGazeStops; ++i) {
            const double angle = 2 * M_PI * i / kGazeStops, up = std::sin(angle);
            round.stops.push_back(gaze(kit, up * (up > 0 ? kGazeUp : kGazeDown), kGazeAside * std::cos(angle)));
        }
        out.push_back(std::move(round));
    }
    for (const auto& [name, shape] : kit.expressions) {
        Proof face{name, ProofKind::Face, {}};
        for (const double amount : kQuarters) face.stops.push_back({rest, {{name, amount}}});
        out.push_back(std::move(face));
    }
    Proof extremes{"extremes", ProofKind::Shape, {}};
    for (const double amount : kExtremes) extremes.stops.push_back({rest, {}, amount});
    out.push_back(std::move(extremes));
    return out;
}

ProofStop between(const ProofStop& from, const ProofStop& to, double share) {
    ProofStop out;
    const std::size_t joints = std::max(from.pose.turns.size(), to.pose.turns.size());
    for (std::size_t j = 0; j < joints; ++j) {
        const Eigen::Quaterniond a(turn_of(from.pose, j)), b(turn_of(to.pose, j));
        out.pose.turns.push_back(a.slerp(share, b).toRotationMatrix());
    }
    out.pose.move = (1 - share) * from.pose.move + share * to.pose.move;
    out.amount = (1 - share) * from.amount + share * to.amount;
    for (const auto& [name, amount] : from.expressions) out.expressions.push_back({name, (1 - share) * amount});
    for (const auto& [name, amount] : to.expressions) {
        const auto same = std::find_if(out.expressions.begin(), out.expressions.end(),
                                       [&](const ExpressionAmount& e) { return e.name == name; });
        if (same == out.expressions.end())
            out.expressions.push_back({name, share * amount});
        else
            same->amount += share * amount;
    }
    return out;
}

ProofStop stop_at(const Proof& proof, double at) {
    const double last = static_cast<double>(proof.stops.size()), here = std::clamp(at, 0.0, last);
    const auto after = static_cast<std::size_t>(std::ceil(here));
    if (after == 0) return between(ProofStop{}, proof.stops.front(), 0);
    const ProofStop& to = proof.stops[after - 1];
    const double share = here - static_cast<double>(after - 1);
    if (share == 1) return to;
    return between(after > 1 ? proof.stops[after - 2] : ProofStop{}, to, share);
}

}  // namespace veld
