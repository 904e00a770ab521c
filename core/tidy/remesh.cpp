#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/spatial/surface_query.h"
#include "core/tidy/resample.h"

namespace veld {
namespace {

// Charts: faces joined by edges whose two sides agree on their UVs.
std::vector<Index> uv_charts(const Mesh& mesh, const std::vector<Index>& place) {
    std::vector<Index> chart(mesh.face_count(), kNone);
    if (mesh.corner_uv.empty()) return chart;
    const EdgeLinks links = link_edges(mesh, place);
    const auto same = [&](Index a, Index b) {
        return a != kNone && b != kNone && (a == b || (mesh.uvs[a] - mesh.uvs[b]).norm() < 1e-9);
    };
    std::vector<Index> queue;
    Index next = 0;
    for (Index seed = 0; seed < mesh.face_count(); ++seed) {
        if (chart[seed] != kNone) continue;
        chart[seed] = next;
        queue.assign(1, seed);
        while (!queue.empty()) {
            const Index f = queue.back();
            queue.pop_back();
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                const Index m = links.mate[c];
                if (m >= kManyFaces) continue;
                const Index g = links.corner_face[m], c2 = next_corner(mesh, links, c),
                            m2 = next_corner(mesh, links, m);
                if (chart[g] != kNone || !same(mesh.corner_uv[c], mesh.corner_uv[m2]) ||
                    !same(mesh.corner_uv[c2], mesh.corner_uv[m]))
                    continue;
                chart[g] = next;
                queue.push_back(g);
            }
        }
        ++next;
    }
    return chart;
}

// What the old surface says at a place.
class OldSurface {
 public:
    explicit OldSurface(const Mesh& mesh)
        : mesh_(mesh),
          tri_(triangulate(mesh)),
          chart_(uv_charts(mesh, same_place(mesh.positions))),
          query_(mesh.positions, tri_.triangles) {}

    const SurfaceQuery& query() const { return query_; }
    SurfaceHit nearest(const Vec3& p) const { return query_.closest(p, std::numeric_limits<double>::infinity()); }
    Index face(const SurfaceHit& hit) const { return tri_.triangle_face[hit.triangle]; }

    // UV of a corner at p of a face whose middle lies at `middle`: within that chart.
    Vec2 uv(const SurfaceHit& middle, const Vec3& p) const {
        const SurfaceHit hit = nearest(p);
        if (hit && chart_[face(hit)] == chart_[face(middle)]) return blend(hit.triangle, hit.barycentric);
        // over the seam: carry on with the affine map of the middle's triangle
        const Triangle& t = tri_.triangles[middle.triangle];
        const Vec3 a = mesh_.positions[t[0]], e = mesh_.positions[t[1]] - a, f = mesh_.positions[t[2]] - a, d = p - a;
        const double ee = e.dot(e), ef = e.dot(f), ff = f.dot(f), det = ee * ff - ef * ef;
        if (!(det > 0)) return blend(middle.triangle, middle.barycentric);
        const double u = (ff * d.dot(e) - ef * d.dot(f)) / det, v = (ee * d.dot(f) - ef * d.dot(e)) / det;
        return blend(middle.triangle, {1 - u - v, u, v});
    }
    Colour colour(const SurfaceHit& hit) const {
        Vec3 sum = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const Colour& c = mesh_.colours[tri_.triangles[hit.triangle][k]];
            sum += hit.barycentric[k] * Vec3(c.r, c.g, c.b);
        }
        return {static_cast<std::uint8_t>(std::lround(sum.x())), static_cast<std::uint8_t>(std::lround(sum.y())),
                static_cast<std::uint8_t>(std::lround(sum.z())), 255};
    }
    Index nearest_vertex(const SurfaceHit& hit) const {
        const std::size_t k = static_cast<std::size_t>(
            std::max_element(hit.barycentric.begin(), hit.barycentric.end()) - hit.barycentric.begin());
        return tri_.triangles[hit.triangle][k];
    }

 private:
    Vec2 blend(Index triangle, const std::array<double, 3>& w) const {
        Vec2 out = Vec2::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const Index uv = mesh_.corner_uv[tri_.triangle_corner[triangle][k]];
            if (uv != kNone) out += w[k] * mesh_.uvs[uv];
        }
        return out;
    }
    const Mesh& mesh_;
    Triangulation tri_;
    std::vector<Index> chart_;
    SurfaceQuery query_;
};

// The surface while its triangles change. Every pass looks at all edges anew and carries out those
// changes that do not touch each other, so nothing but plain arrays has to be kept in step, and odd
// topology is only ever left alone, never walked into.
class Remesher {
 public:
    Remesher(const Mesh& mesh, double edge) : long_(edge * 4 / 3), short_(edge * 4 / 5) {
        const std::vector<Index> place = same_place(mesh.positions);
        points = mesh.positions;
        for (Index f = 0; f < mesh.face_count(); ++f) {
            const Index first = mesh.face_start[f];
            for (Index c = first + 1; c + 1 < mesh.face_start[f + 1]; ++c) {
                const Triangle t{place[mesh.corner_vertex[first]], place[mesh.corner_vertex[c]],
                                 place[mesh.corner_vertex[c + 1]]};
                if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) triangles.push_back(t);
            }
        }
    }

    Points points;
    std::vector<Triangle> triangles;

    // true: there is more to do
    bool split_long();
    bool collapse_short();
    void flip_to_even_valence();
    void relax(const SurfaceQuery& surface);

 private:
    struct Edge {
        Index a, b;                        // a < b
        Index one = kNone, other = kNone;  // triangles
        int count = 0;
    };
    std::vector<Edge> edges() const;
    Vec3 normal(const Triangle& t) const { return (points[t[1]] - points[t[0]]).cross(points[t[2]] - points[t[0]]); }
    double length(const Edge& e) const { return (points[e.a] - points[e.b]).norm(); }
    static Index opposite(const Triangle& t, Index a, Index b) {
        return t[0] != a && t[0] != b ? t[0] : t[1] != a && t[1] != b ? t[1] : t[2];
    }
    // on an open border (1) or on an edge with many faces (2), per vertex
    std::vector<char> rims(const std::vector<Edge>& all) const;
    Adjacency around() const { return vertex_triangles(triangles, static_cast<Index>(points.size())); }
    bool may_collapse(const Edge& e, Index keep, const Vec3& to, const Adjacency& ring) const;

    double long_, short_;
};

std::vector<Remesher::Edge> Remesher::edges() const {
    std::vector<Index> start(points.size() + 1, 0);
    for (const Triangle& t : triangles) {
        for (std::size_t k = 0; k < 3; ++k) ++start[std::min(t[k], t[(k + 1) % 3]) + 1];
    }
    for (std::size_t v = 1; v < start.size(); ++v) start[v] += start[v - 1];
    std::vector<std::pair<Index, Index>> items(3 * triangles.size());  // upper end, triangle
    std::vector<Index> fill(start.begin(), start.end() - 1);
    for (Index i = 0; i < triangles.size(); ++i) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Index a = triangles[i][k], b = triangles[i][(k + 1) % 3];
            items[fill[std::min(a, b)]++] = {std::max(a, b), i};
        }
    }
    std::vector<Edge> out;
    out.reserve(triangles.size() * 3 / 2);
    for (Index v = 0; v + 1 < start.size(); ++v) {
        std::sort(items.begin() + start[v], items.begin() + start[v + 1]);
        for (Index i = start[v]; i < start[v + 1]; ++i) {
            if (i > start[v] && items[i].first == items[i - 1].first) {
                Edge& e = out.back();
                if (e.count++ == 1) e.other = items[i].second;
            } else {
                out.push_back({v, items[i].first, items[i].second, kNone, 1});
            }
        }
    }
    return out;
}

std::vector<char> Remesher::rims(const std::vector<Edge>& all) const {
    std::vector<char> out(points.size(), 0);
    for (const Edge& e : all) {
        const char kind = e.count == 1 ? 1 : e.count > 2 ? 2 : 0;
        out[e.a] = std::max(out[e.a], kind), out[e.b] = std::max(out[e.b], kind);
    }
    return out;
}

bool Remesher::split_long() {
    std::vector<Edge> all = edges();
    std::erase_if(all, [&](const Edge& e) { return e.count > 2 || length(e) <= long_; });
    std::sort(all.begin(), all.end(), [&](const Edge& x, const Edge& y) {
        return length(x) != length(y) ? length(x) > length(y) : std::pair(x.a, x.b) < std::pair(y.a, y.b);
    });
    std::vector<char> used(triangles.size(), 0);
    for (const Edge& e : all) {
        if (used[e.one] || (e.other != kNone && used[e.other])) continue;
        const Index middle = static_cast<Index>(points.size());
        points.push_back(0.5 * (points[e.a] + points[e.b]));
        for (Index i : {e.one, e.other}) {
            if (i == kNone) continue;
            used[i] = 1;
            Triangle second = triangles[i];
            std::replace(triangles[i].begin(), triangles[i].end(), e.a, middle);
            std::replace(second.begin(), second.end(), e.b, middle);
            triangles.push_back(second);
        }
    }
    return !all.empty();
}

bool Remesher::may_collapse(const Edge& e, Index keep, const Vec3& to, const Adjacency& ring) const {
    const Index gone = keep == e.a ? e.b : e.a;
    std::vector<Index> mine, theirs;
    for (const auto& [v, list] : {std::pair{gone, &mine}, std::pair{keep, &theirs}}) {
        for (const Index* i = ring.begin(v); i != ring.end(v); ++i) {
            const Triangle& t = triangles[*i];
            list->insert(list->end(), t.begin(), t.end());
            const bool both =
                (t[0] == e.a || t[1] == e.a || t[2] == e.a) && (t[0] == e.b || t[1] == e.b || t[2] == e.b);
            if (both) continue;
            Triangle moved = t;
            const Vec3 before = normal(t);
            Vec3 p[3];
            for (std::size_t k = 0; k < 3; ++k) {
                p[k] = moved[k] == v ? to : points[moved[k]];
                if (moved[k] != v && (points[moved[k]] - to).norm() > long_) return false;
            }
            const Vec3 after = (p[1] - p[0]).cross(p[2] - p[0]);
            if (after.dot(before) <= 0.2 * after.norm() * before.norm()) return false;
        }
        std::sort(list->begin(), list->end());
        list->erase(std::unique(list->begin(), list->end()), list->end());
    }
    // link condition: beside each other's, only the corners opposite the edge are shared
    std::vector<Index> shared;
    std::set_intersection(mine.begin(), mine.end(), theirs.begin(), theirs.end(), std::back_inserter(shared));
    return shared.size() == static_cast<std::size_t>(2 + e.count);
}

bool Remesher::collapse_short() {
    std::vector<Edge> all = edges();
    const std::vector<char> rim = rims(all);
    std::erase_if(all, [&](const Edge& e) { return e.count > 2 || length(e) >= short_; });
    std::sort(all.begin(), all.end(), [&](const Edge& x, const Edge& y) {
        return length(x) != length(y) ? length(x) < length(y) : std::pair(x.a, x.b) < std::pair(y.a, y.b);
    });
    const Adjacency ring = around();
    std::vector<char> used(points.size(), 0), dead(triangles.size(), 0);
    std::size_t done = 0;
    for (const Edge& e : all) {
        // rims keep their place; an inner edge between two rims would pinch the surface
        if (rim[e.a] == 2 || rim[e.b] == 2 || (rim[e.a] && rim[e.b] && e.count == 2)) continue;
        const Index keep = rim[e.b] && !rim[e.a] ? e.b : e.a, gone = keep == e.a ? e.b : e.a;
        const Vec3 to = rim[keep] != rim[gone] ? points[keep] : Vec3(0.5 * (points[e.a] + points[e.b]));
        bool free = true;
        for (Index v : {e.a, e.b}) {
            for (const Index* i = ring.begin(v); i != ring.end(v) && free; ++i) {
                for (Index w : triangles[*i]) free &= !used[w];
            }
        }
        if (!free || !may_collapse(e, keep, to, ring)) continue;
        for (Index v : {e.a, e.b}) {
            for (const Index* i = ring.begin(v); i != ring.end(v); ++i) {
                for (Index w : triangles[*i]) used[w] = 1;
            }
        }
        dead[e.one] = 1;
        if (e.other != kNone) dead[e.other] = 1;
        for (const Index* i = ring.begin(gone); i != ring.end(gone); ++i) {
            if (!dead[*i]) std::replace(triangles[*i].begin(), triangles[*i].end(), gone, keep);
        }
        points[keep] = to;
        ++done;
    }
    std::size_t write = 0;
    for (std::size_t i = 0; i < triangles.size(); ++i) {
        if (!dead[i]) triangles[write++] = triangles[i];
    }
    triangles.resize(write);
    return done > 0;
}

void Remesher::flip_to_even_valence() {
    const std::vector<Edge> all = edges();
    const std::vector<char> rim = rims(all);
    std::vector<int> valence(points.size(), 0);
    std::vector<std::uint64_t> known;
    known.reserve(all.size());
    for (const Edge& e : all)
        ++valence[e.a], ++valence[e.b], known.push_back(std::uint64_t{e.a} << 32 | e.b);  // ascending
    std::vector<char> used(points.size(), 0);
    for (const Edge& e : all) {
        if (e.count != 2) continue;
        Triangle &s = triangles[e.one], &t = triangles[e.other];
        const Index c = opposite(s, e.a, e.b), d = opposite(t, e.a, e.b);
        if (c == d || used[e.a] || used[e.b] || used[c] || used[d]) continue;
        const auto off = [&](Index v, int change) { return std::abs(valence[v] + change - (rim[v] ? 4 : 6)); };
        if (off(e.a, -1) + off(e.b, -1) + off(c, 1) + off(d, 1) >= off(e.a, 0) + off(e.b, 0) + off(c, 0) + off(d, 0))
            continue;
        if (std::binary_search(known.begin(), known.end(), std::uint64_t{std::min(c, d)} << 32 | std::max(c, d)))
            continue;
        // s holds a, b in its own order; the new pair keeps that order
        const bool forward =
            (s[0] == e.a && s[1] == e.b) || (s[1] == e.a && s[2] == e.b) || (s[2] == e.a && s[0] == e.b);
        const bool t_forward =
            (t[0] == e.a && t[1] == e.b) || (t[1] == e.a && t[2] == e.b) || (t[2] == e.a && t[0] == e.b);
        if (forward == t_forward) continue;  // they face against each other
        const Index a = forward ? e.a : e.b, b = forward ? e.b : e.a;
        const Vec3 ns = normal(s), nt = normal(t);
        if (ns.dot(nt) < 0.8 * ns.norm() * nt.norm()) continue;  // a crease stays
        const Triangle s2{c, a, d}, t2{d, b, c};
        const Vec3 n = ns + nt;
        if (normal(s2).dot(n) <= 0 || normal(t2).dot(n) <= 0) continue;
        s = s2, t = t2;
        used[a] = used[b] = used[c] = used[d] = 1;
        --valence[a], --valence[b], ++valence[c], ++valence[d];
    }
}

void Remesher::relax(const SurfaceQuery& surface) {
    const std::vector<Edge> all = edges();
    const std::vector<char> rim = rims(all);
    const Points normals = vertex_normals(points, triangles);
    Points sum(points.size(), Vec3::Zero());
    std::vector<int> count(points.size(), 0);
    for (const Edge& e : all) sum[e.a] += points[e.b], sum[e.b] += points[e.a], ++count[e.a], ++count[e.b];
    const Adjacency ring = around();
    Points next = points;
    tbb::parallel_for(tbb::blocked_range<Index>(0, static_cast<Index>(points.size()), 1024), [&](const auto& range) {
        for (Index v = range.begin(); v < range.end(); ++v) {
            if (count[v] < 3 || rim[v]) continue;
            Vec3 move = sum[v] / count[v] - points[v];
            move -= normals[v] * normals[v].dot(move);
            const SurfaceHit hit = surface.closest(points[v] + 0.8 * move, 2 * long_);
            if (!hit) continue;
            bool turned = false;
            for (const Index* i = ring.begin(v); i != ring.end(v) && !turned; ++i) {
                const Triangle& t = triangles[*i];
                Vec3 p[3];
                for (std::size_t k = 0; k < 3; ++k) p[k] = t[k] == v ? hit.position : points[t[k]];
                turned = (p[1] - p[0]).cross(p[2] - p[0]).dot(normal(t)) <= 0;
            }
            if (!turned) next[v] = hit.position;
        }
    });
    points.swap(next);
}

void copy_out(const Remesher& made, const Mesh& old, const OldSurface& lookup, Changed& out) {
    Mesh& m = out.mesh;
    m.group_names = old.group_names, m.materials = old.materials, m.material_libraries = old.material_libraries,
    m.images = old.images;
    std::vector<Index> number(made.points.size(), kNone);
    for (const Triangle& t : made.triangles) {
        for (Index v : t) {
            if (number[v] != kNone) continue;
            number[v] = m.vertex_count();
            const SurfaceHit hit = lookup.nearest(made.points[v]);
            m.positions.push_back(made.points[v]);
            out.origin.push_back(hit ? lookup.nearest_vertex(hit) : kNone);
            if (!old.colours.empty()) m.colours.push_back(hit ? lookup.colour(hit) : Colour{});
        }
    }
    for (const Triangle& made_t : made.triangles) {
        const Triangle t{number[made_t[0]], number[made_t[1]], number[made_t[2]]};
        const SurfaceHit middle = lookup.nearest((m.positions[t[0]] + m.positions[t[1]] + m.positions[t[2]]) / 3);
        Triangle uv{kNone, kNone, kNone};
        for (std::size_t i = 0; i < 3 && middle && !old.corner_uv.empty(); ++i) {
            uv[i] = static_cast<Index>(m.uvs.size());
            m.uvs.push_back(lookup.uv(middle, m.positions[t[i]]));
        }
        m.corner_vertex.insert(m.corner_vertex.end(), t.begin(), t.end());
        m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
        if (!old.corner_uv.empty()) m.corner_uv.insert(m.corner_uv.end(), uv.begin(), uv.end());
        const Index like = middle ? lookup.face(middle) : kNone;
        if (!old.face_group.empty()) m.face_group.push_back(like == kNone ? kNone : old.face_group[like]);
        if (!old.face_material.empty()) m.face_material.push_back(like == kNone ? kNone : old.face_material[like]);
    }
}

}  // namespace

Result<Changed> remesh_evenly(const Mesh& mesh, double edge, const Progress& progress) {
    constexpr int kRounds = 5, kPasses = 12;
    double area = 0;
    for (Index f = 0; f < mesh.face_count(); ++f) area += face_normal(mesh, f).norm();
    if (!(edge > 0) || area / (0.433 * edge * edge) > 2e7)
        return Error{ErrorCode::BadInput,
                     "edges this short would make more than 20 million triangles. Choose a longer edge."};
    Remesher surface(mesh, edge);
    const OldSurface old(mesh);
    for (int round = 0; round < kRounds; ++round) {
        for (int pass = 0; pass < 2 * kPasses; ++pass) {
            if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Stopped; nothing was changed."};
            progress.say(0.9 * (round + 0.5 * pass / kPasses) / kRounds, "Remeshing");
            const bool more = pass < kPasses ? surface.split_long() : surface.collapse_short();
            if (!more && pass < kPasses)
                pass = kPasses - 1;
            else if (!more)
                break;
        }
        surface.flip_to_even_valence();
        surface.relax(old.query());
        surface.relax(old.query());
    }
    if (surface.triangles.empty())
        return Error{ErrorCode::BadInput, "nothing would be left: the edge length is larger than the mesh."};
    progress.say(0.9, "Taking over the texture");
    Changed out;
    copy_out(surface, mesh, old, out);
    out.count = out.mesh.face_count();
    out.said = "Remeshed to " + counted(out.count, "triangle") + ".";
    return out;
}

}  // namespace veld
