#include "app/window/rail.h"

#include <QMenu>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme.h"

namespace veld {
namespace {
constexpr int kButtonHeight = 54, kLeastWidth = 58, kSide = 8;
}

Rail::Rail(Commands& commands, QWidget* parent) : QWidget(parent), commands_(commands) {
    setObjectName("rail");
    setAttribute(Qt::WA_StyledBackground);
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 4, 0, 4);
    column_->setSpacing(0);
    column_->addStretch();
}

QToolButton* Rail::make_button() {
    auto* b = new QToolButton;
    b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    b->setProperty("role", "station");
    b->setFixedHeight(kButtonHeight);
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    b->setFocusPolicy(Qt::TabFocus);
    return b;
}

void Rail::add(QMenu* menu, Station station, const QString& title, std::function<void()> go) {
    const int number = static_cast<int>(all_.size()) + 1;
    const QString id = QString::fromLatin1(station.id.data(), static_cast<qsizetype>(station.id.size()));
    QAction* action =
        commands_.add(menu,
                      {.id = "go_" + id,
                       .title = title,
                       .key = number <= 9 ? QKeySequence(QString("Ctrl+%1").arg(number)) : QKeySequence(),
                       .hint = tr("Go to %1").arg(title)},
                      std::move(go));
    auto* b = make_button();
    b->setObjectName("station_" + id);
    b->setText(title);
    b->setIcon(theme::icon(id));
    b->setCheckable(true);
    b->setAutoExclusive(true);
    b->setToolTip(action->toolTip());
    connect(action, &QAction::changed, b, [b, action] { b->setToolTip(action->toolTip()); });
    connect(b, &QToolButton::clicked, action, &QAction::trigger);
    column_->insertWidget(number - 1, b);
    all_.push_back({station, b});
    fit_widths();
}

void Rail::add_foot(QAction* action) {
    auto* b = make_button();
    b->setDefaultAction(action);
    b->setObjectName("fold_" + action->objectName());
    column_->addWidget(b);
    fit_widths();
}

void Rail::fit_widths() {
    int width = kLeastWidth;
    for (const QToolButton* b : findChildren<QToolButton*>())
        width =
            std::max({width, b->fontMetrics().horizontalAdvance(b->text()) + 2 * kSide, b->minimumSizeHint().width()});
    setFixedWidth(width);
}

void Rail::set_current(Station station) {
    for (const One& one : all_) {
        if (one.station == station) one.button->setChecked(true);
    }
}

}  // namespace veld
