#include "core/skin/heal.h"

#include <cmath>

#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

#include "core/linalg/spd_solver.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kPull = 1e-7;      // towards `otherwise`, of a vertex against its edges
constexpr int kSmoothRounds = 6;    // of what is spread
constexpr double kAlongShare = 3;   // times the reach: rounds in which a border is evened out along itself
constexpr double kFineFade = 0.45;  // a texel, of what is left then

double value_of(const MapImage& map, std::size_t texel, int channel) {
    const std::size_t i = texel * static_cast<std::size_t>(map.channels) + static_cast<std::size_t>(channel);
    return map.real.empty() ? map.unit[i] / 65535.0 : static_cast<double>(map.real[i]);
}

// A map's numbers without saying which kind they are.
struct Values {
    MapImage& map;
    double get(std::size_t texel, int channel) const { return value_of(map, texel, channel); }
    void set(std::size_t texel, int channel, double value) const {
        const std::size_t i = texel * static_cast<std::size_t>(map.channels) + static_cast<std::size_t>(channel);
        if (map.real.empty())
            map.unit[i] = static_cast<std::uint16_t>(std::lround(65535 * std::clamp(value, 0.0, 1.0)));
        else
            map.real[i] = static_cast<float>(value);
    }
};

}  // namespace

Status membrane(const std::vector<Triangle>& triangles, const std::vector<std::uint8_t>& known,
                const std::vector<Field>& fields) {
    const auto count = static_cast<Index>(known.size());
    const Adjacency ways = vertex_neighbours(triangles, count);
    std::vector<Index> unknown(count, kNone);
    std::vector<Index> vertices;
    for (Index v = 0; v < count; ++v) {
        if (!known[v]) unknown[v] = static_cast<Index>(vertices.size()), vertices.push_back(v);
    }
    if (vertices.empty()) return Done{};
    std::vector<std::pair<Index, Index>> pairs;
    for (const Index v : vertices) {
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            if (unknown[*w] != kNone && *w > v) pairs.emplace_back(unknown[v], unknown[*w]);
        }
    }
    SpdSolver solver(static_cast<Index>(vertices.size()), pairs);
    std::vector<double>& entries = solver.values();
    for (Index u = 0; u < vertices.size(); ++u)
        entries[solver.slot(u, u)] += kPull + static_cast<double>(ways.end(vertices[u]) - ways.begin(vertices[u]));
    for (const auto& [a, b] : pairs) entries[solver.slot(a, b)] -= 1;
    if (auto ok = solver.factor(); !ok) return ok.error();
    for (const Field& field : fields) {
        Points rhs(vertices.size(), kPull * field.otherwise);
        for (Index u = 0; u < vertices.size(); ++u) {
            for (const Index* w = ways.begin(vertices[u]); w != ways.end(vertices[u]); ++w) {
                if (unknown[*w] == kNone) rhs[u] += (*field.values)[*w];
            }
        }
        const Points solved = solver.solve(rhs);
        for (Index u = 0; u < vertices.size(); ++u) (*field.values)[vertices[u]] = solved[u];
    }
    return Done{};
}

TexelBorders::TexelBorders(std::vector<Texel> texels, int width, int height, double reach, int padding)
    : texels_(std::move(texels)), width_(width), height_(height), reach_(reach) {
    tbb::parallel_invoke([&] { find_inward(); }, [&] { find_outward(padding); });
}

// Calls take(neighbour) for the up to eight around a texel.
template <class Take>
void TexelBorders::around(std::uint32_t texel, const Take& take) const {
    const int x = static_cast<int>(texel) % width_, y = static_cast<int>(texel) / width_;
    for (int j = std::max(0, y - 1); j <= std::min(height_ - 1, y + 1); ++j) {
        for (int i = std::max(0, x - 1); i <= std::min(width_ - 1, x + 1); ++i) {
            if (i != x || j != y) take(static_cast<std::uint32_t>(j * width_ + i));
        }
    }
}

// Texels of one kind beside those of another, in their order.
template <class Is, class Other>
TexelBorders::Ring TexelBorders::beside(const Is& is, const Other& other) const {
    std::vector<Ring> of_row(static_cast<std::size_t>(height_));
    tbb::parallel_for(0, height_, [&](int y) {
        for (int x = 0; x < width_; ++x) {
            const auto i = static_cast<std::uint32_t>(y * width_ + x);
            if (!is(i)) continue;
            bool borders = false;
            around(i, [&](std::uint32_t n) { borders |= other(n); });
            if (borders) of_row[static_cast<std::size_t>(y)].push_back(i);
        }
    });
    Ring out;
    for (const Ring& row : of_row) out.insert(out.end(), row.begin(), row.end());
    return out;
}

void TexelBorders::find_inward() {
    Ring ring = beside([&](std::uint32_t i) { return texels_[i] == Texel::Missed; },
                       [&](std::uint32_t n) { return texels_[n] == Texel::Good; });
    if (ring.empty()) return;
    slot_.assign(texels_.size(), kNone);
    std::uint32_t slots = 0;
    while (!ring.empty() && inward_.size() < 2 * reach_) {
        for (const std::uint32_t i : ring) slot_[i] = slots++;
        Ring next;
        for (const std::uint32_t i : ring) {
            around(i, [&](std::uint32_t n) {
                if (texels_[n] != Texel::Missed || slot_[n] != kNone) return;
                slot_[n] = kNone - 1;  // is in the next ring
                next.push_back(n);
            });
        }
        for (const std::uint32_t n : next) slot_[n] = kNone;
        inward_.push_back(std::move(ring));
        ring = std::move(next);
    }
}

void TexelBorders::find_outward(int padding) {
    std::vector<std::uint8_t> done(texels_.size(), 0);
    for (std::uint32_t i = 0; i < texels_.size(); ++i) done[i] = texels_[i] != Texel::Outside;
    Ring ring = beside([&](std::uint32_t i) { return !done[i]; }, [&](std::uint32_t n) { return done[n] != 0; });
    for (const std::uint32_t i : ring) done[i] = 1;
    for (int round = 0; round < padding && !ring.empty(); ++round) {
        Ring next;
        for (const std::uint32_t i : ring) {
            around(i, [&](std::uint32_t n) {
                if (!done[n]) done[n] = 1, next.push_back(n);
            });
        }
        outward_.push_back(std::move(ring));
        ring = std::move(next);
    }
}

// What the first ring's texels differ by from what they are filled with.
std::vector<Vec3> TexelBorders::border_steps(const MapImage& map) const {
    std::vector<Vec3> out;
    if (inward_.empty()) return out;
    for (const std::uint32_t i : inward_.front()) {
        Vec3 good = Vec3::Zero(), filled = Vec3::Zero();
        int goods = 0, fills = 1;
        for (int c = 0; c < map.channels; ++c) filled[c] = value_of(map, i, c);
        around(i, [&](std::uint32_t n) {
            if (texels_[n] != Texel::Good && texels_[n] != Texel::Missed) return;
            const bool is_good = texels_[n] == Texel::Good;
            for (int c = 0; c < map.channels; ++c) (is_good ? good : filled)[c] += value_of(map, n, c);
            ++(is_good ? goods : fills);
        });
        out.push_back(good / std::max(1, goods) - filled / fills);
    }
    return out;
}

// Each the mean of itself and its neighbours, of those slots before `end`, some times over.
void TexelBorders::even_out(std::vector<Vec3>& change, std::size_t rings, int rounds) const {
    const std::size_t end = change.size();
    std::vector<std::uint32_t> start{0}, neighbours;  // slots, of each slot in turn
    for (std::size_t r = 0; r < rings; ++r) {
        for (const std::uint32_t i : inward_[r]) {
            around(i, [&](std::uint32_t n) {
                if (slot_[n] < end) neighbours.push_back(slot_[n]);
            });
            start.push_back(static_cast<std::uint32_t>(neighbours.size()));
        }
    }
    std::vector<Vec3> next = change;
    for (int round = 0; round < rounds; ++round) {
        for (std::size_t s = 0; s + 1 < start.size(); ++s) {
            Vec3 sum = change[s];
            for (std::uint32_t k = start[s]; k < start[s + 1]; ++k) sum += change[neighbours[k]];
            next[s] = sum / (1 + start[s + 1] - start[s]);
        }
        std::swap(change, next);
    }
}

// From the first ring to the others, each by what the ring before tells.
void TexelBorders::go_on(std::vector<Vec3>& change, double fade) const {
    for (std::size_t r = 1; r < inward_.size(); ++r) {
        const std::size_t before = change.size();
        for (const std::uint32_t i : inward_[r]) {
            Vec3 told = Vec3::Zero();
            int tellers = 0;
            around(i, [&](std::uint32_t n) {
                if (slot_[n] < before) told += change[slot_[n]], ++tellers;
            });
            change.push_back(fade * told / std::max(1, tellers));
        }
    }
}

// What single texels of the border differ by (a hair, a pore) fades at once; what they have in common goes on.
void TexelBorders::spread(MapImage& map, double share) const {
    std::vector<Vec3> fine = border_steps(map);
    if (fine.empty()) return;
    std::vector<Vec3> common = fine;
    even_out(common, 1, static_cast<int>(kAlongShare * share * reach_) + 1);
    for (std::size_t i = 0; i < fine.size(); ++i) fine[i] -= common[i];
    go_on(common, std::exp(-2 / std::max(1.0, share * reach_)));
    go_on(fine, kFineFade);
    even_out(common, inward_.size(), kSmoothRounds);
    const Values values{map};
    for (const Ring& ring : inward_) {
        for (const std::uint32_t i : ring) {
            const Vec3 change = common[slot_[i]] + fine[slot_[i]];
            for (int c = 0; c < map.channels; ++c) values.set(i, c, values.get(i, c) + change[c]);
        }
    }
}

void TexelBorders::pad(MapImage& map) const {
    const Values values{map};
    std::vector<std::uint8_t> done(texels_.size());
    for (std::size_t i = 0; i < done.size(); ++i) done[i] = texels_[i] != Texel::Outside;
    for (const Ring& ring : outward_) {
        for (const std::uint32_t i : ring) {
            Vec3 sum = Vec3::Zero();
            int count = 0;
            around(i, [&](std::uint32_t n) {
                if (!done[n]) return;
                for (int c = 0; c < map.channels; ++c) sum[c] += values.get(n, c);
                ++count;
            });
            for (int c = 0; c < map.channels && count > 0; ++c) values.set(i, c, sum[c] / count);
        }
        for (const std::uint32_t i : ring) done[i] = 1;
    }
}

}  // namespace veld
