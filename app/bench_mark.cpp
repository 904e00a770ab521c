// The bench while marking: markers, guide curves, the camera's flights, photographs.
#include <cmath>

#include "app/bench.h"
#include "app/prepared_source.h"
#include "app/theme.h"
#include "core/spatial/sight.h"

namespace veld {
namespace {

constexpr double kNudgeMm = 0.5, kFineNudgeMm = 0.1;
constexpr double kLineReach = 6;  // pixels of the screen
constexpr int kFlightMs = 260;
constexpr double kFarMm = 3000, kSlackMm = 2.5;  // a parallel camera's distance; what hides no marker
const QColor kUnsureColour(0xe8, 0xd8, 0xa0);

QColor faint(QColor c, int alpha) {
    c.setAlpha(alpha);
    return c;
}

}  // namespace

void Bench::connect_marking() {
    for (Viewport* v : {base_, source_}) {
        connect(v, &Viewport::marker_pressed, this,
                [this](const QString& name, Qt::KeyboardModifiers keys) { press_marker(name.toStdString(), keys); });
        connect(v, &Viewport::marker_released, this, [this] { mark_.end_drag(); });
        connect(v, &Viewport::arrow_pressed, this, &Bench::arrow);
    }
    connect(source_, &Viewport::marker_dragged, this,
            [this](const QString& name, const Ray& ray) { mark_.drag_source(name.toStdString(), ray); });
    connect(base_, &Viewport::marker_dragged, this,
            [this](const QString& name, const Ray& ray) { mark_.drag_base(name.toStdString(), ray); });
    connect(photo_, &PhotoView::clicked, this, [this](const QPointF& pixel) {
        station_ == Station::Mark ? mark_.click_photo(pixel) : photos_.click(pixel, kLineReach / photo_->zoom());
    });
    connect(photo_, &PhotoView::marker_pressed, this,
            [this](const QString& name, Qt::KeyboardModifiers keys) { press_marker(name.toStdString(), keys); });
    connect(photo_, &PhotoView::marker_dragged, this, [this](const QString& name, const QPointF& at) {
        station_ == Station::Mark ? mark_.drag_photo(name.toStdString(), at)
                                  : photos_.drag_outline(name.toStdString(), at);
    });
    connect(photo_, &PhotoView::marker_released, this,
            [this] { station_ == Station::Mark ? mark_.end_drag() : photos_.end_drag_outline(); });
    connect(photo_, &PhotoView::arrow_pressed, this, &Bench::arrow);
    flight_.setDuration(kFlightMs);
    flight_.setEasingCurve(QEasingCurve::InOutCubic);
}

void Bench::press_marker(const std::string& name, Qt::KeyboardModifiers keys) {
    if (station_ != Station::Mark) {
        if (keys.testFlag(Qt::ControlModifier)) photos_.remove_outline_point(name);
        return;
    }
    std::string curve;
    pressed_marker_ = true;  // what is under the hand must not fly away
    if (handle_of(name, curve)) {
        s_.select(curve);
    } else if (keys.testFlag(Qt::ControlModifier) && !s_.selected().empty() && name != s_.selected()) {
        std::set<std::string> also = s_.also_selected();
        if (!also.erase(name)) also.insert(name);
        s_.select_also(also);
    } else if (!s_.also_selected().contains(name)) {
        s_.select(name);
    }
    pressed_marker_ = false;
}

void Bench::arrow(int right, int up, Qt::KeyboardModifiers keys) {
    if (station_ != Station::Mark) return;
    const double step = keys.testFlag(Qt::ShiftModifier) ? kFineNudgeMm : kNudgeMm;
    if (s_.photo()) return mark_.nudge_photo(right * 2 * step, -up * 2 * step);
    if (keys.testFlag(Qt::ControlModifier)) {
        if (right) mark_.turn_selected(camera_.camera(), right * 2 * step);
        if (up) mark_.size_selected(1 + 0.02 * up * step);
        return;
    }
    mark_.nudge_selected(camera_.camera(), right * step, up * step);
}

void Bench::set_loupe(bool on) {
    loupe_ = on;
    for (Viewport* v : {base_, source_}) v->set_loupe(on && station_ == Station::Mark);
    photo_->set_loupe(on);
}

// Both views go where the point is on the base; a point that would be seen from behind is looked at face on.
void Bench::fly_to_selected() {
    if (station_ != Station::Mark || hold_camera_ || pressed_marker_ || !s_.has_kit() || !isVisible()) return;
    const BaseKit& kit = *s_.state().kit;
    const SurfacePoint* place = nullptr;
    double radius = 55;
    if (const auto at = s_.state().base_points.find(s_.selected()); at != s_.state().base_points.end())
        place = &at->second;
    if (const auto at = s_.state().base_curves.find(s_.selected());
        at != s_.state().base_curves.end() && !at->second.empty()) {
        place = &at->second[at->second.size() / 2];
        Box box;
        for (const SurfacePoint& p : at->second) box.add(p.at(kit.mesh.positions));
        radius = std::max(30.0, 0.7 * box.size().norm());
    }
    if (!place) return;
    if (!in_point_set(s_.selected(), PointSet::Face))
        radius = std::max(radius, 130.0);  // even skin needs more around it to be known
    if (s_.photo()) {
        const PhotoMarks marks = s_.photo_marks();
        if (const auto at = marks.points.find(s_.selected()); at != marks.points.end())
            photo_->frame({at->second.x(), at->second.y()}, marks.width / 3.0);
    }
    if (s_.photo()) {
        const PhotoMarks marks = s_.photo_marks();
        if (const auto at = marks.curves.find(s_.selected()); at != marks.curves.end()) {
            QPolygonF line;
            for (const Vec2& p : at->second) line << QPointF(p.x(), p.y());
            photo_->frame(line.boundingRect().center(),
                          1.8 * std::max(line.boundingRect().width(), line.boundingRect().height()));
        }
    }
    const Camera from = camera_.camera();
    Camera to = from;
    const Points& x = kit.mesh.positions;
    const Vec3 normal = place->normal(x);
    if (normal.dot(-from.forward()) < 0.45) {
        to.yaw = std::atan2(normal.x(), normal.z()) * 180 / M_PI;
        to.pitch = std::clamp(std::asin(normal.y()) * 180 / M_PI, -50.0, 50.0);
    }
    Vec3 centre = place->at(x);
    // a figure in another pose stands beside the base: both places stay in the picture
    const Source* source = s_.state().source();
    if (source && source->landmarks.points.contains(s_.selected())) {
        const Vec3 on_source = s_.source_to_view()(source->landmarks.points.at(s_.selected()));
        radius = std::max(radius, 0.75 * (on_source - centre).norm());
        centre = 0.5 * (centre + on_source);
    }
    to.frame(centre, radius);
    flight_.stop();
    flight_.disconnect(this);
    flight_.setStartValue(0.0);
    flight_.setEndValue(1.0);
    connect(&flight_, &QVariantAnimation::valueChanged, this, [this, from, to](const QVariant& value) {
        const double t = value.toDouble();
        Camera c = to;
        c.target = (1 - t) * from.target + t * to.target;
        c.yaw = from.yaw + t * std::remainder(to.yaw - from.yaw, 360.0);
        c.pitch = (1 - t) * from.pitch + t * to.pitch;
        c.distance = std::exp((1 - t) * std::log(from.distance) + t * std::log(to.distance));
        camera_.set(c);
    });
    flight_.start();
}

QString Bench::mark_prompt() const {
    if (mark_.laying_own_curve()) return tr("Click along the new curve on the base; Return ends it.");
    if (!s_.state().source() || s_.selected().empty() || mark_.marked(s_.selected())) return {};
    return mark_.is_curve(s_.selected())
               ? tr("Click along the %1, from one end to the other").arg(mark_.plain(s_.selected()))
               : tr("Click the %1").arg(mark_.plain(s_.selected()));
}

bool Bench::visible_from_camera(const SurfaceQuery& query, const Similarity& to_view, const Vec3& p) const {
    const Camera& c = camera_.camera();
    const Vec3 eye = c.orthographic ? Vec3(p - kFarMm * c.forward()) : c.eye();
    return seen_from(query, to_view, eye, p, kSlackMm);
}

// Shape and colour by what is known of it.
Marker Bench::marker_of(const std::string& name) const {
    Marker m;
    m.name = name;
    m.label = mark_.plain(name);
    m.selected = name == s_.selected() || s_.also_selected().contains(name);
    if (s_.also_selected().contains(name)) m.label.clear();
    const Trust t = mark_.trust_of(name);
    const bool doubted = mark_.doubted(name);
    m.shape = t.locked ? MarkerShape::Square : doubted ? MarkerShape::Unsure : MarkerShape::Ring;
    m.colour = doubted ? kUnsureColour : theme::kTeal.lighter(135);
    return m;
}

void Bench::mark_base(std::vector<Marker>& markers, std::vector<GuideLine>& lines) const {
    const ProjectState& state = s_.state();
    if (!state.kit || !s_.base_query()) return;
    const Points& x = state.kit->mesh.positions;
    for (const std::string& name : mark_.known_points()) {
        Marker m;
        m.name = name;
        m.position = state.base_points.at(name).at(x);
        m.colour = theme::kOchre;
        m.label = mark_.plain(name);
        m.selected = name == s_.selected();
        m.shape = MarkerShape::Diamond;
        m.hidden = !visible_from_camera(*s_.base_query(), {}, m.position);
        markers.push_back(m);
    }
    for (const std::string& name : mark_.known_curves()) {
        GuideLine line{{}, faint(theme::kOchre, 110), name == s_.selected(), false};
        if (line.selected) line.colour = theme::kOchre;
        int seen = 0;
        for (const SurfacePoint& p : state.base_curves.at(name)) {
            line.points.push_back(p.at(x));
            seen += visible_from_camera(*s_.base_query(), {}, line.points.back());
        }
        if (line.selected || 2 * seen > static_cast<int>(line.points.size())) lines.push_back(std::move(line));
    }
}

void Bench::mark_source(std::vector<Marker>& markers, std::vector<GuideLine>& lines) const {
    const Source* from = s_.state().source();
    if (!from || !s_.prepared()) return;
    const Similarity to_view = s_.source_to_view();
    for (const auto& [name, p] : from->landmarks.points) {
        if (from->landmarks.trust_of(name).hidden && name != s_.selected()) continue;
        Marker m = marker_of(name);
        m.position = to_view(p);
        m.hidden = !visible_from_camera(*s_.prepared()->query, to_view, m.position);
        markers.push_back(m);
    }
    for (const auto& [name, curve] : from->landmarks.curves) {
        if (from->landmarks.trust_of(name).hidden && name != s_.selected()) continue;
        const bool selected = name == s_.selected();
        GuideLine line{{},
                       selected ? theme::kTeal.lighter(150) : faint(theme::kTeal.lighter(150), 130),
                       selected,
                       mark_.doubted(name)};
        int seen = 0;
        for (const Vec3& p : curve) {
            line.points.push_back(to_view(p));
            seen += visible_from_camera(*s_.prepared()->query, to_view, line.points.back());
        }
        if (selected || 2 * seen > static_cast<int>(line.points.size())) lines.push_back(std::move(line));
    }
    const Points handles = mark_.handles();
    for (std::size_t i = 0; i < handles.size(); ++i) {
        Marker m;
        m.name = handle_name(s_.selected(), i);
        m.position = to_view(handles[i]);
        m.colour = theme::kText;
        m.shape = MarkerShape::Handle;
        markers.push_back(m);
    }
}

Bench::ShownPhoto Bench::photo_to_show() const {
    if (station_ == Station::Mark && s_.photo()) {
        const PhotoSet* set = find_photo_set(s_.state(), s_.photo()->set);
        return set ? ShownPhoto{set->photos, s_.photo()->photo} : ShownPhoto{};
    }
    if (station_ == Station::Fit && photo_station())
        return {photos_.set()->photos, static_cast<std::size_t>(photos_.photo())};
    return {};
}

void Bench::refresh_photo() {
    const ShownPhoto wanted = photo_to_show();
    if (wanted == photo_shown_ || !wanted.of || wanted.photo >= wanted.of->size()) return;
    photo_shown_ = wanted;
    const Image* bytes = &(*wanted.of)[wanted.photo];
    const auto photo = decode_photo(*bytes);
    if (!photo) {
        photo_->set_picture({}, QString::fromStdString(bytes->name));
        photo_->set_message(QString::fromStdString(photo.error().message));
        return;
    }
    const Pixels& px = photo->pixels;
    photo_->set_message({});
    photo_->set_picture(QImage(px.rgba.data(), px.width, px.height, 4 * px.width, QImage::Format_RGBA8888).copy(),
                        tr("Photograph  %1").arg(QString::fromStdString(bytes->name)));
}

void Bench::mark_photo() {
    std::vector<Marker> markers;
    std::vector<GuideLine> lines;
    const PhotoMarks marks = s_.photo_marks();
    for (const auto& [name, p] : marks.points) {
        if (marks.trust_of(name).hidden && name != s_.selected()) continue;
        Marker m = marker_of(name);
        m.position = {p.x(), p.y(), 0};
        markers.push_back(m);
    }
    for (const auto& [name, line] : marks.curves) {
        const bool selected = name == s_.selected();
        GuideLine drawn{{},
                        selected ? theme::kTeal.lighter(150) : faint(theme::kTeal.lighter(150), 160),
                        selected,
                        mark_.doubted(name)};
        for (const Vec2& p : line) drawn.points.emplace_back(p.x(), p.y(), 0);
        lines.push_back(std::move(drawn));
    }
    if (mark_.is_curve(s_.selected())) {
        std::size_t i = 0;
        for (const QPointF& h : mark_.photo_handles()) {
            Marker m;
            m.name = handle_name(s_.selected(), i++);
            m.position = {h.x(), h.y(), 0};
            m.colour = theme::kText;
            m.shape = MarkerShape::Handle;
            markers.push_back(m);
        }
    }
    photo_->set_markers(std::move(markers));
    photo_->set_lines(std::move(lines));
}

void Bench::refresh_markers() {
    std::vector<Marker> base, source;
    std::vector<GuideLine> base_lines, source_lines;
    if (station_ == Station::Mark) {
        mark_base(base, base_lines);
        mark_source(source, source_lines);
        source_->set_prompt(mark_prompt());
        if (s_.photo()) mark_photo();
    }
    if (photo_station() && station_ == Station::Fit) mark_reprojections();
    if (station_ == Station::Tidy) mark_picked(source);
    base_->set_markers(std::move(base));
    source_->set_markers(std::move(source));
    base_->set_lines(std::move(base_lines));
    source_->set_lines(std::move(source_lines));
}

}  // namespace veld
