#include "app/scene/scene.h"

#include "app/prepared_source.h"
#include "app/theme.h"
#include "core/kit/base_kit.h"
#include "core/kit/kit_surface.h"

namespace veld {

void Scene::bake() {
    if (const auto base = session.base_display(); base && base != baked_base_.lock()) {
        baked_base_ = base;
        baker.ask(base, false, [kit = session.state().kit](const Progress& progress) {
            return bake_base(*kit, kit->mesh.positions, progress);
        });
    }
    if (const auto source = session.shown_source(); source && source->display != baked_source_.lock()) {
        baked_source_ = source->display;
        const double mm = 1 / session.source_to_view().scale;  // in its own unit
        baker.ask(source->display, false,
                  [source, mm](const Progress& progress) { return bake_source(*source, mm, progress); });
    }
}

Pane Scene::base_pane() const {
    Pane out;
    out.title = tr("Base");
    out.hint = tr("No base kit is open.\nUse Project → New from base kit.");
    if (session.base_display()) out.layers.push_back({session.base_display(), {}, theme::kClay, shading, wire, 1});
    return out;
}

Framing Scene::head_framing() const {
    if (!session.has_kit()) return {};
    const BaseKit& kit = *session.state().kit;
    const Box box = session.state().settings.part == FitPart::Head ? head_box(kit) : bounding_box(kit.mesh.positions);
    return {box.centre(), 0.52 * box.size().norm()};
}

Framing Scene::selection_framing() const {
    constexpr double kAroundMm = 55;
    const ProjectState& state = session.state();
    const auto at = state.base_points.find(session.selected());
    if (at == state.base_points.end()) return {};
    return {at->second.at(state.kit->mesh.positions), kAroundMm};
}

}  // namespace veld
