#pragma once
// What the files of this folder share.
#include <QApplication>
#include <QElapsedTimer>
#include <functional>

#include "app/window/main_window.h"

namespace veld {

inline void wait_for(const std::function<bool()>& done, int most_ms) {
    QElapsedTimer clock;
    clock.start();
    while (!done() && clock.elapsed() < most_ms) QApplication::processEvents(QEventLoop::AllEvents, 20);
}

inline void settle(int ms) {
    wait_for([] { return false; }, ms);
}

// The demo's second base: a mesh of somebody else's and the kit that the program made of it.
void picture_base(MainWindow& window, const QString& view);
void picture_prove(MainWindow& window, const QString& view);
void picture_skin(MainWindow& window, const QString& view);

// The Bank in one of its sections, or Deliver.
void picture_bank(MainWindow& window, const QString& view);

}  // namespace veld
