// Touch up in the real window: strokes by mouse events, the layer, the figures that follow.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QSlider>
#include <QTreeWidget>

#include "app/scene/look.h"
#include "app/stations/bank/bank_controller.h"
#include "app/views/viewport.h"
#include "core/io/glb_write.h"
#include "core/project/store.h"
#include "core/touchup/layer.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

struct TouchFixture : Fixture {
    // made_here: its fit can be undone
    explicit TouchFixture(bool made_here = false) {
        if (made_here)
            open_demo(true), fit_quickly();
        else
            begin_with("Ottoline fitted, to touch", [] {
                Fixture another;
                another.open_demo(true);
                another.fit_quickly();
                return another.window->session().state();
            });
        REQUIRE(fit());
        station("station_touch");
        QTest::qWait(80);
        Camera c = window->views().camera().camera();
        c.frame(on_fit("stomion"), 90);
        window->views().camera().set(c);
        QTest::qWait(80);
    }
    const FitRecord* fit() { return window->session().state().fit(); }
    Viewport& view() { return *window->views().result_view(); }
    Vec3 on_fit(const char* name) { return window->session().state().base_points.at(name).at(*fit()->positions); }
    QPoint at(const char* name) { return view().screen_of(on_fit(name)).toPoint(); }
    void choose(const char* button) { QTest::mouseClick(find<QToolButton>(button), Qt::LeftButton); }
    // from a landmark by (x, y) pixels
    void stroke(const char* name, int x, int y, Qt::KeyboardModifiers keys = {}) {
        const QPoint from = at(name);
        QTest::mousePress(&view(), Qt::LeftButton, keys, from);
        for (int i = 1; i <= 6; ++i) QTest::mouseMove(&view(), from + QPoint(x * i / 6, y * i / 6));
        QTest::mouseRelease(&view(), Qt::LeftButton, keys, from + QPoint(x, y));
    }
    bool measured() {
        return wait_until([&] { return !fit()->figures_old; }, 60000);
    }
};

}  // namespace

TEST_CASE("Touch window: a stroke moves skin, is one step, and undo takes it back") {
    TouchFixture f;
    Session& session = f.window->session();
    const auto before = f.fit()->positions;
    const std::size_t position = session.document().position();
    f.choose("touch_grab");
    const Vec3 lip = f.on_fit("cheilion_l");
    f.stroke("cheilion_l", 10, -8);
    REQUIRE(session.document().position() == position + 1);
    REQUIRE(f.fit()->touch);
    CHECK(f.fit()->touch->vertex.size() > 10);
    const Vec3 moved = f.on_fit("cheilion_l") - lip;
    CHECK(moved.x() > 0.3);
    CHECK(moved.y() > 0.2);
    CHECK(f.find<QLabel>("touch_state")->isVisible());
    for (const Index v : demo_kit()->part("eye_l")->vertices) REQUIRE((*f.fit()->positions)[v] == (*before)[v]);
    SECTION("figures are measured again, in the same step") {
        REQUIRE(f.fit()->figures_old);
        REQUIRE(f.measured());
        REQUIRE(session.document().position() == position + 1);
        CHECK(f.find<QLabel>("touch_figures")->text().contains("Median"));
    }
    SECTION("undo and redo") {
        session.document().undo();
        REQUIRE(f.fit()->positions == before);
        REQUIRE_FALSE(f.fit()->touch);
        session.document().redo();
        REQUIRE(f.fit()->touch);
    }
    SECTION("on, off, scaled, wiped") {
        const Vec3 full = f.on_fit("cheilion_l");
        QTest::mouseClick(f.find<QCheckBox>("touch_on"), Qt::LeftButton, {},
                          QPoint(6, f.find<QCheckBox>("touch_on")->height() / 2));
        REQUIRE((f.on_fit("cheilion_l") - lip).norm() < 1e-12);
        f.stroke("cheilion_l", 5, 5);  // refused, and said why
        REQUIRE(f.fit()->touch->on == false);
        REQUIRE((f.on_fit("cheilion_l") - lip).norm() < 1e-12);
        QTest::mouseClick(f.find<QCheckBox>("touch_on"), Qt::LeftButton, {},
                          QPoint(6, f.find<QCheckBox>("touch_on")->height() / 2));
        f.find<QSlider>("touch_amount")->setValue(50);
        CHECK((f.on_fit("cheilion_l") - lip - 0.5 * (full - lip)).norm() < 1e-9);
        auto* where = f.find<QComboBox>("touch_wipe_region");
        where->setCurrentIndex(where->findData("ear_l"));
        const std::size_t step = session.document().position();
        f.press("touch_wipe");  // nothing was done there
        REQUIRE(session.document().position() == step);
        where->setCurrentIndex(0);
        f.press("touch_wipe");
        REQUIRE((f.on_fit("cheilion_l") - lip).norm() < 1e-12);
        REQUIRE(f.fit()->touch->empty());
    }
    SECTION("it is saved and read") {
        REQUIRE(save_project(f.scratch / "touched.veldstone", session.state()));
        const auto back = load_project(f.scratch / "touched.veldstone");
        REQUIRE(back);
        REQUIRE(*back->state.fit()->touch == *f.fit()->touch);
        REQUIRE(*back->state.fit()->fitted == *f.fit()->fitted);
        REQUIRE(*back->state.fit()->positions == *f.fit()->positions);
    }
    SECTION("a new fit keeps it") {
        const TouchLayer layer = *f.fit()->touch;
        f.station("station_fit");
        f.press("fit_start");
        REQUIRE(wait_until([&] { return !session.busy(); }));
        REQUIRE(session.state().current()->fits.size() == 2);
        REQUIRE(f.fit()->touch);
        REQUIRE(*f.fit()->touch == layer);
        REQUIRE(*f.fit()->positions != *f.fit()->fitted);
    }
}

TEST_CASE("Touch window: held Shift smooths, both sides work as one, regions hold back") {
    TouchFixture f;
    Session& session = f.window->session();
    SECTION("Shift") {
        f.choose("touch_inflate");
        f.stroke("pogonion", 14, 0, Qt::ShiftModifier);
        REQUIRE(session.document().undo_label() == "By brush: smooth");
    }
    SECTION("both sides") {
        f.find<QCheckBox>("touch_mirrored")->setChecked(true);
        f.choose("touch_inflate");
        f.stroke("cheilion_l", 4, 0);
        const TouchLayer& layer = *f.fit()->touch;
        std::map<Index, Vec3> moves;
        for (std::size_t i = 0; i < layer.vertex.size(); ++i) moves[layer.vertex[i]] = layer.move[i];
        REQUIRE(moves.size() > 10);
        for (const auto& [v, m] : moves) {
            const Index other = demo_kit()->mirror[v];
            REQUIRE(moves.contains(other));
            CHECK((moves[other] - Vec3(-m.x(), m.y(), m.z())).norm() < 1e-9);
        }
    }
    SECTION("only in the lips") {
        auto* list = f.find<QTreeWidget>("touch_regions");
        for (int i = 0; i < list->topLevelItemCount(); ++i) {
            for (int k = 0; k < 2; ++k) {
                if (list->topLevelItem(i)->text(k) == "Lips") list->topLevelItem(i)->setCheckState(k, Qt::Checked);
            }
        }
        REQUIRE(f.window->touch().only_in() == std::set<std::string>{"lips"});
        f.find<QDoubleSpinBox>("touch_size")->setValue(40);
        f.choose("touch_inflate");
        f.stroke("labiale_inferius", 4, 0);
        Box lips;
        for (const Index v : demo_kit()->region("lips")) lips.add((*f.fit()->fitted)[v]);
        for (const Index v : f.fit()->touch->vertex) {
            const Vec3& p = (*f.fit()->fitted)[v];
            CHECK(((p - lips.low).minCoeff() > -6.1 && (lips.high - p).minCoeff() > -6.1));  // the soft edge
        }
    }
    SECTION("the bracket keys change the size") {
        const double before = f.find<QDoubleSpinBox>("touch_size")->value();
        QTest::keyClick(f.window.get(), Qt::Key_BracketRight);
        CHECK(f.find<QDoubleSpinBox>("touch_size")->value() > before);
        CHECK(f.window->touch().brush.radius_mm == f.find<QDoubleSpinBox>("touch_size")->value());
    }
    SECTION("leaving in the middle of a stroke drops it") {
        const auto before = f.fit()->positions;
        QTest::mousePress(&f.view(), Qt::LeftButton, {}, f.at("cheilion_l"));
        QTest::mouseMove(&f.view(), f.at("cheilion_l") + QPoint(8, 0));
        REQUIRE(f.window->touch().stroking());
        f.window->go_to(Station::Fit);
        REQUIRE_FALSE(f.window->touch().stroking());
        REQUIRE(f.fit()->positions == before);
    }
}

TEST_CASE("Touch window: Escape, undo, and a removed fit in the middle of a stroke drop it") {
    TouchFixture f(true);
    Session& session = f.window->session();
    const auto before = f.fit()->positions;
    const QPoint at = f.at("cheilion_l");
    for (int way = 0; way < 3; ++way) {
        QTest::mousePress(&f.view(), Qt::LeftButton, {}, at);
        QTest::mouseMove(&f.view(), at + QPoint(8, 0));
        REQUIRE(f.window->touch().stroking());
        if (way == 0)
            QTest::keyClick(f.window.get(), Qt::Key_Escape);
        else
            session.document().undo();  // the fit itself
        REQUIRE_FALSE(f.window->touch().stroking());
        QTest::mouseMove(&f.view(), at + QPoint(12, 0));
        QTest::mouseRelease(&f.view(), Qt::LeftButton, {}, at + QPoint(12, 0));
        if (way > 0) {
            REQUIRE_FALSE(f.fit());
            session.document().redo();
        }
        REQUIRE(f.fit()->positions == before);
        REQUIRE_FALSE(f.fit()->touch);
        QTest::qWait(60);
    }
}

TEST_CASE("Touch window: pulled onto the source the colours follow, and a morph takes the touch along") {
    TouchFixture f;
    Session& session = f.window->session();
    f.window->look_bar().set_colours(Colouring::Distance);
    f.choose("touch_grab");
    f.stroke("pogonion", 0, 14);
    REQUIRE(f.measured());
    const double worst = f.fit()->figures.regions.at("face").max;
    f.choose("touch_pull");
    f.find<QDoubleSpinBox>("touch_strength")->setValue(100);
    f.find<QDoubleSpinBox>("touch_size")->setValue(25);
    REQUIRE(wait_until(
        [&] {
            f.stroke("pogonion", 6, 0);
            return f.window->session().document().undo_label() == "By brush: pull to source";
        },
        20000));
    for (int i = 0; i < 4; ++i) f.stroke("pogonion", (i % 2 ? 6 : -6), 0);
    REQUIRE(f.measured());
    CHECK(f.fit()->figures.regions.at("face").max <= worst);
    const Vec3 chin = f.on_fit("pogonion");
    f.station("station_bank");
    f.window->bank().set_page(BankController::Page::Make);
    f.press("bank_keep");
    const Morph& morph = *session.state().bank.back().morph;
    const Points with = mix_morphs(demo_kit()->mesh.positions, {{&morph, 1.0}});
    CHECK((session.state().base_points.at("pogonion").at(with) - chin).norm() < 1e-3);
}

TEST_CASE("Touch window: from the figures one goes to each new cut") {
    TouchFixture f;
    f.find<QDoubleSpinBox>("touch_strength")->setValue(100);
    f.find<QDoubleSpinBox>("touch_size")->setValue(9);
    f.choose("touch_grab");
    f.stroke("labiale_inferius", 0, -60);  // through the upper lip
    REQUIRE(f.measured());
    REQUIRE(f.fit()->figures.self_intersections > 0);
    REQUIRE_FALSE(f.fit()->figures.cut_at.empty());
    emit f.find<QLabel>("figures_summary")->linkActivated("cuts");
    const Camera c = f.window->views().camera().camera();
    CHECK((c.target - (*f.fit()->positions)[f.fit()->figures.cut_at.front()]).norm() < 1e-9);
    emit f.find<QLabel>("figures_summary")->linkActivated("flips");  // none or some: nothing breaks
    // kept with the project
    REQUIRE(save_project(f.scratch / "cuts.veldstone", f.window->session().state()));
    CHECK(load_project(f.scratch / "cuts.veldstone")->state.fit()->figures.cut_at == f.fit()->figures.cut_at);
}

TEST_CASE("Touch window: without a fit it says what to do") {
    Fixture f;
    f.open_demo(true);
    f.station("station_touch");
    CHECK(f.find<QLabel>("touch_hint")->text().contains("Fit"));
    REQUIRE(f.find<QLabel>("touch_hint")->isVisible());
}
