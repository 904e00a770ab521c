#include "core/landmark/snap.h"

#include <algorithm>
#include <cmath>

#include "core/linalg/fit_similarity.h"

namespace veld {
namespace {

constexpr double kBendMm = 1.6;  // how far around a place its bend is measured

struct Patch {
    const SnapSurface& s;
    Vec3 centre, right, up, normal;  // kit frame
    Similarity back;

    Patch(const SnapSurface& surface, const Vec3& start) : s(surface), back(surface.to_kit.inverse()) {
        centre = s.to_kit(start);
        const SurfaceHit hit = s.query->closest(start, 1e12);
        normal = hit ? Vec3(s.to_kit.rotation * s.query->triangle_normals()[hit.triangle]) : Vec3(Vec3::UnitZ());
        if (normal.squaredNorm() < 0.5) normal = Vec3::UnitZ();
        right = std::abs(normal.y()) > 0.9 ? Vec3::UnitX() : Vec3(Vec3::UnitY().cross(normal).normalized());
        up = normal.cross(right);
    }
    // the surface under a place of the tangent plane, seen along its normal; nothing at holes and steps
    std::optional<SurfaceHit> at(double x, double y) const {
        const Vec3 from = back(centre + x * right + y * up + 8 * normal);
        const SurfaceHit hit = s.query->first_hit(from, back.rotation * -normal);
        if (!hit || std::abs(hit.distance / back.scale - 8) > 8) return {};
        return hit;
    }
    Vec3 kit(const SurfaceHit& hit) const { return s.to_kit(hit.position); }
    // mm that the place stands out of its surroundings
    std::optional<double> relief(double x, double y) const {
        const auto middle = at(x, y);
        if (!middle) return {};
        double around = 0;
        int count = 0;
        for (int i = 0; i < 8; ++i) {
            const double a = i * M_PI / 4;
            if (const auto hit = at(x + kBendMm * std::cos(a), y + kBendMm * std::sin(a)))
                around += normal.dot(kit(*hit) - centre), ++count;
        }
        if (count < 6) return {};
        return normal.dot(kit(*middle) - centre) - around / count;
    }
    std::optional<double> edge(double x, double y) const {
        if (!s.lightness) return {};
        const auto a = at(x - 0.8, y), b = at(x + 0.8, y), c = at(x, y - 0.8), d = at(x, y + 0.8);
        if (!a || !b || !c || !d) return {};
        return std::hypot(s.lightness(*b) - s.lightness(*a), s.lightness(*d) - s.lightness(*c));
    }
    std::optional<double> score(const SnapRule& rule, double x, double y) const {
        switch (rule.kind) {
            case SnapKind::Extreme:
                if (const auto hit = at(x, y)) return rule.direction.dot(kit(*hit) - centre);
                return {};
            case SnapKind::Ridge:
                return relief(x, y);
            case SnapKind::Valley:
                if (const auto r = relief(x, y)) return -*r;
                return {};
            case SnapKind::ColourEdge:
                return edge(x, y);
            case SnapKind::None:
                return {};
        }
        return {};
    }
};

}  // namespace

SnapRule snap_rule(const std::string& name) {
    struct Named {
        const char* start;
        SnapKind kind;
        Vec3 direction;
        const char* says;
    };
    static const Vec3 forward = Vec3::UnitZ(), up = Vec3::UnitY(), side = Vec3::UnitX(), none = Vec3::Zero();
    static const Named rules[] = {
        {"vertex", SnapKind::Extreme, up, "the highest place"},
        {"opisthocranion", SnapKind::Extreme, -forward, "the rearmost place"},
        {"glabella", SnapKind::Extreme, forward, "the most forward place"},
        {"sellion", SnapKind::Extreme, -forward, "the deepest place"},
        {"pronasale", SnapKind::Extreme, forward, "the most forward place"},
        {"subnasale", SnapKind::Valley, none, "the angle"},
        {"sublabiale", SnapKind::Extreme, -forward, "the deepest place"},
        {"pogonion", SnapKind::Extreme, forward, "the most forward place"},
        {"gnathion", SnapKind::Extreme, -up, "the lowest place"},
        {"cervical_point", SnapKind::Valley, none, "the angle"},
        {"labiale", SnapKind::ColourEdge, none, "the edge of the lip's colour"},
        {"crista_philtri", SnapKind::ColourEdge, none, "the edge of the lip's colour"},
        {"stomion", SnapKind::Valley, none, "the crease"},
        {"cheilion", SnapKind::Valley, none, "the corner's hollow"},
        {"exocanthion", SnapKind::Valley, none, "the corner's hollow"},
        {"endocanthion", SnapKind::Valley, none, "the corner's hollow"},
        {"palpebrale", SnapKind::Ridge, none, "the lid's edge"},
        {"alare", SnapKind::Extreme, side, "the most lateral place"},
        {"subalare", SnapKind::Valley, none, "the crease"},
        {"zygion", SnapKind::Extreme, side, "the most lateral place"},
        {"cheek", SnapKind::Extreme, forward, "the most forward place"},
        {"gonion", SnapKind::Extreme, side, "the most lateral place"},
        {"tragion", SnapKind::Valley, none, "the notch"},
        {"superaurale", SnapKind::Extreme, up, "the highest place"},
        {"subaurale", SnapKind::Extreme, -up, "the lowest place"},
        {"postaurale", SnapKind::Extreme, -forward, "the rearmost place"},
        {"cervicale", SnapKind::Extreme, -forward, "the rearmost place"},
        {"omphalion", SnapKind::Valley, none, "the hollow"},
        {"thelion", SnapKind::Ridge, none, "the tip"},
        {"olecranon", SnapKind::Extreme, -forward, "the rearmost place"},
        {"dactylion", SnapKind::Ridge, none, "the tip"},
        {"gluteale", SnapKind::Extreme, -forward, "the rearmost place"},
        {"pternion", SnapKind::Extreme, -forward, "the rearmost place"},
        {"acropodion", SnapKind::Extreme, forward, "the foremost place"},
        {"upper_lid", SnapKind::Ridge, none, "the lid's edge"},
        {"lower_lid", SnapKind::Ridge, none, "the lid's edge"},
        {"upper_lip_border", SnapKind::ColourEdge, none, "the edge of the lip's colour"},
        {"lower_lip_border", SnapKind::ColourEdge, none, "the edge of the lip's colour"},
        {"mouth_line", SnapKind::Valley, none, "the crease"},
        {"ear_rim", SnapKind::Ridge, none, "the rim"},
        {"jaw_line", SnapKind::Ridge, none, "the jaw's edge"},
    };
    for (const Named& r : rules) {
        if (!name.starts_with(r.start)) continue;
        SnapRule out{r.kind, r.direction, r.says};
        if (r.direction == side && name.ends_with("_r")) out.direction = -side;
        return out;
    }
    return {};
}

Vec3 snap(const SnapSurface& surface, const SnapRule& rule_asked, const Vec3& start, double reach_mm) {
    SnapRule rule = rule_asked;
    // without colours a lip's border is still a low ridge
    if (rule.kind == SnapKind::ColourEdge && !surface.lightness) rule.kind = SnapKind::Ridge;
    if (rule.kind == SnapKind::None || !surface.query) return start;
    const Patch patch(surface, start);
    double best_x = 0, best_y = 0, best = patch.score(rule, 0, 0).value_or(-1e9), span = reach_mm;
    bool moved = false;
    const double at_start = best;
    for (int round = 0; round < 4; ++round, span *= 0.3) {  // a grid, then finer ones around its best
        const double cx = best_x, cy = best_y;
        for (int i = -8; i <= 8; ++i) {
            for (int j = -8; j <= 8; ++j) {
                const double x = cx + span * i / 8, y = cy + span * j / 8;
                if (x * x + y * y > reach_mm * reach_mm) continue;
                const auto score = patch.score(rule, x, y);
                // what is nearer wins among equals: plateaus must not drag the point to their rim
                if (!score || *score - 1e-4 * std::hypot(x, y) <= best - 1e-4 * std::hypot(best_x, best_y) + 1e-9)
                    continue;
                best = *score, best_x = x, best_y = y, moved = true;
            }
        }
    }
    if (!moved || best <= at_start) return start;
    const auto hit = patch.at(best_x, best_y);
    return hit ? hit->position : start;
}

Points handles_of(const Points& curve, int count) {
    if (static_cast<int>(curve.size()) <= count) return curve;
    std::vector<double> along{0};
    for (std::size_t i = 1; i < curve.size(); ++i) along.push_back(along.back() + (curve[i] - curve[i - 1]).norm());
    Points out;
    for (int k = 0; k < count; ++k) {
        const double want = along.back() * k / (count - 1);
        const auto at = std::min<std::size_t>(
            static_cast<std::size_t>(std::lower_bound(along.begin(), along.end(), want) - along.begin()),
            curve.size() - 1);
        if (at == 0) {
            out.push_back(curve[0]);
            continue;
        }
        const double step = along[at] - along[at - 1], t = step > 0 ? (want - along[at - 1]) / step : 0;
        out.push_back((1 - t) * curve[at - 1] + t * curve[at]);
    }
    return out;
}

Result<Points> trace_curve(const SnapSurface& surface, const SnapRule& rule_asked, const Points& handles, int count,
                           double reach_mm) {
    if (handles.size() < 2) return Error{ErrorCode::BadInput, "A guide curve needs at least two handles."};
    SnapRule rule = rule_asked;
    if (rule.kind == SnapKind::ColourEdge && !surface.lightness) rule.kind = SnapKind::Ridge;
    constexpr int kAcross = 9;  // candidates on each side of the path
    Points out;
    double whole = 0;
    for (std::size_t h = 0; h + 1 < handles.size(); ++h) whole += (handles[h + 1] - handles[h]).norm();
    for (std::size_t h = 0; h + 1 < handles.size(); ++h) {
        const Vec3 a = handles[h], b = handles[h + 1];
        const int steps = std::max(2, static_cast<int>(std::lround(count * (b - a).norm() / std::max(whole, 1e-12))));
        struct Row {
            Points places;
            std::vector<double> cost;
            std::vector<int> from;
        };
        std::vector<Row> rows(static_cast<std::size_t>(steps + 1));
        for (int k = 0; k <= steps; ++k) {
            Row& row = rows[static_cast<std::size_t>(k)];
            const Vec3 straight = a + (b - a) * k / steps;
            if (k == 0 || k == steps) {
                row.places = {k == 0 ? a : b}, row.cost = {0};
                continue;
            }
            const SurfaceHit on = surface.query->closest(straight, 1e12);
            const Patch patch(surface, on ? on.position : straight);
            // across the path, in the patch's plane
            const Vec3 along = surface.to_kit.rotation * (b - a).normalized();
            const double ax = along.dot(patch.right), ay = along.dot(patch.up), n = std::max(std::hypot(ax, ay), 1e-9);
            const double reach =
                rule.kind == SnapKind::None ? 0 : reach_mm * std::min(1.0, 4.0 * std::min(k, steps - k) / steps);
            for (int i = -kAcross; i <= kAcross; ++i) {
                const double d = reach * i / kAcross;
                const double x = -ay / n * d, y = ax / n * d;
                const auto hit = patch.at(x, y);
                if (!hit) continue;
                const double score = rule.kind == SnapKind::None || rule.kind == SnapKind::Extreme
                                         ? 0
                                         : patch.score(rule, x, y).value_or(-0.2);
                row.places.push_back(hit->position);
                row.cost.push_back(-score + 0.004 * d * d);
                if (reach == 0) break;
            }
            if (row.places.empty()) row.places = {on ? on.position : straight}, row.cost = {0};
        }
        const double mm = surface.to_kit.scale;
        for (std::size_t k = 1; k < rows.size(); ++k) {
            const Row& before = rows[k - 1];
            for (std::size_t i = 0; i < rows[k].places.size(); ++i) {
                double best = 1e300;
                int from = 0;
                for (std::size_t j = 0; j < before.places.size(); ++j) {
                    const double length = mm * (rows[k].places[i] - before.places[j]).norm(),
                                 c = before.cost[j] + 0.05 * length;
                    if (c < best) best = c, from = static_cast<int>(j);
                }
                rows[k].cost[i] += best;
                rows[k].from.push_back(from);
            }
        }
        Points part;
        int at = 0;
        for (std::size_t k = rows.size(); k-- > 0;) {
            part.push_back(rows[k].places[static_cast<std::size_t>(at)]);
            if (k > 0) at = rows[k].from[static_cast<std::size_t>(at)];
        }
        std::reverse(part.begin(), part.end());
        out.insert(out.end(), part.begin() + (h > 0), part.end());
    }
    return out;
}

Vec3 nudge(const SnapSurface& surface, const Vec3& at, const Vec3& right, const Vec3& up, double right_mm,
           double up_mm) {
    const double unit = 1 / surface.to_kit.scale;
    const SurfaceHit here = surface.query->closest(at, 1e12);
    if (!here) return at;
    // the way is laid into the surface, so that a step is as long as it was asked for
    const Vec3 n = surface.query->triangle_normals()[here.triangle];
    const Vec3 asked = right_mm * right + up_mm * up;
    Vec3 way = asked - n.dot(asked) * n;
    if (way.norm() < 0.05 * asked.norm()) way = asked;
    const SurfaceHit hit = surface.query->closest(at + unit * asked.norm() * way.normalized(), 1e12);
    return hit ? hit.position : at;
}

namespace {
Vec3 flipped(const Vec3& kit) { return {-kit.x(), kit.y(), kit.z()}; }
}  // namespace

std::optional<Similarity> own_mirror(const LandmarkSet& set, const Similarity& to_kit) {
    Points from, to;
    for (const auto& [name, p] : set.points) {
        const std::string partner = other_side(name);
        const SchemePoint* scheme = landmark_scheme().point(name);
        const auto at = set.points.find(partner.empty() ? name : partner);
        if (at == set.points.end() || (partner.empty() && !scheme)) continue;
        from.push_back(flipped(to_kit(p))), to.push_back(to_kit(at->second));
    }
    if (from.size() < 4) return {};
    SimilarityOptions options;
    options.allow_scale = false;
    const auto out = fit_similarity(from, to, options);
    if (!out) return {};
    return *out;
}

Vec3 mirrored(const Vec3& p, const Similarity& mirror, const Similarity& to_kit) {
    return to_kit.inverse()(mirror(flipped(to_kit(p))));
}

}  // namespace veld
