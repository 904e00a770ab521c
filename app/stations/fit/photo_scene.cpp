#include "app/stations/fit/photo_scene.h"

#include "app/theme.h"
#include "core/kit/base_kit.h"
#include "core/project/records/fit_record.h"
#include "core/project/records/source.h"

namespace veld {
namespace {

Marker marker(const std::string& name, double x, double y, const QColor& colour, MarkerShape shape) {
    Marker m;
    m.name = name, m.position = {x, y, 0}, m.colour = colour, m.shape = shape;
    return m;
}

Vec3 on_picture(const Vec2& pixel) { return {pixel.x(), pixel.y(), 0}; }

}  // namespace

PhotoScene::PhotoScene(Scene& scene, ViewSet& views, PhotoController& photos)
    : s_(scene.session), views_(views), photos_(photos) {
    connect(&views_.camera(), &CameraLink::changed, this, [this] {
        if (through_ < 0 || views_.camera().camera().photo) return;
        through_ = -1;
        photos_.look_through(false);
        emit left();
    });
}

void PhotoScene::follow_camera() {
    const bool through = on() && photos_.looks_through() && photos_.camera(photos_.photo());
    Camera c = views_.camera().camera();
    if (!through) {
        if (through_ < 0) return;
        through_ = -1;
        c.photo.reset();
        return views_.camera().set(c);
    }
    const PhotoCamera& camera = *photos_.camera(photos_.photo());
    PhotoLook look{camera, 0.5 * Vec2(camera.width, camera.height), 1};
    if (c.photo && through_ == photos_.photo())
        look.middle = c.photo->middle, look.zoom = c.photo->zoom;  // another try of the same photograph
    if (c.photo && *c.photo == look) return;
    c.photo = look;
    const BaseKit& kit = *s_.state().kit;
    if (kit.landmarks.contains("sellion")) c.target = kit.landmarks.at("sellion").at(kit.mesh.positions);
    through_ = photos_.photo();
    views_.camera().set(c);
}

std::optional<double> PhotoScene::without_body() const {
    return through_ >= 0 ? std::optional(photos_.settings().neck_band_mm) : std::nullopt;
}

Backdrop PhotoScene::backdrop() {
    if (through_ < 0) return {};
    return {photos_.picture(photos_.photo()),
            QString::fromStdString((*photos_.set()->photos)[static_cast<std::size_t>(photos_.photo())].name),
            photos_.behind, photos_.over};
}

PhotoPane PhotoScene::pane() const {
    if (!on()) return {};
    return {photos_.set()->photos, static_cast<std::size_t>(photos_.photo())};
}

// Where the photograph's marks are, and where the head has these places: a line between both.
Marks PhotoScene::marks() const {
    Marks out;
    for (const auto& [name, pixel] : photos_.outline_handles())
        out.markers.push_back(marker(name, pixel.x(), pixel.y(), theme::kOchre, MarkerShape::Handle));
    const PhotoSet* set = photos_.set();
    const auto i = static_cast<std::size_t>(photos_.photo());
    if (!set || i >= set->marks.size()) return out;
    if (!photos_.drawing()) add_points(out, set->marks[i]);  // else a click there belongs to the outline
    add_curves(out, set->marks[i]);
    return out;
}

void PhotoScene::add_points(Marks& out, const PhotoMarks& marks) const {
    const PhotoCamera* camera = photos_.camera(photos_.photo());
    const FitRecord* fit = photos_.fit();
    for (const auto& [name, pixel] : marks.points) {
        out.markers.push_back(marker(name, pixel.x(), pixel.y(), theme::kTeal, MarkerShape::Dot));
        const auto place = s_.state().base_points.find(name);
        if (!camera || !fit || place == s_.state().base_points.end()) continue;
        const Vec2 at = camera->project(place->second.at(*fit->positions));
        out.lines.push_back({{on_picture(pixel), on_picture(at)}, theme::kOchre, false, false});
    }
}

void PhotoScene::add_curves(Marks& out, const PhotoMarks& marks) const {
    const PhotoCamera* camera = photos_.camera(photos_.photo());
    const FitRecord* fit = photos_.fit();
    for (const auto& [name, line] : marks.curves) {
        GuideLine drawn{{}, theme::kTeal.lighter(130), false, false};
        for (const Vec2& p : line) drawn.points.push_back(on_picture(p));
        out.lines.push_back(std::move(drawn));
        const auto curve = s_.state().base_curves.find(name);
        if (!camera || !fit || curve == s_.state().base_curves.end()) continue;
        GuideLine head{{}, theme::kOchre, false, true};
        for (const SurfacePoint& place : curve->second)
            head.points.push_back(on_picture(camera->project(place.at(*fit->positions))));
        out.lines.push_back(std::move(head));
    }
}

}  // namespace veld
