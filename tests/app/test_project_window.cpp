// The window and its project: files dropped, opened, saved, undone; morphs renamed.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QDropEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QStandardPaths>
#include <QTest>
#include <QToolButton>
#include <QTreeWidget>
#include <QUrl>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/deliver/deliver_panel.h"
#include "app/views/viewport.h"
#include "core/io/mesh_file.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

using namespace veld;

TEST_CASE("Window: files are dropped, bad ones are refused with a message") {
    Fixture f;
    const auto drop = [&](const QStringList& paths) { f.drop(paths); };
    drop({QString::fromStdString(demo("subjects/juniper/juniper_front.jpg"))});
    REQUIRE(f.questions.size() == 1);  // no kit yet
    drop({QString::fromStdString(demo("kit"))});
    REQUIRE(f.window->session().has_kit());
    drop({QString::fromStdString(demo("subjects/ottoline/ottoline_scan.glb"))});
    REQUIRE(f.source().name == "ottoline_scan.glb");
    REQUIRE(f.source().unit == Unit::Metre);
    drop({QString::fromStdString(demo("subjects/ottoline/ottoline_landmarks.json"))});
    REQUIRE(f.source().landmarks.points.size() == 51);
    drop({QString::fromStdString(f.scratch.write("bad.obj", "v 0 0\n"))});
    REQUIRE(f.questions.last().contains("line 1"));
    drop({QString::fromStdString(f.scratch.write("bad.json", "{"))});
    REQUIRE(f.questions.last().contains("bad.json"));
    REQUIRE(f.source().name == "ottoline_scan.glb");
    f.reply = 1;  // leave without saving
}

TEST_CASE("Window: unsaved changes are asked for, saved projects are remembered") {
    Fixture f;
    f.open_demo(true);
    REQUIRE(f.questions.isEmpty());
    f.window->session().select("pronasale");
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    REQUIRE(f.window->windowTitle().contains("*"));
    f.reply = 2;  // go back
    REQUIRE_FALSE(f.window->close());
    REQUIRE(f.questions.size() == 1);
    QTest::keyClick(f.window.get(), Qt::Key_S, Qt::ControlModifier);
    REQUIRE(wait_until([&] { return !f.window->windowTitle().contains("*"); }, 30000));
    REQUIRE(QSettings().value("recent").toStringList().first().endsWith("demo.veldstone"));
    REQUIRE(f.window->close());
    REQUIRE(f.questions.size() == 1);
    REQUIRE(load_project(f.scratch / "demo.veldstone")->state.source()->landmarks.points.size() == 50);
}

TEST_CASE("Window: a newer autosave is offered") {
    Fixture f;
    f.open_demo(true);
    ProjectState s = f.window->session().state();
    s.current()->sources.back().landmarks.points.clear();
    REQUIRE(save_project(f.scratch / "demo.veldstone", s, SaveSlot::Autosave));
    f.reply = 0;
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "demo.veldstone")));
    REQUIRE(f.questions.size() == 1);
    REQUIRE(f.source().landmarks.points.empty());
    REQUIRE(f.window->session().document().is_modified());
}

TEST_CASE("Window: a file that is no project is refused, the open one stays") {
    Fixture f;
    f.open_demo(true);
    REQUIRE_FALSE(f.window->open_project(QString::fromStdString(f.scratch.write("no.veldstone", "hello"))));
    REQUIRE(f.questions.size() == 1);
    REQUIRE(f.source().name == "ottoline_scan.glb");
}

TEST_CASE("Window: the history strip goes back and forth") {
    Fixture f;
    f.open_demo(true);
    f.window->session().select("pronasale");
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    f.trigger("mark_swap");
    auto* history = f.find<QListWidget>("history");
    REQUIRE(history->count() == 3);
    QTest::mouseClick(history->viewport(), Qt::LeftButton, {}, history->visualItemRect(history->item(0)).center());
    REQUIRE(f.source().landmarks.points.size() == 51);
    QTest::mouseClick(history->viewport(), Qt::LeftButton, {}, history->visualItemRect(history->item(1)).center());
    REQUIRE(f.source().landmarks.points.size() == 50);
}

TEST_CASE("Window: morphs are renamed and deleted from their menu") {
    Fixture f;
    f.open_demo(false);
    auto& session = f.window->session();
    Points shape = demo_kit()->mesh.positions;
    shape[100] += Vec3(0, 5, 0);
    for (const char* name : {"one", "two"}) {
        ProjectState next = session.state();
        next.bank.push_back({std::make_shared<Morph>(*make_morph(*demo_kit(), shape, name)), 0.0});
        session.change("bank", std::move(next));
    }
    f.station("station_bank");
    const auto choose = [&](const char* button, const QString& words) {
        QTest::mouseClick(f.find<QToolButton>(button), Qt::LeftButton);
        auto* menu = f.window->findChild<QMenu*>("bank_menu");
        REQUIRE(menu);
        for (QAction* a : menu->actions()) {
            if (a->text() == words) a->trigger();
        }
        menu->close();
        QTest::qWait(20);
    };
    QTimer::singleShot(50, [] {
        auto* box = QApplication::activeModalWidget();
        REQUIRE(box);
        auto* line = box->findChild<QLineEdit*>();
        line->setText("first");
        QTest::keyClick(line, Qt::Key_Return);
    });
    choose("bank_menu_0", "Rename…");
    REQUIRE(session.state().bank[0].morph->name == "first");
    QTest::qWait(20);
    f.find<QDoubleSpinBox>("bank_spin_1")->setValue(0.75);
    REQUIRE(session.state().bank[1].amount == 0.75);
    f.press("bank_reset");
    REQUIRE(session.state().bank[1].amount == 0);
    choose("bank_menu_1", "Delete");
    REQUIRE(session.state().bank.size() == 1);
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(session.state().bank.size() == 2);
}
