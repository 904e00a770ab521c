#include "core/kit/lips.h"

#include "core/kit/kit_surface.h"
#include "core/landmark/surface_pick.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kLipReachMm = 8;  // of the mouth line: a lip that lies farther off is none

}  // namespace

int jaw_joint(const BaseKit& kit) {
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        if (kit.joints[j].name == "jaw") return static_cast<int>(j);
    }
    return -1;
}

double jaw_share(const BaseKit& kit, Index vertex) {
    const int jaw = jaw_joint(kit);
    double out = 0;
    for (std::size_t k = 0; k < 4 && jaw >= 0; ++k) {
        if (kit.weights.joint[vertex][k] == jaw) out += kit.weights.weight[vertex][k];
    }
    return out;
}

std::array<TriangleIndices, 2> lip_fans(const BaseKit& kit, double within_mm) {
    std::array<TriangleIndices, 2> out;
    const auto line = kit.curves.find("mouth_line");
    const KitPart* skin = kit.part("skin");
    if (line == kit.curves.end() || !skin || jaw_joint(kit) < 0) return out;
    for (std::size_t i = 0; i < kit.triangulation.triangles.size(); ++i) {
        if (!skin->has_face(kit.triangulation.triangle_face[i])) continue;
        const Triangle& t = kit.triangulation.triangles[i];
        bool near = false;
        for (const SurfacePoint& at : line->second)
            near |= (kit.mesh.positions[t[0]] - at.at(kit.mesh.positions)).norm() < within_mm;
        if (!near) continue;
        const double share = (jaw_share(kit, t[0]) + jaw_share(kit, t[1]) + jaw_share(kit, t[2])) / 3;
        out[share > 0.5].push_back(static_cast<Index>(i));
    }
    return out;
}

void add_inner_lips(BaseKit& kit) {
    const auto line = kit.curves.find("mouth_line");
    if (line == kit.curves.end()) return;
    const auto fans = lip_fans(kit, kLipReachMm);
    for (const bool lower : {false, true}) {
        if (kit.curves.contains(kInnerLips[lower]) || fans[lower].empty()) continue;
        std::vector<Triangle> triangles;
        for (const Index fan : fans[lower]) triangles.push_back(kit.triangulation.triangles[fan]);
        const SurfaceQuery lip(kit.mesh.positions, triangles);
        std::vector<SurfacePoint> places;
        for (const SurfacePoint& at : line->second) {
            SurfaceHit hit = lip.closest(at.at(kit.mesh.positions), kLipReachMm);
            if (!hit) continue;
            hit.triangle = fans[lower][hit.triangle];
            places.push_back(surface_point(kit.triangulation, hit));
        }
        if (places.size() == line->second.size()) kit.curves[kInnerLips[lower]] = std::move(places);
    }
}

}  // namespace veld
