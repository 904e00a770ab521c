#include "core/spatial/small_picture.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace veld {

SmallPicture small_picture(const Points& positions, const std::vector<Triangle>& triangles, const Box& box, int side) {
    SmallPicture out;
    out.side = side;
    const auto pixels = static_cast<std::size_t>(side) * static_cast<std::size_t>(side);
    out.grey.assign(pixels, 0), out.seen.assign(pixels, 0);
    std::vector<double> depth(pixels, -std::numeric_limits<double>::infinity());
    const double scale = side / std::max({box.size().x(), box.size().y(), 1e-9});
    const Vec3 middle = box.centre(), lamp = Vec3(-0.4, 0.5, 0.75).normalized();
    // pixels, y downwards; z towards the eye
    const auto flat = [&](const Vec3& p) {
        return Vec3(0.5 * side + scale * (p.x() - middle.x()), 0.5 * side - scale * (p.y() - middle.y()), p.z());
    };
    const auto pixel = [&](double v) { return std::clamp(static_cast<int>(std::floor(v)), 0, side - 1); };
    for (const Triangle& t : triangles) {
        const Vec3 &a = positions[t[0]], &b = positions[t[1]], &c = positions[t[2]];
        const Vec3 p = flat(a), q = flat(b), r = flat(c), n = (b - a).cross(c - a);
        const double area = (q.x() - p.x()) * (r.y() - p.y()) - (r.x() - p.x()) * (q.y() - p.y());
        if (!(n.z() > 0) || area == 0) continue;
        const double light = 0.25 + 0.75 * std::max(0.0, n.normalized().dot(lamp));
        const double left = std::min({p.x(), q.x(), r.x()}), right = std::max({p.x(), q.x(), r.x()}),
                     top = std::min({p.y(), q.y(), r.y()}), bottom = std::max({p.y(), q.y(), r.y()});
        if (right < 0 || bottom < 0 || left >= side || top >= side) continue;
        for (int y = pixel(top); y <= pixel(bottom); ++y) {
            for (int x = pixel(left); x <= pixel(right); ++x) {
                const double px = x + 0.5, py = y + 0.5;
                const double u = ((q.x() - px) * (r.y() - py) - (r.x() - px) * (q.y() - py)) / area,
                             v = ((r.x() - px) * (p.y() - py) - (p.x() - px) * (r.y() - py)) / area, w = 1 - u - v;
                if (u < 0 || v < 0 || w < 0) continue;
                const double z = u * p.z() + v * q.z() + w * r.z();
                const auto at = static_cast<std::size_t>(y * side + x);
                if (z <= depth[at]) continue;
                depth[at] = z;
                out.seen[at] = 255;
                out.grey[at] = static_cast<std::uint8_t>(std::lround(255 * light));
            }
        }
    }
    return out;
}

}  // namespace veld
