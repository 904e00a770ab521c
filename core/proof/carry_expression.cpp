#include "core/proof/carry_expression.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/fit/lids.h"
#include "core/fit/meeting.h"
#include "core/fit/push_apart.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/spd_solver.h"
#include "core/spatial/nearest_points.h"
#include "core/spatial/self_intersections.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kMovesMm = 1e-3;         // skin that the base's expression moves by less stays
constexpr double kLeastCotangent = 0.01;  // slivers hold no less than this
constexpr double kNearEyeMm = 4;          // skin this near an eyeball, on base or head, is looked at
constexpr double kLashReachMm = 12;       // from a lash to its lid
constexpr int kContactRounds = 8;
constexpr double kShutMm = 0.05;  // a narrower gap is none
constexpr double kLeftMm = 0.01;  // between sheets that are set apart

Points base_expression(const BaseKit& kit, const Points& full, double amount) {
    Points out = kit.mesh.positions;
    for (std::size_t v = 0; v < out.size(); ++v) out[v] += amount * (full[v] - out[v]);
    return out;
}

// How much larger than the base's this head is.
double size_of(const BaseKit& kit, const Points& head) {
    const VertexIndices& skin = kit.region("head_skin").empty() ? kit.part("skin")->vertices : kit.region("head_skin");
    Points from, to;
    for (const Index v : skin) from.push_back(kit.mesh.positions[v]), to.push_back(head[v]);
    const auto seat = fit_similarity(from, to);
    return seat ? seat->scale : 1;
}

// A triangle's edges and its normal as long as they are: what an affine map of it is told by.
Mat3 frame_of(const Triangle& t, const Points& x) {
    const Vec3 a = x[t[1]] - x[t[0]], b = x[t[2]] - x[t[0]], n = a.cross(b);
    Mat3 out;
    out << a, b, n / std::sqrt(std::max(n.norm(), 1e-12));
    return out;
}

// Skin that moves, and the Poisson problem that tells where to.
class Transfer {
 public:
    Transfer(const BaseKit& kit, const Points& head, const Points& shape)
        : kit_(kit), head_(head), shape_(shape), row_(head.size(), kNone) {
        for (const Index v : kit.part("skin")->vertices) {
            if ((shape[v] - kit.mesh.positions[v]).norm() < kMovesMm) continue;
            row_[v] = static_cast<Index>(free_.size()), free_.push_back(v);
        }
    }
    Status run(Points& out) const {
        if (free_.empty()) return Done{};
        std::vector<std::pair<Index, Index>> entries;
        std::vector<const Triangle*> moving;
        for (const Triangle& t : skin_triangles(kit_)) {
            if (row_[t[0]] == kNone && row_[t[1]] == kNone && row_[t[2]] == kNone) continue;
            moving.push_back(&t);
            for (std::size_t k = 0; k < 3; ++k)
                if (row_[t[k]] != kNone && row_[t[(k + 1) % 3]] != kNone)
                    entries.emplace_back(row_[t[k]], row_[t[(k + 1) % 3]]);
        }
        SpdSolver solver(static_cast<Index>(free_.size()), std::move(entries));
        std::fill(solver.values().begin(), solver.values().end(), 0.0);
        Points right(free_.size(), Vec3::Zero());
        for (const Triangle* t : moving) add(*t, solver, right);
        if (auto ok = solver.factor(); !ok)
            return Error{ErrorCode::DegenerateInput, "The head's triangles are too damaged to carry an expression."};
        const Points solved = solver.solve(right);
        for (const Index v : free_) out[v] = solved[row_[v]];
        return Done{};
    }

 private:
    void add(const Triangle& t, SpdSolver& solver, Points& right) const {
        const Mat3 turn = frame_of(t, shape_) * frame_of(t, kit_.mesh.positions).inverse();
        if (!turn.allFinite()) return;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index i = t[k], j = t[(k + 1) % 3], o = t[(k + 2) % 3];
            const Vec3 a = head_[i] - head_[o], b = head_[j] - head_[o];
            const double holds = 0.5 * std::max(kLeastCotangent, a.dot(b) / std::max(a.cross(b).norm(), 1e-9));
            const Vec3 edge = turn * (head_[i] - head_[j]);
            add_edge(i, j, holds, edge, solver, right);
        }
    }
    void add_edge(Index i, Index j, double holds, const Vec3& edge, SpdSolver& solver, Points& right) const {
        const Index r = row_[i], s = row_[j];
        auto& values = solver.values();
        if (r != kNone) values[solver.slot(r, r)] += holds, right[r] += holds * edge;
        if (s != kNone) values[solver.slot(s, s)] += holds, right[s] -= holds * edge;
        if (r != kNone && s != kNone) values[solver.slot(r, s)] -= holds;
        if (r != kNone && s == kNone) right[r] += holds * head_[j];
        if (s != kNone && r == kNone) right[s] += holds * head_[i];
    }

    const BaseKit& kit_;
    const Points &head_, &shape_;
    std::vector<Index> row_;  // per vertex: its unknown, or none
    VertexIndices free_;
};

// What is not skin and no lash: moved as on the base, turned and sized as the head has it.
void move_parts(const BaseKit& kit, const Points& head, const Points& shape, Points& out) {
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin" || part.rule() == PartRule::Edge || part.vertices.size() < 4) continue;
        const bool moves = std::any_of(part.vertices.begin(), part.vertices.end(),
                                       [&](Index v) { return (shape[v] - kit.mesh.positions[v]).norm() >= kMovesMm; });
        if (!moves) continue;
        Points from, to;
        for (const Index v : part.vertices) from.push_back(kit.mesh.positions[v]), to.push_back(head[v]);
        const auto seat = fit_similarity(from, to);
        for (const Index v : part.vertices) {
            const Vec3 way = shape[v] - kit.mesh.positions[v];
            out[v] = head[v] + (seat ? Vec3(seat->scale * (seat->rotation * way)) : way);
        }
    }
}

// Lashes move as on the base, and by what the lid beside them moves otherwise than there.
void move_lashes(const BaseKit& kit, const Points& head, const Points& shape, Points& out) {
    const VertexIndices& skin = kit.part("skin")->vertices;
    Points places;
    for (const Index v : skin) places.push_back(kit.mesh.positions[v]);
    std::optional<NearestPoints> nearest;
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin" || part.rule() != PartRule::Edge) continue;
        if (!nearest) nearest.emplace(places, kLashReachMm);
        for (const Index v : part.vertices) {
            const Index at = nearest->nearest(kit.mesh.positions[v]);
            if (at == kNone) continue;
            const Index lid = skin[at];
            const Vec3 on_base = shape[lid] - kit.mesh.positions[lid];
            out[v] = head[v] + (shape[v] - kit.mesh.positions[v]) + (out[lid] - head[lid] - on_base);
        }
    }
}

// How far skin lies outside an eyeball.
class Ball {
 public:
    Ball(const BaseKit& kit, const KitEye& eye, const Points& shape) : shape_(shape) {
        const KitPart* part = kit.part(eye.part);
        if (!part) return;
        for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t)
            if (part->has_face(kit.triangulation.triangle_face[t]))
                triangles_.push_back(kit.triangulation.triangles[t]);
        const auto seat = eye_seat(kit, eye, shape);
        if (!seat || triangles_.empty()) return;
        centre_ = (*seat)(eye.centre), radius_ = seat->scale * eye.radius;
        query_ = std::make_unique<SurfaceQuery>(shape_, triangles_);
    }
    bool near(const Vec3& p) const { return query_ && (p - centre_).norm() < radius_ + kNearEyeMm; }
    double outside(const Vec3& p) const {
        const SurfaceHit hit = query_->closest(p, 2 * radius_ + kNearEyeMm);
        if (!hit) return (p - centre_).norm() - radius_;
        return (p - hit.position).dot(hit.position - centre_) >= 0 ? hit.distance : -hit.distance;
    }
    Vec3 way_out(const Vec3& p) const { return (p - centre_).normalized(); }

 private:
    const Points& shape_;
    std::vector<Triangle> triangles_;
    std::unique_ptr<SurfaceQuery> query_;
    Vec3 centre_ = Vec3::Zero();
    double radius_ = 0;
};

// Skin that moves near an eyeball, and how far outside it the base's expression has it; what the base has inside
// counts as it is.
struct BallContact {
    Ball on_head;
    VertexIndices vertices;
    std::vector<double> outside;
    BallContact(const BaseKit& kit, const KitEye& eye, const Points& head, const Points& shape, double size)
        : on_head(kit, eye, head) {
        const Ball on_base(kit, eye, shape);
        for (const Index v : kit.part("skin")->vertices) {
            if ((shape[v] - kit.mesh.positions[v]).norm() < kMovesMm) continue;
            if (!on_base.near(shape[v]) || !on_head.near(head[v])) continue;
            vertices.push_back(v), outside.push_back(size * on_base.outside(shape[v]));
        }
    }
    void push_out(Points& x) const {
        for (std::size_t i = 0; i < vertices.size(); ++i) {
            Vec3& p = x[vertices[i]];
            const double missing = outside[i] - on_head.outside(p);
            if (outside[i] > 0 && missing > 0) p += missing * on_head.way_out(p);
        }
    }
    double sunk(const Points& x) const {
        double out = 0;
        for (std::size_t i = 0; i < vertices.size(); ++i)
            if (outside[i] > 0) out = std::max(out, outside[i] - on_head.outside(x[vertices[i]]));
        return out;
    }
};

// What touches on the base touches here, lids stay outside of the balls, and lips that lie on one another and slide do
// not go through each other: of all that is tried what does it best.
class Contact {
 public:
    Contact(const BaseKit& kit, const Points& head, const Points& shape, const Points& now)
        : kit_(kit), head_(head), shape_(shape), meetings_(meetings_of(kit, shape)), moving_(now.size(), 0) {
        const double size = size_of(kit, head);
        for (const Meeting& m : meetings_) wanted_.push_back(size * (shape[m.b] - shape[m.a]));
        for (const KitEye& eye : kit.eyes)
            if (kit.part(eye.part)) balls_.emplace_back(kit, eye, head, shape, size);
        for (const Index v : kit.part("skin")->vertices)
            moving_[v] = (shape[v] - kit.mesh.positions[v]).norm() >= kMovesMm;
        near_ = triangles_near(now, skin_triangles(kit), moving_);
        for (const Points* x : {&shape, &head})
            for (const auto& pair : self_intersections(*x, skin_triangles(kit), &near_)) allowed_.insert(pair);
    }
    void run(Points& out) const {
        Points best = out;
        Wrong least = wrong(out);
        const auto keep = [&](const Points& x) {
            const Wrong now = wrong(x);
            if (now.worse() < least.worse()) least = now, best = x;
        };
        for (int round = 0; round < kContactRounds && least.worse() > 0; ++round) {
            for (const BallContact& ball : balls_) ball.push_out(out);
            keep(out);
            Points apart = out;
            PushOptions options;
            options.gap_mm = kLeftMm;
            push_apart(apart, skin_triangles(kit_), moving_, allowed_, &near_, options);
            keep(apart);
            // skin that meets without cutting: half of the way to either
            if (round % 2 == 1)
                for (std::size_t v = 0; v < out.size(); ++v) out[v] = 0.5 * (out[v] + apart[v]);
            keep(out);
            if (meetings_.empty()) break;
            const Points further = closing_ways(kit_, meetings_, wanted_, head_, out);
            for (std::size_t v = 0; v < out.size(); ++v) out[v] += further[v];
            keep(out);
        }
        if (least.worse() > 0) {  // where eyes are hardly other than the base's, its own way may be the better one
            Points plain = head_;
            for (const Index v : kit_.part("skin")->vertices) plain[v] += shape_[v] - kit_.mesh.positions[v];
            keep(plain);
        }
        out = std::move(best);
    }

 private:
    struct Wrong {
        double gap = 0, sunk = 0;
        std::size_t cuts = 0;
        // a tenth of a millimetre that lids are open is as bad as one cut
        double worse() const {
            const auto tenths = [](double mm) { return mm > kShutMm ? mm / (2 * kShutMm) : 0; };
            return static_cast<double>(cuts) + tenths(gap) + tenths(sunk);
        }
    };
    Wrong wrong(const Points& x) const {
        Wrong out;
        for (std::size_t m = 0; m < meetings_.size(); ++m)
            out.gap = std::max(out.gap, (x[meetings_[m].b] - x[meetings_[m].a]).norm() - wanted_[m].norm());
        for (const BallContact& ball : balls_) out.sunk = std::max(out.sunk, ball.sunk(x));
        for (const auto& pair : self_intersections(x, skin_triangles(kit_), &near_))
            out.cuts += !allowed_.contains(pair);
        return out;
    }

    const BaseKit& kit_;
    const Points &head_, &shape_;
    const std::vector<Meeting> meetings_;
    Points wanted_;  // per meeting, from a to b
    std::vector<BallContact> balls_;
    VertexMask moving_;
    TriangleIndices near_;
    std::set<std::pair<Index, Index>> allowed_;  // cuts of the base's expression and of the head itself
};

Result<const Points*> full_expression(const BaseKit& kit, const std::string& name) {
    const auto at = kit.expressions.find(name);
    if (at != kit.expressions.end()) return &at->second;
    std::string known;
    for (const auto& [other, shape] : kit.expressions) known += (known.empty() ? "" : ", ") + other;
    return Error{ErrorCode::NotFound,
                 "The kit has no expression '" + name + "'; it has " + (known.empty() ? "none" : known) + "."};
}

}  // namespace

Result<Points> carry_expression(const BaseKit& kit, const Points& head, const std::string& expression, double amount) {
    const auto full = full_expression(kit, expression);
    if (!full) return full.error();
    const Points shape = base_expression(kit, **full, amount);
    Points out = head;
    if (auto ok = Transfer(kit, head, shape).run(out); !ok) return ok.error();
    Contact(kit, head, shape, out).run(out);
    move_parts(kit, head, shape, out);
    move_lashes(kit, head, shape, out);
    return out;
}

Points plain_expression(const BaseKit& kit, const Points& head, const std::string& expression, double amount) {
    Points out = head;
    const auto full = full_expression(kit, expression);
    for (std::size_t v = 0; full && v < out.size(); ++v) out[v] += amount * ((**full)[v] - kit.mesh.positions[v]);
    return out;
}

Result<Morph> expression_morph(const BaseKit& kit, const Points& from, const Points& to, const std::string& expression,
                               bool correction) {
    Points shape = kit.mesh.positions;
    for (std::size_t v = 0; v < shape.size(); ++v) shape[v] += to[v] - from[v];
    auto morph = make_morph(kit, shape, expression);
    if (!morph) return morph;
    morph->kind = correction ? MorphKind::Fix : MorphKind::Expression;
    morph->origin = "The kit's '" + expression + "'" + (correction ? ": what it lacks on this head" : " on this head");
    return morph;
}

Result<std::vector<Morph>> carried_morphs(const BaseKit& kit, const Points& head, const Progress& progress) {
    if (kit.expressions.empty()) return Error{ErrorCode::BadInput, "The kit has no expressions."};
    std::vector<Morph> out;
    for (const auto& [name, shape] : kit.expressions) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        progress.say(static_cast<double>(out.size()) / static_cast<double>(kit.expressions.size()), name);
        const auto carried = carry_expression(kit, head, name);
        if (!carried) return carried.error();
        auto morph = expression_morph(kit, head, *carried, name, false);
        if (!morph) return morph.error();
        const Index cuts = contact_figures(kit, *carried, name).cuts, own = contact_figures(kit, head, name, 0).cuts;
        if (cuts > own)
            morph->note = "Look at it: skin still cuts itself in " + std::to_string(cuts - own) + " places.";
        out.push_back(std::move(*morph));
    }
    return out;
}

ContactFigures contact_figures(const BaseKit& kit, const Points& shape, const std::string& expression, double amount) {
    ContactFigures out;
    const auto full = full_expression(kit, expression);
    if (!full) return out;
    const Points base = base_expression(kit, **full, amount);
    for (const Meeting& m : meetings_of(kit, base)) {
        const double missing = (shape[m.a] - shape[m.b]).norm() - (base[m.a] - base[m.b]).norm();
        out.gap_mm = std::max(out.gap_mm, missing);
    }
    out.outside_mm = std::numeric_limits<double>::infinity();
    for (const KitEye& eye : kit.eyes) {
        if (!kit.part(eye.part)) continue;
        const Ball on_base(kit, eye, base), on_head(kit, eye, shape);
        for (const Index v : kit.part("skin")->vertices) {
            const bool moves = (base[v] - kit.mesh.positions[v]).norm() >= kMovesMm;
            if (moves && on_base.near(base[v]) && on_head.near(shape[v]) && on_base.outside(base[v]) > 0)
                out.outside_mm = std::min(out.outside_mm, on_head.outside(shape[v]));
        }
    }
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const auto own = self_intersections(base, skin);
    for (const auto& pair : self_intersections(shape, skin))
        out.cuts += !std::binary_search(own.begin(), own.end(), pair);
    return out;
}

}  // namespace veld
