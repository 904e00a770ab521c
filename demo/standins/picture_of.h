#pragma once
// Plain pictures of coloured triangles: portraits for the capture stand-in, and unwrapped textures.
#include "core/io/image.h"
#include "core/spatial/photo_camera.h"

namespace veld {

struct Canvas {
    Pixels pixels;
    std::vector<float> depth;
    Canvas(int width, int height, const Colour& background);
};

// x, y in pixels from the upper left; z: nearer is smaller. Colours 0..255, blended across.
struct CanvasCorner {
    double x = 0, y = 0, z = 0;
    Vec3 colour = Vec3::Zero();
};
void draw_triangle(Canvas& canvas, const std::array<CanvasCorner, 3>& corners);

// A portrait: perspective, lit from the upper left of the camera. yaw in degrees about the upright
// axis, 0 from the front, 90 from the subject's left; pitch upwards; roll turns the picture. focal_35mm: as EXIF gives
// it.
struct Portrait {
    int width = 600, height = 750;
    double yaw = 0, pitch = 0, roll = 0, focal_35mm = 85;
    Vec3 target = Vec3::Zero();       // mm, in the middle of the picture
    double distance = 1500;           // mm
    Vec3 light = {-0.45, 0.5, 0.75};  // towards it: right, up, to the camera
    double fill = 0.35;               // light from everywhere
    double noise = 0;                 // standard deviation, of 255
    unsigned seed = 1;
    int samples = 1;  // squared, for every pixel
};
PhotoCamera camera_of(const Portrait& how);
Pixels take_portrait(const Points& positions, const std::vector<Triangle>& triangles,
                     const std::vector<Colour>& colours, const Portrait& how);

// Texture of a surface unwrapped on a cylinder about the upright axis through `centre`; uv gets one
// entry per vertex. Triangles across the seam behind are left to their neighbours.
Pixels unwrap_on_cylinder(const Points& positions, const std::vector<Triangle>& triangles,
                          const std::vector<Colour>& colours, const Vec3& centre, int size, std::vector<Vec2>& uv);

}  // namespace veld
