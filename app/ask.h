#pragma once
// Questions about files, in one place, so that whoever drives the window (a test) can answer for the user.
#include <QString>
#include <QStringList>
#include <functional>

class QWidget;

namespace veld {

enum class FileQuestion { Open, OpenSeveral, Save, Folder };

// An empty answer means that the user thought better of it.
struct FileAsked {
    FileQuestion what = FileQuestion::Open;
    QString title, start, filter;
};

class FileDialogs {
 public:
    QString open(QWidget* over, const QString& title, const QString& start, const QString& filter) const;
    QStringList open_several(QWidget* over, const QString& title, const QString& start, const QString& filter) const;
    QString save(QWidget* over, const QString& title, const QString& start, const QString& filter) const;
    QString folder(QWidget* over, const QString& title, const QString& start = {}) const;

    // where the last one was; kept from one start of the program to the next
    QString last_folder() const;
    void remember_folder_of(const QString& path) const;

    std::function<QStringList(const FileAsked&)> answer;  // set: no dialog is shown
};

}  // namespace veld
