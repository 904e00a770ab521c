#include "core/io/surface_colour.h"

#include <cmath>

namespace veld {
namespace {

Pixels halved(const Pixels& p) {
    Pixels out{p.width / 2, p.height / 2, {}};
    out.rgba.resize(4 * static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
    for (int y = 0; y < out.height; ++y) {
        for (int x = 0; x < out.width; ++x) {
            for (int k = 0; k < 4; ++k) {
                int sum = 2;
                for (int d = 0; d < 4; ++d) {
                    const auto at = static_cast<std::size_t>(2 * y + d / 2) * static_cast<std::size_t>(p.width) +
                                    static_cast<std::size_t>(2 * x + d % 2);
                    sum += p.rgba[4 * at + static_cast<std::size_t>(k)];
                }
                out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width) +
                              static_cast<std::size_t>(x)) +
                         static_cast<std::size_t>(k)] = static_cast<std::uint8_t>(sum / 4);
            }
        }
    }
    return out;
}

}  // namespace

SurfaceColour::SurfaceColour(const Mesh& mesh, int most_pixels) {
    any_ = !mesh.colours.empty();
    if (mesh.corner_uv.empty() || mesh.face_material.empty()) return;
    for (const Image& image : mesh.images) {
        auto pixels = decode_image(image);
        textures_.push_back(pixels ? std::move(*pixels) : Pixels{});
        Pixels& t = textures_.back();
        while (std::max(t.width, t.height) > most_pixels && std::min(t.width, t.height) > 1) t = halved(t);
        any_ |= t.width > 0;
    }
}

std::optional<Vec3> SurfaceColour::at(const Mesh& mesh, const Triangulation& triangulation, Index fan,
                                      const std::array<double, 3>& barycentric) const {
    if (!textures_.empty()) {
        const Index material = mesh.face_material[triangulation.triangle_face[fan]];
        Vec2 uv = Vec2::Zero();
        bool known = material != kNone;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index u = mesh.corner_uv[triangulation.triangle_corner[fan][k]];
            if (u == kNone)
                known = false;
            else
                uv += barycentric[k] * mesh.uvs[u];
        }
        const int image = known ? image_of(mesh.materials[material], uv) : -1;
        if (image >= 0 && textures_[static_cast<std::size_t>(image)].width > 0) {
            const Pixels& px = textures_[static_cast<std::size_t>(image)];
            const auto wrap = [](double t, int n) {
                return std::min(static_cast<int>((t - std::floor(t)) * n), n - 1);
            };
            const int x = wrap(uv.x(), px.width), y = px.height - 1 - wrap(uv.y(), px.height);
            const std::uint8_t* c = &px.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(px.width) +
                                                  static_cast<std::size_t>(x))];
            return Vec3(c[0], c[1], c[2]) / 255;
        }
    }
    if (mesh.colours.empty()) return {};
    Vec3 out = Vec3::Zero();
    for (std::size_t k = 0; k < 3; ++k) {
        const Colour& c = mesh.colours[triangulation.triangles[fan][k]];
        out += barycentric[k] / 255 * Vec3(c.r, c.g, c.b);
    }
    return out;
}

}  // namespace veld
