#include "app/stations/bank/neck_view.h"

#include <QHBoxLayout>

#include "app/session.h"
#include "app/theme.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kAboveMm = 95, kBelowMm = 60;  // of the ring
constexpr double kOver = 0.4;                   // the shape lets the base show through

GuideLine ring_line(const BaseKit& kit, const Points& x, const Vec3& moved, const QColor& colour) {
    GuideLine out{{}, colour, true, false};
    for (const Index v : kit.neck_ring) out.points.push_back(x[v] + moved);
    if (!out.points.empty()) out.points.push_back(out.points.front());
    return out;
}

}  // namespace

NeckView::NeckView(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("The neck from the front and from the side"));
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(2);
    const std::pair<FixedView, QString> sides[] = {{FixedView::Front, tr("The neck from the front")},
                                                   {FixedView::Side, tr("The neck from the side")}};
    for (std::size_t i = 0; i < views_.size(); ++i) {
        views_[i] = new Viewport({}, &cameras_[i]);
        views_[i]->set_bare();
        views_[i]->setAccessibleName(sides[i].second);
        cameras_[i].look_from(sides[i].first);
        across->addWidget(views_[i]);
    }
}

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
        layers.push_back({s_.base_display(), {}, QColor(0x8d, 0x88, 0x82), Shading::Clay, false, 1});
        rings.push_back(ring_line(*kit, kit->mesh.positions, Vec3::Zero(), theme::kText));
        if (shape) {
            mesh_->set_positions(*shape);
            Similarity placed;
            placed.translation = moved;
            layers.push_back({mesh_, placed, theme::kOchre, Shading::Clay, false, kOver});
            rings.push_back(ring_line(*kit, *shape, moved, theme::kOchre));
        }
    }
    for (std::size_t i = 0; i < views_.size(); ++i) {
        views_[i]->set_layers(layers);
        views_[i]->set_lines(rings);
        views_[i]->set_empty_hint(kit ? tr("The kit names no neck ring.") : QString());
        if (!other || layers.empty()) continue;
        Camera c = cameras_[i].camera();
        c.orthographic = true;
        c.frame(neck_middle(*kit) + 0.5 * (kAboveMm - kBelowMm) * Vec3::UnitY(), 0.5 * (kAboveMm + kBelowMm));
        cameras_[i].set(c);
    }
}

}  // namespace veld
