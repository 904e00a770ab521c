#include "app/stations/skin/skin_controller.h"

#include <algorithm>

namespace veld {

SkinController::SkinController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] {
        main_ = {}, other_ = {}, without_ = {}, reports_.clear(), between_.clear(), told_.clear();
        for (auto& [name, composed] : in_stage_) composed = {};
        selected_ = {}, tile_.clear(), stage_.clear();
        against_ = Against::Nothing, photo_ = -1;
    });
    connect(&s_, &Session::changed, this, &SkinController::refresh);
    connect(&s_, &Session::busy_changed, this, &SkinController::changed);
}

void SkinController::set_awake(bool on) {
    awake_ = on;
    if (!on) look_ = SkinLook::Skin, against_ = Against::Nothing, photo_ = -1, other_ = {};
    if (on) refresh();
}

QString SkinController::why_not() const {
    if (!s_.has_kit()) return tr("Open a project first.");
    if (s_.state().kit->mesh.corner_uv.empty())
        return tr(
            "This base has no UVs, so it can wear no skin. Lay them out in the program that it comes from, and "
            "make the kit again.");
    if (!s_.state().current()) return tr("There is no subject yet: gather a scan or photographs first.");
    return {};
}

bool SkinController::can_bake_fit() const { return s_.state().current() && layer_of_fit(s_.state(), s_.subject()); }

std::shared_ptr<const LayeredSkin> SkinController::skin() const {
    return s_.state().current() ? s_.state().current()->skin() : nullptr;
}

const SkinLayer* SkinController::layer() const {
    const auto now = skin();
    return now ? now->layer(selected_) : nullptr;
}

void SkinController::select(LayerId id) {
    selected_ = id;
    show();
    emit changed();
}

int SkinController::old_layers() const {
    const auto now = skin();
    return now ? static_cast<int>(
                     std::count_if(now->layers.begin(), now->layers.end(), [&](const SkinLayer& l) { return old(l); }))
               : 0;
}

const BakeReport* SkinController::report(LayerId id) const {
    const auto at = reports_.find(id.value);
    return at == reports_.end() ? nullptr : &at->second;
}

// --- skins

LayeredSkin SkinController::fresh_skin() const {
    LayeredSkin out;
    out.name = tr("Skin").toStdString();
    return out;
}

void SkinController::add_skin() {
    if (!why_not().isEmpty()) return;
    ProjectState next = s_.state();
    if (veld::add_skin(next, s_.subject(), fresh_skin())) s_.change(tr("New skin"), std::move(next));
}

void SkinController::copy_skin() {
    const auto now = skin();
    if (!now) return;
    LayeredSkin copy = *now;
    copy.id = SkinId::make();
    for (SkinLayer& layer : copy.layers) layer.id = LayerId::make();
    ProjectState next = s_.state();
    if (veld::add_skin(next, s_.subject(), std::move(copy))) s_.change(tr("Copy of a skin"), std::move(next));
}

void SkinController::remove_skin() {
    const auto now = skin();
    ProjectState next = s_.state();
    if (now && veld::remove_skin(next, now->id)) s_.change(tr("Remove skin"), std::move(next));
}

void SkinController::rename_skin(const QString& name) {
    const auto now = skin();
    const std::string wanted = name.trimmed().toStdString();
    if (!now || wanted.empty() || wanted == now->name) return;
    LayeredSkin next = *now;
    next.name = wanted;
    put(tr("Rename skin"), std::move(next));
}

void SkinController::choose_skin(int place) {
    const Subject* subject = s_.state().current();
    if (!subject || place == subject->current_skin || place < 0 || place >= static_cast<int>(subject->skins.size()))
        return;
    ProjectState next = s_.state();
    next.current()->current_skin = place;
    s_.change(tr("Another skin"), std::move(next));
}

void SkinController::set_size(int texels) {
    const auto now = skin();
    if (!now || now->size == texels) return;
    LayeredSkin next = *now;
    next.size = texels;
    // baked anew at that size; what is painted is enlarged or reduced when it is looked at
    for (SkinLayer& layer : next.layers) {
        if (is_baked(layer.from)) layer.baked_for.clear();
    }
    put(tr("Size of the skin"), std::move(next));
}

bool SkinController::put(const QString& label, LayeredSkin&& next, const std::string& merge_key) {
    ProjectState state = s_.state();
    if (!put_skin(state, std::make_shared<const LayeredSkin>(std::move(next)))) return false;
    s_.change(label, std::move(state), merge_key);
    return true;
}

// --- layers

void SkinController::add_fit_layer() {
    if (!why_not().isEmpty() || s_.refuse_while_busy()) return;
    auto layer = layer_of_fit(s_.state(), s_.subject());
    if (!layer) return s_.report(layer.error());
    if (awake_) layer->stage = stage_;  // elsewhere nobody sees which stage is worked on
    const LayerId id = layer->id;
    ProjectState next = s_.state();
    if (!skin() && !veld::add_skin(next, s_.subject(), fresh_skin())) return;
    LayeredSkin with = *next.current()->skin();
    // below what is painted
    const auto at = std::find_if(with.layers.begin(), with.layers.end(),
                                 [](const SkinLayer& l) { return l.from == LayerFrom::Painted; });
    with.layers.insert(at, std::move(*layer));
    put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
    selected_ = id;
    s_.change(tr("Bake a layer"), std::move(next));
    bake_layers({id});
}

void SkinController::bake_fit() {
    if (const QString why = why_not(); !why.isEmpty()) return emit s_.noticed(why);
    const Subject* subject = s_.state().current();
    const SkinLayer* of = subject && subject->fit() ? layer_through(*subject, subject->fit()->id) : nullptr;
    if (!of) return add_fit_layer();
    selected_ = of->id;
    bake();
}

void SkinController::add_paint_layer() {
    if (!why_not().isEmpty()) return;
    ProjectState next = s_.state();
    if (!skin() && !veld::add_skin(next, s_.subject(), fresh_skin())) return;
    LayeredSkin with = *next.current()->skin();
    SkinLayer layer;
    layer.name = tr("Painted").toStdString(), layer.stage = stage_;
    selected_ = layer.id;
    with.layers.push_back(std::move(layer));
    put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
    s_.change(tr("New painted layer"), std::move(next));
}

void SkinController::remove_layer() {
    const auto now = skin();
    if (!now || !layer()) return;
    LayeredSkin next = *now;
    std::erase_if(next.layers, [&](const SkinLayer& l) { return l.id == selected_; });
    selected_ = next.layers.empty() ? LayerId{} : next.layers.back().id;
    put(tr("Remove layer"), std::move(next));
}

void SkinController::move_layer(int by) {
    const auto now = skin();
    if (!now) return;
    LayeredSkin next = *now;
    const auto at =
        std::find_if(next.layers.begin(), next.layers.end(), [&](const SkinLayer& l) { return l.id == selected_; }) -
        next.layers.begin();
    const auto to = at + by, count = static_cast<std::ptrdiff_t>(next.layers.size());
    if (at >= count || to < 0 || to >= count) return;
    std::swap(next.layers[static_cast<std::size_t>(at)], next.layers[static_cast<std::size_t>(to)]);
    put(tr("Order of layers"), std::move(next));
}

void SkinController::edit(const QString& label, const Edit& change, const std::string& merge_key) {
    edit(selected_, label, change, merge_key);
}

void SkinController::edit(LayerId id, const QString& label, const Edit& change, const std::string& merge_key) {
    const auto now = skin();
    if (!now || !now->layer(id)) return;
    LayeredSkin next = *now;
    change(*next.layer(id));
    put(label, std::move(next), merge_key.empty() ? merge_key : merge_key + id_text(id.value));
}

void SkinController::bake() {
    if (layer()) bake_layers({selected_});
}

void SkinController::bake_old() {
    std::vector<LayerId> which;
    if (const auto now = skin()) {
        for (const SkinLayer& layer : now->layers) {
            if (old(layer)) which.push_back(layer.id);
        }
    }
    bake_layers(which);
}

void SkinController::bake_layers(const std::vector<LayerId>& which) {
    const auto now = skin();
    if (!now || which.empty() || s_.refuse_while_busy()) return;
    std::vector<LayerBaking> work;
    for (const LayerId id : which) {
        const SkinLayer* layer = now->layer(id);
        if (!layer || layer->from == LayerFrom::Painted || layer->from == LayerFrom::Worn) continue;
        auto baking = layer_baking(s_.state(), *layer, now->size);
        if (!baking) return s_.report(baking.error());
        work.push_back(std::move(*baking));
    }
    if (work.empty()) return;
    s_.jobs().start<std::vector<BakedLayer>>(
        {JobKind::Skin, tr("Baking the skin of %1").arg(s_.subject_name(s_.subject())), s_.subject()},
        [work = std::move(work)](const Progress& progress) -> Result<std::vector<BakedLayer>> {
            std::vector<BakedLayer> out;
            for (const LayerBaking& one : work) {
                auto baked = bake_layer(one, progress);
                if (!baked) return baked.error();
                out.push_back(std::move(*baked));
            }
            return out;
        },
        [this, id = now->id, size = now->size](Result<std::vector<BakedLayer>>&& baked) {
            if (!baked) return s_.say_why_not(baked.error());
            finish_bake(id, size, std::move(*baked));
        });
    emit changed();
}

// What was changed in a layer meanwhile stays but for its texels; where that is how it is baked, it is to be baked
// again.
void SkinController::finish_bake(SkinId id, int size, std::vector<BakedLayer>&& baked) {
    const auto now = find_skin(s_.state(), id);
    if (!now) return;
    LayeredSkin next = *now;
    bool any = false;
    for (BakedLayer& one : baked) {
        SkinLayer* layer = next.layer(one.layer.id);
        if (!layer) continue;  // taken away meanwhile
        any = true;
        for (auto& [name, tile] : layer->tiles) tile.picture = tile.found = nullptr;  // some are no longer reached
        for (auto& [name, tile] : one.layer.tiles) {
            LayerTile& to = layer->tiles[name];
            to.picture = tile.picture, to.found = tile.found;
        }
        const bool still = layer->recipe == one.layer.recipe && next.size == size;
        layer->baked_for = still ? one.layer.baked_for : std::string();
        layer->seen = one.layer.seen, layer->mirrored = one.layer.mirrored;
        layer->notes = one.layer.notes, layer->regions = one.layer.regions;
        reports_[layer->id.value] = std::move(one.report);
    }
    if (any) put(tr("Bake skin"), std::move(next));
}

// --- out

// What goes out, with all that is known of the subject.
SkinOut SkinController::whole(const SkinOut& what) const {
    SkinOut out = skin_out_of(s_.state(), s_.subject(), skin());
    out.maps = what.maps, out.level = what.level, out.stages = what.stages, out.all_skins = what.all_skins;
    const std::string name = out.files.name;
    out.files = what.files, out.files.name = name;
    return out;
}

void SkinController::write_maps(const SkinOut& what) {
    if (!skin()) return;
    s_.jobs().start<std::vector<std::string>>(
        {JobKind::Export, tr("Writing maps"), s_.subject()},
        [what = whole(what)](const Progress& progress) { return write_skin_maps(what, progress); },
        [this](Result<std::vector<std::string>>&& written) {
            if (!written) return s_.say_why_not(written.error());
            emit s_.noticed(tr("Written: %n file(s)", nullptr, static_cast<int>(written->size())));
        });
}

void SkinController::write_glb(const SkinOut& what, const QString& path) {
    if (!skin()) return;
    s_.jobs().start<bool>(
        {JobKind::Export, tr("Writing the skin's GLB"), s_.subject()},
        [what = whole(what), state = s_.state(), path = path.toStdString()](const Progress& progress) -> Result<bool> {
            if (auto ok = write_skin_glb(what, state.amounts(), path, progress); !ok) return ok.error();
            return true;
        },
        [this, path](Result<bool>&& done) {
            if (!done) return s_.say_why_not(done.error());
            emit s_.noticed(tr("Written: %1").arg(path));
        });
}

void SkinController::write_kit(const QString& folder) {
    const auto now = skin();
    if (!now) return;
    s_.jobs().start<bool>(
        {JobKind::Export, tr("Writing the kit"), s_.subject()},
        [now, kit = s_.state().kit, folder = folder.toStdString()](const Progress& progress) -> Result<bool> {
            if (auto ok = write_dressed_kit(*kit, *now, folder, progress); !ok) return ok.error();
            return true;
        },
        [this, folder](Result<bool>&& done) {
            if (!done) return s_.say_why_not(done.error());
            emit s_.noticed(tr("Written: %1").arg(folder));
        });
}

}  // namespace veld
