// Prove in the real window: what is wrong in a proof mended, by itself and by brush; sheets; expressions from scans.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QLabel>
#include <QTreeWidget>

#include "app/stations/bank/morph_dialog.h"
#include "app/stations/prove/prove_controller.h"
#include "app/views/viewport.h"
#include "core/kit/kit_surface.h"
#include "core/proof/carry_expression.h"
#include "tests/app/window_fixture.h"
#include "tests/support/apart.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

// A mix of one shape with legs so thick that they cut in a squat.
struct MendFixture : Fixture {
    MendFixture() {
        open_demo(false);
        Points thick = demo_kit()->mesh.positions;
        for (const Index v : demo_kit()->part("skin")->vertices) {
            const double y = thick[v].y(), share = std::clamp(std::min((y - 250) / 150, (850 - y) / 150), 0.0, 1.0);
            if (std::abs(thick[v].x()) < 250) thick[v] += 12 * share * kit_normals(*demo_kit())[v];
        }
        ProjectState next = state();
        add_morph(next, *make_morph(*demo_kit(), thick, "thick"), 1);
        window->session().change("Add", std::move(next));
        station("station_prove");
        choose("prove_from", 1);
        REQUIRE(wait_until([&] { return prove().ready(); }));
        prove().select("squat");
    }
    ProveController& prove() { return window->prove(); }
    const ProjectState& state() { return window->session().state(); }
    void choose(const char* name, int i) {
        auto* box = find<QComboBox>(name);
        box->setCurrentIndex(i);
        emit box->activated(i);
        QTest::qWait(30);
    }
    void fold(int i) {
        find<Sections>("prove_sections")->set_current(i);
        QTest::qWait(50);
    }
    const Morph* correction(const std::string& name) {
        const int at = find_morph(state(), name);
        return at < 0 ? nullptr : state().bank[static_cast<std::size_t>(at)].morph.get();
    }
    void undo() { QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier); }
};

}  // namespace

TEST_CASE("Mend window: skin pushed apart is a correction in the bank, mixed in by the pose, and undone") {
    MendFixture f;
    const Points before = f.prove().shape();
    f.fold(3);
    f.press("prove_push_apart");
    REQUIRE(wait_until([&] { return f.state().bank.size() > 1; }));
    const std::size_t many = f.state().bank.size() - 1;
    CHECK(many >= 2);  // at least one for each leg
    for (std::size_t i = 1; i <= many; ++i) {
        const Morph& fix = *f.state().bank[i].morph;
        CHECK(fix.name.starts_with("Mix, squat, "));
        REQUIRE(fix.drivers.size() == 2);
        CHECK(fix.drivers[0].morph == "thick");
    }
    CHECK(apart(f.prove().shape(), before) > 0.1);
    CHECK(f.find<QLabel>("prove_mend_said")->text().contains("Cuts"));
    CHECK(f.find<QLabel>("prove_corrections")->text().contains(QString::number(many)));
    // in no other pose, and gone with its slider
    f.prove().select("T");
    const Points elsewhere = f.prove().shape();
    CHECK(f.prove().ready());
    f.undo();
    CHECK(f.state().bank.size() == 1);
    CHECK(apart(f.prove().shape(), elsewhere) < 1e-9);
    f.prove().select("squat");
    CHECK(apart(f.prove().shape(), before) < 1e-9);
    // what has nothing to mend says so
    f.prove().select("rest");
    f.press("prove_push_apart");
    REQUIRE(wait_until([&] { return f.find<QPushButton>("prove_push_apart")->isEnabled(); }));
    CHECK(f.find<QLabel>("prove_mend_said")->text().contains("No skin"));
    CHECK(f.state().bank.size() == 1);
}

TEST_CASE("Mend window: a stroke in a pose goes back to rest and into one correction; less of a region") {
    MendFixture f;
    f.prove().select("head turned");
    f.fold(3);
    f.press("prove_brush");
    f.choose("prove_brush_kind", 0);  // grab
    Viewport& view = *f.window->views().result_view();
    const auto on_shape = [&](const char* name) { return demo_kit()->landmarks.at(name).at(f.prove().shape()); };
    Camera c = f.window->views().camera().camera();
    c.frame(on_shape("pogonion"), 150);
    f.window->views().camera().set(c);
    QTest::qWait(80);
    const auto stroke = [&](const QPoint& by) {
        const QPoint from = view.screen_of(on_shape("pogonion")).toPoint();
        QTest::mousePress(&view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i) QTest::mouseMove(&view, from + by * i / 4);
        QTest::mouseRelease(&view, Qt::LeftButton, {}, from + by);
        QTest::qWait(30);
    };
    const Points before = f.prove().shape();
    stroke({6, -3});
    REQUIRE(f.state().bank.size() == 2);
    CHECK(f.state().bank[1].morph->name.starts_with("Mix, head turned, "));
    CHECK_FALSE(f.state().bank[1].morph->drivers.back().joint.empty());
    const Points once = f.prove().shape();
    CHECK(apart(once, before) > 0.3);
    stroke({0, 6});
    CHECK(f.state().bank.size() == 2);  // the same correction
    CHECK(apart(f.prove().shape(), once) > 0.2);
    f.undo();
    CHECK(apart(f.prove().shape(), once) < 1e-6);
    // leaving the station in a stroke drops it
    const QPoint from = view.screen_of(on_shape("pogonion")).toPoint();
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, from + QPoint(9, 0));
    f.station("station_bank");
    f.station("station_prove");
    QTest::mouseRelease(&view, Qt::LeftButton, {}, from);
    CHECK(f.state().bank.size() == 2);
    f.prove().select("rest");
    const Points whole = f.prove().shape();
    auto* region = f.find<QComboBox>("prove_reduce_region");
    f.choose("prove_reduce_region", region->findData("thigh_l") >= 0 ? region->findData("thigh_l") : 0);
    f.press("prove_reduce");
    REQUIRE(f.state().bank.size() == 3);
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    CHECK(f.prove().can_prove());
    f.undo();
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    CHECK(apart(f.prove().shape(), whole) < 1e-9);
}

TEST_CASE(
    "Mend window: a proof sheet is written and kept with the morph; measuring that a closed project took along") {
    MendFixture f;
    f.fold(2);
    CHECK_FALSE(f.find<QPushButton>("prove_sheet")->isEnabled());
    f.press("prove_measure");
    REQUIRE(f.prove().measuring());
    REQUIRE(save_project(f.scratch / "another.veldstone", new_project(demo_kit())));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "another.veldstone")));  // while it is measured
    f.station("station_prove");
    f.choose("prove_from", 2);
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    CHECK_FALSE(f.prove().measuring());
    CHECK(f.find<QPushButton>("prove_measure")->isEnabled());
    ProjectState next = f.state();
    add_morph(next, *make_morph(*demo_kit(), demo_kit()->expressions.at("smile"), "smiler"), 1);
    f.window->session().change("Add", std::move(next));
    f.choose("prove_from", 1);
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    f.press("prove_measure");
    REQUIRE(wait_until([&] { return f.prove().report() != nullptr; }, 120000));
    f.window->session().files().answer = [&](const FileAsked&) {
        return QStringList{QString::fromStdString(f.scratch / "sheet.png")};
    };
    f.press("prove_sheet");
    REQUIRE(wait_until([&] { return f.state().bank[0].sheet != nullptr; }, 60000));
    CHECK(f.scratch.read("sheet.png") == *f.state().bank[0].sheet);
    CHECK(f.scratch.read("sheet.pdf").starts_with("%PDF"));
    MorphDialog dialog(f.window->session(), f.window->bank(), f.state().bank[0].id);
    auto* again = dialog.findChild<QPushButton*>("morph_sheet");
    REQUIRE(again);
    f.window->session().files().answer = [&](const FileAsked&) {
        return QStringList{QString::fromStdString(f.scratch / "again.png")};
    };
    again->click();
    CHECK(f.scratch.read("again.png") == f.scratch.read("sheet.png"));
    f.undo();
    CHECK_FALSE(f.state().bank[0].sheet);
}

TEST_CASE("Mend window: a head's corrections in the bank follow its slider and the expression's") {
    MendFixture f;
    f.station("station_bank");
    f.window->bank().add_corrections(BankController::From::Mix, "thick");
    REQUIRE(wait_until([&] { return !f.window->bank().carrying(); }, 120000));
    REQUIRE(f.correction("blink"));  // the kit's own
    for (const BankEntry& e : f.state().bank) {
        if (e.morph->drivers.empty()) continue;
        CHECK(e.amount == 1);
        CHECK(e.morph->drivers[0].morph == "thick");
    }
    const std::size_t all = f.state().bank.size();
    f.window->bank().add_corrections(BankController::From::Mix, "thick");  // again: in place of those of before
    REQUIRE(wait_until([&] { return !f.window->bank().carrying(); }, 120000));
    CHECK(f.state().bank.size() == all);
    f.undo();
    f.undo();
    CHECK(f.state().bank.size() == 1);
}

TEST_CASE("Mend window: without a fit or a further scan no expression is made of a scan, and the page says why") {
    MendFixture f;
    f.fold(4);
    CHECK_FALSE(f.find<QPushButton>("prove_scan_make")->isEnabled());
    CHECK(f.find<QLabel>("prove_scan_said")->text().contains("fit"));
    CHECK(f.find<QComboBox>("prove_scan_name")->count() == static_cast<int>(demo_kit()->expressions.size()));
}

TEST_CASE("Mend window: a further scan of the person becomes their expression, which Prove shows") {
    Fixture f;
    f.open_demo(true);
    f.fit_quickly();
    ProjectState next = f.window->session().state();
    REQUIRE(next.fit());
    Subject& subject = *next.current();
    Source again = subject.sources.back();  // the same scan: the expression that moves nothing
    again.id = SourceId::make(), again.name = "smiling";
    subject.sources.insert(subject.sources.begin(), again);
    next.settings = subject.fit()->settings;
    f.window->session().change("Add", std::move(next));
    f.station("station_prove");
    f.find<Sections>("prove_sections")->set_current(4);
    auto* source = f.find<QComboBox>("prove_scan_source");
    REQUIRE(source->count() == 1);
    CHECK(source->currentText() == "smiling");
    f.find<QComboBox>("prove_scan_name")->setCurrentText("smile");
    f.press("prove_scan_make");
    CHECK_FALSE(f.find<QPushButton>("prove_scan_make")->isEnabled());
    REQUIRE(wait_until([&] { return f.find<QPushButton>("prove_scan_make")->isEnabled(); }, 180000));
    const auto& bank = f.window->session().state().bank;
    REQUIRE_FALSE(bank.empty());
    const Morph& smile = *bank.front().morph;
    CHECK(smile.name.starts_with("smile, "));
    CHECK(smile.kind == MorphKind::Expression);
    double sum = 0;
    for (const Vec3& d : smile.delta) sum += d.norm();
    CHECK(sum / static_cast<double>(smile.delta.size()) < 2);  // the neutral face once more, both coarsely fitted
    auto& prove = f.window->prove();
    REQUIRE(wait_until([&] { return prove.ready(); }, 120000));
    prove.select("smile");
    const Points shown = prove.shape();
    prove.select("rest");
    // not the kit's own: that one with lids and lips set right
    const double off = apart(shown, mix_morphs(prove.shape(), {{&smile, 1}}));
    CHECK(off < 2);
    CHECK(off < apart(shown, plain_expression(*demo_kit(), prove.shape(), "smile")));
}
