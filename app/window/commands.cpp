#include "app/window/commands.h"

#include <QMenu>
#include <QSettings>
#include <algorithm>

#include "app/theme.h"

namespace veld {
namespace {

QString place_of_key(const QString& id) { return "keys/" + id; }

bool everywhere(const Commands::Entry& e) {
    return std::any_of(e.deeds.begin(), e.deeds.end(), [](const auto& deed) { return deed.station.id.empty(); });
}

bool means_something(const Commands::Entry& e, Station station) {
    return everywhere(e) ||
           std::any_of(e.deeds.begin(), e.deeds.end(), [&](const auto& deed) { return deed.station == station; });
}

bool meet(const Commands::Entry& a, const Commands::Entry& b) {
    if (everywhere(a) || everywhere(b)) return true;
    return std::any_of(a.deeds.begin(), a.deeds.end(),
                       [&](const auto& deed) { return means_something(b, deed.station); });
}

}  // namespace

Commands::Commands(QWidget* window) : QObject(window), window_(window) {}

Commands::Entry& Commands::entry(QMenu* menu, const CommandInfo& info) {
    const auto at =
        std::find_if(all_.begin(), all_.end(), [&](const Entry& e) { return e.action->objectName() == info.id; });
    if (at != all_.end()) return *at;
    auto* action = new QAction(info.title, window_);
    action->setObjectName(info.id);
    if (info.icon) action->setIcon(theme::icon(info.icon));
    action->setCheckable(info.checkable);
    action->setProperty("hint", info.hint.isEmpty() ? QString(info.title).remove('&').remove("…") : info.hint);
    const QVariant own = QSettings().value(place_of_key(info.id));
    action->setShortcut(own.isValid() ? QKeySequence::fromString(own.toString()) : info.key);
    tell_key(*action);
    menu->addAction(action);
    window_->addAction(action);  // its key works while the menus are hidden
    all_.push_back({action, info.key, {}, QString(menu->title()).remove('&')});
    connect(action, &QAction::triggered, this, [this, id = info.id] {
        for (const Entry& e : all_) {
            if (e.action->objectName() == id) return run(e);
        }
    });
    return all_.back();
}

QAction* Commands::add(QMenu* menu, const CommandInfo& info, std::function<void()> act) {
    return add(menu, Station{}, info, std::move(act));
}

QAction* Commands::add(QMenu* menu, Station station, const CommandInfo& info, std::function<void()> act) {
    Entry& e = entry(menu, info);
    e.deeds.push_back({station, std::move(act)});
    if (!everywhere(e)) e.action->setEnabled(means_something(e, now_));
    return e.action;
}

void Commands::enter(Station station) {
    now_ = station;
    for (const Entry& e : all_) {
        if (!everywhere(e)) e.action->setEnabled(means_something(e, station));
    }
}

// What it does may add commands: the deed is held.
void Commands::run(const Entry& entry) const {
    std::function<void()> act;
    for (const Entry::Deed& deed : entry.deeds) {
        if (deed.station == now_ || (deed.station.id.empty() && !act)) act = deed.act;
    }
    if (act) act();
}

QAction* Commands::find(const QString& id) const {
    for (const Entry& e : all_) {
        if (e.action->objectName() == id) return e.action;
    }
    return nullptr;
}

const Commands::Entry* Commands::taken(const QString& id, const QKeySequence& key) const {
    const auto own =
        std::find_if(all_.begin(), all_.end(), [&](const Entry& e) { return e.action->objectName() == id; });
    if (own == all_.end() || key.isEmpty()) return nullptr;
    for (const Entry& e : all_) {
        if (&e != &*own && e.action->shortcut() == key && meet(e, *own)) return &e;
    }
    return nullptr;
}

QString Commands::set_key(const QString& id, const QKeySequence& key) {
    if (const Entry* other = taken(id, key)) return QString(other->action->text()).remove('&');
    for (const Entry& e : all_) {
        if (e.action->objectName() != id) continue;
        e.action->setShortcut(key);
        tell_key(*e.action);
        if (key == e.standard)
            QSettings().remove(place_of_key(id));
        else
            QSettings().setValue(place_of_key(id), key.toString(QKeySequence::PortableText));
    }
    emit keys_changed();
    return {};
}

void Commands::standard_keys() {
    for (const Entry& e : all_) {
        QSettings().remove(place_of_key(e.action->objectName()));
        e.action->setShortcut(e.standard);
        tell_key(*e.action);
    }
    emit keys_changed();
}

void Commands::tell_key(QAction& action) {
    const QString hint = action.property("hint").toString(),
                  key = action.shortcut().toString(QKeySequence::NativeText);
    action.setToolTip(key.isEmpty() ? hint : QString("%1 (%2)").arg(hint, key));
}

}  // namespace veld
