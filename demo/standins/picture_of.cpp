#include "demo/standins/picture_of.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace veld {

Canvas::Canvas(int width, int height, const Colour& background) {
    const auto count = static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
    pixels.width = width, pixels.height = height;
    for (std::size_t i = 0; i < count; ++i)
        pixels.rgba.insert(pixels.rgba.end(), {background.r, background.g, background.b, 255});
    depth.assign(count, std::numeric_limits<float>::infinity());
}

void draw_triangle(Canvas& canvas, const std::array<CanvasCorner, 3>& c) {
    const double area = (c[1].x - c[0].x) * (c[2].y - c[0].y) - (c[2].x - c[0].x) * (c[1].y - c[0].y);
    if (area == 0 || !std::isfinite(area)) return;
    const auto range = [](double a, double b, double d, int most) {
        return std::pair{std::max(0, static_cast<int>(std::floor(std::min({a, b, d})))),
                         std::min(most - 1, static_cast<int>(std::ceil(std::max({a, b, d}))))};
    };
    const auto [x0, x1] = range(c[0].x, c[1].x, c[2].x, canvas.pixels.width);
    const auto [y0, y1] = range(c[0].y, c[1].y, c[2].y, canvas.pixels.height);
    for (int y = y0; y <= y1; ++y) {
        for (int x = x0; x <= x1; ++x) {
            const double px = x + 0.5, py = y + 0.5;
            const double u = ((c[1].x - px) * (c[2].y - py) - (c[2].x - px) * (c[1].y - py)) / area;
            const double v = ((c[2].x - px) * (c[0].y - py) - (c[0].x - px) * (c[2].y - py)) / area, w = 1 - u - v;
            if (u < -1e-6 || v < -1e-6 || w < -1e-6) continue;
            const std::size_t at = static_cast<std::size_t>(y) * static_cast<std::size_t>(canvas.pixels.width) +
                                   static_cast<std::size_t>(x);
            const auto z = static_cast<float>(u * c[0].z + v * c[1].z + w * c[2].z);
            if (z >= canvas.depth[at]) continue;
            canvas.depth[at] = z;
            const Vec3 colour = u * c[0].colour + v * c[1].colour + w * c[2].colour;
            for (int k = 0; k < 3; ++k)
                canvas.pixels.rgba[4 * at + static_cast<std::size_t>(k)] =
                    static_cast<std::uint8_t>(std::clamp(colour[k], 0.0, 255.0));
        }
    }
}

PhotoCamera camera_of(const Portrait& how) {
    PhotoCamera out;
    out.width = how.width, out.height = how.height;
    out.centre = 0.5 * Vec2(how.width, how.height);
    out.focal = focal_pixels(how.focal_35mm, how.width, how.height);
    const double a = how.yaw * M_PI / 180, b = how.pitch * M_PI / 180, c = how.roll * M_PI / 180;
    const Vec3 back(std::sin(a) * std::cos(b), std::sin(b), std::cos(a) * std::cos(b)),
        right(std::cos(a), 0, -std::sin(a));
    Mat3 turn;
    turn.row(0) = right, turn.row(1) = right.cross(back), turn.row(2) = -back;
    out.turn = Eigen::AngleAxisd(c, Vec3::UnitZ()).toRotationMatrix() * turn;
    out.move = -out.turn * (how.target + how.distance * back);
    return out;
}

Pixels take_portrait(const Points& positions, const std::vector<Triangle>& triangles,
                     const std::vector<Colour>& colours, const Portrait& how) {
    const int n = std::max(1, how.samples);
    Canvas canvas(n * how.width, n * how.height, {176, 180, 182, 255});
    const PhotoCamera camera = camera_of(how);
    const Vec3 light = camera.turn.transpose() * Vec3(how.light.x(), -how.light.y(), -how.light.z()).normalized();
    const Points normals = vertex_normals(positions, triangles);
    std::vector<CanvasCorner> corners(positions.size());
    for (std::size_t v = 0; v < positions.size(); ++v) {
        const Vec2 at = n * camera.project(positions[v]);
        const double shade = how.fill + 0.75 * std::max(0.0, normals[v].dot(light));
        corners[v] = {at.x(), at.y(), camera.to_camera(positions[v]).z(),
                      shade * Vec3(colours[v].r, colours[v].g, colours[v].b)};
    }
    for (const Triangle& t : triangles) draw_triangle(canvas, {corners[t[0]], corners[t[1]], corners[t[2]]});
    Pixels out;
    out.width = how.width, out.height = how.height;
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(how.width) * static_cast<std::size_t>(how.height), 255);
    std::mt19937 random(how.seed);
    for (int y = 0; y < how.height; ++y) {
        for (int x = 0; x < how.width; ++x) {
            for (std::size_t k = 0; k < 3; ++k) {
                double sum = 0;
                for (int i = 0; i < n * n; ++i)
                    sum += canvas.pixels.rgba[4 * (static_cast<std::size_t>(n * y + i / n) *
                                                       static_cast<std::size_t>(n * how.width) +
                                                   static_cast<std::size_t>(n * x + i % n)) +
                                              k];
                // the sum of uniform numbers is near enough to normal, and the same everywhere
                double noise = 0;
                for (int i = 0; i < 4 && how.noise > 0; ++i)
                    noise += static_cast<double>(random() & 0xffffu) / 65535.0 - 0.5;
                out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(how.width) +
                              static_cast<std::size_t>(x)) +
                         k] = static_cast<std::uint8_t>(std::clamp(sum / (n * n) + how.noise * std::sqrt(3.0) * noise,
                                                                   0.0, 255.0));
            }
        }
    }
    return out;
}

Pixels unwrap_on_cylinder(const Points& positions, const std::vector<Triangle>& triangles,
                          const std::vector<Colour>& colours, const Vec3& centre, int size, std::vector<Vec2>& uv) {
    Canvas canvas(size, size, {150, 120, 105, 255});
    const Box box = bounding_box(positions);
    uv.clear();
    for (const Vec3& p : positions)
        uv.emplace_back(0.5 + std::atan2(p.x() - centre.x(), p.z() - centre.z()) / (2 * M_PI),
                        (p.y() - box.low.y()) / std::max(box.size().y(), 1e-9));
    for (const Triangle& t : triangles) {
        std::array<CanvasCorner, 3> c;
        for (std::size_t k = 0; k < 3; ++k) {
            const Vec3& p = positions[t[k]];
            // what lies further out is on top
            c[k] = {uv[t[k]].x() * size, (1 - uv[t[k]].y()) * size,
                    -std::hypot(p.x() - centre.x(), p.z() - centre.z()),
                    Vec3(colours[t[k]].r, colours[t[k]].g, colours[t[k]].b)};
        }
        const auto [low, high] = std::minmax({c[0].x, c[1].x, c[2].x});
        if (high - low < size / 2.0) draw_triangle(canvas, c);
    }
    return canvas.pixels;
}

}  // namespace veld
