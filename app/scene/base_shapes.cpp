#include "app/scene/base_shapes.h"

#include "core/kit/base_kit.h"
#include "core/kit/kit_surface.h"
#include "core/project/records/fit_record.h"

namespace veld {

std::shared_ptr<const Subdivided> BaseShapes::level(int n) {
    const auto& kit = s_.state().kit;
    if (levels_of_ != kit) levels_.clear(), levels_of_ = kit, packed_ = {};
    auto& out = levels_[n];
    if (!out) {
        auto made = Subdivided::make(kit->mesh, n);
        if (made)
            out = *made;
        else
            s_.report(made.error());
    }
    return out;
}

std::shared_ptr<DisplayMesh> BaseShapes::fine_mesh(int n, const Subdivided& fine) {
    if (!packed_.second || packed_.first != n) {
        const auto made = std::make_shared<DisplayMesh>(fine.mesh());
        SurfaceKinds kinds = surface_kinds(*s_.state().kit);
        for (std::vector<float>* values : {&kinds.eye, &kinds.lash, &kinds.along, &kinds.out})
            *values = fine.values(*values);
        made->set_kinds(kinds);
        packed_ = {n, made};
    }
    return std::make_shared<DisplayMesh>(*packed_.second);
}

void BaseShapes::show(ShownShape& shape, const Points& positions, const How& how) {
    const auto& kit = s_.state().kit;
    const std::shared_ptr<const Subdivided> fine = how.level > 0 ? level(how.level) : nullptr;
    const int n = fine ? how.level : 0;
    const std::optional<double> without_body = fine ? std::nullopt : how.without_body;
    if (!shape.mesh || shape.kit.lock() != kit || shape.level != n || shape.without_body != without_body) {
        shape = {};
        if (fine) {
            shape.mesh = fine_mesh(n, *fine);
        } else {
            shape.mesh =
                std::make_shared<DisplayMesh>(without_body ? veld::without_body(*kit, *without_body) : kit->mesh);
            shape.mesh->set_kinds(surface_kinds(*kit));
        }
        shape.kit = kit, shape.level = n, shape.without_body = without_body;
    }
    shape.shown = nullptr;
    shape.mesh->set_positions(fine ? fine->positions(positions) : positions);
    shape.mesh->set_colours(!how.values ? std::vector<Colour>()
                                        : how.coloured(fine ? fine->values(*how.values) : *how.values));
    bake(shape, positions, fine);
}

void BaseShapes::bake(const ShownShape& shape, const Points& positions, std::shared_ptr<const Subdivided> fine) {
    baker_.ask(shape.mesh, true,
               [kit = s_.state().kit, copy = std::make_shared<const Points>(positions),
                fine = std::move(fine)](const Progress& progress) {
                   Baked out = bake_base(*kit, *copy, progress);
                   if (fine && !out.open.empty()) out.open = fine->values(out.open);
                   return out;
               });
}

void BaseShapes::wear_skin(ShownShape& shape, const FitRecord* fit, const Amounts& amounts) {
    if (!shape.mesh) return;
    const auto read = [](const Image& image) {
        return QImage::fromData(image.bytes.data(), static_cast<int>(image.bytes.size()))
            .convertToFormat(QImage::Format_RGBA8888);
    };
    std::map<int, QImage> now;
    if (fit && worn_by) now = worn_by(*fit, amounts);
    const auto& images = s_.state().kit->mesh.images;
    for (const auto& [at, image] : now) {
        if (at < 0 || at >= static_cast<int>(images.size())) continue;
        qint64& key = shape.wears[at];
        if (key == image.cacheKey()) continue;
        key = image.cacheKey();
        shape.mesh->set_image(static_cast<std::size_t>(at), image.mirrored());
    }
    for (auto at = shape.wears.begin(); at != shape.wears.end();) {
        if (now.contains(at->first)) {
            ++at;
            continue;
        }
        shape.mesh->set_image(static_cast<std::size_t>(at->first),
                              read(images[static_cast<std::size_t>(at->first)]).mirrored());
        at = shape.wears.erase(at);
    }
}

}  // namespace veld
