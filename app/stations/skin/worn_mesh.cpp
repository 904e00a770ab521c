#include "app/stations/skin/worn_mesh.h"

#include "core/skin/dressed.h"

namespace veld {
namespace {

// A texel that stands for a tile's picture until that is there.
Image one_texel() {
    Pixels one;
    one.width = one.height = 1;
    one.rgba = {128, 128, 128, 255};
    return {"tile.png", "image/png", encode_png(one)};
}

}  // namespace

void WornMesh::make(const ShownSkin& shown, int level) {
    const BakeSurface& surface = shown.surface->surface();
    const Mesh dressed = dressed_mesh(shown.kit->mesh, surface, std::vector<Image>(surface.tiles.size(), one_texel()));
    fine_.reset();
    if (level > 0) {
        if (auto made = Subdivided::make(dressed, level)) fine_ = *made;
    }
    mesh_ = std::make_shared<DisplayMesh>(fine_ ? fine_->mesh() : dressed);
    SurfaceKinds kinds = surface_kinds(*shown.kit);
    if (fine_) {
        for (std::vector<float>* values : {&kinds.eye, &kinds.lash, &kinds.along, &kinds.out})
            *values = fine_->values(*values);
    }
    mesh_->set_kinds(kinds);
    of_ = shown.kit, level_ = level, tiles_ = surface.tiles.size(), shape_.reset();
    image_of_.clear(), worn_.clear();
    for (const UvTile& tile : surface.tiles) {
        for (const Material& m : dressed.materials) {
            if (m.name == "skin_" + tile.name) image_of_[tile.name] = static_cast<std::size_t>(m.image);
        }
    }
}

void WornMesh::dress(const ShownSkin& shown, int level, Scene& scene) {
    if (!mesh_ || of_ != shown.kit || level_ != level || tiles_ != shown.surface->surface().tiles.size())
        make(shown, level);
    if (shape_ != shown.shape) {
        shape_ = shown.shape;
        mesh_->set_positions(fine_ ? fine_->positions(*shown.shape) : *shown.shape);
        scene.baker.ask(mesh_, true, [kit = shown.kit, shape = shown.shape, fine = fine_](const Progress& progress) {
            Baked out = bake_base(*kit, *shape, progress);
            if (fine && !out.open.empty()) out.open = fine->values(out.open);
            return out;
        });
    }
    for (const auto& [name, tile] : shown.tiles) {
        const auto at = image_of_.find(name);
        if (at == image_of_.end()) continue;
        const QImage normals = shown.normals(name);
        const std::pair now(tile.image.cacheKey(), normals.cacheKey());
        const auto was = worn_.find(name);
        if (was == worn_.end() || was->second.first != now.first) mesh_->set_image(at->second, tile.image.mirrored());
        if (was == worn_.end() || was->second.second != now.second)
            mesh_->set_relief(at->second, normals.isNull() ? QImage() : normals.mirrored());
        worn_[name] = now;
    }
}

bool WornMesh::patch(const std::string& tile, const QImage& part, const QRect& where, int size) {
    const auto at = image_of_.find(tile);
    if (!mesh_ || at == image_of_.end()) return false;
    worn_.erase(tile);  // what the stroke leaves is worn anew when it ends
    mesh_->patch_image(at->second, part.mirrored(), {where.left(), size - where.top() - where.height()});
    return true;
}

}  // namespace veld
