// The bench's views of a head from photographs: marks beside where the head has them, the camera of a photograph,
// what is shown while a slider moves.
#include "app/bench.h"
#include "app/theme.h"
#include "core/kit/kit_surface.h"

namespace veld {

void Bench::connect_photos() {
    connect(&photos_, &PhotoController::changed, this, [this] {
        if (station_ != Station::Fit && station_ != Station::Touch) return;
        refresh_photo();
        refresh_result();
        refresh_photo_camera();
        refresh_markers();
    });
    // what was only shown gives way to whatever is kept, undone or selected
    connect(&s_, &Session::changed, this, [this] {
        if (photo_live_ && !photos_.making()) photo_live_ = false, result_shape_.shown = nullptr;
    });
    connect(&photos_, &PhotoController::live, this, &Bench::show_photo_live);
    connect(&photos_, &PhotoController::live_ended, this, [this] {
        photo_live_ = live_ = false;
        result_shape_.shown = nullptr;
        refresh();
    });
    connect(result_, &Viewport::stroke_begun, this, [this](const Ray& ray, double, Qt::KeyboardModifiers) {
        if (station_ == Station::Fit && photos_.placing()) photos_.begin_place(ray);
    });
    connect(result_, &Viewport::stroke_moved, this, [this](const Ray& ray, double) {
        if (station_ == Station::Fit && photos_.placing()) photos_.move_place(ray);
    });
    connect(result_, &Viewport::stroke_ended, this, [this] {
        if (station_ == Station::Fit && photos_.placing()) photos_.end_place();
    });
    // a fixed view or framing leaves the photograph
    connect(&camera_, &CameraLink::changed, this, [this] {
        if (shown_through_ >= 0 && !camera_.camera().photo) {
            shown_through_ = -1;
            photos_.look_through(false);
            show_again();
        }
    });
}

void Bench::show_photo_live(const std::shared_ptr<Points>& positions) {
    if (!s_.has_kit() || (station_ != Station::Fit && station_ != Station::Touch)) return;
    photo_live_ = true;
    if (!s_.state().fit()) live_ = true;  // the first head: there is nothing else to show
    show_shape(result_shape_, *positions, nullptr, 0);
    result_shape_.shown = nullptr;
    refresh_result();
    refresh_photo_camera();
    mark_reprojections();
    result_->redraw_quickly();
}

void Bench::refresh_photo_camera() {
    const bool through = photo_station() && photos_.looks_through() && photos_.camera(photos_.photo());
    if (!through) {
        result_->set_backdrop({});
        if (shown_through_ < 0) return;
        shown_through_ = -1;
        Camera c = camera_.camera();
        c.photo.reset();
        camera_.set(c);
        return show_again();
    }
    const PhotoCamera& camera = *photos_.camera(photos_.photo());
    result_->set_backdrop(
        {photos_.picture(photos_.photo()),
         QString::fromStdString((*photos_.set()->photos)[static_cast<std::size_t>(photos_.photo())].name),
         photos_.behind, photos_.over});
    Camera c = camera_.camera();
    PhotoLook look{camera, 0.5 * Vec2(camera.width, camera.height), 1};
    if (c.photo && shown_through_ == photos_.photo())
        look.middle = c.photo->middle, look.zoom = c.photo->zoom;  // another try of the same photograph
    if (c.photo && *c.photo == look) return;
    const bool entered = shown_through_ < 0;
    c.photo = look;
    if (s_.state().kit->landmarks.contains("sellion"))
        c.target = s_.state().kit->landmarks.at("sellion").at(s_.state().kit->mesh.positions);
    shown_through_ = photos_.photo();
    camera_.set(c);
    if (entered) show_again();
}

// The result packed anew: with or without the body.
void Bench::show_again() {
    if (photo_live_) return;
    result_shape_.shown = nullptr;
    refresh_result();
}

// Where the photograph's marks are, and where the head has these places: a line between both.
void Bench::mark_reprojections() {
    std::vector<Marker> markers;
    std::vector<GuideLine> lines;
    const PhotoSet* set = photos_.set();
    const auto i = static_cast<std::size_t>(photos_.photo());
    const PhotoCamera* camera = photos_.camera(photos_.photo());
    const FitRecord* fit = photos_.fit();
    const auto put = [&](const std::string& name, double x, double y, const QColor& colour, MarkerShape shape) {
        Marker m;
        m.name = name, m.position = {x, y, 0}, m.colour = colour, m.shape = shape;
        markers.push_back(m);
    };
    for (const auto& [name, pixel] : photos_.outline_handles())
        put(name, pixel.x(), pixel.y(), theme::kOchre, MarkerShape::Handle);
    if (set && i < set->marks.size()) {
        for (const auto& [name, pixel] : set->marks[i].points) {
            if (photos_.drawing()) break;  // a click there belongs to the outline
            put(name, pixel.x(), pixel.y(), theme::kTeal, MarkerShape::Dot);
            const auto place = s_.state().base_points.find(name);
            if (!camera || !fit || place == s_.state().base_points.end()) continue;
            const Vec2 at = camera->project(place->second.at(*fit->positions));
            lines.push_back({{Vec3(pixel.x(), pixel.y(), 0), Vec3(at.x(), at.y(), 0)}, theme::kOchre, false, false});
        }
        for (const auto& [name, line] : set->marks[i].curves) {
            GuideLine drawn{{}, theme::kTeal.lighter(130), false, false};
            for (const Vec2& p : line) drawn.points.emplace_back(p.x(), p.y(), 0);
            lines.push_back(std::move(drawn));
            const auto curve = s_.state().base_curves.find(name);
            if (!camera || !fit || curve == s_.state().base_curves.end()) continue;
            GuideLine head{{}, theme::kOchre, false, true};
            for (const SurfacePoint& place : curve->second) {
                const Vec2 at = camera->project(place.at(*fit->positions));
                head.points.emplace_back(at.x(), at.y(), 0);
            }
            lines.push_back(std::move(head));
        }
    }
    photo_->set_markers(std::move(markers));
    photo_->set_lines(std::move(lines));
}

std::shared_ptr<DisplayMesh> Bench::head_display() const {
    return std::make_shared<DisplayMesh>(without_body(*s_.state().kit, photos_.settings().neck_band_mm));
}

void Bench::wear_skin(Shape& shape, const FitRecord* fit) {
    const std::shared_ptr<const Image> skin = fit ? fit->skin.image : nullptr;
    if (!shape.mesh || shape.skin == skin) return;
    const auto& images = s_.state().kit->mesh.images;
    const int at = skin ? fit->skin.kit_image : worn_;
    if (at < 0 || at >= static_cast<int>(images.size())) return;
    const Image& from = skin ? *skin : images[static_cast<std::size_t>(at)];
    shape.mesh->set_image(static_cast<std::size_t>(at),
                          QImage::fromData(from.bytes.data(), static_cast<int>(from.bytes.size()))
                              .convertToFormat(QImage::Format_RGBA8888)
                              .mirrored());
    shape.skin = skin;
    worn_ = skin ? at : -1;
}

}  // namespace veld
