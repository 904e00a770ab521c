#pragma once
// The line below the views: what the station has of figures, and the bar that unfolds their table.
#include <QLabel>
#include <QToolButton>
#include <QWidget>

#include "app/session.h"

namespace veld {

class FiguresLine : public QWidget {
    Q_OBJECT
 public:
    explicit FiguresLine(Session& session, QWidget* parent = nullptr);

    // of_fit: the figures of the latest fit, with a table; else what the station says, or nothing
    void set_station(bool of_fit, const QString& says);
    // the arrow shows which way it goes
    void set_unfolded(bool on);

 signals:
    void unfold(bool on);
    void go_and_look(veld::Index vertex);  // of the base, on the fit

 private:
    void refresh();
    void next_fault(const QString& kind);
    QString of_scan(const FitFigures& figures) const;
    QString regions(const FitFigures& figures) const;
    QString of_photos(const FitRecord& fit) const;

    Session& s_;
    QToolButton* fold_;
    QLabel* summary_;
    bool of_fit_ = false;
    QString says_;
    std::size_t flip_ = 0, cut_ = 0;     // which is looked at next
    std::shared_ptr<const void> shown_;  // the distances whose figures are shown
};

}  // namespace veld
