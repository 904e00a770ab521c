#include "core/exchange/frame.h"

#include <Eigen/SVD>
#include <algorithm>
#include <cmath>
#include <cstdio>

#include "core/fit/similarity.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

struct UnitFactor {
    double factor;
    const char* said;
};
constexpr UnitFactor kUnits[] = {{1000, "metres"}, {10, "centimetres"}, {25.4, "inches"}, {100, "decimetres"}, {304.8, "feet"}, {0.1, "tenths of a millimetre"}, {0.01, "hundredths of a millimetre"}, {0.001, "micrometres"}};
constexpr double kUnitWithin = 0.4;       // in natural logarithms: half or one and a half times is still a person
constexpr double kLeftMm = 0.02, kLeftShare = 0.3;   // so near, so much of it: not sculpted
constexpr double kTurnedDegrees = 0.002;
constexpr double kShiftedMm = 0.5;       // beside another unit or turn
constexpr double kStrayMm = 12;        // alone: less may be meant

// Closed form over all pairs, mirrored turns allowed [Umeyama 1991].
ReturnFrame free_fit(const Points& from, const Points& to) {
    Vec3 a = Vec3::Zero(), b = Vec3::Zero();
    for (std::size_t i = 0; i < from.size(); ++i) a += from[i], b += to[i];
    a /= static_cast<double>(from.size()), b /= static_cast<double>(from.size());
    Mat3 cross = Mat3::Zero();
    double spread = 0;
    for (std::size_t i = 0; i < from.size(); ++i) cross += (to[i] - b) * (from[i] - a).transpose(), spread += (from[i] - a).squaredNorm();
    const Eigen::JacobiSVD<Mat3> svd(cross, Eigen::ComputeFullU | Eigen::ComputeFullV);
    ReturnFrame out;
    out.turn = svd.matrixU() * svd.matrixV().transpose();
    out.scale = svd.singularValues().sum() / std::max(spread, 1e-12);
    return out;
}

// The turn that maps axes to axes and lies nearest.
Mat3 axis_turn(const Mat3& turn) {
    static constexpr int kOrders[6][3] = {{0, 1, 2}, {0, 2, 1}, {1, 0, 2}, {1, 2, 0}, {2, 0, 1}, {2, 1, 0}};
    Mat3 best = Mat3::Identity();
    double most = -10;
    for (const auto& order : kOrders) {
        for (int signs = 0; signs < 8; ++signs) {
            Mat3 m = Mat3::Zero();
            for (int r = 0; r < 3; ++r) m(r, order[r]) = signs >> r & 1 ? -1 : 1;
            const double likeness = (m.transpose() * turn).trace();
            if (likeness > most + 1e-9) most = likeness, best = m;
        }
    }
    return best;
}

std::string axis_word(const Mat3& turn) {
    // what points up in the base's frame, in the returned file's own axes
    const Vec3 up = turn.transpose() * Vec3::UnitY();
    Eigen::Index axis = 0;
    up.cwiseAbs().maxCoeff(&axis);
    return std::string(up[axis] < 0 ? "-" : "+") + "XYZ"[axis];
}

std::string short_number(double x) {
    char text[32];
    std::snprintf(text, sizeof text, "%.4g", x);
    return text;
}

// A whole figure stands on the base's floor, its feet where the base's are, or where they would be were the base of
// this size.
Vec3 by_the_feet(const BaseKit& kit, const Points& expected, const Points& placed, const std::vector<Index>& first_of, double size) {
    std::vector<double> x, z;
    double low = 1e300, base_low = 1e300;
    std::vector<char> foot(kit.mesh.positions.size(), 0);
    for (const char* name : {"foot_l", "foot_r"}) {
        for (const Index v : kit.region(name)) foot[v] = 1;
    }
    for (const Index v : kit.part("skin")->vertices) base_low = std::min(base_low, expected[v].y());
    for (std::size_t i = 0; i < first_of.size(); ++i) {
        if (first_of[i] == kNone || !foot[first_of[i]]) continue;
        const Vec3 d = size * expected[first_of[i]] - placed[i];
        x.push_back(d.x()), z.push_back(d.z());
        low = std::min(low, placed[i].y());
    }
    if (x.empty()) return Vec3::Zero();
    return {median(x), size * base_low - low, median(z)};
}

// The turn and move of what was left as it was, by least absolute deviations [Schlossmacher 1973]: what was sculpted is
// outvoted. Nothing when too little was left, or it was not moved.
std::optional<Similarity> by_what_was_left(const Points& from, const Points& to) {
    SimilarityOptions options;
    options.allow_scale = false, options.outlier_mm = 0;
    options.weights.assign(from.size(), 1.0);
    std::optional<Similarity> best;
    for (int round = 0; round < 40; ++round) {
        const auto now = fit_similarity(from, to, options);
        if (!now) return {};
        best = *now;
        for (std::size_t i = 0; i < from.size(); ++i) options.weights[i] = 1 / std::max(((*now)(from[i]) - to[i]).norm(), 1e-5);
    }
    std::size_t same = 0;
    for (std::size_t i = 0; i < from.size(); ++i) same += ((*best)(from[i]) - to[i]).norm() < kLeftMm;
    if (static_cast<double>(same) < kLeftShare * static_cast<double>(from.size())) return {};
    return best;
}

}  // namespace

ReturnFrame find_frame(const BaseKit& kit, const Points& expected, const Points& returned, const std::vector<Index>& first_of, std::vector<ReturnStep>& steps) {
    Points from, to;
    for (std::size_t i = 0; i < first_of.size(); ++i) {
        if (first_of[i] != kNone) from.push_back(returned[i]), to.push_back(expected[first_of[i]]);
    }
    ReturnFrame out;
    if (from.size() < 10) return out;
    const ReturnFrame free = free_fit(from, to);
    const Mat3 turn = axis_turn(free.turn);
    if (turn != Mat3::Identity()) {
        out.turn = turn;
        const bool mirrored = turn.determinant() < 0;
        steps.push_back({mirrored ? "Mirrored back, " + axis_word(turn) + " was up" : "Turned: " + axis_word(turn) + " was up", "Turned so, it lies on the base; as it came, it does not.", true});
    }
    for (const UnitFactor& u : kUnits) {
        if (std::abs(std::log(free.scale)) > kUnitWithin && std::abs(std::log(free.scale / u.factor)) < kUnitWithin && std::abs(std::log(free.scale / u.factor)) < std::abs(std::log(free.scale / out.scale))) out.scale = u.factor;
    }
    if (out.scale != 1) {
        const auto unit = std::find_if(std::begin(kUnits), std::end(kUnits), [&](const UnitFactor& u) { return u.factor == out.scale; });
        steps.push_back({"Scaled by " + short_number(out.scale), "It is " + short_number(1 / free.scale) + " times as large as the base: the numbers are " + unit->said + ". What is left of the difference is shape.", true});
    }
    Points placed, there;
    for (const Vec3& p : returned) placed.push_back(out(p));
    for (const Vec3& p : from) there.push_back(out(p));
    if (const auto left = by_what_was_left(there, to)) {
        const double angle = Eigen::AngleAxisd(left->rotation).angle() * 180 / M_PI;
        const Vec3 middle = bounding_box(there).centre(), move = (*left)(middle) - middle;
        if (angle < kTurnedDegrees && move.norm() < kLeftMm) return out;
        out.turn = left->rotation * out.turn, out.move = left->translation;
        std::string what = angle < kTurnedDegrees ? "Moved" : "Turned by " + short_number(angle) + " degrees and moved";
        steps.push_back({what + " by " + short_number(move.x()) + ", " + short_number(move.y()) + ", " + short_number(move.z()) + " mm", "So what was left as it was lies where it lay.", true});
        return out;
    }
    const Vec3 feet = by_the_feet(kit, expected, placed, first_of, 1);
    // what a larger or smaller figure explains is no move
    const double stray = std::min(feet.norm(), by_the_feet(kit, expected, placed, first_of, out.scale / free.scale).norm());
    const bool as_it_went = out.scale == 1 && turn == Mat3::Identity();
    if (as_it_went ? stray > kStrayMm : feet.norm() > kShiftedMm) {
        out.move = feet;
        steps.push_back({"Moved by " + short_number(feet.x()) + ", " + short_number(feet.y()) + ", " + short_number(feet.z()) + " mm", "Its feet stand where the base's do, on the base's floor.", true});
    }
    return out;
}

}  // namespace veld
