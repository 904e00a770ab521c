#include "app/stations/bank/bank_panel.h"

#include <QDoubleSpinBox>
#include <QEvent>
#include <QInputDialog>
#include <QMenu>
#include <QScrollArea>
#include <QSlider>
#include <QToolButton>
#include <cmath>

#include "app/widgets.h"

namespace veld {
namespace {
constexpr int kSteps = 100;          // slider steps per unit
constexpr double kLowest = -1, kHighest = 2;
}  // namespace

MorphRow::MorphRow(const Morph& morph, std::size_t number) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 4);
    column->setSpacing(2);
    auto* name = new QLabel(QString::fromStdString(morph.name));
    name->setToolTip(tr("%1 of the base's vertices move. %2").arg(morph.index.size()).arg(QString::fromStdString(morph.note)));
    auto* menu_button = new QToolButton;
    menu_button->setText("⋯");
    menu_button->setToolTip(tr("Rename or delete"));
    menu_button->setObjectName(QString("bank_menu_%1").arg(number));
    auto* menu = new QMenu(menu_button);
    connect(menu->addAction(tr("Rename…")), &QAction::triggered, this, &MorphRow::rename);
    connect(menu->addAction(tr("Delete")), &QAction::triggered, this, &MorphRow::erase);
    menu_button->setMenu(menu);
    menu_button->setPopupMode(QToolButton::InstantPopup);
    menu_button->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    auto* top = row({name, menu_button});
    top->setStretch(0, 1);
    column->addLayout(top);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->setObjectName(QString("bank_slider_%1").arg(number));
    slider_->setRange(static_cast<int>(kLowest * kSteps), static_cast<int>(kHighest * kSteps));
    slider_->setToolTip(tr("Below 0 and above 1 are allowed. Double click sets it back to 0."));
    slider_->installEventFilter(this);
    spin_ = new QDoubleSpinBox;
    spin_->setObjectName(QString("bank_spin_%1").arg(number));
    spin_->setRange(-10, 10);
    spin_->setDecimals(3);
    spin_->setSingleStep(0.05);
    spin_->setKeyboardTracking(false);  // one step of undo for a typed number
    spin_->setFixedWidth(84);
    auto* bottom = row({slider_, spin_});
    column->addLayout(bottom);
    connect(slider_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_) emit amount_changed(static_cast<double>(v) / kSteps, true);
    });
    connect(slider_, &QSlider::sliderReleased, this, &MorphRow::released);
    connect(spin_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (!filling_) emit amount_changed(v, false);
    });
}

void MorphRow::show_amount(double amount) {
    filling_ = true;
    slider_->setValue(static_cast<int>(std::lround(amount * kSteps)));
    spin_->setValue(amount);
    filling_ = false;
}

bool MorphRow::eventFilter(QObject* object, QEvent* event) {
    if (object == slider_ && event->type() == QEvent::MouseButtonDblClick) {
        emit amount_changed(0, false);
        return true;
    }
    return QWidget::eventFilter(object, event);
}

BankPanel::BankPanel(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Bank"), "title"));
    name_ = new QLineEdit;
    name_->setObjectName("bank_name");
    name_->setPlaceholderText(tr("Name of the new morph"));
    column->addWidget(name_);
    keep_ = button(tr("Keep the fit as a morph"), "bank_keep", tr("Stores the difference between the fit and the base"), true);
    connect(keep_, &QPushButton::clicked, this, &BankPanel::keep);
    connect(name_, &QLineEdit::returnPressed, this, &BankPanel::keep);
    column->addWidget(keep_);
    empty_ = text_label(tr("No morphs yet. Make a fit, then keep it here."), "dim");
    column->addWidget(empty_);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inner = new QWidget;
    auto* inner_column = new QVBoxLayout(inner);
    inner_column->setContentsMargins(0, 0, 6, 0);
    rows_ = new QVBoxLayout;
    inner_column->addLayout(rows_);
    inner_column->addStretch();
    area->setWidget(inner);
    column->addWidget(area, 1);
    auto* reset = button(tr("All back to 0"), "bank_reset");
    connect(reset, &QPushButton::clicked, this, [this] {
        ProjectState next = s_.state();
        for (BankEntry& e : next.bank) e.amount = 0;
        s_.change(tr("Set all morphs to 0"), std::move(next));
    });
    column->addWidget(reset);
    connect(&s_, &Session::changed, this, &BankPanel::refresh);
    refresh();
}

void BankPanel::build_rows() {
    for (MorphRow* row : row_widgets_) row->deleteLater();
    row_widgets_.clear();
    shown_.clear();
    for (std::size_t i = 0; i < s_.state().bank.size(); ++i) {
        shown_.push_back(s_.state().bank[i].morph);
        auto* row = new MorphRow(*shown_.back(), i);
        connect(row, &MorphRow::amount_changed, this, [this, i](double a, bool dragging) { set_amount(i, a, dragging); });
        connect(row, &MorphRow::released, this, [this] { s_.document().seal(); });
        connect(row, &MorphRow::rename, this, [this, i] { rename(i); });
        connect(row, &MorphRow::erase, this, [this, i] { erase(i); });
        rows_->addWidget(row);
        row_widgets_.push_back(row);
    }
}

void BankPanel::refresh() {
    const ProjectState& state = s_.state();
    bool same = shown_.size() == state.bank.size();
    for (std::size_t i = 0; same && i < shown_.size(); ++i) same = shown_[i] == state.bank[i].morph;
    if (!same) build_rows();
    for (std::size_t i = 0; i < row_widgets_.size(); ++i) row_widgets_[i]->show_amount(state.bank[i].amount);
    keep_->setEnabled(state.fit() != nullptr);
    keep_->setToolTip(state.fit() ? tr("Stores the difference between the fit and the base") : tr("Make a fit first"));
    empty_->setVisible(state.bank.empty());
    if (name_->text().isEmpty() && state.fit() && state.current()) {
        name_->setText(QString::fromStdString(state.current()->name) + " " + fit_part_name(state.fit()->settings.part));
    }
}

void BankPanel::keep() {
    const ProjectState& state = s_.state();
    const FitRecord* fit = state.fit();
    if (!fit) return;
    std::vector<std::string> taken;
    for (const BankEntry& e : state.bank) taken.push_back(e.morph->name);
    const std::string name = free_name(name_->text().trimmed().toStdString(), taken);
    auto morph = make_morph(*state.kit, rest_shape(*state.kit, *fit), name);
    if (!morph) {
        s_.report(morph.error());
        return;
    }
    morph->note = "From " + fit->name + " of " + fit->source;
    morph->figures = figures_text(fit->figures);
    ProjectState next = state;
    next.bank.push_back({std::make_shared<Morph>(std::move(*morph)), 1.0});
    s_.change(tr("Keep %1").arg(QString::fromStdString(name)), std::move(next));
    name_->clear();
}

void BankPanel::set_amount(std::size_t at, double amount, bool dragging) {
    ProjectState next = s_.state();
    if (at >= next.bank.size() || next.bank[at].amount == amount) return;
    next.bank[at].amount = amount;
    s_.change(tr("Slide %1").arg(QString::fromStdString(next.bank[at].morph->name)), std::move(next), dragging ? "slide " + std::to_string(at) : "");
}

void BankPanel::rename(std::size_t at) {
    if (at >= s_.state().bank.size()) return;
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Rename morph"), tr("Name:"), QLineEdit::Normal, QString::fromStdString(s_.state().bank[at].morph->name), &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    ProjectState next = s_.state();
    auto renamed = std::make_shared<Morph>(*next.bank[at].morph);
    renamed->name = name.toStdString();
    next.bank[at].morph = renamed;
    s_.change(tr("Rename to %1").arg(name), std::move(next));
}

void BankPanel::erase(std::size_t at) {
    ProjectState next = s_.state();
    if (at >= next.bank.size()) return;
    const QString name = QString::fromStdString(next.bank[at].morph->name);
    next.bank.erase(next.bank.begin() + static_cast<std::ptrdiff_t>(at));
    s_.change(tr("Delete %1").arg(name), std::move(next));
}

}  // namespace veld
