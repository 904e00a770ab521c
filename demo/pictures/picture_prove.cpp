// Pictures of the Prove station.
#include <QComboBox>
#include <QTreeWidget>

#include "app/sections.h"
#include "app/stations/prove/prove_controller.h"
#include "app/views/view_set.h"
#include "demo/pictures/picture_parts.h"

namespace veld {

void picture_prove(MainWindow& window, const QString& view) {
    window.go_to(Station::Prove);
    auto* prove = &window.prove();
    wait_for([&] { return prove->ready(); }, 120000);
    auto* sections = window.findChild<Sections*>("prove_sections");
    if (view == "prove-pose") {
        prove->select("squat");
    } else if (view == "prove-hand") {
        sections->set_current(1);
        prove->select("rest");
        prove->set_by_hand("blink", 1);
        prove->set_by_hand("cheek_raise", 0.8);
        prove->set_by_hand("lip_corner_pull", 1);
    } else if (view == "prove-mend") {
        prove->select("sit");
        sections->set_current(3);
    } else if (view == "prove-scan") {
        sections->set_current(4);
        prove->select("smile");
    } else {
        prove->measure();
        wait_for([&] { return prove->report() != nullptr; }, 300000);
        prove->select("smile");
    }
    if (view == "prove-figures") {
        sections->set_current(2);
        prove->select("T");
        prove->set_colours(ProveController::Colours::Stretch);
    }
    settle(300);
    window.views().frame_home();
    if (view == "prove" || view == "prove-hand") {
        Camera c = window.views().camera().camera();
        c.yaw = 20, c.distance *= 0.8;
        window.views().camera().set(c);
    }
    settle(500);
}

}  // namespace veld
