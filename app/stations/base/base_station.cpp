#include "app/stations/base/base_station.h"

#include "app/scene/base_marks.h"
#include "app/scene/colours.h"
#include "app/stations/base/base_panel.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "app/window/main_window.h"
#include "core/kit/base_kit.h"

namespace veld {
namespace {

constexpr double kMarkMm = 4;        // of a joint's cross
constexpr double kHalfWidth = 0.85;  // of a figure's width that a view half as wide as high shows

// What is selected stands out from the clay.
std::vector<Colour> tinted(const std::vector<float>& inside) {
    std::vector<Colour> out;
    for (const float w : inside)
        out.push_back(bytes_of(between(theme::kClay, theme::kOchre, 0.75 * static_cast<double>(w))));
    return out;
}

QColor joint_colour(bool selected) { return selected ? theme::kOchre : theme::kTeal.lighter(140); }

}  // namespace

BaseStation::BaseStation(const StationContext& context)
    : StationPage(context), beside_(context.scene), panel_(new BasePanel(context.session, context.base)) {
    // all: a view may come or go with what is selected
    const auto again = [this] {
        if (c_.views.client() == this) c_.views.refresh();
    };
    connect(&c_.base, &BaseController::changed, this, again);
    connect(&c_.session, &Session::selection_changed, this, [this, again] {
        if (c_.views.client() != this) return;
        again();
        fly_to_selected();
    });
    add_brush_keys(c_, Station::Base, [this](bool larger) {
        c_.base.radius_mm = next_brush_size(c_.base.radius_mm, larger);
        emit c_.base.changed();
    });
}

QWidget* BaseStation::panel() { return panel_; }

QString BaseStation::figures() const {
    if (!c_.session.has_kit()) return {};
    std::size_t ready = 0;
    const auto& all = c_.base.abilities();
    for (const KitAbility& a : all) ready += a.ready();
    const std::size_t doubts = open_doubts(c_.session.state()).size();
    QString out = tr("The kit can do %1 of %2").arg(ready).arg(all.size());
    if (doubts) out += tr("; landmarks to look at: %1").arg(doubts);
    return out;
}

bool BaseStation::shows_result() const {
    if (!c_.session.has_kit()) return false;
    const BaseKit& kit = *c_.session.state().kit;
    return (c_.base.page() == Page::Expressions && kit.expressions.contains(c_.base.expression())) ||
           (c_.base.page() == Page::Bring && c_.base.shown_brought()) || shows_pose() ||
           (c_.base.page() == Page::Reduced && c_.base.shown_reduced()) ||
           (c_.base.page() == Page::Kit && c_.base.trial());
}

std::vector<ViewId> BaseStation::shown() {
    std::vector<ViewId> out{ViewId::Base};
    if (shows_result()) out.push_back(ViewId::Result);
    return out;
}

std::vector<ViewId> BaseStation::offered() {
    std::vector<ViewId> out{ViewId::Base, ViewId::Source};
    if (shows_result()) out.push_back(ViewId::Result);
    return out;
}

Pane BaseStation::pane(ViewId which) {
    if (which == ViewId::Base) return base();
    if (which == ViewId::Result) return result();
    return StationPage::pane(which);
}

std::vector<float> BaseStation::shown_values() const {
    const BaseController& c = c_.base;
    if (!c_.session.has_kit()) return {};
    const BaseKit& kit = *c_.session.state().kit;
    if (c.page() == Page::Regions) return c.region_weights();
    if (c.page() == Page::Joints) return c.joint_weights();
    if (c.page() != Page::Parts) return {};
    const VertexIndices* inside = !c.piece().empty()   ? &c.piece()
                                  : kit.part(c.part()) ? &kit.part(c.part())->vertices
                                                       : nullptr;
    if (!inside) return {};
    std::vector<float> out(kit.mesh.positions.size(), 0);
    for (const Index v : *inside) out[v] = 1;
    return out;
}

Pane BaseStation::base() {
    Pane out = c_.scene.base_pane();
    if (!c_.session.has_kit()) return out;
    const BaseController& c = c_.base;
    const std::vector<float> values = shown_values();
    if (!values.empty()) {
        const bool scaled = c.page() == Page::Joints;
        c_.scene.shapes.show(coloured_, c_.session.state().kit->mesh.positions,
                             {.values = &values, .coloured = scaled ? share_colours : tinted});
        out.layers = {{coloured_.mesh, {}, theme::kClay, Shading::Colours, c_.scene.wire, 1}};
        if (c.page() == Page::Joints) out.legend = {100, "%", false, false};
    }
    if (c.page() == Page::Parts && c_.session.state().kit->original) out.prompt = tr("Click a piece to select it.");
    if (c.page() == Page::Landmarks) out.prompt = tr("Drag a landmark to move it.");
    if (c.painting()) {
        out.gesture = Gesture::Touch;
        out.brush_mm = c.radius_mm;
        out.prompt = c.page() == Page::Joints ? tr("Paint the skin that tells where the joint is; Ctrl takes away.")
                                              : tr("Paint what belongs to the region; Ctrl takes away.");
    }
    return out;
}

// An expression, or a morph that was brought, with its worst place marked.
Pane BaseStation::result() {
    if (!shows_result()) return {};
    const BaseKit& kit = *c_.session.state().kit;
    if (c_.base.page() == Page::Kit)
        return beside_.shape(c_.base.trial()->positions, tr("A made-up head on this kit"), {}, c_.scene.look.level);
    if (c_.base.page() == Page::Expressions)
        return beside_.shape(kit.expressions.at(c_.base.expression()), QString::fromStdString(c_.base.expression()),
                             {}, c_.scene.look.level);
    if (c_.base.page() == Page::Joints)
        return beside_.shape(*c_.base.posed(), tr("%1 pose").arg(QString::fromStdString(c_.base.pose())), {},
                             c_.scene.look.level);
    if (c_.base.page() == Page::Reduced) return reduced();
    const CarriedMorph& m = *c_.base.shown_brought();
    Points shape = mix_morphs(kit.mesh.positions, {{&m.morph, 1.0}});
    Pane out = beside_.shape(shape, QString::fromStdString(m.morph.name), {}, 0);
    if (m.worst == kNone) return out;
    Marker worst;
    worst.name = "worst";
    worst.label = tr("differs most here");
    worst.position = shape[m.worst];
    worst.colour = theme::kOchre;
    worst.selected = true;
    out.marks.markers.push_back(std::move(worst));
    return out;
}

// A reduced version where it lies on the base, with its edges: what counts is where they run.
Pane BaseStation::reduced() {
    Pane out;
    const auto version = c_.base.shown_reduced();
    if (reduced_of_ != version) {
        Mesh mesh = version->mesh();
        mesh.positions = version->shape(c_.session.state().kit->mesh.positions);
        mesh.normals.clear(), mesh.corner_normal.clear();
        reduced_ = std::make_shared<DisplayMesh>(mesh), reduced_of_ = version;
    }
    out.title = QString::fromStdString(c_.base.reduced());
    out.layers.push_back({reduced_, {}, theme::kClay, c_.scene.shading, true, 1});
    return out;
}

std::optional<Marks> BaseStation::marks(ViewId which, const Camera& camera) {
    if (which != ViewId::Base || !c_.session.has_kit()) return {};
    if (c_.base.page() == Page::Joints) return skeleton(camera);
    if (c_.base.page() != Page::Landmarks || !c_.session.base_query()) return {};
    BaseMarks wanted;
    for (const auto& [name, off] : c_.base.landmarks()) {
        (c_.session.state().base_points.contains(name) ? wanted.points : wanted.curves).push_back(name);
        if (off > 0) wanted.unsure.insert(name);
    }
    wanted.plain = [this](const std::string& name) { return c_.base.plain(name); };
    return base_marks(c_.session, wanted, camera);
}

// Bones as lines, joints as small crosses; they are seen through the skin.
Marks BaseStation::skeleton(const Camera&) const {
    Marks out;
    const BaseKit& kit = *c_.session.state().kit;
    for (const Joint& joint : kit.joints) {
        const bool selected = joint.name == c_.base.joint();
        if (joint.parent >= 0) {
            const Vec3& from = kit.joints[static_cast<std::size_t>(joint.parent)].position;
            out.lines.push_back({{from, joint.position}, faint(joint_colour(false), 150), false, false});
        }
        if (!selected) continue;
        for (int k = 0; k < 3; ++k) {
            Vec3 step = Vec3::Zero();
            step[k] = kMarkMm;
            out.lines.push_back({{joint.position - step, joint.position + step}, joint_colour(true), true, false});
        }
    }
    return out;
}

Framing BaseStation::home() {
    if (!c_.session.has_kit()) return {};
    Box box = bounding_box(c_.session.state().kit->mesh.positions);
    if (!shows_pose()) return {box.centre(), 0.52 * box.size().norm()};
    // beside the base there is half the width, and arms reach out
    const Points posed = *c_.base.posed();
    for (const Vec3& p : posed) box.add(p);
    return {box.centre(), std::max(0.52 * box.size().norm(), kHalfWidth * box.size().x())};
}

// Another kit is looked at anew, another pose too.
std::string BaseStation::framed() {
    if (!c_.session.has_kit()) return {};
    const BaseKit& kit = *c_.session.state().kit;
    return kit.folder + kit.topology_key + (shows_pose() ? " " + c_.base.pose() : "");
}

bool BaseStation::shows_pose() const {
    return c_.base.page() == Page::Joints && c_.session.state().kit->rest_poses.contains(c_.base.pose());
}

void BaseStation::clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers) {
    if (which == ViewId::Base && c_.base.page() == Page::Parts) c_.base.select_piece(ray);
}

void BaseStation::stroke_begun(ViewId which, const Ray& ray, double, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Base) c_.base.begin_stroke(ray, keys);
}
void BaseStation::stroke_moved(ViewId which, const Ray& ray, double) {
    if (which == ViewId::Base) c_.base.move_stroke(ray);
}
void BaseStation::stroke_ended(ViewId which) {
    if (which == ViewId::Base) c_.base.end_stroke();
}

void BaseStation::marker_pressed(ViewId, const std::string& name, Qt::KeyboardModifiers) {
    pressed_marker_ = true;
    c_.session.select(name);
    pressed_marker_ = false;
}
void BaseStation::marker_dragged(ViewId which, const std::string& name, const Ray& ray) {
    if (which == ViewId::Base) c_.base.drag(name, ray);
}
void BaseStation::marker_released(ViewId) { c_.base.end_drag(); }

void BaseStation::fly_to_selected() {
    if (pressed_marker_ || c_.base.page() != Page::Landmarks || !c_.session.has_kit() || !c_.views.isVisible()) return;
    const auto place = place_on_base(c_.session.state(), c_.session.selected());
    if (!place) return;
    Camera to = c_.views.camera().camera();
    look_at_place(*place, to);
    c_.views.fly_to(to);
}

}  // namespace veld
