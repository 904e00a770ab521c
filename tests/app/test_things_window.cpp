// The project's things, and what is dropped.
#include <catch2/catch.hpp>

#include "tests/app/layout_support.h"

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
    CHECK(over(demo("subjects/ottoline/ottoline_scan.glb")).startsWith("Open a project"));
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
