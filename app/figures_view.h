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

 signals:
    void go_and_look(veld::Index vertex);  // of the base, on the fit

 private:
    void next_fault(const QString& kind);
    void refresh();
    void refresh_history();
    void fill_table(const FitFigures& figures);
    void fill_photos(const FitRecord& fit);

    Session& s_;
    QLabel* summary_;
    QTableWidget* table_;
    QListWidget* history_;
    std::size_t flip_ = 0, cut_ = 0;     // which is looked at next
    std::shared_ptr<const void> shown_;  // the distances whose figures are shown
    bool filling_ = false;
};

}  // namespace veld
