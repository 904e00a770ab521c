#include "core/detect/find_lids.h"

#include <cmath>

#include "core/detect/lid_edges.h"

namespace veld {
namespace {

constexpr int kMostUp = 44, kMostOut = 28, kOutStep = 4;  // degrees around the eyeball that are looked at
constexpr int kColumns = 2 * kMostOut / kOutStep + 1, kRows = 2 * kMostUp + 1;
constexpr double kShiftCosts = 0.03;  // mm of step for each degree that an eye lies elsewhere
constexpr double kMostFurrowMm = 1.5;
constexpr int kMostShiftUp = 10, kMostShiftOut = 8;  // degrees that the head may have its eyes elsewhere
constexpr double kMostGap = 0.75;                    // of the blink: beyond it the two edges' windows meet
constexpr double kLeastShare = -0.4, kShareStep = 0.1;
constexpr double kWinkMm = 0.35;  // so much more must speak for another share than the other eye's
// Of both eyes together; told from made-up heads, scanned and sculpted.
constexpr double kLeastGapMm = 0.45, kNoGapMm = 0.35, kLeastFurrowMm = 0.55;
constexpr double kFurrowUp = 6;  // degrees: farther from where the kit's lids meet it is the fold above the lid

// Where a pair of edges may lie: degrees up, per column.
struct Edges {
    double share = 0;
    std::array<double, kColumns> upper{}, lower{};
    double opening = 0;
};

class Lids {
 public:
    Lids(const SurfaceLook& look, const BaseKit& kit, const Points& shape, bool left)
        : look_(look), kit_(kit), shape_(shape), left_(left) {}

    bool look_at() {
        if (!can_blink(kit_) || !seat() || !read_edges()) return false;
        read_surface();
        for (const Edges& edges : edges_) {
            if (edges.share > kMostGap) break;
            FoundLids best{edges.share, edges.opening, 0, false, 0};
            double most = kNotSeen;
            for (int up = -kMostShiftUp; up <= kMostShiftUp; ++up) {
                for (int out = -kMostShiftOut; out <= kMostShiftOut; out += kOutStep) {
                    const double step = gap(edges, up, out);
                    const double worth = step - kShiftCosts * (std::abs(up) + 0.5 * std::abs(out));
                    if (worth > most) most = worth, best.step = step, best.up = up;
                }
            }
            gaps.push_back(best), worths.push_back(most);
        }
        furrow_seen = furrow(edges_.back());
        return true;
    }

    std::vector<FoundLids> gaps;  // the best place at each share of the blink,
    std::vector<double> worths;   // and what speaks for it, mm
    FoundLids furrow_seen;

 private:
    bool seat() {
        for (const KitEye& eye : kit_.eyes) {
            const auto moved = eye_seat(kit_, eye, shape_);
            if (!moved || (eye.centre.x() > 0) != left_) continue;
            eye_ = {(*moved)(eye.centre), moved->scale * eye.radius, left_};
            return true;
        }
        return false;
    }

    bool read_edges() {
        const std::string side = left_ ? "_l" : "_r";
        const auto upper = kit_.curves.find("upper_lid" + side), lower = kit_.curves.find("lower_lid" + side);
        if (upper == kit_.curves.end() || lower == kit_.curves.end()) return false;
        for (double share = kLeastShare; share < 1 + kShareStep / 2; share += kShareStep) {
            const Points at = move_lids(kit_, shape_, {share, share});
            Edges edges{share, along(upper->second, at), along(lower->second, at), 0};
            std::map<std::string, Vec3> marks;
            for (const auto& [name, place] : kit_.landmarks) marks[name] = place.at(at);
            const auto opening = eye_opening(marks, left_);
            if (!opening) return false;
            edges.opening = *opening;
            edges_.push_back(edges);
        }
        return true;
    }

    // Degrees up of a curve, column by column; kNotSeen beyond its ends.
    std::array<double, kColumns> along(const std::vector<SurfacePoint>& curve, const Points& at) const {
        std::array<double, kColumns> out;
        out.fill(kNotSeen);
        for (std::size_t i = 1; i < curve.size(); ++i) {
            const auto a = eye_.angles(curve[i - 1].at(at)), b = eye_.angles(curve[i].at(at));
            for (int c = 0; c < kColumns; ++c) {
                const double x = c * kOutStep - kMostOut;
                if ((x - a[0]) * (x - b[0]) > 0 || a[0] == b[0]) continue;
                out[static_cast<std::size_t>(c)] = a[1] + (b[1] - a[1]) * (x - a[0]) / (b[0] - a[0]);
            }
        }
        return out;
    }

    void read_surface() {
        for (int c = 0; c < kColumns; ++c) {
            for (int r = 0; r < kRows; ++r)
                height_[static_cast<std::size_t>(c)][static_cast<std::size_t>(r)] =
                    eye_.height(*look_.surface.query, c * kOutStep - kMostOut, r - kMostUp);
        }
    }

    // Mean height over rows from..to; kNotSeen where one is missing.
    double mean(int column, int from, int to) const {
        if (from < 0 || to >= kRows) return kNotSeen;
        double sum = 0;
        for (int r = from; r <= to; ++r) {
            const double h = height_[static_cast<std::size_t>(column)][static_cast<std::size_t>(r)];
            if (h == kNotSeen) return kNotSeen;
            sum += h;
        }
        return sum / (to - from + 1);
    }

    double step(int column, double up) const {
        return step_at(height_[static_cast<std::size_t>(column)], static_cast<int>(std::lround(up)) + kMostUp);
    }

    double gap(const Edges& edges, int up, int out) const {
        double sum = 0;
        int count = 0;
        for (int c = 0; c < kColumns; ++c) {
            const int from = c - out / kOutStep;
            if (from < 0 || from >= kColumns) continue;
            const double u = edges.upper[static_cast<std::size_t>(from)],
                         l = edges.lower[static_cast<std::size_t>(from)];
            if (u == kNotSeen || l == kNotSeen) continue;
            const double at_upper = step(c, u + up), at_lower = step(c, l + up);
            if (at_upper == kNotSeen || at_lower == kNotSeen) continue;
            sum += 0.5 * (at_upper - at_lower), ++count;
        }
        return count >= kColumns / 2 ? sum / count : 0;
    }

    // How deep a furrow runs along a place, mm; 0 where the surface is not seen.
    double furrow_at(int column, int row) const {
        const double above = mean(column, row + 3, row + 6), below = mean(column, row - 6, row - 3);
        double deep = 1e9;
        for (int k = -1; k <= 1; ++k) deep = std::min(deep, mean(column, row + k, row + k));
        if (above == kNotSeen || below == kNotSeen || deep == kNotSeen) return 0;
        return std::min(0.5 * (above + below) - deep, kMostFurrowMm);
    }

    // The deepest furrow that runs along the line of the kit's shut lids, moved up or down, and strays from it by no
    // more than a degree from column to column [dynamic programming over the columns].
    FoundLids furrow(const Edges& shut) const {
        constexpr int kWide = 2 * kMostShiftUp + 1;
        std::array<double, kWide> sum{};
        int count = 0;
        for (int c = 0; c < kColumns; ++c) {
            const double line = shut.upper[static_cast<std::size_t>(c)];
            if (line == kNotSeen) continue;
            ++count;
            const std::array<double, kWide> before = sum;
            for (int k = 0; k < kWide; ++k) {
                double best = before[static_cast<std::size_t>(k)];
                for (const int from : {k - 1, k + 1})
                    if (from >= 0 && from < kWide) best = std::max(best, before[static_cast<std::size_t>(from)]);
                sum[static_cast<std::size_t>(k)] =
                    best + furrow_at(c, static_cast<int>(std::lround(line)) + k - kMostShiftUp + kMostUp);
            }
        }
        FoundLids out{shut.share, 0, 0, true, 0};
        if (count < kColumns / 2) return out;
        for (int k = 0; k < kWide; ++k) {
            const double deep = sum[static_cast<std::size_t>(k)] / count;
            if (deep > out.step) out.step = deep, out.up = k - kMostShiftUp;
        }
        return out;
    }

    const SurfaceLook& look_;
    const BaseKit& kit_;
    const Points& shape_;
    const bool left_;
    EyeFrame eye_;
    std::vector<Edges> edges_;
    std::array<std::array<double, kRows>, kColumns> height_{};
};

}  // namespace

std::array<std::optional<FoundLids>, 2> find_lids(const SurfaceLook& look, const BaseKit& kit, const Points& shape) {
    std::array<std::optional<FoundLids>, 2> out;
    Lids eyes[2] = {{look, kit, shape, false}, {look, kit, shape, true}};
    if (!eyes[0].look_at() || !eyes[1].look_at()) return out;
    const auto most = [](const std::vector<double>& worths) {
        return static_cast<std::size_t>(std::max_element(worths.begin(), worths.end()) - worths.begin());
    };
    std::vector<double> both = eyes[0].worths;
    for (std::size_t i = 0; i < both.size(); ++i) both[i] += eyes[1].worths[i];
    const std::size_t alike = most(both);
    const double gap = both[alike], furrow = eyes[0].furrow_seen.step + eyes[1].furrow_seen.step;
    const double ups[2] = {eyes[0].furrow_seen.up, eyes[1].furrow_seen.up};
    const bool shut = gap < kNoGapMm && furrow >= kLeastFurrowMm && std::abs(ups[0] - ups[1]) <= kFurrowUp &&
                      std::abs(ups[0]) <= kFurrowUp && std::abs(ups[1]) <= kFurrowUp;
    for (std::size_t eye = 0; eye < 2; ++eye) {
        const Lids& of = eyes[eye];
        const std::size_t own = most(of.worths);
        if (of.worths[own] > of.worths[alike] + kWinkMm && of.worths[own] >= kLeastGapMm)
            out[eye] = of.gaps[own];
        else if (gap >= kLeastGapMm)
            out[eye] = of.gaps[alike];
        else if (shut)
            out[eye] = of.furrow_seen;
    }
    return out;
}

}  // namespace veld
