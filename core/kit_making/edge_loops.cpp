#include "core/kit_making/edge_loops.h"

#include <algorithm>
#include <deque>
#include <map>
#include <queue>
#include <set>

#include "core/mesh/edges.h"

namespace veld {
namespace {

// all against the length of the edges there
constexpr double kBeginsNear = 0.75;  // an edge this near to the border or line may belong to its loop
constexpr double kStaysNear = 1.6;    // no part of the loop is farther from it
constexpr double kMeanNear = 0.6;     // nor farther than this in the mean
constexpr double kReach = 3;          // how far is looked
constexpr double kChange = 0.35;      // of a region's vertices: more is another region
constexpr double kCovered = 0.85;     // of a line's length
constexpr double kAlong = 0.8;        // cosine between an edge and the line
constexpr double kFarMm = 1e9;

struct Walk {
    VertexIndices vertices;
    bool closed = false;
};

struct OnLine {
    double distance = kFarMm, along = 0;  // along: length of the line up to the nearest place
    Vec3 direction = Vec3::Zero();
};

OnLine on_line(const Vec3& p, const Points& line) {
    OnLine best;
    double before = 0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vec3 way = line[i + 1] - line[i];
        const double length = way.norm();
        if (!(length > 0)) continue;
        const double t = std::clamp((p - line[i]).dot(way) / (length * length), 0.0, 1.0);
        const double d = (p - line[i] - t * way).norm();
        if (d < best.distance) best = {d, before + t * length, way / length};
        before += length;
    }
    return best;
}

double length_of(const Points& line) {
    double out = 0;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) out += (line[i + 1] - line[i]).norm();
    return out;
}

}  // namespace

struct EdgeLoops::Inside {
    const Mesh& mesh;
    EdgeLinks links;
    std::vector<Index> corners;              // of the skin
    std::vector<Index> corner_at;            // per vertex one of the skin's corners; kNone: none
    std::vector<std::uint8_t> faces_around;  // per vertex
    std::vector<std::uint8_t> on_border;
    std::vector<VertexIndices> around;  // per vertex of the skin its neighbours along edges
    std::vector<double> edge_mm;        // per vertex, the mean of its edges

    Inside(const Mesh& m, const FaceIndices& faces) : mesh(m), links(link_edges(m)) {
        const std::size_t count = m.positions.size();
        corner_at.assign(count, kNone), faces_around.assign(count, 0), on_border.assign(count, 0);
        around.resize(count), edge_mm.assign(count, 0);
        for (const Index f : faces) {
            for (Index c = m.face_start[f]; c < m.face_start[f + 1]; ++c) {
                const Index v = from(c), w = to(c);
                corners.push_back(c), corner_at[v] = c;
                if (faces_around[v] < 255) ++faces_around[v];
                around[v].push_back(w), around[w].push_back(v);
                if (links.mate[c] >= kManyFaces) on_border[v] = on_border[w] = 1;
            }
        }
        for (Index v = 0; v < count; ++v) {
            VertexIndices& near = around[v];
            std::sort(near.begin(), near.end());
            near.erase(std::unique(near.begin(), near.end()), near.end());
            for (const Index w : near)
                edge_mm[v] += (m.positions[w] - m.positions[v]).norm() / static_cast<double>(near.size());
        }
    }

    Index from(Index c) const { return mesh.corner_vertex[c]; }
    Index to(Index c) const { return mesh.corner_vertex[next_corner(mesh, links, c)]; }
    bool goes_straight(Index v) const { return faces_around[v] == 4 && !on_border[v] && around[v].size() == 4; }

    // The corner whose edge joins both, on either side; kNone: none.
    Index corner_of(Index a, Index b) const {
        for (const Index c : corners) {
            if ((from(c) == a && to(c) == b) || (from(c) == b && to(c) == a)) return c;
        }
        return kNone;
    }

    // From corner c's edge on, straight through vertices of four edges; as long as `may` says so.
    template <class May>
    Walk walk(Index c, const May& may) const {
        Walk out;
        out.vertices = {from(c), to(c)};
        if (!may(from(c)) || !may(to(c))) return {};
        const Index begin = c;
        while (out.vertices.size() <= corners.size()) {
            const Index at = out.vertices.back();
            if (!goes_straight(at)) break;
            // the next edge of this face, across it, and the next there: the one opposite
            const Index across = links.mate[next_corner(mesh, links, c)];
            if (across >= kManyFaces) break;
            c = next_corner(mesh, links, across);
            if (c == begin) {
                out.closed = true;
                out.vertices.pop_back();
                break;
            }
            if (!may(to(c))) break;
            out.vertices.push_back(to(c));
        }
        return out;
    }

    // Along edges from what has a distance already, as far as is looked.
    void spread(std::vector<double>& distance) const {
        using Entry = std::pair<double, Index>;
        std::priority_queue<Entry, std::vector<Entry>, std::greater<>> todo;
        for (Index v = 0; v < distance.size(); ++v) {
            if (distance[v] < kFarMm) todo.push({distance[v], v});
        }
        while (!todo.empty()) {
            const auto [d, v] = todo.top();
            todo.pop();
            if (d > distance[v] || d > kReach * edge_mm[v]) continue;
            for (const Index w : around[v]) {
                const double next = d + (mesh.positions[w] - mesh.positions[v]).norm();
                if (next < distance[w]) distance[w] = next, todo.push({next, w});
            }
        }
    }

    std::vector<double> from_border(const std::vector<float>& values) const {
        std::vector<double> out(values.size(), kFarMm);
        for (const Index c : corners) {
            const Index v = from(c), w = to(c);
            if ((values[v] > 0.5f) == (values[w] > 0.5f)) continue;
            const double share = (0.5 - static_cast<double>(values[v])) / static_cast<double>(values[w] - values[v]);
            const double length = (mesh.positions[w] - mesh.positions[v]).norm();
            out[v] = std::min(out[v], share * length), out[w] = std::min(out[w], (1 - share) * length);
        }
        spread(out);
        return out;
    }

    std::vector<Walk> loops_along(const std::vector<double>& distance) const;
    VertexIndices filled(const std::vector<float>& values, const std::vector<double>& distance,
                         const std::vector<Walk>& loops) const;
};

// The closed ones that stay near; of several beside the same border the nearest.
std::vector<Walk> EdgeLoops::Inside::loops_along(const std::vector<double>& distance) const {
    std::vector<std::pair<double, Walk>> found;
    std::set<Index> seen;
    const auto near = [&](Index v) { return distance[v] < kStaysNear * edge_mm[v]; };
    for (const Index c : corners) {
        if (seen.contains(c) || links.mate[c] >= kManyFaces) continue;
        const Index v = from(c), w = to(c);
        if (distance[v] > kBeginsNear * edge_mm[v] || distance[w] > kBeginsNear * edge_mm[w]) continue;
        Walk walk = this->walk(c, near);
        if (!walk.closed || walk.vertices.size() < 6) continue;
        double sum = 0;
        for (const Index x : walk.vertices) sum += distance[x] / edge_mm[x];
        Index at = c;
        for (std::size_t i = 0; i < walk.vertices.size(); ++i) {
            seen.insert(at), seen.insert(links.mate[at]);
            const Index across = links.mate[next_corner(mesh, links, at)];
            at = next_corner(mesh, links, across);
        }
        const double mean = sum / static_cast<double>(walk.vertices.size());
        if (mean < kMeanNear) found.emplace_back(mean, std::move(walk));
    }
    std::sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<Walk> out;
    std::set<Index> taken;
    for (auto& [mean, walk] : found) {
        // its neighbour beside the same border is on one already
        std::size_t beside = 0;
        for (const Index v : walk.vertices) {
            beside += taken.contains(v) ||
                      std::any_of(around[v].begin(), around[v].end(), [&](Index w) { return taken.contains(w); });
        }
        if (2 * beside > walk.vertices.size()) continue;
        taken.insert(walk.vertices.begin(), walk.vertices.end());
        out.push_back(std::move(walk));
    }
    return out;
}

// Grown from what is surely inside, up to the loops; where there is none, as the values have it.
VertexIndices EdgeLoops::Inside::filled(const std::vector<float>& values, const std::vector<double>& distance,
                                        const std::vector<Walk>& loops) const {
    std::vector<double> to_loop(values.size(), kFarMm);
    std::vector<char> barrier(values.size(), 0), inside(values.size(), 0);
    for (const Walk& loop : loops) {
        for (const Index v : loop.vertices) to_loop[v] = 0, barrier[v] = 1;
    }
    spread(to_loop);
    const auto sure = [&](Index v) { return distance[v] > kStaysNear * edge_mm[v] || to_loop[v] == kFarMm; };
    std::deque<Index> todo;
    for (Index v = 0; v < values.size(); ++v) {
        if (values[v] > 0.5f && !barrier[v] && sure(v)) inside[v] = 1, todo.push_back(v);
    }
    while (!todo.empty()) {
        const Index v = todo.front();
        todo.pop_front();
        for (const Index w : around[v]) {
            if (inside[w] || barrier[w] || (values[w] <= 0.5f && sure(w))) continue;
            inside[w] = 1, todo.push_back(w);
        }
    }
    VertexIndices out;
    for (Index v = 0; v < values.size(); ++v) {
        // a loop's vertices are in when the region lies beside them
        const bool beside = barrier[v] && std::any_of(around[v].begin(), around[v].end(),
                                                      [&](Index w) { return inside[w] == 1 && !barrier[w]; });
        if (inside[v] || beside) out.push_back(v);
    }
    return out;
}

EdgeLoops::EdgeLoops(const Mesh& mesh, const FaceIndices& faces) : inside_(std::make_unique<Inside>(mesh, faces)) {}
EdgeLoops::~EdgeLoops() = default;

VertexIndices EdgeLoops::region(const std::vector<float>& values) const {
    VertexIndices carried;
    for (Index v = 0; v < values.size(); ++v) {
        if (values[v] > 0.5f && inside_->corner_at[v] != kNone) carried.push_back(v);
    }
    const std::vector<double> distance = inside_->from_border(values);
    const std::vector<Walk> loops = inside_->loops_along(distance);
    if (loops.empty()) return carried;
    VertexIndices out = inside_->filled(values, distance, loops);
    VertexIndices differ;
    std::set_symmetric_difference(out.begin(), out.end(), carried.begin(), carried.end(), std::back_inserter(differ));
    return static_cast<double>(differ.size()) < kChange * static_cast<double>(carried.size()) ? out : carried;
}

std::vector<SurfacePoint> EdgeLoops::line(const std::vector<SurfacePoint>& carried) const {
    const Inside& in = *inside_;
    Points line;
    std::vector<double> distance(in.mesh.positions.size(), kFarMm);
    for (const SurfacePoint& p : carried) {
        line.push_back(p.at(in.mesh.positions));
        for (const Index v : p.vertices)
            distance[v] = std::min(distance[v], (in.mesh.positions[v] - line.back()).norm());
    }
    const double length = length_of(line);
    in.spread(distance);  // so that another sheet, however near, is none of it
    const auto near = [&](Index v) {
        return distance[v] < kFarMm && on_line(in.mesh.positions[v], line).distance < kStaysNear * in.edge_mm[v];
    };
    Walk best;
    double least = kMeanNear;
    std::set<Index> seen;
    for (const Index c : in.corners) {
        const Index v = in.from(c), w = in.to(c);
        if (seen.contains(c) || !near(v) || !near(w)) continue;
        const OnLine middle = on_line(0.5 * (in.mesh.positions[v] + in.mesh.positions[w]), line);
        const Vec3 way = (in.mesh.positions[w] - in.mesh.positions[v]).normalized();
        if (way.dot(middle.direction) < kAlong || middle.distance > kBeginsNear * in.edge_mm[v]) continue;
        Walk walk = in.walk(c, near);
        seen.insert(c);
        double sum = 0, low = length, high = 0;
        for (const Index x : walk.vertices) {
            const OnLine on = on_line(in.mesh.positions[x], line);
            sum += on.distance / in.edge_mm[x];
            low = std::min(low, on.along), high = std::max(high, on.along);
        }
        const double mean = sum / std::max<double>(1, static_cast<double>(walk.vertices.size()));
        if (high - low >= kCovered * length && mean < least) least = mean, best = std::move(walk);
    }
    if (best.vertices.empty()) return carried;
    if (best.closed) best.vertices.push_back(best.vertices.front());
    std::vector<SurfacePoint> out = carried;
    for (std::size_t i = 0; i < out.size(); ++i) {
        double nearest = kStaysNear * in.edge_mm[best.vertices.front()];
        for (std::size_t k = 0; k + 1 < best.vertices.size(); ++k) {
            const Index a = best.vertices[k], b = best.vertices[k + 1];
            const Vec3 &p = in.mesh.positions[a], way = in.mesh.positions[b] - p;
            const double t = std::clamp((line[i] - p).dot(way) / way.squaredNorm(), 0.0, 1.0);
            const double d = (line[i] - p - t * way).norm();
            if (d >= nearest) continue;
            nearest = d;
            // a face that has this edge, with a third corner
            const Index c = in.corner_of(a, b);
            if (c == kNone) continue;
            const Index third = in.to(next_corner(in.mesh, in.links, c));
            const bool turned = in.from(c) != a;
            out[i].face = in.links.corner_face[c];
            out[i].vertices = turned ? std::array{b, a, third} : std::array{a, b, third};
            out[i].weights = turned ? std::array{t, 1 - t, 0.0} : std::array{1 - t, t, 0.0};
        }
    }
    return out;
}

}  // namespace veld
