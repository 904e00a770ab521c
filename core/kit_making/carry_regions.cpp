#include "core/kit_making/carry_regions.h"

#include <algorithm>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/kit_making/carry_rig.h"
#include "core/kit_making/edge_loops.h"
#include "core/mesh/edges.h"

namespace veld {
namespace {

// Loops of directed edges, each from where the one before ends; a vertex where several begin takes the first.
std::vector<VertexIndices> loops_of(std::multimap<Index, Index> edges) {
    std::vector<VertexIndices> out;
    while (!edges.empty()) {
        VertexIndices loop;
        const Index begin = edges.begin()->first;
        Index at = begin;
        for (auto next = edges.find(at); next != edges.end(); next = edges.find(at)) {
            loop.push_back(at);
            at = next->second;
            edges.erase(next);
            if (at == begin) break;
        }
        if (at == begin && loop.size() >= 3) out.push_back(std::move(loop));
    }
    return out;
}

double length_of(const Mesh& base, const VertexIndices& loop) {
    double out = 0;
    for (std::size_t i = 0; i < loop.size(); ++i)
        out += (base.positions[loop[(i + 1) % loop.size()]] - base.positions[loop[i]]).norm();
    return out;
}

VertexIndices above_half(const std::vector<float>& values) {
    VertexIndices out;
    for (Index v = 0; v < values.size(); ++v) {
        if (values[v] > 0.5f) out.push_back(v);
    }
    return out;
}

// Both sides their mean.
void make_even(const std::vector<Index>& mirror, std::map<std::string, std::vector<float>>& all) {
    for (auto& [name, values] : all) {
        if (name.ends_with("_r")) continue;
        const bool left = name.ends_with("_l");
        const auto other = left ? all.find(name.substr(0, name.size() - 2) + "_r") : all.find(name);
        if (other == all.end()) continue;
        const std::vector<float> here = values, there = other->second;
        for (Index v = 0; v < here.size(); ++v) {
            values[v] = 0.5f * (here[v] + there[mirror[v]]);
            if (left) other->second[mirror[v]] = values[v];
        }
    }
}

}  // namespace

std::map<std::string, VertexIndices> carried_regions(const BaseKit& model, const std::vector<ModelPlace>& places,
                                                     const BaseKit& base, bool even) {
    VertexMask of_skin(model.mesh.positions.size(), 0);
    for (const Index v : model.part("skin")->vertices) of_skin[v] = 1;
    std::map<std::string, std::vector<float>> all;
    for (const auto& [name, vertices] : model.regions) {
        std::vector<float> inside(of_skin.size(), 0);
        std::size_t count = 0;
        for (const Index v : vertices) {
            if (of_skin[v]) inside[v] = 1, ++count;
        }
        if (2 * count < vertices.size()) continue;  // a part's own
        std::vector<float>& on_skin = all[name];
        on_skin.assign(base.mesh.positions.size(), 0);
        const std::vector<float> values = carried_values(model, places, base.mesh, inside);
        for (const Index v : base.part("skin")->vertices) on_skin[v] = values[v];
    }
    if (even) make_even(base.mirror, all);
    const EdgeLoops loops(base.mesh, faces_of(*base.part("skin")));
    std::map<std::string, VertexIndices> out;
    for (const auto& [name, values] : all) {
        // head and body share no vertices
        const bool share = name == "head_skin" || name == "body_skin";
        VertexIndices region = share ? above_half(values) : loops.region(values);
        if (!region.empty()) out[name] = std::move(region);
    }
    return out;
}

VertexIndices loop_around_head(const Mesh& base, const FaceIndices& faces, const std::vector<float>& head) {
    std::set<Index> of_head;
    for (const Index f : faces) {
        float sum = 0;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) sum += head[base.corner_vertex[c]];
        if (sum > 0.5f * static_cast<float>(base.face_size(f))) of_head.insert(f);
    }
    const EdgeLinks links = link_edges(base);
    std::multimap<Index, Index> edges;
    for (const Index f : faces) {
        if (!of_head.contains(f)) continue;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) {
            const Index mate = links.mate[c];
            if (mate < kManyFaces && !of_head.contains(links.corner_face[mate]))
                edges.emplace(base.corner_vertex[c], base.corner_vertex[next_corner(base, links, c)]);
        }
    }
    VertexIndices best;
    double longest = 0;
    for (VertexIndices& loop : loops_of(std::move(edges))) {
        if (const double length = length_of(base, loop); length > longest) longest = length, best = std::move(loop);
    }
    return best;
}

VertexIndices lowest_border(const Mesh& base, const FaceIndices& faces) {
    const EdgeLinks links = link_edges(base);
    std::multimap<Index, Index> edges;
    for (const Index f : faces) {
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) {
            if (links.mate[c] == kNone)
                edges.emplace(base.corner_vertex[c], base.corner_vertex[next_corner(base, links, c)]);
        }
    }
    VertexIndices best;
    double lowest = 1e300;
    for (VertexIndices& loop : loops_of(std::move(edges))) {
        double y = 0;
        for (const Index v : loop) y += base.positions[v].y();
        y /= static_cast<double>(loop.size());
        if (y < lowest) lowest = y, best = std::move(loop);
    }
    return best;
}

}  // namespace veld
