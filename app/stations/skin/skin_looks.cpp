// What the skin's controller shows: which look, composed in the background, and the picture of a tile.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/stations/skin/skin_controller.h"

namespace veld {
namespace {

constexpr double kStageSteps = 8;  // of an expression's amount, by which a stage comes in

}  // namespace

void SkinController::set_look(SkinLook look) {
    if (map_of(look) && !baking_of(s_.state(), s_.subject())) {
        emit s_.noticed(tr("Relief is baked from a scan or sculpt, and the current fit was made from none."));
        emit changed();
        return;
    }
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
    if (!awake_) return;
    const auto now = skin();
    if (!stage_.empty() && !(now && now->stage(stage_))) stage_.clear();
    compose(look_);
    compose_against();
}

void SkinController::set_against(Against what, SkinId which) {
    against_ = what, against_skin_ = which;
    show();
    emit changed();
    emit shown_changed();
}

void SkinController::set_wipe(double share) {
    wipe_ = std::clamp(share, 0.0, 1.0);
    emit changed();
}

SkinController::Photos SkinController::photos() const {
    const FitRecord* fit = s_.has_kit() ? s_.state().fit() : nullptr;
    const PhotoSet* set = fit && fit->photo ? find_photo_set(s_.state(), fit->photo_set_id) : nullptr;
    if (!set || !set->photos) return {};
    return {set->photos, fit->photo->cameras()};
}

void SkinController::set_photo(int photo) {
    photo_ = photo;
    emit changed();
    emit shown_changed();
}

std::map<int, QImage> SkinController::pictures_of(const FitRecord& fit,
                                                  const std::map<std::string, double>& expressions) {
    std::map<int, QImage> out;
    const Subject* subject = subject_of(s_.state(), fit.id);
    if (!subject || subject != s_.state().current() || !skin()) return out;
    if (!main_.shown || main_.shown->skin != skin() || main_.shown->look != SkinLook::Skin ||
        (!awake_ && !main_.shown->stage.empty())) {
        if (!awake_) compose(SkinLook::Skin);
        return out;
    }
    std::map<std::string, double> stages;
    for (const SkinStage& stage : skin()->stages) {
        const auto amount = expressions.find(stage.expression);
        if (awake_ || amount == expressions.end() || amount->second <= 0) continue;
        Composed& composed = in_stage_[stage.name];
        if (!composed.shown || composed.shown->skin != skin())
            compose(composed, question(SkinLook::Skin, stage.name), main_.shown);
        else
            stages[stage.name] = std::round(kStageSteps * std::min(1.0, amount->second)) / kStageSteps;
    }
    for (const UvTile& tile : main_.shown->surface->surface().tiles) {
        if (tile.image >= 0) out.emplace(tile.image, picture_in(tile.name, stages));
    }
    return out;
}

QImage SkinController::picture_in(const std::string& tile, const std::map<std::string, double>& stages) {
    const auto plain = main_.shown->seen.find(tile);
    Between now;
    for (const auto& [name, amount] : stages) {
        const SeenTiles& seen = in_stage_.at(name).shown->seen;
        const auto at = seen.find(tile);
        if (amount <= 0 || at == seen.end() || plain == main_.shown->seen.end()) continue;
        if (!stage_differs(tile, name, plain->second, at->second)) continue;
        now.held.emplace_back(at->second, amount);
        now.of.emplace_back(at->second.get(), amount);
    }
    if (now.of.empty()) return main_.shown->tiles.at(tile).image;
    now.of.emplace_back(plain->second.get(), 0);
    Between& last = between_[tile];
    if (last.of != now.of) {
        const Pixels made = between_stages(*plain->second, now.held);
        now.held.emplace_back(plain->second, 0);  // so that no other picture has its address
        now.image = QImage(made.rgba.data(), made.width, made.height, 4 * made.width, QImage::Format_RGBA8888).copy();
        last = std::move(now);
    }
    return last.image;
}

bool SkinController::stage_differs(const std::string& tile, const std::string& stage,
                                   const std::shared_ptr<const Pixels>& plain,
                                   const std::shared_ptr<const Pixels>& there) {
    Told& told = told_[{tile, stage}];
    if (told.plain.lock() != plain || told.stage.lock() != there)
        told = {plain, there, there->rgba.size() == plain->rgba.size() && there->rgba != plain->rgba};
    return told.differ;
}

ShownSkin SkinController::question(SkinLook look, const std::string& of_stage) const {
    const FitRecord* fit = s_.state().fit();
    ShownSkin asked;
    asked.kit = s_.state().kit, asked.skin = skin(), asked.look = look, asked.layer = selected_;
    asked.stage = of_stage;
    const SkinStage* stage = asked.skin && awake_ ? asked.skin->stage(of_stage) : nullptr;
    if (const FitRecord* of = stage && stage->fit ? find_fit(s_.state(), stage->fit) : nullptr) fit = of;
    const auto& shown = main_.shown;
    if (fit)
        asked.shape = fit->positions;
    else if (shown && shown->kit == asked.kit && *shown->shape == asked.kit->mesh.positions)
        asked.shape = shown->shape;
    else
        asked.shape = std::make_shared<const Points>(asked.kit->mesh.positions);
    if (map_of(look) && fit) {
        if (auto relief = baking_of_fit(s_.state(), *fit))
            asked.relief = std::make_shared<const FitBaking>(std::move(*relief));
    }
    return asked;
}

void SkinController::compose(SkinLook look) {
    // elsewhere the skin is seen without the stage that is worked on
    if (why_not().isEmpty()) compose(main_, question(look, awake_ ? stage_ : std::string()), main_.shown);
}

void SkinController::compose_against() {
    if (against_ == Against::Nothing || !main_.shown || !why_not().isEmpty()) {
        other_ = {};
        return;
    }
    ShownSkin asked;
    asked.kit = main_.shown->kit, asked.shape = main_.shown->shape, asked.stage = stage_;
    const auto now = skin();
    if (against_ == Against::Skin) {
        asked.skin = find_skin(s_.state(), against_skin_);
    } else if (against_ == Against::WithoutLayer && now) {
        const auto key = std::pair(now.get(), selected_);
        if (without_.first != key || !without_.second) {
            auto less = std::make_shared<LayeredSkin>(*now);
            if (SkinLayer* layer = less->layer(selected_)) layer->shown = false;
            without_ = {key, std::move(less)};
        }
        asked.skin = without_.second;
    }
    compose(other_, asked, other_.shown ? other_.shown : main_.shown);
}

// The newest question is answered; an older one's answer is not waited for.
void SkinController::compose(Composed& to, const ShownSkin& asked, const std::shared_ptr<ShownSkin>& known) {
    if (to.shown && to.shown->same_question(asked)) return;
    if (to.job && to.asked && to.asked->same_question(asked)) return;
    if (to.failed && to.failed->same_question(asked)) return;  // it was said
    if (to.job) s_.jobs().cancel(to.job);
    to.asked = asked;
    to.job = s_.jobs().start<std::shared_ptr<ShownSkin>>(
        {JobKind::Prepare, tr("Composing the skin"), {}, true},
        [asked, before = std::shared_ptr<const ShownSkin>(known ? std::make_shared<ShownSkin>(*known) : nullptr)](
            const Progress& progress) { return compose_skin(asked, before, progress); },
        [this, &to, asked](Result<std::shared_ptr<ShownSkin>>&& made) {
            if (!to.asked || !to.asked->same_question(asked)) return;
            to.job = 0;
            to.asked.reset();
            if (!made) {
                if (made.error().code == ErrorCode::Cancelled) return;
                to.failed = asked;
                s_.report(made.error());
                return;
            }
            to.shown = std::move(*made);
            if (&to == &main_) {
                if (!to.shown->tile(tile_) && !to.shown->tiles.empty())
                    tile_ = to.shown->surface->surface().tiles.front().name;
                compose_against();
            }
            emit shown_changed();
        });
}

void SkinController::keep_painted(const QString& label, LayeredSkin&& next, const SkinLayer& layer,
                                  std::map<std::string, Pixels>&& live) {
    const auto kept = std::make_shared<const LayeredSkin>(std::move(next));
    const SkinLayer& painted = *kept->layer(layer.id);
    ProjectState state = s_.state();
    if (!put_skin(state, kept)) return;
    if ((look_ == SkinLook::Skin || look_ == SkinLook::SkinInRelief) && !main_.job) {
        for (auto& [name, pixels] : live) {
            ShownSkin::Tile& tile = main_.shown->tiles.at(name);
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
            main_.shown->seen[name] = std::make_shared<const Pixels>(std::move(pixels));
        }
        main_.shown->skin = kept, main_.shown->layer = selected_;
    }
    s_.change(label, std::move(state));
    emit shown_changed();
}

UvFigures SkinController::uv_figures_of(const UvTile& tile) const {
    const auto key = std::pair(main_.shown->surface.get(), tile.name);
    if (figures_kept_.first != key) figures_kept_ = {key, uv_figures(main_.shown->surface->surface(), tile)};
    return figures_kept_.second;
}

QImage SkinController::uv_picture() const {
    if (!main_.shown) return {};
    const auto at = main_.shown->tiles.find(tile_);
    if (at == main_.shown->tiles.end()) return {};
    if (!edges_) return at->second.image;
    const auto key = std::pair(main_.shown->surface.get(), tile_);
    if (edges_kept_.first != key || edges_kept_.second.size() != at->second.image.size())
        edges_kept_ = {key,
                       uv_edges(main_.shown->surface->surface(), *main_.shown->tile(tile_), at->second.image.width())};
    QImage out = at->second.image.copy();
    QPainter painter(&out);
    painter.drawImage(0, 0, edges_kept_.second);
    return out;
}

}  // namespace veld
