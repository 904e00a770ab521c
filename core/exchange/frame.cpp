#include "core/exchange/frame.h"

#include <Eigen/SVD>
#include <algorithm>
#include <cmath>
#include <cstdio>

#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

struct UnitFactor {
    double factor;
    const char* said;
};
constexpr UnitFactor kUnits[] = {{1000, "metres"},
                                 {10, "centimetres"},
                                 {25.4, "inches"},
                                 {100, "decimetres"},
                                 {304.8, "feet"},
                                 {0.1, "tenths of a millimetre"},
                                 {0.01, "hundredths of a millimetre"},
                                 {0.001, "micrometres"}};
constexpr double kUnitWithin = 0.4;  // in natural logarithms: half or one and a half times is still a person
constexpr double kLeftMm = 0.02, kLeftShare = 0.3;  // so near, so much of it: not sculpted
constexpr double kTurnedDegrees = 0.002;
constexpr double kShiftedMm = 0.5;                     // beside another unit or turn
constexpr double kStrayMm = 12;                        // alone: less may be meant
constexpr double kScaled = 0.002;                      // in natural logarithms: another size
constexpr double kLikelySize = 0.3, kLikelyTurn = 20;  // a sculptor's own: less than a third larger, fewer degrees
constexpr double kFarMm = 25,
                 kUnexplainedMm = 120;  // median move of a result worth a second look; that nothing explains

// Closed form over all pairs, mirrored turns allowed [Umeyama 1991].
ReturnFrame free_fit(const Points& from, const Points& to) {
    Vec3 a = Vec3::Zero(), b = Vec3::Zero();
    for (std::size_t i = 0; i < from.size(); ++i) a += from[i], b += to[i];
    a /= static_cast<double>(from.size()), b /= static_cast<double>(from.size());
    Mat3 cross = Mat3::Zero();
    double spread = 0;
    for (std::size_t i = 0; i < from.size(); ++i)
        cross += (to[i] - b) * (from[i] - a).transpose(), spread += (from[i] - a).squaredNorm();
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
Vec3 by_the_feet(const BaseKit& kit, const Points& expected, const Points& placed, const std::vector<Index>& first_of,
                 double size) {
    std::vector<double> x, z;
    double low = 1e300, base_low = 1e300;
    VertexMask foot(kit.mesh.positions.size(), 0);
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

// By least absolute deviations [Schlossmacher 1973]: what was sculpted is outvoted.
std::optional<Similarity> robust_similarity(const Points& from, const Points& to, bool allow_scale) {
    SimilarityOptions options;
    options.allow_scale = allow_scale, options.outlier_mm = 0;
    options.weights.assign(from.size(), 1.0);
    std::optional<Similarity> best;
    for (int round = 0; round < 40; ++round) {
        const auto now = fit_similarity(from, to, options);
        if (!now) return {};
        best = *now;
        for (std::size_t i = 0; i < from.size(); ++i)
            options.weights[i] = 1 / std::max(((*now)(from[i]) - to[i]).norm(), 1e-5);
    }
    return best;
}

std::vector<double> distances(const Similarity& s, const Points& from, const Points& to) {
    std::vector<double> out;
    for (std::size_t i = 0; i < from.size(); ++i) out.push_back((s(from[i]) - to[i]).norm());
    return out;
}

// So much of it was left as it was that the similarity is no guess.
bool is_proven(const Similarity& s, const Points& from, const Points& to) {
    const auto off = distances(s, from, to);
    const auto same = std::count_if(off.begin(), off.end(), [](double d) { return d < kLeftMm; });
    return static_cast<double>(same) >= kLeftShare * static_cast<double>(from.size());
}

double degrees_of(const Mat3& turn) { return Eigen::AngleAxisd(turn).angle() * 180 / M_PI; }

std::string moved_words(const Vec3& move) {
    return short_number(move.x()) + ", " + short_number(move.y()) + ", " + short_number(move.z()) + " mm";
}

ReturnFrame joined(const Similarity& after, const ReturnFrame& first) {
    return {after.scale * first.scale, after.rotation * first.turn,
            after.scale * (after.rotation * first.move) + after.translation};
}

// s: from what came back to what went out. turn: of axes, that is a part of it.
ReturnQuestion ask_about(const Similarity& s, const Mat3& turn, const Points& from, bool proven) {
    ReturnQuestion q;
    q.scale = 1 / s.scale;
    q.degrees = degrees_of(turn.determinant() > 0 ? Mat3(s.rotation * turn) : s.rotation);
    const Vec3 middle = bounding_box(from).centre();
    q.move_mm = middle - s(middle);
    const std::string size =
        std::abs(std::log(q.scale)) > kScaled ? short_number(q.scale) + " times as large" : "of the same size";
    q.what = "It came back " + size + ", turned by " + short_number(q.degrees) + " degrees and moved by " +
             moved_words(q.move_mm);
    q.why = proven ? "What was left as it was says so to the last digit. Was that an accident, or is it meant?"
                   : "So it lies nearest to what went out. Was that an accident, or is it meant?";
    return q;
}

// The unit and axes that a program wrote; said in steps.
ReturnFrame unit_and_axes(const Points& from, const Points& to, std::vector<ReturnStep>& steps) {
    ReturnFrame out;
    const ReturnFrame free = free_fit(from, to);
    const Mat3 turn = axis_turn(free.turn);
    if (turn != Mat3::Identity()) {
        out.turn = turn;
        const bool mirrored = turn.determinant() < 0;
        steps.push_back(
            {mirrored ? "Mirrored back, " + axis_word(turn) + " was up" : "Turned: " + axis_word(turn) + " was up",
             "Turned so, it lies on the base; as it came, it does not.", true});
    }
    for (const UnitFactor& u : kUnits) {
        if (std::abs(std::log(free.scale)) > kUnitWithin && std::abs(std::log(free.scale / u.factor)) < kUnitWithin &&
            std::abs(std::log(free.scale / u.factor)) < std::abs(std::log(free.scale / out.scale)))
            out.scale = u.factor;
    }
    if (out.scale != 1) {
        const auto unit = std::find_if(std::begin(kUnits), std::end(kUnits),
                                       [&](const UnitFactor& u) { return u.factor == out.scale; });
        steps.push_back({"Scaled by " + short_number(out.scale),
                         "It is " + short_number(1 / free.scale) + " times as large as the base: the numbers are " +
                             unit->said + ". What is left of the difference is shape.",
                         true});
    }
    return out;
}

// A whole figure that stands elsewhere is put back by its feet.
void onto_its_feet(const BaseKit& kit, const Points& expected, const Points& returned,
                   const std::vector<Index>& first_of, double free_scale, ReturnFrame& out,
                   std::vector<ReturnStep>& steps) {
    Points placed;
    for (const Vec3& p : returned) placed.push_back(out(p));
    const Vec3 feet = by_the_feet(kit, expected, placed, first_of, 1);
    // what a larger or smaller figure explains is no move
    const double stray =
        std::min(feet.norm(), by_the_feet(kit, expected, placed, first_of, out.scale / free_scale).norm());
    const bool as_it_went = out.scale == 1 && out.turn == Mat3::Identity();
    if (!(as_it_went ? stray > kStrayMm : feet.norm() > kShiftedMm)) return;
    out.move = feet;
    steps.push_back(
        {"Moved by " + moved_words(feet), "Its feet stand where the base's do, on the base's floor.", true});
}

}  // namespace

ReturnFrame find_frame(const BaseKit& kit, const Points& expected, const Points& returned,
                       const std::vector<Index>& first_of, ReturnAnswer answer, std::vector<ReturnStep>& steps,
                       std::optional<ReturnQuestion>& question) {
    Points from, to;
    for (std::size_t i = 0; i < first_of.size(); ++i) {
        if (first_of[i] != kNone) from.push_back(returned[i]), to.push_back(expected[first_of[i]]);
    }
    if (from.size() < 10) return {};
    const std::size_t said = steps.size();
    ReturnFrame out = unit_and_axes(from, to, steps);
    Points there;
    for (const Vec3& p : from) there.push_back(out(p));
    const auto rigid = robust_similarity(there, to, false);
    if (rigid && is_proven(*rigid, there, to)) {
        const double angle = degrees_of(rigid->rotation);
        const Vec3 middle = bounding_box(there).centre(), move = (*rigid)(middle)-middle;
        if (angle < kTurnedDegrees && move.norm() < kLeftMm) return out;
        steps.push_back(
            {(angle < kTurnedDegrees ? "Moved by " : "Turned by " + short_number(angle) + " degrees and moved by ") +
                 moved_words(move),
             "So what was left as it was lies where it lay.", true});
        return joined(*rigid, out);
    }
    const auto free = robust_similarity(there, to, true);
    const ReturnFrame before = out;
    onto_its_feet(kit, expected, returned, first_of, free_fit(from, to).scale, out, steps);
    if (!free) return out;
    const double away = median(distances({1, Mat3::Identity(), out.move - before.move}, there, to)),
                 left = median(distances(*free, there, to));
    const bool proven = is_proven(*free, there, to);
    const bool unlikely = std::abs(std::log(free->scale)) > kLikelySize || degrees_of(free->rotation) > kLikelyTurn;
    const bool explains = proven || (unlikely && away > kFarMm && left < 0.5 * away);
    if (!explains && std::min(left, away) < kUnexplainedMm) return out;
    ReturnQuestion q = ask_about(*free, before.turn, there, proven);
    q.explained = explains;
    if (!explains) {
        q.what = "No common change explains what came back";
        q.why = "In whatever unit, turn, place or size: half of it stays more than " + short_number(left) +
                " mm from where it was. Look at it before you keep it; most likely it is something else.";
    }
    if (answer == ReturnAnswer::Ask) question = q;
    if (answer == ReturnAnswer::Leave || !explains) {
        if (answer != ReturnAnswer::Ask) steps.push_back({q.what, "It is kept so, as you said.", false});
        return out;
    }
    steps.resize(said);  // its own unit and axes are a part of it
    steps.push_back({q.what,
                     answer == ReturnAnswer::Take ? "That is taken out, as you said."
                                                  : "That is taken out as long as nobody says that it is meant.",
                     answer == ReturnAnswer::Take});
    return joined(*free, before);
}

}  // namespace veld
