#include "core/proof/transfer.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/spd_solver.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kLeastCotangent = 0.01;  // slivers hold no less than this
constexpr double kLashReachMm = 12;       // from a lash to its lid

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

}  // namespace

// How much larger than the base's this head is.
double head_size(const BaseKit& kit, const Points& head) {
    const VertexIndices& skin = kit.region("head_skin").empty() ? kit.part("skin")->vertices : kit.region("head_skin");
    Points from, to;
    for (const Index v : skin) from.push_back(kit.mesh.positions[v]), to.push_back(head[v]);
    const auto seat = fit_similarity(from, to);
    return seat ? seat->scale : 1;
}

Status transfer_skin(const BaseKit& kit, const Points& head, const Points& shape, Points& out) {
    return Transfer(kit, head, shape).run(out);
}

void transfer_parts(const BaseKit& kit, const Points& head, const Points& shape, Points& out) {
    move_parts(kit, head, shape, out);
    move_lashes(kit, head, shape, out);
}

}  // namespace veld
