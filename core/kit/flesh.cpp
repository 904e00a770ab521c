#include "core/kit/flesh.h"

#include <algorithm>

#include "core/base/smoothstep.h"

namespace veld {
namespace {

constexpr double kSoftest = 0.12;

// mm on a figure of 1.75 m
struct SoftPlace {
    const char* landmark;
    double radius;
};
constexpr SoftPlace kSoft[] = {{"omphalion", 180},       {"iliospinale_l", 120}, {"iliospinale_r", 120},
                               {"gluteale_l", 150},      {"gluteale_r", 150},    {"trochanterion_l", 140},
                               {"trochanterion_r", 140}, {"thelion_l", 110},     {"thelion_r", 110}};
constexpr double kFigureMm = 1750;

}  // namespace

std::vector<double> firmness(const BaseKit& kit) {
    std::vector<double> out(kit.mesh.positions.size(), 1);
    const double size = bounding_box(kit.mesh.positions).size().y() / kFigureMm;
    for (const SoftPlace& soft : kSoft) {
        const auto at = kit.landmarks.find(soft.landmark);
        if (at == kit.landmarks.end()) continue;
        const Vec3 middle = at->second.at(kit.mesh.positions);
        for (std::size_t v = 0; v < out.size(); ++v) {
            const double away = (kit.mesh.positions[v] - middle).norm() / (size * soft.radius);
            if (away < 1) out[v] = std::min(out[v], kSoftest + (1 - kSoftest) * smoothstep(away));
        }
    }
    return out;
}

}  // namespace veld
