#pragma once
// A skin as it is looked at: every tile composed, as pictures for the views, on the shape that wears it.
#include <QImage>

#include "core/base/progress.h"
#include "core/kit/base_kit.h"
#include "core/project/skins.h"
#include "core/skin/compose.h"
#include "core/skin/paint.h"

namespace veld {

enum class SkinLook {
    Skin,     // all layers
    Layer,    // the selected one alone, on grey
    Origin,   // where the selected one's texels come from, as colours
    Checker,  // squares of 16 to a tile's side, to see how the UVs stretch
    // baked for it from the fit's scan or sculpt
    Relief,        // its relief as normals on clay, in the view's light
    SkinInRelief,  // the same on all layers
    Heights,       // and other maps, as grey
    Occlusion,
    Curvature,
    Cavity,
};
inline constexpr SkinLook kFirstBakedLook = SkinLook::Relief;
inline constexpr int kSkinLooks = static_cast<int>(SkinLook::Cavity) + 1;
// The map that a look needs; nothing: none.
std::optional<SkinMap> map_of(SkinLook look);

// Colours of SkinLook::Origin.
inline constexpr Colour kOriginColours[] = {
    {128, 128, 128, 255}, {128, 128, 128, 255}, {92, 140, 196, 255}, {214, 158, 66, 255}, {190, 76, 60, 255}};

struct ShownSkin {
    // what was asked for
    std::shared_ptr<const BaseKit> kit;
    std::shared_ptr<const Points> shape;
    std::shared_ptr<const LayeredSkin> skin;  // null: the base's own
    SkinLook look = SkinLook::Skin;
    LayerId layer;                            // of Layer and Origin
    std::string stage;                        // of the skin; empty: none
    std::shared_ptr<const FitBaking> relief;  // what maps are baked from, for looks that need one

    std::shared_ptr<const PaintSurface> surface;
    struct Tile {
        std::shared_ptr<const Pixels> base;
        std::vector<ReadLayer> layers;
        QImage image;                    // as it is looked at
        std::map<SkinMap, QImage> maps;  // that were baked for looks
    };
    std::map<std::string, Tile> tiles;
    SeenTiles seen;       // all layers
    double white_mm = 0;  // of Heights: what white stands above grey

    bool same_question(const ShownSkin& o) const {
        const bool of_layer = look == SkinLook::Layer || look == SkinLook::Origin;
        return kit == o.kit && shape == o.shape && skin == o.skin && stage == o.stage && look == o.look &&
               (layer == o.layer || !of_layer) && (!map_of(look) || same_relief(o));
    }
    bool same_relief(const ShownSkin& o) const {
        return !relief || !o.relief
                   ? relief == o.relief
                   : relief->fit.id == o.relief->fit.id && relief->fit.positions == o.relief->fit.positions;
    }
    QImage normals(const std::string& tile) const;  // of a look in relief; else null
    const UvTile* tile(const std::string& name) const;
};

// asked: what is to be shown; before: what was shown, whose decoded layers and surface are used again; may be null.
Result<std::shared_ptr<ShownSkin>> compose_skin(const ShownSkin& asked, std::shared_ptr<const ShownSkin> before,
                                                const Progress& progress);

// The edges of a tile's UVs, white on nothing.
QImage uv_edges(const BakeSurface& surface, const UvTile& tile, int size);

}  // namespace veld
