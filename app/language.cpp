#include "app/language.h"

#include <QApplication>
#include <QDir>
#include <QFileInfo>
#include <QLibraryInfo>
#include <QLocale>
#include <QTranslator>

namespace veld {
namespace {

const QString kPrefix = "veldstone_", kEnglish = "en";

// Texts are filed under the class that says them, without its namespace: that is how lupdate reads files whose headers
// it does not look into.
class Translator : public QTranslator {
 public:
    QString translate(const char* context, const char* text, const char* said_as, int n) const override {
        const QByteArray name(context);
        return QTranslator::translate(name.startsWith("veld::") ? name.mid(6).constData() : context, text, said_as, n);
    }
};

QString file_of(const QString& code) { return QCoreApplication::applicationDirPath() + "/" + kPrefix + code + ".qm"; }

}  // namespace

std::vector<Language> languages() {
    std::vector<Language> out{{kEnglish, "English"}};
    const QDir beside(QCoreApplication::applicationDirPath());
    for (const QString& file : beside.entryList({kPrefix + "*.qm"}, QDir::Files, QDir::Name)) {
        const QString code = QFileInfo(file).completeBaseName().mid(kPrefix.size());
        QString name = QLocale(code).nativeLanguageName();
        if (code == kEnglish || name.isEmpty()) continue;
        name[0] = name[0].toUpper();
        out.push_back({code, name});
    }
    return out;
}

void speak(QApplication& app, const QString& wanted) {
    static Translator ours;
    static QTranslator of_qt;
    const QString machine = QLocale::system().name().section('_', 0, 0);
    QString code = wanted.isEmpty() ? machine : wanted;
    if (!QFileInfo::exists(file_of(code))) code = kEnglish;
    app.removeTranslator(&ours);
    app.removeTranslator(&of_qt);
    // English too has a file: for what is one or many
    if (ours.load(file_of(code))) app.installTranslator(&ours);
    if (code != kEnglish && of_qt.load("qtbase_" + code, QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
        app.installTranslator(&of_qt);
    QLocale::setDefault(code == machine    ? QLocale::system()
                        : code == kEnglish ? QLocale(QLocale::English, QLocale::UnitedStates)
                                           : QLocale(code));
}

}  // namespace veld
