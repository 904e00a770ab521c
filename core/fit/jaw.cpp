#include "core/fit/jaw.h"

#include <cmath>

#include "core/fit/meeting.h"
#include "core/kit/lips.h"

namespace veld {
namespace {

constexpr double kMostDegrees = 34, kStepDegrees = 1;
constexpr double kLeastGapMm = 4.5;    // what the networks say of shut lips varies by this
constexpr double kThickLipsMm = 4.5;   // lips may be so much thicker than the base's
constexpr double kAroundMouthMm = 22;  // what gives way when lips close
constexpr double kLipGapMm = 1.2;      // vertices of the base's lips that lie this near meet

Points posed_corners(const BaseKit& kit, const SurfacePoint& place, const Pose& pose) {
    Points corners;
    SkinWeights weights;
    for (const Index v : place.vertices) {
        corners.push_back(kit.mesh.positions[v]);
        weights.joint.push_back(kit.weights.joint[v]), weights.weight.push_back(kit.weights.weight[v]);
    }
    return skin(corners, kit.joints, weights, pose);
}

Vec3 posed_place(const BaseKit& kit, const SurfacePoint& place, const Pose& pose) {
    const Points c = posed_corners(kit, place, pose);
    return place.weights[0] * c[0] + place.weights[1] * c[1] + place.weights[2] * c[2];
}

// Vertices of the upper and the lower lip that lie against each other on the base.
std::vector<Meeting> lips_that_meet(const BaseKit& kit) {
    const auto line = kit.curves.find("mouth_line");
    std::vector<Meeting> out;
    if (line == kit.curves.end()) return out;
    VertexIndices upper, lower;
    for (const Index v : kit.part("skin")->vertices) {
        const Vec3& p = kit.mesh.positions[v];
        bool near = false;
        for (const SurfacePoint& at : line->second) near |= (at.at(kit.mesh.positions) - p).squaredNorm() < 9;
        if (near) (jaw_share(kit, v) > 0.5 ? lower : upper).push_back(v);
    }
    for (const Index a : upper) {
        Index best = kNone;
        double least = kLipGapMm * kLipGapMm;
        for (const Index b : lower) {
            const double d2 = (kit.mesh.positions[a] - kit.mesh.positions[b]).squaredNorm();
            if (d2 < least) least = d2, best = b;
        }
        if (best != kNone) out.push_back({a, best});
    }
    return out;
}

}  // namespace

Pose jaw_pose(const BaseKit& kit, double degrees) {
    Pose out = rest_pose(kit.joints);
    if (const int jaw = jaw_joint(kit); jaw >= 0)
        out.turns[static_cast<std::size_t>(jaw)] =
            Eigen::AngleAxisd(degrees * M_PI / 180, Vec3::UnitX()).toRotationMatrix();
    return out;
}

bool of_head(const BaseKit& kit, const Pose& pose) {
    const int jaw = jaw_joint(kit);
    if (pose.turns.size() != kit.joints.size() || !pose.move.isZero() || !pose.stretch.empty()) return false;
    for (std::size_t j = 0; j < pose.turns.size(); ++j) {
        if (static_cast<int>(j) != jaw && !pose.turns[j].isIdentity(1e-9)) return false;
    }
    return true;
}

double jaw_of(const BaseKit& kit, const Pose& pose) {
    const int jaw = jaw_joint(kit);
    if (jaw < 0 || !of_head(kit, pose)) return 0;
    return Eigen::AngleAxisd(pose.turns[static_cast<std::size_t>(jaw)]).angle() * 180 / M_PI;
}

double jaw_turn_for_gap(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points, double gap_mm) {
    const auto lower = base_points.find("labiale_inferius"), upper = base_points.find("labiale_superius");
    if (jaw_joint(kit) < 0 || lower == base_points.end() || upper == base_points.end() || gap_mm < kLeastGapMm)
        return 0;
    const double shut = (lower->second.at(kit.mesh.positions) - upper->second.at(kit.mesh.positions)).norm();
    for (double degrees = kStepDegrees; degrees <= kMostDegrees; degrees += kStepDegrees) {
        const Pose pose = jaw_pose(kit, degrees);
        if ((posed_place(kit, lower->second, pose) - posed_place(kit, upper->second, pose)).norm() >= shut + gap_mm)
            return degrees;
    }
    return kMostDegrees;
}

double jaw_turn_of(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                   const std::map<std::string, Vec3>& marked) {
    const auto lower = marked.find("labiale_inferius"), upper = marked.find("labiale_superius");
    const auto base_lower = base_points.find("labiale_inferius"), base_upper = base_points.find("labiale_superius");
    if (marked.contains("stomion") || lower == marked.end() || upper == marked.end() ||
        base_lower == base_points.end() || base_upper == base_points.end())
        return 0;
    const double shut = (base_lower->second.at(kit.mesh.positions) - base_upper->second.at(kit.mesh.positions)).norm();
    const double gap = (lower->second - upper->second).norm() - shut;
    return gap < kThickLipsMm ? 0 : jaw_turn_for_gap(kit, base_points, gap);
}

Points mouth_shut(const BaseKit& kit, const Points& open, const Pose& pose) {
    Points out = unposed(open, kit.joints, kit.weights, pose);
    const std::vector<Meeting> lips = lips_that_meet(kit);
    if (lips.empty()) return out;
    Points wanted;
    for (const Meeting& m : lips) wanted.push_back(kit.mesh.positions[m.b] - kit.mesh.positions[m.a]);
    // closing_ways shares by how far each moves: all around the mouth alike
    Points still = out;
    const auto& line = kit.curves.at("mouth_line");
    for (const Index v : kit.part("skin")->vertices) {
        for (const SurfacePoint& at : line) {
            if ((at.at(kit.mesh.positions) - kit.mesh.positions[v]).norm() > kAroundMouthMm) continue;
            still[v] = out[v] - Vec3::UnitZ();
            break;
        }
    }
    const Points ways = closing_ways(kit, lips, wanted, still, out);
    for (std::size_t v = 0; v < out.size(); ++v) out[v] += ways[v];
    return out;
}

}  // namespace veld
