#include "app/stations/mark/mark_panel.h"

#include <QHeaderView>
#include <algorithm>
#include <cmath>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {

MarkPanel::MarkPanel(Session& session, MarkController& controller, QWidget* parent) : QWidget(parent), s_(session), c_(controller) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Mark"), "title"));
    ask_ = text_label({}, "ask");
    ask_->setObjectName("mark_ask");
    ask_->setMinimumHeight(58);
    column->addWidget(ask_);
    list_ = new QTreeWidget;
    list_->setObjectName("mark_list");
    list_->setRootIsDecorated(false);
    list_->setAlternatingRowColors(true);
    list_->setHeaderLabels({tr("Point"), tr("base"), tr("fit")});
    list_->headerItem()->setToolTip(1, tr("How far the point lies from the base's own, after placing; mm"));
    list_->headerItem()->setToolTip(2, tr("How far the latest fit stayed away from it; mm"));
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setMinimumSectionSize(30);
    for (int c : {1, 2}) {
        list_->header()->setSectionResizeMode(c, QHeaderView::Fixed);
        list_->setColumnWidth(c, 46);
    }
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item && !filling_) s_.select(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    summary_ = text_label({}, "dim");
    column->addWidget(summary_);
    auto* mirror = button(tr("Mirror"), "mark_mirror", tr("Set the missing side from the other one (M)"));
    auto* mirror_all = button(tr("Mirror all"), "mark_mirror_all", tr("Set every missing side from the marked one"));
    auto* erase = button(tr("Delete"), "mark_delete", tr("Take the point off the source (Del)"));
    column->addLayout(row({mirror, mirror_all, erase}));
    auto* swap = button(tr("Swap sides"), "mark_swap", tr("Exchange left and right of all points of the source"));
    auto* read = button(tr("Read…"), "mark_read", tr("Read a landmark file for this source"));
    auto* write = button(tr("Write…"), "mark_write", tr("Write the source's landmarks to a file"));
    column->addLayout(row({swap, read, write}));
    connect(mirror, &QPushButton::clicked, &c_, &MarkController::mirror_selected);
    connect(mirror_all, &QPushButton::clicked, &c_, &MarkController::mirror_all_missing);
    connect(erase, &QPushButton::clicked, &c_, &MarkController::erase_selected);
    connect(swap, &QPushButton::clicked, &c_, &MarkController::swap_sides);
    connect(read, &QPushButton::clicked, this, &MarkPanel::read_file);
    connect(write, &QPushButton::clicked, this, &MarkPanel::write_file);
    connect(&s_, &Session::changed, this, &MarkPanel::refresh);
    connect(&s_, &Session::selection_changed, this, &MarkPanel::show_selection);
    refresh();
}

void MarkPanel::refresh() {
    const Source* source = s_.state().source();
    const auto residuals = c_.residuals();
    std::vector<std::string> names = c_.known_points();
    const FitRecord* fit = s_.state().fit();
    const std::map<std::string, double> fitted = fit ? fit->figures.landmark_mm : std::map<std::string, double>();
    const auto& rank = fitted.empty() ? residuals : fitted;
    const auto marked = [&](const std::string& name) { return source && source->landmarks.points.contains(name); };
    // marked ones worst first, then those still to be marked in the order in which they are asked for
    std::stable_sort(names.begin(), names.end(), [&](const std::string& a, const std::string& b) {
        if (marked(a) != marked(b)) return marked(a);
        const auto ra = rank.find(a), rb = rank.find(b);
        return marked(a) && ra != rank.end() && (rb == rank.end() || ra->second > rb->second);
    });
    filling_ = true;
    list_->clear();
    double sum = 0;
    for (const std::string& name : names) {
        auto* item = new QTreeWidgetItem(list_);
        item->setData(0, Qt::UserRole, QString::fromStdString(name));
        item->setText(0, (marked(name) ? "● " : "○ ") + c_.plain(name));
        for (int c : {1, 2}) item->setTextAlignment(c, Qt::AlignRight | Qt::AlignVCenter);
        if (const auto r = fitted.find(name); r != fitted.end() && marked(name)) item->setText(2, QString::number(r->second, 'f', 2));
        const SchemePoint* p = landmark_scheme().point(name);
        item->setToolTip(0, p ? QString::fromStdString(p->name + ": " + p->definition) : tr("A point of this project's own"));
        if (!marked(name)) item->setForeground(0, theme::kDim);
        if (const auto r = residuals.find(name); r != residuals.end()) {
            item->setText(1, QString::number(r->second, 'f', 1));
            sum += r->second * r->second;
        }
    }
    filling_ = false;
    const std::size_t count = source ? source->landmarks.points.size() : 0, curves = source ? source->landmarks.curves.size() : 0;
    QString text = tr("%1 points, %2 guide curves").arg(count).arg(curves);
    if (!residuals.empty()) text += tr("; rms %1 mm against the base's own face").arg(std::sqrt(sum / static_cast<double>(residuals.size())), 0, 'f', 1);
    summary_->setText(text);
    show_selection();
}

void MarkPanel::show_selection() {
    const Source* source = s_.state().source();
    const std::string& name = s_.selected();
    filling_ = true;
    list_->setCurrentItem(nullptr);
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        if (list_->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString() != name) continue;
        list_->setCurrentItem(list_->topLevelItem(i));
        list_->scrollToItem(list_->topLevelItem(i));
    }
    filling_ = false;
    if (!source) {
        ask_->setText(tr("Add a scan first (Gather)."));
    } else if (name.empty()) {
        ask_->setText(tr("Choose a point from the list, or press N for the first that is missing."));
    } else if (source->landmarks.points.contains(name)) {
        ask_->setText(tr("<b>%1</b> is marked. Drag it on the scan to move it; N for the next.").arg(c_.plain(name)));
    } else {
        const SchemePoint* p = landmark_scheme().point(name);
        ask_->setText(tr("Click on the scan: <b>%1</b><br><span style='color:#aba193'>%2</span>").arg(c_.plain(name), p ? QString::fromStdString(p->definition) : tr("the partner of your own point")));
    }
}

}  // namespace veld
