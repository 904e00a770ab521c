#pragma once
// Everything that has a name: each command once, called the same in menus, in the search and on the list of shortcuts.
#include <QAction>
#include <QKeySequence>
#include <QObject>
#include <functional>
#include <vector>

#include "app/station.h"

class QMenu;
class QWidget;

namespace veld {

struct CommandInfo {
    QString id;  // its action's object name, and where its key is kept in the settings
    QString title;
    QKeySequence key = {};
    const char* icon = nullptr;
    bool checkable = false;
    QString hint = {};  // tool tip; empty: the title
};

// The menus of the window, from left to right; go: the stations, within view.
struct Menus {
    QMenu *project = nullptr, *edit = nullptr, *view = nullptr, *go = nullptr, *landmarks = nullptr, *fit = nullptr,
          *help = nullptr;
};

class Commands : public QObject {
    Q_OBJECT
 public:
    explicit Commands(QWidget* window);

    // One that means the same in all stations.
    QAction* add(QMenu* menu, const CommandInfo& info, std::function<void()> act);
    // One that means something in this station; others may give it a meaning of their own. Elsewhere it is off.
    QAction* add(QMenu* menu, Station station, const CommandInfo& info, std::function<void()> act);
    void enter(Station station);

    struct Entry {
        QAction* action = nullptr;
        QKeySequence standard;  // the key that it comes with
        struct Deed {
            Station station;  // its id is empty: everywhere
            std::function<void()> act;
        };
        std::vector<Deed> deeds;
        QString menu;  // under which it is found
    };
    const std::vector<Entry>& all() const { return all_; }
    QAction* find(const QString& id) const;  // null: there is none

    // Another key for it, kept in the settings; empty: none. Empty when done, else the title of the command that has
    // the key already.
    QString set_key(const QString& id, const QKeySequence& key);
    void standard_keys();  // all as they come
    // What has the key where this command means something; null: nothing.
    const Entry* taken(const QString& id, const QKeySequence& key) const;

 signals:
    void keys_changed();

 private:
    Entry& entry(QMenu* menu, const CommandInfo& info);
    void run(const Entry& entry) const;
    static void tell_key(QAction& action);

    QWidget* window_;
    Station now_ = Station::Gather;
    std::vector<Entry> all_;
};

}  // namespace veld
