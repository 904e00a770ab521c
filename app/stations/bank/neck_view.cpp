#include "app/stations/bank/neck_view.h"

#include "app/session.h"
#include "app/theme.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kAboveMm = 95, kBelowMm = 60;  // of the ring
const QColor kBaseGrey(0xa9, 0xa7, 0xa5);

GuideLine ring_line(const BaseKit& kit, const Points& x, const Vec3& moved, const QColor& colour) {
    GuideLine out{{}, colour, true, false};
    for (const Index v : kit.neck_ring) out.points.push_back(x[v] + moved);
    if (!out.points.empty()) out.points.push_back(out.points.front());
    return out;
}

}  // namespace

NeckView::NeckView(Session& session, QWidget* parent)
    : TwoSides(tr("The neck from the front and from the side"), tr("The neck from the front"),
               tr("The neck from the side"), parent),
      s_(session) {}

void NeckView::show_shape(std::shared_ptr<const Points> shape, const Vec3& moved) {
    const auto kit = s_.state().kit;
    const bool other = kit != of_;
    if (other) {
        of_ = kit;
        mesh_ = kit ? std::make_shared<DisplayMesh>(kit->mesh) : nullptr;
    }
    std::vector<Layer> layers;
    std::vector<GuideLine> rings;
    if (kit && !kit->neck_ring.empty()) {
        layers.push_back({s_.base_display(), {}, kBaseGrey, Shading::Clay, false, 1});
        rings.push_back(ring_line(*kit, kit->mesh.positions, Vec3::Zero(), theme::kText));
        if (shape) {
            mesh_->set_positions(*shape);
            Similarity placed;
            placed.translation = moved;
            layers.push_back({mesh_, placed, theme::kOchre, Shading::Clay, false, 1});
            rings.push_back(ring_line(*kit, *shape, moved, theme::kOchre));
        }
    }
    for (Viewport* v : views_) {
        v->set_layers(layers);
        v->set_lines(rings);
        v->set_empty_hint(kit ? tr("The kit names no neck ring.") : QString());
    }
    if (other && !layers.empty())
        frame(neck_middle(*kit) + 0.5 * (kAboveMm - kBelowMm) * Vec3::UnitY(), 0.5 * (kAboveMm + kBelowMm));
}

}  // namespace veld
