#pragma once
// A first skin: the photographs on the base's UVs.
//
// Every texel of the head's tile asks the photographs that see its place: seen straight on, sharply, lit well counts
// more. The best one wins, regions of winners are smoothed, and what is unseen is filled from the mirrored side, then
// from the base's own skin with its tone matched [Reinhard et al. 2001]. Seams disappear in the gradient domain: the
// winners' gradients are kept, their levels solved for [Perez, Gangnet, Blake 2003], on a coarser grid, and what that
// changes is spread back within each winner's region, so no detail is lost. The most frontal photograph keeps its
// level.
#include "core/photo/look_at_photos.h"

namespace veld {

struct SkinPhoto {
    const Pixels* pixels = nullptr;
    PhotoCamera camera;
    std::vector<Vec2> on_skin;  // places that certainly are skin (of the network), for telling hair; may be empty
};
std::vector<SkinPhoto> skin_photos(const std::vector<LookedAt>& looked,
                                   const std::vector<std::optional<PhotoCamera>>& cameras);

struct FirstSkinSettings {
    int size = 2048;  // texels, width and height
    bool mirror_fill = true, match_tone = true, blend_seams = true;
    bool operator==(const FirstSkinSettings&) const = default;
};
struct FirstSkin {
    Pixels texture;  // of the head's tile
    int image = -1;  // which of the kit's images it stands for
    // share of the head's skin by where it comes from
    double from_photos = 0, mirrored = 0, from_base = 0;
    double seam_step = 0,
           seam_step_before = 0;  // mean step across the winners' borders, of 255; with and without blending
};
// shape: kit frame, mm. Fails with BadInput when the kit has no UVs or no texture for its head, Cancelled.
Result<FirstSkin> first_skin(const BaseKit& kit, const Points& shape, const std::vector<SkinPhoto>& photos,
                             const FirstSkinSettings& settings, const Progress& progress);

}  // namespace veld
