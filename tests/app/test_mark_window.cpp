#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QLabel>
#include <QTreeWidget>

#include "app/views/photo_view.h"
#include "app/views/viewport.h"
#include "core/io/image.h"
#include "core/landmark/snap.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

void detect(Fixture& f) {
    f.station("station_mark");
    f.press("mark_find");
    REQUIRE(f.window->session().detecting());
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
}

// An exact place: nothing flies, nothing snaps.
void keep_still(Fixture& f) {
    f.find<QCheckBox>("mark_hold")->setChecked(true);
    f.find<QCheckBox>("mark_snap")->setChecked(false);
}

// The point of the list's line is put where it truly belongs: selected, the views fly to it, dragged.
void put_worst_right(Fixture& f, const LandmarkSet& truth) {
    auto* list = f.find<QTreeWidget>("mark_list");
    QTreeWidgetItem* worst = nullptr;
    for (int i = 0; i < list->topLevelItemCount() && !worst; ++i) {
        const std::string name = list->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString();
        if (truth.points.contains(name) && f.source().landmarks.points.contains(name)) worst = list->topLevelItem(i);
    }
    REQUIRE(worst);
    REQUIRE(worst->text(1).endsWith("?"));
    const std::string name = worst->data(0, Qt::UserRole).toString().toStdString();
    list->scrollToItem(worst);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(worst).center());
    REQUIRE(f.window->session().selected() == name);
    QTest::qWait(500);  // the flight
    Viewport& view = f.source_view();
    const QPoint to = f.on_screen(truth.points.at(name));
    INFO(name);
    REQUIRE(view.rect().contains(to));
    const QPoint from = f.on_screen(f.source().landmarks.points.at(name));
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, (from + to) / 2 + QPoint(5, 0));
    QTest::mouseMove(&view, to);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    REQUIRE(f.source().landmarks.trust_of(name).origin == Origin::Hand);
}

void open_unmarked_portraits(Fixture& f) {
    ProjectState s = new_project(demo_kit());
    auto photos = read_photos("portraits",
                              {demo("subjects/juniper/juniper_front.jpg"), demo("subjects/juniper/juniper_side.jpg")});
    REQUIRE(photos);
    s.subjects.push_back({"Juniper", {}, {}, {*photos}});
    REQUIRE(save_project(f.scratch / "p.veldstone", s));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "p.veldstone")));
    f.station("station_mark");
    QTest::qWait(50);
}

}  // namespace

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
    // each of them is one step
    session.document().undo();
    session.document().undo();
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
    CHECK(ear.yaw > 25);  // looked at face on
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

TEST_CASE("Mark window: a curve is laid by clicks and shaped by its handles") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    keep_still(f);
    Session& session = f.window->session();
    f.window->views().frame_home();
    QTest::qWait(60);
    const Points truth = f.source().landmarks.curves.at("mouth_line");
    session.select("mouth_line");
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    REQUIRE_FALSE(f.source().landmarks.curves.contains("mouth_line"));
    Viewport& view = f.source_view();
    // the points that lie in the way must not take the clicks
    ProjectState next = session.state();
    next.current()->sources.back().landmarks.points.clear();
    session.change("only curves", std::move(next));
    f.window->views().frame_home();
    QTest::qWait(60);
    f.find<QCheckBox>("mark_snap")->setChecked(true);
    session.select("mouth_line");
    QTest::mouseClick(&view, Qt::LeftButton, {}, f.on_screen(truth.front()));
    REQUIRE_FALSE(f.source().landmarks.curves.contains("mouth_line"));  // one place is no curve yet
    QTest::mouseClick(&view, Qt::LeftButton, {}, f.on_screen(truth[truth.size() / 2]));
    REQUIRE(f.source().landmarks.curves.contains("mouth_line"));
    const std::size_t position = session.document().position();
    const Points handles = f.window->mark().handles();
    REQUIRE(handles.size() >= 2);
    const QPoint end = f.on_screen(handles.back());
    QTest::mousePress(&view, Qt::LeftButton, {}, end);
    QTest::mouseMove(&view, end + QPoint(6, 4));
    QTest::mouseMove(&view, end + QPoint(10, 8));
    QTest::mouseRelease(&view, Qt::LeftButton, {}, end + QPoint(10, 8));
    REQUIRE(session.document().position() == position + 1);  // one step however long the way was
    CHECK((f.on_screen(f.window->mark().handles().back()) - (end + QPoint(10, 8))).manhattanLength() <= 3);
}

TEST_CASE("Mark window: a curve and a point of one's own are laid on the base, named, and kept with the kit") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    keep_still(f);
    f.window->views().frame_home();
    QTest::qWait(60);
    Viewport& base = *f.window->views().base_view();
    f.trigger("points_own_curve");
    for (const int x : {-30, 0, 30})
        QTest::mouseClick(&base, Qt::LeftButton, {}, QPoint(base.width() / 2 + x, base.height() / 4));
    f.trigger("points_end_curve");
    REQUIRE(f.window->session().state().base_curves.contains("own curve"));
    REQUIRE(f.window->session().selected() == "own curve");
    REQUIRE(f.window->mark().rename_own(f.window->session().selected(), "brow fold"));
    REQUIRE(f.window->session().state().base_curves.contains("brow fold"));
    REQUIRE_FALSE(f.window->mark().rename_own(f.window->session().selected(), "pronasale"));
    REQUIRE(save_project(f.scratch / "own.veldstone", f.window->session().state()));
    const auto back = load_project(f.scratch / "own.veldstone");
    REQUIRE(back);
    REQUIRE(back->state.base_curves.at("brow fold").size() ==
            f.window->session().state().base_curves.at("brow fold").size());
}

TEST_CASE("Mark window: a doubtful curve that runs behind the camera is drawn as far as it is seen") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    keep_still(f);
    ProjectState next = f.window->session().state();
    Trust doubt;
    doubt.origin = Origin::Found, doubt.expected_mm = 9;
    next.current()->sources.back().landmarks.trust["jaw_line"] = doubt;
    f.window->session().change("doubt", std::move(next));
    f.window->session().select("jaw_line");  // drawn dashed, wherever it is
    Camera close = f.window->views().camera().camera();
    for (const double yaw : {0.0, 60.0, 120.0, 180.0}) {
        close.yaw = yaw, close.distance = 20;
        f.window->views().camera().set(close);
        REQUIRE_FALSE(f.source_view().grabFramebuffer().isNull());  // before it was cut it asked for 20 GB
    }
}

TEST_CASE("Mark window: the loupe shows what is under the pointer, larger") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    keep_still(f);
    f.window->views().frame_home();
    QTest::qWait(100);
    Viewport& view = f.source_view();
    const QPoint at(view.width() / 2, view.height() / 2);
    QTest::mouseMove(&view, at);
    const QImage without = view.grabFramebuffer();
    QTest::keyClick(f.window.get(), Qt::Key_L);
    REQUIRE(f.window->views().base_view()->has_loupe());
    QTest::mouseMove(&view, at + QPoint(1, 0));
    QTest::qWait(100);
    const QImage with = view.grabFramebuffer();
    REQUIRE(with.size() == without.size());
    const QPointF place = loupe_place(at + QPoint(1, 0), view.size());
    int changed = 0;
    for (int d = -40; d <= 40; d += 4)
        changed += with.pixel((place + QPointF(d, 7)).toPoint()) != without.pixel((place + QPointF(d, 7)).toPoint());
    CHECK(changed > 10);
    QTest::mouseClick(&view, Qt::LeftButton, {}, at);  // still marks while the glass is out
}

TEST_CASE("Mark window: photographs are marked by the program and by hand") {
    Fixture f;
    open_unmarked_portraits(f);
    Session& session = f.window->session();
    auto* tree = f.find<QTreeWidget>("subjects");
    const auto items = tree->findItems("juniper_front.jpg", Qt::MatchContains | Qt::MatchRecursive);
    REQUIRE(items.size() == 1);
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(items[0]).center());
    REQUIRE(session.photo());
    PhotoView& view = *f.window->views().photo_view();
    REQUIRE(view.isVisible());
    REQUIRE_FALSE(f.source_view().isVisible());
    keep_still(f);
    SECTION("found, moved by hand, saved and opened again") {
        f.press("mark_find");
        REQUIRE(wait_until([&] { return !session.busy(); }));
        PhotoMarks marks = session.photo_marks();
        REQUIRE(marks.points.size() > 40);
        session.select("pronasale");
        const QPointF before(marks.points.at("pronasale").x(), marks.points.at("pronasale").y());
        view.frame(before, 300);
        const QPoint at = view.screen_of(before).toPoint();
        QTest::mousePress(&view, Qt::LeftButton, {}, at);
        QTest::mouseMove(&view, at + QPoint(8, 0));
        QTest::mouseMove(&view, at + QPoint(15, 0));
        QTest::mouseRelease(&view, Qt::LeftButton, {}, at + QPoint(15, 0));
        marks = session.photo_marks();
        CHECK(marks.points.at("pronasale").x() > before.x() + 5);
        CHECK(marks.trust_of("pronasale").origin == Origin::Hand);
        REQUIRE(f.save_to(f.scratch / "p2.veldstone"));
        const auto back = load_project(f.scratch / "p2.veldstone");
        REQUIRE(back);
        REQUIRE(back->state.subjects[0].photo_sets[0].marks[0] == marks);
        REQUIRE(f.window->mark().write(QString::fromStdString(f.scratch / "m.json")));
        session.document().undo();
        REQUIRE(f.window->mark().read(QString::fromStdString(f.scratch / "m.json")));
        REQUIRE(session.photo_marks().points == marks.points);
    }
    SECTION("a click sets the point, arrows nudge it, and no face is said plainly") {
        session.select("stomion");
        QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(view.width() / 2, view.height() / 2));
        REQUIRE(session.photo_marks().points.contains("stomion"));
        session.select("stomion");
        const Vec2 before = session.photo_marks().points.at("stomion");
        QTest::keyClick(&view, Qt::Key_Right);
        CHECK(session.photo_marks().points.at("stomion").x() == Approx(before.x() + 1));
        session.look_at_photo(Session::PhotoPlace{session.state().current()->photo_sets[0].id, 1});
        f.press("mark_find");  // from the side the networks see no face: its outline is found
        REQUIRE(wait_until([&] { return !session.busy(); }));
        CHECK(f.questions.empty());
        CHECK(session.photo_marks().points.size() > 15);
        CHECK(session.photo_marks().points.contains("pronasale"));
        const auto wall = encode_png({300, 300, std::vector<std::uint8_t>(300 * 300 * 4, 170)});
        f.drop({QString::fromStdString(f.scratch.write("wall.png", {wall.begin(), wall.end()}))});
        session.look_at_photo(Session::PhotoPlace{session.state().current()->photo_sets[1].id, 0});
        f.press("mark_find");
        REQUIRE(wait_until([&] { return !session.busy(); }));
        REQUIRE(f.questions.size() == 1);
        CHECK(f.questions[0].contains("wall.png"));
        session.look_at_photo(std::nullopt);
        REQUIRE(f.source_view().isVisible());
    }
}

TEST_CASE("Mark window: marks are copied from another scan of the subject") {
    Fixture f;
    f.open_demo(true);
    ProjectState next = f.window->session().state();
    Source second = next.current()->sources.back();
    second.name = "second scan", second.landmarks = {};
    next.current()->sources.push_back(second);
    f.window->session().change("second", std::move(next));
    f.station("station_mark");
    f.window->mark().copy_from(f.window->session().state().current()->sources.front().id);
    REQUIRE(f.source().landmarks.points.size() > 45);
    CHECK(f.source().landmarks.trust_of("pronasale").origin == Origin::Copied);
}
