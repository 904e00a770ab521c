#include "core/spatial/photo_camera.h"

#include <algorithm>
#include <cmath>

namespace veld {

double PhotoCamera::focal_35mm() const { return parallel ? 0 : focal * kFilmDiagonalMm / std::hypot(width, height); }

double focal_pixels(double focal_35mm, int width, int height) {
    return focal_35mm / kFilmDiagonalMm * std::hypot(width, height);
}

PixelRay ray_through(const PhotoCamera& camera, const Vec2& pixel) {
    const Vec2 d = (pixel - camera.centre) / camera.focal;
    if (camera.parallel)
        return {camera.turn.transpose() * (Vec3(d.x(), d.y(), -1000) - camera.move), camera.forward()};
    return {camera.eye(), (camera.turn.transpose() * Vec3(d.x(), d.y(), 1)).normalized()};
}

HeadTurn head_turn(const PhotoCamera& camera) {
    const Vec3 back = -camera.forward();  // from the head to the camera
    HeadTurn out;
    out.yaw = std::atan2(back.x(), back.z()) * 180 / M_PI;
    out.pitch = std::asin(std::clamp(back.y(), -1.0, 1.0)) * 180 / M_PI;
    // where the head's up points in the picture
    const Vec3 up = camera.turn * Vec3::UnitY();
    out.roll = std::atan2(up.x(), -up.y()) * 180 / M_PI;
    return out;
}

}  // namespace veld
