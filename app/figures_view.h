#pragma once
// Bottom strip: the figures of the latest fit, and the history of what was done.
#include <QLabel>
#include <QListWidget>
#include <QTableWidget>
#include <QWidget>

#include "app/session.h"

namespace veld {

class FiguresView : public QWidget {
    Q_OBJECT
   public:
    explicit FiguresView(Session& session, QWidget* parent = nullptr);

   private:
    void refresh();
    void fill_table(const FitFigures& figures);

    Session& s_;
    QLabel* summary_;
    QTableWidget* table_;
    QListWidget* history_;
    const void* shown_ = nullptr;
    bool filling_ = false;
};

}  // namespace veld
