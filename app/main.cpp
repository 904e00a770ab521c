#include <QApplication>
#include <QCommandLineParser>
#include <QStandardPaths>
#include <QSurfaceFormat>
#include <QTimer>

#include "app/main_window.h"
#include "app/picture.h"
#include "app/theme.h"

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication::setAttribute(Qt::AA_ShareOpenGLContexts);
    QApplication app(argc, argv);
    QApplication::setOrganizationName("Veldstone");
    QApplication::setApplicationName("Veldstone");
    veld::theme::apply(app);
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Conforms scans and sculpts onto a fixed-topology base mesh.");
    arguments.addHelpOption();
    arguments.addPositionalArgument("project", "Project file to open");
    const QCommandLineOption picture("picture", "Write a picture of the window to <file> and quit.", "file");
    const QCommandLineOption view("view", "What the picture shows: " + veld::picture_views().join(", "), "name",
                                  "mark");
    const QCommandLineOption at("at", "The picture comes close to this landmark.", "landmark");
    arguments.addOptions({picture, view, at});
    arguments.process(app);
    veld::MainWindow window;
    window.show();
    const QStringList files = arguments.positionalArguments();
    if (files.isEmpty() && !arguments.isSet(picture))
        QTimer::singleShot(0, &window, &veld::MainWindow::offer_recovered);
    const bool opened = files.isEmpty() || window.open_project(files.first());
    if (arguments.isSet(picture)) {
        int code = 1;
        QTimer::singleShot(0, &window, [&] {
            if (opened)
                code = veld::take_picture(window, arguments.value(view), arguments.value(picture), arguments.value(at))
                           ? 0
                           : 1;
            app.exit(code);
        });
        app.exec();
        return code;
    }
    return app.exec();
}
