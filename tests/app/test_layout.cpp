// The window's layout: how much of it is picture, what folds and is remembered, commands and their keys.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QClipboard>
#include <QKeySequenceEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QSplitter>
#include <QStatusBar>
#include <QTableWidget>
#include <QTextBlock>
#include <set>

#include "app/stations/registry.h"
#include "app/window/command_search.h"
#include "app/window/figures_table.h"
#include "app/window/guide_window.h"
#include "app/window/parts.h"
#include "app/window/rail.h"
#include "app/window/shortcut_sheet.h"
#include "app/window/subject_tree.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

double picture_share(MainWindow& window) {
    QTest::qWait(30);
    const QSize views = window.views().size(), all = window.size();
    return static_cast<double>(views.width()) * views.height() / (static_cast<double>(all.width()) * all.height());
}

QAction& command(MainWindow& window, const char* id) {
    QAction* action = window.commands().find(id);
    REQUIRE(action);
    return *action;
}

}  // namespace

TEST_CASE("Layout: most of the window is picture in every station") {
    Fixture f;
    f.open_demo(true);
    const auto [width, height, open, folded] =
        GENERATE(std::tuple(1280, 800, 0.54, 0.62), std::tuple(1920, 1080, 0.66, 0.72));
    f.window->resize(width, height);
    for (const StationEntry& entry : stations()) {
        f.window->go_to(entry.station);
        const std::string id(entry.station.id);
        CAPTURE(id, width);
        command(*f.window, "view_things").setChecked(true);
        CHECK(picture_share(*f.window) >= open);
        command(*f.window, "view_things").setChecked(false);
        CHECK(picture_share(*f.window) >= folded);
        CHECK(f.window->size() == QSize(width, height));  // nothing widened it
    }
}

TEST_CASE("Layout: there is room for eleven stations") {
    Fixture f;
    const auto* rail = f.find<Rail>("rail");
    const int one = f.find<QToolButton>("station_gather")->height();
    CHECK(11 * one + f.find<QToolButton>("fold_view_things")->height() <= rail->height());
}

TEST_CASE("Layout: what is folded stays folded, in the next window too; one key leaves nothing but the picture") {
    Fixture f;
    f.open_demo(false);
    auto* things = f.window->findChild<SubjectTree*>();
    auto* panels = f.find<QWidget>("station_panels");
    REQUIRE(things->isVisible());
    QTest::mouseClick(f.find<QToolButton>("fold_view_things"), Qt::LeftButton);
    CHECK_FALSE(things->isVisible());
    QTest::keyClick(f.window.get(), Qt::Key_F8);
    CHECK_FALSE(panels->isVisible());
    {
        MainWindow other;
        other.show();
        CHECK_FALSE(other.findChild<SubjectTree*>()->isVisible());
        CHECK_FALSE(other.findChild<QWidget*>("station_panels")->isVisible());
    }
    QApplication::setActiveWindow(f.window.get());
    QTest::keyClick(f.window.get(), Qt::Key_F8);
    CHECK(panels->isVisible());

    QTest::keyClick(f.window.get(), Qt::Key_V);
    CHECK(picture_share(*f.window) > 0.99);
    CHECK_FALSE(f.window->menuBar()->isVisible());
    CHECK_FALSE(panels->isVisible());
    const double yaw = f.window->views().camera().camera().yaw;
    QTest::keyClick(f.window.get(), Qt::Key_3);  // keys go on
    CHECK(f.window->views().camera().camera().yaw != yaw);
    QTest::keyClick(f.window.get(), Qt::Key_V);
    CHECK(panels->isVisible());
    CHECK(f.window->menuBar()->isVisible());
    CHECK_FALSE(things->isVisible());  // it was folded before
    QTest::keyClick(f.window.get(), Qt::Key_V);
    QTest::keyClick(f.window.get(), Qt::Key_F7);  // who asks for a part sees it
    CHECK(things->isVisible());
    CHECK(f.window->statusBar()->isVisible());
}

TEST_CASE("Layout: no two commands share a key where both mean something, and each is in a menu") {
    Fixture f;
    const Commands& commands = f.window->commands();
    CHECK(commands.all().size() > 40);
    std::set<QString> ids;
    for (const Commands::Entry& e : commands.all()) {
        const std::string id = e.action->objectName().toStdString();
        CAPTURE(id);
        CHECK(ids.insert(e.action->objectName()).second);
        CHECK_FALSE(e.action->text().isEmpty());
        CHECK_FALSE(e.menu.isEmpty());
        CHECK(commands.taken(e.action->objectName(), e.action->shortcut()) == nullptr);
    }
}

TEST_CASE("Layout: another key for a command is kept; one that is taken is refused by name") {
    Fixture f;
    Commands& commands = f.window->commands();
    CHECK(commands.set_key("view_wire", QKeySequence(Qt::Key_F)) == "Frame");
    CHECK(command(*f.window, "view_wire").shortcut() == QKeySequence(Qt::Key_W));
    CHECK(commands.set_key("view_wire", QKeySequence(Qt::Key_J)).isEmpty());
    QTest::keyClick(f.window.get(), Qt::Key_W);
    CHECK_FALSE(command(*f.window, "view_wire").isChecked());
    QTest::keyClick(f.window.get(), Qt::Key_J);
    CHECK(command(*f.window, "view_wire").isChecked());
    CHECK(command(*f.window, "view_wire").toolTip().contains("J"));
    {
        MainWindow other;
        CHECK(other.commands().find("view_wire")->shortcut() == QKeySequence(Qt::Key_J));
    }
    commands.standard_keys();
    CHECK(command(*f.window, "view_wire").shortcut() == QKeySequence(Qt::Key_W));

    ShortcutSheet sheet(commands, f.window.get());
    sheet.show();
    auto* field = sheet.findChild<QKeySequenceEdit*>("key_view_wire");
    REQUIRE(field);
    field->setKeySequence(QKeySequence(Qt::Key_F));
    emit field->editingFinished();
    QTest::qWait(20);
    CHECK(sheet.findChild<QLabel*>("shortcuts_said")->text().contains("Frame"));
    CHECK(command(*f.window, "view_wire").shortcut() == QKeySequence(Qt::Key_W));
}

TEST_CASE("Layout: a command is found by words and done") {
    Fixture f;
    f.open_demo(false);
    CommandSearch search(f.window->commands(), f.window.get());
    search.show();
    auto* words = search.findChild<QLineEdit*>("command_words");
    auto* found = search.findChild<QListWidget*>("commands_found");
    QTest::keyClicks(words, "touch up");
    REQUIRE(found->count() >= 1);
    CHECK(found->item(0)->text().contains("Touch up"));
    QTest::keyClicks(words, " nonsense");
    CHECK(found->count() == 0);
    words->setText("touch up");
    QTest::keyClick(words, Qt::Key_Return);
    CHECK(wait_until([&] { return f.window->station() == Station::Touch; }, 2000));
}

TEST_CASE("Layout: a command that means nothing here is off, and does not take the key of another") {
    Fixture f;
    f.open_demo(false);
    f.window->go_to(Station::Gather);
    CHECK_FALSE(command(*f.window, "points_mirror").isEnabled());
    CHECK_FALSE(command(*f.window, "brush_larger").isEnabled());
    f.window->go_to(Station::Touch);
    CHECK(command(*f.window, "brush_larger").isEnabled());
    f.window->go_to(Station::Mark);
    CHECK(command(*f.window, "points_mirror").isEnabled());
}

TEST_CASE("Layout: the guide opens at the station one is in, with all its pictures") {
    Fixture f;
    f.window->go_to(Station::Touch);
    QTest::keyClick(f.window.get(), Qt::Key_F1);
    auto* guide = f.find<GuideWindow>("guide");
    REQUIRE(guide->isVisible());
    auto* headings = guide->findChild<QListWidget*>("guide_headings");
    REQUIRE(wait_until([&] { return headings->currentRow() >= 0; }, 2000));
    CHECK(headings->currentItem()->text() == "Touch up");
    CHECK(guide->pages()->textCursor().block().text() == "Touch up");
    for (const StationEntry& entry : stations()) CHECK(guide->go_to(entry.title));
    CHECK_FALSE(guide->go_to("No such heading"));
    int pictures = 0;
    for (QTextBlock block = guide->pages()->document()->begin(); block.isValid(); block = block.next()) {
        for (auto at = block.begin(); !at.atEnd(); ++at) {
            if (!at.fragment().charFormat().isImageFormat()) continue;
            const QString name = at.fragment().charFormat().toImageFormat().name();
            const std::string said = name.toStdString();
            CAPTURE(said);
            CHECK_FALSE(guide->pages()->loadResource(QTextDocument::ImageResource, QUrl(name)).isNull());
            ++pictures;
        }
    }
    CHECK(pictures >= 10);
    auto* words = guide->findChild<QLineEdit*>("guide_words");
    words->setText("self-intersections");
    QTest::keyClick(words, Qt::Key_Return);
    CHECK(guide->pages()->textCursor().selectedText() == "self-intersections");
}

TEST_CASE("Layout: the line of figures belongs to the station, and its table is sorted and copied") {
    Fixture f;
    f.open_demo(true);
    auto* line = f.find<QLabel>("figures_summary");
    f.window->go_to(Station::Gather);
    CHECK(line->text().contains("153,277 triangles"));
    CHECK_FALSE(f.find<QToolButton>("figures_unfold")->isVisible());
    f.window->go_to(Station::Mark);
    CHECK(line->text().contains("marked"));
    // a fit with two regions, as a record has it
    ProjectState next = f.window->session().state();
    FitRecord fit;
    fit.name = "by hand";
    fit.source_id = next.source()->id;
    fit.positions = std::make_shared<Points>(next.kit->mesh.positions);
    fit.distances = std::make_shared<std::vector<float>>(fit.positions->size(), 0.5f);
    fit.figures.surface = {0.5, 0.9, 1.25, 100};
    fit.figures.regions = {{"nose", {0.5, 0.9, 1.25, 20}}, {"ear_l", {10.0, 11, 12, 9}}};
    next.current()->fits.push_back(fit);
    f.window->session().change("A fit", std::move(next));
    f.window->go_to(Station::Fit);
    CHECK(line->text().contains("0.50&nbsp;mm"));
    auto* table = f.find<QTableWidget>("figures_table");
    CHECK_FALSE(table->isVisible());
    QTest::mouseClick(f.find<QToolButton>("figures_unfold"), Qt::LeftButton);
    REQUIRE(table->isVisible());
    QTest::qWait(50);  // laid out
    REQUIRE(table->rowCount() == 2);
    table->sortByColumn(1, Qt::DescendingOrder);
    CHECK(table->item(0, 1)->text() == "10.000");  // as a number, not as letters
    QTest::mouseClick(f.find<QPushButton>("figures_copy_csv"), Qt::LeftButton);
    const QStringList lines = QApplication::clipboard()->text().split('\n');
    REQUIRE(lines.size() >= 3);
    CHECK(lines[0].startsWith("Region,"));
    CHECK(lines[0].contains("\"median, mm\""));
    CHECK(lines[1].contains("10.000"));
    CHECK(f.window->findChild<FiguresTable*>()->text(false).split('\n')[1].count('\t') == 4);
    f.window->go_to(Station::Gather);
    CHECK_FALSE(table->isVisible());
}

TEST_CASE(
    "Layout: things are renamed, put in order and removed by keys, and files land on the subject they are dropped "
    "on") {
    Fixture f;
    f.open_demo(false);
    ProjectState next = f.window->session().state();
    next.subjects.push_back({"Bo", {}, {}});
    f.window->session().change("Bo", std::move(next));
    auto* tree = f.find<QTreeWidget>("subjects");
    tree->setFocus();
    const auto names = [&] {
        std::vector<std::string> out;
        for (const Subject& s : f.window->session().state().subjects) out.push_back(s.name);
        return out;
    };
    const auto choose = [&](int top) { tree->setCurrentItem(tree->topLevelItem(top)); };
    choose(1);
    QTest::keyClick(tree, Qt::Key_Up, Qt::ControlModifier);
    CHECK(names() == std::vector<std::string>{"Bo", "Ottoline"});
    CHECK(f.window->session().state().current()->name == "Ottoline");
    choose(0);
    QTest::keyClick(tree, Qt::Key_Delete);
    CHECK(names() == std::vector<std::string>{"Ottoline"});
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(names() == std::vector<std::string>{"Bo", "Ottoline"});
    choose(0);
    QTimer::singleShot(0, f.window.get(), [] {
        auto* dialog = QApplication::activeModalWidget();
        if (auto* line = dialog ? dialog->findChild<QLineEdit*>() : nullptr) line->setText("Bea");
        if (dialog) QTest::keyClick(dialog, Qt::Key_Return);
    });
    QTest::keyClick(tree, Qt::Key_F2);
    CHECK(names() == std::vector<std::string>{"Bea", "Ottoline"});

    QMimeData files;
    files.setUrls({QUrl::fromLocalFile(QString::fromStdString(demo("subjects/bram/bram_scan.ply")))});
    const QPointF at = tree->visualItemRect(tree->topLevelItem(0)).center();
    QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(tree->viewport(), &enter);
    CHECK(enter.isAccepted());
    CHECK(tree->currentItem() == tree->topLevelItem(0));  // shown where it would land
    QDropEvent drop(at, Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(tree->viewport(), &drop);
    REQUIRE(wait_until([&] { return !f.window->session().state().subjects[0].sources.empty(); }, 60000));
    CHECK(f.window->session().state().current()->name == "Bea");
    CHECK(f.window->session().state().subjects[1].sources.size() == 1);  // the other one's is its own
}
