// Which views are seen beside one another, and that it is remembered.
#include <catch2/catch.hpp>

#include <QMenu>
#include <QTest>
#include <set>

#include "app/stations/registry.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/views/arrangement.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

QAction* entry(QWidget* view, const QString& text) {
    QMenu* menu = view->findChild<QMenu*>("view_menu");
    REQUIRE(menu);
    emit menu->aboutToShow();
    for (QAction* one : menu->actions()) {
        if (one->text() == text) return one;
    }
    return nullptr;
}

void choose(QWidget* view, const QString& text) {
    QAction* one = entry(view, text);
    REQUIRE(one);
    REQUIRE(one->isEnabled());
    one->trigger();
}

std::vector<ViewSeats::Placed> seen(const MainWindow& window) {
    std::vector<ViewSeats::Placed> out;
    for (const auto& one : const_cast<MainWindow&>(window).views().seats().placed()) {
        if (one.widget->isVisible()) out.push_back(one);
    }
    return out;
}

}  // namespace

TEST_CASE("Arrangement: so many views of what there is") {
    const std::vector<ViewId> two{ViewId::Base, ViewId::Source};
    CHECK(arrange(two, 1) == Arrangement{{ViewId::Source}});
    CHECK(arrange(two, 2) == Arrangement{{ViewId::Base}, {ViewId::Source}});
    const Arrangement four = arrange(two, 4);
    REQUIRE(four.size() == 4);
    CHECK(four[2] == ViewSeat{ViewId::Source, true, 90, 0});
    CHECK(four[3].own_camera);
    CHECK_FALSE(four[3] == four[2]);
    SECTION("never more than four, never none") {
        CHECK(arrange(two, 9).size() == 4);
        CHECK(arrange(two, 0).size() == 1);
    }
    SECTION("a photograph is not shown twice") {
        for (const ViewSeat& seat : arrange({ViewId::Base, ViewId::Photo}, 4))
            if (seat.own_camera) CHECK(seat.shows == ViewId::Base);
    }
    SECTION("what cannot be shown is left out, the rest keeps its order") {
        CHECK(those_of(four, {ViewId::Base}) == Arrangement{{ViewId::Base}});
        CHECK(those_of({{ViewId::Photo}, {ViewId::Base}, {ViewId::Photo}}, {ViewId::Photo, ViewId::Base}) ==
              Arrangement{{ViewId::Photo}, {ViewId::Base}});
    }
}

TEST_CASE("Arrangement: written and read again") {
    const Arrangement all{{ViewId::Base}, {ViewId::Photo}, {ViewId::Result, true, -90, 12.5}, {ViewId::Source}};
    CHECK(arrangement_of(to_text(all)) == all);
    CHECK(arrangement_of(to_text({})).empty());
    for (const char* damaged : {"bse", "base base base base base", "base@", "base@1", "base@a/b", "base@1/x"})
        CHECK(arrangement_of(damaged).empty());
}

TEST_CASE("Views arranged: from a view's own header") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    ViewSet& views = f.window->views();
    Viewport* source = views.source_view();
    REQUIRE(seen(*f.window).size() == 2);

    SECTION("another one beside it has a camera of its own, and what is done there is done on its thing") {
        choose(source, "Another view beside it");
        auto now = seen(*f.window);
        REQUIRE(now.size() == 3);
        REQUIRE(now[2].shows == ViewId::Source);
        Viewport* beside = now[2].port;
        REQUIRE(beside != source);
        CHECK(beside->layers().size() == source->layers().size());
        CHECK_FALSE(beside->layers().empty());
        CHECK(std::abs(beside->camera_link()->camera().yaw - 90) < 1e-9);
        const double yaw = source->camera_link()->camera().yaw;
        QTest::keyClick(beside, Qt::Key_Left, Qt::AltModifier);
        CHECK(source->camera_link()->camera().yaw == yaw);
        CHECK(beside->camera_link()->camera().yaw > 90);
        // a fixed view turns the one that has the keys
        beside->setFocus();
        f.trigger("view_back");
        CHECK(source->camera_link()->camera().yaw == yaw);
        CHECK(std::abs(std::abs(beside->camera_link()->camera().yaw) - 180) < 1e-9);
        SECTION("and goes again") {
            choose(beside, "Close this view");
            CHECK(seen(*f.window).size() == 2);
        }
        SECTION("it takes part in the shared camera when told to") {
            choose(beside, "Camera of its own");
            CHECK(beside->camera_link() == &views.camera());
        }
    }
    SECTION("a view shows another thing") {
        choose(views.base_view(), "Source");
        const auto now = seen(*f.window);
        REQUIRE(now.size() == 2);
        CHECK(now[0].shows == ViewId::Source);
        CHECK(now[1].shows == ViewId::Source);
        CHECK_FALSE(entry(source, "Photograph"));  // there is none
        choose(now[0].widget, "As the station shows them");
        CHECK(seen(*f.window)[0].shows == ViewId::Base);
    }
    SECTION("one alone, and all again") {
        choose(source, "This view alone");
        REQUIRE(seen(*f.window).size() == 1);
        choose(source, "All views");
        CHECK(seen(*f.window).size() == 2);
    }
}

TEST_CASE("Views arranged: four of them stand in two rows, and a marker is set in any") {
    Fixture f;
    f.open_demo(true);
    f.station("station_mark");
    f.trigger("views_4");
    const auto now = seen(*f.window);
    REQUIRE(now.size() == 4);
    f.rest();
    const auto at = [](const QWidget* w) { return w->mapTo(w->window(), QPoint(0, 0)); };
    CHECK(at(now[0].widget).y() == at(now[1].widget).y());
    CHECK(at(now[2].widget).y() > at(now[0].widget).y() + 100);
    CHECK(at(now[2].widget).x() == at(now[0].widget).x());
    REQUIRE(now[2].shows == ViewId::Source);

    const std::string name = "pronasale";
    REQUIRE(f.source().landmarks.points.contains(name));
    f.window->session().select(name);
    f.rest();
    // its marker, dragged in the view from the side
    Viewport* side = now[2].port;
    const Vec3 before = f.source().landmarks.points.at(name);
    const QPoint from = side->screen_of(f.window->session().source_to_view()(before)).toPoint();
    REQUIRE(side->rect().contains(from));
    QTest::mousePress(side, Qt::LeftButton, {}, from);
    QTest::mouseMove(side, from + QPoint(6, 0));
    QTest::mouseMove(side, from + QPoint(8, 0));
    QTest::mouseRelease(side, Qt::LeftButton, {}, from + QPoint(8, 0));
    CHECK(f.source().landmarks.points.at(name) != before);  // near it: it snaps to the tip again
    CHECK(f.source().landmarks.trust_of(name).origin == Origin::Hand);
    CHECK(f.window->session().selected() == name);
}

TEST_CASE("Views arranged: remembered for the machine, and for each project") {
    Fixture f;
    f.open_demo(false);
    f.station("station_gather");
    f.trigger("views_1");
    REQUIRE(seen(*f.window).size() == 1);
    f.station("station_mark");
    CHECK(seen(*f.window).size() == 2);  // another station has its own
    f.station("station_gather");
    CHECK(seen(*f.window).size() == 1);

    const std::string first = f.scratch / "first.veldstone", second = f.scratch / "second.veldstone";
    REQUIRE(f.save_to(first));
    REQUIRE(f.save_to(second));
    REQUIRE(f.window->open_project(QString::fromStdString(first)));
    f.station("station_gather");
    CHECK(seen(*f.window).size() == 1);  // the machine's
    f.trigger("views_3");
    f.find<QAction>("view_things")->setChecked(false);
    REQUIRE(f.window->open_project(QString::fromStdString(second)));
    f.find<QAction>("view_things")->setChecked(true);
    f.station("station_gather");
    f.trigger("views_2");
    REQUIRE(f.window->open_project(QString::fromStdString(first)));
    f.station("station_gather");
    CHECK(seen(*f.window).size() == 3);
    CHECK_FALSE(f.find<QAction>("view_things")->isChecked());
    f.trigger("views_of_station");
    CHECK(seen(*f.window).size() == 2);
}

TEST_CASE("Views arranged: every station offers more than it shows itself, and each thing can be seen there") {
    Fixture f;
    f.open_demo(true);
    for (const StationEntry& entry : stations()) {
        CAPTURE(std::string(entry.title));
        f.window->go_to(entry.station);
        f.trigger("views_1");
        REQUIRE(seen(*f.window).size() == 1);
        std::set<ViewId> shown;
        for (const char* thing : {"Base", "Source", "Photograph", "Result"}) {
            if (!::entry(seen(*f.window)[0].widget, thing)) continue;
            choose(seen(*f.window)[0].widget, thing);
            const auto now = seen(*f.window);
            REQUIRE(now.size() == 1);
            shown.insert(now[0].shows);
            if (now[0].port) CHECK_FALSE(now[0].port->layers().empty());
        }
        CHECK(shown.size() >= 2);
        f.trigger("views_of_station");
    }
}

TEST_CASE("Views arranged: what is done in Tidy is done to the source, not to the base beside it") {
    Fixture f;
    f.open_demo(false);
    f.window->go_to(Station::Tidy);
    f.trigger("views_2");
    const auto now = seen(*f.window);
    REQUIRE(now.size() == 2);
    const bool base_first = now[0].shows == ViewId::Base;
    REQUIRE(now[base_first ? 0 : 1].shows == ViewId::Base);
    REQUIRE(now[base_first ? 1 : 0].shows == ViewId::Source);
    f.rest();
    f.window->tidy().set_mode(TidyMode::Joined);
    const auto click = [&](Viewport* view) {
        QTest::mouseClick(view, Qt::LeftButton, {}, QPoint(view->width() / 2, view->height() / 2));
        return f.window->tidy().selected_count();
    };
    CHECK(click(now[base_first ? 0 : 1].port) == 0);
    CHECK(click(now[base_first ? 1 : 0].port) > 0);
}
