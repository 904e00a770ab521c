#include "app/stations/tidy/tidy_panel.h"

#include <QGridLayout>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QTabBar>
#include <QTabWidget>

#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {

QDoubleSpinBox* whole_number(const char* name, double low, double high, double value, const QString& suffix,
                             const QString& tip) {
    auto* box = new QDoubleSpinBox;
    box->setObjectName(name);
    box->setRange(low, high);
    box->setDecimals(0);
    box->setValue(value);
    box->setSuffix(suffix);
    box->setToolTip(tip);
    return box;
}

QVBoxLayout* page_column(QWidget* page) {
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    return column;
}

}  // namespace

TidyPanel::TidyPanel(Session& session, TidyController& tidy, QWidget* parent)
    : QWidget(parent), s_(session), tidy_(tidy) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Tidy"), "title"));
    pages_ = new Sections("tidy_sections");
    pages_->add(stand_page(), tr("Orient"));
    pages_->add(select_page(), tr("Select"));
    pages_->add(clean_page(), tr("Clean"));
    pages_->add(ignore_page(), tr("Ignore"));
    column->addWidget(pages_, 1);
    column->addWidget(steps_box());
    edited_.setSingleShot(true);
    edited_.setInterval(60);
    connect(&edited_, &QTimer::timeout, this, &TidyPanel::tool_edited);
    // an area to choose is of use on the pages that work on one; leaving them gives the mouse back
    connect(pages_, &Sections::current_changed, this, [this] {
        tidy_.set_mode(TidyMode::Turn);
        tool_edited();
    });
    connect(&tidy_, &TidyController::changed, this, &TidyPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &TidyPanel::refresh);
    connect(&s_, &Session::preview_changed, this, &TidyPanel::refresh);
    refresh();
}

QToolButton* TidyPanel::mode_button(TidyMode mode, const char* icon, const QString& text, const QString& tip) {
    auto* b = new QToolButton;
    b->setText(text);
    b->setToolTip(tip);
    b->setIcon(theme::icon(icon));
    b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    b->setProperty("role", "mode");
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    b->setMinimumHeight(28);
    b->setCheckable(true);
    b->setObjectName(QString("tidy_mode_%1").arg(icon));
    connect(b, &QToolButton::clicked, this, [this, mode](bool on) { tidy_.set_mode(on ? mode : TidyMode::Turn); });
    modes_[mode] = b;
    return b;
}

void TidyPanel::turn(double pitch, double yaw, double roll) {
    TidyStep step;
    step.tool = Tool::Turn;
    if (pitch != 0) step.numbers["x"] = pitch;
    if (yaw != 0) step.numbers["y"] = yaw;
    if (roll != 0) step.numbers["z"] = roll;
    tidy_.run(std::move(step), false);
}

QWidget* TidyPanel::stand_page() {
    auto* page = new QWidget;
    auto* column = page_column(page);
    auto* straighten = button(tr("Straighten"), "tidy_straighten",
                              tr("Recognises the head or figure and turns it upright, facing front"), true);
    connect(straighten, &QPushButton::clicked, this, [this] { tidy_.run({Tool::Straighten, {}, {}}, false); });
    column->addWidget(straighten);
    column->addLayout(
        row({mode_button(TidyMode::FacePoints, "eyes", tr("Eyes and nose"), tr("Click both eyes and the nose tip")),
             mode_button(TidyMode::FloorPoints, "floor", tr("Floor"), tr("Click two points of the floor"))}));
    auto* grid = new QGridLayout;
    grid->setSpacing(4);
    const auto step = whole_number("tidy_turn_step", 1, 90, 15, "°", tr("Degrees of one press"));
    static const char* names[] = {QT_TR_NOOP("Pitch"), QT_TR_NOOP("Turn"), QT_TR_NOOP("Roll")};
    for (int axis = 0; axis < 3; ++axis) {
        grid->addWidget(new QLabel(tr(names[axis])), axis, 0);
        for (int side = 0; side < 2; ++side) {
            auto* b = button(side ? "+" : "−", side ? "tidy_turn_more" : "tidy_turn_less");
            b->setObjectName(QString("tidy_turn_%1_%2").arg(axis).arg(side));
            connect(b, &QPushButton::clicked, this, [this, axis, side, step] {
                const double a = side ? step->value() : -step->value();
                turn(axis == 0 ? a : 0, axis == 1 ? a : 0, axis == 2 ? a : 0);
            });
            grid->addWidget(b, axis, 1 + side);
        }
    }
    grid->addWidget(new QLabel(tr("by")), 0, 3);
    grid->addWidget(step, 0, 4);
    column->addLayout(grid);
    auto* floor =
        button(tr("Set on the floor"), "tidy_floor", tr("Lowest point to the floor, centred over the origin"));
    connect(floor, &QPushButton::clicked, this, [this] { tidy_.run({Tool::Floor, {}, {}}, false); });
    column->addWidget(floor);
    base_over_ = new QCheckBox(tr("Base overlay"));
    base_over_->setObjectName("tidy_base_over");
    base_over_->setToolTip(tr("Shows the base mesh over the source to check how they line up"));
    base_fade_ = new QSlider(Qt::Horizontal);
    base_fade_->setObjectName("tidy_base_fade");
    base_fade_->setRange(5, 95);
    base_fade_->setValue(40);
    connect(base_over_, &QCheckBox::toggled, this, &TidyPanel::look_changed);
    connect(base_fade_, &QSlider::valueChanged, this, &TidyPanel::look_changed);
    column->addLayout(row({base_over_, base_fade_}));
    column->addStretch();
    return page;
}

QWidget* TidyPanel::select_page() {
    auto* page = new QWidget;
    auto* column = page_column(page);
    auto* grid = new QGridLayout;
    grid->setSpacing(4);
    grid->addWidget(mode_button(TidyMode::Rectangle, "rectangle", tr("Rectangle"), tr("Draw a rectangle")), 0, 0);
    grid->addWidget(mode_button(TidyMode::Lasso, "lasso", tr("Lasso"), tr("Draw freely around it")), 0, 1);
    grid->addWidget(mode_button(TidyMode::Brush, "brush", tr("Brush"), tr("Paint it; [ and ] change the size")), 1, 0);
    grid->addWidget(mode_button(TidyMode::Joined, "joined", tr("Connected"), tr("Click: the whole component")), 1, 1);
    grid->addWidget(mode_button(TidyMode::Even, "even", tr("Smooth area"), tr("Click: spreads up to sharp edges")), 2,
                    0);
    grid->addWidget(mode_button(TidyMode::Colour, "colours", tr("Colour"), tr("Click: all of this colour")), 2, 1);
    column->addLayout(grid);
    front_only_ = new QCheckBox(tr("Only what is visible"));
    front_only_->setObjectName("tidy_front_only");
    front_only_->setChecked(tidy_.front_only);
    connect(front_only_, &QCheckBox::toggled, this, [this](bool on) { tidy_.front_only = on; });
    column->addWidget(front_only_);
    size_ = new LengthBox("tidy_brush_mm", 1, 300, 1, 0, tr("Radius of every brush ([ and ])"), tr(" %1 brush"));
    size_->setValue(tidy_.brush_mm);
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        tidy_.brush_mm = v;
        emit look_changed();
    });
    auto* angle = whole_number("tidy_even_degrees", 1, 90, tidy_.even_degrees, tr("° edge"),
                               tr("Smooth areas end at edges sharper than this"));
    connect(angle, &QDoubleSpinBox::valueChanged, this, [this](double v) { tidy_.even_degrees = v; });
    column->addLayout(row({size_, angle}));
    auto* tolerance = whole_number("tidy_tolerance", 1, 60, tidy_.colour_tolerance, tr(" % colour difference"),
                                   tr("How alike colours must be"));
    connect(tolerance, &QDoubleSpinBox::valueChanged, this, [this](double v) { tidy_.colour_tolerance = v; });
    column->addWidget(tolerance);
    auto* simple = new QGridLayout;
    simple->setSpacing(4);
    const std::tuple<const char*, QString, SelectKind> kinds[] = {{"tidy_grow", tr("Grow"), SelectKind::Grow},
                                                                  {"tidy_shrink", tr("Shrink"), SelectKind::Shrink},
                                                                  {"tidy_invert", tr("Invert"), SelectKind::Invert},
                                                                  {"tidy_all", tr("All"), SelectKind::All},
                                                                  {"tidy_none", tr("None"), SelectKind::None}};
    int at = 0;
    for (const auto& [name, text, kind] : kinds) {
        auto* b = button(text, name);
        b->setMinimumHeight(26);
        connect(b, &QPushButton::clicked, this, [this, kind = kind, text = text] { tidy_.select_simple(kind, text); });
        simple->addWidget(b, at / 3, at % 3);
        ++at;
    }
    auto* erase = button(tr("Delete"), "tidy_delete", tr("Deletes the selected faces (Delete)"));
    erase->setMinimumHeight(26);
    connect(erase, &QPushButton::clicked, this, [this] { tidy_.run({Tool::Delete, {}, {}}, false); });
    simple->addWidget(erase, 1, 2);
    column->addLayout(simple);
    chosen_ = text_label({}, "plain");
    column->addWidget(chosen_);
    column->addStretch();
    return page;
}

QWidget* TidyPanel::clean_page() {
    auto* page = new QWidget;
    auto* column = page_column(page);
    tool_ = new QComboBox;
    tool_->setObjectName("tidy_tool");
    tool_->setMaxVisibleItems(20);
    for (const ToolInfo& info : tool_table()) {
        const bool elsewhere = (info.tool <= Tool::Floor && info.tool != Tool::Move) || info.tool == Tool::Ignore ||
                               info.tool == Tool::Delete;
        if (elsewhere) continue;
        tools_.push_back(info.tool);
        tool_->addItem(core_word(info.label));
    }
    column->addWidget(tool_);
    tool_what_ = text_label({}, "dim");
    column->addWidget(tool_what_);
    form_ = new ToolForm;
    column->addWidget(form_);
    cut_line_ = mode_button(TidyMode::CutLine, "cut", tr("Draw the cut"),
                            tr("Draw a line across the picture; the plane goes through it along the view"));
    column->addWidget(cut_line_);
    connect(&tidy_, &TidyController::cut_drawn, this, [this](const Vec3& p, const Vec3& n) {
        const double numbers[] = {p.x(), p.y(), p.z(), n.x(), n.y(), n.z()};
        const char* names[] = {"x", "y", "z", "nx", "ny", "nz"};
        for (int i = 0; i < 6; ++i) form_->set_number(names[i], numbers[i]);
    });
    needs_ = text_label({}, "plain");
    column->addWidget(needs_);
    apply_ = button(tr("Apply"), "tidy_apply", {}, true);
    preview_ = button(tr("Preview"), "tidy_preview", tr("Shows the result before anything is changed"));
    keep_ = button(tr("Keep"), "tidy_keep", {}, true);
    drop_ = button(tr("Discard"), "tidy_drop");
    preview_note_ = text_label({}, "plain");
    column->addWidget(preview_note_);
    column->addLayout(row({preview_, apply_}));
    column->addLayout(row({drop_, keep_}));
    auto* smooth = mode_button(TidyMode::SmoothBrush, "smooth", tr("Smooth by brush"),
                               tr("Paint over rough places; pen pressure counts"));
    auto* strength = whole_number("tidy_strength", 5, 100, tidy_.brush_strength, " %", tr("Strength of the brush"));
    connect(strength, &QDoubleSpinBox::valueChanged, this, [this](double v) { tidy_.brush_strength = v; });
    column->addLayout(row({smooth, strength}));
    column->addStretch();
    connect(tool_, &QComboBox::currentIndexChanged, this, [this](int i) {
        form_->show_tool(tools_[static_cast<std::size_t>(i)]);
        s_.drop_preview();
        tool_edited();
        refresh();
    });
    connect(form_, &ToolForm::edited, this, [this] { edited_.start(); });
    connect(apply_, &QPushButton::clicked, this, [this] { tidy_.run(form_->step(), false); });
    connect(preview_, &QPushButton::clicked, this, [this] { tidy_.run(form_->step(), true); });
    connect(keep_, &QPushButton::clicked, this, [this] { s_.keep_preview(); });
    connect(drop_, &QPushButton::clicked, this, [this] { s_.drop_preview(); });
    form_->show_tool(tools_.front());
    return page;
}

QWidget* TidyPanel::ignore_page() {
    auto* page = new QWidget;
    auto* column = page_column(page);
    column->addWidget(text_label(
        tr("The fit never matches ignored areas: hair, glasses, collar, stand. They stay in the source."), "dim"));
    column->addLayout(
        row({mode_button(TidyMode::IgnoreBrush, "ignore", tr("Ignore"), tr("Paint what the fit must ignore")),
             mode_button(TidyMode::MatchBrush, "match", tr("Stop ignoring"),
                         tr("Paint what the fit should match again"))}));
    auto* suggest = button(tr("Suggest"), "tidy_suggest",
                           tr("Selects what is likely hair, clothes or furniture: far from the base, rough, or with "
                              "sharp steps. Straighten first."));
    connect(suggest, &QPushButton::clicked, this, [this] { tidy_.select_simple(SelectKind::Suggest, tr("Suggest")); });
    column->addWidget(suggest);
    ignore_selected_ = button(tr("Ignore the selection"), "tidy_ignore_selected", {}, true);
    connect(ignore_selected_, &QPushButton::clicked, this, [this] { tidy_.run({Tool::Ignore, {}, {}}, false); });
    match_selected_ = button(tr("Stop ignoring it"), "tidy_match_selected");
    connect(match_selected_, &QPushButton::clicked, this, [this] {
        tidy_.run({Tool::Ignore, {{"match", 1}}, {}}, false);
    });
    auto* wipe = button(tr("Select none"), "tidy_wipe", tr("Discards the suggestion"));
    connect(wipe, &QPushButton::clicked, this, [this] { tidy_.clear_selection(); });
    column->addWidget(ignore_selected_);
    column->addLayout(row({match_selected_, wipe}));
    ignored_ = text_label({}, "plain");
    column->addWidget(ignored_);
    column->addStretch();
    return page;
}

QWidget* TidyPanel::steps_box() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    column->addWidget(text_label(tr("Done to this source"), "section"));
    steps_ = new QListWidget;
    steps_->setObjectName("tidy_steps");
    steps_->setWordWrap(true);
    steps_->setFixedHeight(92);  // it scrolls; the pages above need the room
    column->addWidget(steps_);
    auto* save = button(tr("Save steps…"), "tidy_save_steps", tr("As a recipe for other scans and the command line"));
    auto* load = button(tr("Run steps…"), "tidy_run_steps", tr("Runs a recipe on this source"));
    connect(save, &QPushButton::clicked, this, &TidyPanel::write_recipe);
    connect(load, &QPushButton::clicked, this, &TidyPanel::read_recipe);
    column->addLayout(flow({save, load}));
    auto* write = button(tr("Write the source…"), "tidy_write",
                         tr("OBJ with textures, PLY, STL or GLB; as it came in, or upright in mm"));
    connect(write, &QPushButton::clicked, this, &TidyPanel::write_source);
    column->addWidget(write);
    return box;
}

void TidyPanel::select_tool(Tool tool) {
    for (std::size_t i = 0; i < tools_.size(); ++i) {
        if (tools_[i] != tool) continue;
        pages_->set_current(2);
        tool_->setCurrentIndex(static_cast<int>(i));
    }
}

void TidyPanel::tool_edited() {
    const bool cleaning = pages_->current() == 2;
    FaceMask next = cleaning ? tidy_.would_remove(form_->step()) : FaceMask();
    if (next == would_remove_) return;
    would_remove_ = std::move(next);
    emit look_changed();
}

void TidyPanel::refresh() {
    const Source* source = s_.state().source();
    const bool ready = source && !s_.busy();
    pages_->setEnabled(ready);
    for (const auto& [mode, b] : modes_) b->setChecked(mode == tidy_.mode());
    size_->setValue(tidy_.brush_mm);
    const std::size_t n = tidy_.selected_count();
    chosen_->setText(n == 0 ? tr("Nothing is selected.")
                            : tr("%n of %1 faces selected", nullptr, static_cast<int>(n))
                                  .arg(source ? source->mesh->face_count() : 0));
    const ToolInfo& info = tool_info(tools_[static_cast<std::size_t>(tool_->currentIndex())]);
    tool_what_->setText(core_word(info.what));
    cut_line_->setVisible(info.tool == Tool::Cut);
    needs_->setText(info.selection == NeedsSelection::No ? QString()
                    : n > 0 ? tr("Works on the %n selected face(s).", nullptr, static_cast<int>(n))
                    : info.selection == NeedsSelection::Yes
                        ? tr("Select an area first (page Select).")
                        : tr("Works on the whole mesh; select an area to limit it."));
    needs_->setVisible(!needs_->text().isEmpty());
    const bool able = ready && (info.selection != NeedsSelection::Yes || n > 0);
    const bool previewing = s_.has_preview();
    apply_->setEnabled(able), preview_->setEnabled(able);
    apply_->setVisible(!previewing), preview_->setVisible(!previewing);
    keep_->setVisible(previewing), drop_->setVisible(previewing);
    preview_note_->setText(previewing ? QString::fromStdString(s_.preview()->recipe_said.back()) : QString());
    preview_note_->setVisible(previewing);
    ignore_selected_->setEnabled(n > 0), match_selected_->setEnabled(n > 0);
    std::size_t left_out = 0;
    if (source && source->ignored)
        left_out = static_cast<std::size_t>(std::count(source->ignored->begin(), source->ignored->end(), 1));
    ignored_->setText(left_out == 0
                          ? tr("Nothing is ignored.")
                          : tr("%1 % of the source is ignored (striped).")
                                .arg(100.0 * static_cast<double>(left_out) / source->mesh->vertex_count(), 0, 'f', 1));
    const int rows = source ? static_cast<int>(source->recipe.size()) : 0;
    steps_->clear();
    for (int i = 0; i < rows; ++i) {
        const auto at = static_cast<std::size_t>(i);
        auto* item = new QListWidgetItem(
            QString("%1. %2").arg(i + 1).arg(core_word(tool_info(source->recipe[at].tool).label)), steps_);
        item->setToolTip(QString::fromStdString(source->recipe_said[at]));
    }
    steps_->scrollToBottom();
    tool_edited();
}

}  // namespace veld
