// Gather and Tidy in the real window: a raw scan from drop to ready, selections, preview, ignore, inbox.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QProcess>
#include <QSlider>
#include <QTest>

#include "app/stations/tidy/tidy_controller.h"
#include "core/io/mesh_write.h"
#include "core/mesh/topology.h"
#include "core/project/inbox.h"
#include "core/tidy/repair.h"
#include "core/tidy/tools.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

struct TidyFixture : Fixture {
    void wait() {
        REQUIRE(wait_until([&] { return !window->session().busy(); }));
        QTest::qWait(10);
    }
    void tab(int i) { find<Sections>("tidy_sections")->set_current(i); }
    void mode(const char* name) {
        QTest::mouseClick(find<QToolButton>((std::string("tidy_mode_") + name).c_str()), Qt::LeftButton);
    }
    void drag(const QList<QPoint>& path, Qt::KeyboardModifiers keys = {}) {
        Viewport& v = source_view();
        QTest::mousePress(&v, Qt::LeftButton, keys, path.first());
        for (const QPoint& p : path) QTest::mouseMove(&v, p);
        QTest::mouseRelease(&v, Qt::LeftButton, keys, path.last());
    }
    TidyController& tidy() { return window->tidy(); }
    QPoint middle() { return {source_view().width() / 2, source_view().height() / 2}; }
};

}  // namespace

TEST_CASE("Window: a raw head scan goes from drop to ready in under ten actions") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    int actions = 0;
    f.drop({QString::fromStdString(demo("subjects/ottoline/ottoline_scan.glb"))}), ++actions;
    REQUIRE(f.source().shown_unit == Unit::Metre);
    f.press("gather_repair"), ++actions;
    f.wait();
    f.station("station_tidy"), ++actions;
    f.press("tidy_straighten"), ++actions;
    f.wait();
    f.tab(2), ++actions;
    f.window->panel<TidyPanel>().select_tool(Tool::Components), ++actions;
    REQUIRE(count_selected(f.window->panel<TidyPanel>().would_remove()) > 1000);  // lit while one decides
    f.press("tidy_apply"), ++actions;
    f.wait();
    f.tab(3);
    f.press("tidy_suggest"), ++actions;
    f.press("tidy_ignore_selected"), ++actions;
    f.wait();
    REQUIRE(actions < 10);
    REQUIRE(f.questions.isEmpty());
    const Source& s = f.source();
    REQUIRE(s.recipe.size() == 4);
    REQUIRE(f.find<QListWidget>("tidy_steps")->count() == 4);
    const TopologyReport t = inspect_topology(*s.mesh);
    REQUIRE(t.non_manifold_edges == 0);
    REQUIRE(t.components == 1);
    REQUIRE(s.mesh->images.size() == 1);
    REQUIRE(s.mesh->corner_uv.size() == s.mesh->corner_vertex.size());
    // upright: the true landmarks' eyes are level, the face looks ahead
    const auto marks = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set.points;
    const auto at = [&](const char* name) { return s.upright(marks.at(name)); };
    const Vec3 eyes = at("exocanthion_l") - at("exocanthion_r");
    CHECK(std::abs(eyes.y()) < 0.04 * eyes.norm());
    CHECK(std::abs(eyes.z()) < 0.04 * eyes.norm());
    CHECK(at("pronasale").z() > at("tragion_l").z() + 50);
    // the face is kept, cap and jumper are not
    const auto ignored_near = [&](const char* name) {
        std::size_t nearest = 0;
        for (std::size_t v = 0; v < s.mesh->positions.size(); ++v) {
            if ((s.mesh->positions[v] - marks.at(name)).norm() < (s.mesh->positions[nearest] - marks.at(name)).norm())
                nearest = v;
        }
        return (*s.ignored)[nearest] != 0;
    };
    for (const char* name : {"pronasale", "exocanthion_l", "cheilion_r", "gnathion", "cheek_l"}) {
        INFO(name);
        if (marks.contains(name)) CHECK_FALSE(ignored_near(name));
    }
    const std::size_t left_out = static_cast<std::size_t>(std::count(s.ignored->begin(), s.ignored->end(), 1));
    CHECK(left_out > s.mesh->positions.size() / 3);
    // and all the way back
    while (f.window->session().document().can_undo()) f.window->session().document().undo();
    REQUIRE(f.window->session().state().source() == nullptr);
    while (f.window->session().document().can_redo()) f.window->session().document().redo();
    REQUIRE(f.source().recipe.size() == 4);
}

TEST_CASE("Window: a raw body scan goes from drop to ready in under ten actions") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    int actions = 0;
    f.drop({QString::fromStdString(demo("subjects/bram/bram_scan.ply"))}), ++actions;
    REQUIRE(f.source().shown_unit == Unit::Centimetre);
    REQUIRE(f.source().up == UpAxis::PlusZ);
    f.press("gather_repair"), ++actions;
    f.wait();
    f.station("station_tidy"), ++actions;
    f.press("tidy_straighten"), ++actions;
    f.wait();
    f.tab(2), ++actions;
    f.window->panel<TidyPanel>().select_tool(Tool::Components), ++actions;
    f.press("tidy_apply"), ++actions;
    f.wait();
    f.tab(3);
    f.press("tidy_suggest"), ++actions;
    f.press("tidy_ignore_selected"), ++actions;
    f.wait();
    REQUIRE(actions < 10);
    REQUIRE(f.questions.isEmpty());
    const Source& s = f.source();
    const auto marks = read_landmarks(demo("subjects/bram/bram_landmarks.json"))->set.points;
    const auto at = [&](const char* name) { return s.upright(marks.at(name)); };
    const Vec3 shoulders = at("acromion_l") - at("acromion_r");
    CHECK(std::abs(shoulders.z()) < 0.1 * shoulders.norm());
    CHECK(shoulders.x() > 0.9 * shoulders.norm());
    CHECK(at("pronasale").y() > 1500);
    Box box;
    for (const Vec3& p : s.mesh->positions) box.add(s.upright(p));
    CHECK(std::abs(box.low.y()) < 1e-6);
    REQUIRE(s.ignored);  // shorts and the floor disc
}

TEST_CASE("Window: a cut is drawn, looked at, made, pieces are found by sliding") {
    TidyFixture f;
    f.open_demo(false);
    f.station("station_tidy");
    f.press("tidy_straighten");
    f.wait();
    f.tab(2);
    f.window->panel<TidyPanel>().select_tool(Tool::Cut);
    f.mode("cut");
    const QPoint m = f.middle();
    f.drag({m + QPoint(-120, 90), m + QPoint(0, 90), m + QPoint(120, 90)});
    REQUIRE(wait_until([&] { return count_selected(f.window->panel<TidyPanel>().would_remove()) > 1000; }, 3000));
    REQUIRE(f.find<QDoubleSpinBox>("tidy_ny")->value() > 0.9);
    const double low = f.find<QDoubleSpinBox>("tidy_y")->value();
    f.press("tidy_apply");
    f.wait();
    for (const Vec3& p : f.source().mesh->positions)
        REQUIRE(f.source().upright(p).y() > low - 130);  // the plane leans with the lens
    f.window->panel<TidyPanel>().select_tool(Tool::Components);
    auto* slider = f.find<QSlider>("tidy_share_slider");
    slider->setValue(1000);
    REQUIRE(f.find<QDoubleSpinBox>("tidy_share")->value() == 100);
    REQUIRE(wait_until([&] { return count_selected(f.window->panel<TidyPanel>().would_remove()) > 10; }, 3000));
    slider->setValue(0);
    REQUIRE(wait_until([&] { return count_selected(f.window->panel<TidyPanel>().would_remove()) == 0; }, 3000));
}

TEST_CASE("Window: areas are selected by rectangle, lasso, brush and click, and deleted") {
    TidyFixture f;
    f.open_demo(false);
    f.station("station_tidy");
    f.tab(1);
    const QPoint m = f.middle();
    f.mode("rectangle");
    f.drag({m - QPoint(40, 40), m + QPoint(10, 10), m + QPoint(40, 40)});
    const std::size_t front = f.tidy().selected_count();
    REQUIRE(front > 100);
    QTest::mouseClick(f.find<QCheckBox>("tidy_front_only"), Qt::LeftButton, {}, QPoint(8, 8));
    f.drag({m - QPoint(40, 40), m + QPoint(10, 10), m + QPoint(40, 40)});
    const std::size_t through = f.tidy().selected_count();
    REQUIRE(through > front + 50);
    f.mode("lasso");
    f.drag({m - QPoint(20, 20), m + QPoint(20, -20), m + QPoint(20, 20), m + QPoint(-20, 20)}, Qt::ControlModifier);
    const std::size_t less = f.tidy().selected_count();
    REQUIRE(less < through);
    f.mode("brush");
    f.drag({m, m + QPoint(6, 3), m + QPoint(14, 6)});
    REQUIRE(f.tidy().selected_count() > less);
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.tidy().selected_count() == less);
    f.press("tidy_grow");
    REQUIRE(f.tidy().selected_count() > less);
    f.press("tidy_shrink");
    f.press("tidy_invert");
    REQUIRE(f.tidy().selected_count() > f.source().mesh->face_count() / 2);
    f.press("tidy_none");
    REQUIRE(f.tidy().selected_count() == 0);
    f.mode("joined");
    QTest::mouseClick(&f.source_view(), Qt::LeftButton, {}, m);
    const std::size_t joined = f.tidy().selected_count();
    REQUIRE(joined > f.source().mesh->face_count() / 2);
    f.press("tidy_invert");
    const Index faces = f.source().mesh->face_count();
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    f.wait();
    REQUIRE(f.source().mesh->face_count() == joined);
    REQUIRE(f.tidy().selected_count() == 0);
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.source().mesh->face_count() == faces);
    f.mode("colours");
    QTest::mouseClick(&f.source_view(), Qt::LeftButton, {}, m);
    REQUIRE(f.tidy().selected_count() > 100);
    // the right button turns the view while the left one paints
    f.mode("brush");
    const double yaw = f.window->views().camera().camera().yaw;
    QTest::mousePress(&f.source_view(), Qt::RightButton, {}, m);
    for (int i = 1; i < 6; ++i) QTest::mouseMove(&f.source_view(), m + QPoint(9 * i, 0));
    QTest::mouseRelease(&f.source_view(), Qt::RightButton, {}, m + QPoint(45, 0));
    REQUIRE(f.window->views().camera().camera().yaw != yaw);
    REQUIRE(f.questions.isEmpty());
}

TEST_CASE("Window: a tool is previewed, kept or dropped, steps are saved and run again") {
    TidyFixture f;
    f.open_demo(false);
    f.station("station_tidy");
    f.tab(2);
    f.window->panel<TidyPanel>().select_tool(Tool::Reduce);
    f.find<QDoubleSpinBox>("tidy_triangles")->setValue(20000);
    const Index before = f.source().mesh->face_count();
    f.press("tidy_preview");
    f.wait();
    REQUIRE(f.window->session().has_preview());
    REQUIRE(f.source().mesh->face_count() == before);  // only shown
    REQUIRE(f.window->session().preview()->mesh->face_count() < 25000);
    f.press("tidy_drop");
    REQUIRE_FALSE(f.window->session().has_preview());
    f.press("tidy_preview");
    f.wait();
    f.press("tidy_keep");
    REQUIRE(f.source().mesh->face_count() < 25000);
    REQUIRE(f.source().recipe.size() == 1);
    const QString recipe = QString::fromStdString(f.scratch / "steps.json");
    REQUIRE(f.tidy().write_recipe(recipe));
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.source().recipe.empty());
    f.tidy().run_recipe_file(recipe);
    f.wait();
    REQUIRE(f.source().mesh->face_count() < 25000);
    REQUIRE(f.tidy().write_source(QString::fromStdString(f.scratch / "s.obj"), false));
    REQUIRE(f.tidy().write_source(QString::fromStdString(f.scratch / "u.ply"), true));
    REQUIRE(bounding_box(read_mesh(f.scratch / "s.obj")->mesh.positions).size().norm() < 2);    // metres, as it came
    REQUIRE(bounding_box(read_mesh(f.scratch / "u.ply")->mesh.positions).size().norm() > 300);  // mm
    REQUIRE_FALSE(f.tidy().write_recipe("/proc/none/x.json"));
    f.tidy().run_recipe_file(QString::fromStdString(f.scratch.write("bad.json", "{}")));
    REQUIRE(f.questions.size() == 1);
    SECTION("a running tool is cancelled, nothing changes") {
        const auto mesh = f.source().mesh;
        f.tidy().run({Tool::Remesh, {{"edge", 0.3}}, {}}, false);
        REQUIRE(f.window->session().tidying());
        QTest::keyClick(f.window.get(), Qt::Key_Escape);
        f.wait();
        REQUIRE(f.source().mesh == mesh);
    }
}

TEST_CASE("Window: ignore is painted and given back, and the fit keeps away") {
    TidyFixture f;
    f.open_demo(true);
    f.station("station_tidy");
    f.press("tidy_straighten");
    f.wait();
    f.tab(3);
    f.find<QDoubleSpinBox>("tidy_brush_mm")->setValue(25);
    f.mode("ignore");
    // the subject's left cheek
    const auto marks = f.source().landmarks.points;
    const QPoint nose = f.source_view().screen_of(f.source().upright(marks.at("pronasale"))).toPoint();
    f.drag({nose, nose + QPoint(3, 4), nose + QPoint(4, 9)});
    f.wait();
    REQUIRE(f.source().ignored);
    const auto painted = std::count(f.source().ignored->begin(), f.source().ignored->end(), 1);
    REQUIRE(painted > 50);
    f.quick_fit(2);
    f.station("station_fit");
    f.press("fit_start");
    f.wait();
    const FitRecord* fit = f.window->session().state().fit();
    REQUIRE(fit);
    const BaseKit& kit = *f.window->session().state().kit;
    REQUIRE(std::isnan((*fit->distances)[kit.landmarks.at("pronasale").vertices[0]]));  // was not compared there
    f.station("station_tidy");
    f.tab(3);
    f.mode("match");
    f.find<QDoubleSpinBox>("tidy_brush_mm")->setValue(60);
    f.drag({nose, nose + QPoint(3, 4), nose + QPoint(4, 9)});
    f.wait();
    REQUIRE_FALSE(f.source().ignored);
}

TEST_CASE("Window: straightened by three points, turned, lined up with the base") {
    TidyFixture f;
    f.open_demo(false);
    f.station("station_tidy");
    f.press("tidy_straighten");
    f.wait();
    f.press("tidy_turn_1_1");
    f.wait();
    const auto marks = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set.points;
    const auto level = [&] {
        const Vec3 e = f.source().upright(marks.at("exocanthion_l")) - f.source().upright(marks.at("exocanthion_r"));
        return std::abs(std::atan2(e.z(), e.x())) * 180 / M_PI;
    };
    REQUIRE(level() > 10);
    f.mode("eyes");
    for (const auto& [a, b] : {std::pair{"exocanthion_r", "endocanthion_r"},
                               std::pair{"exocanthion_l", "endocanthion_l"}, std::pair{"pronasale", "pronasale"}}) {
        const Vec3 p = f.source().upright(0.5 * (marks.at(a) + marks.at(b)));
        QTest::mouseClick(&f.source_view(), Qt::LeftButton, {}, f.source_view().screen_of(p).toPoint());
    }
    f.wait();
    REQUIRE(f.source().recipe.back().tool == Tool::FacePoints);
    REQUIRE(level() < 3);
    REQUIRE(f.source_view().layers().size() == 1);
    QTest::mouseClick(f.find<QCheckBox>("tidy_base_over"), Qt::LeftButton, {}, QPoint(8, 8));
    REQUIRE(f.source_view().layers().size() == 2);
    REQUIRE(f.source_view().layers().back().opacity < 1);
}

TEST_CASE("Window: unit and axis are changed with one click, a replaced file is read again") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    const std::string path = f.scratch / "capture.ply";
    const auto capture = [&](const char* seed) {
        QProcess p;
        p.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                 "--format", "ply", "--seed", seed, "--pause", "0", "--density", "2"});
        REQUIRE(p.waitForFinished(60000));
        REQUIRE(p.exitCode() == 0);
        std::filesystem::rename(f.scratch / (std::string("capture_") + seed + ".ply"), path);
    };
    capture("5");
    f.drop({QString::fromStdString(path)});
    REQUIRE(f.source().shown_unit == Unit::Centimetre);
    const double scale = f.source().upright.scale;
    auto* unit = f.find<QComboBox>("gather_unit");
    unit->setCurrentIndex(static_cast<int>(Unit::Inch));
    emit unit->activated(static_cast<int>(Unit::Inch));
    REQUIRE(f.source().upright.scale == Approx(2.54 * scale));
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.source().shown_unit == Unit::Centimetre);
    f.station("station_tidy");
    f.press("tidy_straighten");
    f.wait();
    const auto old = f.source().mesh;
    QTest::qWait(30);
    capture("6");
    f.station("station_gather");
    f.window->session().document().seal();
    f.press("gather_redo");
    f.wait();
    REQUIRE(f.source().mesh != old);
    REQUIRE(f.source().recipe.size() == 1);
    f.reply = 1;
}

TEST_CASE("Window: deliveries into the inbox are offered when they are whole") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    f.window->session().set_inbox(QString::fromStdString(f.scratch.folder()));
    QProcess device;
    device.start(
        QString(VELDSTONE_BUILD) + "/bin/capture-standin",
        {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()), "--seed",
         "9", "--pause", "500", "--density", "2", "--defects", "holes,components,noise,tilt,stand,spikes"});
    bool seen_waiting = false;
    REQUIRE(wait_until(
        [&] {
            for (const Delivery& d : f.window->session().deliveries()) {
                seen_waiting |= !d.complete;
                if (d.complete) return true;
            }
            return false;
        },
        60000));
    REQUIRE(seen_waiting);
    REQUIRE(device.state() == QProcess::NotRunning);  // not before the device had finished
    REQUIRE(f.find<QPushButton>("inbox_take")->isEnabled());
    f.press("inbox_take");
    f.wait();
    REQUIRE(f.source().name == "capture_9.obj");
    REQUIRE(f.source().mesh->images.size() == 1);
    device.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                 {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                  "--seed", "9", "--what", "photos", "--pause", "0", "--density", "2"});
    REQUIRE(wait_until(
        [&] { return !f.window->session().deliveries().empty() && f.window->session().deliveries()[0].complete; },
        60000));
    REQUIRE(f.window->session().deliveries()[0].kind == DeliveryKind::Photos);
    f.press("inbox_take");
    f.wait();
    REQUIRE(f.window->session().state().current()->photo_sets.size() == 1);
    REQUIRE(f.window->session().state().current()->photo_sets[0].photos->size() == 3);
    f.reply = 1;
}

// Not run by default: test_app "[heavy]". Needs about a minute.
TEST_CASE("Window: six million triangles are opened and cleaned within 2.5 GB", "[.heavy]") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    QProcess device;
    device.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                 {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                  "--format", "ply", "--seed", "3", "--pause", "0", "--density", "24"});
    REQUIRE(device.waitForFinished(120000));
    const auto peak_mb = [] {
        std::ifstream in("/proc/self/status");
        for (std::string line; std::getline(in, line);) {
            if (line.starts_with("VmHWM")) return std::atof(line.c_str() + 6) / 1024;
        }
        return 0.0;
    };
    double slowest = 0;
    const auto waiting = [&] {  // the window must answer all the while
        QElapsedTimer gap;
        gap.start();
        while (f.window->session().busy()) {
            QApplication::processEvents(QEventLoop::AllEvents, 10);
            slowest = std::max(slowest, static_cast<double>(gap.restart()));
        }
    };
    f.window->session().load_sources({QString::fromStdString(f.scratch / "capture_3.ply")});
    waiting();
    REQUIRE(f.source().mesh->face_count() > 5'000'000);
    f.station("station_tidy");
    for (const TidyStep& step :
         {TidyStep{Tool::Repair, {}, {}}, TidyStep{Tool::Components, {}, {}}, TidyStep{Tool::Straighten, {}, {}},
          TidyStep{Tool::Spikes, {}, {}}, TidyStep{Tool::Smooth, {{"rounds", 2}}, {}},
          TidyStep{Tool::Cut, {{"y", 1450}}, {}}}) {
        f.tidy().run(step, false);
        waiting();
        QTest::qWait(50);
        std::printf("%-18s peak %.0f MB\n", tool_info(step.tool).label, peak_mb());
    }
    f.tab(1);
    f.mode("rectangle");
    const QPoint m = f.middle();
    f.drag({m - QPoint(60, 60), m, m + QPoint(60, 60)});
    waiting();
    REQUIRE(f.tidy().selected_count() > 10000);
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    waiting();
    for (int i = 0; i < 4; ++i) QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.questions.isEmpty());
    std::printf("peak %.0f MB, longest gap between events %.0f ms, frame %.0f ms\n", peak_mb(), slowest,
                f.source_view().last_frame_ms());
    CHECK(peak_mb() < 2500);
    f.reply = 1;
}
