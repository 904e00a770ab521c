#include "core/tidy/weld.h"

#include <cmath>

#include "core/mesh/topology.h"

namespace veld {
namespace {

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
            low[k] = static_cast<std::int64_t>(std::floor(q[k] - reach)), high[k] = static_cast<std::int64_t>(std::floor(q[k] + reach));
        }
        Index best = kNone;
        double nearest = limit;
        for (std::int64_t x = low[0]; x <= high[0]; ++x) {
            for (std::int64_t y = low[1]; y <= high[1]; ++y) {
                for (std::int64_t z = low[2]; z <= high[2]; ++z) {
                    const std::uint64_t key = (static_cast<std::uint64_t>(x + 1) << 42) ^ (static_cast<std::uint64_t>(y + 1) << 21) ^ static_cast<std::uint64_t>(z + 1);
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
        for (int k = 0; k < 3; ++k) key ^= static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(q[k])) + 1) << (42 - 21 * k);
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
    const std::vector<Index> to = distance > 0 ? near_representatives(mesh.positions, distance, progress) : same_place(mesh.positions);
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
    out.said = counted(merged, "vertex was", "vertices were") + " welded to others" + (folded ? ", " + counted(folded, "face") + " that folded up left out." : ".");
    return out;
}

}  // namespace veld
