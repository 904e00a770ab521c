#include "core/tidy/subject_kind.h"

#include <algorithm>
#include <vector>

namespace veld {
namespace {

constexpr std::size_t kLookedAt = 40000;  // points are enough
constexpr double kEnd = 1.0 / 8;          // of the length
constexpr double kStray = 0.002;          // this share at each end may be dust
constexpr double kThinEnd = 0.19;         // of the length: a figure's
constexpr double kFlat = 3.3;             // length to smallest extent of a figure, at least
constexpr double kRatherFlat = 2.4;       // of one with a large head or wide clothes
constexpr double kRatherThinEnd = 0.27;   // the same
constexpr double kSlender = 1.9;          // length to second extent: a figure with its arms down
constexpr double kShoulders = 1.9;        // a bust's lower end, in widths of its upper one

struct Extent {
    double low = 0, high = 0;
    double size() const { return high - low; }
};

Extent extent(std::vector<double> values, double stray) {
    if (values.empty()) return {};
    const auto n = static_cast<std::ptrdiff_t>(static_cast<double>(values.size() - 1) * stray);
    std::nth_element(values.begin(), values.begin() + n, values.end());
    const double low = values[static_cast<std::size_t>(n)];
    std::nth_element(values.begin(), values.end() - 1 - n, values.end());
    return {low, *(values.end() - 1 - n)};
}

Extent along(const Points& points, int axis) {
    std::vector<double> values;
    values.reserve(points.size());
    for (const Vec3& p : points) values.push_back(p[axis]);
    return extent(std::move(values), kStray);
}

// The larger width across of what lies in the end; 0: nothing does.
double end_width(const Points& points, int axis, const Extent& length, bool upper) {
    double widest = 0;
    const double border = upper ? length.high - kEnd * length.size() : length.low + kEnd * length.size();
    for (const int across : {(axis + 1) % 3, (axis + 2) % 3}) {
        std::vector<double> values;
        for (const Vec3& p : points) {
            const bool inside =
                upper ? p[axis] >= border && p[axis] <= length.high : p[axis] <= border && p[axis] >= length.low;
            if (inside) values.push_back(p[across]);
        }
        widest = std::max(widest, extent(std::move(values), 0.02).size());
    }
    return widest;
}

}  // namespace

SubjectGuess guess_subject(const Points& positions) {
    SubjectGuess out;
    if (positions.empty()) return out;
    Points points;
    const std::size_t step = std::max<std::size_t>(positions.size() / kLookedAt, 1);
    for (std::size_t i = 0; i < positions.size(); i += step) points.push_back(positions[i]);
    Extent box[3];
    std::array<int, 3> order{0, 1, 2};
    for (int k = 0; k < 3; ++k) box[k] = along(points, k);
    std::sort(order.begin(), order.end(), [&](int a, int b) { return box[a].size() > box[b].size(); });
    out.length_axis = order[0];
    const double length = box[order[0]].size(), second = box[order[1]].size(), least = box[order[2]].size();
    if (!(length > 0)) return out;
    // with its arms out a figure may be as wide as it is tall
    double ends[2] = {1, 1}, thin_hand = 1;
    for (const int axis : {order[0], order[1]}) {
        if (box[axis].size() < 0.6 * length) continue;
        for (const bool upper : {false, true}) {
            const double width = end_width(points, axis, box[axis], upper) / box[axis].size();
            if (!(width > 0)) continue;
            thin_hand = std::min(thin_hand, width);
            if (box[axis].size() >= 0.8 * length) out.thin_end = std::min(out.thin_end, width);
            if (axis == order[0]) ends[upper] = width;
        }
    }
    if (length > kFlat * least && out.thin_end < kThinEnd)
        out.kind = SubjectKind::Figure, out.sure = true;
    else if (length > kSlender * second || (length > kRatherFlat * least && thin_hand < kRatherThinEnd))
        out.kind = SubjectKind::Figure;
    else if (std::max(ends[0], ends[1]) > kShoulders * std::min(ends[0], ends[1]))
        out.kind = SubjectKind::Bust;
    return out;
}

const char* subject_words(SubjectKind kind) {
    static constexpr const char* kWords[] = {"a head", "a bust", "a standing figure"};
    return kWords[static_cast<int>(kind)];
}

}  // namespace veld
