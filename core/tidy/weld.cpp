#include "core/tidy/weld.h"

#include <tbb/blocked_range.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_sort.h>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tuple>

#include "core/mesh/topology.h"

namespace veld {
namespace {

// Small distances: vertices sorted along the longest axis, each compared with the few that follow within
// the distance. Memory is walked in order, which a grid of millions of cells does not allow.
std::vector<Index> near_by_sweep(const Points& positions, double distance, int axis) {
    struct Item {
        double key;
        Index vertex;
        float beside[2];  // the other coordinates, to turn most down without looking the vertex up
    };
    const Vec3 middle = positions.empty() ? Vec3(Vec3::Zero()) : positions.front();
    const float slack = static_cast<float>(distance + 1e-6 * bounding_box(positions).size().norm());
    std::vector<Item> order(positions.size());
    for (Index v = 0; v < order.size(); ++v) {
        const Vec3 d = positions[v] - middle;
        order[v] = {
            positions[v][axis], v, {static_cast<float>(d[(axis + 1) % 3]), static_cast<float>(d[(axis + 2) % 3])}};
    }
    tbb::parallel_sort(order.begin(), order.end(), [](const Item& a, const Item& b) {
        return a.key != b.key ? a.key < b.key : a.vertex < b.vertex;
    });
    struct Pair {
        Index later, earlier;
        double distance;
    };
    tbb::enumerable_thread_specific<std::vector<Pair>> found;
    const double limit = distance * distance;
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, order.size(), 16384), [&](const auto& range) {
        std::vector<Pair>& mine = found.local();
        for (std::size_t i = range.begin(); i < range.end(); ++i) {
            for (std::size_t j = i + 1; j < order.size() && order[j].key - order[i].key <= distance; ++j) {
                if (std::abs(order[j].beside[0] - order[i].beside[0]) > slack ||
                    std::abs(order[j].beside[1] - order[i].beside[1]) > slack)
                    continue;
                const double d = (positions[order[j].vertex] - positions[order[i].vertex]).squaredNorm();
                if (d <= limit)
                    mine.push_back(
                        {std::max(order[i].vertex, order[j].vertex), std::min(order[i].vertex, order[j].vertex), d});
            }
        }
    });
    std::vector<Pair> pairs;
    for (const auto& mine : found) pairs.insert(pairs.end(), mine.begin(), mine.end());
    std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) {
        return std::tie(a.later, a.distance, a.earlier) < std::tie(b.later, b.distance, b.earlier);
    });
    std::vector<Index> out(positions.size());
    std::iota(out.begin(), out.end(), 0);
    for (const Pair& p : pairs) {
        // nearest first; those before it are decided already
        if (out[p.later] == p.later && out[p.earlier] == p.earlier) out[p.later] = p.earlier;
    }
    return out;
}

// Grid of cells of the weld distance; every cell lists the vertices that stayed.
std::vector<Index> near_representatives(const Points& positions, double distance, const Progress& progress) {
    const Box box = bounding_box(positions);
    std::size_t size = 16;
    while (size < 2 * positions.size()) size *= 2;
    struct Slot {
        std::uint64_t key = ~0ull;
        Index head = kNone;
    };
    std::vector<Slot> table(size);
    std::vector<Index> next(positions.size(), kNone), out(positions.size());
    // cells four times as wide as the distance: most vertices look into one or two
    const double cell = std::max(4 * distance, box.size().maxCoeff() * 1e-6);
    const auto slot_of = [&](std::uint64_t key) -> Slot& {
        std::size_t at = (key * 0x9E3779B97F4A7C15ull) >> 20 & (size - 1);
        while (table[at].key != ~0ull && table[at].key != key) at = (at + 1) & (size - 1);
        return table[at];
    };
    const double limit = distance * distance;
    for (Index v = 0; v < positions.size(); ++v) {
        if (v % 65536 == 0) {
            if (progress.is_cancelled()) return {};
            progress.say(static_cast<double>(v) / static_cast<double>(positions.size()), "Welding");
        }
        const Vec3 q = (positions[v] - box.low) / cell;
        std::array<std::int64_t, 3> low, high;
        for (int k = 0; k < 3; ++k) {
            const double reach = distance / cell;
            low[k] = static_cast<std::int64_t>(std::floor(q[k] - reach)),
            high[k] = static_cast<std::int64_t>(std::floor(q[k] + reach));
        }
        Index best = kNone;
        double nearest = limit;
        for (std::int64_t x = low[0]; x <= high[0]; ++x) {
            for (std::int64_t y = low[1]; y <= high[1]; ++y) {
                for (std::int64_t z = low[2]; z <= high[2]; ++z) {
                    const std::uint64_t key = (static_cast<std::uint64_t>(x + 1) << 42) ^
                                              (static_cast<std::uint64_t>(y + 1) << 21) ^
                                              static_cast<std::uint64_t>(z + 1);
                    const Slot& slot = slot_of(key);
                    for (Index w = slot.key == key ? slot.head : kNone; w != kNone; w = next[w]) {
                        const double d = (positions[w] - positions[v]).squaredNorm();
                        if (d < nearest || (d == nearest && (best == kNone || w < best))) nearest = d, best = w;
                    }
                }
            }
        }
        out[v] = best == kNone ? v : best;
        if (best != kNone) continue;
        std::uint64_t key = 0;
        for (int k = 0; k < 3; ++k)
            key ^= static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(q[k])) + 1) << (42 - 21 * k);
        Slot& slot = slot_of(key);
        slot.key = key;
        next[v] = slot.head;
        slot.head = v;
    }
    return out;
}

// Corners that follow one of the same vertex are taken out of their face. Returns which faces are left
// with three or more different corners; the others keep their old corners.
FaceMask drop_repeated_corners(Mesh& m) {
    FaceMask keep(m.face_count(), 1);
    Index write = 0, first = 0;
    for (Index f = 0; f < keep.size(); ++f) {
        const Index last = m.face_start[f + 1], begin = write;
        for (Index c = first; c < last; ++c) {
            const Index before = c > first ? c - 1 : last - 1;
            if (m.corner_vertex[c] == m.corner_vertex[before] && c != before) continue;
            if (!m.corner_uv.empty()) m.corner_uv[write] = m.corner_uv[c];
            if (!m.corner_normal.empty()) m.corner_normal[write] = m.corner_normal[c];
            m.corner_vertex[write++] = m.corner_vertex[c];
        }
        for (Index c = begin; c < write; ++c) {
            for (Index d = c + 1; d < write; ++d) keep[f] &= m.corner_vertex[c] != m.corner_vertex[d];
        }
        keep[f] &= write - begin >= 3;
        first = last;
        m.face_start[f + 1] = write;
    }
    m.corner_vertex.resize(write);
    if (!m.corner_uv.empty()) m.corner_uv.resize(write);
    if (!m.corner_normal.empty()) m.corner_normal.resize(write);
    return keep;
}

}  // namespace

Changed weld(const Mesh& mesh, double distance, const Progress& progress) {
    const Vec3 size = bounding_box(mesh.positions).size();
    int axis = 0;
    size.maxCoeff(&axis);
    const double expected = distance * static_cast<double>(mesh.positions.size()) /
                            std::max(size[axis], 1e-300);  // that follow within the distance
    const std::vector<Index> to = !(distance > 0) ? same_place(mesh.positions)
                                  : expected < 40 ? near_by_sweep(mesh.positions, distance, axis)
                                                  : near_representatives(mesh.positions, distance, progress);
    Changed out;
    if (to.empty()) return out;
    Mesh welded = mesh;
    for (Index v = 0; v < to.size(); ++v) out.count += to[v] != v;
    if (out.count == 0) {
        out.mesh = std::move(welded);
        out.said = "Nothing to weld at this distance.";
        return out;
    }
    for (Index& v : welded.corner_vertex) v = to[v];
    const std::size_t merged = out.count;
    std::size_t folded = 0;
    const FaceMask keep = drop_repeated_corners(welded);
    for (std::uint8_t k : keep) folded += !k;
    out = keep_faces(welded, keep);
    out.count = merged;
    out.said = counted(merged, "vertex was", "vertices were") + " welded to others" +
               (folded ? ", " + counted(folded, "face") + " that folded up left out." : ".");
    return out;
}

}  // namespace veld
