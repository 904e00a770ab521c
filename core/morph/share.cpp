#include "core/morph/share.h"

#include <cmath>

#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"
#include "core/morph/arithmetic.h"

namespace veld {
namespace {

Vec3 mean_of(const Points& points, const std::vector<Index>& which) {
    Vec3 sum = Vec3::Zero();
    for (const Index v : which) sum += points[v];
    return which.empty() ? sum : Vec3(sum / static_cast<double>(which.size()));
}

bool in_head(const BaseKit& kit, const KitPart& part) {
    if (part.name == "skin" || part.vertices.empty() || kit.neck_ring.empty()) return false;
    return mean_of(kit.mesh.positions, part.vertices).y() > mean_of(kit.mesh.positions, kit.neck_ring).y();
}

}  // namespace

std::vector<double> head_weights(const BaseKit& kit, double band_mm) {
    std::vector<double> out = head_fade(kit, std::max(band_mm, 1e-6));
    for (const KitPart& part : kit.parts) {
        if (!in_head(kit, part)) continue;
        for (const Index v : part.vertices) out[v] = 1;
    }
    return out;
}

Vec3 neck_alignment(const BaseKit& kit, const Points& shape) {
    if (kit.neck_ring.empty()) return Vec3::Zero();
    return {0, mean_of(kit.mesh.positions, kit.neck_ring).y() - mean_of(shape, kit.neck_ring).y(), 0};
}

double floor_of(const BaseKit& kit, const Points& shape) {
    double low = std::numeric_limits<double>::infinity();
    for (const Index v : kit.part("skin")->vertices) low = std::min(low, shape[v].y());
    return low;
}

Result<Shares> split_shares(const BaseKit& kit, const Points& shape, const std::string& name,
                            const ShareOptions& options) {
    if (kit.neck_ring.empty() && !options.head)
        return Error{ErrorCode::BadInput, "The kit names no neck ring, so head and body cannot be told apart."};
    if (shape.size() != kit.mesh.positions.size()) return make_morph(kit, shape, name).error();
    if (options.head && options.head->size() != shape.size())
        return Error{ErrorCode::BadInput, "The share weights are " + std::to_string(options.head->size()) +
                                              ", the base has " + std::to_string(shape.size()) + " vertices."};
    Shares out;
    out.neck_move = options.neck_move.value_or(neck_alignment(kit, shape));
    Points moved = shape;
    for (Vec3& p : moved) p += out.neck_move;
    const auto whole = make_morph(kit, moved, name, 0);
    if (!whole) return whole.error();
    const std::vector<double> weights = options.head ? *options.head : head_weights(kit, options.band_mm);
    auto parts = split_morph(kit, *whole, {{name + " head", weights}}, name + " body");
    if (!parts) return parts.error();
    out.head = std::move((*parts)[0]), out.body = std::move((*parts)[1]);
    out.head.kind = MorphKind::Head, out.body.kind = MorphKind::Body;
    out.body.root = -out.neck_move;
    if (options.on_floor) {
        out.lifted.y() = floor_of(kit, kit.mesh.positions) - floor_of(kit, shape);
        out.body.root += out.lifted;
    }
    out.head.origin = "Head share of " + name, out.body.origin = "Body share of " + name;
    return out;
}

Result<std::vector<Morph>> split_morph(const BaseKit& kit, const Morph& morph,
                                       const std::vector<std::pair<std::string, std::vector<double>>>& weights,
                                       const std::string& rest) {
    if (morph.topology != kit.topology_key)
        return Error{ErrorCode::BadInput, "The morph '" + morph.name + "' belongs to another base mesh."};
    const std::size_t count = kit.mesh.positions.size();
    std::vector<double> left(count, 1.0);
    Points remains(count, Vec3::Zero());
    for (std::size_t i = 0; i < morph.index.size(); ++i) remains[morph.index[i]] = morph.delta[i];
    std::vector<Morph> out;
    for (const auto& [name, weight] : weights) {
        if (weight.size() != count)
            return Error{ErrorCode::BadInput, "The weights of '" + name + "' are " + std::to_string(weight.size()) +
                                                  ", the base has " + std::to_string(count) + " vertices."};
        std::vector<double> own(count);
        for (std::size_t v = 0; v < count; ++v) {
            if (!std::isfinite(weight[v]))
                return Error{
                    ErrorCode::BadInput,
                    "The weights of '" + name + "' hold a number that is none, at vertex " + std::to_string(v) + "."};
            own[v] = std::clamp(weight[v], 0.0, left[v]);
            left[v] -= own[v];
        }
        out.push_back(masked_morph(morph, own));
        out.back().name = name, out.back().kind = MorphKind::Region, out.back().root = Vec3::Zero(),
        out.back().origin = "Share of " + morph.name;
        for (std::size_t i = 0; i < out.back().index.size(); ++i) remains[out.back().index[i]] -= out.back().delta[i];
    }
    Morph last = morph;
    last.name = rest, last.kind = MorphKind::Region, last.origin = "Share of " + morph.name;
    last.index.clear(), last.delta.clear();
    for (Index v = 0; v < count; ++v) {
        // where the weights used all up only rounding is left
        if (remains[v].isZero(0) || left[v] == 0) continue;
        last.index.push_back(v), last.delta.push_back(remains[v]);
    }
    out.push_back(std::move(last));
    return out;
}

Result<std::vector<Morph>> region_shares(const BaseKit& kit, const BaseRegions& regions, const Morph& morph) {
    // the last one takes what the others leave, so that the sum is exact
    std::vector<std::pair<std::string, std::vector<double>>> weights;
    for (std::size_t r = 0; r + 1 < regions.names.size(); ++r)
        weights.emplace_back(morph.name + " " + regions.names[r],
                             std::vector<double>(regions.weight[r].begin(), regions.weight[r].end()));
    auto out = split_morph(kit, morph, weights, morph.name + " " + regions.names.back());
    if (!out) return out.error();
    std::erase_if(*out, [](const Morph& m) { return m.index.empty() && m.root.isZero(0); });
    return out;
}

}  // namespace veld
