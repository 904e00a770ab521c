#include "core/spatial/openness.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstring>

#include "core/base/cache.h"
#include "core/mesh/topology.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr std::size_t kReportEvery = 4096;  // vertices
constexpr double kOpennessVersion = 1;      // raised when the same settings come to mean something else

// The i-th of n points that fill a disk evenly (a sunflower's spiral [Vogel 1979]), turned: above each, the direction.
Vec3 direction(int i, int n, double turned) {
    constexpr double kGolden = 2.399963229728653;
    const double r = std::sqrt((i + 0.5) / n), angle = i * kGolden + turned;
    return {r * std::cos(angle), r * std::sin(angle), std::sqrt(std::max(0.0, 1 - r * r))};
}

// Another turn for each vertex, so that neighbours do not share their pattern's faults; 0 .. 2 pi.
double turn_of(std::size_t v) {
    std::uint64_t h = (v + 1) * 0x9e3779b97f4a7c15ull;
    h = (h ^ (h >> 32)) * 0xd6e8feb86659fd93ull;
    return static_cast<double>(h >> 40) / static_cast<double>(1u << 24) * 2 * M_PI;
}

float at_vertex(const Vec3& p, const Vec3& n, double turned, const SurfaceQuery& surface,
                const OpennessSettings& settings) {
    const Vec3 across = std::abs(n.x()) < 0.7 ? Vec3::UnitX() : Vec3::UnitY();
    const Vec3 u = n.cross(across).normalized(), w = n.cross(u);
    const Vec3 from = p + settings.lift_mm * n;
    double open = 0;
    for (int i = 0; i < settings.rays; ++i) {
        const Vec3 d = direction(i, settings.rays, turned);
        const SurfaceHit hit = surface.first_hit(from, d.x() * u + d.y() * w + d.z() * n);
        open += hit ? std::min(1.0, hit.distance / settings.reach_mm) : 1.0;
    }
    return static_cast<float>(open / settings.rays);
}

void smooth(std::vector<float>& values, const Adjacency& next) {
    std::vector<float> out(values.size());
    tbb::parallel_for(std::size_t{0}, values.size(), [&](std::size_t v) {
        float sum = 2 * values[v], weight = 2;
        for (const Index* n = next.begin(static_cast<Index>(v)); n != next.end(static_cast<Index>(v)); ++n)
            sum += values[*n], weight += 1;
        out[v] = sum / weight;
    });
    values = std::move(out);
}

}  // namespace

std::vector<float> openness_of(const Points& positions, const Points& normals, const std::vector<Triangle>& triangles,
                               const SurfaceQuery& surface, const OpennessSettings& settings,
                               const Progress& progress) {
    std::vector<float> out(positions.size(), 1);
    std::atomic<bool> stop{false};
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, positions.size(), [&](std::size_t v) {
        if (stop) return;
        if (normals[v].squaredNorm() > 0.5)
            out[v] = at_vertex(positions[v], normals[v], turn_of(v), surface, settings);
        if (++done % kReportEvery == 0 && progress.is_cancelled()) stop = true;
    });
    if (stop || progress.is_cancelled()) return {};
    const Adjacency next = vertex_neighbours(triangles, static_cast<Index>(positions.size()));
    for (int i = 0; i < settings.smooth_rounds; ++i) smooth(out, next);
    return out;
}

std::vector<float> kept_openness_of(const Points& positions, const Points& normals,
                                    const std::vector<Triangle>& triangles, const SurfaceQuery& surface,
                                    const OpennessSettings& settings, const Progress& progress) {
    CacheKey key;
    const double numbers[] = {kOpennessVersion, static_cast<double>(settings.rays), settings.reach_mm,
                              settings.lift_mm, static_cast<double>(settings.smooth_rounds)};
    key.mix(numbers, sizeof numbers);
    key.mix(positions.data(), positions.size() * sizeof(Vec3));
    key.mix(triangles.data(), triangles.size() * sizeof(Triangle));
    const std::string name = key.file("shade", "bin");
    std::vector<float> out(positions.size());
    const std::size_t bytes = out.size() * sizeof(float);
    if (const auto kept = from_cache(name); kept && kept->size == bytes) {
        std::memcpy(out.data(), kept->data.get(), bytes);
        const auto share = [](float open) { return open >= 0 && open <= 1; };  // not so for NaN either
        if (std::all_of(out.begin(), out.end(), share)) return out;
    }
    out = openness_of(positions, normals, triangles, surface, settings, progress);
    if (!out.empty()) into_cache(name, {reinterpret_cast<const char*>(out.data()), bytes});
    return out;
}

}  // namespace veld
