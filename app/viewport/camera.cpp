#include "app/viewport/camera.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {
constexpr double kDegree = M_PI / 180;
}

Vec3 Camera::forward() const {
    return {-std::sin(yaw * kDegree) * std::cos(pitch * kDegree), -std::sin(pitch * kDegree), -std::cos(yaw * kDegree) * std::cos(pitch * kDegree)};
}
Vec3 Camera::right() const { return {std::cos(yaw * kDegree), 0, -std::sin(yaw * kDegree)}; }
Vec3 Camera::up() const { return right().cross(forward()); }
double Camera::height_at_target() const { return 2 * distance * std::tan(0.5 * field_of_view * kDegree); }

QMatrix4x4 Camera::view() const {
    QMatrix4x4 m;
    const Vec3 e = eye(), t = target, u = up();
    m.lookAt(QVector3D(static_cast<float>(e.x()), static_cast<float>(e.y()), static_cast<float>(e.z())),
             QVector3D(static_cast<float>(t.x()), static_cast<float>(t.y()), static_cast<float>(t.z())),
             QVector3D(static_cast<float>(u.x()), static_cast<float>(u.y()), static_cast<float>(u.z())));
    return m;
}

QMatrix4x4 Camera::projection(double aspect) const {
    QMatrix4x4 m;
    const float near_plane = static_cast<float>(std::max(distance * 0.02, 2.0)), far_plane = static_cast<float>(distance + 4000);
    if (orthographic) {
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
    const Vec3 d = p - eye();
    const double depth = orthographic ? distance : std::max(d.dot(forward()), 1e-3);
    const double half = depth * std::tan(0.5 * field_of_view * kDegree);
    const double x = d.dot(right()) / (half * aspect), y = d.dot(up()) / half;
    return {0.5 * (1 + x) * size.width(), 0.5 * (1 - y) * size.height()};
}

Ray Camera::ray(const QPointF& at, const QSize& size) const {
    const double aspect = static_cast<double>(size.width()) / std::max(size.height(), 1);
    const double x = 2 * at.x() / std::max(size.width(), 1) - 1, y = 1 - 2 * at.y() / std::max(size.height(), 1);
    const double half = std::tan(0.5 * field_of_view * kDegree);
    if (orthographic) {
        const double h = 0.5 * height_at_target();
        return {eye() - 2000 * forward() + x * h * aspect * right() + y * h * up(), forward()};
    }
    return {eye(), (forward() + x * half * aspect * right() + y * half * up()).normalized()};
}

void Camera::frame(const Vec3& centre, double radius) {
    target = centre;
    distance = std::max(radius, 1.0) / std::sin(0.5 * field_of_view * kDegree);
}

void CameraLink::look_from(FixedView view) {
    static constexpr double angles[][2] = {{0, 0}, {40, 0}, {90, 0}, {-90, 0}, {180, 0}, {0, -55}};
    camera_.yaw = angles[static_cast<int>(view)][0];
    camera_.pitch = angles[static_cast<int>(view)][1];
    emit changed();
}

}  // namespace veld
