// Gather and Tidy in the real window: a raw scan from drop to ready, selections, preview, ignore, inbox.
#include <catch2/catch.hpp>

#include "tests/app/tidy_support.h"

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
