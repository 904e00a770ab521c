#pragma once
// Parts of the window around the views. Some fold away, which is remembered; all of them go for the picture alone.
#include <QObject>
#include <vector>

#include "app/window/commands.h"
#include "app/window/layout_store.h"

namespace veld {

class Parts : public QObject {
    Q_OBJECT
 public:
    Parts(Commands& commands, LayoutStore& layout, QObject* parent = nullptr);

    void add(QWidget* widget);
    // One that folds by a command, which is checked while it is open.
    QAction* add(QWidget* widget, QMenu* menu, const CommandInfo& info, bool open_at_first);
    // Not wanted: it is not shown, folded or not.
    void want(QWidget* widget, bool on);

    // Nothing but the views.
    void set_alone(bool on);
    bool alone() const { return alone_; }

 private:
    struct Part {
        QWidget* widget = nullptr;
        QAction* fold = nullptr;  // null: it never folds
        bool wanted = true;
        bool open_at_first = true;
    };
    void show(const Part& part) const;
    void take_up();

    Commands& commands_;
    LayoutStore& layout_;
    bool taking_up_ = false;
    std::vector<Part> parts_;
    bool alone_ = false;
};

}  // namespace veld
