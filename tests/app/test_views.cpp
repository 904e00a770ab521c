// The views and whoever says what they show, without a window around them.
#include <catch2/catch.hpp>

#include <QTest>
#include <QTimer>
#include <algorithm>
#include <functional>
#include <map>

#include "app/views/view_set.h"

using namespace veld;

namespace {

// Says what it is told to say, and writes down what it hears.
struct Teller : ViewClient {
    std::vector<ViewId> views = {ViewId::Base};
    Gesture gesture = Gesture::Turn;
    std::string thing;
    Framing framing{Vec3(1, 2, 3), 50};
    std::optional<Marks> seen;
    std::map<ViewId, int> panes, marked;
    std::vector<std::string> heard;
    std::vector<ViewId> of;  // views that strokes were told of
    std::function<void()> before;

    void before_showing() override {
        if (before) before();
    }
    std::vector<ViewId> shown() override { return views; }
    Pane pane(ViewId which) override {
        ++panes[which];
        Pane out;
        out.gesture = gesture;
        out.marks.lines = {{{Vec3::Zero(), Vec3::UnitX()}, QColor(), false, false}};
        return out;
    }
    std::optional<Marks> marks(ViewId which, const Camera&) override {
        ++marked[which];
        return seen;
    }
    Framing home() override { return framing; }
    std::string framed() override { return thing; }
    void clicked(ViewId, const Ray&, Qt::KeyboardModifiers) override { heard.push_back("click"); }
    void stroke_begun(ViewId, const Ray&, double, Qt::KeyboardModifiers) override { heard.push_back("begun"); }
    void stroke_moved(ViewId id, const Ray&, double) override { heard.push_back("moved"), of.push_back(id); }
    void stroke_ended(ViewId id) override { heard.push_back("ended"), of.push_back(id); }
};

struct Shown {
    ViewSet views;
    Teller teller;
    Shown() {
        views.resize(600, 300);
        views.set_client(&teller);
        views.show();
        REQUIRE(QTest::qWaitForWindowExposed(&views));
    }
    ~Shown() { views.set_client(nullptr); }
};

}  // namespace

TEST_CASE("Views: those are there that the client names, and only those are asked for") {
    Shown s;
    CHECK(s.views.base_view()->isVisible());
    CHECK_FALSE(s.views.source_view()->isVisible());
    CHECK(s.teller.panes[ViewId::Source] == 0);
    const int base = s.teller.panes[ViewId::Base];

    SECTION("one that comes is filled at once, whatever was to be refreshed") {
        s.teller.views = {ViewId::Result, ViewId::Base};
        s.views.refresh({ViewId::Base});
        CHECK(s.views.result_view()->isVisible());
        CHECK(s.teller.panes[ViewId::Result] == 1);
        CHECK(s.teller.panes[ViewId::Base] == base + 1);
    }
    SECTION("one that is not there is not asked for") {
        s.views.refresh({ViewId::Result});
        CHECK(s.teller.panes[ViewId::Result] == 0);
    }
    SECTION("without a client what is shown stays") {
        s.views.set_client(nullptr);
        s.views.refresh();
        CHECK(s.views.base_view()->isVisible());
        CHECK(s.teller.panes[ViewId::Base] == base);
    }
}

TEST_CASE(
    "Views: a client that asks for a refresh while it is asked is heard afterwards, and never goes round in circles") {
    Shown s;
    int asked = 0;
    const int base = s.teller.panes[ViewId::Base];
    SECTION("once") {
        s.teller.before = [&] {
            if (++asked == 1) s.views.refresh();
        };
        s.views.refresh({ViewId::Base});
        CHECK(asked == 2);
        CHECK(s.teller.panes[ViewId::Base] == base + 2);
    }
    SECTION("again and again: other events have their turn") {
        bool turn = false;
        s.teller.before = [&] {
            if (++asked < 1000 && !turn) s.views.refresh();
        };
        QTimer::singleShot(0, &s.views, [&] { turn = true; });
        s.views.refresh({ViewId::Base});
        CHECK(asked < 10);
        REQUIRE(QTest::qWaitFor([&] { return turn; }, 5000));
        CHECK(asked < 1000);
    }
    s.teller.before = nullptr;
}

TEST_CASE("Views: marks that depend on the camera follow it, a pane's own stay") {
    Shown s;
    CHECK(s.views.base_view()->lines().size() == 1);
    s.teller.seen = Marks{};
    const int before = s.teller.marked[ViewId::Base];
    s.views.camera().look_from(FixedView::Side);
    CHECK(s.teller.marked[ViewId::Base] == before + 1);
    CHECK(s.views.base_view()->lines().empty());
}

TEST_CASE("Views: the camera goes home for another thing, not for the same one again") {
    Shown s;
    const auto target = [&] { return s.views.camera().camera().target; };
    // titles lie over the upper edge: what is looked at keeps a little below the middle
    const auto at = [&](const Vec3& middle) {
        const Vec3 off = target() - middle;
        return std::hypot(off.x(), off.z()) < 1e-9 && off.y() >= 0 && off.y() < 20;
    };
    CHECK(target() == Vec3::Zero());
    s.teller.thing = "a scan";
    s.views.refresh();
    CHECK(at(Vec3(1, 2, 3)));
    s.teller.framing = {Vec3(7, 7, 7), 50};
    s.views.refresh();
    CHECK(at(Vec3(1, 2, 3)));
    s.teller.thing = "another scan";
    s.views.refresh({ViewId::Base});
    CHECK(at(Vec3(7, 7, 7)));
    s.teller.framing = {};  // nothing to look at
    s.views.frame_home();
    CHECK(at(Vec3(7, 7, 7)));
}

TEST_CASE("Views: a stroke ends with who heard it begin") {
    Shown s;
    s.teller.gesture = Gesture::Touch;
    s.views.refresh();
    Viewport* view = s.views.base_view();
    QTest::mousePress(view, Qt::LeftButton, {}, QPoint(100, 100));
    REQUIRE(s.teller.heard == std::vector<std::string>{"begun"});

    SECTION("when the hand lets go") {
        QTest::mouseMove(view, QPoint(110, 100));
        QTest::mouseRelease(view, Qt::LeftButton, {}, QPoint(110, 100));
        CHECK(s.teller.heard.back() == "ended");
        CHECK(std::count(s.teller.heard.begin(), s.teller.heard.end(), "ended") == 1);
    }
    SECTION("as a stroke on what it began on, when the views are arranged anew meanwhile") {
        s.teller.views = {ViewId::Base, ViewId::Source};
        s.views.arrange_as({{ViewId::Source}, {ViewId::Base}});
        QTest::mouseMove(view, QPoint(110, 100));
        QTest::mouseRelease(view, Qt::LeftButton, {}, QPoint(110, 100));
        CHECK(s.teller.heard.back() == "ended");
        CHECK(s.teller.of == std::vector<ViewId>(s.teller.of.size(), ViewId::Base));
    }
    SECTION("when another client comes, who hears nothing of it") {
        Teller other;
        other.gesture = Gesture::Touch;
        s.views.set_client(&other);
        CHECK(s.teller.heard == std::vector<std::string>{"begun", "ended"});
        QTest::mouseMove(view, QPoint(110, 100));
        QTest::mouseRelease(view, Qt::LeftButton, {}, QPoint(110, 100));
        CHECK(other.heard.empty());
        CHECK(s.teller.heard.size() == 2);
        s.views.set_client(&s.teller);
    }
}

TEST_CASE("Views: a flight arrives, and ends where it is when something else is looked at") {
    Shown s;
    Camera to = s.views.camera().camera();
    to.target = Vec3(100, 0, 0);
    s.views.fly_to(to);
    SECTION("left alone") {
        REQUIRE(QTest::qWaitFor([&] { return s.views.camera().camera().target == to.target; }, 20000));
    }
    SECTION("framed meanwhile") {
        s.views.frame({Vec3(0, 9, 0), 10});
        QTest::qWait(400);
        CHECK((s.views.camera().camera().target - Vec3(0, 9, 0)).norm() < 2);
    }
}
