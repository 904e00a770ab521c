#include "app/sections.h"

#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {

Sections::Sections(const char* name, QWidget* parent) : QWidget(parent) {
    setObjectName(name);
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(2);
    column_->addStretch();  // below the bars when all are folded
}

void Sections::add(QWidget* page, const QString& title, const QString& hint) {
    const int i = count();
    for (QComboBox* box : page->findChildren<QComboBox*>()) narrow(box, 6);  // two stand beside one another
    One one;
    one.page = page;
    one.bar = new QToolButton;
    one.bar->setObjectName(QString("%1_%2").arg(objectName()).arg(i));
    one.bar->setText(title);
    one.bar->setToolTip(hint);
    one.bar->setProperty("role", "section");
    one.bar->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    one.bar->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    one.bar->setCheckable(true);
    one.bar->setFocusPolicy(Qt::StrongFocus);
    one.bar->setIcon(theme::icon("right", &theme::Ink::dim));
    one.area = new QScrollArea;
    one.area->setWidgetResizable(true);
    one.area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    one.area->setFocusPolicy(Qt::NoFocus);
    one.area->setWidget(page);
    one.area->hide();
    connect(one.bar, &QToolButton::clicked, this, [this, i] { set_current(current_ == i ? -1 : i); });
    column_->insertWidget(2 * i, one.bar);
    column_->insertWidget(2 * i + 1, one.area, 1);
    all_.push_back(one);
    if (i == 0) set_current(0);
}

QWidget* Sections::page(int i) const { return all_.at(static_cast<std::size_t>(i)).page; }
void Sections::set_offered(int i, bool on) {
    const One& one = all_.at(static_cast<std::size_t>(i));
    one.bar->setVisible(on);
    one.area->setVisible(on && i == current_);
}

QString Sections::title(int i) const { return all_.at(static_cast<std::size_t>(i)).bar->text(); }

void Sections::set_current(int i) {
    if (i >= count()) return;
    for (int k = 0; k < count(); ++k) {
        const One& one = all_[static_cast<std::size_t>(k)];
        one.bar->setChecked(k == i);
        one.bar->setIcon(theme::icon(k == i ? "down" : "right", &theme::Ink::dim));
        one.area->setVisible(k == i);
    }
    if (i == current_) return;
    current_ = i;
    emit current_changed(i);
}

}  // namespace veld
