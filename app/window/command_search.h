#pragma once
// One field that finds any command by words of its name, and does it.
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>

#include "app/window/commands.h"

namespace veld {

class CommandSearch : public QDialog {
    Q_OBJECT
 public:
    CommandSearch(Commands& commands, QWidget* parent);

 protected:
    bool eventFilter(QObject* object, QEvent* event) override;  // arrows move in the list while the field is typed in

 private:
    void refresh();
    void run();

    Commands& commands_;
    QLineEdit* words_;
    QListWidget* found_;
};

}  // namespace veld
