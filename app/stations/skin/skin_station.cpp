#include "app/stations/skin/skin_station.h"

#include <QPainter>
#include <algorithm>

#include "app/scene/scene.h"
#include "app/stations/skin/skin_panel.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "core/kit/kit_surface.h"
#include "core/skin/dressed.h"

namespace veld {
namespace {

constexpr int kFinestWorn = 1;  // subdivisions: made on the thread that people wait for

// A texel that stands for a tile's picture until that is there.
Image one_texel() {
    Pixels one;
    one.width = one.height = 1;
    one.rgba = {128, 128, 128, 255};
    return {"tile.png", "image/png", encode_png(one)};
}

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
    if (!panel_->of_layers()) return {ViewId::Photo, ViewId::Result};
    return {c_.session.state().source() ? ViewId::Source : ViewId::Photo, ViewId::Result};
}

std::vector<ViewId> SkinStation::offered() {
    if (!c_.session.has_kit()) return {ViewId::Base};
    return {ViewId::Base, ViewId::Source, ViewId::Result, ViewId::Photo};
}

// The mesh that is shown, on the shape and with the pictures of now.
void SkinStation::dress() {
    const auto& shown = skins_.shown();
    const BakeSurface& surface = shown->surface->surface();
    const int level = skins_.look() == SkinLook::Checker ? 0 : std::min(c_.scene.look.level, kFinestWorn);
    if (!mesh_ || mesh_of_ != shown->kit || level_ != level || tiles_ != surface.tiles.size()) {
        const Mesh dressed =
            dressed_mesh(shown->kit->mesh, surface, std::vector<Image>(surface.tiles.size(), one_texel()));
        fine_.reset();
        if (level > 0) {
            if (auto made = Subdivided::make(dressed, level)) fine_ = *made;
        }
        mesh_ = std::make_shared<DisplayMesh>(fine_ ? fine_->mesh() : dressed);
        SurfaceKinds kinds = surface_kinds(*shown->kit);
        if (fine_) {
            for (std::vector<float>* values : {&kinds.eye, &kinds.lash, &kinds.along, &kinds.out})
                *values = fine_->values(*values);
        }
        mesh_->set_kinds(kinds);
        mesh_of_ = shown->kit, level_ = level, tiles_ = surface.tiles.size(), mesh_shape_.reset();
        image_of_.clear(), worn_.clear();
        for (const UvTile& tile : surface.tiles) {
            for (const Material& m : dressed.materials) {
                if (m.name == "skin_" + tile.name) image_of_[tile.name] = static_cast<std::size_t>(m.image);
            }
        }
    }
    if (mesh_shape_ != shown->shape) {
        mesh_shape_ = shown->shape;
        mesh_->set_positions(fine_ ? fine_->positions(*shown->shape) : *shown->shape);
        c_.scene.baker.ask(mesh_, true,
                           [kit = shown->kit, shape = shown->shape, fine = fine_](const Progress& progress) {
                               Baked out = bake_base(*kit, *shape, progress);
                               if (fine && !out.open.empty()) out.open = fine->values(out.open);
                               return out;
                           });
    }
    for (const auto& [name, tile] : shown->tiles) {
        if (worn_[name] == tile.image.cacheKey()) continue;
        worn_[name] = tile.image.cacheKey();
        if (const auto at = image_of_.find(name); at != image_of_.end())
            mesh_->set_image(at->second, tile.image.mirrored());
    }
}

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
    dress();
    out.layers.push_back(
        {mesh_, {}, theme::kClay, panel_->flat() ? Shading::Flat : Shading::Textured, c_.scene.wire, 1});
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
    out.name = tr("Tile %1").arg(QString::fromStdString(skins_.tile()));
    if (uv_.isNull()) uv_ = skins_.uv_picture();
    out.picture = uv_;
    if (uv_.isNull()) out.message = skins_.why_not().isEmpty() ? tr("Composing the skin…") : skins_.why_not();
    out.brush = brushes_.brushing();
    return out;
}

void SkinStation::show_painted(const QString& tile, const QRect& where, const QImage& part) {
    if (mesh_ && image_of_.contains(tile.toStdString())) {
        const int size = skins_.skin() ? skins_.skin()->size : part.height();
        worn_.erase(tile.toStdString());  // what the stroke leaves is worn anew when it ends
        mesh_->patch_image(image_of_.at(tile.toStdString()), part.mirrored(),
                           {where.left(), size - where.top() - where.height()});
        c_.views.redraw_quickly(ViewId::Result);
    }
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
