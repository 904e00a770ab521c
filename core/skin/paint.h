#pragma once
// Brushes on a skin: where they reach on the surface, and what they do to a layer's texels.
//
// A dab reaches what hangs together with the place under it and lies within its radius, over UV seams and onto other
// tiles. Within a stroke a texel gets the strongest of its dabs, so that passing over a place twice changes nothing.
#include <map>

#include "core/skin/bake_surface.h"
#include "core/skin/layers.h"
#include "core/spatial/surface_query.h"

namespace veld {

enum class SkinBrush {
    Paint,
    Smooth,   // towards the mean of what is around
    Sharpen,  // away from it
    Clone,    // what another place shows
    Heal,     // the same, in the tone that is here
    Mirror,   // what the other side shows
    Erase,    // the layer lets through what is below
    Restore   // and shows again
};
inline constexpr SkinBrush kSkinBrushes[] = {SkinBrush::Paint, SkinBrush::Smooth, SkinBrush::Sharpen,
                                             SkinBrush::Clone, SkinBrush::Heal,   SkinBrush::Mirror,
                                             SkinBrush::Erase, SkinBrush::Restore};
const char* skin_brush_name(SkinBrush brush);  // "paint"
// Those change the selected layer's mask, the others a painted layer.
inline bool on_mask(SkinBrush b) { return b == SkinBrush::Erase || b == SkinBrush::Restore; }

struct SkinBrushSettings {
    SkinBrush brush = SkinBrush::Paint;
    double radius_mm = 8;
    double hardness = 0.3;  // 0..1: share of the radius that gets all of it
    double strength = 1;    // 0..1
    Colour colour{201, 150, 128, 255};
};

// The base in the shape that is painted on, made once for it.
class PaintSurface {
 public:
    explicit PaintSurface(BakeSurface surface);
    PaintSurface(const PaintSurface&) = delete;
    PaintSurface& operator=(const PaintSurface&) = delete;

    const BakeSurface& surface() const { return surface_; }
    const UvTile& tile_of(Index triangle) const { return surface_.tiles[tile_[triangle]]; }
    // Where a ray meets it; nothing: nowhere.
    SkinSpot hit(const Vec3& from, const Vec3& direction) const;
    // What a place of a tile shows. at: 0..1 from the upper left
    SkinSpot at(const UvTile& tile, const Vec2& at) const;
    SkinSpot closest(const Vec3& place, const Vec3& normal) const;
    // The same from one that is known to be near: over the surface towards the place, which is much quicker. What is
    // met there farther than `within` mm from it is not believed, and looked for everywhere.
    SkinSpot closest_from(const Vec3& place, const Vec3& normal, Index triangle, double within) const;
    SkinSpot other_side(const SkinSpot& place) const;  // by the kit's mirror; nothing where there is no partner
    // 0..1 from the upper left of its tile
    Vec2 in_tile(const SkinSpot& place) const;
    // Triangles that hang together with the place and come within the radius of it.
    std::vector<Index> around(const SkinSpot& place, double radius_mm) const;

 private:
    BakeSurface surface_;
    SurfaceQuery query_;
    std::vector<std::uint16_t> tile_;  // per triangle, into the surface's tiles
    std::vector<MirroredTriangle> other_;
};

using SeenTiles = std::map<std::string, std::shared_ptr<const Pixels>>;  // by UvTile::name

class SkinStroke {
 public:
    // seen: every tile as it is composed when the stroke begins. layer: what is changed, its paint or its mask by the
    // brush. from, start: where Clone and Heal take from, and where the stroke begins. The surface must outlive
    // it.
    SkinStroke(const PaintSurface& surface, const SkinBrushSettings& settings, SeenTiles seen, const SkinLayer& layer,
               int size, SkinSpot from, SkinSpot start);

    // Which texels of which tiles changed.
    std::map<std::string, TexelRect> dab(const SkinSpot& place, double pressure);
    // Paint or mask of those tiles that it touched, as they are now.
    const std::map<std::string, TexelBlocks>& changed() const { return now_; }

 private:
    struct Touch {
        int x, y;
        double share;  // of the brush
        SkinSpot place;
    };
    std::vector<Touch> touched(Index triangle, const Vec3& centre, double strength) const;
    TexelBlocks::Texel result(const std::string& tile, const Touch& touch, double coverage) const;
    Vec3 wanted(const std::string& tile, const Touch& touch) const;  // sRGB 0..1
    void find_elsewhere(const std::string& tile, const std::vector<Touch>& touches);
    Vec3 mean_around(const std::string& tile, int x, int y) const;
    struct Near {
        Index triangle = kNone;  // near what is looked for; kNone: nobody knows
        double off = 0;          // mm, of the place before from the surface
    };
    SkinSpot source_of(const SkinSpot& place, Near& near) const;
    Vec3 seen_at(const SkinSpot& place) const;
    void find_tone(const SkinSpot& place);

    const PaintSurface& surface_;
    SkinBrushSettings settings_;
    SeenTiles seen_;
    std::map<std::string, TexelBlocks> before_, now_, coverage_;
    // What Clone, Heal and Mirror take for each texel: dabs overlap, and a texel's place elsewhere stays the same.
    std::map<std::string, TexelBlocks> elsewhere_;  // fourth channel 255: it is known
    std::map<std::string, LayerTile> layer_;
    int size_;
    SkinSpot from_;
    Vec3 start_ = Vec3::Zero(), source_ = Vec3::Zero();
    Mat3 turn_ = Mat3::Identity();  // from here to there
    Vec3 tone_ = Vec3::Ones();      // of Heal: here against there
};

}  // namespace veld
