#include "app/stations/base/expressions_tab.h"

#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {

ExpressionsTab::ExpressionsTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    list_ = new QListWidget;
    list_->setObjectName("base_expressions");
    list_->setAccessibleName(tr("Expressions"));
    list_->setMinimumHeight(100);
    connect(list_, &QListWidget::currentTextChanged, this, [this](const QString& name) {
        if (!filling_) c_.select_expression(name.toStdString());
    });
    column->addWidget(list_, 1);
    connect(&s_, &Session::changed, this, &ExpressionsTab::refresh);
    connect(&c_, &BaseController::changed, this, &ExpressionsTab::refresh);
    refresh();
}

void ExpressionsTab::refresh() {
    if (c_.page() != BaseController::Page::Expressions) return;
    filling_ = true;
    QStringList names, shown;
    if (s_.has_kit()) {
        for (const auto& [name, shape] : s_.state().kit->expressions) names << QString::fromStdString(name);
    }
    for (int i = 0; i < list_->count(); ++i) shown << list_->item(i)->text();
    if (names != shown) list_->clear(), list_->addItems(names);
    const auto now = list_->findItems(QString::fromStdString(c_.expression()), Qt::MatchExactly);
    list_->setCurrentItem(now.isEmpty() ? nullptr : now.front());
    hint_->setText(names.isEmpty() ? tr("This kit has no expressions. A base with morph targets, or a folder of "
                                        "expressions given when the kit is made, brings them.")
                                   : tr("Select one to see it beside the base."));
    filling_ = false;
}

}  // namespace veld
