// Marking in the window: curves, the loupe, photographs, marks of another scan.
#include <catch2/catch.hpp>

#include "tests/app/mark_support.h"

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
