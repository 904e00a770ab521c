#include "core/detect/head_by_shape.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/units.h"
#include "core/fit/place.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"

namespace veld {
namespace {

constexpr double kHeadMm = 170;  // from the crown down: what is a head's for sure
constexpr double kSizes[] = {0.88, 1.0, 1.14};
constexpr int kIcpTimes = 3;
constexpr std::size_t kWays = 4;   // of the 24 that are tried in all sizes
constexpr double kLiesWellMm = 5;  // half of the face is nearer than this
constexpr double kClearly = 1.15;  // times as far: another way to face is no rival
constexpr double kFarMm = 25;
constexpr std::size_t kVertices = 3000;

// The middle of what lies near the top.
Vec3 middle_of_top(const Points& points, double top, double reach) {
    Box box;
    for (const Vec3& p : points) {
        if (p.y() > top - reach) box.add(p);
    }
    return box.centre();
}

// Of the kit's head, outside only.
VertexIndices matched(const BaseKit& kit) {
    std::set<Index> inside;
    for (const char* name : {"mouth_inner", "nostril_inside", "socket_l", "socket_r"})
        inside.insert(kit.region(name).begin(), kit.region(name).end());
    VertexIndices all;
    for (const Index v : kit.region("head_skin")) {
        if (!inside.contains(v)) all.push_back(v);
    }
    VertexIndices out;
    const std::size_t step = std::max<std::size_t>(1, all.size() / kVertices);
    for (std::size_t i = 0; i < all.size(); i += step) out.push_back(all[i]);
    return out;
}

double median_distance(const BaseKit& kit, const VertexIndices& vertices, const SourceSurface& surface) {
    std::vector<double> off;
    for (const Index v : vertices) {
        const SurfaceHit hit = surface.closest(kit.mesh.positions[v], kFarMm, nullptr);
        off.push_back(hit ? hit.distance : kFarMm);
    }
    return quantile(std::move(off), 0.5);
}

}  // namespace

namespace {

struct Laid {
    Similarity place;
    double off = kFarMm;
};

class HeadByShape {
 public:
    HeadByShape(const BaseKit& kit, const SourceSurface& surface)
        : kit_(kit), surface_(surface), vertices_(matched(kit)), base_(bounding_box(kit.mesh.positions)) {
        for (const Triangle& t : surface.triangles) own_.push_back(surface.positions[t[0]]);
        Points head;
        for (const Index v : kit.region("head_skin")) head.push_back(kit.mesh.positions[v]);
        top_ = middle_of_top(head, base_.high.y(), kHeadMm);
        figure_ = is_figure(own_, 1);
    }

    // The kit's head on the top of the surface turned so, then moved on by ICP so many times.
    Laid lay(const Mat3& turn, double size, int times, const Progress& progress) const {
        Points turned;
        for (const Vec3& p : own_) turned.push_back(turn * p);
        const Box box = bounding_box(turned);
        Laid out;
        out.place.scale = size * (figure_ ? base_.size().y() / box.size().y() : 1);
        out.place.rotation = turn;
        const Vec3 from = out.place.scale * middle_of_top(turned, box.high.y(), kHeadMm / out.place.scale);
        out.place.translation =
            Vec3(top_.x() - from.x(), base_.high.y() - out.place.scale * box.high.y(), top_.z() - from.z());
        SourceSurface placed = moved_on(surface_, out.place);
        for (int i = 0; i < times; ++i) {
            const Similarity step = refine_by_icp(kit_, vertices_, placed, true, progress);
            placed = moved_on(placed, step);
            out.place = step * out.place;
        }
        out.off = median_distance(kit_, vertices_, placed);
        return out;
    }

    bool empty() const { return vertices_.empty() || own_.empty(); }

 private:
    const BaseKit& kit_;
    const SourceSurface& surface_;
    const VertexIndices vertices_;
    const Box base_;
    Points own_;
    Vec3 top_;
    bool figure_ = false;
};

}  // namespace

std::optional<Similarity> head_by_shape(const BaseKit& kit, const SourceSurface& surface, const Progress& progress) {
    const HeadByShape head(kit, surface);
    if (head.empty()) return {};
    std::vector<std::pair<double, Mat3>> ways;
    for (const Mat3& turn : axis_turns()) {
        if (progress.is_cancelled()) return {};
        progress.say(static_cast<double>(ways.size()) / 40, "Looking for the head by its form");
        ways.emplace_back(head.lay(turn, 1, 1, progress).off, turn);
    }
    std::stable_sort(ways.begin(), ways.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    ways.resize(kWays);
    std::vector<Laid> best;
    for (const auto& [off, turn] : ways) {
        best.emplace_back();
        for (const double size : kSizes) {
            if (progress.is_cancelled()) return {};
            const Laid now = head.lay(turn, size, kIcpTimes, progress);
            if (now.off < best.back().off) best.back() = now;
        }
    }
    std::stable_sort(best.begin(), best.end(), [](const Laid& a, const Laid& b) { return a.off < b.off; });
    if (best[0].off > kLiesWellMm || best[1].off < kClearly * best[0].off) return {};
    return best[0].place;
}

}  // namespace veld
