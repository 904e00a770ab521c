#include "core/mesh/corner_split.h"

#include <map>

namespace veld {

std::vector<MaterialSplit> split_by_material(const Mesh& mesh) {
    std::map<Index, MaterialSplit> by_material;
    // (uv -> split vertex) lists per mesh vertex; a vertex has few UVs, so a short list beats a hash
    std::map<Index, std::vector<std::vector<std::pair<Index, Index>>>> known;
    const Triangulation tri = triangulate(mesh);
    for (std::size_t t = 0; t < tri.triangles.size(); ++t) {
        const Index material = mesh.face_material.empty() ? kNone : mesh.face_material[tri.triangle_face[t]];
        MaterialSplit& split = by_material[material];
        auto& seen = known[material];
        if (seen.empty()) {
            split.material = material;
            seen.resize(mesh.positions.size());
        }
        Triangle out{};
        for (std::size_t k = 0; k < 3; ++k) {
            const Index corner = tri.triangle_corner[t][k], v = mesh.corner_vertex[corner];
            const Index uv = mesh.corner_uv.empty() ? kNone : mesh.corner_uv[corner];
            Index at = kNone;
            for (const auto& [have, index] : seen[v]) {
                if (have == uv) at = index;
            }
            if (at == kNone) {
                at = static_cast<Index>(split.vertex.size());
                seen[v].emplace_back(uv, at);
                split.vertex.push_back(v);
                split.uv.push_back(uv == kNone ? Vec2(0, 0) : mesh.uvs[uv]);
            }
            out[k] = at;
        }
        split.triangles.push_back(out);
    }
    std::vector<MaterialSplit> result;
    for (auto& [material, split] : by_material) result.push_back(std::move(split));
    return result;
}

Mesh without_faces_on(const Mesh& mesh, const VertexMask& left_out) {
    Mesh out = mesh;
    out.face_start = {0};
    out.corner_vertex.clear(), out.corner_uv.clear(), out.corner_normal.clear(), out.face_material.clear(),
        out.face_group.clear();
    for (Index f = 0; f < mesh.face_count(); ++f) {
        bool keep = true;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) keep &= !left_out[mesh.corner_vertex[c]];
        if (!keep) continue;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            out.corner_vertex.push_back(mesh.corner_vertex[c]);
            if (!mesh.corner_uv.empty()) out.corner_uv.push_back(mesh.corner_uv[c]);
            if (!mesh.corner_normal.empty()) out.corner_normal.push_back(mesh.corner_normal[c]);
        }
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
        if (!mesh.face_material.empty()) out.face_material.push_back(mesh.face_material[f]);
        if (!mesh.face_group.empty()) out.face_group.push_back(mesh.face_group[f]);
    }
    return out;
}

}  // namespace veld
