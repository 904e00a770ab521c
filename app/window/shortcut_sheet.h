#pragma once
// All shortcuts, by menu. A key is changed where it stands; one that is taken says by what.
#include <QDialog>
#include <QLabel>
#include <QTreeWidget>

#include "app/window/commands.h"

namespace veld {

class ShortcutSheet : public QDialog {
    Q_OBJECT
 public:
    ShortcutSheet(Commands& commands, QWidget* parent);

 private:
    void refresh();
    void take(const QString& id, const QKeySequence& key);

    Commands& commands_;
    QTreeWidget* list_;
    QLabel* said_;
};

}  // namespace veld
