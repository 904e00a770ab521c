#pragma once
// Undo, redo, and the history that unfolds beside them.
#include <QListWidget>
#include <QToolButton>
#include <QWidget>

#include "app/session.h"
#include "app/window/commands.h"

namespace veld {

class HistoryTools : public QWidget {
    Q_OBJECT
 public:
    HistoryTools(Session& session, Commands& commands, QMenu* menu, QWidget* parent = nullptr);

 private:
    void refresh();
    void refresh_list();

    Session& s_;
    QAction *undo_, *redo_;
    QListWidget* list_;
    bool filling_ = false;
};

}  // namespace veld
