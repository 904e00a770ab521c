#pragma once
// What the tests of skins share: plain pictures, the base to paint on, a subject who is quickly baked.
#include <cmath>

#include "core/project/layered_skins.h"
#include "core/skin/compose.h"
#include "core/skin/paint.h"
#include "demo/standins/skin_truth.h"
#include "tests/support/dressed_subject.h"

namespace veld {

using TexelBytes = TexelBlocks::Texel;

inline Pixels plain_picture(int size, TexelBytes colour) {
    Pixels out;
    out.width = out.height = size;
    for (int i = 0; i < size * size; ++i) out.rgba.insert(out.rgba.end(), colour.begin(), colour.end());
    return out;
}

inline TexelBytes texel_of(const Pixels& p, int x, int y) {
    const std::size_t i =
        4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(p.width) + static_cast<std::size_t>(x));
    return {p.rgba[i], p.rgba[i + 1], p.rgba[i + 2], p.rgba[i + 3]};
}

inline std::shared_ptr<const Image> png_of(const Pixels& pixels) {
    return std::make_shared<Image>(Image{"picture.png", "image/png", encode_png(pixels)});
}

inline const PaintSurface& paint_surface() {
    static const PaintSurface surface(*bake_surface(*demo_kit(), demo_kit()->mesh.positions));
    return surface;
}

inline SeenTiles seen_everywhere(int size, TexelBytes colour) {
    SeenTiles out;
    for (const UvTile& tile : paint_surface().surface().tiles)
        out[tile.name] = std::make_shared<const Pixels>(plain_picture(size, colour));
    return out;
}

inline SkinSpot at_landmark(const char* name) {
    const Vec3 place = demo_kit()->landmarks.at(name).at(demo_kit()->mesh.positions);
    return paint_surface().closest(place, Vec3::UnitZ());
}

// Vesper in known colours.
inline ProjectState dressed_project(double brightness = 1) {
    return dressed_subject("Vesper", [brightness](const Vec3& p) {
        const Vec3 c = 255 * brightness * known_colour(p);
        const auto byte = [&](int k) { return static_cast<std::uint8_t>(std::lround(std::clamp(c[k], 0.0, 255.0))); };
        return Colour{byte(0), byte(1), byte(2), 255};
    });
}

inline std::vector<std::optional<Vec3>> logs_of(const BakeSurface& base, const std::function<Vec3(Index)>& colour) {
    std::vector<std::optional<Vec3>> out(base.positions.size());
    for (Index v = 0; v < out.size(); ++v) out[v] = Vec3((colour(v).array() + 0.01).log().matrix());
    return out;
}

}  // namespace veld
