#pragma once
// A photograph with marks on it. The wheel comes closer, dragging moves, a click marks.
#include <QImage>
#include <QWidget>

#include "app/views/markers.h"

class QToolButton;

namespace veld {

class PhotoView : public QWidget {
    Q_OBJECT
 public:
    explicit PhotoView(QWidget* parent = nullptr);

    void set_picture(const QImage& picture, const QString& title);
    // The same picture as it is now; where it lies on the screen stays.
    void change_picture(const QImage& picture) { picture_ = picture, update(); }
    const QImage& picture() const { return picture_; }
    const QString& title() const { return title_; }
    void set_brush(bool on) { brush_ = on; }  // the left button makes strokes
    void set_markers(std::vector<Marker> markers) { markers_ = std::move(markers), update(); }
    void set_lines(std::vector<GuideLine> lines) { lines_ = std::move(lines), update(); }
    void set_loupe(bool on) {
        if (on != loupe_) loupe_ = on, update();
    }
    void set_message(const QString& text) { message_ = text, update(); }
    void frame(const QPointF& middle, double pixels);  // so that this many pixels of the picture are seen
    void frame_all();
    QPointF screen_of(const QPointF& pixel) const { return zoom_ * pixel + offset_; }
    QPointF pixel_of(const QPointF& screen) const { return (screen - offset_) / zoom_; }
    double zoom() const { return zoom_; }
    QToolButton* header() const { return header_; }  // the button at the left of its title

 signals:
    void clicked(QPointF pixel);
    void stroke_begun(QPointF pixel, double pressure, Qt::KeyboardModifiers keys);
    void stroke_moved(QPointF pixel, double pressure);
    void stroke_ended();
    void marker_pressed(QString name, Qt::KeyboardModifiers keys);
    void marker_dragged(QString name, QPointF pixel);
    void marker_released(QString name);
    void arrow_pressed(int right, int up, Qt::KeyboardModifiers keys);

 protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

 private:
    const Marker* marker_at(const QPointF& at) const;

    QToolButton* header_;
    QImage picture_;
    QString title_, message_;
    std::vector<Marker> markers_;
    std::vector<GuideLine> lines_;
    double zoom_ = 1;
    QPointF offset_, press_, last_, pointer_{-1, -1};
    QString dragged_;
    bool panning_ = false, travelled_ = false, loupe_ = false, fitted_ = true, brush_ = false, stroking_ = false;
};

}  // namespace veld
