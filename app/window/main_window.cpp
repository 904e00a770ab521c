#include "app/window/main_window.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QMenuBar>
#include <QMessageBox>
#include <QRegularExpression>
#include <QScreen>
#include <QSplitter>
#include <QStackedWidget>
#include <QStatusBar>
#include <QTimer>

#include "app/accessible.h"
#include "app/ask.h"
#include "app/scene/base_marks.h"
#include "app/scene/scene.h"
#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/stations/base/base_controller.h"
#include "app/stations/fit/fit_scene.h"
#include "app/stations/fit/photo_controller.h"
#include "app/stations/fit/region_controller.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/prove/prove_controller.h"
#include "app/stations/registry.h"
#include "app/stations/skin/skin_controller.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/stations/touch/touch_controller.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "app/widgets.h"
#include "app/window/figures_line.h"
#include "app/window/figures_table.h"
#include "app/window/layout_store.h"
#include "app/window/look_bar.h"
#include "app/window/next_line.h"
#include "app/window/parts.h"
#include "app/window/preferences.h"
#include "app/window/rail.h"
#include "app/window/start_page.h"
#include "app/window/subject_tree.h"
#include "app/work/jobs_bar.h"
#include "app/work/saver.h"

namespace veld {
namespace {
constexpr int kFootHeight = 26, kTableHeight = 150;
// widths in letters, so that they follow the size of text
constexpr int kPanelLetters = 37, kThingsLetters = 24, kLeastThingsLetters = 18;
}  // namespace

MainWindow::MainWindow(QWidget* parent) : MainWindow(stations(), parent) {}

MainWindow::MainWindow(const std::vector<StationEntry>& stations, QWidget* parent)
    : QMainWindow(parent),
      mark_(std::make_unique<MarkController>(session_)),
      tidy_(std::make_unique<TidyController>(session_)),
      touch_(std::make_unique<TouchController>(session_)),
      regions_(std::make_unique<RegionController>(session_)),
      photos_(std::make_unique<PhotoController>(session_)),
      bank_(std::make_unique<BankController>(session_)),
      prove_(std::make_unique<ProveController>(session_, *bank_)),
      skins_(std::make_unique<SkinController>(session_)),
      base_(std::make_unique<BaseController>(session_)),
      exchange_(std::make_unique<ExchangeController>(session_, *bank_)) {
    setAcceptDrops(true);
    setWindowIcon(theme::icon("app"));
    scene_ = std::make_unique<Scene>(session_);
    views_ = new ViewSet;
    fits_ = std::make_unique<FitScene>(*scene_, *views_, *photos_);
    look_bar_ = new LookBar(session_);
    commands_ = new Commands(this);
    layout_ = new LayoutStore(this);
    parts_ = new Parts(*commands_, *layout_, this);
    panels_ = new QStackedWidget;
    panels_->setObjectName("station_panels");
    unseen_panels_ = new QWidget(this);
    unseen_panels_->hide();
    build_menus();
    build_stations(stations);
    setCentralWidget(build_centre());
    build_foot();
    build_view_menu();
    connect_session();
    connect_views();
    fit_onto_screen();
    go_to(Station::Gather);
    refresh();
    name_controls(this);
    session_.set_autosave_ms(read_preferences().autosave_minutes * kMinuteMs);
}

// Stations at the left edge, the project's things beside them, the views, the station's panel; a line of figures
// below.
QWidget* MainWindow::build_centre() {
    auto* centre = new QWidget;
    auto* across = new QHBoxLayout(centre);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(0);
    across->addWidget(rail_);
    things_ = new SubjectTree(session_);
    connect(things_, &SubjectTree::go_to, this, &MainWindow::go_to);
    figures_table_ = new FiguresTable(session_);
    connect(figures_table_, &FiguresTable::region_picked, this, &MainWindow::look_at_region);
    auto* above_table = new QWidget;
    auto* above_column = new QVBoxLayout(above_table);
    above_column->setContentsMargins(0, 0, 0, 0);
    above_column->setSpacing(0);
    above_column->addWidget(views_, 1);
    above_column->addWidget(build_start_page(), 1);
    above_column->addWidget(look_bar_);
    auto* down = new QSplitter(Qt::Vertical);
    down->setObjectName("split_figures");
    down->addWidget(above_table);
    down->addWidget(figures_table_);
    down->setStretchFactor(0, 1);
    down->setSizes({580, kTableHeight});
    auto* all = new QSplitter(Qt::Horizontal);
    all->setObjectName("split_window");
    all->addWidget(things_);
    all->addWidget(down);
    all->addWidget(build_side());
    all->setStretchFactor(1, 1);
    const int letter = fontMetrics().averageCharWidth();
    side_->setMinimumWidth(kPanelLetters * letter);
    things_->setMinimumWidth(std::max(kLeastThingsLetters * letter, things_->minimumSizeHint().width()));
    all->setSizes({kThingsLetters * letter, 10000, kPanelLetters * letter});
    for (QSplitter* split : {down, all}) {
        split->setHandleWidth(3);
        split->setChildrenCollapsible(false);
        remember_divider(split);
    }
    across->addWidget(all, 1);
    return centre;
}

// Where there is nothing to look at yet.
QWidget* MainWindow::build_start_page() {
    start_page_ = new StartPage;
    connect(start_page_, &StartPage::demo_wanted, this, &MainWindow::open_demo);
    connect(start_page_, &StartPage::new_wanted, this, &MainWindow::new_project);
    connect(start_page_, &StartPage::make_kit_wanted, this, [this] {
        go_to(Station::Base);
        base_->set_page(BaseController::Page::New);
    });
    connect(start_page_, &StartPage::open_wanted, this, &MainWindow::ask_for_project);
    // after its click: opening makes the list anew
    connect(
        start_page_, &StartPage::recent_wanted, this,
        [this](const QString& path) { leave_then([this, path] { open_project(path); }); }, Qt::QueuedConnection);
    refresh_recent();
    return start_page_;
}

// The station's panel, and what comes next below it.
QWidget* MainWindow::build_side() {
    side_ = new QWidget;
    auto* column = new QVBoxLayout(side_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(panels_, 1);
    auto* next = new NextLine(session_);
    connect(next, &NextLine::wanted, this, &MainWindow::do_next);
    column->addWidget(next);
    return side_;
}

// The step itself where it is one deed, else the place where it is chosen.
void MainWindow::do_next(NextStep step) {
    switch (step) {
        case NextStep::AddSource:
            go_to(Station::Gather);
            return ask_for_sources();
        case NextStep::Repair:
            go_to(Station::Gather);
            return tidy_->run({Tool::Repair, {}, {}}, false);
        case NextStep::FindLandmarks:
            go_to(Station::Mark);
            return session_.start_detect();
        case NextStep::Fit:
            go_to(Station::Fit);
            return session_.start_fit();
        case NextStep::MakeHead:
            go_to(Station::Fit);
            return photos_->make(false);
        case NextStep::KeepMorph:
            go_to(Station::Bank);
            return bank_->set_page(BankController::Page::Make);
        case NextStep::Deliver:
            return go_to(Station::Deliver);
        case NextStep::None:
            break;
    }
}

void MainWindow::remember_divider(QSplitter* split) {
    const auto take_up = [this, split] {
        const QByteArray kept = layout_->value(split->objectName()).toByteArray();
        if (!kept.isEmpty()) split->restoreState(kept);
    };
    take_up();
    connect(layout_, &LayoutStore::changed, split, take_up);
    connect(split, &QSplitter::splitterMoved, split,
            [this, split] { layout_->set(split->objectName(), split->saveState()); });
}

// How the views of a station were arranged last, and where their dividers were.
void MainWindow::look_at_region(const std::string& region) {
    const FitRecord* fit = session_.state().fit();
    if (!fit || !session_.has_kit()) return;
    const auto place = place_of_region(*session_.state().kit, *fit->positions, region);
    if (!place) return;
    Camera to = views_->camera().camera();
    look_at_place(*place, to);
    views_->fly_to(to);
}

void MainWindow::remember_views() {
    const QString station = QString::fromUtf8(station_.id.data(), static_cast<qsizetype>(station_.id.size()));
    layout_->set("views_" + station, to_text(views_->arrangement()));
    layout_->set("shares_" + station, views_->seats().shares());
}

void MainWindow::take_up_views() {
    const QString station = QString::fromUtf8(station_.id.data(), static_cast<qsizetype>(station_.id.size()));
    views_->set_client(page(), arrangement_of(layout_->value("views_" + station).toString()));
    views_->seats().set_shares(layout_->value("shares_" + station).toString());
}

// One line: figures, or for a while what there is to say; work that runs at its right.
void MainWindow::build_foot() {
    figures_line_ = new FiguresLine(session_);
    connect(figures_line_, &FiguresLine::go_and_look, this, [this](Index vertex) {
        if (station_ != Station::Fit && station_ != Station::Touch) go_to(Station::Fit);
        fits_->look_at(vertex);
    });
    statusBar()->setFixedHeight(kFootHeight);  // what runs must not push the views about
    statusBar()->setSizeGripEnabled(false);
    statusBar()->addWidget(figures_line_, 1);
    // what there is to say stands in its place for a while
    connect(statusBar(), &QStatusBar::messageChanged, figures_line_,
            [this](const QString& message) { figures_line_->setVisible(message.isEmpty()); });
    statusBar()->addPermanentWidget(new JobsBar(session_.jobs(), session_.saver()));
}

void MainWindow::connect_session() {
    connect(&session_, &Session::changed, this, &MainWindow::refresh);
    connect(&session_, &Session::failed, this, &MainWindow::show_error);
    connect(&session_, &Session::noticed, this, [this](const QString& text) { statusBar()->showMessage(text, 9000); });
    // after the job: leaving the project asks about work that runs
    connect(
        base_.get(), &BaseController::kit_made, this, [this](const QString& folder) { open_made_kit(folder); },
        Qt::QueuedConnection);
    connect(&session_.jobs(), &Jobs::changed, this, &MainWindow::work_may_have_ended);
    connect(&session_.jobs(), &Jobs::changed, this, &MainWindow::refresh_title);
    connect(&session_.jobs(), &Jobs::progressed, this, &MainWindow::refresh_title);
    connect(&session_, &Session::swap_sides_offered, this, [this](const QString& text, SourceId source) {
        // after this event: the question runs events of its own
        QMetaObject::invokeMethod(
            this,
            [this, text, source] {
                if (ask(text, {tr("Swap sides"), tr("Leave as it is")}) == 0) mark_->swap_sides_of(source);
            },
            Qt::QueuedConnection);
    });
}

void MainWindow::connect_views() {
    connect(&session_, &Session::changed, views_, [this] {
        scene_->bake();
        views_->refresh();
    });
    connect(&scene_->baker, &OpennessBaker::baked, views_, [this] { views_->refresh(); });
    for (const auto again : {&Session::busy_changed, &Session::preview_changed})
        connect(&session_, again, views_, [this] {
            scene_->bake();
            views_->refresh({ViewId::Source});
        });
    connect(&session_, &Session::project_changed, this, [this] { scene_->shapes.forget(); });
    scene_->shapes.worn_by = [this](const FitRecord& fit, const BaseShapes::Amounts& amounts) {
        return skins_->pictures_of(fit, amounts);
    };
    connect(photos_.get(), &PhotoController::skin_wanted, skins_.get(), &SkinController::bake_fit);
    connect(skins_.get(), &SkinController::shown_changed, views_, [this] { views_->refresh({ViewId::Result}); });
    connect(look_bar_, &LookBar::look_changed, this, [this] {
        scene_->look = look_bar_->look();
        fits_->look_changed();
    });
    connect(look_bar_, &LookBar::cut_taken, fits_.get(), &FitScene::take_cut);
    connect(views_, &ViewSet::unusable, this, &MainWindow::show_error);
    connect(views_, &ViewSet::arranged, this, &MainWindow::remember_views);
    connect(layout_, &LayoutStore::changed, this, &MainWindow::take_up_views);
}

// While everything that listens to it is still there.
MainWindow::~MainWindow() {
    session_.end();
    views_->set_client(nullptr);  // the pages go before the views
}

// As large as it likes to be, but never larger than what the screen has room for.
void MainWindow::fit_onto_screen() {
    const QRect room = screen() ? screen()->availableGeometry() : QRect(0, 0, 1280, 800);
    resize(QSize(1280, 800).boundedTo(room.size()));
}

void MainWindow::build_stations(const std::vector<StationEntry>& stations) {
    rail_ = new Rail(*commands_);
    const StationContext context{*this,      session_, *views_, *scene_,    *fits_,  *look_bar_,
                                 *commands_, menus_,   *mark_,  *tidy_,     *touch_, *regions_,
                                 *photos_,   *bank_,   *base_,  *exchange_, *prove_, *skins_};
    for (const StationEntry& entry : stations) {
        rail_->add(menus_.go, entry.station, QCoreApplication::translate("Stations", entry.title),
                   [this, station = entry.station] { go_to(station); });
        auto page = entry.make(context);
        page->panel()->setParent(unseen_panels_);
        connect(page.get(), &StationPage::figures_changed, this, &MainWindow::show_figures);
        rooms_.push_back({entry.station, std::move(page), entry.title});
    }
}

void MainWindow::go_to(Station station) {
    const auto room = std::find_if(rooms_.begin(), rooms_.end(), [&](const Room& r) { return r.station == station; });
    if (room == rooms_.end()) return;
    if (StationPage* before = page()) before->left();
    station_ = station;
    rail_->set_current(station);
    commands_->enter(station);
    QWidget* panel = room->page->panel();
    if (panels_->indexOf(panel) < 0) panels_->addWidget(panel);
    panels_->setCurrentWidget(panel);
    session_.set_upright_view(room->page->upright());
    take_up_views();
    const StationPage::Looks looks = room->page->looks();
    parts_->want(look_bar_, looks == StationPage::Looks::Fit);
    look_bar_->level_box()->setEnabled(looks != StationPage::Looks::None);
    emit station_changed();
    room->page->entered();
    show_figures();
}

StationPage* MainWindow::page() const {
    const auto room = std::find_if(rooms_.begin(), rooms_.end(), [&](const Room& r) { return r.station == station_; });
    return room == rooms_.end() ? nullptr : room->page.get();
}

void MainWindow::frame_selection() {
    const Framing selected = scene_->selection_framing();
    selected.radius > 0 ? views_->frame(selected) : views_->frame_home();
}

void MainWindow::refresh() {
    views_->setVisible(session_.has_kit());
    start_page_->setVisible(!session_.has_kit());
    if (session_.has_kit() && framed_kit_ != session_.state().kit) {
        framed_kit_ = session_.state().kit;
        views_->frame_home();
    }
    refresh_title();
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
    show_figures();
}

// Work that runs shows there too: it is what the task bar has of a window behind others.
void MainWindow::refresh_title() {
    const std::vector<JobRow> rows = session_.jobs().rows();
    const QString title = tr("%1 — Veldstone").arg(session_.title());
    setWindowTitle(rows.empty() || rows.front().fraction < 0
                       ? title
                       : tr("%1 %, %2").arg(static_cast<int>(100 * rows.front().fraction)).arg(title));
}

void MainWindow::show_figures() {
    const StationPage* now = page();
    if (!now) return;
    const bool of_fit = now->looks() == StationPage::Looks::Fit;
    figures_line_->set_station(of_fit, now->figures());
    parts_->want(figures_table_, of_fit && session_.state().fit());
}

int MainWindow::ask(const QString& text, const QStringList& buttons, int escape) {
    last_message_ = text;
    const int out_of_it = escape < 0 ? static_cast<int>(buttons.size()) - 1 : escape;
    if (answer) return answer(text, buttons);
    QMessageBox box(this);
    box.setWindowTitle(buttons.size() > 1 ? tr("Veldstone asks") : tr("Veldstone"));
    box.setIcon(buttons.size() > 1 ? QMessageBox::Question : QMessageBox::Warning);
    // what happened stands out, what to do about it follows
    const qsizetype end = text.indexOf(QRegularExpression("[.?!] ")) + 1;
    box.setText("<b>" + (end > 0 ? text.left(end) : text).toHtmlEscaped() + "</b>");
    if (end > 0) box.setInformativeText(text.mid(end + 1));
    std::vector<QPushButton*> made;
    for (const QString& b : buttons) made.push_back(box.addButton(b, QMessageBox::ActionRole));
    box.setEscapeButton(made[static_cast<std::size_t>(out_of_it)]);
    box.setDefaultButton(made.front());  // the first never loses anything
    box.exec();
    for (std::size_t i = 0; i < made.size(); ++i) {
        if (box.clickedButton() == made[i]) return static_cast<int>(i);
    }
    return out_of_it;
}

void MainWindow::show_error(const QString& message) { ask(message, {tr("Close")}); }

}  // namespace veld
