#include "app/stations/bank/make_tab.h"

#include <QFormLayout>
#include <QVBoxLayout>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/stations/bank/morph_dialog.h"
#include "app/widgets.h"

namespace veld {

MakeTab::MakeTab(Session& session, BankController& bank, QWidget* parent) : QWidget(parent), s_(session), bank_(bank) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    build_card(column);
    build_shares(column);
    column->addStretch();
    keep_->setEnabled(false);  // until it is looked at
    expressions_->setEnabled(false), corrections_->setEnabled(false);
    split_->setEnabled(false);
    connect(&s_, &Session::changed, this, &MakeTab::refresh);
    connect(&bank_, &BankController::changed, this, &MakeTab::refresh);
    refresh();
}

void MakeTab::build_card(QVBoxLayout* column) {
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setVerticalSpacing(5);
    from_ = new QComboBox;
    from_->setObjectName("bank_from");
    from_->addItems({tr("The fit"), tr("The current mix")});
    connect(from_, &QComboBox::activated, this, [this] {
        neck_typed_ = false;
        refresh();
    });
    form->addRow(tr("From"), from_);
    name_ = new QLineEdit;
    name_->setObjectName("bank_name");
    name_->setPlaceholderText(tr("Name of the new morph"));
    connect(name_, &QLineEdit::returnPressed, this, &MakeTab::keep);
    form->addRow(tr("Name"), name_);
    group_ = new QLineEdit;
    group_->setObjectName("bank_group");
    group_->setPlaceholderText(tr("heads/marsh"));
    form->addRow(tr("Group"), group_);
    kind_ = kind_box();
    kind_->setObjectName("bank_kind");
    form->addRow(tr("Kind"), kind_);
    parts_ = new QComboBox;
    parts_->setObjectName("bank_parts");
    parts_->addItems({tr("as the shape has them"), tr("follow the skin"), tr("stay as on the base")});
    parts_->setToolTip(tr("What eyes, teeth, tongue and lashes do"));
    form->addRow(tr("Eyes, teeth"), parts_);
    into_ = new QComboBox;
    into_->setObjectName("bank_into");
    into_->setToolTip(tr("In place of another: its slider, group and limits stay"));
    form->addRow(tr("Save as"), into_);
    column->addLayout(form);
    why_ = text_label({}, "dim");
    column->addWidget(why_);
    keep_ = button(tr("Keep as a morph"), "bank_keep", tr("Stores the difference to the base"), true);
    connect(keep_, &QPushButton::clicked, this, &MakeTab::keep);
    column->addWidget(keep_);
    expressions_ = button(tr("Add its expressions"), "bank_expressions",
                          tr("The kit's expressions as this shape makes them, as morphs: shut lids and lips meet"));
    connect(expressions_, &QPushButton::clicked, this,
            [this] { bank_.carry_expressions(from(), name_->text().trimmed()); });
    column->addWidget(expressions_);
    corrections_ =
        button(tr("Add its corrections"), "bank_corrections",
               tr("The kit's own expressions as morphs, and what each lacks on this shape: mixed in by itself "
                  "when both sliders are up"));
    connect(corrections_, &QPushButton::clicked, this,
            [this] { bank_.add_corrections(from(), name_->text().trimmed()); });
    column->addWidget(corrections_);
}

void MakeTab::build_shares(QVBoxLayout* column) {
    column->addWidget(text_label(tr("Head share and body share"), "section"));
    neck_ = new NeckView(s_);
    neck_->setObjectName("bank_neck");
    neck_->setToolTip(
        tr("Grey: the base. Ochre: the shape, moved so that its neck stands at the base's height. The one that lies "
           "farther out hides the other."));
    column->addWidget(neck_);
    const auto millimetres_box = [](const char* name, double low, double high) {
        return new LengthBox(name, low, high, 1, 1, {});
    };
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setVerticalSpacing(5);
    neck_mm_ = millimetres_box("bank_neck_mm", -800, 800);
    neck_mm_->setToolTip(tr("Found automatically; change it where the neck's rim misleads"));
    connect(neck_mm_, &QDoubleSpinBox::valueChanged, this, [this] {
        if (filling_) return;
        neck_typed_ = true;
        refresh_neck();
    });
    form->addRow(tr("Neck raised by"), neck_mm_);
    band_mm_ = millimetres_box("bank_band", 1, 300);
    band_mm_->setToolTip(tr("Length of neck above the ring over which the shares fade"));
    connect(band_mm_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (filling_) return;
        ProjectState next = s_.state();
        next.neck_band_mm = v;
        s_.change(tr("Neck band"), std::move(next), "neck band");
    });
    form->addRow(tr("Fades over"), band_mm_);
    column->addLayout(form);
    floor_ = new QCheckBox(tr("Feet on the base's floor"));
    floor_->setObjectName("bank_floor");
    floor_->setChecked(true);
    floor_->setToolTip(tr("The body share keeps the offset as its root height; it is in no vertex"));
    column->addWidget(floor_);
    paint_ = button(tr("Paint the share…"), "bank_paint",
                    tr("On the base view: paint what belongs to the head; Ctrl removes"));
    paint_->setCheckable(true);
    connect(paint_, &QPushButton::clicked, this,
            [this](bool on) { on ? bank_.begin_painting() : bank_.set_painting(false); });
    radius_ = millimetres_box("bank_paint_radius", 2, 120);
    radius_->setToolTip(tr("Size of the brush"));
    radius_->setValue(bank_.radius_mm);
    connect(radius_, &QDoubleSpinBox::valueChanged, this,
            [this](double v) { bank_.radius_mm = v, emit bank_.changed(); });
    column->addLayout(row({paint_, radius_}));
    band_again_ = button(tr("Reset to the band"), "bank_band_again");
    connect(band_again_, &QPushButton::clicked, &bank_, &BankController::clear_painted);
    with_kit_ = button(tr("Store in the kit"), "bank_share_keep",
                       tr("The painted share is written beside the kit and read with it"));
    connect(with_kit_, &QPushButton::clicked, this, [this] {
        if (const auto ok = bank_.keep_with_kit(); !ok)
            s_.report(ok.error());
        else
            emit s_.noticed(tr("The head's share is stored in the kit."));
    });
    column->addLayout(flow({band_again_, with_kit_}));
    split_ = button(tr("Make both shares"), "bank_split", tr("Two morphs that add up to the shape exactly"));
    connect(split_, &QPushButton::clicked, this, &MakeTab::split);
    column->addWidget(split_);
}

BankController::From MakeTab::from() const {
    return from_->currentIndex() == 0 ? BankController::From::Fit : BankController::From::Mix;
}

BankController::Card MakeTab::card() const {
    return {name_->text().trimmed(), group_->text().trimmed(), static_cast<MorphKind>(kind_->currentIndex()),
            static_cast<PartsChoice>(parts_->currentIndex()), into_->currentData().toInt()};
}

void MakeTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void MakeTab::refresh() {
    if (!isVisible()) return;
    filling_ = true;
    const ProjectState& state = s_.state();
    const bool fit = state.fit() != nullptr;
    const bool possible = from() == BankController::From::Fit ? fit : !state.bank.empty();
    keep_->setEnabled(possible);
    expressions_->setEnabled(possible && s_.has_kit() && !state.kit->expressions.empty() && !bank_.carrying());
    corrections_->setEnabled(expressions_->isEnabled());
    split_->setEnabled(possible && s_.has_kit() && !state.kit->neck_ring.empty());
    why_->setText(possible                              ? QString()
                  : from() == BankController::From::Fit ? tr("There is no fit yet. Make one, or select the mix.")
                                                        : tr("The bank is empty."));
    why_->setVisible(!possible);
    // a name that was typed stays; one that was suggested follows what is selected
    if (name_->text().isEmpty() || name_->text() == suggested_) {
        suggested_ = possible ? bank_.suggested_name(from()) : QString();
        name_->setText(suggested_);
    }
    const QString into = into_->currentText();
    QStringList names{tr("a new morph")};
    for (const BankEntry& e : state.bank) names << tr("in place of %1").arg(QString::fromStdString(e.morph->name));
    QStringList there;
    for (int i = 0; i < into_->count(); ++i) there << into_->itemText(i);
    if (names != there) {
        into_->clear();
        for (int i = 0; i < names.size(); ++i) into_->addItem(names[i], i - 1);
        into_->setCurrentIndex(std::max(0, into_->findText(into)));
    }
    band_mm_->setValue(state.neck_band_mm);
    const bool painted = bank_.share_painted();
    band_mm_->setEnabled(!painted);
    paint_->setChecked(bank_.painting());
    paint_->setEnabled(s_.has_kit());
    band_again_->setVisible(painted);
    with_kit_->setVisible(painted);
    radius_->setVisible(bank_.painting());
    filling_ = false;
    refresh_neck();
}

void MakeTab::refresh_neck() {
    const auto shape = bank_.shape_of(from());
    if (!s_.has_kit() || !shape) return neck_->show_shape(nullptr, Vec3::Zero());
    const std::shared_ptr<const void> of = from() == BankController::From::Fit ? s_.state().fit()->positions : nullptr;
    if (of != neck_of_) neck_typed_ = false;
    neck_of_ = of;
    if (!neck_typed_) {
        filling_ = true;
        neck_mm_->setValue(bank_.neck_found(from()));
        filling_ = false;
    }
    neck_->show_shape(std::make_shared<const Points>(*shape), neck_mm_->value() * Vec3::UnitY());
}

void MakeTab::keep() {
    if (!keep_->isEnabled()) return;
    if (bank_.make(from(), card())) {
        name_->clear();
        bank_.set_page(BankController::Page::Mix);
    }
}

void MakeTab::split() {
    // what was typed; what was found keeps all its digits
    const double neck = neck_typed_ ? neck_mm_->value() : bank_.neck_found(from());
    if (bank_.make_shares(from(), card(), neck, floor_->isChecked())) bank_.set_page(BankController::Page::Mix);
}

}  // namespace veld
