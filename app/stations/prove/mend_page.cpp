#include "app/stations/prove/mend_page.h"

#include <QFormLayout>
#include <array>

#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/region_names.h"
#include "core/kit/kit_surface.h"
#include "core/project/bank.h"

namespace veld {
namespace {

// Those that make sense without a source.
constexpr std::array kBrushesHere = {Brush::Grab,    Brush::Smooth,  Brush::Relax,       Brush::Inflate,
                                     Brush::Deflate, Brush::Flatten, Brush::PushFromEye, Brush::BackToBase};

}  // namespace

MendPage::MendPage(Session& session, ProveController& prove, MendController& mender, QWidget* parent)
    : QWidget(parent), s_(session), prove_(prove), mender_(mender) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    const char* names[] = {"prove_shut_lids", "prove_part_lips", "prove_push_apart"};
    const QString tips[] = {tr("Lids meet where the base's meet in this proof"), tr("Lips that cross come apart"),
                            tr("Skin that cuts itself here, and not on the base, comes apart")};
    auto* buttons = new FlowRow(FlowRow::Way::Even);
    buttons->setSpacing(6);
    for (const Mend what : kMends) {
        const auto i = static_cast<std::size_t>(what);
        mends_.push_back(button(core_word(mend_plain(what)), names[i], tips[i]));
        connect(mends_.back(), &QPushButton::clicked, this, [this, what] { mender_.mend(what); });
        buttons->addWidget(mends_.back());
    }
    column->addLayout(buttons);
    said_ = text_label({}, "dim");
    said_->setObjectName("prove_mend_said");
    column->addWidget(said_);
    column->addWidget(text_label(tr("By brush"), "section"));
    brushing_ = button(tr("Brush"), "prove_brush", tr("Strokes on the shape as it is seen, in this pose"));
    brushing_->setCheckable(true);
    connect(brushing_, &QPushButton::toggled, this, [this](bool on) {
        if (!filling_) mender_.set_brushing(on);
    });
    kind_ = new QComboBox;
    kind_->setObjectName("prove_brush_kind");
    kind_->setAccessibleName(tr("Brush"));
    for (const Brush b : kBrushesHere) {
        QString name = core_word(brush_name(b));
        if (!name.isEmpty()) name[0] = name[0].toUpper();
        kind_->addItem(name, static_cast<int>(b));
    }
    connect(kind_, &QComboBox::activated, this,
            [this] { mender_.set_brush(static_cast<Brush>(kind_->currentData().toInt())); });
    column->addLayout(row({brushing_, kind_}));
    size_ = new LengthBox("prove_brush_size", 0.5, 200, 1, 1, tr("Radius along the surface"));
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) mender_.set_size(mm);
    });
    strength_ = number_box("prove_brush_strength", 1, 100, 5, " %", tr("How strong one stroke is"));
    connect(strength_, &QDoubleSpinBox::valueChanged, this, [this](double v) { mender_.brush.strength = v / 100; });
    mirrored_ = new QCheckBox(tr("Both sides"));
    mirrored_->setObjectName("prove_brush_mirrored");
    connect(mirrored_, &QCheckBox::toggled, this, [this](bool on) { mender_.brush.mirrored = on; });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Size"), size_);
    form->addRow(tr("Strength"), strength_);
    column->addLayout(form);
    column->addWidget(mirrored_);
    column->addWidget(text_label(tr("Less of the shape"), "section"));
    region_ = new QComboBox;
    region_->setObjectName("prove_reduce_region");
    region_->setAccessibleName(tr("Region"));
    narrow(region_);
    share_ = number_box("prove_reduce_share", 5, 100, 5, " %", tr("How much of its difference from the base goes"));
    share_->setValue(30);
    reduce_ = button(tr("Reduce"), "prove_reduce", tr("The shape has less of itself in this region, in every proof"));
    connect(reduce_, &QPushButton::clicked, this,
            [this] { mender_.reduce(region_->currentData().toString().toStdString(), share_->value() / 100); });
    column->addWidget(region_);
    column->addLayout(row({share_, reduce_}));
    kept_ = text_label({}, "dim");
    kept_->setObjectName("prove_corrections");
    column->addWidget(kept_);
    column->addStretch(1);
    connect(&mender_, &MendController::changed, this, &MendPage::refresh);
    refresh();
}

void MendPage::fill_regions() {
    if (!s_.has_kit() || filled_for_ == s_.state().kit) return;
    filled_for_ = s_.state().kit;
    region_->clear();
    for (const std::string& name : skin_regions(*filled_for_))
        region_->addItem(plain_region(name), QString::fromStdString(name));
}

void MendPage::refresh() {
    filling_ = true;
    fill_regions();
    for (QPushButton* b : mends_) b->setEnabled(mender_.can_mend());
    said_->setText(mender_.mending() ? tr("Being mended…") : mender_.said());
    said_->setVisible(!said_->text().isEmpty());
    brushing_->setEnabled(prove_.ready());
    brushing_->setChecked(mender_.brushing());
    kind_->setCurrentIndex(kind_->findData(static_cast<int>(mender_.brush.brush)));
    size_->setValue(mender_.brush.radius_mm);
    strength_->setValue(100 * mender_.brush.strength);
    mirrored_->setChecked(mender_.brush.mirrored);
    reduce_->setEnabled(mender_.can_mend() && prove_.from() != ProveController::From::Base && region_->count() > 0);
    const std::size_t corrections =
        s_.has_kit() ? corrections_in(s_.state(), false).size() + corrections_in(s_.state(), true).size() : 0;
    kept_->setText(corrections ? tr("Corrections in the bank, mixed in by themselves: %1").arg(corrections)
                               : tr("What is mended is kept in the bank, and is mixed in by itself."));
    filling_ = false;
}

}  // namespace veld
