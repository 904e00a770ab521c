#include "core/tidy/smooth.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/linalg/spd_solver.h"
#include "core/mesh/edges.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

// Neighbours through edges, places instead of vertices; compressed rows.
struct Ring {
    std::vector<Index> place, start, items;
    VertexMask border;
    std::size_t size(Index v) const { return start[v + 1] - start[v]; }
};

Ring rings_of(const Mesh& mesh) {
    Ring out;
    out.place = same_place(mesh.positions);
    const EdgeLinks links = link_edges(mesh, out.place);
    out.start.assign(mesh.positions.size() + 1, 0);
    out.border.assign(mesh.positions.size(), 0);
    const auto ends = [&](Index c) {
        return std::pair{out.place[mesh.corner_vertex[c]], out.place[mesh.corner_vertex[next_corner(mesh, links, c)]]};
    };
    // an edge with a mate is entered once, by its lower corner
    const auto enters = [&](Index c) { return links.mate[c] >= kManyFaces || c < links.mate[c]; };
    for (Index c = 0; c < links.mate.size(); ++c) {
        const auto [a, b] = ends(c);
        if (a == b) continue;
        if (links.mate[c] >= kManyFaces) out.border[a] = out.border[b] = 1;
        if (enters(c)) ++out.start[a + 1], ++out.start[b + 1];
    }
    for (std::size_t v = 1; v < out.start.size(); ++v) out.start[v] += out.start[v - 1];
    out.items.resize(out.start.back());
    std::vector<Index> fill(out.start.begin(), out.start.end() - 1);
    for (Index c = 0; c < links.mate.size(); ++c) {
        const auto [a, b] = ends(c);
        if (a != b && enters(c)) out.items[fill[a]++] = b, out.items[fill[b]++] = a;
    }
    return out;
}

Vec3 mean_of_neighbours(const Ring& ring, const Points& x, Index v) {
    Vec3 sum = Vec3::Zero();
    for (Index i = ring.start[v]; i < ring.start[v + 1]; ++i) sum += x[ring.items[i]];
    return sum / static_cast<double>(ring.size(v));
}

template <class Work>
void each_vertex(std::size_t count, Work work) {
    tbb::parallel_for(tbb::blocked_range<Index>(0, static_cast<Index>(count), 4096), [&](const auto& range) {
        for (Index v = range.begin(); v < range.end(); ++v) work(v);
    });
}

double median_of(std::vector<double> values) {
    if (values.empty()) return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

}  // namespace

Changed smooth_keeping_volume(const Mesh& mesh, const std::vector<double>& weight, const SmoothOptions& options,
                              const Progress& progress) {
    constexpr double kForth = 0.5, kBack = -0.53;  // pass-band 0.11
    const Ring ring = rings_of(mesh);
    std::vector<double> amount(mesh.positions.size(), 0);
    Changed out;
    for (Index v = 0; v < amount.size(); ++v) {
        if (ring.place[v] != v || ring.size(v) == 0 || (options.keep_borders && ring.border[v])) continue;
        amount[v] = std::clamp(weight[v], 0.0, 1.0) * options.strength;
    }
    // of vertices at one place the strongest counts
    for (Index v = 0; v < amount.size(); ++v) {
        const Index p = ring.place[v];
        if (p != v && ring.size(p) > 0 && !(options.keep_borders && ring.border[p]))
            amount[p] = std::max(amount[p], std::clamp(weight[v], 0.0, 1.0) * options.strength);
    }
    Points x = mesh.positions, next = x;
    for (int round = 0; round < 2 * options.rounds; ++round) {
        if (progress.is_cancelled()) return {};
        progress.say(0.5 * round / std::max(options.rounds, 1), "Smoothing");
        const double step = round % 2 ? kBack : kForth;
        each_vertex(x.size(), [&](Index v) {
            next[v] = amount[v] > 0 ? Vec3(x[v] + step * amount[v] * (mean_of_neighbours(ring, x, v) - x[v])) : x[v];
        });
        x.swap(next);
    }
    for (Index v = 0; v < x.size(); ++v) {
        x[v] = x[ring.place[v]];
        out.count += x[v] != mesh.positions[v];
    }
    out.mesh = mesh;
    out.mesh.positions = std::move(x);
    if (out.count) out.mesh.normals.clear(), out.mesh.corner_normal.clear();
    out.said = counted(out.count, "vertex", "vertices") + " smoothed.";
    return out;
}

Result<Changed> flatten_bumps(const Mesh& mesh, const std::vector<double>& weight, double strength,
                              const Progress& progress) {
    progress.say(0, "Flattening");
    const Ring ring = rings_of(mesh);
    std::vector<Index> unknown(mesh.positions.size(), kNone), free;
    const auto is_free = [&](Index v) { return ring.size(v) > 0 && !ring.border[v] && weight[v] > 0; };
    for (Index v = 0; v < unknown.size(); ++v) {
        const Index p = ring.place[v];
        if (weight[v] > 0 && is_free(p) && unknown[p] == kNone)
            unknown[p] = static_cast<Index>(free.size()), free.push_back(p);
    }
    Changed out;
    out.mesh = mesh;
    if (free.empty()) {
        out.said = "Nothing is selected to flatten.";
        return out;
    }
    // rows of the Laplacian whose stencil holds an unknown; energy = sum of their squares
    std::vector<Index> rows;
    VertexMask seen(mesh.positions.size(), 0);
    bool held = false;
    for (Index v : free) {
        for (Index i = ring.start[v]; i <= ring.start[v + 1]; ++i) {
            const Index r = i < ring.start[v + 1] ? ring.items[i] : v;
            held |= unknown[r] == kNone;
            if (!seen[r]) seen[r] = 1, rows.push_back(r);
        }
    }
    if (!held)
        return Error{ErrorCode::BadInput,
                     "The whole component is selected, so nothing is left to hold its form. Select only the bumps."};
    std::vector<std::pair<Index, Index>> entries;
    const auto each_pair = [&](auto visit) {
        std::vector<std::pair<Index, double>> row;
        for (Index r : rows) {
            row.clear();
            row.emplace_back(r, 1.0);
            // weights by 1/length keep long thin triangles from pulling [Desbrun et al. 1999]
            double sum = 0;
            for (Index i = ring.start[r]; i < ring.start[r + 1]; ++i)
                sum += 1 / std::max((mesh.positions[ring.items[i]] - mesh.positions[r]).norm(), 1e-12);
            for (Index i = ring.start[r]; i < ring.start[r + 1]; ++i)
                row.emplace_back(
                    ring.items[i],
                    -1 / std::max((mesh.positions[ring.items[i]] - mesh.positions[r]).norm(), 1e-12) / sum);
            visit(row);
        }
    };
    each_pair([&](const auto& row) {
        for (const auto& [a, wa] : row) {
            for (const auto& [b, wb] : row) {
                if (unknown[a] != kNone && unknown[b] != kNone && unknown[a] >= unknown[b])
                    entries.emplace_back(unknown[a], unknown[b]);
            }
        }
    });
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Stopped; nothing was changed."};
    SpdSolver solver(static_cast<Index>(free.size()), std::move(entries));
    std::fill(solver.values().begin(), solver.values().end(), 0.0);
    Points right(free.size(), Vec3::Zero());
    each_pair([&](const auto& row) {
        for (const auto& [a, wa] : row) {
            if (unknown[a] == kNone) continue;
            for (const auto& [b, wb] : row) {
                if (unknown[b] == kNone)
                    right[unknown[a]] -= wa * wb * mesh.positions[b];
                else if (unknown[a] >= unknown[b])
                    solver.values()[solver.slot(unknown[a], unknown[b])] += wa * wb;
            }
        }
    });
    for (Index i = 0; i < free.size(); ++i) {
        solver.values()[solver.slot(i, i)] += 1e-9;  // a free speck that nothing holds stays
        right[i] += 1e-9 * mesh.positions[free[i]];
    }
    progress.say(0.4, "Flattening");
    if (auto ok = solver.factor(); !ok)
        return Error{ErrorCode::BadInput,
                     "The selected area cannot be flattened: too many broken faces. Run Repair first."};
    const Points x = solver.solve(right);
    for (Index v = 0; v < mesh.positions.size(); ++v) {
        const Index p = ring.place[v];
        if (unknown[p] == kNone || !x[unknown[p]].allFinite()) continue;
        out.mesh.positions[v] += std::clamp(strength, 0.0, 1.0) * (x[unknown[p]] - mesh.positions[v]);
        ++out.count;
    }
    out.mesh.normals.clear(), out.mesh.corner_normal.clear();
    out.said = counted(out.count, "vertex", "vertices") + " flattened.";
    return out;
}

Changed remove_spikes(const Mesh& mesh, double factor, const VertexMask& selected, const Progress& progress) {
    constexpr int kRounds = 6;
    const Ring ring = rings_of(mesh);
    Points x = mesh.positions;
    std::vector<double> edge, off(x.size(), 0);
    for (Index v = 0; v < x.size(); ++v) {
        if (ring.place[v] == v && ring.size(v) > 0) edge.push_back((x[ring.items[ring.start[v]]] - x[v]).norm());
    }
    const double usual_edge = median_of(edge);
    VertexMask moved(x.size(), 0);
    for (int round = 0; round < kRounds; ++round) {
        if (progress.is_cancelled()) return {};
        progress.say(static_cast<double>(round) / kRounds, "Looking for spikes");
        each_vertex(x.size(), [&](Index v) {
            off[v] = ring.place[v] == v && ring.size(v) > 2 ? (x[v] - mean_of_neighbours(ring, x, v)).norm() : 0;
        });
        std::vector<double> known;
        for (double d : off) {
            if (d > 0) known.push_back(d);
        }
        const double limit = std::max(factor * median_of(std::move(known)), 1.2 * usual_edge);
        std::vector<std::pair<double, Index>> spikes;
        for (Index v = 0; v < x.size(); ++v) {
            if (off[v] > limit && !ring.border[v] && (selected.empty() || selected[v])) spikes.emplace_back(off[v], v);
        }
        if (spikes.empty()) break;
        // the worst first: its neighbours are often only pulled by it
        std::sort(spikes.begin(), spikes.end(), [](const auto& a, const auto& b) {
            return a.first != b.first ? a.first > b.first : a.second < b.second;
        });
        for (const auto& [d, v] : spikes) {
            const Vec3 mean = mean_of_neighbours(ring, x, v);
            if ((x[v] - mean).norm() <= limit) continue;
            x[v] = mean;
            moved[v] = 1;
        }
    }
    Changed out;
    out.mesh = mesh;
    for (Index v = 0; v < x.size(); ++v) {
        if (moved[ring.place[v]]) out.mesh.positions[v] = x[ring.place[v]], ++out.count;
    }
    if (out.count) out.mesh.normals.clear(), out.mesh.corner_normal.clear();
    out.said = out.count ? counted(out.count, "spike") + " put back." : "No spikes.";
    return out;
}

}  // namespace veld
