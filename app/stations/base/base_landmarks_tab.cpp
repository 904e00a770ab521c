#include "app/stations/base/base_landmarks_tab.h"

#include "app/flow_row.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/landmark/landmarks.h"

namespace veld {
namespace {

constexpr double kUsualWithinMm = 8;  // what is usual on a body

}  // namespace

BaseLandmarksTab::BaseLandmarksTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    summary_ = text_label({}, "dim");
    summary_->setObjectName("base_landmarks_summary");
    column->addWidget(summary_);
    list_ =
        column_list("base_landmarks", tr("Landmarks and guide curves of the base"), {tr("Landmark"), tr("±")}, 140);
    list_->headerItem()->setToolTip(1,
                                    tr("How far it may be off; empty: it was set or looked at, or there is no doubt"));
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) s_.select(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    what_ = text_label({}, "dim");
    what_->setObjectName("base_landmark_what");
    column->addWidget(what_);
    right_ =
        button(tr("It is right"), "base_landmark_right", tr("It stays where it is, and is not asked about again"));
    connect(right_, &QPushButton::clicked, this, [this] {
        const std::string now = s_.selected();
        c_.is_right(now);
        // the next that wants a look
        for (const auto& [name, off] : c_.landmarks()) {
            if (off > 0 && name != now) return s_.select(name);
        }
    });
    within_right_ = button(tr("All within"), "base_landmarks_within",
                           tr("Those that may be off by no more than this are right where they are"));
    within_ = new LengthBox("base_within_mm", 0.2, 50, 0.5, 1, tr("What counts as good enough"));
    within_->setValue(kUsualWithinMm);
    connect(within_right_, &QPushButton::clicked, this, [this] { c_.are_right_within(within_->value()); });
    column->addLayout(flow({right_, within_right_, within_}));
    connect(&s_, &Session::changed, this, &BaseLandmarksTab::refresh);
    connect(&s_, &Session::selection_changed, this, &BaseLandmarksTab::show_selection);
    connect(&c_, &BaseController::page_changed, this, &BaseLandmarksTab::refresh);
    refresh();
}

void BaseLandmarksTab::refresh() {
    if (c_.page() != BaseController::Page::Landmarks) return;
    filling_ = true;
    list_->clear();
    int doubted = 0, all = 0;
    for (const auto& [name, off] : c_.landmarks()) {
        auto* item = new QTreeWidgetItem(list_, {c_.plain(name), off > 0 ? length_number(off, 1) + "?" : QString()});
        item->setData(0, Qt::UserRole, QString::fromStdString(name));
        item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
        doubted += off > 0, ++all;
    }
    filling_ = false;
    summary_->setText(doubted ? tr("%1 landmarks and guide curves; %2 may be off by more than they should: look at "
                                   "those first. Drag a landmark in the view to move it.")
                                    .arg(all)
                                    .arg(doubted)
                              : tr("%1 landmarks and guide curves. Drag a landmark in the view to move it.").arg(all));
    show_selection();
}

void BaseLandmarksTab::show_selection() {
    const std::string& name = s_.selected();
    filling_ = true;
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* item = list_->topLevelItem(i);
        if (item->data(0, Qt::UserRole).toString().toStdString() != name) continue;
        list_->setCurrentItem(item);
        list_->scrollToItem(item);
    }
    if (name.empty()) list_->setCurrentItem(nullptr);
    filling_ = false;
    const SchemePoint* p = landmark_scheme().point(name);
    const SchemeCurve* c = landmark_scheme().curve(name);
    what_->setText(p ? QString::fromStdString(p->definition) : c ? QString::fromStdString(c->definition) : QString());
    within_right_->setEnabled(s_.has_kit() && !open_doubts(s_.state()).empty());
    right_->setEnabled(s_.has_kit() && open_doubts(s_.state()).contains(name));
}

}  // namespace veld
