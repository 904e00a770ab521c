#include "app/ask.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QSettings>

namespace veld {

QString FileDialogs::open(QWidget* over, const QString& title, const QString& start, const QString& filter) const {
    if (answer) return answer({FileQuestion::Open, title, start, filter}).value(0);
    return QFileDialog::getOpenFileName(over, title, start, filter);
}

QStringList FileDialogs::open_several(QWidget* over, const QString& title, const QString& start,
                                      const QString& filter) const {
    if (answer) return answer({FileQuestion::OpenSeveral, title, start, filter});
    return QFileDialog::getOpenFileNames(over, title, start, filter);
}

QString FileDialogs::save(QWidget* over, const QString& title, const QString& start, const QString& filter) const {
    if (answer) return answer({FileQuestion::Save, title, start, filter}).value(0);
    return QFileDialog::getSaveFileName(over, title, start, filter);
}

QString FileDialogs::folder(QWidget* over, const QString& title, const QString& start) const {
    if (answer) return answer({FileQuestion::Folder, title, start, {}}).value(0);
    return QFileDialog::getExistingDirectory(over, title, start);
}

QString FileDialogs::last_folder() const { return QSettings().value("last_folder").toString(); }

void FileDialogs::remember_folder_of(const QString& path) const {
    QSettings().setValue("last_folder", QFileInfo(path).absolutePath());
}

}  // namespace veld
