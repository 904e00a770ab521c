#include "core/linalg/surface_energy.h"

#include <tbb/parallel_for.h>

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <map>

#include "core/linalg/sort_in_rows.h"

namespace veld {
namespace {

constexpr double kLeastCotangent = 0.05;  // keeps the weights positive on needle triangles

struct WeightedEdge {
    Index from, to;
    double weight;
};
struct WeightedEdges {
    std::vector<WeightedEdge> list;  // both directions; by from, to, weight
    std::vector<double> area;
};

void add_triangle(const Points& x, Index a, Index b, Index c, double share, WeightedEdges& out) {
    const Index v[3] = {a, b, c};
    const double twice = (x[b] - x[a]).cross(x[c] - x[a]).norm();
    for (int k = 0; k < 3; ++k) {
        const Index i = v[(k + 1) % 3], j = v[(k + 2) % 3], o = v[k];
        const double dot = (x[i] - x[o]).dot(x[j] - x[o]);
        const double cot = std::clamp(dot / std::max(twice, 1e-9), kLeastCotangent, 20.0);
        out.list.push_back({i, j, 0.5 * share * cot});
        out.list.push_back({j, i, 0.5 * share * cot});
        out.area[o] += share * twice / 6.0;
    }
}

WeightedEdges cotangent_edges(const Mesh& mesh, const FaceIndices& faces) {
    WeightedEdges out;
    out.area.assign(mesh.positions.size(), 0.0);
    for (Index f : faces) {
        const Index* c = mesh.corner_vertex.data() + mesh.face_start[f];
        const Index n = mesh.face_size(f);
        if (n == 4) {
            for (Index k = 0; k < 4; ++k) add_triangle(mesh.positions, c[k], c[(k + 1) % 4], c[(k + 2) % 4], 0.5, out);
        } else {
            for (Index k = 1; k + 1 < n; ++k) add_triangle(mesh.positions, c[0], c[k], c[k + 1], 1.0, out);
        }
    }
    sort_in_rows(
        out.list, mesh.positions.size(), [](const WeightedEdge& e) { return e.from; },
        [](const WeightedEdge& a, const WeightedEdge& b) { return a.to != b.to ? a.to < b.to : a.weight < b.weight; });
    return out;
}

// The faces around active vertices and around the neighbours of those.
FaceIndices faces_near(const Mesh& mesh, const FaceIndices& faces, const VertexMask& active) {
    VertexMask reached = active;
    const auto touches = [&](Index f, const VertexMask& mask) {
        return std::any_of(mesh.corner_vertex.begin() + mesh.face_start[f],
                           mesh.corner_vertex.begin() + mesh.face_start[f + 1], [&](Index v) { return mask[v] != 0; });
    };
    for (const Index f : faces) {
        if (!touches(f, active)) continue;
        for (Index k = mesh.face_start[f]; k < mesh.face_start[f + 1]; ++k) reached[mesh.corner_vertex[k]] = 1;
    }
    FaceIndices out;
    for (const Index f : faces) {
        if (touches(f, reached)) out.push_back(f);
    }
    return out;
}

// Pattern of L^T L plus L, in unknowns.
std::vector<std::pair<Index, Index>> pattern(const SurfaceStencil& s, std::vector<std::pair<Index, Index>> extra) {
    std::vector<std::pair<Index, Index>> out = std::move(extra);
    std::vector<Index> members;
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) {
        members.clear();
        if (s.unknown[s.ring_vertex[r]] != kNone) members.push_back(s.unknown[s.ring_vertex[r]]);
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            if (s.unknown[s.neighbour[k]] != kNone) members.push_back(s.unknown[s.neighbour[k]]);
        }
        for (std::size_t i = 0; i < members.size(); ++i) {
            for (std::size_t j = 0; j <= i; ++j) out.emplace_back(members[i], members[j]);
        }
    }
    return out;
}

}  // namespace

SurfaceStencil make_stencil(const Mesh& mesh, const FaceIndices& faces, const VertexMask& active) {
    SurfaceStencil s;
    const WeightedEdges edges = cotangent_edges(mesh, faces_near(mesh, faces, active));
    const std::size_t count = mesh.positions.size();
    s.vertex_area = edges.area;
    s.unknown.assign(count, kNone);
    VertexMask ring(count, 0);
    for (Index v = 0; v < count; ++v) {
        if (!active[v] || edges.area[v] <= 0) continue;
        s.unknown[v] = static_cast<Index>(s.vertex.size());
        s.vertex.push_back(v);
        ring[v] = 1;
    }
    for (const WeightedEdge& e : edges.list) {
        if (s.unknown[e.from] != kNone) ring[e.to] = 1;
    }
    s.ring_start.push_back(0);
    std::size_t e = 0;
    for (Index v = 0; v < count; ++v) {
        while (e < edges.list.size() && edges.list[e].from < v) ++e;
        if (!ring[v]) continue;
        s.ring_vertex.push_back(v);
        for (; e < edges.list.size() && edges.list[e].from == v; ++e) {
            const auto& [from, to, weight] = edges.list[e];
            const bool same = s.neighbour.size() > s.ring_start.back() && s.neighbour.back() == to;
            if (same) {
                s.weight.back() += weight;
            } else {
                s.neighbour.push_back(to);
                s.weight.push_back(weight);
            }
        }
        s.ring_start.push_back(static_cast<Index>(s.neighbour.size()));
        s.area.push_back(std::max(edges.area[v], 1e-6));
    }
    return s;
}

namespace {

// The rotation and size that come nearest to the map whose products with the base are given [Umeyama 1991]. By the
// eigenvectors of its square, which take less time than a singular value decomposition; a flat ring is as good.
Mat3 nearest_similarity(const Mat3& cross, double spread) {
    const Eigen::SelfAdjointEigenSolver<Mat3> square(cross.transpose() * cross);  // ascending
    Mat3 v, u;
    v.col(0) = square.eigenvectors().col(2), v.col(1) = square.eigenvectors().col(1);
    v.col(2) = v.col(0).cross(v.col(1));
    const Vec3 first = cross * v.col(0);
    if (first.norm() < 1e-300) return 1.0 / 3 * Mat3::Identity();
    u.col(0) = first.normalized();
    const Vec3 second = cross * v.col(1), rest = second - u.col(0).dot(second) * u.col(0);
    u.col(1) = rest.norm() > 1e-9 * first.norm() ? Vec3(rest.normalized()) : Vec3(u.col(0).unitOrthogonal());
    u.col(2) = u.col(0).cross(u.col(1));
    const double size = (u.transpose() * cross * v).trace();
    return std::clamp(size / std::max(spread, 1e-12), 1.0 / 3, 3.0) * (u * v.transpose());
}

}  // namespace

std::vector<Mat3> local_similarities(const SurfaceStencil& s, const Points& base, const Points& now) {
    std::vector<Mat3> out(s.ring_vertex.size());
    tbb::parallel_for(std::size_t{0}, out.size(), [&](std::size_t r) {
        const Index v = s.ring_vertex[r];
        Mat3 cross = Mat3::Zero();
        double spread = 0;
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const Vec3 b = base[s.neighbour[k]] - base[v], x = now[s.neighbour[k]] - now[v];
            cross += s.weight[k] * x * b.transpose();
            spread += s.weight[k] * b.squaredNorm();
        }
        out[r] = nearest_similarity(cross, spread);
    });
    return out;
}

namespace {

constexpr int kSmoothPasses = 10;  // more changed nothing, fewer let stretch gather between landmarks
constexpr double kAcross = 0.1;

}  // namespace

SurfaceEnergy::SurfaceEnergy(SurfaceStencil stencil, const Points& base, std::vector<std::pair<Index, Index>> extra)
    : stencil_(std::move(stencil)),
      base_(&base),
      solver_(static_cast<Index>(stencil_.vertex.size()), pattern(stencil_, std::move(extra))) {
    prepare_slots();
    set_stiffness(std::vector<double>(base.size(), 1.0));
}

void SurfaceEnergy::prepare_slots() {
    const SurfaceStencil& s = stencil_;
    std::vector<Index> ring_of(base_->size(), kNone);
    for (Index r = 0; r < s.ring_vertex.size(); ++r) ring_of[s.ring_vertex[r]] = r;
    for (const Index v : s.neighbour) ring_neighbour_.push_back(ring_of[v]);
    for (std::size_t u = 0; u < s.vertex.size(); ++u)
        diagonal_.push_back(solver_.slot(static_cast<Index>(u), static_cast<Index>(u)));
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) {
        std::vector<Index> members{s.unknown[s.ring_vertex[r]]};
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) members.push_back(s.unknown[s.neighbour[k]]);
        for (std::size_t i = 0; i < members.size(); ++i) {
            for (std::size_t j = 0; j <= i; ++j) {
                const bool held = members[i] == kNone || members[j] == kNone;
                pair_slot_.push_back(held ? kNone : solver_.slot(members[i], members[j]));
            }
        }
        for (std::size_t i = 1; i < members.size(); ++i) {
            const bool held = members[0] == kNone || members[i] == kNone;
            edge_slot_.push_back(held ? kNone : solver_.slot(members[0], members[i]));
        }
    }
}

void SurfaceEnergy::set_stiffness(const std::vector<double>& stiffness) {
    const SurfaceStencil& s = stencil_;
    const std::size_t slots = solver_.values().size();
    bending_.assign(slots, 0.0);
    stretch_.assign(slots, 0.0);
    ring_stiffness_.resize(s.ring_vertex.size());
    std::size_t pair = 0;
    std::vector<double> row;
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) {
        const Index v = s.ring_vertex[r];
        ring_stiffness_[r] = stiffness[v];
        row.assign(1, 0.0);
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            row.push_back(s.weight[k]);
            row[0] -= s.weight[k];
        }
        const double factor = stiffness[v] / s.area[r];
        for (std::size_t i = 0; i < row.size(); ++i) {
            for (std::size_t j = 0; j <= i; ++j, ++pair) {
                if (pair_slot_[pair] != kNone) bending_[pair_slot_[pair]] += factor * row[i] * row[j];
            }
        }
        // each edge is seen from both ends, so half of it here
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const double w = 0.5 * s.weight[k] * stiffness[v];
            const Index a = s.unknown[v], b = s.unknown[s.neighbour[k]];
            if (a != kNone) stretch_[diagonal_[a]] += w;
            if (b != kNone) stretch_[diagonal_[b]] += w;
            if (edge_slot_[k] != kNone) stretch_[edge_slot_[k]] -= w;
        }
    }
}

std::vector<Mat3> SurfaceEnergy::smooth_local_maps(const Points& now) const {
    const SurfaceStencil& s = stencil_;
    std::vector<Mat3> local = local_similarities(s, *base_, now), next(local.size());
    tbb::parallel_for(std::size_t{0}, local.size(), [&](std::size_t r) {
        const Vec3 b0 = (*base_)[s.ring_vertex[r]], x0 = now[s.ring_vertex[r]];
        Mat3 xb = Mat3::Zero(), bb = Mat3::Zero();
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const Vec3 b = (*base_)[s.neighbour[k]] - b0;
            xb += s.weight[k] * (now[s.neighbour[k]] - x0) * b.transpose();
            bb += s.weight[k] * b * b.transpose();
        }
        // a ring is nearly flat: across it the similarity decides
        const double across = kAcross * bb.trace();
        local[r] = (xb + across * local[r]) * (bb + across * Mat3::Identity()).inverse();
    });
    for (int pass = 0; pass < kSmoothPasses; ++pass) {
        tbb::parallel_for(std::size_t{0}, local.size(), [&](std::size_t r) {
            Mat3 sum = local[r];
            double count = 1;
            for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
                if (ring_neighbour_[k] != kNone) sum += local[ring_neighbour_[k]], count += 1;
            }
            next[r] = sum / count;
        });
        local.swap(next);
    }
    return local;
}

void SurfaceEnergy::assemble(double lambda, double mu, const Points& now, Points& rhs) {
    const SurfaceStencil& s = stencil_;
    const double l4 = lambda * lambda * lambda * lambda, m2 = mu * mu;
    std::vector<double>& values = solver_.values();
    for (std::size_t i = 0; i < values.size(); ++i) values[i] = l4 * bending_[i] + m2 * stretch_[i];
    rhs.assign(s.vertex.size(), Vec3::Zero());
    const std::vector<Mat3> local = smooth_local_maps(now);
    std::vector<Mat3> at_vertex(now.size(), Mat3::Identity());
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) at_vertex[s.ring_vertex[r]] = local[r];
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) {
        const Index v = s.ring_vertex[r];
        Vec3 curve = Vec3::Zero(), held = Vec3::Zero();
        double centre = 0;
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const Index j = s.neighbour[k];
            curve += s.weight[k] * ((*base_)[j] - (*base_)[v]);
            if (s.unknown[j] == kNone) held += s.weight[k] * now[j];
            centre -= s.weight[k];
        }
        if (s.unknown[v] == kNone) held += centre * now[v];
        const Vec3 target = l4 * ring_stiffness_[r] / s.area[r] * (local[r] * curve - held);
        if (s.unknown[v] != kNone) rhs[s.unknown[v]] += centre * target;
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const Index j = s.neighbour[k];
            if (s.unknown[j] != kNone) rhs[s.unknown[j]] += s.weight[k] * target;
            const double w = m2 * 0.5 * s.weight[k] * ring_stiffness_[r];
            const Vec3 edge = 0.5 * (local[r] + at_vertex[j]) * ((*base_)[j] - (*base_)[v]);
            if (s.unknown[v] != kNone)
                rhs[s.unknown[v]] += w * ((s.unknown[j] == kNone ? now[j] : Vec3(Vec3::Zero())) - edge);
            if (s.unknown[j] != kNone)
                rhs[s.unknown[j]] += w * ((s.unknown[v] == kNone ? now[v] : Vec3(Vec3::Zero())) + edge);
        }
    }
}

}  // namespace veld
