// The Fit station: tries that go on from one another, regions, and the ways of looking at a fit.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QSlider>
#include <QTableWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <cmath>

#include "app/colour_maps.h"
#include "app/views/viewport.h"
#include "app/window/preferences.h"
#include "core/project/fits.h"
#include "core/project/store.h"
#include "core/touchup/layer.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

struct FitFixture : Fixture {
    FitFixture() {
        begin_with("Ottoline fitted, four levels", [] {
            Fixture another;
            another.open_demo(true);
            another.quick_fit(4);
            another.station("station_fit");
            another.press("fit_start");
            REQUIRE(wait_until([&] { return !another.window->session().busy(); }));
            return another.window->session().state();
        });
        REQUIRE(fit());
        station("station_fit");
        QTest::qWait(50);
    }
    const FitRecord* fit() { return window->session().state().fit(); }
    Session& session() { return window->session(); }
    Viewport& result() { return *window->views().result_view(); }
    Viewport& base() { return *window->views().base_view(); }
    void tab(int i) {
        find<Sections>("fit_sections")->set_current(i);
        QTest::qWait(20);
    }
    void click_row(QTreeWidget* list, QTreeWidgetItem* item) {
        list->scrollToItem(item);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(item).center());
    }
    // no layers: its mesh is still being prepared
    bool source_is_coloured() {
        return !source_view().layers().empty() && source_view().layers().front().shading == Shading::Colours;
    }
    std::vector<std::uint8_t> source_colours() {
        std::vector<std::uint8_t> out;
        if (source_view().layers().empty()) return out;
        for (const auto& v : source_view().layers().front().mesh->vertices) out.push_back(v.colour[0]);
        return out;
    }
    void select_region(const QString& name) {
        tab(1);
        auto* list = find<QTreeWidget>("fit_regions");
        const auto found = list->findItems(name, Qt::MatchExactly);
        REQUIRE(found.size() == 1);
        click_row(list, found.front());
    }
    void move_landmark(const std::string& name, const Vec3& by_mm) {
        ProjectState next = session().state();
        Source& source = next.current()->sources.back();
        source.landmarks.points[name] += by_mm / 1000;  // the scan is in metres
        session().change("Move a point", std::move(next));
    }
};

}  // namespace

TEST_CASE("Fit window: going on makes a new try, and any try can be gone back to") {
    FitFixture f;
    const auto first = f.fit()->positions;
    CHECK_FALSE(f.find<QLabel>("fit_changed")->isVisible());
    f.move_landmark("cheilion_l", Vec3(0, 4, 0));
    CHECK(f.find<QLabel>("fit_changed")->isVisible());
    f.press("fit_go_on");
    REQUIRE(wait_until([&] { return f.session().state().current()->fits.size() == 2 && !f.session().busy(); }));
    CHECK_FALSE(f.find<QLabel>("fit_changed")->isVisible());
    const auto second = f.fit()->positions;
    CHECK(second != first);
    double far = 0, near = 0;
    for (const Index v : demo_kit()->region("skull")) far = std::max(far, ((*second)[v] - (*first)[v]).norm());
    for (const Index v : demo_kit()->region("lips")) near = std::max(near, ((*second)[v] - (*first)[v]).norm());
    CHECK(far == 0);
    CHECK(near > 0.2);
    f.tab(2);
    auto* list = f.find<QTreeWidget>("fit_tries");
    REQUIRE(list->topLevelItemCount() == 2);
    f.click_row(list, list->topLevelItem(0));
    CHECK(f.find<QTableWidget>("try_beside")->columnCount() == 2);
    f.press("try_work");
    CHECK(f.fit()->positions == first);
    CHECK(f.session().document().undo_label() == "Make head fit current");
    f.press("try_work");  // it is already: nothing happens
    f.session().document().undo();
    CHECK(f.fit()->positions == second);
    // the choice is kept with the project
    f.session().document().redo();
    REQUIRE(f.save_to(f.scratch / "tries.veldstone"));
    const auto back = load_project(f.scratch / "tries.veldstone");
    REQUIRE(back);
    CHECK(*back->state.fit()->positions == *first);
    CHECK(back->state.current()->fits.size() == 2);
    CHECK(back->state.fit()->landmarks == f.fit()->landmarks);
    list = f.find<QTreeWidget>("fit_tries");
    f.click_row(list, list->topLevelItem(1));
    f.press("fit_remove");
    CHECK(f.session().state().current()->fits.size() == 1);
    CHECK(f.fit()->positions == first);
}

TEST_CASE("Fit window: following takes a change in at once, and one undo takes both back") {
    FitFixture f;
    QTest::mouseClick(f.find<QCheckBox>("fit_follow"), Qt::LeftButton, {}, QPoint(8, 8));
    REQUIRE(f.session().follows_changes());
    const auto first = f.fit()->positions;
    f.move_landmark("pronasale", Vec3(3, 0, 0));
    REQUIRE(wait_until([&] { return f.fit()->positions != first && !f.session().busy(); }));
    CHECK(f.session().state().current()->fits.size() == 1);
    CHECK(f.session().document().undo_label() == "Move a point");
    CHECK_FALSE(outdated(f.session().state()));
    f.session().document().undo();
    CHECK(f.fit()->positions == first);
    CHECK_FALSE(outdated(f.session().state()));
    // touching up goes on with it
    f.session().document().redo();
    const auto moved = f.fit()->positions;
    TouchLayer layer;
    layer.vertex = {demo_kit()->region("lips").front()}, layer.move = {Vec3(0, 0, 1)};
    ProjectState next = f.session().state();
    set_touch(*next.kit, *next.current()->fit(), layer);
    f.session().change("Touch", std::move(next));
    f.move_landmark("pronasale", Vec3(-2, 0, 0));
    REQUIRE(wait_until(
        [&] { return f.fit()->positions != moved && !outdated(f.session().state()) && !f.session().busy(); }));
    REQUIRE(f.fit()->touch);
    CHECK(f.fit()->touch->vertex == layer.vertex);
}

TEST_CASE("Fit window: a region is told to keep the base and does, and a painted one follows its brush") {
    FitFixture f;
    f.select_region("Left ear");
    CHECK(f.window->regions().shows());
    CHECK(f.base().layers().front().shading == Shading::Colours);
    QTest::mouseClick(f.find<QToolButton>("region_keep"), Qt::LeftButton);
    CHECK(f.session().state().settings.regions.at("ear_l").keep == 1);
    f.press("fit_go_on");
    REQUIRE(wait_until([&] { return f.session().state().current()->fits.size() == 2 && !f.session().busy(); }));
    for (const Index v : demo_kit()->region("ear_l"))
        REQUIRE((*f.fit()->positions)[v] == demo_kit()->mesh.positions[v]);
    SECTION("painted") {
        f.press("region_new");
        REQUIRE(f.window->regions().painting());
        const std::string name = f.window->regions().shown();
        Viewport& base = f.base();
        const QPoint at = base.screen_of(demo_kit()->landmarks.at("cheek_l").at(demo_kit()->mesh.positions)).toPoint();
        QTest::mousePress(&base, Qt::LeftButton, {}, at);
        QTest::mouseMove(&base, at + QPoint(6, 4));
        QTest::mouseRelease(&base, Qt::LeftButton, {}, at + QPoint(6, 4));
        const SoftWeights painted = f.session().state().settings.own_regions.at(name);
        REQUIRE(painted.vertex.size() > 20);
        // both sides, by the kit's pairs
        const std::vector<float> w = spread_out(painted, demo_kit()->mesh.positions.size());
        for (const Index v : painted.vertex) REQUIRE(w[v] == w[demo_kit()->mirror[v]]);
        QTest::mousePress(&base, Qt::LeftButton, Qt::ControlModifier, at);
        QTest::mouseMove(&base, at + QPoint(6, 4));
        QTest::mouseRelease(&base, Qt::LeftButton, Qt::ControlModifier, at + QPoint(6, 4));
        const SoftWeights less = f.session().state().settings.own_regions.at(name);
        const auto total = [](const SoftWeights& s) {
            double sum = 0;
            for (const float x : s.weight) sum += static_cast<double>(x);
            return sum;
        };
        CHECK(total(less) < 0.6 * total(painted));
        f.session().document().undo();
        CHECK(f.session().state().settings.own_regions.at(name) == painted);
        REQUIRE(f.save_to(f.scratch / "painted.veldstone"));
        CHECK(load_project(f.scratch / "painted.veldstone")->state.settings.own_regions.at(name) == painted);
        f.press("region_remove");
        CHECK(f.session().state().settings.own_regions.empty());
    }
    SECTION("leaving the tab puts the base back as it was") {
        f.tab(0);
        CHECK_FALSE(f.window->regions().shows());
        CHECK(f.base().layers().front().shading == Shading::Clay);
    }
}

TEST_CASE("Fit window: presets set everything but what was painted, and undo brings it back") {
    FitFixture f;
    auto* presets = f.find<QComboBox>("fit_preset");
    presets->setCurrentIndex(3);
    emit presets->activated(3);
    CHECK(f.session().state().settings.match_start_mm > FitSettings().match_start_mm);
    CHECK(presets->currentIndex() == 0);
    f.session().document().undo();
    CHECK(f.session().state().settings.levels == 4);
    f.find<QSlider>("fit_symmetry")->setValue(60);
    CHECK(f.session().state().settings.symmetry == Approx(0.6));
}

TEST_CASE("Fit window: colours of every kind, with a scale in their own unit") {
    FitFixture f;
    auto* colours = f.find<QComboBox>("look_colours");
    auto* worst = f.find<QDoubleSpinBox>("look_worst");
    std::set<std::vector<std::uint8_t>> pictures;
    for (int i = 1; i < colours->count(); ++i) {
        colours->setCurrentIndex(i);
        QTest::qWait(20);
        REQUIRE(wait_until([&] { return i != 2 || f.session().fit_surface(); }));
        REQUIRE(wait_until([&] { return i != 3 || f.source_is_coloured(); }));
        QTest::qWait(20);
        REQUIRE((f.result().layers().back().shading == Shading::Colours ||
                 f.result().layers().front().shading == Shading::Colours));
        std::vector<std::uint8_t> red;
        for (const auto& v : f.result().layers().back().mesh->vertices) red.push_back(v.colour[0]);
        if (i != 3) pictures.insert(red);
    }
    CHECK(pictures.size() == 5);          // each says something else
    CHECK(worst->value() == Approx(10));  // what is guessed is off by millimetres
    colours->setCurrentIndex(5);
    CHECK(worst->suffix().contains(QChar(0x00B0)));
    colours->setCurrentIndex(4);
    CHECK(worst->suffix().contains('%'));
    CHECK(worst->value() == 30);
    // the source takes the colours when the question is its own, and loses them again
    colours->setCurrentIndex(3);
    CHECK(f.source_view().layers().front().shading == Shading::Colours);
    QTest::keyClick(f.window.get(), Qt::Key_C);
    CHECK(colours->currentIndex() == 4);
    CHECK(f.source_view().layers().front().shading == Shading::Clay);
}

TEST_CASE("Fit window: a double click on a region's figures flies to it, to an ear from its side") {
    FitFixture f;
    f.window->views().camera().look_from(FixedView::Front);
    auto* table = f.find<QTableWidget>("figures_table");
    QTest::mouseClick(f.find<QToolButton>("figures_unfold"), Qt::LeftButton);
    REQUIRE(table->isVisible());
    QTest::qWait(50);
    int row = -1;
    for (int r = 0; r < table->rowCount(); ++r) {
        if (table->item(r, 0)->data(Qt::UserRole).toString() == "ear_l") row = r;
    }
    REQUIRE(row >= 0);
    table->scrollToItem(table->item(row, 0));
    const QPoint at = table->visualItemRect(table->item(row, 0)).center();
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, at);
    QTest::mouseDClick(table->viewport(), Qt::LeftButton, {}, at);
    const BaseKit& kit = *f.session().state().kit;
    Vec3 ear = Vec3::Zero();
    for (const Index v : kit.region("ear_l"))
        ear += (*f.fit()->positions)[v] / static_cast<double>(kit.region("ear_l").size());
    const auto camera = [&] { return f.window->views().camera().camera(); };
    REQUIRE(wait_until([&] { return (camera().target - ear).norm() < 15; }, 5000));
    REQUIRE(wait_until([&] { return -camera().forward().x() > 0.6; }, 5000));  // from the subject's left
}

TEST_CASE("Fit window: the source's distances to the fit are computed beside, and follow it") {
    FitFixture f;
    auto* colours = f.find<QComboBox>("look_colours");
    colours->setCurrentIndex(3);
    CHECK_FALSE(f.source_is_coloured());  // the window did not wait
    REQUIRE(f.session().jobs().any());
    REQUIRE(wait_until([&] { return f.source_is_coloured(); }));
    const auto before = f.source_colours();
    TouchLayer layer;
    layer.vertex = demo_kit()->region("lips");
    layer.move.assign(layer.vertex.size(), Vec3(0, 0, 4));
    ProjectState next = f.session().state();
    set_touch(*next.kit, *next.current()->fit(), layer);
    f.session().change("Touch", std::move(next));
    CHECK(f.source_is_coloured());  // as before, until the new ones are there
    REQUIRE(wait_until([&] { return f.source_colours() != before; }));
    f.session().document().undo();
    REQUIRE(wait_until([&] { return f.source_colours() == before; }));
    // in other colours at once, when the map becomes one for other eyes
    f.window->take_up_preferences({.colours = static_cast<int>(ColourVision::None)});
    CHECK(f.source_is_coloured());
    CHECK(f.source_colours() != before);
    f.window->take_up_preferences({});
    CHECK(f.source_colours() == before);
    // another mesh in its place has no colours until its own are there
    next = f.session().state();
    Source& source = next.current()->sources.back();
    source.mesh = std::make_shared<Mesh>(*source.mesh);
    f.session().change("Read again", std::move(next));
    CHECK_FALSE(f.source_is_coloured());
    REQUIRE(wait_until([&] { return f.source_is_coloured(); }));
    CHECK(f.source_colours() == before);
    f.session().document().undo();
    REQUIRE(wait_until([&] { return f.source_is_coloured(); }));
    // asked for and no longer wanted: what arrives later changes nothing
    f.session().document().redo();
    colours->setCurrentIndex(0);
    REQUIRE(wait_until([&] { return !f.session().jobs().any(); }));
    CHECK_FALSE(f.source_is_coloured());
}

TEST_CASE("Fit window: wiped, flickering, beside, swapped by a key") {
    FitFixture f;
    f.tab(0);
    QTest::mouseClick(f.find<QToolButton>("look_wipe"), Qt::LeftButton);
    REQUIRE(f.result().layers().size() == 2);
    CHECK(f.result().layers().front().to == Approx(0.5));
    CHECK(f.result().layers().back().from == Approx(0.5));
    QTest::mouseClick(f.find<QToolButton>("look_flicker"), Qt::LeftButton);
    const auto shares = [&] { return f.window->look_bar().look().share; };
    REQUIRE(wait_until([&] { return shares() == 0; }, 3000));
    REQUIRE(wait_until([&] { return shares() == 1; }, 3000));
    QTest::mouseClick(f.find<QToolButton>("look_fade"), Qt::LeftButton);
    f.find<QSlider>("look_share")->setValue(100);
    QTest::keyClick(f.window.get(), Qt::Key_X);
    CHECK(shares() == 0);
    QTest::keyClick(f.window.get(), Qt::Key_X);
    CHECK(shares() == 1);
    f.find<QComboBox>("look_against")->setCurrentIndex(1);
    QTest::mouseClick(f.find<QToolButton>("look_beside"), Qt::LeftButton);
    CHECK(f.base().isVisible());
    CHECK(f.result().layers().size() == 1);
    f.station("station_touch");
    CHECK(f.base().isVisible());  // beside, also while touching up
    QTest::mouseClick(f.find<QToolButton>("look_fade"), Qt::LeftButton);
    CHECK_FALSE(f.base().isVisible());
}

TEST_CASE("Fit window: a section shows where base, source and fit are cut") {
    FitFixture f;
    auto* cut = f.find<QComboBox>("look_cut");
    const auto choose = [&](int i) {
        cut->setCurrentIndex(i);
        emit cut->activated(i);
        QTest::qWait(20);
    };
    choose(1);
    const auto lines = f.result().lines();
    REQUIRE(lines.size() >= 3);
    for (const GuideLine& line : lines) {
        for (const Vec3& p : line.points) REQUIRE(std::abs(p.x() - lines.front().points.front().x()) < 1e-6);
    }
    f.find<QSlider>("look_cut_at")->setValue(700);
    CHECK(std::abs(f.result().lines().front().points.front().x() - lines.front().points.front().x()) > 1);
    choose(4);
    CHECK(f.result().lines().size() >= 3);
    choose(0);
    CHECK(f.result().lines().empty());
}

TEST_CASE("Fit window: subdivided for the eye only, and strokes go on on the base mesh") {
    FitFixture f;
    const std::size_t base = f.result().layers().back().mesh->vertices.size();
    f.find<QComboBox>("look_level")->setCurrentIndex(1);
    CHECK(f.result().layers().back().mesh->vertices.size() > 3 * base);
    CHECK(f.fit()->positions->size() == demo_kit()->mesh.positions.size());
    f.station("station_touch");
    const Vec3 chin = demo_kit()->landmarks.at("pogonion").at(*f.fit()->positions);
    const QPoint at = f.result().screen_of(chin).toPoint();
    QTest::mousePress(&f.result(), Qt::LeftButton, {}, at);
    QTest::mouseMove(&f.result(), at + QPoint(0, 10));
    CHECK(f.window->touch().stroking());
    QTest::mouseRelease(&f.result(), Qt::LeftButton, {}, at + QPoint(0, 10));
    CHECK(f.fit()->touch);
    QTest::qWait(30);
    CHECK(f.result().layers().back().mesh->vertices.size() > 3 * base);
}
