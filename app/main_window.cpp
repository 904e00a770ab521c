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
#include "app/figures_view.h"
#include "app/look_bar.h"
#include "app/scene/scene.h"
#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/stations/fit/fit_scene.h"
#include "app/stations/fit/photo_controller.h"
#include "app/stations/fit/region_controller.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/registry.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/stations/touch/touch_controller.h"
#include "app/subject_tree.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "app/widgets.h"
#include "app/work/jobs_bar.h"
#include "app/work/saver.h"

namespace veld {
namespace {
constexpr int kFootHeight = 30;
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
      exchange_(std::make_unique<ExchangeController>(session_, *bank_)) {
    setAcceptDrops(true);
    setWindowIcon(theme::icon("app"));
    scene_ = std::make_unique<Scene>(session_);
    views_ = new ViewSet;
    fits_ = std::make_unique<FitScene>(*scene_, *views_, *photos_);
    look_bar_ = new LookBar(session_);
    keys_ = new StationKeys(this, [this] { return station_; });
    panels_ = new QStackedWidget;
    panels_->setObjectName("station_panels");
    panels_->setFixedWidth(288);
    unseen_panels_ = new QWidget(this);
    unseen_panels_->hide();
    build_stations(stations);
    setCentralWidget(build_centre());
    build_menus();
    connect_session();
    connect_views();
    fit_onto_screen();
    go_to(Station::Gather);
    refresh();
}

// Stations above the views, things at their left, the station's panel at their right, figures below.
QWidget* MainWindow::build_centre() {
    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* bar = new QWidget;
    auto* bar_row = new QHBoxLayout(bar);
    bar_row->setContentsMargins(8, 0, 8, 0);
    bar_row->setSpacing(0);
    for (const Room& room : rooms_) bar_row->addWidget(room.button);
    bar_row->addStretch();
    bar_row->addWidget(build_view_bar());
    column->addWidget(bar);
    auto* upper = new QSplitter(Qt::Horizontal);
    upper->setHandleWidth(3);
    auto* tree = new SubjectTree(session_);
    connect(tree, &SubjectTree::go_to, this, &MainWindow::go_to);
    upper->addWidget(tree);
    upper->addWidget(views_);
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
    views_column->addWidget(look_bar_);
    all->addWidget(views);
    auto* figures = new FiguresView(session_);
    connect(figures, &FiguresView::go_and_look, this, [this](Index vertex) {
        if (station_ != Station::Fit && station_ != Station::Touch) go_to(Station::Fit);
        fits_->look_at(vertex);
    });
    all->addWidget(figures);
    all->setStretchFactor(0, 1);
    all->setSizes({580, 150});
    column->addWidget(all, 1);
    return centre;
}

void MainWindow::connect_session() {
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
    connect(look_bar_, &LookBar::look_changed, this, [this] {
        scene_->look = look_bar_->look();
        fits_->look_changed();
    });
    connect(look_bar_, &LookBar::cut_taken, fits_.get(), &FitScene::take_cut);
    for (Viewport* v : {views_->base_view(), views_->source_view(), views_->result_view()})
        connect(v, &Viewport::unusable, this, &MainWindow::show_error);
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
    const StationContext context{*this,  session_, *views_, *scene_,   *fits_,   *look_bar_, *keys_,
                                 *mark_, *tidy_,   *touch_, *regions_, *photos_, *bank_,     *exchange_};
    for (const StationEntry& entry : stations) {
        auto page = entry.make(context);
        page->panel()->setParent(unseen_panels_);
        auto* button = station_button(entry, static_cast<int>(rooms_.size()) + 1);
        rooms_.push_back({entry.station, std::move(page), button});
    }
}

QToolButton* MainWindow::station_button(const StationEntry& entry, int number) {
    const QString id = QString::fromLatin1(entry.station.id.data(), static_cast<qsizetype>(entry.station.id.size())),
                  title = QCoreApplication::translate("Stations", entry.title);
    auto* b = new QToolButton;
    b->setText(title);
    b->setObjectName("station_" + id);
    b->setIcon(theme::icon(id));
    b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    b->setProperty("role", "station");
    b->setCheckable(true);
    b->setAutoExclusive(true);
    b->setToolTip(tr("Go to %1 (Ctrl+%2)").arg(title).arg(number));
    connect(b, &QToolButton::clicked, this, [this, station = entry.station] { go_to(station); });
    auto* shortcut = new QShortcut(QKeySequence(QString("Ctrl+%1").arg(number)), this);
    connect(shortcut, &QShortcut::activated, this, [this, station = entry.station] { go_to(station); });
    return b;
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
                [this, i] { views_->camera().look_from(views[i].second); });
    auto* other = new QShortcut(QKeySequence(Qt::Key_6), this);
    connect(other, &QShortcut::activated, this, [this] { views_->camera().look_from(FixedView::OtherSide); });
    across->addSpacing(8);
    connect(tool("frame", tr("Frame the selected point, or the head"), QKeySequence(Qt::Key_F)), &QAction::triggered,
            this, [this] { frame_selection(); });
    auto* home = new QShortcut(QKeySequence(Qt::Key_Home), this);
    connect(home, &QShortcut::activated, this, [this] { views_->frame_home(); });
    ortho_ = tool("lens", tr("Orthographic or perspective"), QKeySequence(Qt::Key_O), true);
    connect(ortho_, &QAction::toggled, this, [this](bool on) {
        Camera c = views_->camera().camera();
        c.orthographic = on;
        views_->camera().set(c);
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
        Camera c = views_->camera().camera();
        if (std::abs(c.field_of_view - degrees) < 0.5) return;
        const double before = c.height_at_target();
        c.field_of_view = degrees;
        c.distance *= before / c.height_at_target();
        views_->camera().set(c);
    });
    connect(&views_->camera(), &CameraLink::changed, this,
            [this] { lens_->setValue(views_->camera().camera().field_of_view); });
    lens_->setValue(views_->camera().camera().field_of_view);
    across->addWidget(lens_);
    across->addSpacing(8);
    wire_ = tool("wire", tr("Wireframe over the surface"), QKeySequence(Qt::Key_W), true);
    connect(wire_, &QAction::toggled, this, [this](bool on) {
        scene_->wire = on;
        views_->refresh();
    });
    auto* shading = new QComboBox;
    shading->setObjectName("view_shading");
    shading->addItems({tr("Clay"), tr("Textured"), tr("Flat colour")});
    shading->setToolTip(tr("How surfaces are shown (T)"));
    connect(shading, &QComboBox::currentIndexChanged, this, [this](int i) {
        scene_->shading = static_cast<Shading>(i);
        views_->refresh();
    });
    auto* cycle = new QShortcut(QKeySequence(Qt::Key_T), this);
    connect(cycle, &QShortcut::activated, this,
            [shading] { shading->setCurrentIndex((shading->currentIndex() + 1) % shading->count()); });
    across->addWidget(shading);
    return bar;
}

void MainWindow::go_to(Station station) {
    const auto room = std::find_if(rooms_.begin(), rooms_.end(), [&](const Room& r) { return r.station == station; });
    if (room == rooms_.end()) return;
    if (StationPage* before = page()) before->left();
    station_ = station;
    room->button->setChecked(true);
    QWidget* panel = room->page->panel();
    if (panels_->indexOf(panel) < 0) panels_->addWidget(panel);
    panels_->setCurrentWidget(panel);
    session_.set_upright_view(room->page->upright());
    views_->set_client(room->page.get());
    const StationPage::Looks looks = room->page->looks();
    look_bar_->setVisible(looks != StationPage::Looks::None);
    look_bar_->set_mixing(looks == StationPage::Looks::Mix);
    emit station_changed();
    room->page->entered();
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
    if (session_.has_kit() && framed_kit_ != session_.state().kit) {
        framed_kit_ = session_.state().kit;
        views_->frame_home();
    }
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

}  // namespace veld
