#include "core/fit/denoise.h"

#include <tbb/parallel_for.h>

#include <Eigen/Cholesky>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr int kDenoiseRings = 2;
constexpr std::size_t kLeastNeighbours = 14, kMostNeighbours = 60;
constexpr double kDenoiseReachMm = 6.0;  // surroundings wider than this are no small piece of surface
constexpr double kLeastNoiseMm = 0.01;
constexpr double kForm = 1.35;     // times the noise: what is left is form
constexpr double kSameSide = 0.5;  // cosine between normals of one sheet

using QuadricRow = Eigen::Matrix<double, 6, 1>;

struct Local {
    double height = 0;  // of the quadric over the vertex, along its normal
    double left = -1;   // rms that it leaves; below 0: none
};

// Vertices within some rings, itself first.
void rings(const Adjacency& next, Index v, std::vector<Index>& out) {
    out.assign(1, v);
    std::size_t from = 0;
    for (int ring = 0; ring < kDenoiseRings; ++ring) {
        const std::size_t to = out.size();
        for (; from < to; ++from) {
            for (const Index* j = next.begin(out[from]); j != next.end(out[from]); ++j) {
                if (out.size() < kMostNeighbours && std::find(out.begin(), out.end(), *j) == out.end())
                    out.push_back(*j);
            }
        }
    }
}

Local quadric_at(const Points& x, const Points& normals, const std::vector<Index>& around) {
    const Index v = around.front();
    Vec3 normal = Vec3::Zero();
    double reach = 0;
    for (const Index j : around) {
        if (normals[j].dot(normals[v]) > kSameSide) normal += normals[j];
        reach = std::max(reach, (x[j] - x[v]).norm());
    }
    if (reach > kDenoiseReachMm || !(normal.norm() > 0)) return {};
    normal.normalize();
    const Vec3 u = normal.unitOrthogonal(), w = normal.cross(u);
    Eigen::Matrix<double, 6, 6> m = Eigen::Matrix<double, 6, 6>::Zero();
    QuadricRow right = QuadricRow::Zero();
    std::vector<std::pair<QuadricRow, double>> rows;
    for (const Index j : around) {
        if (normals[j].dot(normal) < kSameSide) continue;
        const Vec3 d = (x[j] - x[v]) / reach;
        const double a = d.dot(u), b = d.dot(w), h = d.dot(normal);
        QuadricRow row;
        row << 1, a, b, a * a, a * b, b * b;
        const double weight = std::exp(-1.2 * (a * a + b * b));
        m += weight * row * row.transpose(), right += weight * h * row;
        rows.emplace_back(row, h);
    }
    if (rows.size() < kLeastNeighbours) return {};
    const QuadricRow fit = m.ldlt().solve(right);
    double sum = 0;
    for (const auto& [row, h] : rows) sum += std::pow(row.dot(fit) - h, 2);
    if (!fit.allFinite()) return {};
    return {reach * fit[0], reach * std::sqrt(sum / static_cast<double>(rows.size() - 6))};
}

}  // namespace

Points denoised(const Points& positions, const std::vector<Triangle>& triangles) {
    // seams are seen through
    const std::vector<Index> place = same_place(positions);
    std::vector<Triangle> joined = triangles;
    for (Triangle& t : joined) {
        for (Index& v : t) v = place[v];
    }
    const Adjacency next = vertex_neighbours(joined, static_cast<Index>(positions.size()));
    const Points normals = vertex_normals(positions, joined);
    std::vector<Local> local(positions.size());
    tbb::parallel_for(std::size_t{0}, positions.size(), [&](std::size_t v) {
        if (place[v] != v || next.begin(static_cast<Index>(v)) == next.end(static_cast<Index>(v))) return;
        thread_local std::vector<Index> around;
        rings(next, static_cast<Index>(v), around);
        if (around.size() >= kLeastNeighbours) local[v] = quadric_at(positions, normals, around);
    });
    std::vector<double> left;
    for (const Local& l : local) {
        if (l.left >= 0) left.push_back(l.left);
    }
    if (left.size() < positions.size() / 4) return {};
    const double noise = median(left);
    if (noise < kLeastNoiseMm) return {};
    Points out = positions;
    for (std::size_t v = 0; v < out.size(); ++v) {
        const Local& l = local[place[v]];
        if (l.left >= 0 && l.left < kForm * noise && std::abs(l.height) < 3 * noise)
            out[v] += l.height * normals[place[v]];
    }
    return out;
}

}  // namespace veld
