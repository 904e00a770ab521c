// The Prove station in the real window: proofs beside the base, expressions by hand, motions, figures.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QLabel>
#include <QSlider>
#include <QTreeWidget>

#include "app/stations/prove/prove_controller.h"
#include "core/base/file.h"
#include "core/proof/proofs.h"
#include "core/rig/bvh.h"
#include "core/rig/rest_poses.h"
#include "tests/app/window_fixture.h"
#include "tests/support/apart.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

struct ProveFixture : Fixture {
    ProveFixture() {
        open_demo(false);
        station("station_prove");
        choose("prove_from", 2);
    }
    ProveController& prove() { return window->prove(); }
    const ProjectState& state() { return window->session().state(); }
    void choose(const char* name, int i) {
        auto* box = find<QComboBox>(name);
        box->setCurrentIndex(i);
        emit box->activated(i);
        QTest::qWait(30);
    }
    QTreeWidgetItem* row(const QString& proof) {
        for (QTreeWidgetItemIterator it(find<QTreeWidget>("prove_list")); *it; ++it)
            if ((*it)->data(0, Qt::UserRole).toString() == proof) return *it;
        return nullptr;
    }
    void pick(const QString& proof) {
        auto* list = find<QTreeWidget>("prove_list");
        list->scrollToItem(row(proof));
        QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, list->visualItemRect(row(proof)).center());
        QTest::qWait(30);
    }
    void fold(int i) {
        find<Sections>("prove_sections")->set_current(i);
        QTest::qWait(50);
    }
    void undo() { QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier); }
};

}  // namespace

TEST_CASE("Prove window: a pose by a click, part of the way by the slider, both skinnings") {
    ProveFixture f;
    REQUIRE(f.prove().can_prove());
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    f.pick("sit");
    CHECK(f.prove().selected() == "sit");
    const Points sits = f.prove().shape();
    CHECK(apart(sits, f.prove().base()) < 1e-9);  // the base itself
    CHECK(apart(sits, demo_kit()->mesh.positions) > 300);
    f.find<QSlider>("prove_way")->setValue(0);
    CHECK(apart(f.prove().shape(), demo_kit()->mesh.positions) < 1e-6);
    f.find<QSlider>("prove_way")->setValue(100);
    CHECK(apart(f.prove().shape(), sits) < 1e-9);
    f.choose("prove_skinning", 1);
    CHECK(apart(f.prove().shape(), sits) > 1);
    // played, it moves by itself, and the key of another station ends that
    f.press("prove_play");
    const double before = f.prove().at();
    REQUIRE(wait_until([&] { return f.prove().at() != before; }, 5000));
    f.station("station_bank");
    CHECK_FALSE(f.prove().playing());
}

TEST_CASE("Prove window: expressions by hand are kept as a proof, undone, and saved with the project") {
    ProveFixture f;
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    f.pick("rest");
    f.fold(1);
    f.find<QSlider>("prove_hand_blink")->setValue(100);
    f.find<QSlider>("prove_hand_cheek_raise")->setValue(100);
    f.find<QSlider>("prove_hand_lip_corner_pull")->setValue(100);
    CHECK(f.prove().by_hand("blink") == 1);
    const Points mixed = f.prove().shape();
    Points plain = demo_kit()->mesh.positions;
    for (const char* name : {"blink", "cheek_raise", "lip_corner_pull"})
        for (std::size_t v = 0; v < plain.size(); ++v)
            plain[v] += demo_kit()->expressions.at(name)[v] - demo_kit()->mesh.positions[v];
    CHECK(apart(mixed, plain) > 0.5);  // lids were set right
    f.find<QLineEdit>("prove_name")->setText("laughs");
    f.press("prove_keep");
    REQUIRE(f.state().proofs.size() == 1);
    CHECK(f.state().proofs[0]->name == "laughs");
    CHECK(f.prove().selected() == "laughs");
    CHECK(apart(f.prove().shape(), mixed) < 1e-9);
    CHECK_FALSE(f.prove().any_by_hand());
    f.undo();
    CHECK(f.state().proofs.empty());
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(f.state().proofs.size() == 1);
    const std::string path = f.scratch / "proofs.veldstone";
    REQUIRE(save_project(path, f.state()));
    const auto again = load_project(path);
    REQUIRE(again);
    REQUIRE(again->state.proofs.size() == 1);
    CHECK(again->state.proofs[0]->stops[0].expressions == f.state().proofs[0]->stops[0].expressions);
    f.fold(0);
    f.pick("laughs");
    f.press("prove_remove");
    CHECK(f.state().proofs.empty());
    CHECK(f.prove().selected() == "rest");
}

TEST_CASE("Prove window: a motion from a BVH file; one that is none is told") {
    ProveFixture f;
    const Motion motion{demo_kit()->joints,
                        {rest_pose(demo_kit()->joints).turns, arm_poses(demo_kit()->joints).at("T").turns},
                        1.0 / 30};
    REQUIRE(write_file(f.scratch / "arms.bvh", bvh_text(motion)));
    REQUIRE(write_file(f.scratch / "none.bvh", std::string("HIERARCHY\nROOT a\n{")));
    f.window->session().files().answer = [&](const FileAsked&) {
        return QStringList{QString::fromStdString(f.scratch / "arms.bvh")};
    };
    f.press("prove_motion");
    REQUIRE(f.state().proofs.size() == 1);
    CHECK(f.state().proofs[0]->kind == ProofKind::Motion);
    CHECK(f.prove().selected() == "arms");
    REQUIRE(f.row("arms"));
    f.find<QSlider>("prove_way")->setValue(200);
    const Points level = f.prove().shape();
    f.pick("T");
    CHECK(apart(f.prove().shape(), level) < 0.1);
    CHECK_FALSE(f.prove().add_motion(QString::fromStdString(f.scratch / "none.bvh")));
    CHECK(f.state().proofs.size() == 1);
}

TEST_CASE(
    "Prove window: figures of a damaged shape, worst first; a click shows the place; another shape forgets them") {
    ProveFixture f;
    Points hurt = demo_kit()->mesh.positions;
    const KitEye& eye = demo_kit()->eyes[0];
    for (const Index v : demo_kit()->part("skin")->vertices)
        if ((hurt[v] - eye.centre).norm() < 1.5 * eye.radius) hurt[v] = eye.centre + 0.9 * (hurt[v] - eye.centre);
    ProjectState next = f.state();
    add_morph(next, *make_morph(*demo_kit(), hurt, "hurt"), 1);
    f.window->session().change("Add", std::move(next));
    f.choose("prove_from", 1);
    REQUIRE(wait_until([&] { return f.prove().ready(); }));
    f.fold(2);
    f.press("prove_measure");
    CHECK_FALSE(f.find<QPushButton>("prove_measure")->isEnabled());
    REQUIRE(wait_until([&] { return f.prove().report() != nullptr; }));
    auto* list = f.find<QTreeWidget>("prove_figures");
    REQUIRE(list->topLevelItemCount() > 20);
    CHECK(f.prove().report()->bad() > 0);
    const auto& rows = f.prove().report()->rows;
    for (std::size_t i = 1; i < rows.size(); ++i) CHECK(rows[i].figure.badness() <= rows[i - 1].figure.badness());
    const ProofRow first = rows.front();
    QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier,
                      list->visualItemRect(list->topLevelItem(0)).center());
    CHECK(f.prove().selected() == first.proof);
    CHECK(f.prove().at() == static_cast<double>(first.stop + 1));
    f.choose("prove_colours", 1);
    CHECK(f.prove().values().size() == demo_kit()->mesh.positions.size());
    f.choose("prove_colours", 2);
    CHECK(f.prove().values().size() == demo_kit()->mesh.positions.size());
    f.choose("prove_from", 2);
    CHECK(f.prove().report() == nullptr);
    CHECK(f.find<QTreeWidget>("prove_figures")->topLevelItemCount() == 0);
}

TEST_CASE("Prove window: without a project nothing is proven; without a fit the mix is") {
    Fixture f;
    f.station("station_prove");
    CHECK_FALSE(f.find<QPushButton>("prove_measure")->isEnabled());
    f.open_demo(false);
    f.station("station_prove");
    auto* prove = &f.window->prove();
    CHECK(prove->can_prove());
    CHECK(prove->from() == ProveController::From::Mix);
    CHECK(apart(prove->shape(), demo_kit()->mesh.positions) < 1e-9);
}
