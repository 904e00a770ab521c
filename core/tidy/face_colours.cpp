#include "core/tidy/face_colours.h"

#include <algorithm>
#include <cmath>

#include "core/io/image.h"

namespace veld {

std::vector<std::array<float, 3>> face_colours(const Mesh& mesh) {
    std::vector<std::array<float, 3>> out(mesh.face_count(), {0.8f, 0.8f, 0.8f});
    std::vector<Pixels> pixels(mesh.images.size());
    for (std::size_t i = 0; i < mesh.images.size(); ++i) {
        if (auto decoded = decode_image(mesh.images[i])) pixels[i] = std::move(*decoded);
    }
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index first = mesh.face_start[f], last = mesh.face_start[f + 1];
        const Material* material = mesh.face_material.empty() || mesh.face_material[f] == kNone ? nullptr : &mesh.materials[mesh.face_material[f]];
        const Pixels* image = nullptr;
        Vec2 uv = Vec2::Zero();
        if (material && !mesh.corner_uv.empty()) {
            bool complete = true;
            for (Index c = first; c < last; ++c) complete &= mesh.corner_uv[c] != kNone;
            if (complete) {
                for (Index c = first; c < last; ++c) uv += mesh.uvs[mesh.corner_uv[c]] / static_cast<double>(last - first);
                const int at = image_of(*material, uv);
                if (at >= 0 && pixels[static_cast<std::size_t>(at)].width > 0) image = &pixels[static_cast<std::size_t>(at)];
            }
        }
        if (image) {
            const double u = uv.x() - std::floor(uv.x()), v = uv.y() - std::floor(uv.y());
            const int x = std::min(static_cast<int>(u * image->width), image->width - 1), y = std::min(static_cast<int>((1 - v) * image->height), image->height - 1);
            const std::uint8_t* p = &image->rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(image->width) + static_cast<std::size_t>(x))];
            out[f] = {p[0] / 255.f, p[1] / 255.f, p[2] / 255.f};
        } else if (!mesh.colours.empty()) {
            std::array<float, 3> sum{0, 0, 0};
            for (Index c = first; c < last; ++c) {
                const Colour& colour = mesh.colours[mesh.corner_vertex[c]];
                sum[0] += colour.r, sum[1] += colour.g, sum[2] += colour.b;
            }
            for (float& s : sum) s /= 255.f * static_cast<float>(last - first);
            out[f] = sum;
        } else if (material) {
            for (std::size_t k = 0; k < 3; ++k) out[f][k] = static_cast<float>(std::pow(std::clamp(material->colour[k], 0.0, 1.0), 1 / 2.2));
        }
    }
    return out;
}

Vec3 lab_of(const std::array<double, 3>& srgb) {
    const auto linear = [](double s) { return s <= 0.04045 ? s / 12.92 : std::pow((s + 0.055) / 1.055, 2.4); };
    const double r = linear(srgb[0]), g = linear(srgb[1]), b = linear(srgb[2]);
    const double x = (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.95047, y = 0.2126 * r + 0.7152 * g + 0.0722 * b, z = (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.08883;
    const auto f = [](double t) { return t > 0.008856 ? std::cbrt(t) : 7.787 * t + 16.0 / 116; };
    return {116 * f(y) - 16, 500 * (f(x) - f(y)), 200 * (f(y) - f(z))};
}

FaceMask faces_of_colour(const Mesh& mesh, const std::array<double, 3>& srgb, double tolerance) {
    const Vec3 wanted = lab_of(srgb);
    FaceMask out(mesh.face_count(), 0);
    const auto colours = face_colours(mesh);
    for (std::size_t f = 0; f < out.size(); ++f) out[f] = (lab_of({colours[f][0], colours[f][1], colours[f][2]}) - wanted).norm() <= 100 * tolerance;
    return out;
}

}  // namespace veld
