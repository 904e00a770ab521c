// Stations: the registry is all that the window knows of them.
#include <catch2/catch.hpp>

#include <QLabel>
#include <QStackedWidget>

#include "app/stations/registry.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

// A station that does nothing yet: one page, one line in a registry.
constexpr Station kQuiet{"quiet"};
class QuietStation : public StationPage {
 public:
    explicit QuietStation(const StationContext& c) : StationPage(c), label_(new QLabel("Nothing here")) {
        label_->setObjectName("quiet_panel");
        c.commands.add(c.menus.view, kQuiet, {.id = "quiet_deed", .title = "Quiet deed", .key = Qt::Key_X},
                       [this] { ++pressed; });
    }
    QWidget* panel() override { return label_; }
    void entered() override { ++entries; }
    std::vector<ViewId> shown() override { return {ViewId::Result}; }
    static inline int entries = 0, pressed = 0;

 private:
    QLabel* label_;
};

}  // namespace

TEST_CASE("Stations: a new one is a page and a line") {
    QSettings().clear();
    std::vector<StationEntry> all = stations();
    all.insert(all.begin() + 3, {kQuiet, "Quiet", make_station<QuietStation>});
    QuietStation::entries = QuietStation::pressed = 0;
    MainWindow window(all);
    window.answer = [](const QString&, const QStringList&) { return 1; };
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    QApplication::setActiveWindow(&window);
    auto* button = window.findChild<QToolButton*>("station_quiet");
    REQUIRE(button);
    CHECK(button->text() == "Quiet");

    SECTION("its button, its place on the rail and its panel") {
        QTest::mouseClick(button, Qt::LeftButton);
        CHECK(window.station() == kQuiet);
        CHECK(button->isChecked());
        CHECK(QuietStation::entries == 1);
        CHECK(window.views().result_view()->isVisibleTo(&window.views()));
        CHECK_FALSE(window.views().base_view()->isVisibleTo(&window.views()));
        CHECK(window.findChild<QLabel*>("quiet_panel")->isVisible());
        CHECK_FALSE(window.look_bar().isVisible());
        const auto top_of = [&](const char* name) { return window.findChild<QToolButton*>(name)->y(); };
        CHECK(top_of("station_tidy") < button->y());
        CHECK(button->y() < top_of("station_mark"));
        QTest::keyClick(&window, Qt::Key_4, Qt::ControlModifier);  // the fourth in the row
        CHECK(QuietStation::entries == 2);
    }
    SECTION("a key of several stations goes to the one that is on") {
        QTest::keyClick(&window, Qt::Key_X);
        CHECK(QuietStation::pressed == 0);
        window.go_to(kQuiet);
        QTest::keyClick(&window, Qt::Key_X);
        CHECK(QuietStation::pressed == 1);
        window.go_to(Station::Fit);
        QTest::keyClick(&window, Qt::Key_X);
        CHECK(QuietStation::pressed == 1);
    }
    SECTION("what no registry has is nowhere to go to") {
        window.go_to(kQuiet);
        window.go_to(Station{"nowhere"});
        CHECK(window.station() == kQuiet);
    }
}

TEST_CASE("Stations: each is entered with a project and without, and shows its own panel") {
    Fixture f;
    const bool with_project = GENERATE(false, true);
    if (with_project) f.open_demo(true);
    std::set<QWidget*> panels;
    auto* stack = f.window->findChild<QStackedWidget*>("station_panels");
    REQUIRE(stack);
    for (const StationEntry& entry : stations()) {
        f.station(("station_" + std::string(entry.station.id)).c_str());
        QTest::qWait(20);
        CHECK(f.window->station() == entry.station);
        panels.insert(stack->currentWidget());
    }
    CHECK(panels.size() == stations().size());
    CHECK(f.questions.isEmpty());
}
