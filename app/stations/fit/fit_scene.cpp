#include "app/stations/fit/fit_scene.h"

#include <algorithm>
#include <cmath>

#include "app/prepared_source.h"
#include "app/scene/colours.h"
#include "app/theme.h"
#include "core/kit/base_kit.h"
#include "core/kit/kit_surface.h"
#include "core/spatial/section.h"

namespace veld {
namespace {

constexpr double kLiveShare = 0.75;  // of the live fit over its source

void add_section(std::vector<GuideLine>& lines, const Points& positions, const std::vector<Triangle>& triangles,
                 const Plane& plane, const Similarity& to_view, const QColor& colour, bool dashed) {
    for (Points& line : section(positions, triangles, plane, to_view)) {
        GuideLine out;
        out.points = std::move(line), out.colour = colour, out.dashed = dashed;
        lines.push_back(std::move(out));
    }
}

Legend legend_of(const Look& look) {
    if (is_length(look.colours)) return length_legend(look.worst, QStringLiteral("%1"), both_ways(look.colours));
    return {look.worst, unit_of(look.colours), both_ways(look.colours)};
}

}  // namespace

FitScene::FitScene(Scene& scene, ViewSet& views, PhotoController& photos)
    : s_(scene.session), scene_(scene), views_(views), photos_(photos), photo_scene_(scene, views, photos) {
    connect_session();
    connect_photos();
}

void FitScene::connect_session() {
    const auto again = [this] {
        pack_again();
        views_.refresh({ViewId::Result});
    };
    connect(&s_, &Session::fit_cache_ready, this, again);
    connect(&s_, &Session::live, this, [this](const std::shared_ptr<Points>& positions) { show_live(*positions); });
    connect(&s_, &Session::fit_finished, this, [this] {
        live_ = false;
        pack_again();
        views_.refresh();
    });
    connect(&s_, &Session::project_changed, this, [this] { shape_ = other_ = {}, distances_ = {}, coloured_ = {}; });
}

void FitScene::connect_photos() {
    const auto again = [this] {
        if (!photo_live_) pack_again();
        views_.refresh({ViewId::Photo, ViewId::Result});
    };
    connect(&photos_, &PhotoController::changed, this, [this] { views_.refresh({ViewId::Photo, ViewId::Result}); });
    connect(&photo_scene_, &PhotoScene::left, this, again);
    connect(&photos_, &PhotoController::live, this,
            [this](const std::shared_ptr<Points>& positions) { show_photo_live(*positions); });
    connect(&photos_, &PhotoController::live_ended, this, [this] {
        photo_live_ = live_ = false;
        pack_again();
        views_.refresh();
    });
    // what was only shown gives way to whatever is kept, undone or selected
    connect(&s_, &Session::changed, this, [this] {
        if (photo_live_ && !photos_.making()) photo_live_ = false, pack_again();
    });
}

void FitScene::show_live(const Points& positions) {
    if (!s_.fitting() || !s_.has_kit()) return;
    live_ = true;
    scene_.shapes.show(shape_, positions);
    views_.refresh({ViewId::Result});
}

void FitScene::show_photo_live(const Points& positions) {
    if (!s_.has_kit()) return;
    photo_live_ = true;
    photo_scene_.follow_camera();
    scene_.shapes.show(shape_, positions, {.without_body = photo_scene_.without_body()});
    views_.refresh({ViewId::Photo, ViewId::Result});
    views_.redraw_quickly(ViewId::Result);
}

void FitScene::before_showing() {
    if (live_ && !s_.fitting()) live_ = false, pack_again();  // another subject's
    if (!s_.has_kit()) return;
    photo_scene_.follow_camera();
    colour_source();
}

void FitScene::left() {
    distances_.asked = {};
    if (!source_coloured_) return;
    source_coloured_ = false;
    coloured_ = {};
    scene_.source.colour({});
}

void FitScene::look_changed() {
    pack_again();
    views_.refresh();
}

BaseShapes::How FitScene::how(const std::vector<float>* values, int level) const {
    return {.level = level, .values = values, .coloured = [look = look()](const std::vector<float>& v) {
                return look_colours(look, v);
            }};
}

void FitScene::pack(const FitRecord& fit, bool coloured) {
    const std::optional<double> without_body = look().level == 0 ? photo_scene_.without_body() : std::nullopt;
    if (shape_.shown == fit.positions && shape_.level == look().level && shape_.without_body == without_body) return;
    const std::vector<float> values = coloured ? values_of(fit) : std::vector<float>();
    BaseShapes::How wanted = how(values.empty() ? nullptr : &values, look().level);
    wanted.without_body = without_body;
    scene_.shapes.show(shape_, *fit.positions, wanted);
    shape_.shown = fit.positions;
}

Pane FitScene::result(bool hold_shape) {
    Pane out;
    const FitRecord* fit = s_.state().fit();
    if (!s_.has_kit() || !shows()) return out;
    const bool coloured = look().colours != Colouring::None && !from_source() && !live();
    if (fit && !live() && !hold_shape && !photo_live_) pack(*fit, coloured);
    if (fit) scene_.shapes.wear_skin(shape_, fit);
    out.layers = layers(fit, coloured);
    const double share = look().share;
    const bool wiping = look().compare == Compare::Wipe && !live() && !from_source();
    if (wiping && share > 0 && share < 1) out.divider = 1 - share;
    const bool seen = look().colours == Colouring::SeenBy;
    if ((coloured && !seen) || from_source()) out.legend = legend_of(look());
    if (seen && coloured)
        out.prompt =
            tr("Teal: seen by two photographs or more.  Ochre: by one.  Grey: by none, the base's own shape.");
    if (coloured && look().colours == Colouring::Guessed && fit && !fit->guessed)
        out.prompt = tr("This fit does not know what it guessed: fit again with likely heads.");
    if (!live()) out.cut = cut_plane();
    if (out.cut) show_cut(*out.cut, fit, out);
    out.title = title(fit);
    out.backdrop = photo_scene_.backdrop();
    return out;
}

QString FitScene::title(const FitRecord* fit) const {
    return live()                                 ? tr("Fitting…")
           : from_source()                        ? tr("Source, by its distance to the fit")
           : look().colours == Colouring::Guessed ? tr("Guessed parts")
                                                  : tr("Fit  %1").arg(QString::fromStdString(fit->name));
}

std::vector<Layer> FitScene::layers(const FitRecord* fit, bool coloured) {
    const bool wiping = look().compare == Compare::Wipe && !live(),
               beside = look().compare == Compare::Beside && !live() && other_shape();
    const double share = live() ? kLiveShare : from_source() ? 0 : beside ? 1 : look().share;
    std::vector<Layer> out;
    if (share < 0.999 || live()) {
        if (auto lower = below(fit)) {
            if (wiping) lower->to = 1 - share;
            out.push_back(*lower);
        }
    }
    if (!shape_.mesh) return out;
    Layer top{shape_.mesh,           {},
              theme::kClay,          coloured ? Shading::Colours : live() ? Shading::Clay : scene_.shading,
              scene_.wire || live(), wiping ? 1 : share};
    if (wiping) top.from = 1 - share;
    out.push_back(top);
    return out;
}

std::optional<Layer> FitScene::below(const FitRecord* fit) {
    const Points* other = live() ? nullptr : other_shape();
    if (other && !from_source()) {
        scene_.shapes.show(other_, *other, {.level = look().level});
        return Layer{other_.mesh, {}, theme::kTealClay, scene_.shading, scene_.wire, 1};
    }
    if (!s_.prepared()) return {};
    return Layer{s_.prepared()->display,
                 fit && !live() ? fit->source_to_kit : s_.source_to_view(),
                 theme::kTealClay,
                 from_source() ? Shading::Colours : scene_.shading,
                 false,
                 1};
}

Pane FitScene::beside() {
    const ProjectState& state = s_.state();
    Pane out = scene_.base_pane();
    if (!state.kit || !state.fit() || look().compare != Compare::Beside || !other_shape()) return out;
    // the same colours as the fit's, so that both are read by one scale
    const int at = look().against - 2;
    std::vector<float> values;
    if (at >= 0) values = values_of(state.current()->fits[static_cast<std::size_t>(at)]);
    const bool coloured =
        look().colours != Colouring::None && look().colours != Colouring::FromSource && !values.empty();
    scene_.shapes.show(other_, *other_shape(), how(coloured ? &values : nullptr, look().level));
    out.layers = {{other_.mesh, {}, theme::kClay, coloured ? Shading::Colours : scene_.shading, scene_.wire, 1}};
    out.title = other_name();
    if (coloured) out.legend = legend_of(look());
    return out;
}

Pane FitScene::source() { return scene_.source.pane({.shading = scene_.shading, .coloured = source_coloured_}); }

const Points* FitScene::other_shape() const {
    const Subject* subject = s_.state().current();
    if (look().against == 1) return &s_.state().kit->mesh.positions;
    const int at = look().against - 2;
    return subject && at >= 0 && at < static_cast<int>(subject->fits.size())
               ? subject->fits[static_cast<std::size_t>(at)].positions.get()
               : nullptr;
}

QString FitScene::other_name() const {
    const int at = look().against - 2;
    return look().against == 1 || !other_shape()
               ? tr("Base")
               : QString::fromStdString(s_.state().current()->fits[static_cast<std::size_t>(at)].name);
}

void FitScene::take_cut() {
    const Camera& c = views_.active_camera().camera();
    seen_cut_ = Plane::through(c.target, -c.forward());
}

std::optional<Plane> FitScene::cut_plane() const {
    if (look().cut == Cut::None) return {};
    const BaseKit& kit = *s_.state().kit;
    const Box box = s_.state().settings.part == FitPart::Head ? head_box(kit) : bounding_box(kit.mesh.positions);
    if (look().cut == Cut::AsSeen) {
        Plane out = seen_cut_;
        out.offset += (look().cut_at - 0.5) * 0.5 * box.size().norm();
        return out;
    }
    const int axis = static_cast<int>(look().cut) - static_cast<int>(Cut::Side);
    return Plane::through(box.low + look().cut_at * box.size(), Vec3::Unit(axis));
}

void FitScene::show_cut(const Plane& plane, const FitRecord* fit, Pane& out) const {
    const BaseKit& kit = *s_.state().kit;
    const auto add = [&](const QString& name, const QColor& colour, const Points& x,
                         const std::vector<Triangle>& triangles, const Similarity& placed, bool broken = false) {
        add_section(out.marks.lines, x, triangles, plane, placed, colour, broken);
        out.key.push_back({colour, name, broken});
    };
    const std::vector<Triangle>& of_kit = kit.triangulation.triangles;
    if (fit) add(tr("Fit"), theme::kOchre, *fit->positions, of_kit, {});
    const PreparedSource* prepared = s_.prepared();
    if (prepared && fit && s_.state().source()->id == fit->source_id)
        add(tr("Source"), theme::kTeal, prepared->shown().positions, prepared->triangulation.triangles,
            fit->source_to_kit);
    add(tr("Base"), theme::kDim, kit.mesh.positions, of_kit, {}, true);
    if (look().against >= 2 && other_shape()) add(other_name(), theme::kText, *other_shape(), of_kit, {});
    std::reverse(out.marks.lines.begin(), out.marks.lines.end());  // the fit's is drawn last
}

void FitScene::look_at(Index vertex) {
    const FitRecord* fit = s_.state().fit();
    if (!fit || vertex >= fit->positions->size()) return;
    constexpr double kAroundMm = 14;
    const Vec3 normal = vertex_normals(*fit->positions, s_.state().kit->triangulation.triangles)[vertex];
    Camera c = views_.camera().camera();
    c.face(normal, 70);
    c.frame((*fit->positions)[vertex], kAroundMm);
    views_.camera().set(c);
}

}  // namespace veld
