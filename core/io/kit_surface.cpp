#include "core/io/kit_surface.h"

#include <algorithm>

namespace veld {

std::vector<Index> solid_fans(const BaseKit& kit) {
    std::vector<Index> out;
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        const bool lash = std::any_of(kit.parts.begin(), kit.parts.end(), [&](const KitPart& part) { return part.name.starts_with("lash") && face >= part.first_face && face < part.first_face + part.face_count; });
        if (!lash) out.push_back(t);
    }
    return out;
}

std::vector<Triangle> solid_triangles(const BaseKit& kit) {
    std::vector<Triangle> out;
    for (const Index t : solid_fans(kit)) out.push_back(kit.triangulation.triangles[t]);
    return out;
}

}  // namespace veld
