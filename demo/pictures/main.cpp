// demo-pictures FILE.png --view NAME [--at LANDMARK] PROJECT
#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>

#include "app/theme.h"
#include "demo/pictures/picture.h"

int main(int argc, char** argv) {
    veld::theme::prepare();
    QApplication app(argc, argv);
    QApplication::setOrganizationName("Veldstone");
    QApplication::setApplicationName("Veldstone");
    veld::theme::apply(app);
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Writes a picture of the window, for the documentation.");
    arguments.addHelpOption();
    arguments.addPositionalArgument("file", "PNG to write");
    arguments.addPositionalArgument("project", "Project file to open");
    const QCommandLineOption view("view", "What it shows: " + veld::picture_views().join(", "), "name", "mark");
    const QCommandLineOption at("at", "The picture comes close to this landmark.", "landmark");
    arguments.addOptions({view, at});
    arguments.process(app);
    const QStringList files = arguments.positionalArguments();
    if (files.size() != 2) arguments.showHelp(1);
    veld::MainWindow window;
    window.show();
    const bool opened = window.open_project(files[1]);
    QTimer::singleShot(0, &window, [&] {
        const bool done = opened && veld::take_picture(window, arguments.value(view), files[0], arguments.value(at));
        app.exit(done ? 0 : 1);
    });
    return app.exec();
}
