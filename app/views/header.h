#pragma once
// The bar over a view's upper edge: a button that says what the view shows, its title beside it.
#include <QToolButton>

#include "app/theme.h"

namespace veld {

constexpr int kHeaderHeight = 32, kTitleLeft = 34;  // pixels

// Its menu is made by whoever arranges the views; without one it is not seen.
inline QToolButton* make_header(QWidget* view) {
    auto* button = new QToolButton(view);
    button->setObjectName("view_header");
    button->setProperty("role", "header");
    button->setIcon(theme::icon("fold", theme::kText));
    button->setToolTip(QToolButton::tr("What this view shows, its camera, and how many views there are"));
    button->setAccessibleName(QToolButton::tr("This view"));
    button->setPopupMode(QToolButton::InstantPopup);
    button->setFocusPolicy(Qt::TabFocus);
    button->setCursor(Qt::ArrowCursor);
    button->setGeometry(6, 5, 22, 22);
    button->hide();
    return button;
}

}  // namespace veld
