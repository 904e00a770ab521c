#include "core/skin/dressed.h"

#include "core/mesh/topology.h"

namespace veld {

Mesh dressed_mesh(const Mesh& mesh, const BakeSurface& surface, const std::vector<Image>& pictures) {
    Mesh out = mesh;
    const Triangulation fans = triangulate(mesh);
    // the surface has the fans that have UVs, in their order
    std::vector<Index> tile_of(surface.triangles.size(), kNone);
    for (std::size_t i = 0; i < surface.tiles.size(); ++i) {
        for (const Index t : surface.tiles[i].triangles) tile_of[t] = static_cast<Index>(i);
    }
    std::vector<Index> material(pictures.size(), kNone);
    for (std::size_t i = 0; i < pictures.size(); ++i) {
        if (pictures[i].bytes.empty()) continue;
        material[i] = static_cast<Index>(out.materials.size());
        Material one;
        one.name = "skin_" + surface.tiles[i].name;
        one.colour = {1, 1, 1};
        one.image = static_cast<int>(out.images.size());
        out.images.push_back(pictures[i]);
        out.materials.push_back(std::move(one));
    }
    if (out.face_material.empty()) out.face_material.assign(mesh.face_count(), kNone);
    Index at = 0;
    for (Index t = 0; t < fans.triangles.size() && at < tile_of.size(); ++t) {
        const Triangle& c = fans.triangle_corner[t];
        if (mesh.corner_uv[c[0]] == kNone || mesh.corner_uv[c[1]] == kNone || mesh.corner_uv[c[2]] == kNone) continue;
        const Index tile = tile_of[at++];
        if (tile != kNone && material[tile] != kNone) out.face_material[fans.triangle_face[t]] = material[tile];
    }
    return out;
}

}  // namespace veld
