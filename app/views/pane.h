#pragma once
// What views show and what people do in them, between whoever draws and whoever knows what it means. The views ask
// their client, a station as a rule, and tell it of clicks, strokes and drags.
#include <QImage>
#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "app/views/camera.h"
#include "app/views/viewport.h"
#include "core/mesh/mesh.h"

namespace veld {

// From left to right.
enum class ViewId { Base, Source, Photo, Result };

struct Marks {
    std::vector<Marker> markers;
    std::vector<GuideLine> lines;
};

// One view of meshes.
struct Pane {
    QString title, prompt;  // prompt: what a click does now
    QString hint;           // what to do when there is nothing to show
    QString busy;
    std::vector<Layer> layers;
    Marks marks;
    Legend legend;
    std::vector<KeyLine> key;  // of lines
    Backdrop backdrop;
    std::optional<Plane> cut;  // what lies on the camera's side of it is not drawn
    double divider = -1;       // a line from top to bottom, share of the width; below 0: none
    Gesture gesture = Gesture::Turn;
    double brush_mm = 10;
    bool loupe = false;
    bool quickly = false;  // it changes again at once: drawn without smoothing until it rests
};

// The view of a photograph. Marks: pixels of the upright picture.
struct PhotoPane {
    std::shared_ptr<const std::vector<Image>> photos;  // null: what is shown stays
    std::size_t photo = 0;
    bool loupe = false;
    // In place of a photograph: a picture that may change while it is looked at. Of one name and size: it stays where
    // it is on the screen.
    QImage picture = {};
    QString name = {};
    QString message = {};  // in place of a picture
    bool brush = false;    // the left button makes strokes; the others move the picture
};

// What the camera looks at.
struct Framing {
    Vec3 centre = Vec3::Zero();
    double radius = 0;  // mm; 0: nothing to look at
};

class ViewClient {
 public:
    virtual ~ViewClient() = default;

    // --- what is shown. Asked whenever something may have changed, in this order
    virtual void before_showing() {}
    virtual std::vector<ViewId> shown() = 0;                   // when nobody has arranged the views otherwise
    virtual std::vector<ViewId> offered() { return shown(); }  // what a view can be set to show
    virtual Pane pane(ViewId) { return {}; }                   // not of Photo
    virtual PhotoPane photo_pane() { return {}; }
    // What depends on the camera as well: asked again whenever it moves. None: the pane's own marks stay.
    virtual std::optional<Marks> marks(ViewId, const Camera&) { return {}; }
    // where the camera goes when nobody says otherwise
    virtual Framing home() { return {}; }
    // When this becomes another one, the camera goes home. Empty: it never does.
    virtual std::string framed() { return {}; }

    // --- what was done there
    virtual void clicked(ViewId, const Ray&, Qt::KeyboardModifiers) {}
    virtual void stroke_begun(ViewId, const Ray&, double /*pressure*/, Qt::KeyboardModifiers) {}
    virtual void stroke_moved(ViewId, const Ray&, double /*pressure*/) {}
    virtual void stroke_ended(ViewId) {}
    virtual void line_drawn(ViewId, const Ray& /*from*/, const Ray& /*to*/) {}
    // outline: clip space, -1..1; to_clip: viewport frame -> clip space, row-major
    virtual void outline_drawn(ViewId, const std::vector<Vec2>&, const std::array<double, 16>& /*to_clip*/,
                               Qt::KeyboardModifiers) {}
    virtual void marker_pressed(ViewId, const std::string&, Qt::KeyboardModifiers) {}
    virtual void marker_dragged(ViewId, const std::string&, const Ray&) {}
    virtual void marker_released(ViewId) {}
    // an arrow key: steps to the right and upwards. False: it means nothing here, and turns the camera.
    virtual bool arrow_pressed(int, int, Qt::KeyboardModifiers) { return false; }
    // pixel of the upright picture; zoom: pixels of the screen per pixel of the picture
    virtual void photo_clicked(const QPointF&, double /*zoom*/) {}
    virtual void photo_marker_dragged(const std::string&, const QPointF&) {}
    virtual void photo_stroke_begun(const QPointF&, double /*pressure*/, Qt::KeyboardModifiers) {}
    virtual void photo_stroke_moved(const QPointF&, double /*pressure*/) {}
    virtual void photo_stroke_ended() {}
};

}  // namespace veld
