#include "app/window/parts.h"

#include <QWidget>

namespace veld {

Parts::Parts(Commands& commands, LayoutStore& layout, QObject* parent)
    : QObject(parent), commands_(commands), layout_(layout) {
    connect(&layout_, &LayoutStore::changed, this, &Parts::take_up);
}

void Parts::add(QWidget* widget) { parts_.push_back({widget}); }

QAction* Parts::add(QWidget* widget, QMenu* menu, const CommandInfo& info, bool open_at_first) {
    CommandInfo folding = info;
    folding.checkable = true;
    QAction* fold = commands_.add(menu, folding, {});
    fold->setChecked(layout_.value(info.id, open_at_first).toBool());
    const std::size_t i = parts_.size();
    parts_.push_back({widget, fold, true, open_at_first});
    connect(fold, &QAction::toggled, this, [this, i, fold](bool open) {
        if (!taking_up_) layout_.set(fold->objectName(), open);
        if (open) set_alone(false);  // who asks for a part wants to see it
        show(parts_[i]);
    });
    show(parts_.back());
    return fold;
}

void Parts::take_up() {
    taking_up_ = true;
    for (const Part& part : parts_) {
        if (part.fold) part.fold->setChecked(layout_.value(part.fold->objectName(), part.open_at_first).toBool());
    }
    taking_up_ = false;
}

void Parts::want(QWidget* widget, bool on) {
    for (Part& part : parts_) {
        if (part.widget != widget) continue;
        part.wanted = on;
        show(part);
    }
}

void Parts::set_alone(bool on) {
    if (on == alone_) return;
    alone_ = on;
    for (const Part& part : parts_) show(part);
}

void Parts::show(const Part& part) const {
    part.widget->setVisible(part.wanted && !alone_ && (!part.fold || part.fold->isChecked()));
}

}  // namespace veld
