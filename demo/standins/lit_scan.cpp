#include "demo/standins/lit_scan.h"

#include <tbb/parallel_for.h>

#include <cmath>
#include <random>

#include "core/io/map_image.h"
#include "core/linalg/statistics.h"
#include "core/spatial/openness.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr int kRays = 24;      // to the lamp, a vertex
constexpr double kGloss = 28;  // exponent of the highlight [Blinn 1977]
constexpr double kLiftMm = 0.3, kUsedShare = 0.985;

}  // namespace

Mesh lit_scan(const Mesh& plain, const LitBy& by) {
    const Triangulation fans = triangulate(plain);
    const Points normals = vertex_normals(plain.positions, fans.triangles);
    const SurfaceQuery query(plain.positions, fans.triangles);
    const std::vector<float> open = openness_of(plain.positions, normals, fans.triangles, query, {}, {});
    const Vec3 lamp = by.towards.normalized(), side = lamp.unitOrthogonal(), up = lamp.cross(side);
    std::vector<Vec3> rays;
    for (int k = 0; k < kRays; ++k) {
        const double r = by.spread * std::sqrt((k + 0.5) / kRays), turn = 2.399963 * k;
        rays.push_back((lamp + r * (std::cos(turn) * side + std::sin(turn) * up)).normalized());
    }
    Points light(plain.positions.size());
    tbb::parallel_for(std::size_t{0}, light.size(), [&](std::size_t v) {
        const Vec3 &n = normals[v], from = plain.positions[v] + kLiftMm * n;
        double arrives = 0;
        for (const Vec3& ray : rays) {
            if (n.dot(ray) <= 0 || query.first_hit(from, ray)) continue;
            const double along = (by.plate - from).dot(ray);
            if (by.plate_radius > 0 && along > 0 && (from + along * ray - by.plate).norm() < by.plate_radius) continue;
            arrives += 1.0 / kRays;
        }
        const double everywhere = (0.75 + 0.25 * n.y()) * (0.25 + 0.75 * open[v]);
        const Colour& c = plain.colours[v];
        const Vec3 own(srgb_to_linear(c.r / 255.0), srgb_to_linear(c.g / 255.0), srgb_to_linear(c.b / 255.0));
        const double half = std::max(0.0, n.dot((lamp + Vec3::UnitZ()).normalized()));
        light[v] = own * everywhere +
                   own.cwiseProduct(by.tint) * (by.strength * arrives * std::max(0.0, n.dot(lamp))) +
                   by.tint * (by.shine * arrives * std::pow(half, kGloss));
    });
    std::vector<double> all;
    for (const Vec3& l : light) all.push_back(l.maxCoeff());
    const double white = quantile(all, kUsedShare);
    Mesh out = plain;
    for (std::size_t v = 0; v < light.size(); ++v) {
        std::uint8_t to[3];
        for (int k = 0; k < 3; ++k)
            to[k] = static_cast<std::uint8_t>(std::lround(255 * linear_to_srgb(std::min(1.0, light[v][k] / white))));
        out.colours[v] = {to[0], to[1], to[2], 255};
    }
    return out;
}

}  // namespace veld
