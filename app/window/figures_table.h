#pragma once
// What the line of figures unfolds into: a row a region, or a photograph. Sorted by its headers, copied as text or
// CSV.
#include <QTableWidget>
#include <QWidget>

#include "app/session.h"

namespace veld {

class FiguresTable : public QWidget {
    Q_OBJECT
 public:
    explicit FiguresTable(Session& session, QWidget* parent = nullptr);

    // as it is sorted now, with its headers: separated by tabs, or as CSV (RFC 4180)
    QString text(bool csv) const;

 signals:
    void region_picked(const std::string& region);  // somebody wants to see it

 private:
    void refresh();
    void fill_regions(const FitFigures& figures);
    void fill_photos(const FitRecord& fit);
    struct Cell {
        std::optional<double> value;  // a length: in mm
        int decimals = 0;
        bool length = false;
        QString words = {}, tip = {};  // shown in place of the number, which sorts
    };
    void add_row(const QString& name, const std::vector<Cell>& cells);
    void copy(bool csv);

    Session& s_;
    QTableWidget* table_;
    std::shared_ptr<const void> shown_;  // the distances whose figures are shown
};

}  // namespace veld
