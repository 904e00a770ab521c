#include "app/scene/mix_scene.h"

#include "app/theme.h"
#include "core/project/bank.h"

namespace veld {

std::vector<ViewId> MixScene::views() const {
    if (!scene_.session.has_kit()) return {ViewId::Base};
    return {ViewId::Base, ViewId::Result};
}

Pane MixScene::mix(const std::vector<Colour>& colours) {
    return shape(mixed_shape(scene_.session.state()), tr("Mix of the bank's morphs"), colours,
                 colours.empty() ? scene_.look.level : 0);
}

Pane MixScene::shape(const Points& positions, const QString& title, const std::vector<Colour>& colours, int level) {
    Pane out;
    out.title = title;
    out.quickly = true;  // a slider moves on at once
    scene_.shapes.show(shown_, positions, {.level = level});
    if (!colours.empty()) shown_.mesh->set_colours(colours);
    out.layers.push_back(
        {shown_.mesh, {}, theme::kClay, colours.empty() ? scene_.shading : Shading::Colours, scene_.wire, 1});
    return out;
}

}  // namespace veld
