#include "app/views/camera.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {
constexpr double kDegree = M_PI / 180;
}

Vec3 Camera::forward() const {
    if (photo) return photo->camera.forward();
    return {-std::sin(yaw * kDegree) * std::cos(pitch * kDegree), -std::sin(pitch * kDegree),
            -std::cos(yaw * kDegree) * std::cos(pitch * kDegree)};
}
Vec3 Camera::right() const {
    if (photo) return photo->camera.turn.row(0).transpose();
    return {std::cos(yaw * kDegree), 0, -std::sin(yaw * kDegree)};
}
Vec3 Camera::up() const { return right().cross(forward()); }
double Camera::height_at_target() const {
    if (photo) return 1 / (photo_scale(1) * photo->camera.pixels_per_mm(target));
    return 2 * distance * std::tan(0.5 * field_of_view * kDegree);
}

double Camera::photo_scale(double aspect) const {
    return photo->zoom * std::min(aspect / std::max(photo->camera.width, 1), 1.0 / std::max(photo->camera.height, 1));
}

Vec2 Camera::photo_place(const Vec2& pixel, double aspect) const {
    const Vec2 d = photo_scale(aspect) * (pixel - photo->middle);
    return {2 * d.x() / aspect, -2 * d.y()};
}

QMatrix4x4 Camera::view() const {
    QMatrix4x4 m;
    if (photo) {  // pictures count y downwards and look along +z
        for (int i = 0; i < 3; ++i) {
            const double sign = i == 0 ? 1 : -1;
            for (int k = 0; k < 3; ++k) m(i, k) = static_cast<float>(sign * photo->camera.turn(i, k));
            m(i, 3) = static_cast<float>(sign * photo->camera.move[i]);
        }
        return m;
    }
    const Vec3 e = eye(), t = target, u = up();
    m.lookAt(QVector3D(static_cast<float>(e.x()), static_cast<float>(e.y()), static_cast<float>(e.z())),
             QVector3D(static_cast<float>(t.x()), static_cast<float>(t.y()), static_cast<float>(t.z())),
             QVector3D(static_cast<float>(u.x()), static_cast<float>(u.y()), static_cast<float>(u.z())));
    return m;
}

QMatrix4x4 Camera::projection(double aspect) const {
    QMatrix4x4 m;
    const float near_plane = static_cast<float>(std::max(distance * 0.02, 2.0)),
                far_plane = static_cast<float>(distance + 4000);
    if (photo) {
        const PhotoCamera& c = photo->camera;
        const double s = 2 * photo_scale(aspect);
        const Vec2 off = c.centre - photo->middle;
        m.fill(0);
        m(0, 0) = static_cast<float>(s * c.focal / aspect), m(1, 1) = static_cast<float>(s * c.focal);
        const float low = c.parallel ? -4000.0f : 20.0f, high = 8000.0f;
        if (c.parallel) {
            m(0, 3) = static_cast<float>(s * off.x() / aspect), m(1, 3) = static_cast<float>(-s * off.y());
            m(2, 2) = -2 / (high - low), m(2, 3) = -(high + low) / (high - low), m(3, 3) = 1;
        } else {
            m(0, 2) = static_cast<float>(-s * off.x() / aspect), m(1, 2) = static_cast<float>(s * off.y());
            m(2, 2) = -(high + low) / (high - low), m(2, 3) = -2 * high * low / (high - low), m(3, 2) = -1;
        }
    } else if (orthographic) {
        const float h = static_cast<float>(0.5 * height_at_target()), w = static_cast<float>(h * aspect);
        m.ortho(-w, w, -h, h, -far_plane, far_plane);
    } else {
        m.perspective(static_cast<float>(field_of_view), static_cast<float>(aspect), near_plane, far_plane);
    }
    if (zoom != 1) {
        QMatrix4x4 closer;
        closer.scale(static_cast<float>(zoom), static_cast<float>(zoom), 1);
        closer.translate(static_cast<float>(-zoom_x), static_cast<float>(-zoom_y), 0);
        return closer * m;
    }
    return m;
}

QPointF Camera::project(const Vec3& p, const QSize& size) const {
    const double aspect = static_cast<double>(size.width()) / std::max(size.height(), 1);
    if (photo) {
        const Vec2 at = photo_place(photo->camera.project(p), aspect);
        return {0.5 * (1 + at.x()) * size.width(), 0.5 * (1 - at.y()) * size.height()};
    }
    const Vec3 d = p - eye();
    const double depth = orthographic ? distance : std::max(d.dot(forward()), 1e-3);
    const double half = depth * std::tan(0.5 * field_of_view * kDegree);
    const double x = d.dot(right()) / (half * aspect), y = d.dot(up()) / half;
    return {0.5 * (1 + x) * size.width(), 0.5 * (1 - y) * size.height()};
}

Ray Camera::ray(const QPointF& at, const QSize& size) const {
    const double aspect = static_cast<double>(size.width()) / std::max(size.height(), 1);
    const double x = 2 * at.x() / std::max(size.width(), 1) - 1, y = 1 - 2 * at.y() / std::max(size.height(), 1);
    if (photo) {
        const PixelRay r =
            ray_through(photo->camera, photo->middle + Vec2(0.5 * x * aspect, -0.5 * y) / photo_scale(aspect));
        return {r.origin, r.direction};
    }
    const double half = std::tan(0.5 * field_of_view * kDegree);
    if (orthographic) {
        const double h = 0.5 * height_at_target();
        return {eye() - 2000 * forward() + x * h * aspect * right() + y * h * up(), forward()};
    }
    return {eye(), (forward() + x * half * aspect * right() + y * half * up()).normalized()};
}

void Camera::face(const Vec3& normal, double most_pitch) {
    yaw = std::atan2(normal.x(), normal.z()) * 180 / M_PI;
    pitch = std::clamp(std::asin(std::clamp(normal.y(), -1.0, 1.0)) * 180 / M_PI, -most_pitch, most_pitch);
}

void Camera::frame(const Vec3& centre, double radius) {
    photo.reset();
    target = centre;
    distance = std::max(radius, 1.0) / std::sin(0.5 * field_of_view * kDegree);
}

void CameraLink::look_from(FixedView view) {
    static constexpr double angles[][2] = {{0, 0}, {40, 0}, {90, 0}, {-90, 0}, {180, 0}, {0, -55}};
    camera_.photo.reset();
    camera_.yaw = angles[static_cast<int>(view)][0];
    camera_.pitch = angles[static_cast<int>(view)][1];
    emit changed();
}

}  // namespace veld
