// The project's things, and what is dropped.
#include <catch2/catch.hpp>

#include "tests/app/layout_support.h"
#include "tests/app/mark_support.h"

TEST_CASE("Drops: what would become of it is said before, and why it cannot be taken") {
    Fixture f;
    const auto over = [&](const std::string& path) {
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(QString::fromStdString(path))});
        QDragEnterEvent enter(QPoint(500, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(f.window.get(), &enter);
        auto* says = f.find<QLabel>("drop_says");
        CHECK(says->isVisible());
        const QString out = says->text();
        QDragLeaveEvent leave;
        QApplication::sendEvent(f.window.get(), &leave);
        CHECK_FALSE(says->isVisible());
        return out;
    };
    CHECK(over(demo("kit")).startsWith("Begins a project"));
    CHECK(over(demo("subjects/ottoline/ottoline_scan.glb")).startsWith("Begins a base kit"));
    CHECK(over(demo("subjects/juniper/juniper_front.jpg")).startsWith("Open a project"));
    f.open_demo(true);
    CHECK(over(demo("subjects/ottoline/ottoline_scan.glb")) == "Adds 1 file to Ottoline");
    CHECK(over(demo("subjects/ottoline/ottoline_landmarks.json")).startsWith("Reads landmarks for"));
    const std::string letter = f.scratch.write("letter.odt", {1, 2, 3});
    CHECK(over(letter).startsWith("letter.odt cannot be read"));
    const std::size_t sources = f.window->session().state().current()->sources.size();
    f.drop({QString::fromStdString(letter)});
    CHECK(f.window->last_message().startsWith("letter.odt cannot be read"));
    CHECK(f.window->session().state().current()->sources.size() == sources);
}

TEST_CASE("Things: the photograph that is looked at is removed from the list, and undo brings it back") {
    Fixture f;
    open_unmarked_portraits(f);
    Session& session = f.window->session();
    const auto photos = [&] { return session.state().current()->photo_sets.front().photos->size(); };
    REQUIRE(photos() == 2);
    session.look_at_photo(Session::PhotoPlace{session.state().current()->photo_sets.front().id, 1});
    REQUIRE(session.photo());
    CHECK(f.window->views().photo_view()->isVisible());
    auto* tree = f.find<QTreeWidget>("subjects");
    const auto choose = [&](int which) { tree->setCurrentItem(tree->topLevelItem(0)->child(0)->child(which)); };
    choose(1);
    QTest::keyClick(tree, Qt::Key_Delete);
    CHECK(photos() == 1);
    CHECK_FALSE(session.photo());  // it is gone, and so is the look at it
    CHECK_FALSE(f.window->views().photo_view()->isVisible());
    choose(0);
    QTest::keyClick(tree, Qt::Key_Delete);
    CHECK(session.state().current()->photo_sets.empty());
    session.document().undo();
    session.document().undo();
    CHECK(photos() == 2);
}
