// The window's tests need a QApplication and a screen (Xvfb will do).
#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include <QApplication>
#include <QStandardPaths>
#ifdef __SANITIZE_THREAD__
#include <tbb/global_control.h>
#endif

#include "app/language.h"
#include "app/theme.h"

int main(int argc, char** argv) {
    veld::theme::prepare();
    Catch::Session session;
    if (const int code = session.applyCommandLine(argc, argv)) return code;
    // listing the cases (CTest does) works without a display
    if (session.configData().listTests || session.configData().listTestNamesOnly || session.configData().listTags)
        return session.run();
#ifdef __SANITIZE_THREAD__
    // TBB's own hand-over is compiled without the sanitizer: what runs beside something else here is threads of ours
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
#endif
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName("VeldstoneTest");
    QApplication::setApplicationName("VeldstoneTest");
    veld::speak(app, "en");
    veld::theme::apply(app);
    return session.run();
}
