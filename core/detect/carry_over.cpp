#include "core/detect/carry_over.h"

#include <cmath>

namespace veld {
namespace {

bool same_view(const FaceView& a, const FaceView& b) {
    return a.yaw == b.yaw && a.pitch == b.pitch && a.skin == b.skin;
}

}  // namespace

std::vector<SurfacePair> pairs_of_view(const FaceReference& reference, const SeenView& view) {
    std::vector<SurfacePair> out;
    for (const SeenView& base : reference.views) {
        if (!same_view(base.view, view.view) || base.points.empty() || view.points.empty()) continue;
        for (std::size_t p = 0; p < kSeenPoints; ++p) {
            if (base.points[p] && view.points[p])
                out.push_back({*base.points[p], *view.points[p], 0, static_cast<int>(p)});
        }
    }
    return out;
}

std::vector<SurfacePair> pairs_of(const FaceReference& reference, const std::vector<SeenView>& scan) {
    std::vector<Points> base(kSeenPoints), found(kSeenPoints);
    for (const SeenView& view : scan) {
        for (const SurfacePair& pair : pairs_of_view(reference, view)) {
            base[static_cast<std::size_t>(pair.point)].push_back(pair.base);
            found[static_cast<std::size_t>(pair.point)].push_back(pair.scan);
        }
    }
    std::vector<SurfacePair> out;
    for (std::size_t p = 0; p < kSeenPoints; ++p) {
        if (base[p].size() < 2) continue;
        const auto a = middle_of(base[p]), b = middle_of(found[p]);
        // what differs from view to view in the same way on both sides is no doubt
        double sum = 0;
        for (std::size_t i = 0; i < base[p].size(); ++i)
            sum += ((found[p][i] - b->place) - (base[p][i] - a->place)).squaredNorm();
        out.push_back({a->place, b->place, std::sqrt(sum / static_cast<double>(base[p].size())), static_cast<int>(p)});
    }
    return out;
}

SmoothMap map_through(const std::vector<SurfacePair>& pairs) {
    Points from, to;
    std::vector<double> weights;
    for (const SurfacePair& p : pairs) {
        from.push_back(p.base), to.push_back(p.scan);
        weights.push_back(1 / (1 + 0.25 * p.spread * p.spread));
    }
    return SmoothMap(from, to, weights);
}

}  // namespace veld
