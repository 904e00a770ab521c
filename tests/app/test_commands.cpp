// Commands of the window: keys, search, the guide.
#include <catch2/catch.hpp>

#include "tests/app/layout_support.h"

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
