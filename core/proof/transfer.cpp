#include "core/proof/transfer.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kAroundMm = 15;     // skin so near says how the head lies to the base there
constexpr double kFarthest = 4;      // squared, of that
constexpr double kHoldsMap = 0.01;   // of what it says, for where it lies in a plane
constexpr double kLashReachMm = 12;  // from a lash to its lid

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

HeadMap::HeadMap(const BaseKit& kit, const Points& head) : map_(head.size(), Mat3::Identity()) {
    const Points& base = kit.mesh.positions;
    VertexIndices near;
    for (const Index v : kit.part("skin")->vertices)
        if (std::any_of(kit.expressions.begin(), kit.expressions.end(),
                        [&](const auto& e) { return (e.second[v] - base[v]).norm() >= kMovesMm; }))
            near.push_back(v);
    const double size = head_size(kit, head);
    tbb::parallel_for(std::size_t{0}, near.size(), [&](std::size_t i) {
        const Index v = near[i];
        Mat3 from = Mat3::Zero(), to = Mat3::Zero();
        double all = 0;
        for (const Index w : near) {
            const Vec3 p = base[w] - base[v];
            const double off = p.squaredNorm() / (kAroundMm * kAroundMm);
            if (off > kFarthest) continue;
            const double weight = std::exp(-2 * off);
            from += weight * p * p.transpose(), to += weight * (head[w] - head[v]) * p.transpose();
            all += weight;
        }
        const Mat3 hold = kHoldsMap * all * kAroundMm * kAroundMm * Mat3::Identity();
        map_[v] = (to + size * hold) * (from + hold).inverse();
    });
}

void transfer_skin(const BaseKit& kit, const Points& head, const HeadMap& map, const Points& shape, Points& out) {
    for (const Index v : kit.part("skin")->vertices)
        if (const Vec3 way = shape[v] - kit.mesh.positions[v]; way.norm() >= kMovesMm)
            out[v] = head[v] + map.at(v) * way;
}

void transfer_parts(const BaseKit& kit, const Points& head, const Points& shape, Points& out) {
    move_parts(kit, head, shape, out);
    move_lashes(kit, head, shape, out);
}

}  // namespace veld
