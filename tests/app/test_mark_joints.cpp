// Joints of a figure in the window: found, dragged, given back.
#include <catch2/catch.hpp>

#include "core/rig/pose.h"
#include "tests/app/mark_support.h"

namespace {

// The base's own figure with one arm lowered as a scan, its face marked.
ProjectState posed_figure() {
    ProjectState s = new_project(demo_kit());
    const BaseKit& kit = *s.kit;
    Pose pose = rest_pose(kit.joints);
    for (std::size_t j = 0; j < kit.joints.size(); ++j)
        if (kit.joints[j].name == "upper_arm_l")
            pose.turns[j] = Eigen::AngleAxisd(-0.5, Vec3::UnitZ()).toRotationMatrix();
    Mesh scan = kit.mesh;
    scan.positions = skin(kit.mesh.positions, kit.joints, kit.weights, pose);
    Source source = make_source({"figure.obj", {}, {scan, {}}}, kit);
    source.unit = source.shown_unit = Unit::Millimetre;
    for (const auto& [name, at] : kit.landmarks)
        if (in_point_set(name, PointSet::Face)) source.landmarks.points[name] = at.at(scan.positions);
    s.subjects.push_back({"Figure", {source}, {}});
    s.asked = PointSet::Body;
    return s;
}

const JointMark& joint(Fixture& f, const char* name) { return f.source().landmarks.joints.at(name); }

bool settled(Fixture& f) {
    return wait_until([&] { return !f.window->session().busy(); }, 120000);
}

}  // namespace

TEST_CASE("Mark window: a figure's joints are found, one is dragged and the others follow") {
    Fixture f;
    f.begin_with("posed figure", posed_figure);
    f.station("station_mark");
    keep_still(f);
    Session& session = f.window->session();
    CHECK_FALSE(f.find<QCheckBox>("mark_joints")->isEnabled());
    f.press("mark_find_joints");
    REQUIRE(settled(f));
    REQUIRE(f.source().landmarks.joints.size() == session.state().kit->joints.size());
    CHECK(f.find<QCheckBox>("mark_joints")->isEnabled());
    f.window->views().frame_home();
    f.rest();
    Viewport& view = f.source_view();
    const Vec3 elbow = joint(f, "forearm_l").at, knee = joint(f, "shin_r").at;
    const std::size_t position = session.document().position();
    const QPoint from = f.on_screen(joint(f, "hand_l").at), to = from + QPoint(0, -14);
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    CHECK(f.find<QLabel>("mark_ask")->text().contains("hand l"));
    QTest::mouseMove(&view, from + QPoint(0, -7));
    QTest::mouseMove(&view, to);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    REQUIRE(joint(f, "hand_l").by_hand);
    CHECK((f.on_screen(joint(f, "hand_l").at) - to).manhattanLength() <= 3);
    REQUIRE(settled(f));
    CHECK(joint(f, "hand_l").by_hand);
    CHECK((f.on_screen(joint(f, "hand_l").at) - to).manhattanLength() <= 3);
    CHECK((joint(f, "forearm_l").at - elbow).norm() > 1);
    CHECK((joint(f, "shin_r").at - knee).norm() < 15);
    CHECK(session.document().position() == position + 1);  // what followed belongs to the drag
    SECTION("given back with Delete") {
        QTest::mouseClick(&view, Qt::LeftButton, {}, to);
        QTest::keyClick(f.window.get(), Qt::Key_Delete);
        REQUIRE(settled(f));
        CHECK_FALSE(joint(f, "hand_l").by_hand);
        CHECK((f.on_screen(joint(f, "hand_l").at) - from).manhattanLength() <= 6);
    }
    SECTION("taken back by undo") {
        f.trigger("undo");
        CHECK_FALSE(joint(f, "hand_l").by_hand);
        CHECK(joint(f, "forearm_l").at == elbow);
    }
    SECTION("kept in the project's file") {
        REQUIRE(f.save_to(f.scratch / "joints.veldstone"));
        const auto again = load_project(f.scratch / "joints.veldstone");
        REQUIRE(again);
        CHECK(again->state.subjects.front().sources.front().landmarks.joints == f.source().landmarks.joints);
    }
}
