#include "core/skin/dressed.h"

#include <map>

#include "core/mesh/topology.h"

namespace veld {
namespace {

// Materials that no face has and images that no material shows go.
void drop_unused(Mesh& mesh) {
    std::map<Index, Index> kept;  // material -> its new place
    std::map<int, int> shown;     // image -> its new place
    std::vector<Material> materials;
    std::vector<Image> images;
    const auto take_image = [&](int& image) {
        if (image < 0) return;
        const auto [at, fresh] = shown.emplace(image, static_cast<int>(images.size()));
        if (fresh) images.push_back(mesh.images[static_cast<std::size_t>(image)]);
        image = at->second;
    };
    for (Index& material : mesh.face_material) {
        if (material == kNone) continue;
        const auto [at, fresh] = kept.emplace(material, static_cast<Index>(materials.size()));
        if (fresh) {
            materials.push_back(mesh.materials[material]);
            take_image(materials.back().image);
            for (auto& [number, image] : materials.back().tiles) take_image(image);
        }
        material = at->second;
    }
    mesh.materials = std::move(materials), mesh.images = std::move(images);
}

}  // namespace

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
    drop_unused(out);
    return out;
}

}  // namespace veld
