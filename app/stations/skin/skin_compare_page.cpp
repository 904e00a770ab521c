// The panel's page for looking: what stands beside the model, and what the skin is held against.
#include <QFormLayout>

#include "app/fill_box.h"
#include "app/stations/skin/skin_panel.h"

namespace veld {
namespace {

// Entries of "Against" that are no skins.
constexpr int kAgainstNothing = 0, kAgainstLayer = 1, kAgainstBase = 2, kAgainstOthers = 3;

}  // namespace

QWidget* SkinPanel::compare_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    beside_ = new QComboBox;
    beside_->setObjectName("skin_beside");
    beside_->setAccessibleName(tr("Beside"));
    beside_->setToolTip(tr("A photograph, with the model seen through its camera"));
    narrow(beside_);
    connect(beside_, &QComboBox::activated, this, [this](int i) { skins_.set_photo(i - 1); });
    against_ = new QComboBox;
    against_->setObjectName("skin_against");
    against_->setAccessibleName(tr("Against"));
    against_->setToolTip(tr("What is seen at the left of the line"));
    narrow(against_);
    connect(against_, &QComboBox::activated, this, [this](int i) {
        using Against = SkinController::Against;
        if (i >= kAgainstOthers)
            skins_.set_against(Against::Skin, {against_->itemData(i).toULongLong()});
        else
            skins_.set_against(i == kAgainstLayer  ? Against::WithoutLayer
                               : i == kAgainstBase ? Against::Base
                                                   : Against::Nothing);
    });
    wipe_ = new QSlider(Qt::Horizontal);
    wipe_->setObjectName("skin_wipe");
    wipe_->setAccessibleName(tr("Line"));
    wipe_->setRange(0, 100);
    connect(wipe_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_) skins_.set_wipe(v / 100.0);
    });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Beside"), beside_);
    form->addRow(tr("Against"), against_);
    form->addRow(tr("Line"), wipe_);
    column->addLayout(form);
    column->addWidget(text_label(tr("Shut lids and an open mouth are looked at in Prove: the shapes there wear this "
                                    "skin."),
                                 "dim"));
    column->addStretch(1);
    return page;
}

void SkinPanel::show_compare() {
    using Against = SkinController::Against;
    QList<BoxEntry> beside{{s_.has_kit() && s_.state().source() ? tr("The scan") : tr("The tile")}};
    const SkinController::Photos photos = skins_.photos();
    for (std::size_t i = 0; photos.pictures && i < photos.pictures->size(); ++i)
        beside.append({QString::fromStdString((*photos.pictures)[i].name)});
    fill_box(beside_, beside, skins_.photo() + 1 < beside.size() ? skins_.photo() + 1 : 0);
    beside_->setEnabled(beside.size() > 1);
    QList<BoxEntry> against{{tr("Nothing")}, {tr("Without the selected layer")}, {tr("The base's own skin")}};
    int now = skins_.against() == Against::WithoutLayer ? kAgainstLayer
              : skins_.against() == Against::Base       ? kAgainstBase
                                                        : kAgainstNothing;
    for (const auto& [name, id] : skins_.other_skins()) {
        if (skins_.against() == Against::Skin && skins_.against_skin() == id) now = static_cast<int>(against.size());
        against.append({name, QVariant::fromValue<qulonglong>(id.value)});
    }
    fill_box(against_, against, now);
    against_->setEnabled(skins_.why_not().isEmpty());
    wipe_->setEnabled(skins_.against() != Against::Nothing);
    wipe_->setValue(static_cast<int>(std::lround(100 * skins_.wipe())));
}

}  // namespace veld
