// The way of somebody who has never seen the program: what is offered is done, without the guide.
#include <catch2/catch.hpp>

#include "app/window/next_line.h"
#include "tests/app/window_fixture.h"

using namespace veld;

TEST_CASE("Newcomer: from the first page to a file in at most twelve clicks, and no dead end") {
    Fixture f;
    int clicks = 0;
    const auto click = [&](QWidget* on) {
        REQUIRE(on->isVisible());
        REQUIRE(on->isEnabled());
        ++clicks;
        QTest::mouseClick(on, Qt::LeftButton);
        REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
        f.wait_prepared();
    };
    auto* next = f.find<NextLine>("next_step");
    click(f.find<QPushButton>("start_demo"));
    REQUIRE(wait_until([&] { return f.window->session().state().source() != nullptr; }));
    f.wait_prepared();
    f.quick_fit(2);  // how fine the fit is changes nothing of the way

    const auto go_on = [&](NextStep expected) {
        REQUIRE(wait_until([&] { return next->isVisible() && next->step() == expected; }, 20000));
        click(next);
    };
    go_on(NextStep::Repair);
    go_on(NextStep::FindLandmarks);
    CHECK(f.window->session().state().source()->landmarks.points.size() >= 40);
    go_on(NextStep::Fit);
    REQUIRE(f.window->session().state().fit());
    const std::size_t morphs = f.window->session().state().bank.size();
    go_on(NextStep::KeepMorph);
    click(f.find<QPushButton>("bank_keep"));
    REQUIRE(f.window->session().state().bank.size() == morphs + 1);
    go_on(NextStep::Deliver);
    const QString file = QString::fromStdString(f.scratch / "mine.glb");
    answer_file_dialog(file);
    click(f.find<QPushButton>("deliver_glb"));
    ++clicks;  // in the dialog
    CHECK(wait_until([&] { return QFileInfo::exists(file); }, 60000));
    CHECK(f.questions.isEmpty());
    CHECK(clicks <= 12);
}
