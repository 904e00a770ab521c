// The window's share in projects: opening, saving, leaving.
#include <QApplication>
#include <QCloseEvent>
#include <QFileInfo>
#include <QMenu>
#include <QSettings>
#include <QStatusBar>
#include <QTimer>

#include "app/ask.h"
#include "app/scene/scene.h"
#include "app/stations/base/base_controller.h"
#include "app/stations/mark/mark_controller.h"
#include "app/views/view_set.h"
#include "app/window/layout_store.h"
#include "app/window/main_window.h"
#include "app/window/start_page.h"

namespace veld {
namespace {
const char* kProjectFilter = "Veldstone project (*.veldstone)";
}  // namespace

// Whoever leaves a project says first what becomes of work that runs, then of what is not saved; `then` comes after
// that, perhaps much later, or never.
void MainWindow::leave_then(std::function<void()> then) {
    after_work_ = nullptr;  // what was waited for before is not wanted any more
    if (session_.jobs().any_heavy()) {
        QStringList titles;
        for (const JobRow& row : session_.jobs().rows()) titles << row.title;
        switch (ask(tr("Work is still running: %1.").arg(titles.join(", ")),
                    {tr("Wait for it"), tr("Cancel the work"), tr("Stay")}, 2)) {
            case 0:
                after_work_ = std::move(then);  // goes on when all has ended
                return statusBar()->showMessage(tr("Goes on when the work is done."), 6000);
            case 1:
                // not what the views are being made ready with: whoever stays after all still needs it
                for (const JobRow& row : session_.jobs().rows()) session_.jobs().cancel(row.id);
                break;
            default:
                return;
        }
    }
    leave_saved_then(std::move(then));
}

void MainWindow::leave_saved_then(std::function<void()> then) {
    if (!session_.has_kit() || !session_.document().is_modified()) return then();
    switch (ask(tr("The project has changes that are not saved."), {tr("Save"), tr("Discard"), tr("Stay")}, 2)) {
        case 0:
            return save(false, [this, then = std::move(then)] { when_nobody_is_asked(then); });
        case 1:
            session_.discard_autosave();
            return then();
        default:
            return;
    }
}

void MainWindow::work_may_have_ended() {
    if (!after_work_ || session_.jobs().any_heavy()) return;
    // after this event: what just ended is still being taken in
    QTimer::singleShot(0, this, [this] {
        when_nobody_is_asked([this] {
            if (after_work_ && !session_.jobs().any_heavy()) leave_saved_then(std::exchange(after_work_, nullptr));
        });
    });
}

// The window does not go away from under a dialog: an error that work ended with is read first.
void MainWindow::when_nobody_is_asked(std::function<void()> then) {
    constexpr int kAskAgainMs = 100;
    if (!QApplication::activeModalWidget()) return then();
    QTimer::singleShot(kAskAgainMs, this, [this, then = std::move(then)] { when_nobody_is_asked(then); });
}

void MainWindow::closeEvent(QCloseEvent* event) {
    // work and saving may take their time: then the window closes itself when all is answered
    in_close_event_ = true;
    if (!leaving_) {
        leave_then([this] {
            leaving_ = true;
            session_.jobs().cancel_all();
            if (!in_close_event_) close();
        });
    }
    in_close_event_ = false;
    event->setAccepted(leaving_);
}

void MainWindow::remember(const QString& path) {
    session_.files().remember_folder_of(path);
    QSettings settings;
    if (!path.endsWith(".veldstone")) return;
    QStringList recent = settings.value("recent").toStringList();
    recent.removeAll(QFileInfo(path).absoluteFilePath());
    recent.prepend(QFileInfo(path).absoluteFilePath());
    settings.setValue("recent", recent.mid(0, 8));
    refresh_recent();
}

void MainWindow::refresh_recent() {
    recent_->clear();
    for (const QString& path : QSettings().value("recent").toStringList()) {
        if (!QFileInfo::exists(path)) continue;
        // after the menu: opening rebuilds it
        connect(
            recent_->addAction(QFileInfo(path).completeBaseName() + "   " + QFileInfo(path).absolutePath()),
            &QAction::triggered, this, [this, path] { leave_then([this, path] { open_project(path); }); },
            Qt::QueuedConnection);
    }
    recent_->setEnabled(!recent_->isEmpty());
    if (start_page_) start_page_->set_recent(QSettings().value("recent").toStringList());
}

bool MainWindow::open_project(const QString& path) {
    Status ok = session_.open(path);
    QString kit;
    if (!ok && ok.error().code == ErrorCode::KitMissing &&
        ask(QString::fromStdString(ok.error().message), {tr("Select the kit's folder…"), tr("Close")}) == 0) {
        kit = session_.files().folder(this, tr("Base kit"), session_.files().last_folder());
        if (kit.isEmpty()) return false;
        ok = session_.open(path, false, kit.toStdString());
    }
    if (!ok) {
        show_error(QString::fromStdString(ok.error().message));
        return false;
    }
    if (session_.autosave_found()) {
        const int which = ask(tr("This project was closed with changes that only autosave has."),
                              {tr("Open the autosave"), tr("Open the saved file"), tr("Decide later")}, 2);
        if (which == 0) {
            if (auto newer = session_.open(path, true, kit.toStdString()); !newer)
                show_error(QString::fromStdString(newer.error().message));
        }
    }
    remember(path);
    show_opened();
    return true;
}

void MainWindow::offer_recovered() {
    for (const QString& path : session_.recovered()) {
        const QString when = QFileInfo(path).lastModified().toString("d MMM yyyy, hh:mm");
        const int which = ask(tr("A project from %1 was never saved; autosave has it.").arg(when),
                              {tr("Open it"), tr("Delete it"), tr("Decide later")}, 2);
        if (which == 1) Session::remove_recovered(path);
        if (which != 0) continue;
        // it stays on disk until it is saved elsewhere or discarded
        if (const auto ok = session_.open_recovered(path); !ok) {
            show_error(QString::fromStdString(ok.error().message));
            continue;
        }
        return show_opened();
    }
}

// A point that is asked for next must not hide what the project is about.
void MainWindow::show_opened() {
    layout_->set_project(session_.path());
    go_to(session_.state().source() ? Station::Mark : Station::Gather);
    const Framing subject = scene_->source.subject_framing();
    subject.radius > 0 ? views_->frame(subject) : views_->frame_home();
}

void MainWindow::save(bool as_new, std::function<void()> then) {
    if (!session_.has_kit()) return;
    QString path = session_.path();
    if (as_new || path.isEmpty()) {
        path = session_.files().save(this, tr("Save project"),
                                     path.isEmpty() ? session_.files().last_folder() + "/untitled.veldstone" : path,
                                     kProjectFilter);
        if (path.isEmpty()) return;
        if (!path.endsWith(".veldstone")) path += ".veldstone";
    }
    session_.save(path, [this, path, then = std::move(then)](const Status& ok) {
        if (!ok) return show_error(QString::fromStdString(ok.error().message));
        remember(path);
        layout_->set_project(session_.path());
        statusBar()->showMessage(tr("Saved"), 4000);
        if (then) then();
    });
}

void MainWindow::new_from(const QString& folder) {
    if (auto ok = session_.new_from_kit(folder.toStdString()); !ok)
        return show_error(QString::fromStdString(ok.error().message));
    layout_->set_project({});
    go_to(Station::Gather);
}

// A project on the kit that was just made, at the place where it is looked through.
void MainWindow::open_made_kit(const QString& folder) {
    leave_then([this, folder] {
        if (auto ok = session_.new_from_kit(folder.toStdString()); !ok)
            return show_error(QString::fromStdString(ok.error().message));
        layout_->set_project({});
        base_->set_page(BaseController::Page::Kit);
        go_to(Station::Base);
        views_->frame_home();
    });
}

void MainWindow::new_project() {
    // asked before anything is given up: who thinks better of it keeps all
    const QString folder = session_.files().folder(this, tr("Folder of the base kit"), session_.files().last_folder());
    if (folder.isEmpty()) return;
    session_.files().remember_folder_of(folder + "/figure.json");
    leave_then([this, folder] { new_from(folder); });
}

// What scripts/demo made, without a name, so that it stays as it is for the next time; else its first scan.
void MainWindow::open_demo() {
    leave_then([this] {
        const QString made = QCoreApplication::applicationDirPath() + "/../../demo/saltmarsh.veldstone";
        if (!QFileInfo::exists(made)) {
            const QString folder = demo_folder();
            new_from(folder + "/kit");
            if (session_.has_kit()) session_.load_sources({folder + "/subjects/ottoline/ottoline_scan.glb"});
        } else if (const auto ok = session_.open_untitled(made); !ok) {
            show_error(QString::fromStdString(ok.error().message));
        } else {
            show_opened();
        }
    });
}

void MainWindow::ask_for_project() {
    const QString path =
        session_.files().open(this, tr("Open project"), session_.files().last_folder(), kProjectFilter);
    if (!path.isEmpty()) leave_then([this, path] { open_project(path); });
}

void MainWindow::ask_for_sources() {
    if (!session_.has_kit()) return show_error(tr("Open a project or a base kit first."));
    const QStringList paths =
        session_.files().open_several(this, tr("Add sources"), session_.files().last_folder(), source_filter());
    if (paths.isEmpty()) return;
    remember(paths.first());
    session_.load_sources(paths);
}

void MainWindow::ask_for_landmarks(bool read) {
    const QString filter = "Landmarks (*.json)";
    const QString path =
        read ? session_.files().open(this, tr("Read landmarks"), session_.files().last_folder(), filter)
             : session_.files().save(this, tr("Write landmarks"), session_.files().last_folder() + "/landmarks.json",
                                     filter);
    if (path.isEmpty()) return;
    remember(path);
    const auto ok = read ? mark_->read(path) : mark_->write(path);
    if (!ok) show_error(QString::fromStdString(ok.error().message));
}

}  // namespace veld
