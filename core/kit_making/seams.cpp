#include "core/kit_making/seams.h"

#include <map>
#include <numeric>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kFoldCosine = -0.5;  // faces across a joined edge turn by less than this

// Sets that grow together [Tarjan 1975]; the lowest member stands for each.
class Together {
 public:
    explicit Together(std::size_t count) : of_(count) { std::iota(of_.begin(), of_.end(), 0u); }
    Index operator()(Index v) {
        while (of_[v] != v) v = of_[v] = of_[of_[v]];
        return v;
    }
    void join(Index a, Index b) {
        a = (*this)(a), b = (*this)(b);
        of_[std::max(a, b)] = std::min(a, b);
    }

 private:
    std::vector<Index> of_;
};

}  // namespace

JoinedMesh join_seams(const Mesh& mesh, const std::vector<std::uint64_t>* apart) {
    const EdgeLinks links = link_edges(mesh);
    const std::vector<Index> place = same_place(mesh.positions);
    // open edges by the places of their ends, in the direction of their face
    std::map<std::pair<Index, Index>, std::vector<Index>> open;
    const auto from = [&](Index c) { return mesh.corner_vertex[c]; };
    const auto to = [&](Index c) { return mesh.corner_vertex[next_corner(mesh, links, c)]; };
    for (Index c = 0; c < mesh.corner_vertex.size(); ++c) {
        if (links.mate[c] == kNone && place[from(c)] != place[to(c)])
            open[{place[from(c)], place[to(c)]}].push_back(c);
    }
    Together together(mesh.positions.size());
    const auto may_join = [&](Index a, Index b) { return !apart || (*apart)[a] == (*apart)[b]; };
    for (const auto& [ends, corners] : open) {
        const auto back = open.find({ends.second, ends.first});
        // three sheets at one line: nobody can tell which two belong together
        if (back == open.end() || corners.size() != 1 || back->second.size() != 1) continue;
        const Index c = corners.front(), d = back->second.front();
        const Vec3 n = face_normal(mesh, links.corner_face[c]).normalized(),
                   m = face_normal(mesh, links.corner_face[d]).normalized();
        if (n.dot(m) < kFoldCosine) continue;
        if (!may_join(from(c), to(d)) || !may_join(to(c), from(d))) continue;
        together.join(from(c), to(d));
        together.join(to(c), from(d));
    }
    JoinedMesh out;
    out.mesh = mesh;
    out.work_of.assign(mesh.positions.size(), kNone);
    out.mesh.positions.clear();
    out.mesh.colours.clear();
    for (Index v = 0; v < mesh.positions.size(); ++v) {
        const Index first = together(v);
        if (first == v) {
            out.work_of[v] = out.mesh.vertex_count();
            out.mesh.positions.push_back(mesh.positions[v]);
            if (!mesh.colours.empty()) out.mesh.colours.push_back(mesh.colours[v]);
        } else {
            out.work_of[v] = out.work_of[first];  // the lowest comes first
        }
    }
    for (Index& v : out.mesh.corner_vertex) v = out.work_of[v];
    return out;
}

}  // namespace veld
