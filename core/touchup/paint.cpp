#include "core/touchup/paint.h"

namespace veld {

void paint_weights(const BaseKit& kit, const std::vector<Touched>& reached, bool erase, bool mirrored,
                   std::vector<float>& weights) {
    const auto touch = [&](Index v, double weight) {
        const auto w = static_cast<float>(std::clamp(weight, 0.0, 1.0));
        weights[v] = erase ? std::min(weights[v], 1 - w) : std::max(weights[v], w);
    };
    for (const Touched& t : reached) {
        touch(t.vertex, t.weight);
        if (mirrored) touch(kit.mirror[t.vertex], t.weight);
    }
}

}  // namespace veld
