#include "core/spatial/isomorphism.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_set>

#include "core/linalg/fit_similarity.h"
#include "core/mesh/edges.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr std::size_t kMostWays = 400;     // that one piece is tried to lie on another
constexpr std::size_t kMostCompared = 12;  // with more, a piece is alike all around
constexpr double kAmbiguousShare = 0.02;   // of a piece's size: two ways nearer than this cannot be told

std::uint64_t mixed(std::uint64_t a, std::uint64_t b) {
    a ^= b + 0x9E3779B97F4A7C15ull + (a << 6) + (a >> 2);
    return a * 0xBF58476D1CE4E5B9ull;
}

// A mesh with what the walk needs: who is across each edge, and what each corner's surroundings look like.
struct Walked {
    const Mesh& mesh;
    EdgeLinks links;
    std::vector<Index> piece;  // per vertex
    Index pieces = 0;
    std::vector<std::uint64_t> looks;         // per corner
    std::vector<std::vector<Index>> corners;  // of each piece

    explicit Walked(const Mesh& m) : mesh(m), links(link_edges(m)) {
        // by vertices, not places: doubled vertices are pieces of their own here
        piece.assign(m.positions.size(), kNone);
        std::vector<Index> faces = face_components(m, {}, &pieces);
        corners.resize(pieces);
        for (Index c = 0; c < m.corner_vertex.size(); ++c) {
            piece[m.corner_vertex[c]] = faces[links.corner_face[c]];
            corners[faces[links.corner_face[c]]].push_back(c);
        }
        look();
    }
    Index previous(Index c) const {
        const Index f = links.corner_face[c];
        return c > mesh.face_start[f] ? c - 1 : mesh.face_start[f + 1] - 1;
    }
    Index next(Index c) const { return next_corner(mesh, links, c); }

 private:
    // Independent of numbers and of which way round faces run.
    void look() {
        std::vector<std::uint64_t> vertex(mesh.positions.size(), 1);
        for (int round = 0; round < 6; ++round) {
            std::vector<std::uint64_t> now(vertex.size(), 0);
            for (Index f = 0; f < mesh.face_count(); ++f) {
                std::uint64_t face = mesh.face_size(f);
                for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
                    face += mixed(vertex[mesh.corner_vertex[c]], 7);
                for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                    const Index beside = mesh.corner_vertex[next(c)], before = mesh.corner_vertex[previous(c)];
                    now[mesh.corner_vertex[c]] += mixed(face, mixed(vertex[beside], 3) + mixed(vertex[before], 3));
                }
            }
            for (std::size_t v = 0; v < now.size(); ++v) now[v] = mixed(now[v], vertex[v]);
            vertex = std::move(now);
        }
        looks.resize(mesh.corner_vertex.size());
        for (Index c = 0; c < looks.size(); ++c)
            looks[c] = mixed(vertex[mesh.corner_vertex[c]], mixed(vertex[mesh.corner_vertex[next(c)]], 11) +
                                                                mixed(vertex[mesh.corner_vertex[previous(c)]], 11));
    }
};

using Way = std::vector<std::pair<Index, Index>>;  // vertex of the second, of the first

// Lays `from` (a corner of b) on `on` (of a). turned: b's faces run the other way round. Empty: contradiction.
Way walk(const Walked& a, const Walked& b, Index from, Index on, bool turned, std::vector<Index>& seen_b,
         std::vector<Index>& seen_a) {
    Way out;
    std::vector<std::pair<Index, Index>> open{{from, on}};
    std::vector<Index> touched_b, touched_a;
    std::unordered_set<Index> faces;
    bool right = true;
    const auto join = [&](Index vb, Index va) {
        if (seen_b[vb] == kNone && seen_a[va] == kNone) {
            seen_b[vb] = va, seen_a[va] = vb;
            touched_b.push_back(vb), touched_a.push_back(va);
            out.emplace_back(vb, va);
        }
        return seen_b[vb] == va && seen_a[va] == vb;
    };
    while (right && !open.empty()) {
        auto [cb, ca] = open.back();
        open.pop_back();
        const Index fb = b.links.corner_face[cb], fa = a.links.corner_face[ca];
        if (faces.contains(fb)) {
            right = join(b.mesh.corner_vertex[cb], a.mesh.corner_vertex[ca]);
            continue;
        }
        faces.insert(fb);
        const Index n = b.mesh.face_size(fb);
        if (n != a.mesh.face_size(fa)) right = false;
        for (Index k = 0; right && k < n; ++k) {
            right = join(b.mesh.corner_vertex[cb], a.mesh.corner_vertex[ca]);
            // the edge from cb to its next; in a it starts at ca, or ends there when faces are turned
            const Index ea = turned ? a.previous(ca) : ca;
            const Index mb = b.links.mate[cb], ma = a.links.mate[ea];
            const bool inner_b = mb != kNone && mb != kManyFaces, inner_a = ma != kNone && ma != kManyFaces;
            if (inner_b != inner_a) right = false;
            // across: mb starts where this edge ends
            if (right && inner_b) open.emplace_back(mb, turned ? a.next(ma) : ma);
            cb = b.next(cb), ca = turned ? a.previous(ca) : a.next(ca);
        }
    }
    for (const Index v : touched_b) seen_b[v] = kNone;
    for (const Index v : touched_a) seen_a[v] = kNone;
    if (!right) out.clear();
    return out;
}

// Rare looks first.
Index rare_corner(const Walked& w, Index piece, const std::map<std::uint64_t, std::size_t>& how_many) {
    const auto& corners = w.corners[piece];
    return *std::min_element(corners.begin(), corners.end(),
                             [&](Index x, Index y) { return how_many.at(w.looks[x]) < how_many.at(w.looks[y]); });
}

std::uint64_t signature(const Walked& w, Index piece) {
    std::uint64_t out = w.corners[piece].size();
    for (const Index c : w.corners[piece]) out += mixed(w.looks[c], 5);
    return out;
}

// All the ways in which piece p of b lies on piece q of a.
std::vector<Way> ways_between(const Walked& a, const Walked& b, Index q, Index p, std::vector<Index>& seen_b,
                              std::vector<Index>& seen_a) {
    std::vector<Way> out;
    std::map<std::uint64_t, std::size_t> how_many;
    for (const Index c : b.corners[p]) ++how_many[b.looks[c]];
    const Index from = rare_corner(b, p, how_many);
    for (const bool turned : {false, true}) {
        std::size_t tried = 0;
        for (const Index on : a.corners[q]) {
            if (a.looks[on] != b.looks[from] || ++tried > kMostWays) continue;
            Way way = walk(a, b, from, on, turned, seen_b, seen_a);
            if (!way.empty()) out.push_back(std::move(way));
        }
    }
    return out;
}

// How far a way lies from where the pieces that are sure say it should, mm of the first.
double off(const Way& way, const Mesh& first, const Mesh& second, const Similarity& about) {
    double sum = 0;
    for (const auto& [vb, va] : way) sum += (about(second.positions[vb]) - first.positions[va]).norm();
    return sum / static_cast<double>(way.size());
}

double size_of(const Way& way, const Mesh& first) {
    Box box;
    for (const auto& [vb, va] : way) box.add(first.positions[va]);
    return box.size().norm();
}

// The same against where the piece itself would lie best. Tells a left from a right side, not how an eyeball is
// turned.
double own_off(const Way& way, const Mesh& first, const Mesh& second) {
    Points from, to;
    for (const auto& [vb, va] : way) from.push_back(second.positions[vb]), to.push_back(first.positions[va]);
    SimilarityOptions options;
    options.outlier_mm = 0;
    const auto fit = fit_similarity(from, to, options);
    return fit ? off(way, first, second, *fit) : std::numeric_limits<double>::infinity();
}

struct Choice {
    Index piece = 0;
    std::vector<std::pair<Index, Way>> ways;  // piece of the first
};

Similarity agreed(const Isomorphism& found, const Mesh& first, const Mesh& second) {
    Points from, to;
    for (Index v = 0; v < found.first_of.size(); ++v) {
        if (found.first_of[v] != kNone)
            from.push_back(second.positions[v]), to.push_back(first.positions[found.first_of[v]]);
    }
    SimilarityOptions options;
    options.outlier_mm = 0;
    const auto fit = fit_similarity(from, to, options);
    return fit ? *fit : Similarity{};
}

}  // namespace

Isomorphism match_by_faces(const Mesh& first, const Mesh& second) {
    const Walked a(first), b(second);
    Isomorphism out;
    out.first_of.assign(second.positions.size(), kNone);
    std::vector<Index> seen_b(second.positions.size(), kNone), seen_a(first.positions.size(), kNone);
    std::multimap<std::uint64_t, Index> of_first;
    for (Index q = 0; q < a.pieces; ++q) of_first.emplace(signature(a, q), q);
    std::vector<Choice> open;
    std::vector<char> used(a.pieces, 0);
    for (Index p = 0; p < b.pieces; ++p) {
        Choice choice{p, {}};
        const auto [begin, end] = of_first.equal_range(signature(b, p));
        for (auto at = begin; at != end; ++at) {
            for (Way& way : ways_between(a, b, at->second, p, seen_b, seen_a))
                choice.ways.emplace_back(at->second, std::move(way));
        }
        if (choice.ways.empty()) continue;
        std::vector<std::pair<double, std::size_t>> order;
        for (std::size_t k = 0; k < choice.ways.size() && choice.ways.size() <= kMostCompared; ++k)
            order.emplace_back(choice.ways.size() == 1 ? 0 : own_off(choice.ways[k].second, first, second), k);
        std::sort(order.begin(), order.end());
        const bool sure =
            !order.empty() &&
            (order.size() == 1 ||
             order[1].first - order[0].first > kAmbiguousShare * size_of(choice.ways[order[0].second].second, first));
        if (sure && !used[choice.ways[order[0].second].first]) {
            const auto& [piece, way] = choice.ways[order[0].second];
            used[piece] = 1;
            for (const auto& [vb, va] : way) out.first_of[vb] = va;
        } else {
            open.push_back(std::move(choice));
        }
    }
    const Similarity about = agreed(out, first, second);
    for (Choice& choice : open) {
        std::vector<std::pair<double, std::size_t>> order;
        for (std::size_t k = 0; k < choice.ways.size(); ++k) {
            if (!used[choice.ways[k].first]) order.emplace_back(off(choice.ways[k].second, first, second, about), k);
        }
        if (order.empty()) continue;
        std::sort(order.begin(), order.end());
        const auto& [piece, way] = choice.ways[order[0].second];
        used[piece] = 1;
        for (const auto& [vb, va] : way) out.first_of[vb] = va;
        if (order.size() > 1 && order[1].first - order[0].first < kAmbiguousShare * size_of(way, first)) {
            for (const auto& [vb, va] : way) out.ambiguous.push_back(vb);
        }
    }
    std::sort(out.ambiguous.begin(), out.ambiguous.end());
    return out;
}

}  // namespace veld
