#include "app/stations/bank/face_map.h"

#include <QToolTip>

#include "app/scene/colours.h"
#include "app/session.h"
#include "app/theme.h"
#include "core/kit/kit_surface.h"
#include "core/spatial/sight.h"

namespace veld {
namespace {

constexpr double kFarMm = 3000, kSlackMm = 4;  // a parallel camera's distance; what hides no mark
constexpr double kBelowHead = 0.1;             // of the head's height: some of the neck is seen

}  // namespace

FaceMap::FaceMap(Session& session, QWidget* parent)
    : TwoSides(tr("Map of the head's regions"), tr("Regions from the front"), tr("Regions from the side"), parent),
      s_(session) {
    for (std::size_t i = 0; i < views_.size(); ++i) {
        Viewport* v = views_[i];
        v->set_hover(true);
        connect(v, &Viewport::clicked, this, [this](const Ray& ray) {
            if (const std::string* region = region_at(ray)) emit picked(QString::fromStdString(*region));
        });
        connect(v, &Viewport::marker_pressed, this, &FaceMap::picked);
        connect(v, &Viewport::hovered, this, [this, v](const Ray& ray) { point_at(*v, ray); });
        connect(v, &Viewport::pointer_left, this, [this] {
            if (!std::exchange(hovered_, {}).empty()) colour();
        });
        connect(&cameras_[i], &CameraLink::changed, this, &FaceMap::mark);
    }
}

void FaceMap::show_regions(const BaseRegions& regions) {
    kit_ = s_.state().kit;
    regions_ = regions;
    middles_ = middles_of(regions, *kit_);
    hovered_.clear();
    mesh_ = std::make_shared<DisplayMesh>(kit_->mesh);
    const Box box = head_box(*kit_);
    const double height = (1 + kBelowHead) * box.size().y();
    for (Viewport* v : views_) v->set_layers({{mesh_, {}, theme::kClay, Shading::Colours, false, 1}});
    frame(Vec3(box.centre().x(), box.high.y() - 0.5 * height, box.centre().z()), 0.52 * height);
    colour();
    mark();
}

void FaceMap::show_state(const std::string& selected, const std::set<std::string>& mixed) {
    if (selected == selected_ && mixed == mixed_) return;
    selected_ = selected, mixed_ = mixed;
    if (!mesh_) return;
    colour();
    mark();
}

// Neighbours differ a little, the one under the pointer more, the current one a lot.
void FaceMap::colour() {
    const QColor greys[] = {QColor(0xb4, 0xa9, 0x9a), QColor(0x93, 0x89, 0x7c), QColor(0xa6, 0x9f, 0x9b)};
    std::vector<Colour> of_region;
    for (std::size_t r = 0; r < regions_.names.size(); ++r) {
        const QColor grey = greys[r % 3];
        const bool selected = regions_.names[r] == selected_, under = regions_.names[r] == hovered_;
        of_region.push_back(bytes_of(selected ? theme::kOchre : under ? grey.lighter(125) : grey));
    }
    std::vector<Colour> colours;
    colours.reserve(regions_.owner.size());
    for (const std::uint8_t r : regions_.owner) colours.push_back(of_region[r]);
    mesh_->set_colours(colours);
    for (Viewport* v : views_) v->update();
}

void FaceMap::mark() {
    if (!mesh_ || !s_.base_query()) return;
    for (std::size_t i = 0; i < views_.size(); ++i) {
        std::vector<Marker> marks;
        const Vec3 back = kFarMm * cameras_[i].camera().forward();
        for (const std::string& name : mixed_) {
            const auto at = place_of(name);
            if (!at) continue;
            Marker m;
            m.name = name;
            m.position = *at;
            m.colour = theme::kTeal;
            m.shape = MarkerShape::Diamond;
            m.hidden = !seen_from(*s_.base_query(), {}, *at - back, *at, kSlackMm);
            if (!m.hidden) marks.push_back(std::move(m));
        }
        views_[i]->set_markers(std::move(marks));
    }
}

std::optional<Vec3> FaceMap::place_of(const std::string& region) const {
    const auto at = std::find(regions_.names.begin(), regions_.names.end(), region);
    if (at == regions_.names.end()) return {};
    const Index v = middles_[static_cast<std::size_t>(at - regions_.names.begin())];
    return v == kNone ? std::nullopt : std::optional(kit_->mesh.positions[v]);
}

const std::string* FaceMap::region_at(const Ray& ray) const {
    if (!kit_ || kit_ != s_.state().kit || !s_.base_query()) return nullptr;
    return region_met(regions_, *kit_, *s_.base_query(), ray.origin, ray.direction);
}

void FaceMap::point_at(Viewport& view, const Ray& ray) {
    const std::string* region = region_at(ray);
    const std::string now = region ? *region : std::string();
    if (now == hovered_) return;
    hovered_ = now;
    colour();
    if (region) QToolTip::showText(QCursor::pos(), QString::fromStdString(now), &view);
}

}  // namespace veld
