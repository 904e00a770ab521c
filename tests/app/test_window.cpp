// The real window, driven by mouse and keys.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QDropEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QStandardPaths>
#include <QTest>
#include <QToolButton>
#include <QTreeWidget>
#include <QUrl>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/deliver/deliver_panel.h"
#include "app/views/viewport.h"
#include "core/io/mesh_file.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

using namespace veld;

TEST_CASE("Window: empty, it says what to do next and survives every station") {
    Fixture f;
    for (const char* name : {"station_mark", "station_fit", "station_bank", "station_deliver", "station_gather"}) {
        f.station(name);
        QTest::qWait(20);
    }
    REQUIRE_FALSE(f.find<QPushButton>("fit_start")->isEnabled());
    REQUIRE_FALSE(f.find<QPushButton>("bank_keep")->isEnabled());
    for (Qt::Key key : {Qt::Key_1, Qt::Key_F, Qt::Key_N, Qt::Key_M, Qt::Key_Delete, Qt::Key_O, Qt::Key_W, Qt::Key_T})
        QTest::keyClick(f.window.get(), key);
    REQUIRE(f.questions.isEmpty());
}

TEST_CASE("Window: ten points marked by hand, fitted, kept, slid, undone") {
    Fixture f;
    f.open_demo(false);
    REQUIRE(f.window->station() == Station::Mark);
    f.find<QCheckBox>("mark_hold")->setChecked(true);  // clicks that are exact to the pixel
    f.find<QCheckBox>("mark_snap")->setChecked(false);
    f.window->views().frame_home();
    const auto truth = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set.points;
    // the scan stands turned at first; the ears need a look from the side
    for (int i = 0; i < 10; ++i) {
        const std::string name = f.window->session().selected();
        REQUIRE(truth.contains(name));
        const bool ear = name.starts_with("tragion");
        QTest::keyClick(f.window.get(), !ear ? Qt::Key_1 : name.ends_with("_l") ? Qt::Key_3 : Qt::Key_6);
        QTest::qWait(10);
        QTest::mouseClick(&f.source_view(), Qt::LeftButton, {}, f.on_screen(truth.at(name)));
        REQUIRE(f.source().landmarks.points.size() == static_cast<std::size_t>(i + 1));
        const double off = 1000 * (f.source().landmarks.points.at(name) - truth.at(name)).norm();
        INFO(name << " is " << off << " mm off");
        CHECK(off < 3.5);  // a pixel is about 0.9 mm here
    }
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.source().landmarks.points.size() == 9);
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(f.source().landmarks.points.size() == 10);

    f.station("station_fit");
    f.press("fit_start");
    REQUIRE(f.window->session().fitting());
    REQUIRE(f.find<QPushButton>("fit_cancel")->isVisible());
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    const FitRecord* fit = f.window->session().state().fit();
    REQUIRE(fit);
    CHECK(fit->figures.regions.at("face").median <= 0.15);
    CHECK(fit->figures.flipped_faces == 0);
    CHECK(f.window->views().result_view()->isVisible());
    CHECK(f.find<QLabel>("figures_summary")->text().contains("median"));

    f.station("station_bank");
    f.press("bank_go_make");  // the bank is empty yet
    f.find<QLineEdit>("bank_name")->setText("Ottoline by hand");
    f.press("bank_keep");
    const auto& bank = f.window->session().state().bank;
    REQUIRE(bank.size() == 1);
    REQUIRE(bank[0].morph->name == "Ottoline by hand");
    REQUIRE(bank[0].amount == 1.0);
    auto* spin = f.find<QDoubleSpinBox>("bank_spin_0");
    spin->setFocus();
    spin->selectAll();
    QTest::keyClicks(spin, "-0.5");
    QTest::keyClick(spin, Qt::Key_Return);
    REQUIRE(f.window->session().state().bank[0].amount == -0.5);
    auto* slider = f.find<QSlider>("bank_slider_0");
    slider->setValue(300);  // 1.5, beyond its limits
    REQUIRE(f.window->session().state().bank[0].amount == 1.0);
    QTest::mouseClick(f.find<QCheckBox>("bank_beyond"), Qt::LeftButton, Qt::NoModifier, QPoint(8, 8));
    slider->setValue(300);
    REQUIRE(f.window->session().state().bank[0].amount == 1.5);
    QTest::mouseDClick(slider, Qt::LeftButton);
    REQUIRE(f.window->session().state().bank[0].amount == 0.0);

    QTest::qWait(30);
    f.station("station_deliver");
    REQUIRE(f.window->panel<DeliverPanel>().write_glb(QString::fromStdString(f.scratch / "o.glb")));
    REQUIRE(read_mesh(f.scratch / "o.glb"));
    REQUIRE(f.window->panel<DeliverPanel>().write_fit(QString::fromStdString(f.scratch / "fit.obj"), true));
    REQUIRE_FALSE(f.window->panel<DeliverPanel>().write_mix("/proc/none/mix.obj"));
    // all the way back and forth again
    while (f.window->session().document().can_undo()) f.window->session().document().undo();
    REQUIRE(f.source().landmarks.points.empty());
    while (f.window->session().document().can_redo()) f.window->session().document().redo();
    REQUIRE(f.window->session().state().bank.size() == 1);
    REQUIRE(f.questions.isEmpty());
}

TEST_CASE("Window: landmarks are dragged, mirrored, deleted, listed and selected") {
    Fixture f;
    f.open_demo(true);
    auto& session = f.window->session();
    const auto points = [&] { return f.source().landmarks.points; };
    QTest::keyClick(f.window.get(), Qt::Key_1);
    QTest::qWait(30);
    SECTION("drag along the surface is one undo step") {
        const Vec3 before = points().at("pronasale");
        const QPoint at = f.on_screen(before);
        const std::size_t steps = session.document().position();
        QTest::mousePress(&f.source_view(), Qt::LeftButton, {}, at);
        for (int i = 1; i <= 6; ++i) QTest::mouseMove(&f.source_view(), at + QPoint(3 * i, i));
        QTest::mouseRelease(&f.source_view(), Qt::LeftButton, {}, at + QPoint(18, 6));
        REQUIRE(session.selected() == "pronasale");
        const Vec3 after = points().at("pronasale");
        REQUIRE(1000 * (after - before).norm() > 4);
        REQUIRE(1000 * session.prepared()->query->closest(after, 1).distance < 0.01);
        REQUIRE(session.document().position() == steps + 1);
        QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
        REQUIRE(points().at("pronasale") == before);
    }
    SECTION("delete, then mirror from the other side") {
        const Vec3 before = points().at("cheilion_l");
        session.select("cheilion_l");
        QTest::keyClick(f.window.get(), Qt::Key_Delete);
        REQUIRE_FALSE(points().contains("cheilion_l"));
        QTest::keyClick(f.window.get(), Qt::Key_M);
        REQUIRE(points().contains("cheilion_l"));
        CHECK(1000 * (points().at("cheilion_l") - before).norm() < 12);  // a face is not quite even
    }
    SECTION("next and previous point by key") {
        session.select("exocanthion_r");
        QTest::keyClick(f.window.get(), Qt::Key_N);
        REQUIRE(session.selected() == "exocanthion_l");
        QTest::keyClick(f.window.get(), Qt::Key_P);
        REQUIRE(session.selected() == "exocanthion_r");
    }
    SECTION("the list is worst first, and a click selects") {
        auto* list = f.find<QTreeWidget>("mark_list");
        double last = 1e9;
        for (int i = 0; i < 20; ++i) {
            const double off = list->topLevelItem(i)->text(2).toDouble();
            REQUIRE(off <= last);
            last = off;
        }
        list->scrollToTop();
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->topLevelItem(2)).center());
        REQUIRE(session.selected() == list->topLevelItem(2)->data(0, Qt::UserRole).toString().toStdString());
    }
    SECTION("a click on the base makes a point of one's own, and the scan is asked for its partner") {
        Viewport& base = *f.window->views().base_view();
        const std::size_t before = session.state().base_points.size();
        f.rest();
        f.window->views().frame_home();
        QTest::qWait(30);
        QTest::mouseClick(&base, Qt::LeftButton, {}, QPoint(base.width() / 2, base.height() / 3));
        REQUIRE(session.state().base_points.size() == before + 1);
        REQUIRE(session.selected() == "own point");
        QTest::mouseClick(&f.source_view(), Qt::LeftButton, {},
                          QPoint(f.source_view().width() / 2, f.source_view().height() / 3));
        REQUIRE(points().contains("own point"));
    }
    SECTION("landmark files go out and come in") {
        const auto before = points();
        REQUIRE(f.window->mark().write(QString::fromStdString(f.scratch / "l.json")));
        f.trigger("mark_swap");
        REQUIRE(points() != before);
        REQUIRE(f.window->mark().read(QString::fromStdString(f.scratch / "l.json")));
        REQUIRE(points() == before);
        REQUIRE_FALSE(f.window->mark().read("/nowhere.json"));
    }
}

TEST_CASE("Window: a fit is cancelled and nothing changes") {
    Fixture f;
    f.open_demo(true);
    f.station("station_fit");
    const std::size_t before = f.window->session().document().position();
    f.press("fit_start");
    REQUIRE(wait_until([&] { return f.window->views().result_view()->isVisible(); }));  // it lives
    f.press("fit_cancel");
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }, 20000));
    REQUIRE(f.window->session().document().position() == before);
    REQUIRE(f.window->session().state().fit() == nullptr);
    REQUIRE(f.find<QPushButton>("fit_start")->isEnabled());
    SECTION("and one can work on while it runs") {
        f.press("fit_start");
        f.station("station_mark");
        f.window->session().select("pronasale");
        QTest::keyClick(f.window.get(), Qt::Key_Delete);
        REQUIRE_FALSE(f.source().landmarks.points.contains("pronasale"));
        REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
        REQUIRE(f.window->session().state().fit());
        REQUIRE_FALSE(f.source().landmarks.points.contains("pronasale"));
    }
}

TEST_CASE("Window: exchanged sides are offered to be swapped") {
    Fixture f;
    f.open_demo(true);
    f.quick_fit();
    f.trigger("mark_swap");
    f.station("station_fit");
    f.reply = 0;
    f.press("fit_start");
    REQUIRE(wait_until([&] { return f.questions.size() == 1; }));  // when the result has been taken in
    REQUIRE(f.questions[0].startsWith("Left and right"));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    f.press("fit_start");
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    REQUIRE(f.window->session().state().fit());
}

TEST_CASE("Window: settings of the fit are changed, kept and undone") {
    Fixture f;
    f.open_demo(true);
    f.station("station_fit");
    auto& session = f.window->session();
    QTest::mouseClick(f.find<QCheckBox>("fit_true_size"), Qt::LeftButton, {}, QPoint(8, 8));
    REQUIRE(session.state().settings.keep_true_size);
    f.find<QDoubleSpinBox>("fit_detail")->setValue(2.4);
    REQUIRE(session.state().settings.smooth_end_mm == 2.4);
    for (int i = 0; i < 2; ++i) session.document().undo();
    REQUIRE(session.state().settings == FitSettings());
    REQUIRE_FALSE(f.find<QCheckBox>("fit_true_size")->isChecked());
}

TEST_CASE("Window: the fit's panel says what of the source is left out, and matches all of it again") {
    Fixture f;
    f.open_demo(true);
    f.station("station_fit");
    auto& session = f.window->session();
    REQUIRE_FALSE(f.find<QPushButton>("fit_match_all")->isVisible());
    ProjectState next = session.state();
    REQUIRE(next.source());
    Source* source = find_source(next, next.source()->id);
    VertexMask ignored(source->mesh->positions.size(), 0);
    for (std::size_t v = 0; v < ignored.size(); v += 4) ignored[v] = 1;
    source->ignored = source->not_skin = std::make_shared<const VertexMask>(ignored);
    session.change("Ignore", std::move(next));
    REQUIRE(f.find<QLabel>("fit_left_out")->text().startsWith("25 %"));
    f.press("fit_match_all");
    REQUIRE_FALSE(session.state().source()->ignored);
    REQUIRE(session.state().source()->not_skin);  // the figures will say what was matched
    REQUIRE_FALSE(f.find<QPushButton>("fit_match_all")->isVisible());
    session.document().undo();
    REQUIRE(session.state().source()->ignored);
    QTest::mouseClick(f.find<QCheckBox>("fit_known_heads"), Qt::LeftButton, {}, QPoint(8, 8));
    REQUIRE_FALSE(session.state().settings.known_heads);
}

TEST_CASE("Window: views turn, frame, switch lens and shading") {
    Fixture f;
    f.open_demo(true);
    auto& link = f.window->views().camera();
    QTest::keyClick(f.window.get(), Qt::Key_3);
    REQUIRE(link.camera().yaw == 90);
    QTest::keyClick(f.window.get(), Qt::Key_5);
    REQUIRE(link.camera().pitch == -55);
    QTest::keyClick(f.window.get(), Qt::Key_1);
    QTest::keyClick(f.window.get(), Qt::Key_Home);  // an opened project shows all of its subject
    const double far_away = link.camera().distance;
    f.window->session().select("pronasale");
    QTest::keyClick(f.window.get(), Qt::Key_F);
    REQUIRE(link.camera().distance < far_away);
    QTest::keyClick(f.window.get(), Qt::Key_Home);
    REQUIRE(link.camera().distance == Approx(far_away));
    QTest::keyClick(f.window.get(), Qt::Key_O);
    REQUIRE(link.camera().orthographic);
    const double height = link.camera().height_at_target();
    f.find<QDoubleSpinBox>("view_lens_degrees")->setValue(50);
    REQUIRE(link.camera().field_of_view == 50);
    REQUIRE(link.camera().height_at_target() == Approx(height));  // the subject keeps its size
    QTest::keyClick(f.window.get(), Qt::Key_T);
    REQUIRE(f.find<QComboBox>("view_shading")->currentIndex() == 1);
    // orbit by dragging beside every point
    const double yaw = link.camera().yaw;
    Viewport& view = *f.window->views().base_view();
    QTest::mousePress(&view, Qt::LeftButton, {}, QPoint(20, 60));
    for (int i = 1; i < 8; ++i) QTest::mouseMove(&view, QPoint(20 + 8 * i, 60));
    QTest::mouseRelease(&view, Qt::LeftButton, {}, QPoint(76, 60));
    REQUIRE(link.camera().yaw != yaw);
    REQUIRE(f.window->session().state().base_points.size() == demo_kit()->landmarks.size());  // a drag is no click
}

TEST_CASE("Window: a picked place is where it was clicked, in both projections") {
    CameraLink link;
    Camera c;
    c.frame(Vec3(10, 1600, 20), 150);
    const QSize size(390, 570);
    for (bool orthographic : {false, true}) {
        for (double yaw : {0.0, 40.0, 200.0}) {
            c.orthographic = orthographic, c.yaw = yaw, c.pitch = -20;
            const Vec3 p(30, 1650, 60);
            const Ray ray = c.ray(c.project(p, size), size);
            const Vec3 d = p - ray.origin;
            REQUIRE((d - d.dot(ray.direction) * ray.direction).norm() < 1e-6);
        }
    }
}

TEST_CASE("Window: the fit shows its distances, its fade and its wire") {
    Fixture f;
    f.open_demo(true);
    f.quick_fit();
    f.station("station_fit");
    f.press("fit_start");
    REQUIRE(wait_until([&] { return f.window->session().state().fit() != nullptr; }));
    Viewport& view = *f.window->views().result_view();
    REQUIRE(view.layers().size() == 1);
    f.find<QSlider>("look_share")->setValue(40);
    REQUIRE(view.layers().size() == 2);  // the source shines through
    REQUIRE(view.layers().back().opacity == Approx(0.4));
    f.find<QComboBox>("look_colours")->setCurrentIndex(1);
    REQUIRE(view.layers().back().shading == Shading::Colours);
    QTest::keyClick(f.window.get(), Qt::Key_W);
    REQUIRE(view.layers().back().wire);
    f.find<Sections>("fit_sections")->set_current(2);
    f.press("fit_remove");
    REQUIRE(f.window->session().state().fit() == nullptr);
    REQUIRE_FALSE(view.isVisible());
}

TEST_CASE("Window: everything that is handed on goes through its button and the file dialog") {
    Fixture f;
    f.open_demo(true);
    f.quick_fit();
    f.station("station_fit");
    f.press("fit_start");
    REQUIRE(wait_until([&] { return f.window->session().state().fit() != nullptr; }));
    f.station("station_bank");
    f.window->bank().set_page(BankController::Page::Make);
    f.press("bank_keep");
    f.station("station_deliver");
    const std::pair<const char*, const char*> files[] = {
        {"deliver_glb", "all.glb"},        {"deliver_mix", "mix.obj"}, {"deliver_posable", "posable.glb"},
        {"deliver_joints", "joints.json"}, {"deliver_fit_kit", "fit"}, {"deliver_fit_source", "on_scan.obj"},
        {"deliver_report", "report.json"}};
    for (const auto& [name, file] : files) {
        answer_file_dialog(QString::fromStdString(f.scratch / file));
        f.press(name);
        const std::string written =
            f.scratch / (std::string(file) == "fit" ? "fit.obj" : file);  // the ending is added
        INFO(written);
        REQUIRE(wait_until([&] { return std::filesystem::exists(written); }, 5000));
        REQUIRE(std::filesystem::file_size(written) > 500);
    }
    REQUIRE(read_mesh(f.scratch / "fit.obj")->mesh.face_count() == demo_kit()->mesh.face_count());
    // each morph into a folder, and in again beside the old one
    DeliverPanel& deliver = f.window->panel<DeliverPanel>();
    f.find<QLineEdit>("deliver_pattern")->setText("{number}_{name}");
    f.find<QComboBox>("deliver_format")->setCurrentIndex(2);
    deliver.write_each(QString::fromStdString(f.scratch / "each"));
    REQUIRE(wait_until([&] { return !deliver.working(); }));
    const std::string list = f.scratch / "each/001_Ottoline head.csv";
    REQUIRE(std::filesystem::exists(list));
    deliver.read_morphs({QString::fromStdString(list)});
    REQUIRE(wait_until([&] { return !deliver.working(); }));
    REQUIRE(f.window->session().state().bank.size() == 2);
    CHECK(f.window->session().state().bank[1].morph->name == "Ottoline head 2");
    CHECK(f.window->session().state().bank[1].morph->figures == f.window->session().state().bank[0].morph->figures);
    answer_file_dialog("/proc/none/x.obj");
    f.press("deliver_mix");
    REQUIRE(wait_until([&] { return !f.questions.isEmpty() || !QApplication::activeModalWidget(); }, 3000));
    // the dialog itself may refuse a folder that is not there; either way nothing is written and nothing crashes
    while (QWidget* modal = QApplication::activeModalWidget()) modal->close(), QTest::qWait(20);
    f.reply = 1;
}

TEST_CASE("Window: saving under a new name, and opening it again from the recent ones") {
    Fixture f;
    f.open_demo(true);
    answer_file_dialog(QString::fromStdString(f.scratch / "second"));
    QTest::keyClick(f.window.get(), Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(wait_until([&] { return std::filesystem::exists(f.scratch / "second.veldstone"); }, 5000));
    REQUIRE(wait_until([&] { return f.window->windowTitle().startsWith("second"); }, 20000));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "demo.veldstone")));
    REQUIRE(f.window->windowTitle().startsWith("demo"));
    QMenu* recent = nullptr;
    for (QMenu* menu : f.window->findChildren<QMenu*>()) {
        if (menu->title() == "Recent") recent = menu;
    }
    REQUIRE(recent);
    QAction* entry = nullptr;
    for (QAction* a : recent->actions()) {
        if (a->text().contains("second")) entry = a;
    }
    REQUIRE(entry);
    entry->trigger();
    REQUIRE(wait_until([&] { return f.window->windowTitle().startsWith("second"); }, 20000));
}
