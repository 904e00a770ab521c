#pragma once
// The camera of a photograph: a pinhole without distortion, or a parallel (orthographic) one.
//
// Camera axes: x right, y down, z forward, as in pictures. A place p of the kit frame (mm) is seen at
//   pinhole:   centre + focal * (c.x, c.y) / c.z        c = turn * p + move
//   parallel:  centre + focal * (c.x, c.y)              focal in pixels per mm
// Pixels count from the outer corner of the first one. A lens is named by what it would be on 35 mm film
// (the diagonal's rule of CIPA DC-001 as most cameras write it): focal = mm / 43.2666 * diagonal in pixels.
#include "core/base/types.h"

namespace veld {

constexpr double kFilmDiagonalMm = 43.2666;
constexpr double kUsualLens = 60;  // mm on 35 mm film: where nothing says what lens it was

struct PhotoCamera {
    int width = 0, height = 0;   // of the upright picture
    double focal = 1;            // pixels; parallel: pixels per mm
    Vec2 centre = Vec2::Zero();  // where the optical axis meets the picture
    Mat3 turn = Mat3::Identity();
    Vec3 move = Vec3::Zero();
    bool parallel = false;

    Vec3 to_camera(const Vec3& p) const { return turn * p + move; }
    Vec2 project(const Vec3& p) const {
        const Vec3 c = to_camera(p);
        return centre + focal / (parallel ? 1.0 : c.z()) * Vec2(c.x(), c.y());
    }
    // a parallel camera stands a metre behind its own plane z = 0
    Vec3 eye() const { return turn.transpose() * ((parallel ? Vec3(0, 0, -1000) : Vec3(0, 0, 0)) - move); }
    Vec3 forward() const { return turn.row(2).transpose(); }
    // away from the camera, unit
    Vec3 towards(const Vec3& p) const { return parallel ? forward() : Vec3((p - eye()).normalized()); }
    double pixels_per_mm(const Vec3& p) const { return parallel ? focal : focal / to_camera(p).z(); }
    double focal_35mm() const;  // 0 of a parallel one
    bool operator==(const PhotoCamera& o) const = default;
};

struct PixelRay {
    Vec3 origin = Vec3::Zero(), direction = Vec3::UnitZ();  // unit
};
PixelRay ray_through(const PhotoCamera& camera, const Vec2& pixel);

double focal_pixels(double focal_35mm, int width, int height);

// How the head is turned to the camera, degrees, in the kit's frame: yaw positive when its own left side is
// seen, pitch when it is seen from above, roll when the picture is turned clockwise.
struct HeadTurn {
    double yaw = 0, pitch = 0, roll = 0;
};
HeadTurn head_turn(const PhotoCamera& camera);

}  // namespace veld
