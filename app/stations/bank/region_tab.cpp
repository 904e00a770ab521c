#include "app/stations/bank/region_tab.h"

#include <QDoubleSpinBox>
#include <QSlider>
#include <QToolButton>
#include <cmath>

#include "app/region_names.h"
#include "app/widgets.h"

namespace veld {
namespace {
constexpr int kShareSteps = 200;
}

RegionTab::RegionTab(Session& session, BankController& bank, QWidget* parent)
    : QWidget(parent), s_(session), bank_(bank) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 0, 0);
    map_ = new FaceMap(s_);
    map_->setObjectName("bank_map");
    column->addWidget(map_);
    connect(map_, &FaceMap::picked, this,
            [this](const QString& region) { bank_.select_region(region.toStdString()); });
    region_ = new QComboBox;
    region_->setObjectName("bank_region");
    region_->setToolTip(tr("Or click the region on the map, or on the model"));
    connect(region_, &QComboBox::activated, this,
            [this](int i) { bank_.select_region(region_->itemData(i).toString().toStdString()); });
    column->addWidget(region_);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    rows_ = new QVBoxLayout;
    rows_->setSpacing(4);
    column->addLayout(rows_);
    add_ = new QComboBox;
    add_->setObjectName("bank_region_add");
    add_->setAccessibleName(tr("Shape to add"));
    connect(add_, &QComboBox::activated, this, [this](int i) {
        if (i > 0) bank_.set_region_amount(add_->itemText(i).toStdString(), 1, false);
    });
    column->addWidget(add_);
    column->addStretch();
    clear_ = button(tr("Nothing in this region"), "bank_region_clear");
    connect(clear_, &QPushButton::clicked, this, [this] {
        ProjectState next = s_.state();
        std::erase_if(next.region_mix, [&](const RegionAmount& a) { return a.region == bank_.region(); });
        next.between.reset();
        s_.change(tr("Clear %1").arg(QString::fromStdString(bank_.region())), std::move(next));
    });
    column->addWidget(clear_);
    connect(&s_, &Session::changed, this, &RegionTab::refresh);
    connect(&bank_, &BankController::changed, this, &RegionTab::refresh);
}

void RegionTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (bank_.region().empty() && bank_.regions()) bank_.select_region("eyes");
    refresh();
}

void RegionTab::build_rows(const std::vector<RegionAmount>& amounts) {
    for (const Row& r : row_widgets_) r.widget->hide(), r.widget->deleteLater();
    row_widgets_.clear();
    shown_.clear();
    for (std::size_t k = 0; k < amounts.size(); ++k) {
        const std::string morph = amounts[k].morph;
        auto* widget = new QWidget;
        auto* lines = new QVBoxLayout(widget);
        lines->setContentsMargins(0, 0, 0, 0);
        lines->setSpacing(0);
        auto* name = new QLabel(QString::fromStdString(morph));
        auto* out = new QToolButton;
        out->setText("✕");
        out->setToolTip(tr("Remove it from this region"));
        out->setFixedSize(20, 20);
        connect(out, &QToolButton::clicked, this, [this, morph] { bank_.remove_from_region(morph); });
        auto* top = row({name, out});
        top->setStretch(0, 1);
        lines->addLayout(top);
        auto* slider = new QSlider(Qt::Horizontal);
        slider->setObjectName(QString("bank_region_slider_%1").arg(k));
        slider->setRange(0, kShareSteps);
        auto* spin = new QDoubleSpinBox;
        spin->setObjectName(QString("bank_region_spin_%1").arg(k));
        spin->setRange(-10, 10);
        spin->setDecimals(3);
        spin->setSingleStep(0.05);
        spin->setKeyboardTracking(false);
        spin->setFixedWidth(80);
        connect(slider, &QSlider::valueChanged, this, [this, morph, slider](int v) {
            if (!filling_)
                bank_.set_region_amount(morph, static_cast<double>(v) / kShareSteps, slider->isSliderDown());
        });
        connect(slider, &QSlider::sliderReleased, this, [this] { s_.document().seal(); });
        connect(spin, &QDoubleSpinBox::valueChanged, this, [this, morph](double v) {
            if (!filling_) bank_.set_region_amount(morph, v, false);
        });
        lines->addLayout(row({slider, spin}));
        rows_->addWidget(widget);
        row_widgets_.push_back({widget, slider, spin});
        shown_.push_back(morph);
    }
}

void RegionTab::refresh() {
    if (!isVisible() || !s_.has_kit()) return;
    const BaseRegions* all = bank_.regions();
    if (mapped_ != all) {
        mapped_ = all;
        map_->show_regions(*all);
        region_->clear();
        for (const std::string& name : all->names) {
            region_->addItem(plain_region(name), QString::fromStdString(name));
        }
    }
    std::set<std::string> mixed;
    std::vector<RegionAmount> own;
    for (const RegionAmount& a : s_.state().region_mix) {
        if (a.amount != 0) mixed.insert(a.region);
        if (a.region == bank_.region()) own.push_back(a);
    }
    map_->show_state(bank_.region(), mixed);
    region_->setCurrentIndex(region_->findData(QString::fromStdString(bank_.region())));
    std::vector<std::string> morphs;
    for (const RegionAmount& a : own) morphs.push_back(a.morph);
    if (morphs != shown_ || bank_.region() != shown_region_) build_rows(own);
    shown_region_ = bank_.region();
    filling_ = true;
    for (std::size_t k = 0; k < own.size(); ++k) {
        row_widgets_[k].slider->setRange(static_cast<int>(std::lround(kShareSteps * std::min(0.0, own[k].amount))),
                                         static_cast<int>(std::lround(kShareSteps * std::max(1.0, own[k].amount))));
        row_widgets_[k].slider->setValue(static_cast<int>(std::lround(kShareSteps * own[k].amount)));
        row_widgets_[k].spin->setValue(own[k].amount);
    }
    filling_ = false;
    add_->clear();
    add_->addItem(tr("Add a shape here…"));
    for (const BankEntry& e : s_.state().bank) {
        if (std::find(morphs.begin(), morphs.end(), e.morph->name) == morphs.end())
            add_->addItem(QString::fromStdString(e.morph->name));
    }
    add_->setEnabled(add_->count() > 1 && own.size() < kMostShapes);
    clear_->setEnabled(!own.empty());
    hint_->setText(s_.state().bank.empty()     ? tr("The bank is empty: keep a morph first.")
                   : own.size() >= kMostShapes ? tr("A region holds at most eight shapes.")
                   : own.empty()               ? tr("Nothing of its own here yet; it shows what the sliders mix.")
                                               : tr("Added to what the sliders mix."));
}

}  // namespace veld
