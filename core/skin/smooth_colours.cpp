#include "core/skin/smooth_colours.h"

#include <array>
#include <cmath>
#include <limits>

#include "core/io/map_image.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

template <class Value>
const std::vector<float>& linear_of() {
    static const std::vector<float> table = [] {
        std::vector<float> out(std::size_t{1} + std::numeric_limits<Value>::max());
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] =
                static_cast<float>(srgb_to_linear(static_cast<double>(i) / (static_cast<double>(out.size()) - 1)));
        return out;
    }();
    return table;
}

// Between four texels: their columns, rows, and how far it is to the second of each.
struct Between {
    std::array<std::size_t, 2> columns, rows;
    double across, down;
};

template <class Value>
Vec3 mixed(const std::vector<Value>& rgba, std::size_t width, const Between& at) {
    const std::vector<float>& linear = linear_of<Value>();
    Vec3 out = Vec3::Zero();
    for (std::size_t k = 0; k < 4; ++k) {
        const Value* c = &rgba[4 * (at.rows[k / 2] * width + at.columns[k % 2])];
        const double share = (k % 2 ? at.across : 1 - at.across) * (k / 2 ? at.down : 1 - at.down);
        out += share * Vec3(linear[c[0]], linear[c[1]], linear[c[2]]);
    }
    return out;
}

template <class Value>
void set_value(std::vector<Value>& rgba, std::size_t i, double linear) {
    rgba[i] = static_cast<Value>(std::lround(std::numeric_limits<Value>::max() * linear_to_srgb(linear)));
}

Pixels half_size(const Pixels& p) {
    Pixels out{std::max(1, p.width / 2), std::max(1, p.height / 2), {}};
    const std::size_t values = 4 * static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height);
    out.rgba.resize(values, 255);
    if (!p.rgba16.empty()) out.rgba16.resize(values, 0xffff);
    std::size_t to = 0;
    for (int y = 0; y < out.height; ++y) {
        for (int x = 0; x < out.width; ++x, to += 4) {
            // in between four texels each has a quarter
            const Vec3 c = linear_between(p, Vec2(2 * x + 1, 2 * y + 1), false);
            for (std::size_t k = 0; k < 3; ++k) {
                set_value(out.rgba, to + k, c[static_cast<Eigen::Index>(k)]);
                if (!out.rgba16.empty()) set_value(out.rgba16, to + k, c[static_cast<Eigen::Index>(k)]);
            }
        }
    }
    return out;
}

// How many texels of its texture a mm of the surface has, each image by itself.
std::vector<double> densities(const Mesh& mesh, const Triangulation& fans, const std::vector<Pixels>& textures,
                              double scale) {
    std::vector<std::vector<double>> of(textures.size());
    for (std::size_t t = 0; t < fans.triangles.size(); t += 1 + fans.triangles.size() / 40000) {
        const Triangle& c = fans.triangle_corner[t];
        const Index material = mesh.face_material[fans.triangle_face[t]];
        if (material == kNone || mesh.corner_uv[c[0]] == kNone || mesh.corner_uv[c[1]] == kNone ||
            mesh.corner_uv[c[2]] == kNone)
            continue;
        const Vec2 a = mesh.uvs[mesh.corner_uv[c[0]]], b = mesh.uvs[mesh.corner_uv[c[1]]] - a,
                   d = mesh.uvs[mesh.corner_uv[c[2]]] - a;
        const int image = image_of(mesh.materials[material], a + (b + d) / 3);
        if (image < 0) continue;
        const Triangle& v = fans.triangles[t];
        const double mm2 =
            scale * scale *
            (mesh.positions[v[1]] - mesh.positions[v[0]]).cross(mesh.positions[v[2]] - mesh.positions[v[0]]).norm();
        const Pixels& p = textures[static_cast<std::size_t>(image)];
        const double texels2 = std::abs(b.x() * d.y() - b.y() * d.x()) * p.width * p.height;
        if (mm2 > 0) of[static_cast<std::size_t>(image)].push_back(std::sqrt(texels2 / mm2));
    }
    std::vector<double> out;
    for (auto& d : of) out.push_back(median(std::move(d)));
    return out;
}

}  // namespace

Vec3 linear_between(const Pixels& p, const Vec2& at, bool wrap) {
    const double x = at.x() - 0.5, y = at.y() - 0.5, i = std::floor(x), j = std::floor(y), u = x - i, v = y - j;
    const auto inside = [&](double k, int n) {
        if (!wrap) return static_cast<std::size_t>(std::clamp(k, 0.0, n - 1.0));
        return static_cast<std::size_t>(k - n * std::floor(k / n));
    };
    const Between between{
        {inside(i, p.width), inside(i + 1, p.width)}, {inside(j, p.height), inside(j + 1, p.height)}, u, v};
    const auto width = static_cast<std::size_t>(p.width);
    return p.rgba16.empty() ? mixed(p.rgba, width, between) : mixed(p.rgba16, width, between);
}

SmoothColours::SmoothColours(const Mesh& mesh, const Triangulation& fans, double scale, double per_mm)
    : mesh_(mesh), fans_(fans), any_(!mesh.colours.empty()) {
    if (mesh.corner_uv.empty() || mesh.face_material.empty()) return;
    for (const Image& image : mesh.images) {
        auto pixels = decode_image(image, PixelBits::Sixteen);
        if (!pixels) notes_.push_back(pixels.error().message);
        textures_.push_back(pixels ? std::move(*pixels) : Pixels{});
        any_ |= textures_.back().width > 0;
    }
    const std::vector<double> dense = densities(mesh, fans, textures_, scale);
    for (std::size_t i = 0; i < textures_.size(); ++i) {
        double d = dense[i];
        for (; per_mm > 0 && d > 1.5 * per_mm && std::min(textures_[i].width, textures_[i].height) > 1; d /= 2)
            textures_[i] = half_size(textures_[i]);
    }
}

std::optional<Vec3> SmoothColours::at(Index fan, const Vec3& shares) const {
    if (!textures_.empty()) {
        const Index material = mesh_.face_material[fans_.triangle_face[fan]];
        Vec2 uv = Vec2::Zero();
        bool known = material != kNone;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index u = mesh_.corner_uv[fans_.triangle_corner[fan][k]];
            known &= u != kNone;
            if (u != kNone) uv += shares[static_cast<Eigen::Index>(k)] * mesh_.uvs[u];
        }
        const int image = known ? image_of(mesh_.materials[material], uv) : -1;
        if (image >= 0 && textures_[static_cast<std::size_t>(image)].width > 0) {
            const Pixels& p = textures_[static_cast<std::size_t>(image)];
            return linear_between(p, Vec2(uv.x() * p.width, (1 - uv.y()) * p.height), true);
        }
    }
    if (mesh_.colours.empty()) return {};
    const std::vector<float>& linear = linear_of<std::uint8_t>();
    Vec3 out = Vec3::Zero();
    for (std::size_t k = 0; k < 3; ++k) {
        const Colour& c = mesh_.colours[fans_.triangles[fan][k]];
        out += shares[static_cast<Eigen::Index>(k)] * Vec3(linear[c.r], linear[c.g], linear[c.b]);
    }
    return out;
}

}  // namespace veld
