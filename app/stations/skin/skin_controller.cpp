#include "app/stations/skin/skin_controller.h"

#include <QPainter>
#include <algorithm>

#include "app/core_words.h"
#include "core/exchange/export.h"
#include "core/project/bank.h"

namespace veld {

SkinController::SkinController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] {
        shown_.reset(), asked_.reset(), composing_ = 0, reports_.clear();
        selected_ = {}, tile_.clear();
    });
    connect(&s_, &Session::changed, this, &SkinController::refresh);
    connect(&s_, &Session::busy_changed, this, &SkinController::changed);
}

void SkinController::set_awake(bool on) {
    awake_ = on;
    if (!on) look_ = SkinLook::Skin;
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
        if (layer.from == LayerFrom::Scan || layer.from == LayerFrom::Photos) layer.baked_for.clear();
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

void SkinController::add_paint_layer() {
    if (!why_not().isEmpty()) return;
    ProjectState next = s_.state();
    if (!skin() && !veld::add_skin(next, s_.subject(), fresh_skin())) return;
    LayeredSkin with = *next.current()->skin();
    SkinLayer layer;
    layer.name = tr("Painted").toStdString();
    selected_ = layer.id;
    with.layers.push_back(std::move(layer));
    put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
    s_.change(tr("New painted layer"), std::move(next));
}

void SkinController::wear(SkinId other) {
    const auto from = find_skin(s_.state(), other);
    if (!from || !why_not().isEmpty() || s_.refuse_while_busy()) return;
    std::string name = from->name;
    for (const Subject& subject : s_.state().subjects) {
        for (const auto& one : subject.skins) {
            if (one->id == other) name = subject.name + ", " + one->name;
        }
    }
    s_.jobs().start<SkinLayer>(
        {JobKind::Skin, tr("Putting a skin on"), s_.subject()},
        [kit = s_.state().kit, from, name](const Progress& progress) {
            return worn_layer(*kit, *from, name, progress);
        },
        [this, subject = s_.subject()](Result<SkinLayer>&& layer) {
            if (!layer) return s_.say_why_not(layer.error());
            ProjectState next = s_.state();
            Subject* of = find_subject(next, subject);
            if (!of) return;
            if (!of->skin() && !veld::add_skin(next, subject, fresh_skin())) return;
            LayeredSkin with = *find_subject(next, subject)->skin();
            selected_ = layer->id;
            with.layers.push_back(std::move(*layer));
            put_skin(next, std::make_shared<const LayeredSkin>(std::move(with)));
            s_.change(tr("Wear another skin"), std::move(next));
        });
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
    for (BakedLayer& one : baked) {
        SkinLayer* layer = next.layer(one.layer.id);
        if (!layer) continue;
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
    put(tr("Bake skin"), std::move(next));
}

// --- looking

void SkinController::set_look(SkinLook look) {
    look_ = look;
    show();
    emit changed();
}

void SkinController::set_tile(const std::string& name) {
    tile_ = name;
    emit shown_changed();
}

void SkinController::set_edges(bool on) {
    edges_ = on;
    emit shown_changed();
}

void SkinController::refresh() {
    const auto now = skin();
    if (now && !now->layer(selected_) && !now->layers.empty()) selected_ = now->layers.back().id;
    show();
    emit changed();
}

void SkinController::show() {
    if (awake_) compose(look_);
}

std::map<int, QImage> SkinController::pictures_of(const FitRecord& fit) {
    std::map<int, QImage> out;
    const Subject* subject = subject_of(s_.state(), fit.id);
    if (!subject || subject != s_.state().current() || !skin()) return out;
    if (!shown_ || shown_->skin != skin() || shown_->look != SkinLook::Skin) {
        if (!awake_) compose(SkinLook::Skin);
        return out;
    }
    for (const UvTile& tile : shown_->surface->surface().tiles) {
        if (tile.image >= 0) out.emplace(tile.image, shown_->tiles.at(tile.name).image);
    }
    return out;
}

// The newest question is answered; an older one's answer is not waited for.
void SkinController::compose(SkinLook look) {
    if (!why_not().isEmpty()) return;
    const FitRecord* fit = s_.state().fit();
    ShownSkin asked;
    asked.kit = s_.state().kit, asked.skin = skin(), asked.look = look, asked.layer = selected_;
    if (fit)
        asked.shape = fit->positions;
    else if (shown_ && shown_->kit == asked.kit && *shown_->shape == asked.kit->mesh.positions)
        asked.shape = shown_->shape;
    else
        asked.shape = std::make_shared<const Points>(asked.kit->mesh.positions);
    if (shown_ && shown_->same_question(asked)) return;
    if (composing_ && asked_ && asked_->same_question(asked)) return;
    if (composing_) s_.jobs().cancel(composing_);
    asked_ = asked;
    composing_ = s_.jobs().start<std::shared_ptr<ShownSkin>>(
        {JobKind::Prepare, tr("Composing the skin"), {}, true},
        [asked, before = std::shared_ptr<const ShownSkin>(shown_ ? std::make_shared<ShownSkin>(*shown_) : nullptr)](
            const Progress& progress) { return compose_skin(asked, before, progress); },
        [this, asked](Result<std::shared_ptr<ShownSkin>>&& made) {
            if (!asked_ || !asked_->same_question(asked)) return;
            composing_ = 0;
            asked_.reset();
            if (!made) {
                if (made.error().code != ErrorCode::Cancelled) s_.report(made.error());
                return;
            }
            shown_ = std::move(*made);
            if (!shown_->tile(tile_) && !shown_->tiles.empty()) tile_ = shown_->surface->surface().tiles.front().name;
            emit shown_changed();
        });
}

void SkinController::keep_painted(const QString& label, LayeredSkin&& next, const SkinLayer& layer,
                                  std::map<std::string, Pixels>&& live) {
    const auto kept = std::make_shared<const LayeredSkin>(std::move(next));
    const SkinLayer& painted = *kept->layer(layer.id);
    ProjectState state = s_.state();
    if (!put_skin(state, kept)) return;
    if (look_ == SkinLook::Skin && !composing_) {
        for (auto& [name, pixels] : live) {
            ShownSkin::Tile& tile = shown_->tiles.at(name);
            auto read = read_layer(painted, name, kept->size);
            if (!read) return s_.report(read.error());
            const auto at = std::find_if(tile.layers.begin(), tile.layers.end(),
                                         [&](const ReadLayer& l) { return l.id == painted.id; });
            if (at == tile.layers.end())
                tile.layers.push_back(std::move(*read));
            else
                *at = std::move(*read);
            tile.image =
                QImage(pixels.rgba.data(), pixels.width, pixels.height, 4 * pixels.width, QImage::Format_RGBA8888)
                    .copy();
            shown_->seen[name] = std::make_shared<const Pixels>(std::move(pixels));
        }
        shown_->skin = kept, shown_->layer = selected_;
    }
    s_.change(label, std::move(state));
    emit shown_changed();
}

UvFigures SkinController::uv_figures_of(const UvTile& tile) const {
    const auto key = std::pair(shown_->surface.get(), tile.name);
    if (figures_kept_.first != key) figures_kept_ = {key, uv_figures(shown_->surface->surface(), tile)};
    return figures_kept_.second;
}

QImage SkinController::uv_picture() const {
    if (!shown_) return {};
    const auto at = shown_->tiles.find(tile_);
    if (at == shown_->tiles.end()) return {};
    if (!edges_) return at->second.image;
    const auto key = std::pair(shown_->surface.get(), tile_);
    if (edges_kept_.first != key || edges_kept_.second.size() != at->second.image.size())
        edges_kept_ = {key, uv_edges(shown_->surface->surface(), *shown_->tile(tile_), at->second.image.width())};
    QImage out = at->second.image.copy();
    QPainter painter(&out);
    painter.drawImage(0, 0, edges_kept_.second);
    return out;
}

// --- out

void SkinController::write_maps(SkinOut what) {
    what.kit = s_.state().kit, what.skin = skin();
    if (!what.skin) return;
    if (auto relief = baking_of(s_.state(), s_.subject())) what.relief = std::move(*relief);
    s_.jobs().start<std::vector<std::string>>(
        {JobKind::Export, tr("Writing maps"), s_.subject()},
        [what = std::move(what)](const Progress& progress) { return write_skin_maps(what, progress); },
        [this](Result<std::vector<std::string>>&& written) {
            if (!written) return s_.say_why_not(written.error());
            emit s_.noticed(tr("Written: %n file(s)", nullptr, static_cast<int>(written->size())));
        });
}

void SkinController::write_glb(const QString& path) {
    const auto now = skin();
    if (!now) return;
    s_.jobs().start<bool>(
        {JobKind::Export, tr("Writing the skin's GLB"), s_.subject()},
        [now, state = s_.state(), path = path.toStdString()](const Progress& progress) -> Result<bool> {
            auto kit = dressed_kit(*state.kit, *now, progress);
            if (!kit) return kit.error();
            const std::vector<MorphAmount> amounts = state.amounts();
            if (auto ok = export_glb(*kit, amounts, path); !ok) return ok.error();
            return true;
        },
        [this, path](Result<bool>&& done) {
            if (!done) return s_.say_why_not(done.error());
            emit s_.noticed(tr("Written: %1").arg(path));
        });
}

}  // namespace veld
