// What the skin's controller takes from elsewhere: other skins, other bases, pictures; and stages.
#include <algorithm>

#include "app/stations/skin/skin_controller.h"
#include "core/base/file.h"
#include "core/project/carried_skin.h"
#include "core/skin/reference_tone.h"

namespace veld {

// --- stages

void SkinController::choose_stage(const std::string& name) {
    const auto now = skin();
    if (name == stage_ || (!name.empty() && !(now && now->stage(name)))) return;
    stage_ = name;
    show();
    emit changed();
}

void SkinController::add_stage(SkinStage stage) {
    if (!why_not().isEmpty() || stage.name.empty()) return;
    ProjectState next = s_.state();
    if (!skin() && !veld::add_skin(next, s_.subject(), fresh_skin())) return;
    LayeredSkin with = *next.current()->skin();
    std::vector<std::string> taken;
    for (const SkinStage& s : with.stages) taken.push_back(s.name);
    stage.name = free_name(stage.name, taken);
    stage_ = stage.name;
    with.stages.push_back(std::move(stage));
    put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
    s_.change(tr("New stage of a skin"), std::move(next));
}

void SkinController::remove_stage() {
    const auto now = skin();
    if (!now || stage_.empty()) return;
    LayeredSkin next = *now;
    std::erase_if(next.stages, [&](const SkinStage& s) { return s.name == stage_; });
    std::erase_if(next.layers, [&](const SkinLayer& l) { return l.stage == stage_; });
    stage_.clear();
    put(tr("Remove stage"), std::move(next));
}

// --- layers from elsewhere

std::vector<std::pair<QString, SkinId>> SkinController::other_skins() const {
    std::vector<std::pair<QString, SkinId>> out;
    for (const Subject& subject : s_.state().subjects) {
        for (const auto& one : subject.skins) {
            if (!skin() || one->id != skin()->id)
                out.emplace_back(QString::fromStdString(subject.name + ", " + one->name), one->id);
        }
    }
    return out;
}

void SkinController::put_on(const QString& what, const QString& label,
                            const std::function<Result<SkinLayer>(const Progress&)>& make) {
    if (!why_not().isEmpty() || s_.refuse_while_busy()) return;
    s_.jobs().start<SkinLayer>({JobKind::Skin, what, s_.subject()}, make,
                               [this, label, subject = s_.subject()](Result<SkinLayer>&& layer) {
                                   if (!layer) return s_.say_why_not(layer.error());
                                   ProjectState next = s_.state();
                                   Subject* of = find_subject(next, subject);
                                   if (!of) return;
                                   if (!of->skin() && !veld::add_skin(next, subject, fresh_skin())) return;
                                   LayeredSkin with = *find_subject(next, subject)->skin();
                                   layer->stage = with.stage(stage_) ? stage_ : std::string();
                                   selected_ = layer->id;
                                   for (const std::string& note : layer->notes)
                                       emit s_.noticed(QString::fromStdString(note));
                                   with.layers.push_back(std::move(*layer));
                                   put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
                                   s_.change(label, std::move(next));
                               });
    emit changed();
}

void SkinController::wear(SkinId other) {
    const auto from = find_skin(s_.state(), other);
    if (!from) return;
    std::string name = from->name;
    for (const auto& [called, id] : other_skins()) {
        if (id == other) name = called.toStdString();
    }
    put_on(tr("Putting a skin on"), tr("Wear another skin"),
           [kit = s_.state().kit, from, name](const Progress& progress) {
               return worn_layer(*kit, *from, name, progress);
           });
}

void SkinController::wear_mix() {
    const std::vector<SkinShare> shares = skins_in_mix(s_.state());
    const int size = skin() ? skin()->size : fresh_skin().size;
    put_on(tr("Mixing skins"), tr("Wear the mix"),
           [kit = s_.state().kit, shares, size, name = tr("The mix").toStdString()](const Progress& progress) {
               return mixed_skin(*kit, shares, name, size, progress);
           });
}

void SkinController::wear_from_project(const QString& path, const std::string& subject, const std::string& which) {
    const int size = skin() ? skin()->size : fresh_skin().size;
    put_on(tr("Carrying a skin over"), tr("Wear a skin of another project"),
           [kit = s_.state().kit, path = path.toStdString(), subject, which,
            size](const Progress& progress) -> Result<SkinLayer> {
               auto carried = carry_skin_from_project(path, subject, which, *kit, size, progress);
               if (!carried) return carried.error();
               return std::move(carried->layer);
           });
}

void SkinController::wear_of_kit(const QString& folder) {
    const int size = skin() ? skin()->size : fresh_skin().size;
    put_on(tr("Carrying a skin over"), tr("Wear a kit's skin"),
           [kit = s_.state().kit, folder = folder.toStdString(), size](const Progress& progress) -> Result<SkinLayer> {
               const auto from = read_base_kit(folder);
               if (!from) return from.error();
               auto carried = carry_skin(*from, nullptr, file_name(folder), *kit, size, progress);
               if (!carried) return carried.error();
               return std::move(carried->layer);
           });
}

void SkinController::show_only_in(const std::string& region) {
    const auto now = skin();
    if (!now || !layer() || s_.refuse_while_busy()) return;
    s_.jobs().start<SkinLayer>(
        {JobKind::Skin, tr("Finding the region"), s_.subject()},
        [kit = s_.state().kit, region, size = now->size, layer = *layer()](const Progress&) -> Result<SkinLayer> {
            SkinLayer out = layer;
            if (auto ok = veld::show_only_in(*kit, region, size, out); !ok) return ok.error();
            return out;
        },
        [this, id = now->id](Result<SkinLayer>&& masked) {
            if (!masked) return s_.say_why_not(masked.error());
            const auto then = find_skin(s_.state(), id);
            if (!then || !then->layer(masked->id)) return;
            LayeredSkin next = *then;
            SkinLayer& to = *next.layer(masked->id);
            for (auto& [name, tile] : to.tiles) tile.mask = nullptr;
            for (auto& [name, tile] : masked->tiles) {
                if (tile.mask) to.tiles[name].mask = tile.mask;
            }
            put(tr("Show a layer in a region"), std::move(next));
        });
    emit changed();
}

void SkinController::tone_like_picture(const QString& path) {
    const SkinLayer* of = layer();
    if (!of || s_.refuse_while_busy()) return;
    s_.jobs().start<Colour>(
        {JobKind::Skin, tr("Looking at the picture"), s_.subject()},
        [kit = s_.state().kit, path = path.toStdString()](const Progress& progress) -> Result<Colour> {
            const auto bytes = read_file(path);
            if (!bytes) return bytes.error();
            const std::string_view view = bytes->view();
            return reference_tone(*kit, Image{file_name(path), {}, {view.begin(), view.end()}}, progress);
        },
        [this, id = of->id](Result<Colour>&& tone) {
            if (!tone) return s_.say_why_not(tone.error());
            edit(id, tr("Tone of a layer"), [&](SkinLayer& l) {
                l.recipe.tone_like = {{}, *tone};
                if (l.recipe.tone == 0) l.recipe.tone = 1;
                l.baked_for.clear();
            });
        });
    emit changed();
}

}  // namespace veld
