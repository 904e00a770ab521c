// Pictures of the Base station.
#include <QAction>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>

#include "app/stations/base/base_controller.h"
#include "app/stations/base/new_base_tab.h"
#include "app/views/view_set.h"
#include "core/io/mesh_file.h"
#include "core/io/mesh_write.h"
#include "core/tidy/resample.h"
#include "demo/pictures/picture_parts.h"

namespace veld {

void picture_base(MainWindow& window, const QString& view) {
    Session& session = window.session();
    using Page = BaseController::Page;
    const std::string folder = session.state().kit->folder + "/../bases/orrin";
    if (view != "base") {
        if (const auto ok = session.new_from_kit(folder); !ok)
            std::fprintf(stderr, "%s\n", ok.error().message.c_str());
    }
    window.go_to(Station::Base);
    settle(300);
    window.views().frame_home();
    if (view == "base-trial") {
        window.base().try_out();
        wait_for([&] { return window.base().trial() != nullptr; }, 120000);
        session.select("pronasale");
        window.frame_selection();
        Camera c = window.views().camera().camera();
        c.distance *= 2.6;
        c.yaw = 25;
        window.views().camera().set(c);
    } else if (view == "base-new") {
        window.base().set_page(Page::New);
        window.findChild<NewBaseTab*>()->set_mesh(QString::fromStdString(folder + "/original.glb"));
    } else if (view == "base-parts") {
        window.base().set_page(Page::Parts);
        window.base().select_part("eye_l");
        session.select("pupil_l");
        window.frame_selection();
    } else if (view == "base-landmarks") {
        window.base().set_page(Page::Landmarks);
        for (const auto& [name, off] : window.base().landmarks()) {
            if (off > 0 && session.state().base_points.contains(name)) {
                session.select(name);
                break;
            }
        }
    } else if (view == "base-regions") {
        window.base().set_page(Page::Regions);
        window.base().select_region("face");
        window.base().set_painting(true);
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "base-ties") {
        window.base().set_page(Page::Joints);
        window.base().select_joint("thigh_l");
        window.base().show_tie(true);
        window.base().set_painting(true);
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "base-joints" || view == "base-pose") {
        window.base().set_page(Page::Joints);
        window.base().select_joint(view == "base-pose" ? "upper_arm_l" : "head");
        if (view == "base-pose") return window.base().select_pose("T");
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "base-expressions") {
        window.base().set_page(Page::Expressions);
        const auto& all = session.state().kit->expressions;
        const auto blink = std::find_if(all.begin(), all.end(),
                                        [](const auto& e) { return e.first.find("blink") != std::string::npos; });
        window.base().select_expression(blink == all.end() ? all.rbegin()->first : blink->first);
        session.select("exocanthion_l");
        window.frame_selection();
    } else if (view == "base-reduced") {
        window.base().set_page(Page::Reduced);
        const Mesh half = reduce_triangles(session.state().kit->mesh, session.state().kit->mesh.face_count() / 4).mesh;
        static const QTemporaryDir folder_of_it;
        const std::string path = folder_of_it.filePath("quarter.obj").toStdString();
        if (write_mesh(path, half, 0.001)) window.base().add_reduced(QString::fromStdString(path));
        wait_for([&] { return window.base().shown_reduced() != nullptr; }, 20000);
        session.select("pronasale");
        window.frame_selection();
    } else if (view == "base-wire") {
        window.findChild<QAction*>("view_wire")->trigger();
        window.views().camera().look_from(FixedView::ThreeQuarter);
    }
}

}  // namespace veld
