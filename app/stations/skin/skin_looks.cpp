// What the skin's controller shows: which look, composed in the background, and the picture of a tile.
#include <QPainter>
#include <algorithm>

#include "app/stations/skin/skin_controller.h"

namespace veld {

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
    if (failed_ && failed_->same_question(asked)) return;  // it was said
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
                if (made.error().code == ErrorCode::Cancelled) return;
                failed_ = asked;
                s_.report(made.error());
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

}  // namespace veld
