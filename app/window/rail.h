#pragma once
// The stations, one below the other: icon over word.
#include <QToolButton>
#include <QWidget>
#include <functional>

#include "app/station.h"
#include "app/window/commands.h"

class QVBoxLayout;

namespace veld {

class Rail : public QWidget {
    Q_OBJECT
 public:
    explicit Rail(Commands& commands, QWidget* parent = nullptr);

    // Also a command of this menu, with Ctrl and its number.
    void add(QMenu* menu, Station station, const QString& title, std::function<void()> go);
    void set_current(Station station);
    // At the foot: what folds the project's things.
    void add_foot(QAction* action);

 private:
    QToolButton* make_button();
    void fit_widths();

    Commands& commands_;
    QVBoxLayout* column_;
    struct One {
        Station station;
        QToolButton* button = nullptr;
    };
    std::vector<One> all_;
};

}  // namespace veld
