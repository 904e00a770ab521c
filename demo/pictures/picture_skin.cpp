// Pictures of the Skin station.
#include <QCheckBox>
#include <QComboBox>
#include <QTreeWidget>

#include "app/sections.h"
#include "app/stations/skin/skin_controller.h"
#include "app/views/view_set.h"
#include "demo/pictures/picture_parts.h"

namespace veld {

// The current subject has a fit.
void picture_skin(MainWindow& window, const QString& view) {
    SkinController& skins = window.skins();
    window.go_to(Station::Skin);
    const auto ready = [&] { return skins.shown() && !skins.composing() && skins.shown()->skin == skins.skin(); };
    wait_for(ready, 60000);
    if (!skins.skin()) {
        skins.add_fit_layer();
        wait_for([&] { return skins.skin() && !skins.baking() && !skins.skin()->layers[0].tiles.empty(); }, 300000);
    }
    if (view == "skin-as-it-is") {
        skins.edit("Light", [](SkinLayer& l) { l.recipe.light_out = 0, l.recipe.leave_out_not_skin = false; });
        skins.bake();
        wait_for([&] { return !skins.baking(); }, 300000);
    }
    auto* sections = window.findChild<Sections*>("skin_sections");
    if (view == "skin-origin") {
        skins.set_look(SkinLook::Origin);
        sections->set_current(3);
    }
    if (view == "skin-squares") {
        skins.set_look(SkinLook::Checker);
        sections->set_current(3);
        skins.set_edges(true);
    }
    if (view == "skin-relief") skins.set_look(SkinLook::Relief);
    if (view == "skin-heights") skins.set_look(SkinLook::Heights);
    if (view == "skin-wipe") {
        sections->set_current(2);
        skins.set_against(SkinController::Against::Base);
    }
    if (view == "skin-photo") {
        sections->set_current(2);
        skins.set_photo(0);
        wait_for(ready, 60000);
        settle(1500);
        return;  // the photograph's own camera
    }
    if (view == "skin-brush") sections->set_current(1);
    if (view == "skin-maps") sections->set_current(4);
    if (view == "skin-flat") window.findChild<QCheckBox*>("skin_flat")->setChecked(true);
    settle(300);
    wait_for([&] { return ready() && skins.shown()->look == skins.look(); }, 300000);
    window.views().frame_home();
    Camera c = window.views().camera().camera();
    c.yaw = view == "skin-side" ? 75 : view == "skin-back" ? 150 : 25;
    if (view == "skin-relief") {
        auto* light = window.findChild<QComboBox*>("view_light");
        light->setCurrentIndex(light->findData(static_cast<int>(StudioLight::RakeRight)));
        emit light->activated(light->currentIndex());
    }
    if (view == "skin-close" || view == "skin-relief") c.distance *= 0.5;
    window.views().camera().set(c);
    settle(500);
}

}  // namespace veld
