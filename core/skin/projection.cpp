#include "core/skin/projection.h"

#include <tbb/parallel_for.h>

#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kFacing = 0.3;     // cosine between the base's normal and the source's triangle
constexpr double kSameSheet = 0.1;  // cosine between the base's normals here and where the way back leads
constexpr double kLookMm = 40;      // as far as anything is looked for
constexpr double kLeastReachMm = 0.2, kMostReachMm = 30;
constexpr double kHomeMm = 0.6;      // the way back may miss by that,
constexpr double kHomeShare = 1.5;   // by that share of how far its partner is,
constexpr double kHomeEdges = 0.75;  // and by that share of the source's edges
constexpr double kNearer = 2;        // a place so many times as far as its partner is no partner
constexpr double kLargeMm = 2.5;     // edges of the source from which every hit is looked back from by itself,
constexpr double kSureMm = 0.3;      // unless it lies so near
constexpr double kNotFitted = 5;     // a region so many times as far as the whole (and 2 mm) is not fitted
constexpr double kSpread = 5;        // reach: the median and so many deviations, robustly

}  // namespace

Result<Projection> Projection::make(const BakeSurface& base, const SourceSurface& source,
                                    const std::vector<bool>& parts, double reach_mm, const Progress& progress) {
    if (source.triangles.empty())
        return Error{ErrorCode::BadInput,
                     "Nothing of the source is left to bake from: all of it is ignored, or it has no faces."};
    Projection out;
    out.base_ = &base, out.source_ = &source;
    out.normals_ = seamless_normals(source.positions, source.triangles, same_place(source.positions));
    out.spread_.assign(source.positions.size(), 0);
    out.rim_.assign(source.positions.size(), 0);
    for (std::size_t t = 0; t < source.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (!source.border[t][k]) continue;
            out.rim_[source.triangles[t][k]] = out.rim_[source.triangles[t][(k + 1) % 3]] = 1;
        }
    }
    for (const Triangle& t : source.triangles) {
        for (std::size_t k = 0; k < 3; ++k) {
            const auto length = static_cast<float>((source.positions[t[k]] - source.positions[t[(k + 1) % 3]]).norm());
            for (const Index v : {t[k], t[(k + 1) % 3]}) out.spread_[v] = std::max(out.spread_[v], length);
        }
    }
    progress.say(0.02, "Looking from the source to the base");
    out.look_back_all(parts);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    progress.say(0.08, "Choosing how far to look");
    out.choose_reach(reach_mm);
    return out;
}

Projection::Back Projection::look_back(const Vec3& from, const Vec3& normal) const {
    Back out;
    const FacingFilter facing{normal, kFacing};
    const SurfaceHit hit = base_query_->closest(from, kLookMm, &facing);
    if (!hit) return out;
    out.place = hit.position, out.distance = static_cast<float>(hit.distance);
    const Vec3 shares(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2]);
    const Vec3 n = base_->normal(base_number_[hit.triangle], shares).normalized();
    for (int k = 0; k < 3; ++k) out.normal[k] = static_cast<float>(n[k]);
    return out;
}

void Projection::look_back_all(const std::vector<bool>& parts) {
    for (Index t = 0; t < base_->triangles.size(); ++t) {
        if (parts[base_->part[t]]) base_faces_.push_back(base_->triangles[t]), base_number_.push_back(t);
    }
    base_query_ = std::make_unique<SurfaceQuery>(base_->positions, base_faces_);
    back_.resize(source_->positions.size());
    tbb::parallel_for(std::size_t{0}, back_.size(), [&](std::size_t v) {
        if (!normals_[v].isZero()) back_[v] = look_back(source_->positions[v], normals_[v]);
    });
}

bool Projection::at_rim(const SurfaceHit& hit) const {
    if (source_->on_border(hit)) return true;
    for (std::size_t k = 0; k < 3; ++k) {
        if (hit.barycentric[k] > 1 - 1e-6 && rim_[source_->triangles[hit.triangle][k]]) return true;
    }
    return false;
}

bool Projection::leads_home(const Vec3& place, const Vec3& normal, const SurfaceHit& hit) const {
    const Triangle& t = source_->triangles[hit.triangle];
    Vec3 home = Vec3::Zero(), faces = Vec3::Zero();
    double edge = 0, known = 0, nearest = 0;
    for (std::size_t k = 0; k < 3; ++k) edge = std::max<double>(edge, spread_[t[k]]);
    const auto add = [&](const Back& back, double share) {
        if (back.distance < 0) return;
        home += share * back.place, known += share, nearest += share * back.distance;
        faces += share * Vec3(back.normal[0], back.normal[1], back.normal[2]);
    };
    if (edge > kLargeMm && std::abs(hit.distance) > kSureMm) {  // its corners say too little of what lies between them
        add(look_back(hit.position, source_->query->triangle_normals()[hit.triangle]), 1);
        edge = 0;
    } else {
        for (std::size_t k = 0; k < 3; ++k) add(back_[t[k]], hit.barycentric[k] + 1e-6);
    }
    if (known < 0.3) return false;
    home /= known, nearest /= known;
    const double slack = kHomeMm + kHomeEdges * edge, most = slack + kHomeShare * nearest;
    return (hit.position - place).norm() <= slack + kNearer * nearest && (home - place).squaredNorm() <= most * most &&
           faces.dot(normal) >= kSameSheet * known;
}

// The distances of vertices whose way back leads home tell how near this fit lies here. Where few do (a cap, a hole),
// the few count, and the whole figure's besides.
void Projection::choose_reach(double reach_mm) {
    const std::size_t regions = base_->region_names.size();
    std::vector<double> distance(base_->positions.size(), -1);
    tbb::parallel_for(std::size_t{0}, distance.size(), [&](std::size_t v) {
        const Vec3& n = base_->normals[v];
        if (n.isZero()) return;
        const FacingFilter facing{n, kFacing};
        const SurfaceHit hit = source_->query->closest(base_->positions[v], kLookMm, &facing);
        if (hit && leads_home(base_->positions[v], n, hit)) distance[v] = hit.distance;
    });
    std::vector<std::vector<double>> of(regions);
    std::vector<double> all, edges;
    std::vector<std::size_t> count(regions, 0);
    VertexMask skin(distance.size(), 0);
    for (Index t = 0; t < base_->triangles.size(); ++t) {
        if (base_->part[t] != 0) continue;
        for (const Index v : base_->triangles[t]) skin[v] = 1;
    }
    for (std::size_t v = 0; v < distance.size(); ++v) {
        if (!skin[v]) continue;
        ++count[base_->region[v]];
        if (distance[v] < 0) continue;
        of[base_->region[v]].push_back(distance[v]);
        all.push_back(distance[v]);
    }
    for (const float e : spread_) edges.push_back(e);
    const double whole = median(all), open = 0.25 * median(edges);
    std::vector<double> reach(regions, 0);
    for (std::size_t r = 0; r < regions; ++r) {
        RegionReach out{base_->region_names[r], median(of[r]), quantile(of[r], 0.95), 0, 0};
        std::vector<double> off;
        for (const double d : of[r]) off.push_back(std::abs(d - out.median_mm));
        const bool fitted = of[r].size() * 10 >= count[r] && out.median_mm <= kNotFitted * whole + 2;
        const double near = fitted ? out.median_mm : whole;
        const double deviation = fitted ? 1.4826 * median(off) : 0;
        out.reach_mm = reach_mm > 0 ? reach_mm
                                    : std::clamp(std::max(near + kSpread * deviation, 3 * whole) + open, kLeastReachMm,
                                                 kMostReachMm);
        double within = 0;
        for (const double d : of[r]) within += d <= out.reach_mm;
        out.shown = count[r] > 0 ? within / static_cast<double>(count[r]) : 0;
        reach[r] = out.reach_mm;
        if (count[r] > 0) reaches_.push_back(std::move(out));
    }
    reach_.resize(distance.size());
    for (std::size_t v = 0; v < reach_.size(); ++v) reach_[v] = static_cast<float>(reach[base_->region[v]]);
    const Adjacency ways = vertex_neighbours(base_->triangles, static_cast<Index>(reach_.size()));
    for (int round = 0; round < 4 << base_->level && reach_mm <= 0; ++round) {
        const std::vector<float> before = reach_;
        for (Index v = 0; v < reach_.size(); ++v) {
            float sum = before[v];
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += before[*w];
            reach_[v] = sum / static_cast<float>(1 + (ways.end(v) - ways.begin(v)));
        }
    }
}

namespace {

double reach_at(const std::vector<float>& reach, const Triangle& t, const Vec3& shares) {
    return shares[0] * reach[t[0]] + shares[1] * reach[t[1]] + shares[2] * reach[t[2]];
}

}  // namespace

SourcePlace Projection::at(Index t, const Vec3& shares) const {
    SourcePlace out;
    const Vec3 place = base_->place(t, shares), normal = base_->normal(t, shares).normalized();
    const double reach = reach_at(reach_, base_->triangles[t], shares);
    if (!normal.allFinite()) return out;
    const auto take = [&](const SurfaceHit& hit, Found how) {
        out.found = how, out.triangle = hit.triangle, out.position = hit.position;
        out.shares = Vec3(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2]);
        out.along = normal.dot(hit.position - place);
        return out;
    };
    const SurfaceHit along = source_->query->nearest_along(place, normal, reach, kFacing);
    if (along && leads_home(place, normal, along)) return take(along, Found::Along);
    const FacingFilter facing{normal, kFacing};
    const SurfaceHit near = source_->query->closest(place, reach, &facing);
    const bool ends = near && at_rim(near);  // it is what ends there, and no answer
    if (near && !ends && leads_home(place, normal, near)) return take(near, Found::Closest);
    if (along || (near && !ends)) out.found = Found::WrongSheet;
    return out;
}

bool Projection::query_only(Index t, const Vec3& shares) const {
    const Vec3 place = base_->place(t, shares), normal = base_->normal(t, shares).normalized();
    const double reach = reach_at(reach_, base_->triangles[t], shares);
    if (source_->query->nearest_along(place, normal, reach, kFacing)) return true;
    const FacingFilter facing{normal, kFacing};
    return static_cast<bool>(source_->query->closest(place, reach, &facing));
}

}  // namespace veld
