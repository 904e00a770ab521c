#include "core/fit/rest_repair.h"

#include <Eigen/Dense>
#include <algorithm>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/linalg/spd_solver.h"
#include "core/rig/pose.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr int kPasses = 3;
constexpr int kRings[] = {2, 4, 7, 11};  // of vertices around a cut that move, tried in turn
constexpr std::size_t kMostOfSkin = 4;   // an area larger than a quarter of the skin is no repair

using Cuts = std::vector<std::pair<Index, Index>>;

// Cuts that are not allowed, near these vertices (all: everywhere that is looked at).
Cuts new_cuts(const BaseKit& kit, const SkinLike& like, const Points& x, const VertexMask* near) {
    const std::vector<Triangle>& skin = skin_triangles(kit);
    TriangleIndices only;
    if (near && !like.only) only = triangles_near(x, skin, *near);
    Cuts out = self_intersections(x, skin, like.only ? like.only : near ? &only : nullptr);
    std::erase_if(
        out, [&](const auto& pair) { return std::binary_search(like.allowed.begin(), like.allowed.end(), pair); });
    return out;
}

VertexMask grown(const BaseKit& kit, VertexMask mask, int rings) {
    const Adjacency& neighbours = kit_neighbours(kit);
    for (int r = 0; r < rings; ++r) {
        const VertexMask before = mask;
        for (Index v = 0; v < before.size(); ++v)
            if (before[v])
                for (const Index* n = neighbours.begin(v); n != neighbours.end(v); ++n) mask[*n] = 1;
    }
    return mask;
}

// A connected piece of the vertices to be moved, with the two rings that hold it.
struct Piece {
    VertexIndices inside, held;
};

std::vector<Piece> pieces_of(const BaseKit& kit, const VertexMask& moved) {
    const Adjacency& neighbours = kit_neighbours(kit);
    VertexMask seen(moved.size(), 0);
    std::vector<Piece> out;
    for (Index first = 0; first < moved.size(); ++first) {
        if (!moved[first] || seen[first]) continue;
        Piece piece;
        piece.inside.push_back(first), seen[first] = 1;
        for (std::size_t i = 0; i < piece.inside.size(); ++i) {
            const Index v = piece.inside[i];
            for (const Index* n = neighbours.begin(v); n != neighbours.end(v); ++n)
                if (moved[*n] && !seen[*n]) seen[*n] = 1, piece.inside.push_back(*n);
        }
        VertexMask mine(moved.size(), 0);
        for (const Index v : piece.inside) mine[v] = 1;
        const VertexMask around = grown(kit, mine, 2);
        for (Index v = 0; v < around.size(); ++v)
            if (around[v] && !mine[v]) piece.held.push_back(v);
        out.push_back(std::move(piece));
    }
    return out;
}

// The affine map that takes the other skin's surroundings of a piece nearest to the shape's.
Eigen::Affine3d map_around(const Points& like, const Points& x, const VertexIndices& held) {
    Vec3 from = Vec3::Zero(), to = Vec3::Zero();
    for (const Index v : held) from += like[v], to += x[v];
    from /= static_cast<double>(held.size()), to /= static_cast<double>(held.size());
    Mat3 square = 1e-3 * static_cast<double>(held.size()) * Mat3::Identity(), cross = square;
    for (const Index v : held) {
        const Vec3 a = like[v] - from;
        square += a * a.transpose(), cross += (x[v] - to) * a.transpose();
    }
    Eigen::Affine3d out = Eigen::Affine3d::Identity();
    out.linear() = square.ldlt().solve(cross.transpose()).transpose();
    out.translation() = to - out.linear() * from;
    return out;
}

// Rows of the umbrella operator with neighbours weighed by the inverse length of the base's edges.
struct Umbrella {
    std::vector<Index> vertex;
    std::vector<double> weight;
};
Umbrella umbrella_at(const BaseKit& kit, Index v) {
    const Adjacency& neighbours = kit_neighbours(kit);
    Umbrella out{{v}, {-1}};
    double sum = 0;
    for (const Index* n = neighbours.begin(v); n != neighbours.end(v); ++n) {
        out.vertex.push_back(*n);
        out.weight.push_back(1 / std::max(1e-3, (kit.mesh.positions[*n] - kit.mesh.positions[v]).norm()));
        sum += out.weight.back();
    }
    for (std::size_t i = 1; i < out.weight.size(); ++i) out.weight[i] /= sum;
    return out;
}

// The difference from the other skin goes on over the piece: least squares of its umbrellas, held at the two rings.
bool bridge(const BaseKit& kit, const Points& like, const Piece& piece, Points& x) {
    const Eigen::Affine3d map = map_around(like, x, piece.held);
    std::vector<Index> slot(x.size(), kNone);
    for (Index i = 0; i < piece.inside.size(); ++i) slot[piece.inside[i]] = i;
    std::set<Index> rows(piece.inside.begin(), piece.inside.end());
    const Adjacency& neighbours = kit_neighbours(kit);
    for (const Index v : piece.inside)
        for (const Index* n = neighbours.begin(v); n != neighbours.end(v); ++n) rows.insert(*n);
    std::vector<Umbrella> umbrellas;
    std::vector<std::pair<Index, Index>> entries;
    for (const Index v : rows) {
        umbrellas.push_back(umbrella_at(kit, v));
        for (const Index a : umbrellas.back().vertex)
            for (const Index b : umbrellas.back().vertex)
                if (slot[a] != kNone && slot[b] != kNone && slot[a] <= slot[b]) entries.emplace_back(slot[a], slot[b]);
    }
    SpdSolver solver(static_cast<Index>(piece.inside.size()), entries);
    Points right(piece.inside.size(), Vec3::Zero());
    auto& values = solver.values();
    std::fill(values.begin(), values.end(), 0);
    for (const Umbrella& u : umbrellas) {
        Vec3 known = Vec3::Zero();
        for (std::size_t i = 0; i < u.vertex.size(); ++i)
            if (slot[u.vertex[i]] == kNone) known += u.weight[i] * (x[u.vertex[i]] - map * like[u.vertex[i]]);
        for (std::size_t i = 0; i < u.vertex.size(); ++i) {
            const Index a = slot[u.vertex[i]];
            if (a == kNone) continue;
            right[a] -= u.weight[i] * known;
            for (std::size_t k = 0; k < u.vertex.size(); ++k) {
                const Index b = slot[u.vertex[k]];
                if (b != kNone && a <= b) values[solver.slot(a, b)] += u.weight[i] * u.weight[k];
            }
        }
    }
    if (!solver.factor()) return false;
    const Points difference = solver.solve(right);
    for (Index i = 0; i < piece.inside.size(); ++i) x[piece.inside[i]] = map * like[piece.inside[i]] + difference[i];
    return true;
}

VertexMask cut_vertices(const BaseKit& kit, const Cuts& cuts) {
    VertexMask out(kit.mesh.positions.size(), 0);
    for (const auto& [a, b] : cuts)
        for (const Index t : {a, b})
            for (const Index v : skin_triangles(kit)[t]) out[v] = 1;
    return out;
}

// One piece, when that leaves fewer cuts.
void mend(const BaseKit& kit, const SkinLike& like, const Piece& piece, Points& rest) {
    VertexMask mine(rest.size(), 0);
    for (const Index v : piece.inside) mine[v] = 1;
    const auto cuts_in = [&](const Points& x) {
        std::size_t count = 0;
        for (const auto& [a, b] : new_cuts(kit, like, x, &mine)) {
            const auto touched = [&](Index t) {
                const Triangle& corners = skin_triangles(kit)[t];
                return mine[corners[0]] || mine[corners[1]] || mine[corners[2]];
            };
            count += touched(a) || touched(b);
        }
        return count;
    };
    Points now = rest;
    if (bridge(kit, like.shape, piece, now) && cuts_in(now) < cuts_in(rest)) rest = std::move(now);
}

}  // namespace

RestRepair repair_like(const BaseKit& kit, const SkinLike& like, Points& rest) {
    RestRepair out;
    Cuts cuts = new_cuts(kit, like, rest, nullptr);
    out.cuts_before = out.cuts_after = static_cast<Index>(cuts.size());
    const Points before = rest;
    // what one ring size mended gives another one new ground
    for (std::size_t step = 0; step < kPasses * std::size(kRings) && !cuts.empty(); ++step) {
        const VertexMask moved = grown(kit, cut_vertices(kit, cuts), kRings[step % std::size(kRings)]);
        for (const Piece& piece : pieces_of(kit, moved))
            if (piece.held.size() > 3 && piece.inside.size() < kit.part("skin")->vertices.size() / kMostOfSkin)
                mend(kit, like, piece, rest);
        cuts = new_cuts(kit, like, rest, nullptr);
        out.cuts_after = static_cast<Index>(cuts.size());
    }
    for (Index v = 0; v < rest.size(); ++v)
        if (rest[v] != before[v]) out.vertices.push_back(v);
    return out;
}

RestRepair repair_rest(const BaseKit& kit, Points& rest) {
    return repair_like(kit, {kit.mesh.positions, skin_cuts(kit)}, rest);
}

RestRepair repair_rest(const BaseKit& kit, const Pose& pose, Points& posed) {
    const Points rest = unposed(posed, kit.joints, kit.weights, pose);
    Points mended = rest;
    RestRepair out = repair_rest(kit, mended);
    if (out.vertices.empty()) return out;
    const Points again = posed_again(mended, posed, kit.joints, kit.weights, pose);
    for (const Index v : out.vertices) posed[v] = again[v];
    return out;
}

}  // namespace veld
