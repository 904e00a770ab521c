#include "core/touchup/layer.h"

#include <algorithm>

#include "core/fit/follow.h"

namespace veld {
namespace {

constexpr double kNothingMm = 1e-4;

}  // namespace

Points with_touch(const BaseKit& kit, const Points& fitted, const TouchLayer& layer) {
    Points out = fitted;
    if (layer.empty() || layer.strength() == 0) return out;
    for (std::size_t i = 0; i < layer.vertex.size(); ++i) out[layer.vertex[i]] += layer.strength() * layer.move[i];
    lashes_along(kit, fitted, out);
    return out;
}

TouchLayer touch_between(const BaseKit& kit, const Points& fitted, const Points& touched, const TouchLayer& like) {
    TouchLayer out;
    out.amount = like.amount, out.on = like.on;
    std::vector<Index> skin = kit.part("skin")->vertices;
    std::sort(skin.begin(), skin.end());
    for (const Index v : skin) {
        const Vec3 move = (touched[v] - fitted[v]) / like.strength();
        if (move.norm() < kNothingMm) continue;
        out.vertex.push_back(v);
        out.move.push_back(move);
    }
    return out;
}

TouchLayer wiped(const TouchLayer& layer, const VertexIndices& vertices) {
    TouchLayer out;
    out.amount = layer.amount, out.on = layer.on;
    for (std::size_t i = 0; i < layer.vertex.size(); ++i) {
        if (std::find(vertices.begin(), vertices.end(), layer.vertex[i]) != vertices.end()) continue;
        out.vertex.push_back(layer.vertex[i]);
        out.move.push_back(layer.move[i]);
    }
    return out;
}

double largest_touch(const TouchLayer& layer) {
    double most = 0;
    for (const Vec3& m : layer.move) most = std::max(most, m.norm());
    return most * layer.strength();
}

}  // namespace veld
