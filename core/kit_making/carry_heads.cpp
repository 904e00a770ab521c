#include "core/kit_making/carry_heads.h"

#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kHeadsBandMm = 55;  // over which known heads fade at the neck

}  // namespace

std::shared_ptr<const KnownHeads> carried_heads(const BaseKit& model, const ShapeCarrier& carrier,
                                                const std::vector<ModelPlace>& places, const BaseKit& base) {
    if (!model.known_heads || base.region("head_skin").empty()) return nullptr;
    const KnownHeads& known = *model.known_heads;
    std::vector<Index> row_of(model.mesh.positions.size(), kNone);
    for (std::size_t i = 0; i < known.vertex.size(); ++i) row_of[known.vertex[i]] = static_cast<Index>(i);
    const std::vector<double> fade = head_fade(base, kHeadsBandMm);
    const std::vector<Triangle>& triangles = skin_triangles(model);
    auto out = std::make_shared<KnownHeads>();
    out->heads = known.heads;
    for (const Index v : base.region("head_skin")) {
        if (fade[v] > 0 && places[v]) out->vertex.push_back(v);
    }
    const auto n = static_cast<Eigen::Index>(out->vertex.size());
    if (n == 0) return nullptr;
    out->mean = Eigen::MatrixXf::Zero(3, n);
    out->mode = Eigen::MatrixXf::Zero(3 * n, known.mode.cols());
    out->beyond.assign(out->vertex.size(), 0);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Index v = out->vertex[static_cast<std::size_t>(i)];
        const Triangle& on = triangles[places[v].triangle];
        for (std::size_t k = 0; k < 3; ++k) {
            const Index row = row_of[on[k]];
            if (row == kNone) continue;
            Mat3 turn;
            for (int axis = 0; axis < 3; ++axis) turn.col(axis) = carrier.turned(on[k], Vec3::Unit(axis));
            const auto share = static_cast<float>(places[v].weights[k]);
            out->mode.middleRows<3>(3 * i) += share * turn.cast<float>() * known.mode.middleRows<3>(3 * row);
            out->beyond[static_cast<std::size_t>(i)] += share * known.beyond[row];
        }
    }
    return out;
}

}  // namespace veld
