#include <catch2/catch.hpp>

#include "tests/app/mark_support.h"

TEST_CASE("Mark window: one press marks the whole head, doubts first, and undo takes it back") {
    Fixture f;
    f.open_demo(false);
    Session& session = f.window->session();
    detect(f);
    const LandmarkSet set = f.source().landmarks;
    REQUIRE(set.points.size() > 45);
    REQUIRE(set.curves.size() == 12);
    auto* list = f.find<QTreeWidget>("mark_list");
    REQUIRE(list->topLevelItem(0)->text(1).endsWith("?"));
    double last = 1e9;
    for (int i = 0; list->topLevelItem(i)->text(1).endsWith("?"); ++i) {
        const double mm = list->topLevelItem(i)->text(1).chopped(1).toDouble();
        REQUIRE(mm <= last);
        last = mm;
    }
    // near the truth where the trade looks first
    const auto truth = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"));
    for (const char* name : {"exocanthion_l", "endocanthion_r", "pronasale", "cheilion_l", "stomion"})
        CHECK(1000 * (set.points.at(name) - truth->set.points.at(name)).norm() < 3);
    // accepting makes it certain
    const std::size_t found = session.document().position();
    session.select(list->topLevelItem(0)->data(0, Qt::UserRole).toString().toStdString());
    const std::string worst = session.selected();
    QTest::keyClick(f.window.get(), Qt::Key_A);
    REQUIRE(f.source().landmarks.trust_of(worst).accepted);
    REQUIRE_FALSE(unsure(f.source().landmarks.trust_of(worst)));
    f.find<QDoubleSpinBox>("mark_within_mm")->setValue(2);
    f.press("mark_accept_within");
    for (const auto& [name, t] : f.source().landmarks.trust)
        CHECK(t.accepted == (t.expected_mm <= 2 || name == worst));
    while (session.document().position() > found) session.document().undo();
    REQUIRE(f.source().landmarks.points == set.points);
    // a point moved by hand outlives the next search
    keep_still(f);
    session.select("gnathion");
    f.window->views().frame_home();
    QTest::qWait(60);
    const QPoint from = f.on_screen(set.points.at("gnathion"));
    Viewport& view = f.source_view();
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, from + QPoint(0, -6));
    QTest::mouseMove(&view, from + QPoint(0, -12));
    QTest::mouseRelease(&view, Qt::LeftButton, {}, from + QPoint(0, -12));
    const Vec3 mine = f.source().landmarks.points.at("gnathion");
    REQUIRE(f.source().landmarks.trust_of("gnathion").origin == Origin::Hand);
    f.press("mark_find");
    REQUIRE(wait_until([&] { return !session.busy(); }));
    REQUIRE(f.source().landmarks.points.at("gnathion") == mine);
    // the demo's cap is left out, in a step of its own
    REQUIRE(f.source().ignored);
    // each of them is one step
    session.document().undo();
    session.document().undo();
    REQUIRE(f.source().landmarks.points == set.points);
    session.document().undo();
    REQUIRE_FALSE(f.source().ignored);
    REQUIRE(f.source().landmarks.points == set.points);
    session.document().undo();
    REQUIRE(f.source().landmarks.points.empty());
}

TEST_CASE("Mark window: marked by the program and the two worst put right by hand") {
    Fixture f;
    SECTION("a head") {
        f.open_demo(false);
        detect(f);
        f.find<QCheckBox>("mark_snap")->setChecked(false);
        const auto truth = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"));
        for (int i = 0; i < 2; ++i) put_worst_right(f, truth->set);
        f.station("station_fit");
        f.press("fit_start");
        REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
        REQUIRE(f.window->session().state().fit());
        CHECK(f.window->session().state().fit()->figures.regions.at("face").median < 0.05);
        CHECK(f.window->session().state().fit()->figures.flipped_faces == 0);
    }
    SECTION("a body") {
        f.open_scan("Bram", "subjects/bram/bram_scan.ply", "");
        auto* set = f.find<QComboBox>("mark_set");
        f.station("station_mark");
        set->setCurrentIndex(3);
        emit set->activated(3);
        detect(f);
        REQUIRE(f.source().landmarks.points.size() > 90);
        f.find<QCheckBox>("mark_snap")->setChecked(false);
        const auto truth = read_landmarks(demo("subjects/bram/bram_landmarks.json"));
        // joints inside the limbs, beneath what is marked on them
        const auto& joints = f.source().landmarks.joints;
        REQUIRE(joints.size() == demo_kit()->joints.size());
        for (const auto& [joint, point] : {std::pair{"shin_l", "patella_l"}, {"forearm_r", "olecranon_r"}})
            CHECK(10 * (joints.at(joint).at - truth->set.points.at(point)).norm() < 80);
        CHECK(10 * (joints.at("shin_l").at - joints.at("shin_r").at).norm() > 100);
        for (const char* name : {"patella_l", "dactylion_3_r", "acropodion_l", "olecranon_r"}) {
            INFO(name);
            CHECK(10 * (f.source().landmarks.points.at(name) - truth->set.points.at(name)).norm() < 12);
        }
        for (int i = 0; i < 2; ++i) put_worst_right(f, truth->set);
    }
}

TEST_CASE("Mark window: looking for landmarks is stopped and nothing changes") {
    Fixture f;
    f.open_demo(false);
    f.station("station_mark");
    const std::size_t before = f.window->session().document().position();
    f.press("mark_find");
    REQUIRE(f.find<QPushButton>("mark_find")->text() == "Cancel");
    f.press("mark_find");
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }, 30000));
    REQUIRE(f.window->session().document().position() == before);
    REQUIRE(f.source().landmarks.points.empty());
}

TEST_CASE("Mark window: looking at a photograph is stopped, from the front as from the side, and nothing changes") {
    Fixture f;
    open_unmarked_portraits(f);
    Session& session = f.window->session();
    const std::size_t before = session.document().position();
    for (const std::size_t photo : {0, 1}) {
        session.look_at_photo(Session::PhotoPlace{session.state().current()->photo_sets[0].id, photo});
        f.press("mark_find");
        REQUIRE(f.find<QPushButton>("mark_find")->text() == "Cancel");
        f.press("mark_find");
        REQUIRE(wait_until([&] { return !session.busy(); }, 60000));
        CHECK(f.find<QPushButton>("mark_find")->text() != "Cancel");
        CHECK(session.document().position() == before);
        CHECK(session.photo_marks().points.empty());
        CHECK(f.questions.empty());  // what one asked for is no failure
    }
    f.press("mark_find");  // and again, to the end
    REQUIRE(wait_until([&] { return !session.busy(); }));
    CHECK(session.photo_marks().points.size() > 15);
}

TEST_CASE("Mark window: sets, list and picture") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    auto* set = f.find<QComboBox>("mark_set");
    auto* list = f.find<QTreeWidget>("mark_list");
    const int head = list->topLevelItemCount();
    set->setCurrentIndex(0);
    emit set->activated(0);
    REQUIRE(list->topLevelItemCount() == 10);
    set->setCurrentIndex(3);
    emit set->activated(3);
    REQUIRE(list->topLevelItemCount() > head + 30);
    QTest::qWait(60);
    f.window->session().select("cheilion_l");
    const QPixmap mouth = f.find<QLabel>("mark_picture")->pixmap(Qt::ReturnByValue);
    f.window->session().select("patella_l");
    REQUIRE_FALSE(mouth.isNull());
    REQUIRE(mouth.toImage() != f.find<QLabel>("mark_picture")->pixmap(Qt::ReturnByValue).toImage());
    CHECK(list->topLevelItem(0)->toolTip(0).contains('('));  // the anatomical name
}

TEST_CASE("Mark window: the views fly to the point that is asked for, and stay when they are held") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    Session& session = f.window->session();
    session.select("pronasale");
    QTest::qWait(500);
    const Vec3 nose = f.window->views().camera().camera().target;
    session.select("tragion_l");
    REQUIRE(wait_until([&] { return (f.window->views().camera().camera().target - nose).norm() > 60; }, 10000));
    QTest::qWait(500);
    const Camera ear = f.window->views().camera().camera();
    REQUIRE((ear.target - nose).norm() > 60);
    CHECK(ear.yaw > 70);  // an ear is looked at from its side
    QTest::keyClick(f.window.get(), Qt::Key_H);
    session.select("pronasale");
    QTest::qWait(400);
    REQUIRE(f.window->views().camera().camera().target == ear.target);
}

TEST_CASE("Mark window: what looks wrong is named and repaired with one press") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    REQUIRE_FALSE(f.find<QPushButton>("mark_repair")->isVisible());
    ProjectState next = f.window->session().state();
    auto& points = next.current()->sources.back().landmarks.points;
    const auto good = points;
    std::swap(points["exocanthion_l"], points["cheilion_l"]);
    f.window->session().change("exchange", std::move(next));
    REQUIRE(f.find<QPushButton>("mark_repair")->isVisible());
    CHECK(f.find<QLabel>("mark_finding")->text().contains("swapped"));
    f.press("mark_repair");
    REQUIRE(f.source().landmarks.points == good);
    REQUIRE_FALSE(f.find<QPushButton>("mark_repair")->isVisible());
}

TEST_CASE("Mark window: points by keys") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    keep_still(f);
    Session& session = f.window->session();
    session.select("glabella");
    QTest::qWait(60);
    Viewport& view = f.source_view();
    const auto at = [&](const char* name) { return f.source().landmarks.points.at(name); };
    const Vec3 before = at("glabella");
    SECTION("an arrow key nudges by half a millimetre along the surface") {
        QTest::keyClick(&view, Qt::Key_Right);
        CHECK(1000 * (at("glabella") - before).norm() == Approx(0.5).margin(0.12));
        QTest::keyClick(&view, Qt::Key_Left);
        CHECK(1000 * (at("glabella") - before).norm() < 0.25);
    }
    SECTION("a locked point stays") {
        f.trigger("points_lock");
        QTest::keyClick(&view, Qt::Key_Up);
        REQUIRE(at("glabella") == before);
        QTest::keyClick(f.window.get(), Qt::Key_Delete);
        REQUIRE(f.source().landmarks.points.contains("glabella"));
        f.trigger("points_lock");
        QTest::keyClick(&view, Qt::Key_Up);
        REQUIRE(at("glabella") != before);
    }
    SECTION("several move, turn and spread together") {
        session.select_also({"sellion", "pronasale"});
        const Vec3 nose = at("pronasale");
        QTest::keyClick(&view, Qt::Key_Up);
        CHECK(at("glabella") != before);
        CHECK(at("pronasale") != nose);
        const double apart = (at("pronasale") - at("glabella")).norm();
        for (int i = 0; i < 6; ++i) QTest::keyClick(&view, Qt::Key_Up, Qt::ControlModifier);
        CHECK((at("pronasale") - at("glabella")).norm() > 1.02 * apart);
        const Vec3 turned = at("glabella");
        for (int i = 0; i < 4; ++i) QTest::keyClick(&view, Qt::Key_Right, Qt::ControlModifier);
        CHECK((at("glabella") - turned).norm() > 0);
    }
    SECTION("turning several of which none is marked does nothing") {
        session.select("patella_l");
        session.select_also({"patella_r"});
        const std::size_t steps = session.document().position();
        QTest::keyClick(&view, Qt::Key_Right, Qt::ControlModifier);
        QTest::keyClick(&view, Qt::Key_Up, Qt::ControlModifier);
        REQUIRE(session.document().position() == steps);
    }
    SECTION("snapping sees the scan's texture: a lip is redder than the skin beside it") {
        const SnapSurface surface = session.snap_surface();
        REQUIRE(surface.lightness);
        const Vec3 lip = at("labiale_inferius"), chin = at("gnathion");
        const auto shade = [&](const Vec3& p) { return surface.lightness(surface.query->closest(p, 1)); };
        const Vec3 in_lip = 0.5 * (lip + at("stomion"));
        CHECK(shade(in_lip) < shade(0.5 * (at("pronasale") + at("sellion"))) - 0.03);
        CHECK(shade(chin) > 0);
    }
    SECTION("snapping goes to what the definition names") {
        session.select("pronasale");
        for (int i = 0; i < 5; ++i) QTest::keyClick(&view, Qt::Key_Up);
        const Vec3 off = at("pronasale");
        f.trigger("points_snap");
        const auto forward = [&](const Vec3& p) { return session.source_to_view()(p).z(); };
        CHECK(forward(at("pronasale")) > forward(off));
    }
    SECTION("a hidden point is not drawn, show all brings it back") {
        f.trigger("points_hide");
        REQUIRE(f.source().landmarks.trust_of("glabella").hidden);
        f.trigger("points_show_all");
        REQUIRE_FALSE(f.source().landmarks.trust_of("glabella").hidden);
    }
}
