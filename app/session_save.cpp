// The session's share in saving: by hand, by itself, and what is left behind of projects that have no name yet.
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>

#include "app/session_parts.h"

namespace veld {
namespace {

constexpr int kTryAgainMs = 10000;  // after an autosave that failed

QString recovery_folder() { return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovered"; }
QString lock_of(const QString& project) { return project + ".lock"; }

}  // namespace

// A file of this window alone, marked as in use while the window lives.
QString Session::own_recovery_path() {
    if (!recovery_path_.isEmpty()) return recovery_path_;
    QDir().mkpath(recovery_folder());
    recovery_path_ = recovery_folder() + "/untitled " + QString::fromStdString(id_text(project_.value)) + ".veldstone";
    recovery_lock_ = std::make_unique<QLockFile>(lock_of(recovery_path_));
    recovery_lock_->setStaleLockTime(0);
    recovery_lock_->tryLock(0);
    return recovery_path_;
}

// The file itself stays: only who saves or discards the project takes it away.
void Session::let_recovery_go() {
    recovery_lock_.reset();
    recovery_path_.clear();
}

QStringList Session::recovered() const {
    QStringList out;
    for (const QFileInfo& file : QDir(recovery_folder()).entryInfoList({"*.veldstone"}, QDir::Files, QDir::Time)) {
        QLockFile lock(lock_of(file.filePath()));
        lock.setStaleLockTime(0);
        if (file.filePath() != recovery_path_ && lock.tryLock(0)) out << file.filePath();  // nobody has it open
    }
    return out;
}

Status Session::open_recovered(const QString& path) {
    if (auto ok = open(path, true); !ok) return ok;
    path_.clear();  // it has no place of its own yet
    autosave_found_ = false;
    recovery_path_ = path;  // and goes on being kept there
    recovery_lock_ = std::make_unique<QLockFile>(lock_of(path));
    recovery_lock_->setStaleLockTime(0);
    recovery_lock_->tryLock(0);
    emit changed();
    return Done{};
}

void Session::remove_recovered(const QString& path) {
    QFile::remove(path);
    QFile::remove(lock_of(path));
}

void Session::save(const QString& path, std::function<void(const Status&)> done) {
    const SaveMark mark{project_, ++requests_};
    const std::size_t serial = document_.serial();
    const QString full = QFileInfo(path).absoluteFilePath();
    saver_->write(full.toStdString(), state(), SaveSlot::Saved, mark,
                  [this, mark, serial, full, done = std::move(done)](const Status& ok) {
                      if (ok && mark.document == project_) {
                          path_ = full;
                          document_.mark_saved(serial);
                          autosaved_serial_ = serial;
                          autosave_trouble_.clear();
                          if (const QString kept = recovery_path_; !kept.isEmpty()) {  // it has a place of its own now
                              let_recovery_go();
                              remove_recovered(kept);
                          }
                          emit changed();
                      }
                      if (done && !ended_) done(ok);
                  });
}

void Session::discard_autosave() {
    saver_->wait();
    if (!path_.isEmpty()) (void)drop_autosave(path_.toStdString());
    if (const QString kept = recovery_path_; !kept.isEmpty()) {
        let_recovery_go();
        remove_recovered(kept);
    }
    autosaved_serial_ = 0;  // should the project stay open after all, it is kept again
}

void Session::autosave() {
    if (!has_kit() || !document_.is_modified() || document_.serial() == autosaved_serial_ || saver_->writing()) return;
    const std::string path = (path_.isEmpty() ? own_recovery_path() : path_).toStdString();
    const SaveMark mark{project_, ++requests_};
    saver_->write(path, state(), SaveSlot::Autosave, mark,
                  [this, mark, serial = document_.serial()](const Status& ok) {
                      if (mark.document == project_) autosave_ended(serial, ok);
                  });
}

void Session::set_autosave_ms(int ms) {
    autosave_ms_ = ms;
    autosave_timer_.setInterval(ms);
}

void Session::autosave_ended(std::size_t serial, const Status& ok) {
    if (ok) {
        autosaved_serial_ = serial;
        autosave_trouble_.clear();
        autosave_timer_.setInterval(autosave_ms_);
        return;
    }
    autosave_timer_.setInterval(std::min(kTryAgainMs, autosave_ms_));  // it is tried again
    const QString why = QString::fromStdString(ok.error().message);
    if (why == autosave_trouble_) return;  // said already
    autosave_trouble_ = why;
    emit noticed(tr("Autosave did not work and is tried again: %1").arg(why));
}

}  // namespace veld
