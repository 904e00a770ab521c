#include "core/fit/untangle.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr int kRingsAround = 5;     // triangles around those that cut, looked at in each round; all of them at its end
constexpr double kSteepest = 0.05;  // sine between edge and triangle: flatter ones would move without bound

using TrianglePairs = std::vector<std::pair<Index, Index>>;
using Edge = std::pair<Index, Index>;

Vec3 unit_normal(const Points& x, const Triangle& t) {
    return (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).normalized();
}

bool has(const Triangle& t, Index v) { return t[0] == v || t[1] == v || t[2] == v; }

// Where an edge crosses a triangle.
struct Crossing {
    double along = 0;               // of the edge
    std::array<double, 3> of = {};  // weights of the triangle's corners
};

std::optional<Crossing> crossing(const Points& x, const Edge& edge, const Triangle& t) {
    const Vec3 way = x[edge.second] - x[edge.first], from = x[edge.first] - x[t[0]];
    const Vec3 one = x[t[1]] - x[t[0]], two = x[t[2]] - x[t[0]], across = way.cross(two);
    const double size = one.dot(across);
    if (size == 0) return {};
    const double u = from.dot(across) / size;
    const Vec3 turned = from.cross(one);
    const double v = way.dot(turned) / size, s = two.dot(turned) / size;
    if (!(u >= 0 && v >= 0 && u + v <= 1 && s >= 0 && s <= 1)) return {};
    return Crossing{s, {1 - u - v, u, v}};
}

class Contours {
 public:
    Contours(const std::vector<Triangle>& triangles, const TriangleIndices* only) : triangles_(triangles) {
        const auto add = [&](Index t) {
            const Triangle& corners = triangles_[t];
            for (int k = 0; k < 3; ++k) beside_[std::minmax(corners[k], corners[(k + 1) % 3])].push_back(t);
        };
        if (only)
            for (const Index t : *only) add(t);
        else
            for (Index t = 0; t < triangles_.size(); ++t) add(t);
    }

    // The triangles that cut and some rings around them, ascending.
    TriangleIndices around(const TrianglePairs& cuts) const {
        std::set<Index> out;
        for (const auto& [a, b] : cuts) out.insert(a), out.insert(b);
        TriangleIndices last(out.begin(), out.end());
        for (int ring = 0; ring < kRingsAround; ++ring) {
            TriangleIndices next;
            for (const Index t : last)
                for (int k = 0; k < 3; ++k)
                    for (const Index n : beside_.at(std::minmax(triangles_[t][k], triangles_[t][(k + 1) % 3])))
                        if (out.insert(n).second) next.push_back(n);
            last = std::move(next);
        }
        return {out.begin(), out.end()};
    }

    // One round. Returns the vertices that moved, ascending.
    VertexIndices shorten(const TrianglePairs& cuts, const VertexMask& movable, double step, Points& x) const {
        std::map<Index, std::pair<Vec3, double>> moves;  // the sum, and of what weight
        const auto add = [&](Index v, double weight, const Vec3& way) {
            auto& [sum, all] = moves.try_emplace(v, Vec3::Zero(), 0).first->second;
            sum += weight * way, all += weight;
        };
        std::set<std::pair<Edge, Index>> seen;
        for (const auto& [a, b] : cuts)
            for (const auto& [mine, other] : {std::pair(a, b), std::pair(b, a)})
                for (int k = 0; k < 3; ++k) {
                    const Edge edge = std::minmax(triangles_[mine][k], triangles_[mine][(k + 1) % 3]);
                    const Triangle& t = triangles_[other];
                    if (has(t, edge.first) || has(t, edge.second)) continue;
                    const auto at = crossing(x, edge, t);
                    if (!at || !seen.emplace(edge, other).second) continue;
                    const Vec3 way = 0.5 * step * shorter(x, edge, t);
                    add(edge.first, 1 - at->along, way), add(edge.second, at->along, way);
                    for (int i = 0; i < 3; ++i) add(t[i], at->of[i], -way);
                }
        VertexIndices out;
        for (const auto& [v, move] : moves) {
            if (!movable[v]) continue;
            x[v] += move.first / std::max(1.0, move.second);
            out.push_back(v);
        }
        return out;
    }

 private:
    // Where the edge is to go against the triangle, at most 1 long: along the contours in the faces beside it, and
    // back from the triangle by as much as that lengthens them.
    Vec3 shorter(const Points& x, const Edge& edge, const Triangle& t) const {
        const Vec3 along = (x[edge.second] - x[edge.first]).normalized(), normal = unit_normal(x, t);
        double steep = along.dot(normal);
        if (std::abs(steep) < kSteepest) steep = std::copysign(kSteepest, steep);
        Vec3 out = Vec3::Zero();
        for (const Index f : beside_.at(edge)) {
            const Triangle& face = triangles_[f];
            Vec3 contour = normal.cross(unit_normal(x, face));
            if (!(contour.norm() > 0)) continue;
            contour.normalize();
            const Index third = face[0] + face[1] + face[2] - edge.first - edge.second;
            Vec3 into = x[third] - x[edge.first];
            into -= into.dot(along) * along;
            if (contour.dot(into) < 0) contour = -contour;
            out += contour - 2 * along.dot(contour) / steep * normal;
        }
        return out / std::sqrt(out.squaredNorm() + 1);
    }

    const std::vector<Triangle>& triangles_;
    std::map<Edge, TriangleIndices> beside_;  // the triangles beside an edge
};

}  // namespace

std::size_t untangle(Points& shape, const std::vector<Triangle>& triangles, const VertexMask& movable,
                     const TrianglePairs& allowed, const TriangleIndices* only, const UntangleOptions& options) {
    const auto may_move = [&](Index t) {
        return std::any_of(triangles[t].begin(), triangles[t].end(), [&](Index v) { return movable[v]; });
    };
    const auto new_cuts = [&](const Points& x, const TriangleIndices* among) {
        TrianglePairs out = self_intersections(x, triangles, among);
        std::erase_if(out, [&](const auto& pair) {
            return std::binary_search(allowed.begin(), allowed.end(), pair) ||
                   (!may_move(pair.first) && !may_move(pair.second));
        });
        return out;
    };
    TrianglePairs all = new_cuts(shape, only);
    if (all.empty()) return 0;
    const Contours contours(triangles, only);
    int round = 0;
    while (!all.empty() && round < options.rounds) {
        const TriangleIndices near = contours.around(all);
        TrianglePairs cuts = all;
        Points x = shape, best = shape;
        std::size_t fewest = all.size();
        for (int idle = 0; !cuts.empty() && round < options.rounds && idle < options.idle_rounds; ++round) {
            const VertexIndices moved = contours.shorten(cuts, movable, options.step_mm, x);
            if (moved.empty()) break;
            if (options.hold) options.hold(x, moved);
            cuts = new_cuts(x, &near);
            idle = cuts.size() < fewest ? 0 : idle + 1;
            if (cuts.size() < fewest) fewest = cuts.size(), best = x;
        }
        const TrianglePairs now = new_cuts(best, only);
        if (now.size() >= all.size()) break;
        all = now, shape = std::move(best);
    }
    return all.size();
}

}  // namespace veld
