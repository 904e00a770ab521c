// The window's menus.
#include <QApplication>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenuBar>
#include <QStatusBar>

#include "app/ask.h"
#include "app/stations/fit/fit_scene.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/stations/touch/touch_controller.h"
#include "app/views/view_set.h"
#include "app/window/about.h"
#include "app/window/command_search.h"
#include "app/window/figures_line.h"
#include "app/window/figures_table.h"
#include "app/window/guide_window.h"
#include "app/window/history_tools.h"
#include "app/window/look_bar.h"
#include "app/window/main_window.h"
#include "app/window/parts.h"
#include "app/window/preferences.h"
#include "app/window/rail.h"
#include "app/window/shortcut_sheet.h"
#include "app/window/start_page.h"
#include "app/window/subject_tree.h"
#include "app/window/view_tools.h"

namespace veld {

void MainWindow::build_menus() {
    menus_ = {menuBar()->addMenu(tr("&Project")),   menuBar()->addMenu(tr("&Edit")),
              menuBar()->addMenu(tr("&View")),      nullptr,
              menuBar()->addMenu(tr("&Landmarks")), menuBar()->addMenu(tr("&Fit")),
              menuBar()->addMenu(tr("&Help"))};
    build_project_menu();
    auto* tools = new QWidget;
    tools->setObjectName("tools");
    tools->setAttribute(Qt::WA_StyledBackground);
    auto* across = new QHBoxLayout(tools);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(14);
    across->addWidget(new HistoryTools(session_, *commands_, menus_.edit));
    across->addWidget(new ViewTools(*commands_, menus_.view, *views_, *scene_, [this] { frame_selection(); }));
    across->addWidget(look_bar_->level_box());
    across->addSpacing(6);
    menuBar()->setCornerWidget(tools);
    menus_.edit->addSeparator();
    commands_->add(menus_.edit, {.id = "preferences", .title = tr("Preferences…"), .key = QKeySequence("Ctrl+,")},
                   [this] { show_preferences(); });
    menus_.go = menus_.view->addMenu(tr("Go to"));
    menus_.view->addSeparator();
    build_points_menu();
    build_fit_menu();
    build_help_menu();
}

void MainWindow::build_project_menu() {
    QMenu* menu = menus_.project;
    const auto item = [&](const char* id, const QString& title, const QKeySequence& key, auto&& act) {
        commands_->add(menu, {.id = id, .title = title, .key = key}, act);
    };
    item("project_new", tr("New from base kit…"), QKeySequence::New, [this] { new_project(); });
    item("project_open", tr("Open…"), QKeySequence::Open, [this] { ask_for_project(); });
    recent_ = menu->addMenu(tr("Recent"));
    if (!demo_folder().isEmpty()) item("project_demo", tr("Open the demo"), {}, [this] { open_demo(); });
    menu->addSeparator();
    item("project_add_source", tr("Add a source…"), QKeySequence("Ctrl+I"), [this] { ask_for_sources(); });
    menu->addSeparator();
    item("project_save", tr("Save"), QKeySequence::Save, [this] { save(false); });
    item("project_save_as", tr("Save as…"), QKeySequence("Ctrl+Shift+S"), [this] { save(true); });
    menu->addSeparator();
    item("quit", tr("Quit"), QKeySequence("Ctrl+Q"), [this] { close(); });
    refresh_recent();
}

// The parts of the window, last in the menu: they are there by then.
void MainWindow::build_view_menu() {
    QMenu* menu = menus_.view;
    menu->addSeparator();
    QAction* things = parts_->add(things_, menu,
                                  {.id = "view_things",
                                   .title = tr("Things"),
                                   .key = Qt::Key_F7,
                                   .icon = "things",
                                   .hint = tr("Subjects and what they have: show or fold away")},
                                  true);
    rail_->add_foot(things);
    parts_->add(side_, menu,
                {.id = "view_panel",
                 .title = tr("The station's panel"),
                 .key = Qt::Key_F8,
                 .hint = tr("What the station needs: show or fold away")},
                true);
    QAction* table = parts_->add(figures_table_, menu,
                                 {.id = "view_figures",
                                  .title = tr("The figures' table"),
                                  .key = Qt::Key_F9,
                                  .hint = tr("Figures by region: show or fold away")},
                                 false);
    connect(figures_line_, &FiguresLine::unfold, table, &QAction::setChecked);
    connect(table, &QAction::toggled, figures_line_, &FiguresLine::set_unfolded);
    figures_line_->set_unfolded(table->isChecked());
    for (QWidget* other : {static_cast<QWidget*>(menuBar()), static_cast<QWidget*>(rail_),
                           static_cast<QWidget*>(look_bar_), static_cast<QWidget*>(statusBar())})
        parts_->add(other);
    build_arrangement_menu();
    commands_->add(menu,
                   {.id = "view_maximise",
                    .title = tr("One view, or all"),
                    .key = Qt::Key_Z,
                    .hint = tr("The view that has the keys alone, or all again; a double click on its title does it")},
                   [this] { views_->toggle_alone(); });
    commands_->add(menu,
                   {.id = "view_alone",
                    .title = tr("Only the picture"),
                    .key = Qt::Key_V,
                    .hint = tr("Nothing but the views; again brings the rest back")},
                   [this] { parts_->set_alone(!parts_->alone()); });
    commands_->add(menu, {.id = "view_full_screen", .title = tr("Full screen"), .key = Qt::Key_F11},
                   [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
}

void MainWindow::build_arrangement_menu() {
    QMenu* menu = menus_.view->addMenu(tr("Views"));
    const QString titles[] = {tr("One view"), tr("Two views"), tr("Three views"), tr("Four views")};
    for (std::size_t count = 1; count <= kMostViews; ++count)
        commands_->add(menu,
                       {.id = QString("views_%1").arg(count),
                        .title = titles[count - 1],
                        .key = QKeySequence(QString("Alt+%1").arg(count))},
                       [this, count] { views_->arrange_count(count); });
    commands_->add(menu,
                   {.id = "views_of_station",
                    .title = tr("As the station shows them"),
                    .key = QKeySequence("Alt+0"),
                    .hint = tr("The views that come with the station")},
                   [this] {
                       views_->arrange_as({});
                       remember_views();
                   });
}

void MainWindow::build_fit_menu() {
    const auto item = [&](const char* id, const QString& title, const QKeySequence& key, auto&& act) {
        commands_->add(menus_.fit, {.id = id, .title = title, .key = key}, act);
    };
    item("fit_start", tr("Start"), QKeySequence("Ctrl+Return"), [this] {
        const Source* source = session_.state().source();
        go_to(Station::Fit);
        if (source && source->landmarks.points.size() >= kLeastFitLandmarks) return session_.start_fit();
        emit session_.noticed(source ? tr("A fit needs at least 3 landmarks: go to Mark and find them.")
                                     : tr("A fit needs a source: add a scan or a sculpt in Gather."));
    });
    item("fit_refine", tr("Refine this fit"), QKeySequence("Ctrl+G"), [this] {
        go_to(Station::Fit);
        session_.start_fit(Session::FitRun::GoOn);
    });
    item("fit_cancel", tr("Cancel"), QKeySequence(Qt::Key_Escape), [this] {
        session_.cancel();
        touch_->drop_stroke();
    });
}

void MainWindow::build_points_menu() {
    QMenu* points = menus_.landmarks;
    const auto item = [&](const QString& text, const QKeySequence& key, const char* id, auto&& act) {
        return commands_->add(points, {.id = id, .title = text, .key = key}, act);
    };
    // that only mean something in Mark
    const auto marking = [&](const QString& text, const QKeySequence& key, const char* id, auto&& act) {
        return commands_->add(points, Station::Mark, {.id = id, .title = text, .key = key}, act);
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
    marking(tr("Accept"), QKeySequence(Qt::Key_A), "points_accept", [this] { mark_->accept_selected(); });
    marking(tr("Snap to feature"), QKeySequence("Shift+S"), "points_snap", [this] { mark_->snap_selected(); });
    marking(tr("Mirror"), QKeySequence(Qt::Key_M), "points_mirror", [this] { mark_->mirror_selected(); });
    marking(tr("Delete"), QKeySequence::Delete, "points_delete", [this] { mark_->erase_selected(); });
    commands_->add(points, Station::Tidy, {.id = "points_delete", .title = tr("Delete"), .key = QKeySequence::Delete},
                   [this] {
                       if (tidy_->selected_count() > 0) tidy_->run({Tool::Delete, {}, {}}, false);
                   });
    points->addSeparator();
    marking(tr("Lock or unlock"), QKeySequence("Shift+L"), "points_lock", [this] { mark_->toggle_locked(); });
    marking(tr("Hide or show"), QKeySequence("Shift+H"), "points_hide", [this] { mark_->toggle_hidden(); });
    marking(tr("Show all"), {}, "points_show_all", [this] { mark_->show_all(); });
    item(tr("Swap left and right"), {}, "mark_swap", [this] { mark_->swap_sides(); });
    copy_from_ = points->addMenu(tr("Copy from another scan"));
    points->addSeparator();
    build_own_points_menu();
}

void MainWindow::build_own_points_menu() {
    QMenu* points = menus_.landmarks;
    commands_->add(points, Station::Mark, {.id = "points_own_curve", .title = tr("New curve on the base")},
                   [this] { mark_->begin_own_curve(); });
    QAction* end = commands_->add(
        points, {.id = "points_end_curve", .title = tr("End the curve"), .key = QKeySequence(Qt::Key_Return)},
        [this] { mark_->finish_own_curve(); });
    // Return belongs to the fields otherwise
    const auto laying = [this, end] { end->setEnabled(mark_->laying_own_curve()); };
    connect(&session_, &Session::selection_changed, end, laying);
    connect(&session_, &Session::changed, end, laying);
    laying();
    commands_->add(points, Station::Mark, {.id = "points_rename", .title = tr("Rename own landmark…")},
                   [this] { rename_own(); });
    commands_->add(points, {.id = "points_keep_own", .title = tr("Store own landmarks in the kit")}, [this] {
        if (!session_.has_kit()) return;
        if (auto ok = mark_->keep_own_in_kit(); !ok)
            show_error(QString::fromStdString(ok.error().message));
        else
            statusBar()->showMessage(tr("Stored beside the kit; new projects ask for them too."), 6000);
    });
    points->addSeparator();
    commands_->add(points, {.id = "mark_read", .title = tr("Read landmark file…")},
                   [this] { ask_for_landmarks(true); });
    commands_->add(points, {.id = "mark_write", .title = tr("Write landmark file…")},
                   [this] { ask_for_landmarks(false); });
}

void MainWindow::build_help_menu() {
    commands_->add(menus_.help,
                   {.id = "help_guide",
                    .title = tr("Guide"),
                    .key = QKeySequence(Qt::Key_F1),
                    .hint = tr("The guide, at the station you are in")},
                   [this] { show_guide(); });
    commands_->add(menus_.help, {.id = "help_find", .title = tr("Find a command…"), .key = QKeySequence::Find},
                   [this] { CommandSearch(*commands_, this).exec(); });
    commands_->add(menus_.help, {.id = "help_shortcuts", .title = tr("Shortcuts…"), .key = QKeySequence("Shift+F1")},
                   [this] { ShortcutSheet(*commands_, this).exec(); });
    menus_.help->addSeparator();
    commands_->add(menus_.help, {.id = "help_about", .title = tr("About Veldstone")}, [this] { About(this).exec(); });
}

void MainWindow::show_preferences() {
    Preferences all(this);
    connect(&all, &Preferences::changed, this, &MainWindow::take_up_preferences);
    all.exec();
}

void MainWindow::take_up_preferences(const PreferenceValues& now) {
    take_up(now, *qApp);
    session_.set_autosave_ms(now.autosave_minutes * kMinuteMs);
    emit session_.shown_anew();
    emit session_.changed();
    fits_->look_changed();  // in other colours perhaps
}

void MainWindow::show_guide() {
    if (!guide_) guide_ = new GuideWindow(this);
    for (const Room& room : rooms_) {
        if (room.station == station_) guide_->go_to(QString::fromUtf8(room.title));
    }
    guide_->show();
    guide_->raise();
    guide_->activateWindow();
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
