// The window's menus.
#include <QInputDialog>
#include <QMenuBar>
#include <QShortcut>
#include <QStatusBar>

#include "app/ask.h"
#include "app/main_window.h"

namespace veld {

void MainWindow::build_menus() {
    auto* project = menuBar()->addMenu(tr("Project"));
    const auto item = [&](QMenu* menu, const QString& text, const QKeySequence& key, auto&& act) {
        auto* action = menu->addAction(text);
        action->setShortcut(key);
        connect(action, &QAction::triggered, this, act);
        return action;
    };
    item(project, tr("New from base kit…"), QKeySequence::New, [this] { new_project(); });
    item(project, tr("Open…"), QKeySequence::Open, [this] { ask_for_project(); });
    recent_ = project->addMenu(tr("Recent"));
    project->addSeparator();
    item(project, tr("Save"), QKeySequence::Save, [this] { save(false); });
    item(project, tr("Save as…"), QKeySequence("Ctrl+Shift+S"), [this] { save(true); });
    project->addSeparator();
    item(project, tr("Quit"), QKeySequence("Ctrl+Q"), [this] { close(); });
    auto* edit = menuBar()->addMenu(tr("Edit"));
    undo_ = item(edit, tr("Undo"), QKeySequence::Undo, [this] { session_.document().undo(); });
    redo_ = item(edit, tr("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.document().redo(); });
    build_points_menu();
    auto* fit = menuBar()->addMenu(tr("Fit"));
    item(fit, tr("Start"), QKeySequence("Ctrl+Return"), [this] {
        const Source* source = session_.state().source();
        go_to(Station::Fit);
        if (source && source->landmarks.points.size() >= 3) session_.start_fit();
    });
    item(fit, tr("Refine this fit"), QKeySequence("Ctrl+G"), [this] {
        go_to(Station::Fit);
        session_.start_fit(Session::FitRun::GoOn);
    });
    item(fit, tr("Cancel"), QKeySequence(Qt::Key_Escape), [this] {
        session_.cancel();
        touch_->drop_stroke();
    });
    refresh_recent();
}

void MainWindow::build_points_menu() {
    auto* points = menuBar()->addMenu(tr("Landmarks"));
    const auto item = [&](const QString& text, const QKeySequence& key, const char* name, auto&& act) {
        auto* action = points->addAction(text);
        action->setObjectName(name);
        action->setShortcut(key);
        connect(action, &QAction::triggered, this, act);
        return action;
    };
    const auto marking = [this](auto&& act) {
        return [this, act] {
            if (station_ == Station::Mark) act();
        };
    };
    item(tr("Find landmarks"), QKeySequence("Ctrl+D"), "points_find", [this] {
        go_to(Station::Mark);
        session_.start_detect();
    });
    item(tr("Next"), QKeySequence(Qt::Key_N), "points_next",
         [this] { station_ == Station::Mark ? mark_->select_next(1) : go_to(Station::Mark); });
    item(tr("Previous"), QKeySequence(Qt::Key_P), "points_previous",
         [this] { station_ == Station::Mark ? mark_->select_next(-1) : go_to(Station::Mark); });
    item(tr("Next missing"), QKeySequence("Shift+N"), "points_missing", [this] { mark_->select_next_missing(); });
    item(tr("Accept"), QKeySequence(Qt::Key_A), "points_accept", marking([this] { mark_->accept_selected(); }));
    item(tr("Snap to feature"), QKeySequence("Shift+S"), "points_snap", marking([this] { mark_->snap_selected(); }));
    item(tr("Mirror"), QKeySequence(Qt::Key_M), "points_mirror", marking([this] { mark_->mirror_selected(); }));
    item(tr("Delete"), QKeySequence::Delete, "points_delete", [this] {
        if (station_ == Station::Mark) mark_->erase_selected();
        if (station_ == Station::Tidy && tidy_->selected_count() > 0) tidy_->run({Tool::Delete, {}, {}}, false);
    });
    points->addSeparator();
    item(tr("Lock or unlock"), QKeySequence("Shift+L"), "points_lock", marking([this] { mark_->toggle_locked(); }));
    item(tr("Hide or show"), QKeySequence("Shift+H"), "points_hide", marking([this] { mark_->toggle_hidden(); }));
    item(tr("Show all"), {}, "points_show_all", marking([this] { mark_->show_all(); }));
    item(tr("Swap left and right"), {}, "mark_swap", [this] { mark_->swap_sides(); });
    copy_from_ = points->addMenu(tr("Copy from another scan"));
    points->addSeparator();
    item(tr("New curve on the base"), {}, "points_own_curve", marking([this] { mark_->begin_own_curve(); }));
    auto* end = item(tr("End the curve"), QKeySequence(Qt::Key_Return), "points_end_curve",
                     [this] { mark_->finish_own_curve(); });
    // Return belongs to the fields otherwise
    const auto laying = [this, end] { end->setEnabled(mark_->laying_own_curve()); };
    connect(&session_, &Session::selection_changed, end, laying);
    connect(&session_, &Session::changed, end, laying);
    laying();
    item(tr("Rename own landmark…"), {}, "points_rename", marking([this] { rename_own(); }));
    item(tr("Store own landmarks in the kit"), {}, "points_keep_own", [this] {
        if (!session_.has_kit()) return;
        if (auto ok = mark_->keep_own_in_kit(); !ok)
            show_error(QString::fromStdString(ok.error().message));
        else
            statusBar()->showMessage(tr("Stored beside the kit; new projects ask for them too."), 6000);
    });
    points->addSeparator();
    item(tr("Read landmark file…"), {}, "mark_read", [this] { ask_for_landmarks(true); });
    item(tr("Write landmark file…"), {}, "mark_write", [this] { ask_for_landmarks(false); });
}

void MainWindow::rename_own() {
    const std::string from = session_.selected();
    const QString old = QString::fromStdString(from);
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("Rename"), tr("New name (ending in _l or _r when it has a partner):"),
                              QLineEdit::Normal, old, &ok)
            .trimmed();
    if (!ok || name.isEmpty() || name == old) return;
    if (const auto done = mark_->rename_own(from, name.toStdString()); !done)
        show_error(QString::fromStdString(done.error().message));
}

}  // namespace veld
