#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>

#include "app/language.h"
#include "app/theme.h"
#include "app/window/main_window.h"
#include "app/window/preferences.h"

int main(int argc, char** argv) {
    veld::theme::prepare();
    QApplication app(argc, argv);
    QApplication::setOrganizationName("Veldstone");
    QApplication::setApplicationName("Veldstone");
    veld::speak(app, veld::read_preferences().language);
    veld::take_up(veld::read_preferences(), app);
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Conforms scans and sculpts onto a fixed-topology base mesh.");
    arguments.addHelpOption();
    arguments.addPositionalArgument("project", "Project file to open");
    arguments.process(app);
    veld::MainWindow window;
    window.show();
    const QStringList files = arguments.positionalArguments();
    if (files.isEmpty())
        QTimer::singleShot(0, &window, &veld::MainWindow::offer_recovered);
    else
        window.open_project(files.first());
    return app.exec();
}
