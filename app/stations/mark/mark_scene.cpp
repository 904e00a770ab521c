// What the views show while marking: markers, guide curves, photographs, and where the camera flies.
#include <cmath>

#include "app/prepared_source.h"
#include "app/scene/base_marks.h"
#include "app/scene/scene.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/mark/mark_station.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "core/kit/base_kit.h"
#include "core/project/records/source.h"

namespace veld {
std::optional<Marks> MarkStation::marks(ViewId which, const Camera& camera) {
    if (which == ViewId::Base) return on_base(camera);
    if (which == ViewId::Source) return on_source(camera);
    return which == ViewId::Photo ? std::optional(on_photo()) : std::nullopt;
}

QString MarkStation::prompt() const {
    const Session& s = c_.session;
    const MarkController& mark = c_.mark;
    if (mark.laying_own_curve()) return tr("Click along the new curve on the base; Return ends it.");
    if (!s.state().source() || s.selected().empty() || mark.marked(s.selected())) return {};
    return mark.is_curve(s.selected())
               ? tr("Click along the %1, from one end to the other").arg(mark.plain(s.selected()))
               : tr("Click the %1").arg(mark.plain(s.selected()));
}

// Shape and colour by what is known of it.
Marker MarkStation::marker_of(const std::string& name) const {
    const Session& s = c_.session;
    Marker m;
    m.name = name;
    m.label = c_.mark.plain(name);
    m.selected = name == s.selected() || s.also_selected().contains(name);
    if (s.also_selected().contains(name)) m.label.clear();
    const Trust t = c_.mark.trust_of(name);
    const bool doubted = c_.mark.doubted(name);
    m.shape = t.locked ? MarkerShape::Square : doubted ? MarkerShape::Unsure : MarkerShape::Ring;
    m.colour = doubted ? kUnsureColour : theme::kTeal.lighter(135);
    return m;
}

Marks MarkStation::on_base(const Camera& camera) const {
    const Session& s = c_.session;
    if (!s.state().kit || !s.base_query()) return {};
    return base_marks(s,
                      {c_.mark.known_points(),
                       c_.mark.known_curves(),
                       {},
                       [this](const std::string& name) { return c_.mark.plain(name); }},
                      camera);
}

Marks MarkStation::on_source(const Camera& camera) const {
    Marks out;
    const Session& s = c_.session;
    const Source* from = s.state().source();
    if (!from || !s.prepared()) return out;
    const Similarity to_view = s.source_to_view();
    const auto shown = [&](const std::string& name) {
        return !from->landmarks.trust_of(name).hidden || name == s.selected();
    };
    for (const auto& [name, p] : from->landmarks.points) {
        if (!shown(name)) continue;
        Marker m = marker_of(name);
        m.position = to_view(p);
        m.hidden = !in_sight(camera, *s.prepared()->query, to_view, m.position);
        out.markers.push_back(m);
    }
    for (const auto& [name, curve] : from->landmarks.curves) {
        if (!shown(name)) continue;
        const bool selected = name == s.selected();
        const QColor light = theme::kTeal.lighter(150);
        GuideLine line{{}, selected ? light : faint(light, 130), selected, c_.mark.doubted(name)};
        std::size_t seen = 0;
        for (const Vec3& p : curve) {
            line.points.push_back(to_view(p));
            seen += in_sight(camera, *s.prepared()->query, to_view, line.points.back());
        }
        add_line(out, std::move(line), seen);
    }
    c_.mark.joints().add_marks(camera, out);
    const Points handles = c_.mark.handles();
    for (std::size_t i = 0; i < handles.size(); ++i) {
        Marker m;
        m.name = handle_name(s.selected(), i);
        m.position = to_view(handles[i]);
        m.colour = theme::kText;
        m.shape = MarkerShape::Handle;
        out.markers.push_back(m);
    }
    return out;
}

PhotoPane MarkStation::photo_pane() {
    PhotoPane out;
    out.loupe = loupe_;
    if (!c_.session.photo()) return out;
    const PhotoSet* set = find_photo_set(c_.session.state(), c_.session.photo()->set);
    if (set) out.photos = set->photos, out.photo = c_.session.photo()->photo;
    return out;
}

Marks MarkStation::on_photo() const {
    Marks out;
    const Session& s = c_.session;
    const PhotoMarks marks = s.photo_marks();
    for (const auto& [name, p] : marks.points) {
        if (marks.trust_of(name).hidden && name != s.selected()) continue;
        Marker m = marker_of(name);
        m.position = {p.x(), p.y(), 0};
        out.markers.push_back(m);
    }
    for (const auto& [name, line] : marks.curves) {
        const bool selected = name == s.selected();
        const QColor light = theme::kTeal.lighter(150);
        GuideLine drawn{{}, selected ? light : faint(light, 160), selected, c_.mark.doubted(name)};
        for (const Vec2& p : line) drawn.points.emplace_back(p.x(), p.y(), 0);
        out.lines.push_back(std::move(drawn));
    }
    if (!c_.mark.is_curve(s.selected())) return out;
    std::size_t i = 0;
    for (const QPointF& h : c_.mark.photo_handles()) {
        Marker m;
        m.name = handle_name(s.selected(), i++);
        m.position = {h.x(), h.y(), 0};
        m.colour = theme::kText;
        m.shape = MarkerShape::Handle;
        out.markers.push_back(m);
    }
    return out;
}

void MarkStation::frame_on_photo() {
    const PhotoMarks marks = c_.session.photo_marks();
    const std::string& name = c_.session.selected();
    if (const auto at = marks.points.find(name); at != marks.points.end())
        c_.views.frame_photo({at->second.x(), at->second.y()}, marks.width / 3.0);
    if (const auto at = marks.curves.find(name); at != marks.curves.end()) {
        QPolygonF line;
        for (const Vec2& p : at->second) line << QPointF(p.x(), p.y());
        const QRectF box = line.boundingRect();
        c_.views.frame_photo(box.center(), 1.8 * std::max(box.width(), box.height()));
    }
}

// Both views go where the point is on the base; a point that would be seen from behind is looked at face on.
void MarkStation::fly_to_selected() {
    const Session& s = c_.session;
    if (hold_camera_ || pressed_marker_ || !s.has_kit() || !c_.views.isVisible()) return;
    std::optional<BasePlace> at = place_on_base(s.state(), s.selected());
    if (!at) return;
    if (s.photo()) frame_on_photo();
    Camera to = c_.views.camera().camera();
    Framing* place = &at->framing;
    // a figure in another pose stands beside the base: both places stay in the picture
    const Source* source = s.state().source();
    if (source && source->landmarks.points.contains(s.selected())) {
        const Vec3 on_source = s.source_to_view()(source->landmarks.points.at(s.selected()));
        place->radius = std::max(place->radius, 0.75 * (on_source - place->centre).norm());
        place->centre = 0.5 * (place->centre + on_source);
    }
    look_at_place(*at, to);
    c_.views.fly_to(to);
}

}  // namespace veld
