#include "core/mesh/edges.h"

#include <algorithm>
#include <numeric>

namespace veld {

EdgeLinks link_edges(const Mesh& mesh, const std::vector<Index>& place) {
    const auto at = [&](Index corner) {
        const Index v = mesh.corner_vertex[corner];
        return place.empty() ? v : place[v];
    };
    EdgeLinks out;
    const std::size_t corners = mesh.corner_vertex.size();
    out.mate.assign(corners, kNone);
    out.corner_face.resize(corners);
    for (Index f = 0; f < mesh.face_count(); ++f)
        std::fill(out.corner_face.begin() + mesh.face_start[f], out.corner_face.begin() + mesh.face_start[f + 1], f);
    const auto ends = [&](Index corner) {
        const Index a = at(corner), b = at(next_corner(mesh, out, corner));
        return std::pair{std::min(a, b), std::max(a, b)};
    };
    // corners in buckets by the lower end, so that partners are found among a handful
    std::vector<Index> start(mesh.positions.size() + 1, 0), items(corners);
    for (Index c = 0; c < corners; ++c) ++start[ends(c).first + 1];
    std::partial_sum(start.begin(), start.end(), start.begin());
    {
        std::vector<Index> fill(start.begin(), start.end() - 1);
        for (Index c = 0; c < corners; ++c) items[fill[ends(c).first]++] = c;
    }
    for (std::size_t v = 0; v + 1 < start.size(); ++v) {
        for (Index i = start[v]; i < start[v + 1]; ++i) {
            const Index c = items[i];
            if (out.mate[c] != kNone) continue;
            const auto key = ends(c);
            if (key.first == key.second) continue;
            Index first = kNone, count = 0;
            for (Index j = i + 1; j < start[v + 1]; ++j) {
                if (ends(items[j]).second != key.second) continue;
                if (count++ == 0) first = items[j];
            }
            if (count == 1) out.mate[c] = first, out.mate[first] = c;
            if (count < 2) continue;
            for (Index j = i; j < start[v + 1]; ++j) {
                if (ends(items[j]).second == key.second) out.mate[items[j]] = kManyFaces;
            }
        }
    }
    return out;
}

std::vector<std::vector<Index>> border_loops(const Mesh& mesh, const EdgeLinks& links,
                                             const std::vector<Index>& place) {
    const auto at = [&](Index corner) {
        const Index v = mesh.corner_vertex[corner];
        return place.empty() ? v : place[v];
    };
    const auto open = [&](Index c) { return links.mate[c] == kNone && at(c) != at(next_corner(mesh, links, c)); };
    // open corners that start in a vertex; nearly always one
    std::vector<std::pair<Index, Index>> starts;
    for (Index c = 0; c < links.mate.size(); ++c) {
        if (open(c)) starts.emplace_back(at(c), c);
    }
    std::sort(starts.begin(), starts.end());
    std::vector<char> used(links.mate.size(), 0);
    // the next border edge, found by turning around the vertex through the faces: stays at one fan
    const auto follow = [&](Index c) -> Index {
        const Index v = at(next_corner(mesh, links, c));
        Index turn = next_corner(mesh, links, c);
        for (int guard = 0; guard < 1000; ++guard) {
            if (at(turn) != v) break;
            if (open(turn)) return used[turn] ? kNone : turn;
            const Index mate = links.mate[turn];
            if (mate >= kManyFaces) break;
            turn = next_corner(mesh, links, mate);
        }
        for (auto i = std::lower_bound(starts.begin(), starts.end(), std::pair{v, Index{0}});
             i != starts.end() && i->first == v; ++i) {
            if (!used[i->second]) return i->second;
        }
        return kNone;
    };
    std::vector<std::vector<Index>> loops;
    for (Index c = 0; c < links.mate.size(); ++c) {
        if (used[c] || !open(c)) continue;
        std::vector<Index> loop;
        for (Index at_corner = c; at_corner != kNone && !used[at_corner]; at_corner = follow(at_corner)) {
            used[at_corner] = 1;
            loop.push_back(at_corner);
        }
        const Index last = loop.back();
        if (at(next_corner(mesh, links, last)) == at(loop.front())) loops.push_back(std::move(loop));
    }
    return loops;
}

Vec3 face_normal(const Mesh& mesh, Index face) {
    Vec3 n = Vec3::Zero();
    const Index first = mesh.face_start[face];
    const Vec3& o = mesh.positions[mesh.corner_vertex[first]];
    for (Index c = first + 1; c + 1 < mesh.face_start[face + 1]; ++c) {
        n += (mesh.positions[mesh.corner_vertex[c]] - o).cross(mesh.positions[mesh.corner_vertex[c + 1]] - o);
    }
    return 0.5 * n;
}

Vec3 face_centre(const Mesh& mesh, Index face) {
    Vec3 sum = Vec3::Zero();
    for (Index c = mesh.face_start[face]; c < mesh.face_start[face + 1]; ++c)
        sum += mesh.positions[mesh.corner_vertex[c]];
    return sum / mesh.face_size(face);
}

std::vector<Index> face_components(const Mesh& mesh, const std::vector<Index>& place, Index* count) {
    std::vector<Index> parent(mesh.positions.size());
    std::iota(parent.begin(), parent.end(), 0);
    const auto find = [&](Index i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    };
    const auto join = [&](Index a, Index b) {
        a = find(a), b = find(b);
        if (a != b) parent[std::max(a, b)] = std::min(a, b);
    };
    for (Index v = 0; v < place.size(); ++v) join(v, place[v]);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f] + 1; c < mesh.face_start[f + 1]; ++c)
            join(mesh.corner_vertex[c - 1], mesh.corner_vertex[c]);
    }
    std::vector<Index> number(parent.size(), kNone), out(mesh.face_count());
    Index next = 0;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        Index& n = number[find(mesh.corner_vertex[mesh.face_start[f]])];
        if (n == kNone) n = next++;
        out[f] = n;
    }
    if (count) *count = next;
    return out;
}

}  // namespace veld
