// The Base station in the real window: a kit from somebody else's mesh, looked through and corrected.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QTreeWidget>
#include <filesystem>

#include "app/stations/base/base_controller.h"
#include "app/stations/base/new_base_tab.h"
#include "app/views/viewport.h"
#include "core/base/file.h"
#include "core/io/mesh_write.h"
#include "core/kit/write_kit.h"
#include "core/project/bank.h"
#include "core/tidy/resample.h"
#include "demo/standins/made_up_base.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

using Page = BaseController::Page;

// A rigged bust of somebody else's, as a file.
const std::string& rigged_bust() {
    static Scratch scratch;
    static const std::string file = [] {
        BaseOptions o;
        o.seed = 6, o.figure = false, o.edge_mm = 5;
        const MadeUpBase base = make_base(*demo_kit(), o);
        const std::string out = scratch / "bust.glb";
        REQUIRE(write_file(out, rigged_glb(base, rig_of(base))));
        return out;
    }();
    return file;
}

struct BaseFixture : Fixture {
    Session& session() { return window->session(); }
    const BaseKit& kit() { return *session().state().kit; }
    BaseController& base() { return window->base(); }
    void page(Page p) {
        base().set_page(p);
        QTest::qWait(50);
    }
    // A kit of one's own that may be written to, and a project on it.
    std::string open_own_kit() {
        const std::string folder = scratch / "own kit";
        std::filesystem::copy(demo("kit"), folder, std::filesystem::copy_options::recursive);
        auto kit = read_base_kit(folder);
        REQUIRE(kit);
        kit->doubts["pronasale"] = 3.5;
        REQUIRE(update_base_kit(*kit));
        REQUIRE(session().new_from_kit(folder));
        station("station_base");
        QTest::qWait(50);
        return folder;
    }
    void undo() { QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier); }
    void redo() { QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier); }
    Viewport& view() { return *window->views().base_view(); }
    QTreeWidgetItem* row_of(const char* list, const std::string& name) {
        for (QTreeWidgetItem* item : find<QTreeWidget>(list)->findItems("*", Qt::MatchWildcard | Qt::MatchRecursive)) {
            if (item->data(0, Qt::UserRole).toString().toStdString() == name) return item;
        }
        FAIL("no row " << name);
        return nullptr;
    }
    void select(const char* list, const std::string& name) {
        find<QTreeWidget>(list)->setCurrentItem(row_of(list, name));
        QTest::qWait(50);
    }
    void look_at(const std::string& landmark) {
        session().select(landmark);
        window->frame_selection();
        rest();
    }
    // A short stroke of the brush there.
    void paint_at(const std::string& landmark, Page where) {
        look_at(landmark);
        page(where);
        stroke(on_base(landmark));
    }
    void stroke(const QPoint& at) {
        const auto send = [&](QEvent::Type type, const QPoint& p, Qt::MouseButtons held) {
            QMouseEvent event(type, QPointF(p), view().mapToGlobal(QPointF(p)),
                              type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
            QApplication::sendEvent(&view(), &event);
        };
        send(QEvent::MouseButtonPress, at, Qt::LeftButton);
        send(QEvent::MouseMove, at + QPoint(3, 3), Qt::LeftButton);
        send(QEvent::MouseButtonRelease, at + QPoint(3, 3), Qt::NoButton);
        QTest::qWait(50);
    }
    QPoint on_base(const std::string& landmark) {
        return view().screen_of(session().state().base_points.at(landmark).at(kit().mesh.positions)).toPoint();
    }
};

}  // namespace

TEST_CASE("Base window: from a file to a kit, as a new user would") {
    BaseFixture f;
    f.press("start_make_kit");
    REQUIRE(f.base().page() == Page::New);
    CHECK_FALSE(f.find<QPushButton>("new_base_make")->isEnabled());
    answer_file_dialog(QString::fromStdString(rigged_bust()));
    f.press("new_base_mesh");
    const std::string folder = f.scratch / "kit";
    f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(folder)}; };
    f.press("new_base_folder");
    REQUIRE(f.find<QPushButton>("new_base_make")->isEnabled());
    f.press("new_base_make");
    CHECK(f.base().making());
    REQUIRE(wait_until([&] { return f.session().has_kit(); }));
    CHECK(f.questions.isEmpty());
    CHECK(f.base().page() == Page::Kit);
    CHECK(f.kit().folder == folder);
    CHECK(std::filesystem::exists(folder + "/figure.json"));
    REQUIRE(f.kit().own_rig);
    CHECK(f.kit().own_rig->roles.at("jaw") == "jaw bone");
    CHECK(f.kit().expressions.contains("their smile"));
    QTest::qWait(100);
    CHECK(f.find<QLabel>("base_report")->isVisible());
    CHECK(f.find<QLabel>("base_report")->text().contains("joints"));
    CHECK(f.find<QTreeWidget>("base_abilities")->topLevelItemCount() == 8);
    // a scan fits onto it
    f.session().load_sources({QString::fromStdString(demo("subjects/ottoline/ottoline_scan.glb"))});
    REQUIRE(wait_until([&] { return f.session().prepared() != nullptr; }));
    f.window->go_to(Station::Mark);
    REQUIRE(f.window->mark().read(QString::fromStdString(demo("subjects/ottoline/ottoline_landmarks.json"))));
    f.session().start_fit();
    REQUIRE(wait_until([&] { return f.session().state().fit() && !f.session().busy(); }));
    CHECK(f.session().state().fit()->figures.surface.median < 0.15);
    CHECK(f.session().state().fit()->figures.flipped_faces == 0);

    SECTION("a part told otherwise, a landmark moved, and the kit made again from its own file") {
        f.station("station_base");
        f.page(Page::Parts);
        f.select("base_parts", "lash_l");
        f.look_at("palpebrale_superius_l");
        f.page(Page::Parts);
        // the piece under the pointer, by the controller's own ray
        const KitPart& lash = *f.kit().part("lash_l");
        const Vec3 p = f.kit().mesh.positions[lash.vertices[lash.vertices.size() / 2]];
        REQUIRE(f.base().select_piece({p + Vec3(0, 0, 200), Vec3(0, 0, -1)}));
        if (f.base().part() == "lash_l") {
            CHECK(f.find<QComboBox>("base_piece_is")->isEnabled());
            f.base().tell_piece("other");
            CHECK(f.base().told() == 1);
        }
        ProjectState next = f.session().state();
        next.base_points["gnathion"] = next.base_points.at("pogonion");
        f.session().change("Move the chin", std::move(next));
        const std::size_t told = f.base().told();
        f.reply = 1;  // the project that was only looked at is not saved
        f.page(Page::Kit);
        f.press("base_again");
        REQUIRE(wait_until([&] { return f.base().making(); }, 2000));
        REQUIRE(wait_until([&] { return !f.base().making() && f.kit().by_hand.contains("gnathion"); }));
        if (told) CHECK(f.kit().part("other"));
        CHECK(f.kit().original->part_at.size() == told);
        CHECK(f.kit().folder == folder + " 2");
        REQUIRE(read_base_kit(folder));  // the first stays
        CHECK_FALSE(read_base_kit(folder)->by_hand.contains("gnathion"));
    }
}

TEST_CASE("Base window: a mesh that is dropped where there is no kit begins one") {
    BaseFixture f;
    f.drop({QString::fromStdString(rigged_bust())});
    CHECK(f.window->station() == Station::Base);
    CHECK(f.base().page() == Page::New);
    CHECK(f.find<QLabel>("new_base_mesh_path")->text().endsWith("bust.glb"));
    CHECK(f.find<QLabel>("new_base_folder_path")->text().endsWith("bust kit"));
    CHECK(f.questions.isEmpty());
    f.drop({QString::fromStdString(demo("kit"))});  // a kit's folder is still a kit
    CHECK(f.session().has_kit());
    QTest::qWait(50);
    CHECK(f.base().page() == Page::Kit);
}

TEST_CASE("Base window: no face is found, and by hand one gets on") {
    BaseFixture f;
    f.station("station_base");
    QTest::qWait(50);
    auto& form = *f.window->findChild<NewBaseTab*>();
    const std::string file = f.scratch.write("flat.obj", "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\n");
    form.set_mesh(QString::fromStdString(file));
    QTest::qWait(20);
    f.press("new_base_make");
    REQUIRE(wait_until([&] { return !f.base().making(); }));
    REQUIRE(f.questions.size() == 1);
    CHECK_FALSE(f.questions[0].isEmpty());
    CHECK_FALSE(f.session().has_kit());
    CHECK_FALSE(std::filesystem::exists(f.scratch / "flat kit"));
    // a source of the same file that is marked is offered
    f.open_demo(true);
    form.set_mesh(QString::fromStdString(f.source().path));
    QTest::qWait(20);
    CHECK(f.find<QComboBox>("new_base_landmarks")->count() == 2);
    form.set_mesh(QString::fromStdString(file));
    QTest::qWait(20);
    CHECK(f.find<QComboBox>("new_base_landmarks")->count() == 1);
    SECTION("cancelled in the middle, nothing is written") {
        form.set_mesh(QString::fromStdString(rigged_bust()));
        const std::string folder = f.scratch / "half kit";
        f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(folder)}; };
        f.station("station_base");
        f.page(Page::New);
        f.press("new_base_folder");
        f.press("new_base_make");
        QTest::qWait(700);
        f.press("new_base_cancel");
        REQUIRE(wait_until([&] { return !f.base().making(); }));
        CHECK_FALSE(std::filesystem::exists(folder));
    }
}

TEST_CASE("Base window: landmarks are looked through and moved, kept by the project, written into the kit") {
    BaseFixture f;
    const std::string folder = f.open_own_kit();
    f.page(Page::Landmarks);
    auto* list = f.find<QTreeWidget>("base_landmarks");
    CHECK(list->topLevelItem(0)->data(0, Qt::UserRole).toString() == "pronasale");  // the doubted one first
    CHECK(list->topLevelItem(0)->text(1).contains("3.5"));
    f.select("base_landmarks", "pronasale");
    f.rest();
    const QPoint from = f.on_base("pronasale");
    const auto send = [&](QEvent::Type type, const QPoint& at, Qt::MouseButtons held) {
        QMouseEvent event(type, QPointF(at), f.view().mapToGlobal(QPointF(at)),
                          type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
        QApplication::sendEvent(&f.view(), &event);
    };
    const SurfacePoint before = f.session().state().base_points.at("pronasale");
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int i = 1; i <= 5; ++i) send(QEvent::MouseMove, from + QPoint(2 * i, 3 * i), Qt::LeftButton);
    send(QEvent::MouseButtonRelease, from + QPoint(10, 15), Qt::NoButton);
    QTest::qWait(50);
    CHECK_FALSE(f.session().state().base_points.at("pronasale") == before);
    CHECK(open_doubts(f.session().state()).empty());
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(f.session().state().base_points.at("pronasale") == before);
    REQUIRE(open_doubts(f.session().state()).size() == 1);
    // it is right after all
    f.session().select("pronasale");
    QTest::qWait(20);
    f.press("base_landmark_right");
    CHECK(open_doubts(f.session().state()).empty());
    CHECK(f.base().is_changed());
    // the project keeps it while the kit's folder does not know
    const std::string file = f.scratch / "kept.veldstone";
    REQUIRE(f.save_to(file));
    CHECK(read_base_kit(folder)->doubts.size() == 1);
    REQUIRE(f.window->open_project(QString::fromStdString(file)));
    CHECK(open_doubts(f.session().state()).empty());
    CHECK(f.base().is_changed());
    f.station("station_base");
    f.page(Page::Kit);
    f.press("base_save");
    CHECK_FALSE(f.base().is_changed());
    CHECK(read_base_kit(folder)->doubts.empty());
}

TEST_CASE("Base window: regions are painted, shown, undone; what has no partner and the neck ring are shown") {
    BaseFixture f;
    f.open_own_kit();
    f.page(Page::Regions);
    f.select("base_regions", BaseController::kNeckRing);
    std::size_t shown = 0;
    for (const float w : f.base().region_weights()) shown += w > 0;
    CHECK(shown == f.kit().neck_ring.size());
    CHECK_FALSE(f.find<QCheckBox>("base_region_paint")->isEnabled());
    f.select("base_regions", "lips");
    REQUIRE(f.find<QCheckBox>("base_region_paint")->isEnabled());
    f.find<QCheckBox>("base_region_paint")->click();
    CHECK(f.base().painting());
    const VertexIndices before = f.kit().region("lips");
    f.paint_at("glabella", Page::Regions);
    CHECK(f.kit().region("lips").size() > before.size());
    CHECK(f.session().state().kit_edits.regions.contains("lips"));
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(f.kit().region("lips") == before);
    CHECK(f.session().state().kit_edits.empty());
}

TEST_CASE("Base window: the skin that a joint is tied to is shown, painted, undone and taken back") {
    BaseFixture f;
    f.open_own_kit();
    f.page(Page::Joints);
    f.select("base_joints", "head");
    auto* shown = f.find<QComboBox>("base_joint_shown");
    CHECK_FALSE(f.find<QCheckBox>("base_tie_paint")->isVisible());
    shown->setCurrentIndex(1);
    emit shown->activated(1);
    REQUIRE(f.find<QCheckBox>("base_tie_paint")->isVisible());
    const std::vector<float> before = f.base().joint_weights();
    const Index nose = f.kit().landmarks.at("glabella").vertices[0];
    CHECK(*std::max_element(before.begin(), before.end()) == 1);
    CHECK(before[nose] < 0.2);
    CHECK_FALSE(f.find<QPushButton>("base_untie")->isEnabled());
    f.find<QCheckBox>("base_tie_paint")->click();
    CHECK(f.base().painting());
    f.stroke(QPoint(4, 60));  // beside the base: nothing is tied anew
    CHECK(f.session().state().kit_edits.empty());
    f.paint_at("glabella", Page::Joints);
    REQUIRE(f.kit().joint_ties.contains("head"));
    CHECK(f.base().joint_weights()[nose] > before[nose]);
    CHECK(f.find<QPushButton>("base_untie")->isEnabled());
    f.press("base_untie");
    CHECK(f.kit().joint_ties.empty());
    CHECK(f.base().joint_weights() == before);
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(f.kit().joint_ties.contains("head"));
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(f.kit().joint_ties.empty());
    CHECK(f.session().state().kit_edits.empty());
}

TEST_CASE("Base window: parts, joints and expressions are shown; a copy of the kit") {
    BaseFixture f;
    f.open_own_kit();
    f.page(Page::Parts);
    f.select("base_parts", "eye_l");
    CHECK(f.base().part() == "eye_l");
    CHECK_FALSE(f.find<QComboBox>("base_piece_is")->isEnabled());  // not made from a file
    f.page(Page::Joints);
    f.select("base_joints", "head");
    double most = 0;
    for (const float w : f.base().joint_weights()) most = std::max<double>(most, w);
    CHECK(most == Approx(1));
    f.page(Page::Expressions);
    auto* list = f.find<QListWidget>("base_expressions");
    REQUIRE(list->count() == 24);
    list->setCurrentItem(list->findItems("smile", Qt::MatchExactly).front());
    QTest::qWait(100);
    CHECK(f.base().expression() == "smile");
    CHECK(f.window->views().result_view()->isVisible());
    f.page(Page::Kit);
    QTest::qWait(50);
    CHECK_FALSE(f.window->views().result_view()->isVisible());
    const QString copy = QString::fromStdString(f.scratch / "copy");
    f.session().files().answer = [&](const FileAsked&) { return QStringList{copy}; };
    f.press("base_save_as");
    CHECK(f.kit().folder == copy.toStdString());
    CHECK(read_base_kit(copy.toStdString()));
}

TEST_CASE("Base window: what a part goes with, and other rest poses") {
    BaseFixture f;
    const std::string folder = f.open_own_kit();
    f.page(Page::Parts);
    f.select("base_parts", "skin");
    auto* goes = f.find<QComboBox>("base_part_goes");
    CHECK_FALSE(goes->isVisible());
    f.select("base_parts", "tongue");
    REQUIRE(goes->isVisible());
    CHECK(goes->currentText() == "the lower jaw");
    const int skin = goes->findText("the skin around it");
    goes->setCurrentIndex(skin);
    emit goes->activated(skin);
    CHECK(f.kit().part("tongue")->rule() == PartRule::Skin);
    f.undo();
    CHECK(f.kit().part("tongue")->rule() == PartRule::LowerJaw);
    f.redo();
    REQUIRE(f.base().save());
    CHECK(read_base_kit(folder)->part("tongue")->rule() == PartRule::Skin);

    f.page(Page::Joints);
    auto* pose = f.find<QComboBox>("base_pose");
    REQUIRE(pose->isVisible());
    REQUIRE(pose->count() == 3);
    emit pose->activated(pose->findData("T"));
    f.rest();
    CHECK(f.window->views().result_view()->isVisible());
    const Index wrist = f.kit().region("hand_l").front();
    CHECK((*f.base().posed())[wrist].y() > f.kit().mesh.positions[wrist].y() + 100);
    emit pose->activated(0);
    f.rest();
    CHECK_FALSE(f.base().posed());
}

TEST_CASE("Base window: reduced versions are added, looked at, written with morphs, and taken out") {
    BaseFixture f;
    const std::string folder = f.open_own_kit(), file = f.scratch / "low.obj";
    REQUIRE(write_mesh(file, reduce_triangles(f.kit().mesh, 9000).mesh, 0.001));
    f.page(Page::Reduced);
    f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(file)}; };
    f.press("base_reduced_add");
    REQUIRE(wait_until([&] { return f.base().shown_reduced() != nullptr; }));
    QTest::qWait(50);
    CHECK(f.find<QTreeWidget>("base_reduced")->topLevelItemCount() == 1);
    CHECK(f.find<QLabel>("base_reduced_figures")->isVisible());
    CHECK(f.window->views().result_view()->isVisible());
    CHECK(f.base().is_changed());
    // two clicks on the same: it is there once
    f.base().add_reduced(QString::fromStdString(file));
    f.base().add_reduced(QString::fromStdString(file));
    REQUIRE(wait_until([&] { return !f.session().jobs().has(JobKind::Read); }));
    CHECK(f.kit().reduced.size() == 1);
    f.undo();
    CHECK(f.kit().reduced.empty());
    f.base().add_reduced(QString::fromStdString(file));
    f.base().add_reduced(QString::fromStdString(file));
    REQUIRE(wait_until([&] { return !f.session().jobs().has(JobKind::Read); }));
    CHECK(f.kit().reduced.size() == 1);
    f.undo();
    CHECK(f.kit().reduced.empty());
    f.redo();
    REQUIRE(f.kit().reduced.size() == 1);
    REQUIRE(f.base().save());
    CHECK(f.kit().reduced[0].file == "reduced_low.obj");
    CHECK(read_base_kit(folder)->reduced == f.kit().reduced);

    // with the morphs
    ProjectState next = f.session().state();
    Points longer = f.kit().mesh.positions;
    for (const Index v : f.kit().region("face")) longer[v].z() += 2;
    add_morph(next, *make_morph(f.kit(), longer, "longer"), 0);
    f.session().change("a morph", std::move(next));
    f.station("station_deliver");
    auto* too = f.find<QCheckBox>("deliver_reduced");
    REQUIRE(too->isVisible());
    QTest::mouseClick(too, Qt::LeftButton, Qt::NoModifier, QPoint(8, too->height() / 2));
    REQUIRE(too->isChecked());
    f.find<QComboBox>("deliver_format")->setCurrentIndex(1);  // OBJ
    std::filesystem::create_directories(f.scratch / "out");
    f.session().files().answer = [&](const FileAsked&) {
        return QStringList{QString::fromStdString(f.scratch / "out")};
    };
    f.press("deliver_each");
    REQUIRE(wait_until([&] { return std::filesystem::exists(f.scratch / "out/longer_low.obj"); }));
    REQUIRE(wait_until([&] { return !f.session().jobs().has(JobKind::Export); }));
    CHECK(read_mesh(f.scratch / "out/longer_low.obj")->mesh.positions.size() == f.kit().reduced[0].vertices);

    // one that does not lie on the base
    f.station("station_base");
    f.page(Page::Reduced);
    Mesh beside = reduce_triangles(f.kit().mesh, 500).mesh;
    for (Vec3& p : beside.positions) p.x() += 700;
    const std::string other = f.scratch / "beside.obj";
    REQUIRE(write_mesh(other, beside, 0.001));
    f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(other)}; };
    f.press("base_reduced_add");
    REQUIRE(wait_until([&] { return !f.session().jobs().has(JobKind::Read); }));
    CHECK(f.kit().reduced.size() == 1);
    f.select("base_reduced", "low");
    f.press("base_reduced_remove");
    CHECK(f.kit().reduced.empty());
    REQUIRE(f.base().save());
    CHECK(read_base_kit(folder)->reduced.empty());
}

TEST_CASE("Base window: morphs come from another base's project, with their figures") {
    BaseFixture f;
    ProjectState other = new_project(demo_kit());
    Morph smile = *make_morph(*demo_kit(), demo_kit()->expressions.at("smile"), "smile");
    smile.group = "faces";
    add_morph(other, std::move(smile), 0);
    const std::string file = f.scratch / "other.veldstone";
    REQUIRE(save_project(file, other));
    f.open_own_kit();
    f.page(Page::Bring);
    f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(file)}; };
    f.press("bring_project");
    REQUIRE(wait_until([&] { return f.base().brought() != nullptr; }));
    REQUIRE(f.session().state().bank.size() == 1);
    CHECK(f.session().state().bank[0].morph->group == "faces");
    CHECK(f.base().brought()->exact == f.kit().mesh.positions.size());
    QTest::qWait(100);
    CHECK(f.find<QTreeWidget>("bring_list")->topLevelItemCount() == 1);
    CHECK(f.window->views().result_view()->isVisible());
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(f.session().state().bank.empty());
    SECTION("a project with an empty bank says so") {
        const std::string none = f.scratch / "none.veldstone";
        REQUIRE(save_project(none, new_project(demo_kit())));
        f.session().files().answer = [&](const FileAsked&) { return QStringList{QString::fromStdString(none)}; };
        f.press("bring_project");
        REQUIRE(wait_until([&] { return !f.questions.isEmpty(); }));
        CHECK(f.questions[0].contains("empty"));
    }
}
