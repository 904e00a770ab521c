// Poses and joints of the bank's shapes in the real window.
#include <catch2/catch.hpp>

#include "core/morph/joint_moves.h"
#include "tests/app/bank_support.h"

TEST_CASE("Bank window: a pose is found in the mix, turned by hand, looked at in three poses, and taken out") {
    BankFixture f;
    const BaseKit& kit = *demo_kit();
    const auto joint_of = [&](const std::string& name) {
        for (std::size_t j = 0; j < kit.joints.size(); ++j)
            if (kit.joints[j].name == name) return j;
        throw std::runtime_error("no joint " + name);
    };
    Pose lower = rest_pose(kit.joints);
    const auto down = [](double degrees) {
        return Eigen::AngleAxisd(degrees * M_PI / 180, Vec3::UnitZ()).toRotationMatrix();
    };
    lower.turns[joint_of("upper_arm_l")] = down(-22), lower.turns[joint_of("upper_arm_r")] = down(22);
    f.add("arms lower", skin(kit.mesh.positions, kit.joints, kit.weights, lower));
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(1);
    f.page(BankController::Page::Rest);
    auto* use = f.find<QPushButton>("rest_use");
    CHECK_FALSE(use->isEnabled());  // nothing is turned yet
    f.press("rest_find");
    REQUIRE(wait_until([&] { return use->isEnabled(); }));
    CHECK(f.find<QLabel>("rest_said")->text().startsWith("2 joints"));
    auto* joints = f.find<QTreeWidget>("rest_joints");
    REQUIRE(joints->topLevelItemCount() == static_cast<int>(kit.joints.size()));
    const auto item = [&](const char* name) { return joints->findItems(name, Qt::MatchExactly).at(0); };
    CHECK(item("upper arm l")->text(1).startsWith("2"));
    CHECK(joints->indexOfTopLevelItem(item("upper arm r")) < 2);  // turned ones come first
    CHECK(item("shin l")->text(1).isEmpty());
    // by hand: the other side goes along
    joints->setCurrentItem(item("forearm l"));
    f.find<QDoubleSpinBox>("rest_spin_1")->setValue(30);
    CHECK(item("forearm r")->text(1) == "30.0°");
    // each turn is a step
    f.undo();
    CHECK(item("forearm r")->text(1).isEmpty());
    CHECK(item("upper arm l")->text(1).startsWith("2"));  // found as before
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(item("forearm r")->text(1) == "30.0°");
    f.undo();
    f.undo();
    CHECK(f.find<QLabel>("rest_said")->text().startsWith("A pose that is still"));
    CHECK_FALSE(use->isEnabled());
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(use->isEnabled());
    // a click on the nose selects the head's joint
    Viewport& first = *f.window->views().base_view();
    const Vec3 nose = kit.landmarks.at("pronasale").at(kit.mesh.positions);
    QTest::mouseClick(&first, Qt::LeftButton, Qt::NoModifier, first.screen_of(nose).toPoint());
    CHECK(joints->currentItem()->text(0) == "head");
    // another pose to look at
    auto* view = f.find<QComboBox>("rest_view_1");
    view->setCurrentIndex(view->findText("stride"));
    emit view->activated(view->currentIndex());
    QTest::qWait(30);
    f.find<QLineEdit>("rest_name")->setText("as the base");
    f.press("rest_use");
    REQUIRE(f.state().bank.size() == 2);
    const Morph& kept = *f.state().bank[1].morph;
    CHECK(kept.name == "as the base");
    CHECK(f.state().bank[0].amount == 0);
    CHECK(apart(mix_morphs(kit.mesh.positions, {{&kept, 1}}), kit.mesh.positions) < 2);
    CHECK_FALSE(f.state().rest_work);
    f.undo();
    CHECK(f.state().bank.size() == 1);
    CHECK(f.state().bank[0].amount == 1);
    CHECK(use->isEnabled());  // the pose is there again
    // in another shape it is not what was found
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(0.5);
    CHECK_FALSE(use->isEnabled());
}

TEST_CASE("Bank window: joints go with the mix, are moved by hand, fixed to a morph and released") {
    BankFixture f;
    f.add_people();
    const BaseKit& kit = *demo_kit();
    f.find<QDoubleSpinBox>("bank_spin_1")->setValue(1);
    f.page(BankController::Page::Joints);
    auto* said = f.find<QLabel>("moves_said");
    auto* list = f.find<QTreeWidget>("moves_joints");
    REQUIRE(list->topLevelItemCount() == static_cast<int>(kit.joints.size()));
    CHECK(f.find<QComboBox>("moves_morph")->currentText() == "Tall carrier");  // the one that is on
    const auto item = [&](const char* name) { return list->findItems(name, Qt::MatchExactly).at(0); };
    const auto joint_of = [&](const std::string& name) {
        for (std::size_t j = 0; j < kit.joints.size(); ++j)
            if (kit.joints[j].name == name) return j;
        throw std::runtime_error("no joint " + name);
    };
    const auto move = [&](const char* name) { return joint_moves(kit, *f.state().bank[1].morph)[joint_of(name)]; };
    const Vec3 told = move("hand_l");
    REQUIRE(told.norm() > 20);  // a tall one's
    CHECK(item("hand l")->text(1).startsWith(QString::number(told.norm(), 'f', 1)));
    list->setCurrentItem(item("hand l"));
    f.find<QDoubleSpinBox>("moves_y")->setValue(told.y() + 12);
    CHECK(move("hand_l").y() == Approx(told.y() + 12).margin(0.06));
    CHECK(move("hand_r").x() == Approx(-move("hand_l").x()));  // alike
    CHECK(item("hand l")->text(2) == "◆");
    CHECK(item("forearm l")->text(2).isEmpty());
    // dragged on the mix, whose slider is half way up: the move at 1 is twice as much
    f.find<QDoubleSpinBox>("bank_spin_1")->setValue(0.5);
    QTest::qWait(50);
    f.window->views().frame_home();
    QTest::qWait(800);
    Viewport& view = *f.window->views().result_view();
    const Vec3 knee = mixed_joints(kit, f.state().amounts())[joint_of("shin_l")].position;
    const Vec3 before = move("shin_l");
    const QPoint from = view.screen_of(knee).toPoint();
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, from + QPoint(0, -6));
    QTest::mouseMove(&view, from + QPoint(0, -12));
    QTest::mouseRelease(&view, Qt::LeftButton, {}, from + QPoint(0, -12));
    const double up = (move("shin_l") - before).y();
    CHECK(up > 5);
    const Vec3 now = mixed_joints(kit, f.state().amounts())[joint_of("shin_l")].position;
    CHECK((now - knee).y() == Approx(0.5 * up).margin(0.5));
    CHECK((view.screen_of(now).toPoint() - from - QPoint(0, -12)).manhattanLength() <= 3);
    // muted it is not seen, and a drag would move nothing that is
    ProjectState muted = f.state();
    muted.bank[1].muted = true;
    f.session().change("Mute", std::move(muted));
    CHECK(said->text().contains("not on in the mix"));
    f.undo();
    CHECK_FALSE(said->text().contains("not on in the mix"));
    f.press("moves_fix");
    CHECK(f.state().bank[1].morph->joints.size() == kit.joints.size());
    CHECK(said->text().contains(QString::number(kit.joints.size())));
    list->setCurrentItem(item("hand l"));
    f.press("moves_release");
    CHECK_FALSE(f.state().bank[1].morph->joints.contains("hand_r"));
    CHECK((move("hand_l") - told).norm() < 1e-9);
    f.press("moves_release_all");
    CHECK(f.state().bank[1].morph->joints.empty());
    f.undo(), f.undo();
    CHECK(f.state().bank[1].morph->joints.size() == kit.joints.size());
}
