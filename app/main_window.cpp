#include "app/main_window.h"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QDoubleSpinBox>
#include <QDragEnterEvent>
#include <QFile>
#include <QFileInfo>
#include <QInputDialog>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QScreen>
#include <QSettings>
#include <QShortcut>
#include <QStackedWidget>
#include <QStatusBar>
#include <QTimer>
#include <QToolButton>

#include "app/ask.h"
#include "app/bench.h"
#include "app/figures_view.h"
#include "app/look_bar.h"
#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/bank_panel.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/stations/deliver/deliver_panel.h"
#include "app/stations/fit/fit_panel.h"
#include "app/stations/fit/photo_controller.h"
#include "app/stations/fit/region_controller.h"
#include "app/stations/gather/gather_panel.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/mark/mark_panel.h"
#include "app/stations/tidy/tidy_panel.h"
#include "app/stations/touch/touch_panel.h"
#include "app/subject_tree.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "app/work/jobs_bar.h"
#include "app/work/saver.h"

namespace veld {
namespace {
constexpr int kFootHeight = 30;
const char* kProjectFilter = "Veldstone project (*.veldstone)";
const char* kSourceFilter =
    "Scans, sculpts and photographs (*.obj *.ply *.stl *.glb *.gltf *.zip *.fbx *.dae *.3ds *.off *.jpg *.jpeg *.png "
    "*.tif *.tiff *.heic *.heif)";
}  // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent),
      mark_(std::make_unique<MarkController>(session_)),
      tidy_(std::make_unique<TidyController>(session_)),
      touch_(std::make_unique<TouchController>(session_)),
      regions_(std::make_unique<RegionController>(session_)),
      photos_(std::make_unique<PhotoController>(session_)),
      bank_(std::make_unique<BankController>(session_)),
      exchange_(std::make_unique<ExchangeController>(session_, *bank_)) {
    setAcceptDrops(true);
    setWindowIcon(theme::icon("app"));
    bench_ = new Bench(session_, *mark_, *tidy_, *touch_, *regions_, *bank_, *photos_);
    panels_ = new QStackedWidget;
    auto* gather = new GatherPanel(session_, *tidy_);
    tidy_panel_ = new TidyPanel(session_, *tidy_);
    auto* mark_panel = new MarkPanel(session_, *mark_);
    fit_panel_ = new FitPanel(session_, *regions_, *photos_);
    touch_panel_ = new TouchPanel(session_, *touch_);
    deliver_panel_ = new DeliverPanel(session_);
    for (QWidget* panel : std::initializer_list<QWidget*>{gather, tidy_panel_, mark_panel, fit_panel_, touch_panel_,
                                                          new BankPanel(session_, *bank_, *exchange_), deliver_panel_})
        panels_->addWidget(panel);
    panels_->setFixedWidth(288);

    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* bar = new QWidget;
    auto* bar_row = new QHBoxLayout(bar);
    bar_row->setContentsMargins(8, 0, 8, 0);
    bar_row->setSpacing(0);
    build_station_bar(bar_row);
    bar_row->addStretch();
    bar_row->addWidget(build_view_bar());
    column->addWidget(bar);
    auto* upper = new QSplitter(Qt::Horizontal);
    upper->setHandleWidth(3);
    auto* tree = new SubjectTree(session_);
    upper->addWidget(tree);
    upper->addWidget(bench_);
    upper->addWidget(panels_);
    upper->setStretchFactor(1, 1);
    upper->setSizes({190, 800, 288});
    auto* all = new QSplitter(Qt::Vertical);
    all->setHandleWidth(3);
    auto* views = new QWidget;
    auto* views_column = new QVBoxLayout(views);
    views_column->setContentsMargins(0, 0, 0, 0);
    views_column->setSpacing(0);
    views_column->addWidget(upper, 1);
    look_bar_ = new LookBar(session_);
    views_column->addWidget(look_bar_);
    all->addWidget(views);
    auto* figures = new FiguresView(session_);
    connect(figures, &FiguresView::go_and_look, this, [this](Index vertex) {
        if (station_ != Station::Fit && station_ != Station::Touch) go_to(Station::Fit);
        bench_->look_at_fit(vertex);
    });
    all->addWidget(figures);
    all->setStretchFactor(0, 1);
    all->setSizes({580, 150});
    column->addWidget(all, 1);
    setCentralWidget(centre);
    build_menus();

    connect(tree, &SubjectTree::go_to, this, &MainWindow::go_to);
    connect(gather, &GatherPanel::repair_with, this, [this](Tool tool) {
        go_to(Station::Tidy);
        tidy_panel_->select_tool(tool);
    });
    connect_tidy();
    connect(gather, &GatherPanel::ask_for_sources, this, &MainWindow::ask_for_sources);
    connect(mark_panel, &MarkPanel::loupe_toggled, bench_, &Bench::set_loupe);
    connect(mark_panel, &MarkPanel::hold_toggled, bench_, &Bench::hold_camera);
    for (const auto& [key, box] : {std::pair{Qt::Key_S, mark_panel->snap_box()},
                                   {Qt::Key_L, mark_panel->loupe_box()},
                                   {Qt::Key_H, mark_panel->hold_box()}}) {
        auto* shortcut = new QShortcut(QKeySequence(key), this);
        connect(shortcut, &QShortcut::activated, this, [this, box] {
            if (station_ == Station::Mark) box->toggle();
        });
    }
    connect_looks();
    connect_brush_keys();
    connect(&session_, &Session::changed, this, &MainWindow::refresh);
    connect(&session_, &Session::failed, this, &MainWindow::show_error);
    connect(&session_, &Session::noticed, this, [this](const QString& text) { statusBar()->showMessage(text, 9000); });
    statusBar()->setFixedHeight(kFootHeight);  // what runs must not push the views about
    statusBar()->addPermanentWidget(new JobsBar(session_.jobs(), session_.saver()));
    connect(&session_.jobs(), &Jobs::changed, this, &MainWindow::work_may_have_ended);
    connect(&session_, &Session::swap_sides_offered, this, [this](const QString& text, SourceId source) {
        // after this event: the question runs events of its own
        QMetaObject::invokeMethod(
            this,
            [this, text, source] {
                if (ask(text, {tr("Swap sides"), tr("Leave as it is")}) == 0) mark_->swap_sides_of(source);
            },
            Qt::QueuedConnection);
    });
    for (Viewport* v : {bench_->base_view(), bench_->source_view(), bench_->result_view()})
        connect(v, &Viewport::unusable, this, &MainWindow::show_error);
    fit_onto_screen();
    go_to(Station::Gather);
    refresh();
}

// While everything that listens to it is still there.
MainWindow::~MainWindow() { session_.end(); }

// As large as it likes to be, but never larger than what the screen has room for.
void MainWindow::fit_onto_screen() {
    const QRect room = screen() ? screen()->availableGeometry() : QRect(0, 0, 1280, 800);
    resize(QSize(1280, 800).boundedTo(room.size()));
}

void MainWindow::build_station_bar(QLayout* layout) {
    static const std::pair<const char*, const char*> stations[] = {
        {"gather", "Gather"},  {"tidy", "Tidy"}, {"mark", "Mark"},      {"fit", "Fit"},
        {"touch", "Touch up"}, {"bank", "Bank"}, {"deliver", "Deliver"}};
    for (int i = 0; i < static_cast<int>(std::size(stations)); ++i) {
        auto* b = new QToolButton;
        b->setText(tr(stations[i].second));
        b->setObjectName(QString("station_%1").arg(stations[i].first));
        b->setIcon(theme::icon(stations[i].first));
        b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
        b->setProperty("role", "station");
        b->setCheckable(true);
        b->setAutoExclusive(true);
        b->setToolTip(tr("Go to %1 (Ctrl+%2)").arg(stations[i].second).arg(i + 1));
        connect(b, &QToolButton::clicked, this, [this, i] { go_to(static_cast<Station>(i)); });
        auto* shortcut = new QShortcut(QKeySequence(QString("Ctrl+%1").arg(i + 1)), this);
        connect(shortcut, &QShortcut::activated, this, [this, i] { go_to(static_cast<Station>(i)); });
        layout->addWidget(b);
        station_buttons_.push_back(b);
    }
}

QWidget* MainWindow::build_view_bar() {
    auto* bar = new QWidget;
    auto* across = new QHBoxLayout(bar);
    across->setContentsMargins(0, 2, 0, 2);
    across->setSpacing(1);
    const auto tool = [&](const char* icon, const QString& tip, const QKeySequence& key, bool checkable = false) {
        auto* action = new QAction(theme::icon(icon), tip, this);
        action->setObjectName(QString("view_%1").arg(icon));
        action->setShortcut(key);
        action->setCheckable(checkable);
        action->setToolTip(key.isEmpty() ? tip : QString("%1 (%2)").arg(tip, key.toString()));
        addAction(action);
        auto* b = new QToolButton;
        b->setDefaultAction(action);
        across->addWidget(b);
        return action;
    };
    static const std::pair<const char*, FixedView> views[] = {{"front", FixedView::Front},
                                                              {"threequarter", FixedView::ThreeQuarter},
                                                              {"side", FixedView::Side},
                                                              {"back", FixedView::Back},
                                                              {"below", FixedView::Below}};
    const QString names[] = {tr("Front"), tr("Three-quarter"), tr("Side"), tr("Back"), tr("From below")};
    for (int i = 0; i < 5; ++i)
        connect(tool(views[i].first, names[i], QKeySequence(Qt::Key_1 + i)), &QAction::triggered, this,
                [this, i] { bench_->camera().look_from(views[i].second); });
    auto* other = new QShortcut(QKeySequence(Qt::Key_6), this);
    connect(other, &QShortcut::activated, this, [this] { bench_->camera().look_from(FixedView::OtherSide); });
    across->addSpacing(8);
    connect(tool("frame", tr("Frame the selected point, or the head"), QKeySequence(Qt::Key_F)), &QAction::triggered,
            this, [this] { bench_->frame_selection(); });
    auto* home = new QShortcut(QKeySequence(Qt::Key_Home), this);
    connect(home, &QShortcut::activated, this, [this] { bench_->frame_head(); });
    ortho_ = tool("lens", tr("Orthographic or perspective"), QKeySequence(Qt::Key_O), true);
    connect(ortho_, &QAction::toggled, this, [this](bool on) {
        Camera c = bench_->camera().camera();
        c.orthographic = on;
        bench_->camera().set(c);
    });
    lens_ = new QDoubleSpinBox;
    lens_->setObjectName("view_lens_degrees");
    lens_->setRange(4, 90);
    lens_->setDecimals(0);
    lens_->setSuffix("°");
    lens_->setPrefix(tr("FOV "));
    lens_->setFixedWidth(98);
    lens_->setToolTip(tr("Vertical field of view; the subject keeps its size (Ctrl+wheel)"));
    connect(lens_, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        Camera c = bench_->camera().camera();
        if (std::abs(c.field_of_view - degrees) < 0.5) return;
        const double before = c.height_at_target();
        c.field_of_view = degrees;
        c.distance *= before / c.height_at_target();
        bench_->camera().set(c);
    });
    connect(&bench_->camera(), &CameraLink::changed, this,
            [this] { lens_->setValue(bench_->camera().camera().field_of_view); });
    lens_->setValue(bench_->camera().camera().field_of_view);
    across->addWidget(lens_);
    across->addSpacing(8);
    wire_ = tool("wire", tr("Wireframe over the surface"), QKeySequence(Qt::Key_W), true);
    connect(wire_, &QAction::toggled, bench_, &Bench::set_wire);
    auto* shading = new QComboBox;
    shading->setObjectName("view_shading");
    shading->addItems({tr("Clay"), tr("Textured"), tr("Flat colour")});
    shading->setToolTip(tr("How surfaces are shown (T)"));
    connect(shading, &QComboBox::currentIndexChanged, this,
            [this](int i) { bench_->set_shading(static_cast<Shading>(i)); });
    auto* cycle = new QShortcut(QKeySequence(Qt::Key_T), this);
    connect(cycle, &QShortcut::activated, this,
            [shading] { shading->setCurrentIndex((shading->currentIndex() + 1) % shading->count()); });
    across->addWidget(shading);
    return bar;
}

void MainWindow::go_to(Station station) {
    station_ = station;
    const int i = static_cast<int>(station);
    station_buttons_[static_cast<std::size_t>(i)]->setChecked(true);
    panels_->setCurrentIndex(i);
    bench_->set_station(station);
    emit station_changed();
    if (station == Station::Mark && session_.selected().empty()) mark_->select_next_missing();
}

void MainWindow::refresh() {
    setWindowTitle(tr("%1 — Veldstone").arg(session_.title()));
    const Document& d = session_.document();
    undo_->setEnabled(d.can_undo());
    redo_->setEnabled(d.can_redo());
    undo_->setText(d.can_undo() ? tr("Undo %1").arg(QString::fromStdString(d.undo_label())) : tr("Undo"));
    copy_from_->clear();
    if (const Subject* subject = session_.state().current()) {
        for (const Source& source : subject->sources) {
            if (&source == session_.state().source()) continue;
            connect(
                copy_from_->addAction(QString::fromStdString(source.name)), &QAction::triggered, this,
                [this, id = source.id] { mark_->copy_from(id); }, Qt::QueuedConnection);  // it rebuilds the menu
        }
    }
    copy_from_->setEnabled(!copy_from_->isEmpty());
    redo_->setText(d.can_redo() ? tr("Redo %1").arg(QString::fromStdString(d.redo_label())) : tr("Redo"));
}

int MainWindow::ask(const QString& text, const QStringList& buttons, int escape) {
    last_message_ = text;
    const int out_of_it = escape < 0 ? static_cast<int>(buttons.size()) - 1 : escape;
    if (answer) return answer(text, buttons);
    QMessageBox box(this);
    box.setText(text);
    std::vector<QPushButton*> made;
    for (const QString& b : buttons) made.push_back(box.addButton(b, QMessageBox::ActionRole));
    box.setEscapeButton(made[static_cast<std::size_t>(out_of_it)]);
    box.exec();
    for (std::size_t i = 0; i < made.size(); ++i) {
        if (box.clickedButton() == made[i]) return static_cast<int>(i);
    }
    return out_of_it;
}

void MainWindow::show_error(const QString& message) { ask(message, {tr("Close")}); }

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
                session_.jobs().cancel_all();
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

QString MainWindow::last_folder() const { return QSettings().value("last_folder").toString(); }

void MainWindow::remember(const QString& path) {
    QSettings settings;
    settings.setValue("last_folder", QFileInfo(path).absolutePath());
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
}

bool MainWindow::open_project(const QString& path) {
    Status ok = session_.open(path);
    QString kit;
    if (!ok && ok.error().code == ErrorCode::KitMissing &&
        ask(QString::fromStdString(ok.error().message), {tr("Select the kit's folder…"), tr("Close")}) == 0) {
        kit = session_.files().folder(this, tr("Base kit"), last_folder());
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
    go_to(session_.state().source() ? Station::Mark : Station::Gather);
    bench_->show_subject();
}

void MainWindow::save(bool as_new, std::function<void()> then) {
    if (!session_.has_kit()) return;
    QString path = session_.path();
    if (as_new || path.isEmpty()) {
        path = session_.files().save(this, tr("Save project"),
                                     path.isEmpty() ? last_folder() + "/untitled.veldstone" : path, kProjectFilter);
        if (path.isEmpty()) return;
        if (!path.endsWith(".veldstone")) path += ".veldstone";
    }
    session_.save(path, [this, path, then = std::move(then)](const Status& ok) {
        if (!ok) return show_error(QString::fromStdString(ok.error().message));
        remember(path);
        statusBar()->showMessage(tr("Saved"), 4000);
        if (then) then();
    });
}

void MainWindow::new_from(const QString& folder) {
    if (auto ok = session_.new_from_kit(folder.toStdString()); !ok)
        return show_error(QString::fromStdString(ok.error().message));
    go_to(Station::Gather);
}

void MainWindow::new_project() {
    // asked before anything is given up: who thinks better of it keeps all
    const QString folder = session_.files().folder(this, tr("Folder of the base kit"), last_folder());
    if (folder.isEmpty()) return;
    QSettings().setValue("last_folder", folder);
    leave_then([this, folder] { new_from(folder); });
}

void MainWindow::ask_for_project() {
    const QString path = session_.files().open(this, tr("Open project"), last_folder(), kProjectFilter);
    if (!path.isEmpty()) leave_then([this, path] { open_project(path); });
}

void MainWindow::ask_for_sources() {
    if (!session_.has_kit()) return show_error(tr("Open a project or a base kit first."));
    const QStringList paths = session_.files().open_several(this, tr("Add sources"), last_folder(), kSourceFilter);
    if (paths.isEmpty()) return;
    remember(paths.first());
    session_.load_sources(paths);
}

void MainWindow::connect_tidy() {
    const auto look = [this] { bench_->set_tidy_look(tidy_panel_->base_opacity(), tidy_panel_->would_remove()); };
    connect(tidy_panel_, &TidyPanel::look_changed, this, look);
    connect(tidy_panel_, &TidyPanel::read_recipe, this, [this] { ask_for_steps(true); });
    connect(tidy_panel_, &TidyPanel::write_recipe, this, [this] { ask_for_steps(false); });
    connect(tidy_panel_, &TidyPanel::write_source, this, &MainWindow::ask_for_source_file);
}

void MainWindow::connect_looks() {
    connect(look_bar_, &LookBar::look_changed, this, [this] { bench_->set_look(look_bar_->look()); });
    connect(look_bar_, &LookBar::cut_taken, bench_, &Bench::take_cut);
    connect(this, &MainWindow::station_changed, this, [this] {
        const bool shape = station_ == Station::Fit || station_ == Station::Touch,
                   mix = station_ == Station::Bank || station_ == Station::Deliver;
        look_bar_->setVisible(shape || mix);
        look_bar_->set_mixing(mix);
    });
    const auto key = [this](Qt::Key k, auto&& act) {
        auto* shortcut = new QShortcut(QKeySequence(k), this);
        connect(shortcut, &QShortcut::activated, this, [this, act] {
            if (station_ == Station::Fit || station_ == Station::Touch) act();
        });
    };
    key(Qt::Key_X, [this] { look_bar_->swap(); });
    key(Qt::Key_C, [this] { look_bar_->next_colours(); });
}

void MainWindow::connect_brush_keys() {
    for (const bool larger : {false, true}) {
        auto* key = new QShortcut(QKeySequence(larger ? Qt::Key_BracketRight : Qt::Key_BracketLeft), this);
        connect(key, &QShortcut::activated, this, [this, larger] {
            const auto step = [&](double mm) {
                return std::max(1.0, std::round(mm * (larger ? 1.25 : 0.8) + (larger ? 0.5 : -0.5)));
            };
            if (station_ == Station::Touch) touch_->set_size(step(touch_->brush.radius_mm));
            if (station_ == Station::Tidy) tidy_->set_brush_size(step(tidy_->brush_mm));
        });
    }
}

void MainWindow::ask_for_steps(bool read) {
    const QString filter = tr("Tidy steps (*.json)");
    const QString path =
        read ? session_.files().open(this, tr("Run steps"), last_folder(), filter)
             : session_.files().save(this, tr("Save steps"), last_folder() + "/tidy_steps.json", filter);
    if (path.isEmpty()) return;
    remember(path);
    if (read) return tidy_->run_recipe_file(path);
    if (auto ok = tidy_->write_recipe(path); !ok) show_error(QString::fromStdString(ok.error().message));
}

void MainWindow::ask_for_source_file() {
    if (!session_.state().source()) return;
    const int frame = ask(tr("In which frame should the source be written?"),
                          {tr("As imported"), tr("Upright, in mm"), tr("Cancel")});
    if (frame > 1) return;
    const QString path = session_.files().save(this, tr("Write the source"), last_folder() + "/source.obj",
                                               tr("Meshes (*.obj *.ply *.stl *.glb)"));
    if (path.isEmpty()) return;
    remember(path);
    if (auto ok = tidy_->write_source(path, frame == 1); !ok)
        show_error(QString::fromStdString(ok.error().message));
    else
        statusBar()->showMessage(tr("Written: %1").arg(path), 6000);
}

void MainWindow::ask_for_landmarks(bool read) {
    const QString filter = "Landmarks (*.json)";
    const QString path =
        read ? session_.files().open(this, tr("Read landmarks"), last_folder(), filter)
             : session_.files().save(this, tr("Write landmarks"), last_folder() + "/landmarks.json", filter);
    if (path.isEmpty()) return;
    remember(path);
    const auto ok = read ? mark_->read(path) : mark_->write(path);
    if (!ok) show_error(QString::fromStdString(ok.error().message));
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList sources;
    for (const QUrl& url : event->mimeData()->urls()) {
        const QString path = url.toLocalFile();
        if (path.endsWith(".veldstone")) return leave_then([this, path] { open_project(path); });
        if (QFileInfo(path + "/figure.json").exists()) return leave_then([this, path] { new_from(path); });
        if (path.endsWith(".json")) {
            if (auto ok = mark_->read(path); !ok) show_error(QString::fromStdString(ok.error().message));
        } else {
            sources << path;
        }
    }
    if (sources.isEmpty()) return;
    if (!session_.has_kit()) return show_error(tr("Open a project or a base kit first, then drop the scan."));
    session_.load_sources(sources);
}

}  // namespace veld
