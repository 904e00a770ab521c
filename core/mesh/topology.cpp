#include "core/mesh/topology.h"

#include <algorithm>
#include <bit>
#include <numeric>
#include <tuple>

namespace veld {
namespace {

Adjacency from_pairs(std::vector<std::pair<Index, Index>>& pairs, Index count) {
    std::sort(pairs.begin(), pairs.end());
    pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
    Adjacency out;
    out.start.assign(count + 1, 0);
    out.items.reserve(pairs.size());
    for (const auto& [a, b] : pairs) {
        ++out.start[a + 1];
        out.items.push_back(b);
    }
    std::partial_sum(out.start.begin(), out.start.end(), out.start.begin());
    return out;
}

// Finaliser of SplitMix64 [Steele, Lea, Flood 2014].
std::uint64_t mixed(std::uint64_t x) {
    x += 0x9E3779B97F4A7C15ull;
    x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9ull;
    x = (x ^ (x >> 27)) * 0x94D049BB133111EBull;
    return x ^ (x >> 31);
}

struct Edge {
    Index a, b, owner;
    bool operator<(const Edge& o) const { return std::tie(a, b, owner) < std::tie(o.a, o.b, o.owner); }
    bool same(const Edge& o) const { return a == o.a && b == o.b; }
};

Index find(std::vector<Index>& parent, Index i) {
    while (parent[i] != i) i = parent[i] = parent[parent[i]];
    return i;
}

void join(std::vector<Index>& parent, Index a, Index b) {
    a = find(parent, a);
    b = find(parent, b);
    if (a != b) parent[std::max(a, b)] = std::min(a, b);
}

}  // namespace

Adjacency vertex_neighbours(const std::vector<Triangle>& triangles, Index vertex_count) {
    std::vector<std::pair<Index, Index>> pairs;
    pairs.reserve(triangles.size() * 6);
    for (const Triangle& t : triangles) {
        for (int k = 0; k < 3; ++k) {
            pairs.emplace_back(t[k], t[(k + 1) % 3]);
            pairs.emplace_back(t[(k + 1) % 3], t[k]);
        }
    }
    return from_pairs(pairs, vertex_count);
}

Adjacency vertex_triangles(const std::vector<Triangle>& triangles, Index vertex_count) {
    std::vector<std::pair<Index, Index>> pairs;
    pairs.reserve(triangles.size() * 3);
    for (Index i = 0; i < triangles.size(); ++i) {
        for (Index v : triangles[i]) pairs.emplace_back(v, i);
    }
    return from_pairs(pairs, vertex_count);
}

std::vector<Index> same_place(const Points& positions) {
    // open addressing on the coordinates' bits; -0 and 0 are one place
    std::size_t size = 16;
    while (size < 2 * positions.size()) size *= 2;
    std::vector<Index> table(size, kNone), out(positions.size());
    for (Index v = 0; v < positions.size(); ++v) {
        const Vec3 p = positions[v] + Vec3::Zero();
        std::uint64_t hash = 0;
        for (int k = 0; k < 3; ++k)
            hash = (hash ^ std::bit_cast<std::uint64_t>(p[k])) * 0x9E3779B97F4A7C15ull, hash ^= hash >> 29;
        std::size_t at = hash & (size - 1);
        while (table[at] != kNone && positions[table[at]] != p) at = (at + 1) & (size - 1);
        if (table[at] == kNone) table[at] = v;
        out[v] = table[at];
    }
    return out;
}

std::vector<std::array<bool, 3>> border_edges(const std::vector<Triangle>& triangles,
                                              const std::vector<Index>& representative) {
    std::vector<Edge> edges;
    edges.reserve(triangles.size() * 3);
    for (Index t = 0; t < triangles.size(); ++t) {
        for (Index k = 0; k < 3; ++k) {
            const Index a = representative[triangles[t][k]];
            const Index b = representative[triangles[t][(k + 1) % 3]];
            edges.push_back({std::min(a, b), std::max(a, b), t * 3 + k});
        }
    }
    std::sort(edges.begin(), edges.end());
    std::vector<std::array<bool, 3>> out(triangles.size(), {false, false, false});
    for (std::size_t i = 0; i < edges.size(); ++i) {
        const bool before = i > 0 && edges[i - 1].same(edges[i]);
        const bool after = i + 1 < edges.size() && edges[i + 1].same(edges[i]);
        if (!before && !after) out[edges[i].owner / 3][edges[i].owner % 3] = true;
    }
    return out;
}

std::vector<Index> vertex_components(const Mesh& mesh, Index* count) {
    const std::vector<Index> place = same_place(mesh.positions);
    std::vector<Index> parent(mesh.positions.size());
    std::iota(parent.begin(), parent.end(), 0);
    for (Index v = 0; v < parent.size(); ++v) join(parent, v, place[v]);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f] + 1; c < mesh.face_start[f + 1]; ++c) {
            join(parent, mesh.corner_vertex[c - 1], mesh.corner_vertex[c]);
        }
    }
    std::vector<Index> number(parent.size(), kNone), out(parent.size());
    Index next = 0;
    for (Index v = 0; v < parent.size(); ++v) {
        const Index root = find(parent, v);
        if (number[root] == kNone) number[root] = next++;
        out[v] = number[root];
    }
    if (count) *count = next;
    return out;
}

TopologyReport inspect_topology(const Mesh& mesh) {
    TopologyReport report;
    const std::vector<Index> place = same_place(mesh.positions);
    VertexMask used(mesh.positions.size(), 0);
    std::vector<Edge> edges;
    edges.reserve(mesh.corner_vertex.size());
    std::vector<Index> ring;
    std::vector<std::uint64_t> corner_sets(mesh.face_count());
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index first = mesh.face_start[f], last = mesh.face_start[f + 1];
        ring.clear();
        for (Index c = first; c < last; ++c) {
            const Index next = c + 1 < last ? c + 1 : first;
            const Index a = place[mesh.corner_vertex[c]], b = place[mesh.corner_vertex[next]];
            used[mesh.corner_vertex[c]] = 1;
            ring.push_back(a);
            if (a != b) edges.push_back({std::min(a, b), std::max(a, b), f});
        }
        std::sort(ring.begin(), ring.end());
        Vec3 area = Vec3::Zero();
        for (Index c = first + 1; c + 1 < last; ++c) {
            const Vec3& o = mesh.positions[mesh.corner_vertex[first]];
            area += (mesh.positions[mesh.corner_vertex[c]] - o).cross(mesh.positions[mesh.corner_vertex[c + 1]] - o);
        }
        // equal sets have equal sums of mixed numbers; 64 bits make a chance meeting unlikely even among millions
        for (Index v : ring) corner_sets[f] += mixed(v);
        const bool repeated = std::adjacent_find(ring.begin(), ring.end()) != ring.end();
        if (repeated || area.norm() == 0) ++report.degenerate_faces;
    }
    std::sort(edges.begin(), edges.end());
    std::vector<Index> parent(mesh.positions.size());
    std::iota(parent.begin(), parent.end(), 0);
    VertexMask on_border(mesh.positions.size(), 0);
    for (std::size_t i = 0; i < edges.size();) {
        std::size_t j = i;
        while (j < edges.size() && edges[j].same(edges[i])) ++j;
        if (j - i == 1) {
            ++report.border_edges;
            join(parent, edges[i].a, edges[i].b);
            on_border[edges[i].a] = on_border[edges[i].b] = 1;
        } else if (j - i > 2) {
            ++report.non_manifold_edges;
        }
        i = j;
    }
    for (Index v = 0; v < parent.size(); ++v) {
        if (on_border[v] && find(parent, v) == v) ++report.holes;
        if (place[v] != v) ++report.doubled_vertices;
        if (!used[v]) ++report.unused_vertices;
    }
    std::sort(corner_sets.begin(), corner_sets.end());
    for (std::size_t f = 1; f < corner_sets.size(); ++f) {
        if (corner_sets[f] == corner_sets[f - 1]) ++report.duplicate_faces;
    }
    vertex_components(mesh, &report.components);
    return report;
}

}  // namespace veld
