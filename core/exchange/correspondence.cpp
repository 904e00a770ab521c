#include "core/exchange/correspondence.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <unordered_map>

#include "core/linalg/fit_similarity.h"
#include "core/mesh/topology.h"
#include "core/spatial/isomorphism.h"

namespace veld {
namespace {

constexpr double kProven = 0.9;   // of what was matched, this share must hang together as it did
constexpr double kUvStep = 2e-5;  // OBJ writers keep five decimals or more

using Key = std::int64_t;
Key uv_key(const Vec2& uv) {
    const auto part = [](double x) { return static_cast<std::int64_t>(std::llround(x / kUvStep)) & 0xffffffff; };
    return (part(uv.x()) << 32) | part(uv.y());
}

bool has_uvs(const Mesh& m) { return !m.uvs.empty() && m.corner_uv.size() == m.corner_vertex.size(); }

// Per vertex, the UV places of its corners.
std::vector<std::set<Key>> keys_of(const Mesh& m) {
    std::vector<std::set<Key>> out(m.positions.size());
    for (std::size_t c = 0; c < m.corner_vertex.size(); ++c) {
        if (m.corner_uv[c] != kNone) out[m.corner_vertex[c]].insert(uv_key(m.uvs[m.corner_uv[c]]));
    }
    return out;
}

// The same with every cell that a UV may have been rounded into: writers and single precision shift the last digit.
std::vector<std::set<std::vector<Key>>> near_keys_of(const Mesh& m) {
    std::vector<std::set<std::vector<Key>>> out(m.positions.size());
    constexpr double shift = 0.2 * kUvStep;
    for (std::size_t c = 0; c < m.corner_vertex.size(); ++c) {
        if (m.corner_uv[c] == kNone) continue;
        const Vec2& uv = m.uvs[m.corner_uv[c]];
        std::vector<Key> near;
        for (const double du : {-shift, shift}) {
            for (const double dv : {-shift, shift}) near.push_back(uv_key(uv + Vec2(du, dv)));
        }
        std::sort(near.begin(), near.end());
        near.erase(std::unique(near.begin(), near.end()), near.end());
        out[m.corner_vertex[c]].insert(std::move(near));
    }
    return out;
}

std::vector<std::vector<Index>> neighbours(const Mesh& m) {
    std::vector<std::vector<Index>> out(m.positions.size());
    for (Index f = 0; f < m.face_count(); ++f) {
        const Index n = m.face_size(f), s = m.face_start[f];
        for (Index k = 0; k < n; ++k) {
            const Index a = m.corner_vertex[s + k], b = m.corner_vertex[s + (k + 1) % n];
            out[a].push_back(b), out[b].push_back(a);
        }
    }
    for (auto& list : out) {
        std::sort(list.begin(), list.end());
        list.erase(std::unique(list.begin(), list.end()), list.end());
    }
    return out;
}

// Vertices of the first that share a face: what is an edge or a diagonal there.
std::vector<std::vector<Index>> face_mates(const Mesh& m) {
    std::vector<std::vector<Index>> out(m.positions.size());
    for (Index f = 0; f < m.face_count(); ++f) {
        for (Index a = m.face_start[f]; a < m.face_start[f + 1]; ++a) {
            for (Index b = m.face_start[f]; b < m.face_start[f + 1]; ++b) {
                if (a != b) out[m.corner_vertex[a]].push_back(m.corner_vertex[b]);
            }
        }
    }
    for (auto& list : out) {
        std::sort(list.begin(), list.end());
        list.erase(std::unique(list.begin(), list.end()), list.end());
    }
    return out;
}

class Matcher {
 public:
    Matcher(const Mesh& first, const Mesh& second)
        : first_(first),
          second_(second),
          mates_(face_mates(first)),
          next_(neighbours(second)),
          candidates_(second.positions.size()) {
        std::unordered_map<Key, std::vector<Index>> owners;
        const auto keys = keys_of(first);
        for (Index v = 0; v < keys.size(); ++v) {
            for (const Key k : keys[v]) owners[k].push_back(v);
        }
        const std::vector<std::set<std::vector<Key>>> seconds = near_keys_of(second);
        out_.first_of.assign(second.positions.size(), kNone);
        for (Index v = 0; v < seconds.size(); ++v) {
            bool begun = false;
            for (const std::vector<Key>& near : seconds[v]) {
                std::vector<Index> here;
                for (const Key k : near) {
                    if (const auto at = owners.find(k); at != owners.end())
                        here.insert(here.end(), at->second.begin(), at->second.end());
                }
                if (!begun) {
                    candidates_[v] = here;
                } else {
                    std::erase_if(candidates_[v],
                                  [&](Index c) { return std::find(here.begin(), here.end(), c) == here.end(); });
                }
                begun = true;
            }
            if (candidates_[v].size() == 1) out_.first_of[v] = candidates_[v].front();
        }
    }

    Correspondence run() {
        spread();
        place_loose_pieces();
        spread();
        complete_faces();
        return std::move(out_);
    }

 private:
    // A vertex beside a known one can only be one of its face mates.
    void spread() {
        for (bool more = true; more;) {
            more = false;
            for (Index v = 0; v < candidates_.size(); ++v) {
                if (out_.first_of[v] != kNone || candidates_[v].empty()) continue;
                std::vector<Index> left = candidates_[v];
                for (const Index n : next_[v]) {
                    const Index known = out_.first_of[n];
                    if (known != kNone)
                        std::erase_if(left, [&](Index c) {
                            return c != known && !std::binary_search(mates_[known].begin(), mates_[known].end(), c);
                        });
                }
                if (left.size() == 1) {
                    out_.first_of[v] = left.front();
                    more = true;
                }
            }
        }
    }

    // A face with one edge that is known is the first's face there, and so are its other corners. Programs subdivide
    // UVs by rules of their own; what lies between is found this way.
    void complete_faces() {
        std::map<std::pair<Index, Index>, Index> corner_at;  // of the first, by its edge
        for (Index f = 0; f < first_.face_count(); ++f) {
            for (Index c = first_.face_start[f]; c < first_.face_start[f + 1]; ++c)
                corner_at[{first_.corner_vertex[c], first_.corner_vertex[next_of(first_, f, c)]}] = c;
        }
        std::vector<Index> face_of(first_.corner_vertex.size());
        for (Index f = 0; f < first_.face_count(); ++f)
            std::fill(face_of.begin() + first_.face_start[f], face_of.begin() + first_.face_start[f + 1], f);
        std::set<Index> taken(out_.first_of.begin(), out_.first_of.end());
        for (bool more = true; more;) {
            more = false;
            for (Index f = 0; f < second_.face_count(); ++f) more |= complete_face(f, corner_at, face_of, taken);
        }
    }

    static Index next_of(const Mesh& m, Index f, Index c) {
        return c + 1 < m.face_start[f + 1] ? c + 1 : m.face_start[f];
    }

    bool complete_face(Index f, const std::map<std::pair<Index, Index>, Index>& corner_at,
                       const std::vector<Index>& face_of, std::set<Index>& taken) {
        bool all = true;
        for (Index c = second_.face_start[f]; c < second_.face_start[f + 1]; ++c)
            all &= out_.first_of[second_.corner_vertex[c]] != kNone;
        if (all) return false;
        for (Index c = second_.face_start[f]; c < second_.face_start[f + 1]; ++c) {
            const Index u = out_.first_of[second_.corner_vertex[c]],
                        w = out_.first_of[second_.corner_vertex[next_of(second_, f, c)]];
            const auto at = u == kNone || w == kNone ? corner_at.end() : corner_at.find({u, w});
            if (at == corner_at.end()) continue;
            const Index g = face_of[at->second];
            if (first_.face_size(g) != second_.face_size(f)) return false;
            bool found = false;
            for (Index b = c, a = at->second, k = 0; k < second_.face_size(f);
                 ++k, b = next_of(second_, f, b), a = next_of(first_, g, a)) {
                Index& of = out_.first_of[second_.corner_vertex[b]];
                const Index wanted = first_.corner_vertex[a];
                // a doubled vertex has the same UV as the one that is known
                const auto& same_uv = candidates_[second_.corner_vertex[b]];
                if (of != kNone ||
                    (taken.contains(wanted) && std::find(same_uv.begin(), same_uv.end(), wanted) == same_uv.end()))
                    continue;
                of = wanted;
                taken.insert(wanted);
                found = true;
            }
            return found;
        }
        return false;
    }

    // Pieces that share all their UVs with others (a left and a right eye) lie nearer to the one that they are.
    void place_loose_pieces() {
        Points from, to;
        for (Index v = 0; v < out_.first_of.size(); ++v) {
            if (out_.first_of[v] != kNone)
                from.push_back(second_.positions[v]), to.push_back(first_.positions[out_.first_of[v]]);
        }
        SimilarityOptions options;
        options.outlier_mm = 0;
        const auto about = fit_similarity(from, to, options);
        if (!about) return;
        Index count = 0;
        const std::vector<Index> piece = vertex_components(second_, &count);
        Index first_count = 0;
        const std::vector<Index> first_piece = vertex_components(first_, &first_count);
        std::vector<std::map<Index, std::pair<double, Index>>> votes(
            count);  // piece of the first -> distance, vertices
        for (Index v = 0; v < candidates_.size(); ++v) {
            if (out_.first_of[v] != kNone) continue;
            for (const Index c : candidates_[v]) {
                auto& vote = votes[piece[v]][first_piece[c]];
                vote.first += ((*about)(second_.positions[v]) - first_.positions[c]).norm(), ++vote.second;
            }
        }
        for (Index v = 0; v < candidates_.size(); ++v) {
            if (out_.first_of[v] != kNone || candidates_[v].size() < 2) continue;
            const auto& vote = votes[piece[v]];
            const auto best = std::min_element(vote.begin(), vote.end(), [](const auto& a, const auto& b) {
                return a.second.first / a.second.second < b.second.first / b.second.second;
            });
            std::vector<Index> left = candidates_[v];
            std::erase_if(left, [&](Index c) { return first_piece[c] != best->first; });
            if (left.size() == 1)
                out_.first_of[v] = left.front();
            else
                candidates_[v] = left;
        }
    }

    const Mesh &first_, &second_;
    std::vector<std::vector<Index>> mates_, next_, candidates_;
    Correspondence out_;
};

// Which way round the second's faces run, by the order of three corners within a face of the first.
void count_turned(const Mesh& first, const Mesh& second, Correspondence& c) {
    std::size_t same = 0, turned = 0;
    std::set<std::array<Index, 3>> corners;
    for (Index f = 0; f < first.face_count(); ++f) {
        const Index s = first.face_start[f], n = first.face_size(f);
        for (Index i = 0; i < n; ++i) {
            for (Index j = i + 1; j < n; ++j) {
                for (Index k = j + 1; k < n; ++k) {
                    std::array<Index, 3> t{first.corner_vertex[s + i], first.corner_vertex[s + j],
                                           first.corner_vertex[s + k]};
                    std::rotate(t.begin(), std::min_element(t.begin(), t.end()), t.end());
                    corners.insert(t);
                }
            }
        }
    }
    for (Index f = 0; f < second.face_count(); ++f) {
        const Index s = second.face_start[f];
        std::array<Index, 3> t{c.first_of[second.corner_vertex[s]], c.first_of[second.corner_vertex[s + 1]],
                               c.first_of[second.corner_vertex[s + 2]]};
        std::rotate(t.begin(), std::min_element(t.begin(), t.end()), t.end());
        if (corners.contains(t)) ++same;
        std::swap(t[1], t[2]);
        if (corners.contains(t)) ++turned;
    }
    c.faces_turned = same + turned ? static_cast<double>(turned) / static_cast<double>(same + turned) : 0;
}

void confirm(const Mesh& first, const Mesh& second, Correspondence& c) {
    const auto mates = face_mates(first);
    VertexMask found(first.positions.size(), 0);
    c.matched = 0;
    for (const Index v : c.first_of) {
        if (v == kNone) continue;
        ++c.matched;
        found[v] = 1;
    }
    c.first_found = static_cast<Index>(std::count(found.begin(), found.end(), 1));
    Index whole = 0, right = 0;
    for (Index f = 0; f < second.face_count(); ++f) {
        bool known = true, together = true;
        for (Index a = second.face_start[f]; a < second.face_start[f + 1]; ++a) {
            const Index u = c.first_of[second.corner_vertex[a]];
            known &= u != kNone;
            for (Index b = second.face_start[f]; known && b < a; ++b) {
                const Index w = c.first_of[second.corner_vertex[b]];
                together &= w != kNone && (u == w || std::binary_search(mates[u].begin(), mates[u].end(), w));
            }
        }
        whole += known, right += known && together;
    }
    c.faces_confirmed = whole ? static_cast<double>(right) / whole : 0;
    count_turned(first, second, c);
}

// The second is the first without some parts, everything else in the old order.
std::optional<Correspondence> by_order(const Mesh& first, const Mesh& second,
                                       const std::vector<std::vector<Index>>& parts) {
    for (std::size_t mask = 0; mask < (std::size_t{1} << std::min<std::size_t>(parts.size(), 12)); ++mask) {
        VertexMask gone(first.positions.size(), 0);
        for (std::size_t p = 0; p < parts.size(); ++p) {
            if (mask >> p & 1) {
                for (const Index v : parts[p]) gone[v] = 1;
            }
        }
        if (static_cast<std::size_t>(std::count(gone.begin(), gone.end(), 0)) != second.positions.size()) continue;
        Correspondence out;
        std::vector<Index> number(first.positions.size(), kNone);
        for (Index v = 0; v < gone.size(); ++v) {
            if (gone[v]) continue;
            number[v] = static_cast<Index>(out.first_of.size());
            out.first_of.push_back(v);
        }
        std::vector<Index> corners;
        for (const Index v : first.corner_vertex) {
            if (number[v] != kNone) corners.push_back(number[v]);
        }
        if (corners == second.corner_vertex) return out;
    }
    return {};
}

// By how faces hang together; where vertices were doubled (along groups or materials), by how they do when joined.
Correspondence by_faces(const Mesh& first, const Mesh& second) {
    const std::vector<Index> place = same_place(second.positions);
    Mesh joined;
    const Mesh* like = &second;
    bool doubled = false;
    for (Index v = 0; v < place.size(); ++v) doubled |= place[v] != v;
    if (doubled && first.vertex_count() < second.vertex_count()) {
        joined.positions = second.positions, joined.face_start = second.face_start;
        for (const Index v : second.corner_vertex) joined.corner_vertex.push_back(place[v]);
        like = &joined;
    }
    Isomorphism found = match_by_faces(first, *like);
    Correspondence out;
    out.by = FoundBy::Faces;
    out.first_of = std::move(found.first_of), out.ambiguous = std::move(found.ambiguous);
    if (like == &joined) {
        for (Index v = 0; v < place.size(); ++v) out.first_of[v] = out.first_of[place[v]];
    }
    confirm(first, second, out);
    return out;
}

// Where faces were changed (triangulated, say) but what is there lies where it lay: the nearest vertex, when it is far
// nearer than the next one could be.
std::vector<Index> by_places(const Mesh& first, const Mesh& second) {
    std::vector<Index> out(second.positions.size(), kNone);
    const Box a = bounding_box(first.positions), b = bounding_box(second.positions);
    if (!(a.size().norm() > 0) || (a.centre() - b.centre()).norm() > 0.2 * a.size().norm() ||
        std::abs(std::log(b.size().norm() / a.size().norm())) > 0.2)
        return out;
    double edges = 0;
    Index count = 0;
    for (Index f = 0; f < first.face_count(); ++f) {
        for (Index c = first.face_start[f]; c + 1 < first.face_start[f + 1]; ++c, ++count)
            edges += (first.positions[first.corner_vertex[c]] - first.positions[first.corner_vertex[c + 1]]).norm();
    }
    const double cell = 0.5 * edges / std::max<Index>(count, 1);
    if (!(cell > 0)) return out;
    std::map<std::array<std::int64_t, 3>, std::vector<Index>> grid;
    const auto cell_of = [&](const Vec3& p) {
        return std::array<std::int64_t, 3>{static_cast<std::int64_t>(std::floor(p.x() / cell)),
                                           static_cast<std::int64_t>(std::floor(p.y() / cell)),
                                           static_cast<std::int64_t>(std::floor(p.z() / cell))};
    };
    for (Index v = 0; v < first.vertex_count(); ++v) grid[cell_of(first.positions[v])].push_back(v);
    for (Index v = 0; v < second.vertex_count(); ++v) {
        const auto at = cell_of(second.positions[v]);
        double best = 0.25 * cell * cell;
        for (int k = 0; k < 27; ++k) {
            const auto here = grid.find({at[0] + k % 3 - 1, at[1] + k / 3 % 3 - 1, at[2] + k / 9 - 1});
            if (here == grid.end()) continue;
            for (const Index u : here->second) {
                const double d = (first.positions[u] - second.positions[v]).squaredNorm();
                if (d < best) best = d, out[v] = u;
            }
        }
    }
    return out;
}

}  // namespace

Result<Correspondence> find_correspondence(const Mesh& first, const Mesh& second,
                                           const std::vector<std::vector<Index>>& parts) {
    if (auto ordered = by_order(first, second, parts)) {
        confirm(first, second, *ordered);
        return *ordered;
    }
    if (has_uvs(first) && has_uvs(second)) {
        Correspondence out = Matcher(first, second).run();
        out.by = FoundBy::Uvs;
        confirm(first, second, out);
        // UVs that were laid out anew say nothing
        if (out.matched > second.vertex_count() / 2 && out.faces_confirmed > kProven) return out;
    }
    Correspondence out = by_faces(first, second);
    if (out.matched > second.vertex_count() / 2 && out.faces_confirmed > kProven) return out;
    out = {};
    out.by = FoundBy::Places;
    out.first_of = by_places(first, second);
    confirm(first, second, out);
    if (out.matched > kProven * second.vertex_count() && out.faces_confirmed > kProven) return out;
    return Error{ErrorCode::BadInput, "Neither its order nor UVs, faces or places lead back to the base."};
}

}  // namespace veld
