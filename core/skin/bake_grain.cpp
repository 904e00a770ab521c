// What a bake needs of a person's own grain: where it is seen, what is smooth around it, where it is wanted.
#include <algorithm>
#include <cmath>

#include "core/mesh/topology.h"
#include "core/skin/bake_work.h"
#include "core/skin/heal.h"

namespace veld {
namespace {

constexpr int kSmoothGrain = 3;  // rounds: what is smooth, over some millimetres of a face
constexpr int kFadeGrain = 3;    // edges over which it goes over into features that are the base's own
// There the base's own skin says more than grain can.
constexpr const char* kFeatures[] = {"lips",     "lid_l",       "lid_r",         "socket_l",
                                     "socket_r", "mouth_inner", "nostril_inside"};

template <class Value>
void smooth(const Adjacency& ways, int rounds, std::vector<Value>& values) {
    for (int round = 0; round < rounds; ++round) {
        std::vector<Value> next = values;
        for (Index v = 0; v < values.size(); ++v) {
            Value sum = values[v];
            float count = 1;
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += values[*w], ++count;
            next[v] = sum / count;
        }
        values = std::move(next);
    }
}

}  // namespace

void BakeWork::find_grain(const SeenPlaces& seen, const std::vector<std::uint8_t>& known,
                          std::vector<std::string>& notes) {
    const auto count = static_cast<Index>(base.positions.size());
    std::vector<std::uint8_t> feature(base.region_names.size(), 0);
    for (std::size_t r = 0; r < feature.size(); ++r)
        feature[r] =
            std::find(std::begin(kFeatures), std::end(kFeatures), base.region_names[r]) != std::end(kFeatures);
    std::vector<float> wanted(count, 0);
    VertexMask onto(count, 0), skin(count, 0);
    for (Index t = 0; t < base.triangles.size(); ++t) {
        if (base.part[t] != 0) continue;
        for (const Index v : base.triangles[t]) {
            skin[v] = 1;
            const bool plain = image[t] < 0;
            if (plain || (settings.own_grain && !feature[base.region[v]])) wanted[v] = 1;
            if (!known[v] && wanted[v] > 0) onto[v] = 1;
        }
    }
    if (std::none_of(onto.begin(), onto.end(), [](std::uint8_t v) { return v != 0; })) return;
    const Adjacency ways = vertex_neighbours(base.triangles, count);
    const std::vector<std::optional<Vec3>> logs = unlit_logs(seen);
    Points around(count, Vec3::Zero());
    std::vector<std::uint8_t> told(count, 0);
    std::vector<Index> from;
    for (Index v = 0; v < count; ++v) {
        if (!logs[v]) continue;
        around[v] = *logs[v], told[v] = 1;
        const bool doubted = !doubtful.empty() && doubtful[v] > 0;
        if (skin[v] && known[v] && !doubted && !feature[base.region[v]]) from.push_back(v);
    }
    if (from.empty() || !membrane(base.triangles, told, {{&around}})) return;
    smooth(ways, kSmoothGrain, around);
    const auto detail = [&](const SkinSpot& spot) -> std::optional<Vec3> {
        if (base.part[spot.triangle] != 0) return {};
        const SourcePlace at = look(spot.triangle, spot.shares);
        if (at.triangle == kNone) return {};
        const std::optional<Vec3> colour = source_colour(at, spot.triangle, spot.shares);
        if (!colour) return {};
        return Vec3(log_colour(*colour) - at_vertices(light, spot.triangle, spot.shares) -
                    at_vertices(around, spot.triangle, spot.shares));
    };
    double dense = 0;
    for (const UvTile& tile : base.tiles)
        dense = std::max(dense, uv_figures(base, tile).density * settings.size / 1024);
    grain = SkinGrain::make(base, from, onto, detail, dense > 0 ? 1 / dense : 1);
    if (!grain) {
        notes.push_back("Too little even skin is seen to take its grain from; what is filled has none.");
        return;
    }
    base_smooth = base_logs();
    smooth(ways, kSmoothGrain, base_smooth);
    grained = std::move(wanted);
    for (int round = 0; round < kFadeGrain; ++round) {
        std::vector<float> next = grained;
        smooth(ways, 1, next);
        for (std::size_t v = 0; v < next.size(); ++v) grained[v] = std::min(grained[v], next[v]);
    }
}

}  // namespace veld
