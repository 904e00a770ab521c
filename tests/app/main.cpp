// The window's tests need a QApplication and a screen (Xvfb will do).
#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include <QApplication>
#include <QStandardPaths>

#include "app/theme.h"

int main(int argc, char** argv) {
    veld::theme::prepare();
    Catch::Session session;
    if (const int code = session.applyCommandLine(argc, argv)) return code;
    // listing the cases (CTest does) works without a display
    if (session.configData().listTests || session.configData().listTestNamesOnly || session.configData().listTags)
        return session.run();
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName("VeldstoneTest");
    QApplication::setApplicationName("VeldstoneTest");
    veld::theme::apply(app);
    return session.run();
}
