#include "core/tidy/repair.h"

#include <algorithm>
#include <numeric>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

FaceMask usable_faces(const Mesh& mesh, const std::vector<Index>& place, std::size_t& degenerate,
                      std::size_t& repeated) {
    FaceMask keep(mesh.face_count(), 1);
    // the corners in ascending order name a face; only the smallest three are needed to sort, all to compare
    std::vector<std::pair<std::array<Index, 3>, Index>> keys;
    keys.reserve(mesh.face_count());
    std::vector<Index> ring;
    const auto sorted = [&](Index f) {
        ring.clear();
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
            ring.push_back(place[mesh.corner_vertex[c]]);
        std::sort(ring.begin(), ring.end());
        return ring;
    };
    for (Index f = 0; f < mesh.face_count(); ++f) {
        sorted(f);
        if (std::adjacent_find(ring.begin(), ring.end()) != ring.end() || face_normal(mesh, f).squaredNorm() == 0)
            keep[f] = 0, ++degenerate;
        else
            keys.push_back({{ring[0], ring[1], ring[2]}, f});
    }
    std::sort(keys.begin(), keys.end());
    for (std::size_t i = 1; i < keys.size(); ++i) {
        if (keys[i].first != keys[i - 1].first) continue;
        const auto mine = sorted(keys[i].second);
        for (std::size_t j = i; j-- > 0 && keys[j].first == keys[i].first;) {
            if (!keep[keys[j].second] || sorted(keys[j].second) != mine) continue;
            keep[keys[i].second] = 0, ++repeated;
            break;
        }
    }
    return keep;
}

Changed unchanged(const Mesh& mesh, const std::string& said) {
    Changed out;
    out.mesh = mesh;
    out.said = said;
    return out;
}

// A place beside the corner's vertex, a ten-thousandth of the way into its face: whatever sees through
// seams (vertices at one place) must not join again what was cut apart.
Vec3 set_off(const Mesh& mesh, Index corner) {
    const auto face = static_cast<Index>(std::upper_bound(mesh.face_start.begin(), mesh.face_start.end(), corner) -
                                         mesh.face_start.begin() - 1);
    const Vec3& p = mesh.positions[mesh.corner_vertex[corner]];
    return p + 1e-4 * (face_centre(mesh, face) - p);
}

// Per corner a number that is the same for corners which the faces around a vertex join.
std::vector<Index> corner_fans(const Mesh& mesh, const EdgeLinks& links) {
    std::vector<Index> parent(mesh.corner_vertex.size());
    std::iota(parent.begin(), parent.end(), 0);
    const auto find = [&](Index i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    };
    const auto join = [&](Index a, Index b) {
        a = find(a), b = find(b);
        if (a != b) parent[std::max(a, b)] = std::min(a, b);
    };
    for (Index c = 0; c < links.mate.size(); ++c) {
        const Index m = links.mate[c];
        if (m >= kManyFaces || m < c) continue;
        const Index c2 = next_corner(mesh, links, c), m2 = next_corner(mesh, links, m);
        // the shared edge joins the corners at each of its ends, whichever way the two faces run
        if (mesh.corner_vertex[c] == mesh.corner_vertex[m])
            join(c, m), join(c2, m2);
        else
            join(c, m2), join(c2, m);
    }
    for (Index c = 0; c < parent.size(); ++c) parent[c] = find(c);
    return parent;
}

// Of the faces at an edge with many, joins the pair that runs on most evenly. Returns how many such edges there are.
std::size_t pair_best(const Mesh& mesh, EdgeLinks& links) {
    std::vector<std::pair<std::pair<Index, Index>, Index>> many;
    for (Index c = 0; c < links.mate.size(); ++c) {
        if (links.mate[c] != kManyFaces) continue;
        const Index a = mesh.corner_vertex[c], b = mesh.corner_vertex[next_corner(mesh, links, c)];
        many.push_back({{std::min(a, b), std::max(a, b)}, c});
        links.mate[c] = kNone;
    }
    std::sort(many.begin(), many.end());
    std::size_t edges = 0;
    for (std::size_t i = 0; i < many.size(); ++edges) {
        std::size_t j = i;
        while (j < many.size() && many[j].first == many[i].first) ++j;
        double best = -2;
        Index one = kNone, other = kNone;
        for (std::size_t p = i; p < std::min(j, i + 16); ++p) {
            for (std::size_t q = p + 1; q < std::min(j, i + 16); ++q) {
                const Index c = many[p].second, d = many[q].second;
                const double turn =
                    mesh.corner_vertex[c] == mesh.corner_vertex[d] ? -1 : 1;  // opposite ways: consistent
                const double even = turn * face_normal(mesh, links.corner_face[c])
                                               .normalized()
                                               .dot(face_normal(mesh, links.corner_face[d]).normalized());
                if (even > best) best = even, one = c, other = d;
            }
        }
        if (one != kNone) links.mate[one] = other, links.mate[other] = one;
        i = j;
    }
    return edges;
}

// Faces that still share an edge with more than one other (they hang together around its ends) get
// vertices of their own; the pair that runs on best stays. Returns how many vertices were made.
std::size_t isolate_leftovers(Changed& out) {
    Mesh& m = out.mesh;
    std::size_t made = 0;
    for (;;) {
        EdgeLinks links = link_edges(m);
        std::vector<Index> many;
        for (Index c = 0; c < links.mate.size(); ++c) {
            if (links.mate[c] == kManyFaces) many.push_back(c);
        }
        if (many.empty()) return made;
        (void)pair_best(m, links);
        FaceMask loose(m.face_count(), 0);
        for (Index c : many) loose[links.corner_face[c]] |= links.mate[c] == kNone;
        for (Index f = 0; f < m.face_count(); ++f) {
            for (Index c = m.face_start[f]; c < m.face_start[f + 1] && loose[f]; ++c) {
                const Index v = m.corner_vertex[c];
                m.positions.push_back(set_off(m, c));
                m.corner_vertex[c] = m.vertex_count() - 1;
                if (!m.colours.empty()) m.colours.push_back(Colour(m.colours[v]));
                out.origin.push_back(out.origin[v]);
                ++made;
            }
        }
    }
}

}  // namespace

Changed remove_broken_faces(const Mesh& mesh, const Progress& progress) {
    progress.say(0, "Looking for broken faces");
    std::size_t degenerate = 0, repeated = 0;
    const FaceMask keep = usable_faces(mesh, same_place(mesh.positions), degenerate, repeated);
    VertexMask used(mesh.positions.size(), 0);
    for (Index v : mesh.corner_vertex) used[v] = 1;
    const std::size_t unused = static_cast<std::size_t>(std::count(used.begin(), used.end(), 0));
    if (degenerate + repeated + unused == 0) return unchanged(mesh, "No broken faces.");
    Changed out = keep_faces(mesh, keep);
    out.count = degenerate + repeated + unused;
    out.said = counted(degenerate, "face") + " without area, " + counted(repeated, "repeated face") + " and " +
               counted(unused, "unused vertex", "unused vertices") + " were taken out.";
    return out;
}

Changed split_non_manifold(const Mesh& mesh, const Progress& progress) {
    progress.say(0, "Looking for edges with many faces");
    EdgeLinks links = link_edges(mesh);
    const std::size_t edges = pair_best(mesh, links);
    const std::vector<Index> fan = corner_fans(mesh, links);
    Changed out;
    out.mesh = mesh;
    Mesh& m = out.mesh;
    std::vector<Index> fan_of_vertex(mesh.positions.size(), kNone), vertex_of_fan(fan.size(), kNone);
    for (Index v = 0; v < mesh.positions.size(); ++v) out.origin.push_back(v);
    for (Index c = 0; c < fan.size(); ++c) {
        const Index v = mesh.corner_vertex[c];
        Index& vertex = vertex_of_fan[fan[c]];
        if (vertex == kNone && fan_of_vertex[v] == kNone) {
            fan_of_vertex[v] = fan[c];
            vertex = v;
        } else if (vertex == kNone) {
            vertex = static_cast<Index>(m.positions.size());
            m.positions.push_back(set_off(mesh, c));
            if (!m.colours.empty()) m.colours.push_back(mesh.colours[v]);
            out.origin.push_back(v);
            ++out.count;
        }
        m.corner_vertex[c] = vertex;
    }
    out.count += isolate_leftovers(out);
    out.said = out.count == 0 ? "Every edge has one or two faces."
                              : counted(edges, "edge") + " with many faces cut apart; " +
                                    counted(out.count, "vertex was", "vertices were") + " doubled.";
    return out;
}

Changed turn_outward(const Mesh& mesh, const Progress& progress) {
    progress.say(0, "Turning faces outward");
    const std::vector<Index> place = same_place(mesh.positions);
    const EdgeLinks links = link_edges(mesh, place);
    FaceMask flip(mesh.face_count(), 0), seen(mesh.face_count(), 0);
    std::vector<Index> piece;
    std::size_t turned = 0;
    for (Index seed = 0; seed < mesh.face_count(); ++seed) {
        if (seen[seed]) continue;
        piece.assign(1, seed);
        seen[seed] = 1;
        bool closed = true;
        for (std::size_t i = 0; i < piece.size(); ++i) {
            const Index f = piece[i];
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                const Index m = links.mate[c];
                if (m >= kManyFaces) {
                    closed &= m == kManyFaces;
                    continue;
                }
                const Index g = links.corner_face[m];
                if (seen[g]) continue;
                seen[g] = 1;
                const bool same_way = place[mesh.corner_vertex[c]] == place[mesh.corner_vertex[m]];
                flip[g] = flip[f] ^ static_cast<std::uint8_t>(same_way);
                piece.push_back(g);
            }
        }
        Vec3 middle = Vec3::Zero();
        double area = 0;
        for (Index f : piece) {
            const double a = face_normal(mesh, f).norm();
            middle += a * face_centre(mesh, f);
            area += a;
        }
        if (area > 0) middle /= area;
        double outward = 0;  // six times the volume for a closed piece, likewise a vote for an open one
        for (Index f : piece) outward += (flip[f] ? -1 : 1) * face_normal(mesh, f).dot(face_centre(mesh, f) - middle);
        // an open piece that says next to nothing keeps the turn of most of its area
        if (!closed && std::abs(outward) < 0.02 * area * std::sqrt(area)) {
            double kept = 0;
            for (Index f : piece) kept += (flip[f] ? -1 : 1) * face_normal(mesh, f).norm();
            outward = kept;
        }
        for (Index f : piece) {
            if (outward < 0) flip[f] ^= 1;
            turned += flip[f];
        }
    }
    if (turned == 0) return unchanged(mesh, "All faces face outward.");
    Changed out = flip_faces(mesh, flip);
    out.said = counted(turned, "face was", "faces were") + " turned around.";
    return out;
}

Changed flip_faces(const Mesh& mesh, const FaceMask& selected) {
    Changed out;
    out.mesh = mesh;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (!selected.empty() && !selected[f]) continue;
        ++out.count;
        const auto turn = [&](std::vector<Index>& corners) {
            if (!corners.empty())
                std::reverse(corners.begin() + mesh.face_start[f], corners.begin() + mesh.face_start[f + 1]);
        };
        turn(out.mesh.corner_vertex), turn(out.mesh.corner_uv), turn(out.mesh.corner_normal);
    }
    // normals of the file would point the wrong way now
    if (out.count > 0) out.mesh.normals.clear(), out.mesh.corner_normal.clear();
    out.said = counted(out.count, "face was", "faces were") + " flipped.";
    return out;
}

Changed recompute_normals(const Mesh& mesh) {
    Changed out;
    out.mesh = mesh;
    out.mesh.normals = seamless_normals(mesh.positions, triangulate(mesh).triangles, same_place(mesh.positions));
    out.mesh.corner_normal = mesh.corner_vertex;
    out.count = mesh.positions.size();
    out.said = "Normals of " + counted(out.count, "vertex", "vertices") + " computed anew.";
    return out;
}

FaceMask small_components(const Mesh& mesh, const ComponentLimits& limits) {
    Index count = 0;
    const std::vector<Index> piece = face_components(mesh, same_place(mesh.positions), &count);
    std::vector<double> area(count, 0);
    std::vector<Box> box(count);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        area[piece[f]] += face_normal(mesh, f).norm();
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
            box[piece[f]].add(mesh.positions[mesh.corner_vertex[c]]);
    }
    FaceMask small(mesh.face_count(), 0);
    if (count == 0) return small;
    const Index largest = static_cast<Index>(std::max_element(area.begin(), area.end()) - area.begin());
    std::vector<std::uint8_t> goes(count, 0);
    for (Index p = 0; p < count; ++p) {
        if (p == largest) continue;
        goes[p] =
            limits.only_largest || area[p] < limits.share * area[largest] || box[p].size().maxCoeff() < limits.size;
    }
    for (Index f = 0; f < mesh.face_count(); ++f) small[f] = goes[piece[f]];
    return small;
}

Changed remove_small_components(const Mesh& mesh, const ComponentLimits& limits, const Progress& progress) {
    progress.say(0, "Finding small components");
    FaceMask mask = small_components(mesh, limits);
    std::size_t faces = 0;
    for (std::uint8_t& m : mask) faces += m, m = !m;
    if (faces == 0) return unchanged(mesh, "No component is that small.");
    Index before = 0, after = 0;
    (void)face_components(mesh, same_place(mesh.positions), &before);
    Changed out = keep_faces(mesh, mask);
    (void)face_components(out.mesh, same_place(out.mesh.positions), &after);
    out.said = counted(before - after, "small component") + " (" + counted(faces, "face") + ") were taken out.";
    return out;
}

}  // namespace veld
