#include "app/stations/touch/touch_panel.h"

#include <QFormLayout>
#include <QHeaderView>
#include <QToolButton>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/region_names.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

struct BrushWords {
    Brush brush;
    const char *icon, *name, *tip;
};
constexpr BrushWords kBrushes[kBrushCount] = {
    {Brush::Grab, "grab", QT_TRANSLATE_NOOP("TouchPanel", "Grab"),
     QT_TRANSLATE_NOOP("TouchPanel", "Move skin with the hand, in the plane of the view")},
    {Brush::Smooth, "smooth", QT_TRANSLATE_NOOP("TouchPanel", "Smooth"),
     QT_TRANSLATE_NOOP("TouchPanel", "Take bumps away that the base has not; with Shift held every brush does this")},
    {Brush::Relax, "relax", QT_TRANSLATE_NOOP("TouchPanel", "Relax"),
     QT_TRANSLATE_NOOP("TouchPanel", "Bring back the base's even edge flow; the form stays")},
    {Brush::Inflate, "inflate", QT_TRANSLATE_NOOP("TouchPanel", "Inflate"),
     QT_TRANSLATE_NOOP("TouchPanel", "Outwards")},
    {Brush::Deflate, "deflate", QT_TRANSLATE_NOOP("TouchPanel", "Deflate"),
     QT_TRANSLATE_NOOP("TouchPanel", "Inwards")},
    {Brush::Flatten, "flatten", QT_TRANSLATE_NOOP("TouchPanel", "Flatten"),
     QT_TRANSLATE_NOOP("TouchPanel", "Towards the plane of what is under the brush")},
    {Brush::PullToSource, "pull", QT_TRANSLATE_NOOP("TouchPanel", "Pull"),
     QT_TRANSLATE_NOOP("TouchPanel", "Onto the source's surface")},
    {Brush::PushFromEye, "eyeball", QT_TRANSLATE_NOOP("TouchPanel", "Off eye"),
     QT_TRANSLATE_NOOP("TouchPanel", "Skin that sank into an eyeball comes out, by a lid's thickness")},
    {Brush::BackToBase, "backtobase", QT_TRANSLATE_NOOP("TouchPanel", "To base"),
     QT_TRANSLATE_NOOP("TouchPanel", "Back to the base's own form, laid into its surroundings")},
};

}  // namespace

TouchPanel::TouchPanel(Session& session, TouchController& touch, QWidget* parent)
    : QWidget(parent), s_(session), c_(touch) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Touch up"), "title"));
    hint_ = text_label({}, "dim");
    hint_->setObjectName("touch_hint");
    column->addWidget(hint_);
    build_brushes(column);
    build_numbers(column);
    build_regions(column);
    build_layer(column);
    connect(&s_, &Session::changed, this, &TouchPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &TouchPanel::refresh);
    connect(&c_, &TouchController::changed, this, &TouchPanel::refresh);
    refresh();
}

void TouchPanel::build_brushes(QBoxLayout* column) {
    brushes_ = new QButtonGroup(this);
    auto* grid = new FlowRow(FlowRow::Way::Columns, 3);
    grid->setSpacing(4);
    for (int i = 0; i < kBrushCount; ++i) {
        auto* b = new QToolButton;
        b->setObjectName(QString("touch_%1").arg(kBrushes[i].icon));
        b->setText(tr(kBrushes[i].name));
        b->setIcon(theme::icon(kBrushes[i].icon));
        b->setToolTip(tr(kBrushes[i].tip));
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setProperty("role", "mode");
        b->setCheckable(true);
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        brushes_->addButton(b, static_cast<int>(kBrushes[i].brush));
        grid->addWidget(b);
    }
    connect(brushes_, &QButtonGroup::idClicked, this, [this](int id) { c_.set_brush(static_cast<Brush>(id)); });
    column->addLayout(grid);
}

void TouchPanel::build_numbers(QBoxLayout* column) {
    size_ = new LengthBox("touch_size", 0.5, 200, 1, 1, tr("Radius along the surface ([ and ])"));
    strength_ =
        number_box("touch_strength", 1, 100, 5, " %",
                   tr("How strong one stroke is; pen pressure scales it. At half, skin moves as far as the pointer."));
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) c_.set_size(mm);
    });
    connect(strength_, &QDoubleSpinBox::valueChanged, this, [this](double v) { c_.brush.strength = v / 100; });
    auto* both = new QFormLayout;
    both->setLabelAlignment(Qt::AlignLeft);
    both->setVerticalSpacing(5);
    both->addRow(tr("Size"), size_);
    both->addRow(tr("Strength"), strength_);
    column->addLayout(both);
    falloff_ = new QComboBox;
    falloff_->setObjectName("touch_falloff");
    falloff_->addItems({tr("Soft edge"), tr("Round edge"), tr("Pointed"), tr("Constant")});
    falloff_->setToolTip(tr("How the strength falls towards the brush's rim"));
    connect(falloff_, &QComboBox::activated, this, [this](int i) { c_.brush.falloff = static_cast<Falloff>(i); });
    mirrored_ = new QCheckBox(tr("Both sides"));
    mirrored_->setObjectName("touch_mirrored");
    mirrored_->setToolTip(
        tr("The other side gets the mirrored stroke, matched by the base's own pairs, also on an asymmetric face"));
    connect(mirrored_, &QCheckBox::toggled, this, [this](bool on) { c_.brush.mirrored = on; });
    front_ = new QCheckBox(tr("Front only"));
    front_->setObjectName("touch_front");
    front_->setToolTip(tr("Skin that faces away from the camera stays"));
    connect(front_, &QCheckBox::toggled, this, [this](bool on) { c_.brush.front_only = on; });
    column->addWidget(falloff_);
    column->addLayout(row({mirrored_, front_}));
}

void TouchPanel::build_regions(QBoxLayout* column) {
    column->addWidget(text_label(tr("Only in (none: everywhere)"), "section"));
    regions_ = new QTreeWidget;
    regions_->setObjectName("touch_regions");
    regions_->setRootIsDecorated(false);
    regions_->header()->hide();
    regions_->setColumnCount(2);
    regions_->header()->setSectionResizeMode(QHeaderView::Stretch);
    regions_->setMinimumHeight(66);
    connect(regions_, &QTreeWidget::itemChanged, this, [this] {
        if (filling_) return;
        std::set<std::string> names;
        for (int i = 0; i < regions_->topLevelItemCount(); ++i) {
            for (int k = 0; k < 2; ++k) {
                const QTreeWidgetItem* item = regions_->topLevelItem(i);
                if (item->data(k, Qt::CheckStateRole).isValid() && item->checkState(k) == Qt::Checked)
                    names.insert(item->data(k, Qt::UserRole).toString().toStdString());
            }
        }
        c_.set_only_in(names);
    });
    column->addWidget(regions_, 1);
}

void TouchPanel::build_layer(QBoxLayout* column) {
    layer_ = new QWidget;
    auto* inside = new QVBoxLayout(layer_);
    inside->setContentsMargins(0, 0, 0, 0);
    state_ = text_label({}, "section");
    state_->setObjectName("touch_state");
    inside->addWidget(state_);
    on_ = new QCheckBox(tr("On"));
    on_->setObjectName("touch_on");
    on_->setToolTip(tr("The fit with or without manual edits"));
    connect(on_, &QCheckBox::clicked, this, [this](bool on) { c_.set_on(on); });
    amount_ = new QSlider(Qt::Horizontal);
    amount_->setObjectName("touch_amount");
    amount_->setRange(0, 200);
    amount_->setToolTip(tr("How much of it: 100 % is as painted"));
    connect(amount_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_) c_.set_amount(v / 100.0);
    });
    amount_text_ = new QLabel;
    hold_width(amount_text_, "100 %");
    inside->addLayout(row({on_, amount_, amount_text_}));
    wipe_region_ = new QComboBox;
    wipe_region_->setObjectName("touch_wipe_region");
    wipe_region_->setToolTip(tr("Where the touch-up is cleared"));
    auto* wipe = button(tr("Clear"), "touch_wipe", tr("Removes the touch-up there; undo brings it back"));
    connect(wipe, &QPushButton::clicked, this,
            [this] { c_.wipe(wipe_region_->currentData().toString().toStdString()); });
    inside->addLayout(row({wipe_region_, wipe}));
    column->addWidget(layer_);
    figures_ = text_label({}, "dim");
    figures_->setObjectName("touch_figures");
    column->addWidget(figures_);
}

void TouchPanel::fill_regions() {
    if (!s_.has_kit() || filled_for_ == s_.state().kit) return;
    filled_for_ = s_.state().kit;
    regions_->clear();
    wipe_region_->clear();
    wipe_region_->addItem(tr("All of it"), QString());
    QTreeWidgetItem* line = nullptr;
    int at = 0;
    for (const std::string& name : skin_regions(*s_.state().kit)) {
        wipe_region_->addItem(plain_region(name), QString::fromStdString(name));
        if (at % 2 == 0) line = new QTreeWidgetItem(regions_);
        line->setText(at % 2, plain_region(name));
        line->setData(at % 2, Qt::UserRole, QString::fromStdString(name));
        line->setCheckState(at % 2, Qt::Unchecked);
        ++at;
    }
}

void TouchPanel::refresh() {
    filling_ = true;
    fill_regions();
    const QString why = c_.why_not();
    hint_->setText(why);
    hint_->setVisible(!why.isEmpty());
    if (auto* b = brushes_->button(static_cast<int>(c_.brush.brush))) b->setChecked(true);
    size_->setValue(c_.brush.radius_mm);
    strength_->setValue(100 * c_.brush.strength);
    falloff_->setCurrentIndex(static_cast<int>(c_.brush.falloff));
    mirrored_->setChecked(c_.brush.mirrored);
    front_->setChecked(c_.brush.front_only);
    const FitRecord* fit = s_.state().fit();
    layer_->setVisible(fit && fit->touch && !fit->touch->empty());
    if (fit && fit->touch) {
        state_->setText(tr("Touch-up: %n vertex(es), at most %1", nullptr, static_cast<int>(c_.touched_vertices()))
                            .arg(length_text(largest_touch(*fit->touch), 2)));
        on_->setChecked(fit->touch->on);
        amount_->setValue(static_cast<int>(std::lround(100 * fit->touch->amount)));
        amount_text_->setText(QString("%1 %").arg(std::lround(100 * fit->touch->amount)));
    }
    figures_->setVisible(fit != nullptr);
    if (fit) {
        figures_->setText(fit->figures_old ? tr("Measuring again…")
                                           : tr("Median %1, flips %2, new self-intersections %3")
                                                 .arg(length_text(fit->figures.surface.median, 3))
                                                 .arg(fit->figures.flipped_faces)
                                                 .arg(fit->figures.self_intersections));
    }
    filling_ = false;
}

}  // namespace veld
