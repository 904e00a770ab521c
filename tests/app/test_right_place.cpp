// What work brings lands where it belongs, whatever the user looks at by then; and nothing is lost on the way out.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QStandardPaths>
#include <QTimer>
#include <atomic>
#include <thread>

#include "app/ask.h"
#include "app/stations/bank/morph_dialog.h"
#include "app/views/viewport.h"
#include "app/work/saver.h"
#include "core/io/gather.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

namespace veld {
namespace {

// Ottoline with her marks, a second subject with a copy of the scan under the same name, and one without anything.
struct Three : Fixture {
    Three() {
        begin_with("right place", [] {
            ProjectState s = new_project(demo_kit());
            Gathered scan = gather(demo("subjects/ottoline/ottoline_scan.glb"));
            Source source = make_source(std::move(scan.meshes.front()), *demo_kit());
            source.landmarks = std::move(read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set);
            Source twin = source;
            twin.id = SourceId::make();
            s.subjects.push_back({"Ottoline", {source}, {}});
            s.subjects.push_back({"Twin", {twin}, {}});
            s.subjects.push_back({"Nobody", {}, {}});
            s.settings.levels = 3, s.settings.iterations = 1;
            return s;
        });
    }
    Session& session() { return window->session(); }
    const Subject& subject(int i) { return session().state().subjects[static_cast<std::size_t>(i)]; }
    void work_on(int i) {
        ProjectState next = session().state();
        next.subject = i;
        session().change("work on", std::move(next));
    }
    void quiet() {
        REQUIRE(wait_until([&] { return !session().jobs().any(); }));
    }
};

// The first dialog that stands is looked at, and closed in some way.
void when_asked(const std::function<void(QWidget*)>& act) {
    QTimer::singleShot(0, [act] {
        if (QWidget* dialog = QApplication::activeModalWidget()) return act(dialog);
        when_asked(act);
    });
}

}  // namespace

TEST_CASE("Right place: a fit belongs to the subject that it was started for") {
    Three f;
    f.station("station_fit");
    f.press("fit_start");
    REQUIRE(f.session().fitting());
    f.work_on(2);
    CHECK_FALSE(f.session().fitting());  // nobody's work, here
    CHECK_FALSE(f.session().busy());
    f.quiet();
    CHECK(f.subject(0).fits.size() == 1);
    CHECK(f.subject(1).fits.empty());
    CHECK(f.subject(2).fits.empty());
    CHECK(f.subject(0).fits[0].source_id == f.subject(0).sources[0].id);
    CHECK(f.session().state().subject == 2);
}

TEST_CASE("Right place: a fit whose subject was removed is dropped, and that is said") {
    Three f;
    QStringList said;
    QObject::connect(&f.session(), &Session::noticed, f.window.get(), [&](const QString& text) { said << text; });
    f.session().start_fit();
    ProjectState next = f.session().state();
    next.subjects.erase(next.subjects.begin());
    f.session().change("remove", std::move(next));
    f.quiet();
    CHECK(f.subject(0).name == "Twin");
    CHECK(f.subject(0).fits.empty());
    CHECK(said.join(" ").contains("has been removed"));
}

TEST_CASE("Right place: two subjects are fitted side by side, each gets its own") {
    Three f;
    f.session().start_fit();
    f.work_on(1);
    f.session().start_fit();
    CHECK(f.session().jobs().rows().size() == 2);
    f.quiet();
    CHECK(f.subject(0).fits.size() == 1);
    CHECK(f.subject(1).fits.size() == 1);
    CHECK(f.subject(1).fits[0].source_id == f.subject(1).sources[0].id);
}

TEST_CASE("Right place: tidying changes the source that it began with, not one of the same name") {
    Three f;
    const auto before = f.subject(1).sources[0].mesh;
    f.session().start_tidy("Flip", [](const Source& from, const Progress&) -> Result<Source> {
        Source out = from;
        Mesh mesh = *from.mesh;
        mesh.positions[0] += Vec3(0.001, 0, 0);
        out.mesh = std::make_shared<Mesh>(std::move(mesh));
        return out;
    });
    f.work_on(1);
    f.quiet();
    CHECK(f.subject(1).sources[0].mesh == before);
    CHECK(f.subject(0).sources[0].mesh != before);
}

TEST_CASE("Right place: a preview of another source is not shown, a changed source is not overwritten") {
    Three f;
    const auto work = [](const Source& from, const Progress&) -> Result<Source> {
        Source out = from;
        out.mesh = std::make_shared<Mesh>(*from.mesh);
        return out;
    };
    SECTION("preview") {
        f.session().start_tidy("Copy", work, true);
        f.work_on(1);
        f.quiet();
        CHECK_FALSE(f.session().has_preview());
    }
    SECTION("changed meanwhile") {
        f.session().start_tidy("Copy", work);
        ProjectState next = f.session().state();
        const auto other = std::make_shared<Mesh>(*next.source()->mesh);
        next.current()->sources.back().mesh = other;
        f.session().change("another mesh", std::move(next));
        f.quiet();
        CHECK(f.session().state().source()->mesh == other);
    }
}

TEST_CASE("Right place: sources and photographs go to the subject that they were read for") {
    Three f;
    f.work_on(2);
    SECTION("a scan") {
        f.session().load_sources({QString::fromStdString(demo("subjects/ottoline/ottoline_scan.glb"))});
    }
    SECTION("pictures") {
        f.session().load_sources({QString::fromStdString(demo("subjects/juniper/juniper_front.jpg"))});
    }
    f.work_on(1);
    f.quiet();
    CHECK(f.subject(1).sources.size() == 1);
    CHECK(f.subject(1).photo_sets.empty());
    CHECK(f.subject(2).sources.size() + f.subject(2).photo_sets.size() == 1);
}

TEST_CASE("Right place: a detection on a photograph that is gone marks nothing else") {
    Three f;
    auto photos = read_photos(
        "portraits", {demo("subjects/juniper/juniper_front.jpg"), demo("subjects/juniper/juniper_three_quarter.jpg")});
    REQUIRE(photos);
    ProjectState next = f.session().state();
    next.current()->photo_sets = {*photos};
    f.session().change("photographs", std::move(next));
    f.session().look_at_photo(Session::PhotoPlace{photos->id, 1});
    f.session().start_detect();
    REQUIRE(f.session().detecting());
    // another set in its place, with one picture only
    next = f.session().state();
    auto one = read_photos("portraits", {demo("subjects/juniper/juniper_front.jpg")});
    next.current()->photo_sets = {*one};
    f.session().change("another set", std::move(next));
    f.quiet();
    CHECK(f.subject(0).photo_sets[0].marks.empty());
}

TEST_CASE("Right place: another project hears nothing of the old one's work") {
    Three f;
    f.station("station_fit");
    f.press("fit_start");
    REQUIRE(f.session().fitting());
    Fixture other;
    ProjectState s = new_project(demo_kit());
    s.subjects.push_back({"Else", {}, {}});
    REQUIRE(save_project(f.scratch / "else.veldstone", s));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "else.veldstone")));
    CHECK_FALSE(f.session().jobs().any_heavy());
    f.quiet();
    CHECK(f.session().state().subjects.size() == 1);
    CHECK(f.subject(0).fits.empty());
    CHECK_FALSE(f.session().document().is_modified());
}

TEST_CASE("Right place: a name that is typed while a fit ends does not undo the fit") {
    Three f;
    f.fit_quickly();
    f.find<Sections>("fit_sections")->set_current(2);
    f.session().start_fit();
    const std::size_t before = f.subject(0).fits.size();
    when_asked([&](QWidget* dialog) {
        REQUIRE(wait_until([&] { return f.subject(0).fits.size() == before + 1; }));
        auto* asked = qobject_cast<QInputDialog*>(dialog);
        REQUIRE(asked);
        asked->setTextValue("good one");
        asked->accept();
    });
    f.find<QPushButton>("try_rename")->setEnabled(true);
    f.press("try_rename");
    f.quiet();
    REQUIRE(f.subject(0).fits.size() == before + 1);
    CHECK(f.subject(0).fits[0].name == "good one");
}

TEST_CASE("Leaving: work that runs is waited for or cancelled, as the user says") {
    Three f;
    f.session().document().mark_saved();
    f.session().start_fit();
    SECTION("stay") {
        f.reply = 2;
        CHECK_FALSE(f.window->close());
        CHECK(f.session().fitting());
    }
    SECTION("cancel") {
        f.window->answer = [&](const QString& text, const QStringList&) {
            f.questions << text;
            return 1;  // cancel the work; discard what is not saved
        };
        CHECK(f.window->close());
        CHECK(f.subject(0).fits.empty());
    }
    SECTION("wait") {
        f.window->answer = [&](const QString& text, const QStringList&) {
            f.questions << text;
            return f.questions.size() == 1 ? 0 : 1;
        };
        CHECK_FALSE(f.window->close());
        REQUIRE(wait_until([&] { return !f.window->isVisible(); }));
        CHECK(f.subject(0).fits.size() == 1);
        CHECK(f.questions.size() == 2);
    }
    f.quiet();
}

TEST_CASE("Leaving: the window stays until the error that work ended with is read") {
    Three f;
    f.session().document().mark_saved();
    std::atomic<bool> fail{false};
    f.session().start_tidy("Copy", [&](const Source&, const Progress&) -> Result<Source> {
        while (!fail) std::this_thread::sleep_for(std::chrono::milliseconds(1));
        return Error{ErrorCode::BadInput, "It cannot be done."};
    });
    f.reply = 0;  // wait for it
    CHECK_FALSE(f.window->close());
    f.window->answer = nullptr;
    bool read = false;
    when_asked([&](QWidget* box) {
        QTest::qWait(400);
        CHECK(f.window->isVisible());
        read = true;
        QTest::keyClick(box, Qt::Key_Escape);
    });
    fail = true;
    REQUIRE(wait_until([&] { return !f.window->isVisible(); }, 20000));
    CHECK(read);
}

TEST_CASE("Leaving: who thinks better of it keeps all") {
    Three f;
    ProjectState next = f.session().state();
    next.subjects[0].name = "Changed";
    f.session().change("name", std::move(next));
    SECTION("no file is selected: nothing is asked, nothing given up") {
        f.session().files().answer = [](const FileAsked&) { return QStringList(); };
        QTest::keyClick(f.window.get(), Qt::Key_O, Qt::ControlModifier);
        CHECK(f.questions.isEmpty());
    }
    SECTION("what was to be opened cannot be: the discarded state is kept by itself again") {
        const QString broken = QString::fromStdString(f.scratch.write("broken.veldstone", "no project"));
        f.session().files().answer = [broken](const FileAsked&) { return QStringList{broken}; };
        f.reply = 1;  // discard
        QTest::keyClick(f.window.get(), Qt::Key_O, Qt::ControlModifier);
        CHECK(f.questions.size() == 2);
        CHECK(f.subject(0).name == "Changed");
        f.session().autosave();
        f.session().saver().wait();
        CHECK(load_project(f.scratch / "demo.veldstone", SaveSlot::Autosave)->state.subjects[0].name == "Changed");
    }
    SECTION("a later wish replaces one that waits for work") {
        f.session().start_fit();
        f.reply = 0;
        CHECK_FALSE(f.window->close());  // waits
        f.reply = 2;
        CHECK_FALSE(f.window->close());  // stays after all
        f.quiet();
        QTest::qWait(100);
        CHECK(f.window->isVisible());
    }
    f.reply = 1;
}

TEST_CASE("Recovery: Esc decides nothing, what autosave kept stays until it is saved elsewhere") {
    Fixture f;
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovered";
    QDir().mkpath(folder);
    for (const QFileInfo& old : QDir(folder).entryInfoList(QDir::Files)) QFile::remove(old.filePath());
    const QString path = folder + "/untitled.veldstone";
    f.window->offer_recovered();
    REQUIRE(f.questions.isEmpty());
    ProjectState s = new_project(demo_kit());
    s.subjects.push_back({"Left behind", {}, {}});
    REQUIRE(save_project(path.toStdString(), s, SaveSlot::Autosave));
    SECTION("Esc in the question itself") {
        f.window->answer = nullptr;
        when_asked([](QWidget* box) { QTest::keyClick(box, Qt::Key_Escape); });
        f.window->offer_recovered();
        CHECK(QFileInfo::exists(path));
        CHECK_FALSE(f.window->session().has_kit());
    }
    SECTION("opened, it stays until it has a place of its own") {
        f.reply = 0;
        f.window->offer_recovered();
        REQUIRE(f.questions.size() == 1);
        CHECK(f.window->session().state().subjects[0].name == "Left behind");
        CHECK(f.window->session().path().isEmpty());
        CHECK(f.window->session().document().is_modified());
        CHECK(QFileInfo::exists(path));
        REQUIRE(f.save_to(f.scratch / "kept.veldstone"));
        CHECK_FALSE(QFileInfo::exists(path));
    }
    SECTION("deleted when the user says so") {
        f.reply = 1;
        f.window->offer_recovered();
        CHECK_FALSE(QFileInfo::exists(path));
    }
    f.reply = 1;
}

TEST_CASE("Recovery: an untitled project is kept by itself, each window's in a file of its own") {
    Fixture f;
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovered";
    for (const QFileInfo& old : QDir(folder).entryInfoList(QDir::Files)) QFile::remove(old.filePath());
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    ProjectState next = f.window->session().state();
    next.subjects[0].name = "Unnamed";
    f.window->session().change("name", std::move(next));
    f.window->session().autosave();
    REQUIRE(wait_until([&] { return !f.window->session().saver().writing(); }));
    REQUIRE(QDir(folder).entryList({"*.veldstone"}, QDir::Files).size() == 1);
    CHECK(f.window->session().recovered().isEmpty());  // it is open here
    Fixture other;
    CHECK(other.window->session().recovered().isEmpty());
    f.window.reset();  // the program ends without asking
    CHECK(other.window->session().recovered().size() == 1);
    other.reply = 1;
    other.window->offer_recovered();
    CHECK(QDir(folder).entryList({"*.veldstone"}, QDir::Files).isEmpty());
}

TEST_CASE("Autosave: a failure is said once and tried again until it works") {
    Fixture f;
    f.begin_with("one subject", [] {
        ProjectState s = new_project(demo_kit());
        s.subjects.push_back({"A", {}, {}});
        return s;
    });
    Session& session = f.window->session();
    QStringList said;
    QObject::connect(&session, &Session::noticed, f.window.get(), [&](const QString& text) { said << text; });
    ProjectState next = session.state();
    next.subjects[0].name = "B";
    session.change("name", std::move(next));
    const std::filesystem::path file = f.scratch / "demo.veldstone";
    // a folder where the journal would go: the file cannot be written
    std::filesystem::rename(file, f.scratch / "aside");
    std::filesystem::create_directory(file);
    session.set_autosave_ms(40);
    REQUIRE(wait_until([&] { return !said.isEmpty(); }, 20000));
    CHECK(said.front().contains("tried again"));
    QTest::qWait(200);
    CHECK(said.size() == 1);
    std::filesystem::remove(file);
    std::filesystem::rename(f.scratch / "aside", file);
    REQUIRE(wait_until(
        [&] {
            const auto back = load_project(file.string(), SaveSlot::Autosave);
            return back && back->state.subjects[0].name == "B";
        },
        20000));
    CHECK(load_project(file.string())->autosave_is_newer);
}

TEST_CASE("Opening: the window has room on its screen, and the views show the whole subject") {
    Fixture f;
    const QRect room = f.window->screen()->availableGeometry();
    CHECK(f.window->frameGeometry().height() <= room.height());
    CHECK(f.window->frameGeometry().width() <= room.width());
    f.begin_with("half marked", [] {
        ProjectState s = new_project(demo_kit());
        Gathered scan = gather(demo("subjects/ottoline/ottoline_scan.glb"));
        Source source = make_source(std::move(scan.meshes.front()), *demo_kit());
        source.landmarks = std::move(read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set);
        source.landmarks.points.erase("tragion_l");
        s.subjects.push_back({"Ottoline", {source}, {}});
        return s;
    });
    f.rest();
    Viewport& view = f.source_view();
    const Box box = view.content_box();
    for (const double y : {box.low.y() + 0.02 * box.size().y(), box.high.y() - 0.02 * box.size().y()}) {
        const QPointF at = view.screen_of(Vec3(box.centre().x(), y, box.centre().z()));
        CHECK(view.rect().contains(at.toPoint()));
    }
}

TEST_CASE("Morph properties: a lower limit that is not below the upper one is said, not swallowed") {
    Fixture f;
    f.begin_with("one morph", [] {
        ProjectState s = new_project(demo_kit());
        s.subjects.push_back({"A", {}, {}});
        Points shape = demo_kit()->mesh.positions;
        shape[100] += Vec3(0, 5, 0);
        s.bank.push_back({std::make_shared<Morph>(*make_morph(*demo_kit(), shape, "nose")), 0.0});
        return s;
    });
    const MorphId id = f.window->session().state().bank[0].id;
    MorphDialog dialog(f.window->session(), f.window->bank(), id);
    dialog.show();
    dialog.findChild<QDoubleSpinBox*>("morph_low")->setValue(2);
    dialog.findChild<QDoubleSpinBox*>("morph_high")->setValue(1);
    dialog.accept();
    CHECK(dialog.isVisible());
    auto* trouble = dialog.findChild<QLabel*>("morph_trouble");
    CHECK(trouble->isVisible());
    CHECK(trouble->text().contains("below"));
    dialog.findChild<QDoubleSpinBox*>("morph_low")->setValue(-1);
    dialog.accept();
    CHECK_FALSE(dialog.isVisible());
    CHECK(f.window->session().state().bank[0].morph->low == -1);
}

}  // namespace veld
