#include "app/window/history_tools.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QWidgetAction>

#include "app/theme.h"

namespace veld {
namespace {
constexpr int kListWidth = 280, kListHeight = 320;
}

HistoryTools::HistoryTools(Session& session, Commands& commands, QMenu* menu, QWidget* parent)
    : QWidget(parent), s_(session) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 1, 0, 1);
    across->setSpacing(1);
    undo_ = commands.add(menu, {.id = "undo", .title = tr("Undo"), .key = QKeySequence::Undo, .icon = "undo"},
                         [this] { s_.document().undo(); });
    redo_ =
        commands.add(menu, {.id = "redo", .title = tr("Redo"), .key = QKeySequence("Ctrl+Shift+Z"), .icon = "redo"},
                     [this] { s_.document().redo(); });
    list_ = new QListWidget;
    list_->setObjectName("history");
    list_->setAccessibleName(tr("History"));
    list_->setFixedSize(kListWidth, kListHeight);
    list_->setToolTip(tr("Click a step to return to it"));
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (!filling_ && row >= 0) s_.document().go_to(static_cast<std::size_t>(row));
    });
    auto* unfolded = new QMenu(this);
    auto* inside = new QWidgetAction(unfolded);
    inside->setDefaultWidget(list_);
    unfolded->addAction(inside);
    connect(unfolded, &QMenu::aboutToShow, list_, [this] { list_->scrollToItem(list_->currentItem()); });
    for (QAction* action : {undo_, redo_}) {
        auto* b = new QToolButton;
        b->setDefaultAction(action);
        b->setFocusPolicy(Qt::TabFocus);
        across->addWidget(b);
    }
    auto* more = new QToolButton;
    more->setObjectName("history_unfold");
    more->setIcon(theme::icon("fold"));
    more->setToolTip(tr("History: everything that was done, to return to"));
    more->setAccessibleName(tr("History"));
    more->setPopupMode(QToolButton::InstantPopup);
    more->setFocusPolicy(Qt::TabFocus);
    more->setMenu(unfolded);
    across->addWidget(more);
    connect(&s_, &Session::changed, this, &HistoryTools::refresh);
    refresh();
}

void HistoryTools::refresh() {
    const Document& d = s_.document();
    undo_->setEnabled(d.can_undo());
    redo_->setEnabled(d.can_redo());
    undo_->setText(d.can_undo() ? tr("Undo %1").arg(QString::fromStdString(d.undo_label())) : tr("Undo"));
    redo_->setText(d.can_redo() ? tr("Redo %1").arg(QString::fromStdString(d.redo_label())) : tr("Redo"));
    refresh_list();
}

// Lines are changed where they stand: a click on one of them is what most often brings us here.
void HistoryTools::refresh_list() {
    filling_ = true;
    const std::vector<std::string> labels = s_.document().labels();
    const int now = static_cast<int>(s_.document().position()), count = static_cast<int>(labels.size());
    while (list_->count() > count) delete list_->takeItem(list_->count() - 1);
    while (list_->count() < count) list_->addItem(QString());
    for (int i = 0; i < count; ++i) {
        const std::string& label = labels[static_cast<std::size_t>(i)];
        list_->item(i)->setText(label.empty() ? tr("Opened") : QString::fromStdString(label));
        list_->item(i)->setForeground(i > now ? theme::ink().dim : theme::ink().text);
    }
    list_->setCurrentRow(now);
    filling_ = false;
}

}  // namespace veld
