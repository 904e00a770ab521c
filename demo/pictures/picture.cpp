#include "demo/pictures/picture.h"

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPushButton>
#include <QScreen>
#include <QSlider>
#include <QToolButton>
#include <QTreeWidget>
#include <cstdio>

#include "app/scene/look.h"
#include "app/sections.h"
#include "app/stations/base/base_controller.h"
#include "app/stations/fit/photo_controller.h"
#include "app/stations/fit/region_controller.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/skin/skin_controller.h"
#include "app/stations/tidy/tidy_panel.h"
#include "app/stations/touch/touch_controller.h"
#include "app/views/view_set.h"
#include "app/window/look_bar.h"
#include "app/window/preferences.h"
#include "core/fit/presets.h"
#include "core/io/mesh_file.h"
#include "core/io/mesh_write.h"
#include "core/morph/arithmetic.h"
#include "demo/pictures/picture_parts.h"

namespace veld {
namespace {

// The scan's landmark file lies beside it in the demo: NAME_scan.glb, NAME_landmarks.json.
void read_landmarks_beside(MainWindow& window) {
    const Source* source = window.session().state().source();
    if (!source || !source->landmarks.points.empty()) return;
    const QFileInfo scan(QString::fromStdString(source->path));
    const QString path = scan.absolutePath() + "/" + scan.completeBaseName().replace("_scan", "_landmarks") + ".json";
    if (const auto ok = window.mark().read(path); !ok) std::fprintf(stderr, "%s\n", ok.error().message.c_str());
}

void run_fit_and_wait(MainWindow& window) {
    read_landmarks_beside(window);
    window.go_to(Station::Fit);
    // the demo's subject wears a cap, so its skull only follows, as anyone would say in Regions
    ProjectState next = window.session().state();
    next.settings.regions["skull"].match = 0;
    window.session().change("Follow", std::move(next));
    window.session().start_fit();
    wait_for([&] { return !window.session().busy(); }, 240000);
}

// As somebody would who leaves all of it to the program.
void find_and_fit(MainWindow& window) {
    window.go_to(Station::Mark);
    window.session().start_detect();
    wait_for([&] { return !window.session().busy(); }, 240000);
    window.go_to(Station::Fit);
    window.session().start_fit();
    wait_for([&] { return !window.session().busy(); }, 240000);
}

void tidy_and_wait(MainWindow& window) {
    window.go_to(Station::Tidy);
    for (const Tool tool : {Tool::Repair, Tool::Straighten}) {
        window.tidy().run({tool, {}, {}}, false);
        wait_for([&] { return !window.session().busy(); }, 60000);
    }
}

void picture_marking(MainWindow& window, const QString& view) {
    Session& session = window.session();
    window.go_to(Station::Mark);
    if (view == "mark" || view == "mark-four") {
        read_landmarks_beside(window);
        session.select("cheilion_l");
        if (view == "mark") return;
        window.commands().find("views_4")->trigger();
        window.findChild<QCheckBox*>("mark_hold")->setChecked(true);
        session.select("pronasale");
        return window.views().frame_home();
    }
    if (view == "mark-joints") {
        ProjectState next = session.state();
        for (std::size_t i = 0; i < next.subjects.size(); ++i)
            if (next.subjects[i].name == "Bram") next.subject = static_cast<int>(i);
        next.asked = PointSet::Body;
        session.change("Make current", std::move(next));
        wait_for([&] { return session.prepared() != nullptr; }, 60000);
    }
    if (view == "mark-photo") {
        for (std::size_t i = 0; i < session.state().subjects.size(); ++i) {
            if (session.state().subjects[i].photo_sets.empty()) continue;
            ProjectState next = session.state();
            next.subject = static_cast<int>(i);
            session.change("Make current", std::move(next));
        }
        session.look_at_photo(Session::PhotoPlace{session.state().current()->photo_sets.front().id, 0});
        if (!session.photo()) std::fprintf(stderr, "The project has no photographs.\n");
    }
    session.start_detect();
    wait_for([&] { return !session.busy(); }, 120000);
    if (view == "mark-joints") {
        window.mark().joints().press("joint:forearm_l");
        window.views().frame_home();
        return window.views().camera().look_from(FixedView::Front);
    }
    if (view == "mark-doubts")
        session.select(window.findChild<QTreeWidget*>("mark_list")
                           ->topLevelItem(0)
                           ->data(0, Qt::UserRole)
                           .toString()
                           .toStdString());
    if (view == "mark-photo") session.select("upper_lip_border");
    if (view == "mark-curves") session.select("upper_lid_r");
    if (view != "mark-loupe") return;
    session.select("cheilion_r");
    window.findChild<QCheckBox*>("mark_loupe")->setChecked(true);
    settle(700);
    Viewport& source = *window.views().source_view();
    const Vec3 p = session.source_to_view()(session.state().source()->landmarks.points.at("cheilion_r"));
    QMouseEvent move(QEvent::MouseMove, source.screen_of(p) + QPointF(5, 3), source.mapToGlobal(source.screen_of(p)),
                     Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&source, &move);
}

// The demo's figure marked and fitted by the program, its regions' figures unfolded.
void picture_figure_fit(MainWindow& window) {
    picture_marking(window, "mark-joints");
    Session& session = window.session();
    window.go_to(Station::Fit);
    ProjectState next = session.state();
    next.settings = *fit_preset("body");
    session.change("Settings", std::move(next));
    session.start_fit();
    wait_for([&] { return session.state().fit() && !session.busy(); }, 300000);
    settle(300);
    window.findChild<QToolButton*>("figures_unfold")->click();
    window.views().frame_home();
}

// The looks at a fit: section, wipe, regions, tries.
void picture_looking(MainWindow& window, const QString& view) {
    auto* tabs = window.findChild<Sections*>("fit_sections");
    if (view == "fit-section") {
        window.views().camera().look_from(FixedView::Side);
        QComboBox* cut = window.findChild<QComboBox*>("look_cut");
        cut->setCurrentIndex(1);
        emit cut->activated(1);
        window.findChild<QSlider*>("look_cut_at")->setValue(500);
    } else if (view == "fit-wipe") {
        window.findChild<QToolButton*>("look_wipe")->click();
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "fit-regions") {
        tabs->set_current(1);
        window.regions().show("ear_l");
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "fit-tries") {
        tabs->set_current(2);
        ProjectState next = window.session().state();
        next.settings.smooth_end_mm = 3;
        window.session().change("Smoothness", std::move(next));
        window.session().start_fit(Session::FitRun::GoOn);
        wait_for([&] { return !window.session().busy(); }, 240000);
        window.findChild<QTreeWidget*>("fit_tries")
            ->setCurrentItem(window.findChild<QTreeWidget*>("fit_tries")->topLevelItem(0));
        window.findChild<QComboBox*>("look_against")->setCurrentIndex(2);
        window.findChild<QToolButton*>("look_beside")->click();
        window.look_bar().set_colours(Colouring::SignedDistance);
    } else if (view == "fit-stretch") {
        window.look_bar().set_colours(Colouring::EdgeStretch);
    } else if (view == "fit-smooth") {
        window.findChild<QComboBox*>("look_level")->setCurrentIndex(2);
    } else if (view == "fit-guessed") {
        window.look_bar().set_colours(Colouring::Guessed);
        window.findChild<QToolButton*>("figures_unfold")->click();
        window.views().camera().look_from(FixedView::ThreeQuarter);
    } else if (view == "fit-source") {
        window.look_bar().set_colours(Colouring::FromSource);
    }
}

// A few strokes at the lips' corner, as a hand would make them.
void picture_touching(MainWindow& window, bool distance) {
    window.go_to(Station::Touch);
    settle(1500);
    window.session().select("cheilion_l");
    window.frame_selection();
    Camera c = window.views().camera().camera();
    c.distance *= 1.6;
    c.yaw = 25;
    window.views().camera().set(c);
    settle(300);
    window.touch().set_brush(Brush::Grab);
    Viewport& view = *window.views().result_view();
    const Vec3 p =
        window.session().state().base_points.at("cheilion_l").at(*window.session().state().fit()->positions);
    const QPointF at = view.screen_of(p);
    const auto send = [&](QEvent::Type type, const QPointF& where, Qt::MouseButtons held) {
        QMouseEvent event(type, where, view.mapToGlobal(where),
                          type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
        QApplication::sendEvent(&view, &event);
    };
    send(QEvent::MouseButtonPress, at, Qt::LeftButton);
    for (int i = 1; i <= 8; ++i) send(QEvent::MouseMove, at + QPointF(1.5 * i, -1.5 * i), Qt::LeftButton);
    send(QEvent::MouseButtonRelease, at + QPointF(12, -12), Qt::NoButton);
    send(QEvent::MouseMove, at + QPointF(12, -12), Qt::NoButton);
    if (distance) window.look_bar().set_colours(Colouring::Distance);
    wait_for([&] { return !window.session().state().fit()->figures_old; }, 20000);
}

// The demo's three portraits made into a head; one of the looks at it.
void picture_photos(MainWindow& window, const QString& view) {
    Session& session = window.session();
    for (std::size_t i = 0; i < session.state().subjects.size(); ++i) {
        if (session.state().subjects[i].photo_sets.empty()) continue;
        ProjectState next = session.state();
        next.subject = static_cast<int>(i);
        session.change("Make current", std::move(next));
    }
    window.go_to(Station::Fit);
    settle(300);
    wait_for([&] { return !session.busy(); }, 120000);
    window.photos().make(false);
    wait_for([&] { return !session.busy(); }, 120000);
    settle(300);
    auto* shading = window.findChild<QComboBox*>("view_shading");
    if (view == "photos") return;
    if (view == "photos-skin") {
        SkinController& skins = window.skins();
        skins.bake_fit();
        wait_for([&] { return !session.busy(); }, 300000);
        shading->setCurrentIndex(1);
        wait_for([&] { return skins.shown() && skins.shown()->skin == skins.skin(); }, 60000);
        window.photos().look_through(false);
        window.views().frame_home();
        window.views().camera().look_from(FixedView::ThreeQuarter);
        return;
    }
    if (view == "photos-side") window.photos().select_photo(2);
    if (view == "photos-quarter") window.photos().select_photo(1);
    if (view == "photos-wire") window.findChild<QAction*>("view_wire")->trigger();
    if (view == "photos-seen") {
        window.photos().look_through(false);
        window.views().camera().look_from(FixedView::ThreeQuarter);
        window.look_bar().set_colours(Colouring::SeenBy);
    }
    if (view == "photos-hand") {
        window.findChild<Sections*>("fit_sections")->set_current(4);
        window.photos().set_keeps(0, true);
        window.photos().select_photo(2);
        window.photos().set_opacities(1, 0);
        shading->setCurrentIndex(0);
    }
}

}  // namespace

QStringList picture_views() {
    return {"gather",         "tidy",
            "tidy-stand",     "tidy-choose",
            "tidy-ignore",    "mark",
            "mark-doubts",    "mark-joints",
            "mark-curves",    "mark-photo",
            "mark-loupe",     "mark-four",
            "figure",         "fit",
            "fit-distance",   "fit-wire",
            "fit-side",       "fit-guessed",
            "fit-section",    "fit-wipe",
            "fit-regions",    "fit-tries",
            "fit-stretch",    "fit-smooth",
            "fit-source",     "photos",
            "photos-quarter", "photos-side",
            "photos-wire",    "photos-skin",
            "photos-seen",    "photos-hand",
            "touch",          "touch-distance",
            "preferences",    "bank",
            "bank-regions",   "bank-make",
            "bank-rest",      "bank-joints",
            "bank-return",    "deliver",
            "base",           "base-new",
            "base-parts",     "base-landmarks",
            "base-regions",   "base-joints",
            "base-pose",      "base-expressions",
            "base-wire",      "base-trial",
            "base-ties",      "base-reduced",
            "fit-figure",     "prove",
            "prove-pose",     "prove-hand",
            "prove-figures",  "prove-mend",
            "prove-scan",     "skin",
            "skin-origin",    "skin-squares",
            "skin-brush",     "skin-maps",
            "skin-flat",      "skin-side",
            "skin-back",      "skin-close",
            "skin-as-it-is",  "skin-photos",
            "skin-relief",    "skin-heights",
            "skin-wipe",      "skin-photo"};
}

bool take_picture(MainWindow& window, const QString& view, const QString& file, const QString& at) {
    if (!picture_views().contains(view)) {
        std::fprintf(stderr, "There is no view '%s'. Views: %s\n", qPrintable(view),
                     qPrintable(picture_views().join(", ")));
        return false;
    }
    settle(300);
    wait_for([&] { return !window.session().jobs().any(); }, 60000);
    auto* shading = window.findChild<QComboBox*>("view_shading");
    if (view == "preferences") {
        Preferences all(&window);
        all.show();
        settle(400);
        return all.grab().save(file);
    }
    if (view == "gather") {
        window.go_to(Station::Gather);
        shading->setCurrentIndex(1);
    } else if (view == "figure") {
        window.go_to(Station::Gather);
        window.commands().find("views_2")->trigger();
        const Box all = bounding_box(window.session().state().kit->mesh.positions);
        window.views().camera().look_from(FixedView::ThreeQuarter);
        window.views().frame({all.centre(), 0.55 * all.size().y()});
        Camera c = window.views().camera().camera();
        c.pitch = 14;
        window.views().camera().set(c);
        wait_for([&] { return window.session().jobs().any(); }, 2000);
    } else if (view.startsWith("tidy")) {
        tidy_and_wait(window);
        shading->setCurrentIndex(1);
        if (view == "tidy") {
            window.findChild<Sections*>("tidy_sections")->set_current(2);
            window.panel<TidyPanel>().select_tool(Tool::Components);
        } else if (view == "tidy-stand") {
            shading->setCurrentIndex(0);
            window.findChild<QCheckBox*>("tidy_base_over")->click();
            window.views().camera().look_from(FixedView::ThreeQuarter);
        } else if (view == "tidy-choose") {
            window.findChild<Sections*>("tidy_sections")->set_current(1);
            SelectStep jumper;
            jumper.kind = SelectKind::Slab;
            jumper.place.y() = 0, jumper.radius = 1450;
            window.tidy().select(jumper, "Choose");
            window.tidy().set_mode(TidyMode::Brush);
        } else {
            window.findChild<Sections*>("tidy_sections")->set_current(3);
            window.findChild<QPushButton*>("tidy_suggest")->click();
            window.findChild<QPushButton*>("tidy_ignore_selected")->click();
            wait_for([&] { return !window.session().busy(); }, 60000);
        }
    } else if (view.startsWith("mark")) {
        shading->setCurrentIndex(1);
        picture_marking(window, view);
    } else if (view == "fit-figure") {
        picture_figure_fit(window);
    } else if (view.startsWith("base")) {
        picture_base(window, view);
    } else if (view.startsWith("photos")) {
        picture_photos(window, view);
    } else if (view.startsWith("skin")) {
        const auto fit = [&] { return window.session().state().fit() != nullptr; };
        if (!fit())
            view == "skin-photos" || view == "skin-photo" ? picture_photos(window, "photos") : find_and_fit(window);
        picture_skin(window, view);
    } else {
        view == "fit-guessed" ? find_and_fit(window) : run_fit_and_wait(window);
        if (view == "fit-distance") window.look_bar().set_colours(Colouring::SignedDistance);
        if (view == "fit-wire") {
            window.findChild<QAction*>("view_wire")->trigger();
            window.session().select("pronasale");
            Camera c = window.views().camera().camera();
            c.distance *= 0.55;
            window.views().camera().set(c);
        }
        if (view.startsWith("touch")) picture_touching(window, view == "touch-distance");
        if (view.startsWith("prove")) picture_prove(window, view);
        picture_looking(window, view);
        if (view == "fit-side") window.views().camera().look_from(FixedView::Side);
        if (view.startsWith("bank") || view == "deliver") picture_bank(window, view);
    }
    if (!at.isEmpty()) {
        window.session().select(at.toStdString());
        window.frame_selection();
    }
    wait_for([&] { return !window.session().jobs().any(); }, 60000);
    settle(900);
    // from the screen, not QWidget::grab(): that would leave out what is painted over the OpenGL views
    window.raise();
    settle(100);
    const bool ok = window.screen()->grabWindow(window.winId()).save(file);
    if (!ok) std::fprintf(stderr, "Cannot write '%s'.\n", qPrintable(file));
    return ok;
}

}  // namespace veld
