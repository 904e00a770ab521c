#pragma once
// One view: draws layers of meshes, markers and lines on top, turns the camera, and
// reports clicks as rays. Draws only when something changed.
#include <QOpenGLFramebufferObject>
#include <QOpenGLWidget>
#include <QPainter>
#include <QPolygonF>
#include <QTimer>
#include <map>
#include <memory>

#include "app/views/camera.h"
#include "app/views/display_mesh.h"
#include "app/views/lights.h"
#include "app/views/markers.h"
#include "core/base/similarity.h"
#include "core/spatial/section.h"

class QToolButton;

namespace veld {

enum class Shading { Clay, Textured, Flat, Colours };

struct Layer {
    std::shared_ptr<DisplayMesh> mesh;
    Similarity model;  // mesh coordinates -> viewport frame
    QColor clay;
    Shading shading = Shading::Clay;
    bool wire = false;
    double opacity = 1;       // below 1: laid over the layers before it
    double from = 0, to = 1;  // of the view's width: what of it is drawn
    bool relief = false;      // lit by the mesh's normal maps
};

// A photograph that the meshes stand in; shown while the camera is that photograph's own.
struct Backdrop {
    QImage picture;
    QString name;
    double behind = 1, over = 0;  // opacities
    bool operator==(const Backdrop& o) const {
        return picture.cacheKey() == o.picture.cacheKey() && name == o.name && behind == o.behind && over == o.over;
    }
};

// A scale at the view's edge: 0 .. worst, or -worst .. worst.
struct Legend {
    double worst = 0;  // 0: none
    QString unit;
    bool both_ways = false;
    bool open = true;  // what is beyond has the last colour
    double per = 1;    // how much of it one of the unit is
    bool operator==(const Legend&) const = default;
};

// What a line's colour means.
struct KeyLine {
    QColor colour;
    QString name;
    bool broken = false;
    bool operator==(const KeyLine&) const = default;
};

// What the left button does on the surface. Turn: orbit, and a click picks. In the others the right
// button orbits and the middle one moves.
// Touch is a stroke that is reported at every step and leaves no trail.
enum class Gesture { Turn, Stroke, Touch, Lasso, Rectangle, Line };

class GpuMeshes;

class Viewport : public QOpenGLWidget {
    Q_OBJECT
 public:
    explicit Viewport(const QString& title, CameraLink* camera, QWidget* parent = nullptr);
    ~Viewport() override;

    void set_title(const QString& title) { put(title_, title); }
    void set_layers(std::vector<Layer> layers);
    void set_markers(std::vector<Marker> markers) {
        if (!markers_.empty() || !markers.empty()) markers_ = std::move(markers), update();
    }
    void set_lines(std::vector<GuideLine> lines) {
        if (!lines_.empty() || !lines.empty()) lines_ = std::move(lines), update();
    }
    const std::vector<GuideLine>& lines() const { return lines_; }
    void set_backdrop(const Backdrop& backdrop) { put(backdrop_, backdrop); }
    // what to do next when there is nothing to show
    void set_empty_hint(const QString& hint) { put(hint_, hint); }
    void set_legend(const Legend& legend) { put(legend_, legend); }
    void set_key(const std::vector<KeyLine>& key) { put(key_, key); }
    const std::vector<KeyLine>& key() const { return key_; }
    // off: drawn without multisampling also at rest
    void set_smooth_edges(bool on);
    // A small picture in a panel: without a title bar.
    void set_bare();
    // Says where the pointer is while no button is held.
    void set_hover(bool on);
    // What lies on the camera's side of the plane is not drawn; empty: everything is.
    void set_cut(const std::optional<Plane>& plane) {
        if (cut_ || plane) cut_ = plane, update();
    }
    // a line from top to bottom at this share of the width; below 0: none
    void set_divider(double at) { put(divider_, at); }
    void set_light(StudioLight light);
    void set_hollows(bool dark) { put(hollows_, dark); }
    // what a click does now, at the lower edge; empty: nothing
    void set_prompt(const QString& text) { put(prompt_, text); }
    void set_busy(const QString& text) { put(busy_, text); }
    // a round glass at the pointer, six times larger, with cross-hairs
    void set_loupe(bool on);
    bool has_loupe() const { return loupe_; }
    void set_gesture(Gesture gesture);
    // The meshes change and will change again at once (a stroke): drawn without smoothing until they rest.
    void redraw_quickly() { moved(); }
    Gesture gesture() const { return gesture_; }
    void set_brush(double radius_mm) { put(brush_mm_, radius_mm); }
    // viewport frame -> clip space now, row-major
    std::array<double, 16> clip_matrix() const;

    CameraLink* camera_link() const { return camera_; }
    void set_camera_link(CameraLink* link);
    // the button at the left of its title
    QToolButton* header() const { return header_; }
    std::vector<Layer>& layers() { return layers_; }
    Box content_box() const;
    double last_frame_ms() const { return frame_ms_; }
    QPointF screen_of(const Vec3& p) const { return camera_->camera().project(p, size()); }

 signals:
    void clicked(veld::Ray ray);
    void hovered(veld::Ray ray);
    void pointer_left();
    void marker_pressed(QString name, Qt::KeyboardModifiers keys);
    void marker_dragged(QString name, veld::Ray ray);
    void marker_released(QString name);
    void unusable(QString reason);
    void stroke_begun(veld::Ray ray, double pressure, Qt::KeyboardModifiers keys);
    void stroke_moved(veld::Ray ray, double pressure);
    void stroke_ended();
    void line_drawn(veld::Ray from, veld::Ray to);
    // in clip space, -1..1
    void outline_drawn(std::vector<veld::Vec2> outline, Qt::KeyboardModifiers keys);
    // an arrow key: steps to the right and upwards
    void arrow_pressed(int right, int up, Qt::KeyboardModifiers keys);

 protected:
    void initializeGL() override;
    void paintGL() override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void tabletEvent(QTabletEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

 private:
    // draws again only when something is another than it was
    template <class T>
    void put(T& kept, const T& now) {
        if (kept == now) return;
        kept = now;
        update();
    }
    void draw_loupe(QPainter& painter);
    void draw_overlay();
    void draw_lines(QPainter& painter);
    void draw_title(QPainter& painter);
    void draw_words(QPainter& painter);
    void draw_corners(QPainter& painter);
    void draw_legend(QPainter& painter);
    void draw_key(QPainter& painter);
    QRect free_corner(const QSize& box) const;
    void draw_gesture(QPainter& painter);
    void begin_gesture(QMouseEvent* event);
    void continue_gesture(QMouseEvent* event);
    void end_gesture(QMouseEvent* event);
    double brush_pixels() const;
    void update_tracking();
    const Marker* marker_at(const QPointF& at) const;
    void moved();

    QString title_, hint_, busy_, prompt_;
    QToolButton* header_;
    CameraLink* camera_;
    std::vector<Layer> layers_;
    std::vector<int> revisions_;  // of the layers' meshes when they were set
    std::vector<Marker> markers_;
    std::vector<GuideLine> lines_;
    std::unique_ptr<GpuMeshes> gpu_;
    Legend legend_;
    std::vector<KeyLine> key_;
    std::vector<QRect> taken_;  // corners that hold something
    Backdrop backdrop_;
    std::optional<Plane> cut_;
    double divider_ = -1, frame_ms_ = 0;
    QTimer settle_;  // after movement: one smooth frame
    bool moving_ = false;
    QPointF press_, last_;
    QString dragged_;
    bool orbiting_ = false, panning_ = false, selecting_ = false, travelled_ = false;
    Gesture gesture_ = Gesture::Turn;
    bool gesturing_ = false;
    QPolygonF outline_;
    QPointF pointer_{-1, -1};
    StudioLight light_ = StudioLight::Soft;
    bool hollows_ = true;
    double brush_mm_ = 10, pressure_ = 1;
    bool loupe_ = false, bare_ = false, hover_ = false;
    std::unique_ptr<QOpenGLFramebufferObject> loupe_picture_;
    QImage loupe_image_;
};

}  // namespace veld
