#include "core/detect/open_mouth.h"

#include <algorithm>
#include <cmath>

#include "core/fit/jaw.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

// Of the network's points: the inner edges of the lips from corner to corner, without the corners.
constexpr int kUpperInner[] = {191, 80, 81, 82, 13, 312, 311, 310, 415};
constexpr int kLowerInner[] = {95, 88, 178, 87, 14, 317, 402, 318, 324};
constexpr double kLevelYaw = 25, kMouthMm = 45;

std::optional<double> gap_of(const SeenView& view) {
    if (view.points.empty() || view.view.pitch != 0 || std::abs(view.view.yaw) > kLevelYaw) return {};
    std::vector<double> gaps;
    // the middle of the mouth: three points on each lip
    for (std::size_t i = 3; i < 6; ++i) {
        const auto &a = view.points[static_cast<std::size_t>(kUpperInner[i])], &b = view.points[static_cast<std::size_t>(kLowerInner[i])];
        if (a && b) gaps.push_back(a->y() - b->y());
    }
    if (gaps.empty()) return {};
    return median(gaps);
}

bool one_of(const auto& list, int point) { return std::find(std::begin(list), std::end(list), point) != std::end(list); }

}  // namespace

std::optional<double> mouth_gap(const FaceReference& reference, const std::vector<SeenView>& views) {
    std::vector<double> gaps;
    for (const SeenView& view : views) {
        const auto here = gap_of(view);
        for (const SeenView& base : reference.views) {
            if (!here || base.view.yaw != view.view.yaw || base.view.pitch != view.view.pitch || base.view.skin != view.view.skin) continue;
            if (const auto shut = gap_of(base)) gaps.push_back(*here - *shut);
        }
    }
    if (gaps.size() < 2) return {};
    return median(gaps);
}

void carry_to_open(const BaseKit& kit, const BaseKit& opened, std::vector<SurfacePair>& pairs) {
    std::vector<Triangle> all = skin_triangles(kit), lips[2];
    const auto mouth = kit.landmarks.find("stomion");
    for (const Triangle& t : all) {
        if (mouth == kit.landmarks.end()) break;
        if ((kit.mesh.positions[t[0]] - mouth->second.at(kit.mesh.positions)).norm() > kMouthMm) continue;
        const double share = (jaw_share(kit, t[0]) + jaw_share(kit, t[1]) + jaw_share(kit, t[2])) / 3;
        lips[share > 0.5].push_back(t);
    }
    const SurfaceQuery whole(kit.mesh.positions, all), upper(kit.mesh.positions, lips[0]), lower(kit.mesh.positions, lips[1]);
    for (SurfacePair& pair : pairs) {
        const bool above = one_of(kUpperInner, pair.point) && !lips[0].empty(), below = one_of(kLowerInner, pair.point) && !lips[1].empty();
        const SurfaceQuery& query = above ? upper : below ? lower : whole;
        const std::vector<Triangle>& triangles = above ? lips[0] : below ? lips[1] : all;
        const SurfaceHit hit = query.closest(pair.base, 30);
        if (!hit) continue;
        Vec3 moved = pair.base - hit.position;
        for (std::size_t k = 0; k < 3; ++k) moved += hit.barycentric[k] * opened.mesh.positions[triangles[hit.triangle][k]];
        pair.base = moved;
    }
}

}  // namespace veld
