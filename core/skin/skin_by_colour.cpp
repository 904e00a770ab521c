#include "core/skin/skin_by_colour.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/surface_distance.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kFarOff = 3.3, kFarInDoubt = 2.7;       // standard deviations
constexpr double kLeastScatter[3] = {0.22, 0.05, 0.06};  // of the logarithms of light, red and blue against green
constexpr double kSurelySkin = 0.55;                     // of what is far: up to there nothing of a colour is in doubt
constexpr double kLidEdgeMm = 1.5, kLipEdgeMm = 0.7;     // before an edge: of lashes and fused lips
constexpr int kRoundsOfMean = 2, kRoundsOfFit = 6;
constexpr int kGrown = 2, kDoubtful = 3;  // edges
constexpr std::size_t kLeastFace = 150;   // vertices
// Their colours are their own, and they are part of a face.
constexpr const char* kOwnColours[] = {"lips",     "lid_l",       "lid_r",         "socket_l",
                                       "socket_r", "mouth_inner", "nostril_inside"};

constexpr const char* kInsides[] = {"socket_l", "socket_r", "mouth_inner", "nostril_inside"};

Vec3 features(const Vec3& logs) { return {logs.mean(), logs[0] - logs[1], logs[2] - logs[1]}; }

double off_by(const SkinCluster& c, const Vec3& f) { return std::sqrt((f - c.mean).dot(c.inverse * (f - c.mean))); }

SkinCluster cluster_of(const std::vector<Vec3>& seen) {
    std::vector<double> weight(seen.size(), 1);
    SkinCluster out;
    out.far = kFarInDoubt;
    for (int axis = 0; axis < 3; ++axis) {
        std::vector<double> values;
        for (const Vec3& f : seen) values.push_back(f[axis]);
        out.mean[axis] = median(std::move(values));
    }
    for (int round = 0; round < kRoundsOfFit; ++round) {
        if (round > 0) {
            for (std::size_t i = 0; i < seen.size(); ++i) weight[i] = geman_mcclure(off_by(out, seen[i]), 2.5);
        }
        Vec3 sum = Vec3::Zero();
        double all = 0;
        for (std::size_t i = 0; i < seen.size(); ++i) sum += weight[i] * seen[i], all += weight[i];
        if (round > 0) out.mean = sum / all;
        Mat3 scatter = Mat3::Zero();
        for (std::size_t i = 0; i < seen.size(); ++i)
            scatter += weight[i] * (seen[i] - out.mean) * (seen[i] - out.mean).transpose();
        scatter /= all;
        for (int axis = 0; axis < 3; ++axis) scatter(axis, axis) += kLeastScatter[axis] * kLeastScatter[axis];
        out.inverse = scatter.inverse();
    }
    return out;
}

std::vector<bool> in_regions(const BakeSurface& base, const std::vector<std::string>& names) {
    std::vector<bool> wanted(base.region_names.size(), false), out(base.positions.size(), false);
    for (std::size_t r = 0; r < wanted.size(); ++r)
        wanted[r] = std::find(names.begin(), names.end(), base.region_names[r]) != names.end();
    for (std::size_t v = 0; v < out.size(); ++v) out[v] = wanted[base.region[v]];
    return out;
}

// What is no skin within the face stays where it does not go on beyond it: from each such vertex outside the face,
// through its neighbours.
void keep_within(const std::vector<bool>& face, const Adjacency& ways, std::vector<std::uint8_t>& other) {
    std::vector<Index> front;
    std::vector<std::uint8_t> outside(other.size(), 0);
    for (Index v = 0; v < other.size(); ++v) {
        if (other[v] && !face[v]) outside[v] = 1, front.push_back(v);
    }
    while (!front.empty()) {
        const Index v = front.back();
        front.pop_back();
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            if (other[*w] && !outside[*w]) outside[*w] = 1, front.push_back(*w);
        }
    }
    other = std::move(outside);
}

// Skin hangs together with the face: what looks like it beyond hair or a cap (a red knit, a light wall) is none.
void keep_with_face(const std::vector<bool>& face, const std::vector<float>& off, const Adjacency& ways,
                    std::vector<std::uint8_t>& other) {
    std::vector<std::uint8_t> reached(other.size(), 0);
    std::vector<Index> front;
    for (Index v = 0; v < other.size(); ++v) {
        if (face[v] && !other[v] && off[v] >= 0) reached[v] = 1, front.push_back(v);
    }
    while (!front.empty()) {
        const Index v = front.back();
        front.pop_back();
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            if (!other[*w] && off[*w] >= 0 && !reached[*w]) reached[*w] = 1, front.push_back(*w);
        }
    }
    for (std::size_t v = 0; v < other.size(); ++v) other[v] |= off[v] >= 0 && !reached[v];
}

// Farther by some edges: where hair begins, the skin beside it is dark of it.
void grow(const std::vector<bool>& may_not, const Adjacency& ways, int edges, std::vector<std::uint8_t>& other) {
    for (int round = 0; round < edges; ++round) {
        const std::vector<std::uint8_t> before = other;
        for (Index v = 0; v < other.size(); ++v) {
            if (before[v] || may_not[v]) continue;
            other[v] = std::any_of(ways.begin(v), ways.end(v), [&](Index w) { return before[w] != 0; });
        }
    }
}

}  // namespace

double SkinCluster::off(const Vec3& log) const { return off_by(*this, features(log)); }

double SkinCluster::doubt(const Vec3& log) const {
    const double t = std::clamp((off(log) - kSurelySkin * far) / ((1 - kSurelySkin) * far), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

namespace {

// 1 in those regions where they lie behind their edge, seen from what is inside, or within some mm before it.
void hide_behind(const BakeSurface& base, const std::vector<std::string>& regions,
                 const std::vector<std::string>& insides, const VertexIndices& edges, double before_mm,
                 const Adjacency& ways, std::vector<std::uint8_t>& out) {
    const std::vector<bool> of = in_regions(base, regions), in = in_regions(base, insides);
    VertexIndices inside;
    for (Index v = 0; v < out.size(); ++v) {
        if (in[v]) inside.push_back(v);
    }
    if (inside.empty() || edges.empty()) return;
    const SurfaceDistances from_inside = surface_distances(base.positions, ways, inside),
                           from_edge = surface_distances(base.positions, ways, edges);
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (!of[v] || from_edge.source[v] == kNone) continue;
        const Index edge = edges[from_edge.source[v]];
        if (from_edge.distance[v] < before_mm || from_inside.distance[v] < from_inside.distance[edge]) out[v] = 1;
    }
}

}  // namespace

std::vector<std::uint8_t> never_seen(const BakeSurface& base) {
    const std::vector<bool> inside = in_regions(base, {std::begin(kInsides), std::end(kInsides)});
    std::vector<std::uint8_t> out(inside.begin(), inside.end());
    const Adjacency ways = vertex_neighbours(base.triangles, static_cast<Index>(out.size()));
    hide_behind(base, {"lid_l", "lid_r"}, {"socket_l", "socket_r"}, base.lid_edges, kLidEdgeMm, ways, out);
    hide_behind(base, {"lips"}, {"mouth_inner"}, base.lip_edges, kLipEdgeMm, ways, out);
    return out;
}

SkinByColour not_skin_by_colour(const BakeSurface& base, const std::vector<std::optional<Vec3>>& colours,
                                bool keep_brows) {
    SkinByColour out;
    out.other.assign(colours.size(), 0);
    const std::vector<bool> face = in_regions(base, {"face"});
    const std::vector<bool> own = in_regions(base, {std::begin(kOwnColours), std::end(kOwnColours)});
    std::vector<Vec3> seen;
    for (std::size_t v = 0; v < colours.size(); ++v) {
        if (colours[v] && face[v]) seen.push_back(features(*colours[v]));
    }
    if (seen.size() < kLeastFace) return out;
    out.skin = cluster_of(seen);
    const Adjacency ways = vertex_neighbours(base.triangles, static_cast<Index>(colours.size()));
    std::vector<float> off(colours.size(), -1);
    for (std::size_t v = 0; v < colours.size(); ++v) {
        if (colours[v]) off[v] = static_cast<float>(std::min(2 * kFarOff, out.skin.off(*colours[v])));
    }
    for (int round = 0; round < kRoundsOfMean; ++round) {
        std::vector<float> next = off;
        for (Index v = 0; v < off.size(); ++v) {
            if (off[v] < 0) continue;
            float sum = 2 * off[v], count = 2;
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
                if (off[*w] >= 0) sum += off[*w], ++count;
            }
            next[v] = sum / count;
        }
        off = std::move(next);
    }
    for (std::size_t v = 0; v < off.size(); ++v) out.other[v] = !own[v] && off[v] > kFarOff;
    std::vector<bool> kept = own;  // what does not become hair by lying beside it
    if (keep_brows) {
        std::vector<bool> of_face = face;
        for (std::size_t v = 0; v < own.size(); ++v) of_face[v] = face[v] || own[v];
        const std::vector<std::uint8_t> before = out.other;
        keep_within(of_face, ways, out.other);
        for (std::size_t v = 0; v < kept.size(); ++v) kept[v] = kept[v] || (before[v] && !out.other[v]);
    }
    keep_with_face(face, off, ways, out.other);
    grow(kept, ways, kGrown, out.other);
    // the edge of what was seen: half a triangle of a collar may be in it
    out.doubtful = out.other;
    for (std::size_t v = 0; v < off.size(); ++v) out.doubtful[v] |= off[v] < 0;
    grow(kept, ways, kDoubtful, out.doubtful);
    for (std::size_t v = 0; v < kept.size(); ++v) out.doubtful[v] = out.doubtful[v] && !kept[v];
    double count = 0;
    for (std::size_t v = 0; v < off.size(); ++v) out.share += out.other[v], count += off[v] >= 0;
    if (count > 0) out.share /= count;
    return out;
}

}  // namespace veld
