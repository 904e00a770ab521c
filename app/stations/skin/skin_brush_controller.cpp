#include "app/stations/skin/skin_brush_controller.h"

#include <algorithm>

#include "core/project/layered_skins.h"

namespace veld {
namespace {

constexpr double kStep = 0.2;  // of the radius: dabs between two places of the pointer
constexpr int kMostDabs = 60;  // of one movement

bool takes_from_elsewhere(SkinBrush brush) { return brush == SkinBrush::Clone || brush == SkinBrush::Heal; }

}  // namespace

SkinBrushController::SkinBrushController(Session& session, SkinController& skins, QObject* parent)
    : QObject(parent), s_(session), skins_(skins) {
    connect(&s_, &Session::project_changed, this, [this] { stroke_.reset(), source_ = {}, source_on_.reset(); });
}

void SkinBrushController::set_brush(SkinBrush kind) {
    brush.brush = kind;
    emit changed();
}

void SkinBrushController::set_size(double mm) {
    brush.radius_mm = std::clamp(mm, 0.2, 200.0);
    emit changed();
}

void SkinBrushController::set_colour(const QColor& colour) {
    brush.colour = {static_cast<std::uint8_t>(colour.red()), static_cast<std::uint8_t>(colour.green()),
                    static_cast<std::uint8_t>(colour.blue()), 255};
    emit changed();
}

void SkinBrushController::set_brushing(bool on) {
    if (on == brushing_) return;
    if (!on) drop();
    brushing_ = on;
    emit changed();
}

QString SkinBrushController::why_not() const {
    if (!skins_.skin()) return tr("Make a skin first: bake a layer, or begin a painted one.");
    if (!skins_.shown() || skins_.composing() || skins_.shown()->skin != skins_.skin())
        return tr("The skin is being composed…");
    if (map_of(skins_.look()) && skins_.look() != SkinLook::SkinInRelief)
        return tr("A map is shown: show all layers to paint on them.");
    if (on_mask(brush.brush) && !skins_.layer()) return tr("Select the layer to erase from.");
    if (skins_.layer() && !skins_.layer()->shown &&
        (on_mask(brush.brush) || skins_.layer()->from == LayerFrom::Painted))
        return tr("The selected layer is off: tick it first.");
    if (skins_.layer() && !skins_.layer()->stage.empty() && skins_.layer()->stage != skins_.stage() &&
        (on_mask(brush.brush) || skins_.layer()->from == LayerFrom::Painted))
        return tr("The selected layer belongs to another stage: choose that first.");
    if (takes_from_elsewhere(brush.brush) && (source_.triangle == kNone || source_on_ != skins_.shown()->surface))
        return tr("Alt and click: the place to take from.");
    return {};
}

std::optional<Vec3> SkinBrushController::source() const {
    if (source_.triangle == kNone || !skins_.shown() || source_on_ != skins_.shown()->surface) return {};
    return source_on_->surface().place(source_.triangle, source_.shares);
}

void SkinBrushController::begin(const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    if (skins_.shown()) begin_at(skins_.shown()->surface->hit(ray.origin, ray.direction), pressure, keys);
}

void SkinBrushController::begin_on_tile(const Vec2& at, double pressure, Qt::KeyboardModifiers keys) {
    const auto& shown = skins_.shown();
    if (shown && shown->tile(skins_.tile()))
        begin_at(shown->surface->at(*shown->tile(skins_.tile()), at), pressure, keys);
}

void SkinBrushController::begin_at(const SkinSpot& place, double pressure, Qt::KeyboardModifiers keys) {
    drop();
    if (place.triangle == kNone || !skins_.shown()) return;
    if (keys & Qt::AltModifier) return pick(place);
    if (const QString why = why_not(); !why.isEmpty()) {
        emit s_.noticed(why);
        return;
    }
    const auto& shown = skins_.shown();
    Stroke now{shown, brush, {}, false, {}, nullptr, {}, place};
    const SkinLayer* selected = skins_.layer();
    if (on_mask(brush.brush) || (selected && selected->from == LayerFrom::Painted)) {
        now.target = *selected;
    } else {
        // the topmost painted layer, or a new one
        const std::string& stage = skins_.stage();
        for (const SkinLayer& layer : shown->skin->layers) {
            if (layer.from == LayerFrom::Painted && layer.shown && layer.stage == stage) now.target = layer;
        }
        if (now.target.name.empty())
            now.target.name = tr("Painted").toStdString(), now.target.stage = stage, now.fresh = true;
    }
    now.layer = now.target.id;
    now.stroke = std::make_unique<SkinStroke>(*shown->surface, brush, shown->seen, now.target, shown->skin->size,
                                              source_, place);
    stroke_ = std::move(now);
    show(stroke_->stroke->dab(place, pressure));
}

void SkinBrushController::pick(const SkinSpot& place) {
    const auto& shown = skins_.shown();
    if (takes_from_elsewhere(brush.brush)) {
        source_ = place, source_on_ = shown->surface;
        emit changed();
        return;
    }
    const Pixels& seen = *shown->seen.at(shown->surface->tile_of(place.triangle).name);
    const Vec2 at = shown->surface->in_tile(place);
    const int x = std::clamp(static_cast<int>(at.x() * seen.width), 0, seen.width - 1),
              y = std::clamp(static_cast<int>(at.y() * seen.height), 0, seen.height - 1);
    const std::uint8_t* q = &seen.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(seen.width) +
                                            static_cast<std::size_t>(x))];
    set_colour(QColor(q[0], q[1], q[2]));
}

void SkinBrushController::move(const Ray& ray, double pressure) {
    if (stroke_) dab(stroke_->on->surface->hit(ray.origin, ray.direction), pressure);
}

void SkinBrushController::move_on_tile(const Vec2& at, double pressure) {
    if (stroke_ && stroke_->on->tile(skins_.tile()))
        dab(stroke_->on->surface->at(*stroke_->on->tile(skins_.tile()), at), pressure);
}

// From the last place to this one in steps, so that a quick movement leaves no gaps.
void SkinBrushController::dab(const SkinSpot& place, double pressure) {
    if (place.triangle == kNone) return;
    const BakeSurface& surface = stroke_->on->surface->surface();
    const Vec3 from = surface.place(stroke_->last.triangle, stroke_->last.shares),
               to = surface.place(place.triangle, place.shares), normal = surface.normal(place.triangle, place.shares);
    const int steps =
        std::clamp(static_cast<int>((to - from).norm() / (kStep * stroke_->used.radius_mm)), 1, kMostDabs);
    std::map<std::string, TexelRect> touched;
    for (int i = 1; i <= steps; ++i) {
        const SkinSpot at =
            i == steps ? place
                       : stroke_->on->surface->closest(from + (to - from) * (double(i) / steps), normal.normalized());
        for (const auto& [tile, rect] : stroke_->stroke->dab(at, pressure)) touched[tile].grow(rect);
    }
    stroke_->last = place;
    show(touched);
}

// The tiles' texels with what the stroke did so far.
void SkinBrushController::show(const std::map<std::string, TexelRect>& touched) {
    for (const auto& [name, rect] : touched) {
        const TexelRect part = rect.within(stroke_->on->skin->size);
        if (part.empty()) continue;
        ShownSkin::Tile& tile = stroke_->on->tiles.at(name);
        std::vector<ReadLayer> layers = tile.layers;
        auto at =
            std::find_if(layers.begin(), layers.end(), [&](const ReadLayer& l) { return l.id == stroke_->layer; });
        if (at == layers.end()) at = layers.insert(layers.end(), ReadLayer{stroke_->layer, {}, nullptr, 1, {}});
        const TexelBlocks& changed = stroke_->stroke->changed().at(name);
        if (on_mask(stroke_->used.brush))
            at->mask = std::make_shared<const TexelBlocks>(changed);
        else
            at->picture = changed;
        if (!stroke_->live.contains(name)) stroke_->live[name] = *stroke_->on->seen.at(name);
        Pixels& live = stroke_->live[name];
        compose(*tile.base, layers, part, live);
        const QRect where(part.left, part.top, part.right - part.left, part.bottom - part.top);
        const QImage whole(live.rgba.data(), live.width, live.height, 4 * live.width, QImage::Format_RGBA8888);
        emit painted(QString::fromStdString(name), where, whole.copy(where));
    }
}

void SkinBrushController::end() {
    if (!stroke_) return;
    Stroke done = std::move(*stroke_);
    stroke_.reset();
    const auto now = skins_.skin();
    if (!now || now != done.on->skin || done.stroke->changed().empty()) {
        emit skins_.shown_changed();  // as it was
        return;
    }
    LayeredSkin next = *now;
    if (done.fresh) next.layers.push_back(done.target);
    SkinLayer* layer = next.layer(done.layer);
    if (!layer) return emit skins_.shown_changed();
    for (const auto& [name, blocks] : done.stroke->changed()) {
        LayerTile& tile = layer->tiles[name];
        (on_mask(done.used.brush) ? tile.mask : tile.paint) = std::make_shared<const TexelBlocks>(blocks);
    }
    if (done.fresh) skins_.selected_ = done.layer;
    skins_.keep_painted(tr("Brush on skin"), std::move(next), *layer, std::move(done.live));
}

void SkinBrushController::drop() {
    if (!stroke_) return;
    stroke_.reset();
    emit skins_.shown_changed();
}

}  // namespace veld
