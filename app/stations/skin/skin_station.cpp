#include "app/stations/skin/skin_station.h"

#include <QPainter>
#include <algorithm>

#include "app/lengths.h"
#include "app/scene/scene.h"
#include "app/stations/skin/skin_panel.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr int kFinestWorn = 1;  // subdivisions: made on the thread that people wait for

}  // namespace

SkinStation::SkinStation(const StationContext& context)
    : StationPage(context),
      skins_(context.skins),
      brushes_(context.session, context.skins),
      panel_(new SkinPanel(context.session, context.skins, brushes_)) {
    add_brush_keys(c_, Station::Skin,
                   [this](bool larger) { brushes_.set_size(next_brush_size(brushes_.brush.radius_mm, larger)); });
    connect(&skins_, &SkinController::changed, this, [this] {
        refresh({ViewId::Result});
        emit figures_changed();
    });
    connect(&skins_, &SkinController::shown_changed, this, [this] {
        uv_ = {};
        refresh({ViewId::Source, ViewId::Result, ViewId::Photo});
    });
    connect(&brushes_, &SkinBrushController::changed, this, [this] { refresh({ViewId::Result, ViewId::Photo}); });
    connect(&brushes_, &SkinBrushController::painted, this, &SkinStation::show_painted);
    connect(&c_.views.camera(), &CameraLink::changed, this, [this] {
        if (through_ < 0 || c_.views.camera().camera().photo) return;
        through_ = -1;  // a fixed view or framing left the photograph
        skins_.set_photo(-1);
    });
}

QWidget* SkinStation::panel() { return panel_; }

void SkinStation::entered() {
    skins_.set_awake(true);
    brushes_.set_brushing(panel_->of_brush());
}

void SkinStation::left() {
    brushes_.drop();
    brushes_.set_brushing(false);
    skins_.set_awake(false);
    follow_photo();
}

QString SkinStation::figures() const {
    const auto skin = skins_.skin();
    if (!skin) return {};
    if (skins_.baking()) return tr("Baking…");
    if (const int old = skins_.old_layers())
        return tr("Layers to be baked again: %1", "of the fit, which has changed").arg(old);
    for (auto at = skin->layers.rbegin(); at != skin->layers.rend(); ++at) {
        if (at->baked_for.empty() || !at->shown) continue;
        return tr("%1: seen %2 %, from the other side %3 %, filled %4 %")
            .arg(QString::fromStdString(at->name))
            .arg(100 * at->seen, 0, 'f', 1)
            .arg(100 * at->mirrored, 0, 'f', 1)
            .arg(100 * (1 - at->seen - at->mirrored), 0, 'f', 1);
    }
    return tr("%1: %n layer(s)", nullptr, static_cast<int>(skin->layers.size()))
        .arg(QString::fromStdString(skin->name));
}

std::vector<ViewId> SkinStation::shown() {
    if (!c_.session.has_kit()) return {ViewId::Base};
    if (!skins_.why_not().isEmpty()) return {ViewId::Result};
    if (!panel_->of_layers() || skins_.photo() >= 0) return {ViewId::Photo, ViewId::Result};
    return {c_.session.state().source() ? ViewId::Source : ViewId::Photo, ViewId::Result};
}

std::vector<ViewId> SkinStation::offered() {
    if (!c_.session.has_kit()) return {ViewId::Base};
    return {ViewId::Base, ViewId::Source, ViewId::Result, ViewId::Photo};
}

int SkinStation::level() const {
    return skins_.look() == SkinLook::Checker ? 0 : std::min(c_.scene.look.level, kFinestWorn);
}

// What the skin is held against, at the left of a line.
void SkinStation::add_wipe(Pane& out) {
    const auto& other = skins_.shown_against();
    if (skins_.against() == SkinController::Against::Nothing) return;
    if (!other) {
        out.busy = tr("Composing the skin…");
        return;
    }
    against_.dress(*other, level(), c_.scene);
    Layer left = out.layers.back();
    left.mesh = against_.mesh();
    left.to = skins_.wipe(), out.layers.back().from = skins_.wipe();
    out.layers.insert(out.layers.begin(), left);
    out.divider = skins_.wipe();
}

// The camera becomes a photograph's own, or leaves it.
void SkinStation::follow_photo() {
    CameraLink& link = c_.views.camera();
    Camera camera = link.camera();
    const SkinController::Photos photos = skins_.photos();
    const int wanted = skins_.photo() < static_cast<int>(photos.cameras.size()) ? skins_.photo() : -1;
    if (wanted < 0 || !photos.cameras[static_cast<std::size_t>(wanted)]) {
        if (through_ < 0) return;
        through_ = -1;
        camera.photo.reset();
        return link.set(camera);
    }
    const PhotoCamera& of = *photos.cameras[static_cast<std::size_t>(wanted)];
    if (through_ == wanted && camera.photo && camera.photo->camera == of) return;  // moved and enlarged by hand
    camera.photo = PhotoLook{of, 0.5 * Vec2(of.width, of.height), 1};
    const BaseKit& kit = *c_.session.state().kit;
    if (kit.landmarks.contains("sellion")) camera.target = kit.landmarks.at("sellion").at(kit.mesh.positions);
    through_ = wanted;
    link.set(camera);
}

void SkinStation::before_showing() { follow_photo(); }

Pane SkinStation::pane(ViewId which) {
    if (which == ViewId::Base) return c_.scene.base_pane();
    if (which == ViewId::Source) {
        Pane out = StationPage::pane(which);
        for (Layer& layer : out.layers) {
            if (layer.mesh->has_texture()) layer.shading = Shading::Textured;
        }
        return out;
    }
    Pane out;
    const auto skin = skins_.skin();
    const Subject* subject = c_.session.state().current();
    out.title = subject && skin
                    ? tr("%1  %2").arg(QString::fromStdString(subject->name), QString::fromStdString(skin->name))
                : subject ? QString::fromStdString(subject->name)
                          : tr("Skin");
    out.hint = skins_.why_not();
    if (!out.hint.isEmpty()) return out;
    if (!skins_.shown()) {
        // the shape in the base's own skin until then
        const FitRecord* fit = c_.session.state().fit();
        const Points& shape = fit ? *fit->positions : c_.session.state().kit->mesh.positions;
        c_.scene.shapes.show(plain_, shape, {.level = std::min(c_.scene.look.level, kFinestWorn)});
        out.layers.push_back({plain_.mesh, {}, theme::kClay, Shading::Textured, c_.scene.wire, 1});
        out.busy = tr("Composing the skin…");
        return out;
    }
    if (const auto photos = skins_.photos();
        through_ >= 0 && photos.pictures && through_ < static_cast<int>(photos.pictures->size())) {
        out.backdrop.name = QString::fromStdString((*photos.pictures)[static_cast<std::size_t>(through_)].name);
        out.backdrop.behind = 0;  // it stands beside
    }
    worn_.dress(*skins_.shown(), level(), c_.scene);
    const bool clay = skins_.look() == SkinLook::Relief;
    const bool flat = panel_->flat() || (map_of(skins_.look()) == SkinMap::Displacement);
    out.layers.push_back({worn_.mesh(),
                          {},
                          theme::kClay,
                          clay   ? Shading::Clay
                          : flat ? Shading::Flat
                                 : Shading::Textured,
                          c_.scene.wire,
                          1});
    out.layers.back().relief = map_of(skins_.look()) == SkinMap::Normal;
    add_wipe(out);
    if (skins_.look() == SkinLook::Heights && skins_.shown()->white_mm > 0) {
        const QString mm = length_text(skins_.shown()->white_mm, 2);
        out.key = {{QColor(255, 255, 255), tr("%1 above the base").arg(mm), false},
                   {QColor(0, 0, 0), tr("%1 below").arg(mm), false}};
    }
    if (skins_.baking()) out.busy = tr("Baking…");
    if (skins_.look() == SkinLook::Origin) {
        const auto line = [](TexelOrigin of, const QString& name) {
            const Colour& c = kOriginColours[static_cast<std::size_t>(of)];
            return KeyLine{QColor(c.r, c.g, c.b), name, false};
        };
        out.key = {line(TexelOrigin::Mirrored, tr("from the other side")), line(TexelOrigin::Base, tr("filled")),
                   line(TexelOrigin::Wrong, tr("another sheet, filled"))};
    }
    if (brushes_.brushing()) {
        out.gesture = Gesture::Touch, out.brush_mm = brushes_.brush.radius_mm;
        out.prompt = brushes_.why_not();
        if (const auto source = brushes_.source()) {
            Marker marker;
            marker.name = "source", marker.position = *source, marker.colour = theme::kOchre;
            out.marks.markers.push_back(std::move(marker));
        }
    }
    return out;
}

PhotoPane SkinStation::photo_pane() {
    PhotoPane out;
    const SkinController::Photos photos = skins_.photos();
    if (photos.pictures && skins_.photo() >= 0 && skins_.photo() < static_cast<int>(photos.pictures->size()))
        return {photos.pictures, static_cast<std::size_t>(skins_.photo())};
    out.name = tr("Tile %1").arg(QString::fromStdString(skins_.tile()));
    if (uv_.isNull()) uv_ = skins_.uv_picture();
    out.picture = uv_;
    if (uv_.isNull()) out.message = skins_.why_not().isEmpty() ? tr("Composing the skin…") : skins_.why_not();
    out.brush = brushes_.brushing();
    return out;
}

void SkinStation::show_painted(const QString& tile, const QRect& where, const QImage& part) {
    const int size = skins_.skin() ? skins_.skin()->size : part.height();
    if (worn_.patch(tile.toStdString(), part, where, size)) c_.views.redraw_quickly(ViewId::Result);
    if (tile.toStdString() != skins_.tile() || uv_.isNull()) return;
    QPainter painter(&uv_);
    painter.setCompositionMode(QPainter::CompositionMode_Source);
    painter.drawImage(where.topLeft(), part);
    painter.end();
    refresh({ViewId::Photo});
}

Framing SkinStation::home() {
    if (!c_.session.has_kit()) return {};
    return c_.scene.head_framing();
}

std::string SkinStation::framed() {
    if (!c_.session.has_kit()) return {};
    const Subject* subject = c_.session.state().current();
    return c_.session.state().kit->topology_key + (subject ? id_text(subject->id.value) : "");
}

void SkinStation::stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Result) brushes_.begin(ray, pressure, keys);
}
void SkinStation::stroke_moved(ViewId which, const Ray& ray, double pressure) {
    if (which == ViewId::Result) brushes_.move(ray, pressure);
}
void SkinStation::stroke_ended(ViewId which) {
    if (which == ViewId::Result) brushes_.end();
}

Vec2 SkinStation::on_tile(const QPointF& pixel) const {
    return {pixel.x() / std::max(1, uv_.width()), pixel.y() / std::max(1, uv_.height())};
}
void SkinStation::photo_stroke_begun(const QPointF& pixel, double pressure, Qt::KeyboardModifiers keys) {
    brushes_.begin_on_tile(on_tile(pixel), pressure, keys);
}
void SkinStation::photo_stroke_moved(const QPointF& pixel, double pressure) {
    brushes_.move_on_tile(on_tile(pixel), pressure);
}
void SkinStation::photo_stroke_ended() { brushes_.end(); }

}  // namespace veld
