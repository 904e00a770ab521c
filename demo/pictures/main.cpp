// demo-pictures FILE.png --view NAME [--at LANDMARK] PROJECT
#include <QApplication>
#include <QCommandLineParser>
#include <QFile>
#include <QFileInfo>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>

#include "app/language.h"
#include "app/theme.h"
#include "demo/pictures/picture.h"

int main(int argc, char** argv) {
    veld::theme::prepare();
    QApplication app(argc, argv);
    QApplication::setOrganizationName("Veldstone");
    QApplication::setApplicationName("Veldstone");
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Writes a picture of the window, for the documentation.");
    arguments.addHelpOption();
    arguments.addPositionalArgument("file", "PNG to write");
    arguments.addPositionalArgument("project", "Project file to open");
    const QCommandLineOption view("view", "What it shows: " + veld::picture_views().join(", "), "name", "mark");
    const QCommandLineOption at("at", "The picture comes close to this landmark.", "landmark");
    const QCommandLineOption language("language", "Of the window.", "code", "en");
    const QCommandLineOption light("light", "In the light theme.");
    const QCommandLineOption text("text", "Size of text, percent of the usual one.", "percent", "100");
    const QCommandLineOption size("size", "Of the window, pixels.", "WIDTHxHEIGHT", "1280x800");
    arguments.addOptions({view, at, language, light, text, size});
    arguments.process(app);
    const QStringList files = arguments.positionalArguments();
    if (files.size() != 2) arguments.showHelp(1);
    veld::theme::apply(app, arguments.isSet(light) ? veld::theme::Tone::Light : veld::theme::Tone::Dark,
                       arguments.value(text).toDouble() / 100);
    veld::speak(app, arguments.value(language));
    // on a copy: what a picture needs is not kept, and an autosave of another one's is no business of this one's
    QTemporaryDir own;
    const QString project = own.filePath(QFileInfo(files[1]).fileName());
    if (!own.isValid() || !QFile::copy(files[1], project)) {
        std::fprintf(stderr, "'%s' cannot be copied to '%s'. Is it there, and is there room?\n", qPrintable(files[1]),
                     qPrintable(project));
        return 1;
    }
    veld::MainWindow window;
    window.answer = [](const QString& text, const QStringList& buttons) {
        std::fprintf(stderr, "%s\n", qPrintable(text));
        return static_cast<int>(buttons.size()) - 1;  // the one that does nothing
    };
    const QStringList sides = arguments.value(size).split('x');
    window.show();
    if (sides.size() == 2) window.resize(sides[0].toInt(), sides[1].toInt());
    const bool opened = window.open_project(project);
    QTimer::singleShot(0, &window, [&] {
        const bool done = opened && veld::take_picture(window, arguments.value(view), files[0], arguments.value(at));
        app.exit(done ? 0 : 1);
    });
    return app.exec();
}
