#include "core/touchup/brush.h"

#include <algorithm>
#include <cmath>
#include <queue>
#include <unordered_map>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/surface_energy.h"

namespace veld {
namespace {

constexpr double kPullReachMm = 15;
constexpr double kLidGapMm = 0.35;      // thinner than a lid nothing on the base lies before an eyeball
constexpr double kInflateShare = 0.04;  // of the radius, by one full dab
constexpr const char* kNames[kBrushCount] = {"grab",    "smooth",         "relax",         "inflate",     "deflate",
                                             "flatten", "pull to source", "push from eye", "back to base"};

Adjacency rows(std::vector<std::pair<Index, Index>> pairs, Index count) {
    std::sort(pairs.begin(), pairs.end());
    pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
    Adjacency out;
    out.start.assign(count + 1, 0);
    for (const auto& [a, b] : pairs) ++out.start[a + 1], out.items.push_back(b);
    for (Index i = 0; i < count; ++i) out.start[i + 1] += out.start[i];
    return out;
}

Vec3 flipped(const Vec3& v) { return {-v.x(), v.y(), v.z()}; }

// The reached vertices' moves, the mirrored ones added where asked for, applied at once: no vertex sees
// another one half moved.
void apply(const TouchBase& base, const std::vector<std::pair<Touched, Vec3>>& moves, bool mirrored, Points& now) {
    std::unordered_map<Index, std::pair<Vec3, double>> sum;
    for (const auto& [t, move] : moves) {
        auto& [total, weight] = sum.try_emplace(t.vertex, Vec3::Zero(), 0.0).first->second;
        total += move, weight += t.weight;
        if (!mirrored) continue;
        auto& [other, other_weight] = sum.try_emplace(base.kit->mirror[t.vertex], Vec3::Zero(), 0.0).first->second;
        other += flipped(move), other_weight += t.weight;
    }
    // where both sides meet, a place is not moved twice
    for (const auto& [v, m] : sum) now[v] += m.first / std::max(1.0, m.second);
}

Vec3 normal_at(const TouchBase& base, const Points& now, Index v) {
    Vec3 sum = Vec3::Zero();
    for (const Index* t = base.triangles_of.begin(v); t != base.triangles_of.end(v); ++t) {
        const Triangle& c = base.triangles[*t];
        sum += (now[c[1]] - now[c[0]]).cross(now[c[2]] - now[c[0]]);
    }
    return sum.norm() > 0 ? sum.normalized() : Vec3(Vec3::Zero());
}

// Weighted mean of the neighbours, less the vertex.
Vec3 ring_offset_now(const TouchBase& base, const Points& now, Index v) {
    Vec3 sum = Vec3::Zero();
    for (Index k = base.rings.start[v]; k < base.rings.start[v + 1]; ++k)
        sum += base.ring_weight[k] * (now[base.rings.items[k]] - now[v]);
    return sum;
}

// The similarity that best maps the base's ring onto the ring as it is.
Mat3 ring_turn(const TouchBase& base, const Points& now, Index v) {
    const Points& rest = base.kit->mesh.positions;
    Mat3 cross = Mat3::Zero();
    double spread = 0;
    for (Index k = base.rings.start[v]; k < base.rings.start[v + 1]; ++k) {
        const Vec3 b = rest[base.rings.items[k]] - rest[v];
        cross += base.ring_weight[k] * (now[base.rings.items[k]] - now[v]) * b.transpose();
        spread += base.ring_weight[k] * b.squaredNorm();
    }
    const Eigen::JacobiSVD<Mat3> svd(cross, Eigen::ComputeFullU | Eigen::ComputeFullV);
    const Vec3 sign(1, 1, svd.matrixU().determinant() * svd.matrixV().determinant() < 0 ? -1 : 1);
    return svd.singularValues().dot(sign) / std::max(spread, 1e-12) *
           (svd.matrixU() * sign.asDiagonal() * svd.matrixV().transpose());
}

// The base's own form, laid where the surroundings of the touched skin are now.
Similarity base_to_surroundings(const TouchBase& base, const std::vector<Touched>& reached, const Points& now) {
    Points from, to;
    SimilarityOptions options;
    options.outlier_mm = 0;
    for (const Touched& t : reached) {
        if (t.weight > 0.5) continue;  // the rim knows where the middle belongs
        from.push_back(base.kit->mesh.positions[t.vertex]);
        to.push_back(now[t.vertex]);
        options.weights.push_back(1 - t.weight);
    }
    const auto fit = fit_similarity(from, to, options);
    return fit ? *fit : Similarity{};
}

struct EyeBall {
    Vec3 centre;
    double scale;
    const KitEye* eye;
};
std::vector<EyeBall> eyeballs(const BaseKit& kit, const Points& now) {
    std::vector<EyeBall> out;
    for (const KitEye& eye : kit.eyes) {
        Points from, to;
        const std::vector<Index>& part = kit.part(eye.part)->vertices;
        for (std::size_t i = 0; i < part.size(); i += 16)
            from.push_back(kit.mesh.positions[part[i]]), to.push_back(now[part[i]]);
        if (const auto s = fit_similarity(from, to)) out.push_back({(*s)(eye.centre), s->scale, &eye});
    }
    return out;
}

Vec3 away_from_eye(const TouchBase& base, const std::vector<EyeBall>& eyes, Index v, const Vec3& p) {
    for (const EyeBall& e : eyes) {
        const double on_base = (base.kit->mesh.positions[v] - e.eye->centre).norm() - e.eye->radius;
        if (on_base > 0.6 * e.eye->radius) continue;
        const double least = e.scale * (e.eye->radius + std::clamp(on_base, 0.1, kLidGapMm));
        const Vec3 away = p - e.centre;
        if (away.norm() < least && away.norm() > 1e-6) return away * (least / away.norm() - 1);
    }
    return Vec3::Zero();
}

}  // namespace

const char* brush_name(Brush brush) { return kNames[static_cast<int>(brush)]; }

std::optional<Brush> brush_from_name(const std::string& name) {
    for (int i = 0; i < kBrushCount; ++i) {
        if (name == kNames[i]) return static_cast<Brush>(i);
    }
    return {};
}

double falloff_weight(Falloff falloff, double t) {
    if (t >= 1) return 0;
    const double u = 1 - t * t;
    switch (falloff) {
        case Falloff::Soft:
            return u * u;
        case Falloff::Round:
            return std::sqrt(u);
        case Falloff::Pointed:
            return (1 - t) * (1 - t);
        case Falloff::Even:
            return t < 0.9 ? 1 : (1 - t) / 0.1;
    }
    return 0;
}

TouchBase::TouchBase(const BaseKit& base_kit) : kit(&base_kit) {
    const Mesh& mesh = kit->mesh;
    const KitPart& part = *kit->part("skin");
    skin.assign(mesh.positions.size(), 0);
    std::vector<std::pair<Index, Index>> edges, all;
    VertexMask active(mesh.positions.size(), 0);
    const FaceIndices faces = faces_of(part);
    for (const Index f : faces) {
        const Index* c = mesh.corner_vertex.data() + mesh.face_start[f];
        const Index size = mesh.face_size(f);
        for (Index i = 0; i < size; ++i) {
            skin[c[i]] = active[c[i]] = 1;
            edges.emplace_back(c[i], c[(i + 1) % size]), edges.emplace_back(c[(i + 1) % size], c[i]);
            for (Index j = 0; j < size; ++j) {
                if (i != j) all.emplace_back(c[i], c[j]);
            }
        }
        for (Index k = 1; k + 1 < size; ++k) triangles.push_back({c[0], c[k], c[k + 1]});
    }
    ways = rows(std::move(all), mesh.vertex_count());
    triangles_of = vertex_triangles(triangles, mesh.vertex_count());
    // the rings and weights of the fit's own energy, so that "even" means the same everywhere
    const SurfaceStencil s = make_stencil(mesh, faces, active);
    rings.start.assign(mesh.positions.size() + 1, 0);
    ring_offset.assign(mesh.positions.size(), Vec3::Zero());
    std::vector<Index> ring_of(mesh.positions.size(), kNone);
    for (Index r = 0; r < s.ring_vertex.size(); ++r) ring_of[s.ring_vertex[r]] = r;
    for (Index v = 0; v < mesh.vertex_count(); ++v) {
        if (const Index r = ring_of[v]; r != kNone) {
            double total = 0;
            for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) total += s.weight[k];
            for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
                rings.items.push_back(s.neighbour[k]);
                ring_weight.push_back(s.weight[k] / total);
                ring_offset[v] += ring_weight.back() * (mesh.positions[s.neighbour[k]] - mesh.positions[v]);
            }
        }
        rings.start[v + 1] = static_cast<Index>(rings.items.size());
    }
}

TouchPlace touch_place(const TouchBase& base, const Points& now, const Vec3& origin, const Vec3& direction) {
    // [Moeller & Trumbore 1997], outsides only
    TouchPlace out;
    double nearest = std::numeric_limits<double>::infinity();
    for (Index t = 0; t < base.triangles.size(); ++t) {
        const Triangle& c = base.triangles[t];
        const Vec3 e1 = now[c[1]] - now[c[0]], e2 = now[c[2]] - now[c[0]], p = direction.cross(e2);
        const double d = e1.dot(p);
        if (d <= 1e-12) continue;
        const Vec3 s = origin - now[c[0]];
        const double u = s.dot(p) / d;
        if (u < 0 || u > 1) continue;
        const Vec3 q = s.cross(e1);
        const double v = direction.dot(q) / d, distance = e2.dot(q) / d;
        if (v < 0 || u + v > 1 || distance < 0 || distance >= nearest) continue;
        nearest = distance;
        out = {t, origin + distance * direction};
    }
    return out;
}

std::vector<Touched> brush_reach(const TouchBase& base, const Points& now, const TouchPlace& place,
                                 const BrushSettings& settings, const Vec3& to_camera,
                                 const std::vector<float>* mask) {
    std::vector<Touched> out;
    if (place.triangle == kNone) return out;
    std::unordered_map<Index, double> way;
    std::priority_queue<std::pair<double, Index>, std::vector<std::pair<double, Index>>, std::greater<>> open;
    for (const Index v : base.triangles[place.triangle]) {
        const double d = (now[v] - place.position).norm();
        if (d < settings.radius_mm) way[v] = d, open.emplace(d, v);
    }
    while (!open.empty()) {
        const auto [d, v] = open.top();
        open.pop();
        if (d > way[v]) continue;
        for (const Index* j = base.ways.begin(v); j != base.ways.end(v); ++j) {
            const double through = d + (now[*j] - now[v]).norm();
            if (through >= settings.radius_mm) continue;
            const auto [at, fresh] = way.try_emplace(*j, through);
            if (!fresh && at->second <= through) continue;
            at->second = through;
            open.emplace(through, *j);
        }
    }
    for (const auto& [v, d] : way) {
        // the way over edges is a zigzag; the straight line says how much of it was
        const double straight = (now[v] - place.position).norm();
        double weight = falloff_weight(settings.falloff, std::max(straight, 0.93 * d) / settings.radius_mm);
        if (mask) weight *= (*mask)[v];
        if (settings.front_only) weight *= std::clamp(normal_at(base, now, v).dot(to_camera) / 0.25, 0.0, 1.0);
        if (weight > 0) out.push_back({v, weight});
    }
    std::sort(out.begin(), out.end(), [](const Touched& a, const Touched& b) { return a.vertex < b.vertex; });
    return out;
}

void grab(const TouchBase& base, const std::vector<Touched>& reached, const Points& start, const Vec3& drag,
          bool mirrored, Points& now) {
    std::vector<std::pair<Touched, Vec3>> moves;
    for (const Touched& t : reached) {
        now[t.vertex] = start[t.vertex];
        if (mirrored) now[base.kit->mirror[t.vertex]] = start[base.kit->mirror[t.vertex]];
        moves.emplace_back(t, t.weight * drag);
    }
    apply(base, moves, mirrored, now);
}

void dab(const TouchBase& base, const std::vector<Touched>& reached, const BrushSettings& settings, double pressure,
         const DabSurroundings& around, Points& now) {
    std::vector<std::pair<Touched, Vec3>> moves;
    const double strength = settings.strength * pressure;
    const Points& rest = base.kit->mesh.positions;
    Vec3 middle = Vec3::Zero(), facing = Vec3::Zero();
    double total = 0;
    for (const Touched& t : reached) {
        middle += t.weight * now[t.vertex], facing += t.weight * normal_at(base, now, t.vertex), total += t.weight;
    }
    if (total <= 0) return;
    middle /= total;
    facing.normalize();
    const std::vector<EyeBall> eyes =
        settings.brush == Brush::PushFromEye ? eyeballs(*base.kit, now) : std::vector<EyeBall>();
    const Similarity form =
        settings.brush == Brush::BackToBase ? base_to_surroundings(base, reached, now) : Similarity();
    for (const Touched& t : reached) {
        const Index v = t.vertex;
        const Vec3 n = normal_at(base, now, v);
        Vec3 move = Vec3::Zero();
        switch (settings.brush) {
            case Brush::Grab:
                break;
            // both ask the ring to be as it is on the base, one across the surface, the other along it
            case Brush::Smooth:
            case Brush::Relax: {
                const Vec3 uneven = ring_offset_now(base, now, v) - ring_turn(base, now, v) * base.ring_offset[v];
                const Vec3 across = n.dot(uneven) * n;
                move = settings.brush == Brush::Smooth ? across : Vec3(uneven - across);
                break;
            }
            case Brush::Inflate:
                move = kInflateShare * settings.radius_mm * n;
                break;
            case Brush::Deflate:
                move = -kInflateShare * settings.radius_mm * n;
                break;
            case Brush::Flatten:
                move = facing.dot(middle - now[v]) * facing;
                break;
            case Brush::PullToSource: {
                const FacingFilter outside{n, 0.3};
                const SurfaceHit hit =
                    around.source ? around.source->closest(now[v], kPullReachMm, &outside) : SurfaceHit();
                if (hit && !around.source->on_border(hit)) move = hit.position - now[v];
                break;
            }
            case Brush::PushFromEye:
                move = away_from_eye(base, eyes, v, now[v]);
                break;
            case Brush::BackToBase:
                move = form(rest[v]) - now[v];
                break;
        }
        moves.emplace_back(t, t.weight * strength * move);
    }
    apply(base, moves, settings.mirrored, now);
}

}  // namespace veld
