#pragma once
// A small picture of the base's head, front and side, in which regions are pointed at.
#include <QImage>
#include <QPixmap>
#include <QWidget>
#include <set>

#include "core/morph/region_mix.h"

namespace veld {

class FaceMap : public QWidget {
    Q_OBJECT
 public:
    explicit FaceMap(QWidget* parent = nullptr);
    void show_kit(const BaseKit& kit, const BaseRegions& regions);
    // selected: ochre; mixed: regions that have shapes of their own, with a teal dot
    void show_state(const std::string& selected, const std::set<std::string>& mixed);
    QSize sizeHint() const override { return {264, 190}; }
    // the middle of a region's picture; null when it is not in sight
    QPoint place_of(const std::string& region) const;

 signals:
    void picked(QString region);

 protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

 private:
    void draw();
    int region_at(const QPoint& at) const;

    struct Facet {
        QPolygonF shape;  // in a frame of 1 x 1 per pane
        double depth = 0, light = 0;
        int region = 0, pane = 0;
    };
    std::vector<Facet> facets_;
    std::vector<std::string> names_;
    std::string selected_;
    std::set<std::string> mixed_;
    QImage regions_;  // which region a pixel shows, + 1
    QPixmap picture_;
    int hovered_ = -1;
};

}  // namespace veld
