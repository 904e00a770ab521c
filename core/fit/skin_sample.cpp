#include "core/fit/skin_sample.h"

#include <tbb/parallel_for.h>

#include "core/kit/flesh.h"
#include "core/linalg/statistics.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kFacing = 0.5;
// a little of the plain distance: planes alone let arms and legs slide
constexpr double kPlain = 0.05;

}  // namespace

SkinSample skin_sample(const BaseKit& kit, const VertexIndices& vertices, const Points& normals, std::size_t count) {
    SkinSample out;
    const std::vector<double> firm = firmness(kit);
    const std::size_t step = std::max<std::size_t>(1, vertices.size() / count);
    for (std::size_t i = 0; i < vertices.size(); i += step) {
        out.push_back(skin_place(kit, vertices[i], normals[vertices[i]]));
        out.back().firm = firm[vertices[i]];
    }
    return out;
}

std::vector<double> add_matches(PoseSolver& solver, const SkinSample& sample, const SourceSurface& surface,
                                double reach) {
    std::vector<SurfaceHit> hits(sample.size());
    tbb::parallel_for(std::size_t{0}, sample.size(), [&](std::size_t i) {
        const FacingFilter facing{solver.normal_at(sample[i]), kFacing};
        hits[i] = surface.closest(solver.at(sample[i]), 2 * reach, &facing);
    });
    std::vector<double> distances;
    for (std::size_t i = 0; i < sample.size(); ++i) {
        const SurfaceHit& hit = hits[i];
        if (!hit || surface.on_border(hit)) continue;
        distances.push_back(hit.distance);
        const Vec3 n = surface.query->triangle_normals()[hit.triangle];
        const Mat3 weight = sample[i].firm * geman_mcclure(hit.distance, reach) *
                            (n * n.transpose() + kPlain * Mat3(Mat3::Identity()));
        solver.want(sample[i], hit.position - solver.at(sample[i]), weight);
    }
    return distances;
}

void add_back_matches(PoseSolver& solver, const SkinSample& dense, const Points& points, double reach, double weight) {
    Points places;
    for (const SkinPlace& place : dense) places.push_back(solver.at(place));
    const NearestPoints nearest(places, 2 * reach);
    for (const Vec3& p : points) {
        const Index i = nearest.nearest(p);
        if (i == kNone) continue;
        const Vec3 gap = p - places[i], n = solver.normal_at(dense[i]);
        solver.want(dense[i], gap,
                    weight * dense[i].firm * geman_mcclure(gap.norm(), reach) *
                        (n * n.transpose() + kPlain * Mat3(Mat3::Identity())));
    }
}

Points surface_sample(const SourceSurface& surface, std::size_t count) {
    const auto corners = [&](const Triangle& t) {
        return std::array<Vec3, 3>{surface.positions[t[0]], surface.positions[t[1]], surface.positions[t[2]]};
    };
    const auto area = [&](const Triangle& t) {
        const auto p = corners(t);
        return (p[1] - p[0]).cross(p[2] - p[0]).norm();
    };
    double whole = 0;
    for (const Triangle& t : surface.triangles) whole += area(t);
    const double step = whole / static_cast<double>(count);
    Points out;
    double sum = 0;
    for (const Triangle& t : surface.triangles) {
        sum += area(t);
        if (sum < step * (0.5 + static_cast<double>(out.size()))) continue;
        const auto p = corners(t);
        out.push_back((p[0] + p[1] + p[2]) / 3);
    }
    return out;
}

double apart(const PoseSolver& solver, const SkinSample& sample, const SkinSample& dense, const SourceSurface& surface,
             const Points& points, double most) {
    double there = 0, back = 0;
    Points places;
    for (const SkinPlace& place : dense) places.push_back(solver.at(place));
    for (const SkinPlace& place : sample) {
        const Vec3 now = solver.at(place);
        const FacingFilter facing{solver.normal_at(place), kFacing};
        const SurfaceHit hit = surface.closest(now, most, &facing);
        there += hit ? hit.distance : most;
    }
    const NearestPoints nearest(places, most);
    for (const Vec3& p : points) {
        const Index i = nearest.nearest(p);
        back += i == kNone ? most : std::min(most, (places[i] - p).norm());
    }
    const auto mean = [](double sum, std::size_t n) { return n == 0 ? 0 : sum / static_cast<double>(n); };
    return 0.5 * (mean(there, sample.size()) + mean(back, points.size()));
}

}  // namespace veld
