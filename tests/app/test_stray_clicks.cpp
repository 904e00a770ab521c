// Clicks whose own effect takes away what was clicked on.
#include <catch2/catch.hpp>

#include <QTreeWidget>

#include "tests/app/window_fixture.h"

namespace veld {
namespace {

void click_line(QTreeWidget* tree, QTreeWidgetItem* item) {
    QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(item).center());
}

// Freed memory is given to somebody else at once, so that a look at it does not go well by luck.
void stir_memory() {
    std::vector<std::unique_ptr<char[]>> taken;
    for (int i = 0; i < 4000; ++i) {
        const std::size_t size = 16 + 8 * static_cast<std::size_t>(i % 24);
        taken.push_back(std::make_unique<char[]>(size));
        std::fill_n(taken.back().get(), size, static_cast<char>(0xA5));
    }
}

}  // namespace

TEST_CASE("Stray clicks: a click on another subject's line works on that subject") {
    Fixture f;
    f.begin_with("three subjects", [] {
        ProjectState s = new_project(demo_kit());
        for (const char* name : {"Ottoline", "Bram", "Juniper"}) s.subjects.push_back({name, {}, {}});
        return s;
    });
    auto* tree = f.find<QTreeWidget>("subjects");
    // the tree is rebuilt within the click: what it frees is overwritten before the click goes on
    QObject::connect(&f.window->session(), &Session::changed, tree, &stir_memory);
    for (int round = 0; round < 30; ++round) {
        const int wanted = (f.window->session().state().subject + 1 + round % 2) % 3;
        QTreeWidgetItem* top = tree->topLevelItem(wanted);
        click_line(tree, round % 3 == 0 && top->childCount() > 0 ? top->child(0) : top);
        REQUIRE(f.window->session().state().subject == wanted);
        REQUIRE(f.window->station() == Station::Gather);
        REQUIRE_FALSE(f.window->session().photo());
    }
}

}  // namespace veld
