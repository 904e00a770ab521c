#pragma once
// A camera that looks at a target; linked viewports share one.
#include <QMatrix4x4>
#include <QObject>
#include <QPointF>
#include <QSize>

#include <optional>

#include "core/spatial/photo_camera.h"

namespace veld {

struct Ray {
    Vec3 origin = Vec3::Zero(), direction = Vec3::UnitZ();
};

// A photograph's own camera: the view shows what the photograph shows, pixel over pixel.
struct PhotoLook {
    PhotoCamera camera;
    Vec2 middle = Vec2::Zero();  // pixel of the picture in the middle of the view
    double zoom = 1;             // 1: all of the picture is seen
    bool operator==(const PhotoLook&) const = default;
};

struct Camera {
    Vec3 target = Vec3::Zero();
    double yaw = 0, pitch = 0;  // degrees; 0, 0 looks at the subject's front
    double distance = 1000;     // mm from the target
    double field_of_view = 24;  // degrees, vertical
    bool orthographic = false;
    double zoom = 1;  // a loupe: the picture around zoom_centre (-1..1, y up), this many times larger
    double zoom_x = 0, zoom_y = 0;
    std::optional<PhotoLook> photo;  // in place of all the above but the loupe

    Vec3 right() const;
    Vec3 up() const;
    Vec3 forward() const;  // from the eye to the target
    Vec3 eye() const { return photo ? photo->camera.eye() : Vec3(target - distance * forward()); }
    bool parallel() const { return photo ? photo->camera.parallel : orthographic; }
    // widths of the picture's pixel in heights of the view, and where a pixel is in the view, -1..1, y up
    double photo_scale(double aspect) const;
    Vec2 photo_place(const Vec2& pixel, double aspect) const;
    // visible height at the target, mm; the same for both kinds of projection
    double height_at_target() const;
    QMatrix4x4 view() const;
    QMatrix4x4 projection(double aspect) const;
    QPointF project(const Vec3& p, const QSize& size) const;
    Ray ray(const QPointF& at, const QSize& size) const;
    void frame(const Vec3& centre, double radius);
    // Turns so that a surface with this normal (unit) is seen face on, but no steeper than most_pitch degrees.
    void face(const Vec3& normal, double most_pitch);
};

enum class FixedView { Front, ThreeQuarter, Side, OtherSide, Back, Below };

class CameraLink : public QObject {
    Q_OBJECT
 public:
    const Camera& camera() const { return camera_; }
    void set(const Camera& camera) {
        camera_ = camera;
        emit changed();
    }
    void look_from(FixedView view);

 signals:
    void changed();

 private:
    Camera camera_;
};

}  // namespace veld
