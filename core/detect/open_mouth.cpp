#include "core/detect/open_mouth.h"

#include <algorithm>
#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kLevelYaw = 25, kMouthMm = 25;

bool level(const FaceView& view) { return view.pitch == 0 && std::abs(view.yaw) < kLevelYaw; }

}  // namespace

std::optional<double> mouth_gap(const FaceReference& reference, const std::vector<SeenView>& views) {
    std::vector<double> gaps;
    for (const SeenView& view : views) {
        if (view.points.empty() || !level(view.view)) continue;
        for (const SeenView& base : reference.views) {
            const bool same = base.view.yaw == view.view.yaw && base.view.pitch == view.view.pitch &&
                              base.view.skin == view.view.skin;
            if (same && !base.points.empty()) gaps.push_back(view.lip_gap - base.lip_gap);
        }
    }
    if (gaps.size() < 2) return {};
    return median(gaps);
}

void carry_to_open(const BaseKit& kit, const BaseKit& opened, std::vector<SurfacePair>& pairs) {
    const std::vector<Triangle>& all = skin_triangles(kit);
    std::vector<Triangle> lips[2];
    const auto fans = lip_fans(kit, kMouthMm);
    for (const bool lower : {false, true}) {
        for (const Index fan : fans[lower]) lips[lower].push_back(kit.triangulation.triangles[fan]);
    }
    const SurfaceQuery whole(kit.mesh.positions, all), upper(kit.mesh.positions, lips[0]),
        lower(kit.mesh.positions, lips[1]);
    for (SurfacePair& pair : pairs) {
        const bool above = one_of(kUpperInnerLip, pair.point) && !lips[0].empty(),
                   below = one_of(kLowerInnerLip, pair.point) && !lips[1].empty();
        const SurfaceQuery& query = above ? upper : below ? lower : whole;
        const std::vector<Triangle>& triangles = above ? lips[0] : below ? lips[1] : all;
        const SurfaceHit hit = query.closest(pair.base, 30);
        if (!hit) continue;
        Vec3 moved = pair.base - hit.position;
        for (std::size_t k = 0; k < 3; ++k)
            moved += hit.barycentric[k] * opened.mesh.positions[triangles[hit.triangle][k]];
        pair.base = moved;
    }
}

}  // namespace veld
