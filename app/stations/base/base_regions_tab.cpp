#include "app/stations/base/base_regions_tab.h"

#include "app/flow_row.h"
#include "app/region_names.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {

BaseRegionsTab::BaseRegionsTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    list_ = column_list("base_regions", tr("Regions"), {tr("Region"), tr("Vertices")}, 140);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.select_region(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    paint_ = new QCheckBox(tr("Paint"));
    paint_->setObjectName("base_region_paint");
    paint_->setToolTip(tr("The left button adds to the region; Ctrl takes away; the right button turns"));
    connect(paint_, &QCheckBox::clicked, &c_, &BaseController::set_painting);
    mirrored_ = new QCheckBox(tr("Both sides"));
    mirrored_->setObjectName("base_region_mirrored");
    connect(mirrored_, &QCheckBox::clicked, this, [this](bool on) { c_.mirrored = on; });
    size_ = new LengthBox("base_region_size", 1, 200, 1, 0, tr("Radius of the brush along the surface"));
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) c_.radius_mm = mm, emit c_.changed();
    });
    column->addLayout(flow({paint_, mirrored_, size_}));
    connect(&s_, &Session::changed, this, &BaseRegionsTab::refresh);
    connect(&c_, &BaseController::changed, this, &BaseRegionsTab::refresh);
    refresh();
}

void BaseRegionsTab::refresh() {
    if (c_.page() != BaseController::Page::Regions) return;
    filling_ = true;
    struct Row {
        std::string name;
        QString text;
        std::size_t count;
    };
    std::vector<Row> rows;
    if (s_.has_kit()) {
        const BaseKit& kit = *s_.state().kit;
        rows.push_back({BaseController::kUnpaired, tr("Without a partner on the other side"), kit.unpaired.size()});
        rows.push_back({BaseController::kNeckRing, tr("Neck ring"), kit.neck_ring.size()});
        for (const auto& [name, vertices] : kit.regions) {
            if (!kit.part(name)) rows.push_back({name, plain_region(name), vertices.size()});
        }
    }
    // while a stroke goes on the list stays as it is
    if (list_->topLevelItemCount() != static_cast<int>(rows.size())) {
        list_->clear();
        for (const Row& r : rows) {
            auto* item = new QTreeWidgetItem(list_, {r.text, QString()});
            item->setData(0, Qt::UserRole, QString::fromStdString(r.name));
            item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
        }
    }
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* item = list_->topLevelItem(i);
        const Row& r = rows[static_cast<std::size_t>(i)];
        item->setText(1, QLocale().toString(static_cast<qulonglong>(r.count)));
        if (r.name == c_.region() && list_->currentItem() != item) list_->setCurrentItem(item);
    }
    if (c_.region().empty()) list_->setCurrentItem(nullptr);
    hint_->setText(c_.region().empty()                        ? tr("Select a region to see it on the base.")
                   : c_.region() == BaseController::kUnpaired ? tr("Work on one side is not mirrored to these.")
                   : c_.region() == BaseController::kNeckRing ? tr("Where the head and the body meet.")
                                                              : QString());
    hint_->setVisible(!hint_->text().isEmpty());
    paint_->setEnabled(c_.can_paint());
    paint_->setChecked(c_.painting());
    mirrored_->setChecked(c_.mirrored);
    size_->setValue(c_.radius_mm);
    filling_ = false;
}

}  // namespace veld
