#pragma once
// A source's skin and relief onto the base's tiles, through a fit.
//
// Every texel asks several places of the base where they are on the source (projection.h) and averages what it finds
// there. What was missed, or belongs to a wrong sheet, is filled from its surroundings on the surface (heal.h): a
// colour is the base's own, made as light and as coloured as what borders on it; relief fades into what surrounds it.
#include <map>

#include "core/io/map_image.h"
#include "core/skin/halves.h"
#include "core/skin/projection.h"
#include "core/skin/tone.h"

namespace veld {

class PhotoColours;

enum class SkinMap {
    Colour,        // sRGB
    Normal,        // tangent space, glTF 2.0's rule: x along u, y along v, z out; 0.5 is 0
    Displacement,  // mm along the surface's normal
    Occlusion,     // 1 open .. 0 closed in
    Curvature,     // of the source: 0.5 flat, 1 bulging with a radius of 2 mm or less, 0 as much hollow
    Cavity,        // 1 flat .. 0: lies 0.4 mm or more below what is around it (within 1.5 mm), noise apart
    Parts,         // each part a colour of its own, and
    Regions        // each region
};
inline constexpr SkinMap kAllSkinMaps[] = {SkinMap::Colour,    SkinMap::Normal,    SkinMap::Displacement,
                                           SkinMap::Occlusion, SkinMap::Curvature, SkinMap::Cavity,
                                           SkinMap::Parts,     SkinMap::Regions};
const char* skin_map_name(SkinMap map);  // "normal"
std::optional<SkinMap> skin_map_from_name(const std::string& name);

inline constexpr int kLeastTexels = 16, kMostTexels = 16384;

struct BakeSettings {
    int size = 2048;   // texels a side
    int samples = 2;   // a side of each texel
    int padding = 16;  // texels beyond islands' borders
    std::vector<SkinMap> maps{SkinMap::Colour, SkinMap::Normal};
    std::vector<std::string> tiles = {};  // names; empty: all
    bool parts = false;   // eyes, teeth, tongue and lashes from the source too; else they keep the base's own
    double reach_mm = 0;  // 0: by the data, for each region
    // 0..1: how much of the light that the source was taken in goes out of its colours (light.h),
    double light_out = 0;
    double shine_out = 0;  // how much of the highlights (shine.h),
    // and how far they are brought to the tone of the base's own (tone.h)
    double tone = 0;
    // or of these, per vertex of the base logarithms of linear colours (skin_logs() of compose.h); null: the base's
    // own;
    std::shared_ptr<const std::vector<std::optional<Vec3>>> tone_like = nullptr;
    std::optional<Vec3> face_tone = {};  // or all as one so that the face is like this on the average; linear
    bool colours_tell = false;           // what is no skin by its colours is missed (skin_by_colour.h), but for
    bool keep_brows = true;              // what lies within the face
    // What is filled by the base gets the person's own grain (grain.h); where the base shows no picture it always
    // does.
    bool own_grain = false;
    bool fill_mirrored = false;      // colours that are missed come from the other side, where that was seen
    SkinHalf half = SkinHalf::Both;  // else only this one is taken, and the other one filled from it
};

// What is baked from. surface: of the mesh, in the kit's frame, with its origins kept (prepare_source).
struct BakeSource {
    const SourceSurface* surface = nullptr;
    const Mesh* mesh = nullptr;
    const Triangulation* fans = nullptr;  // of the mesh
    double scale = 1;                     // mm per unit of the mesh
    // In place of all these: photographs of the base in this shape. Colours and masks only.
    const PhotoColours* photos = nullptr;
};

struct BakedTile {
    UvTile tile;
    std::map<SkinMap, MapImage> maps;
    std::vector<std::uint8_t> found;  // Found per texel, rows from the top
};

struct RegionBaked {
    std::string region;
    Index texels = 0, missed = 0, wrong = 0, mirrored = 0;
};

struct BakeReport {
    std::vector<RegionReach> reaches;
    std::vector<RegionBaked> regions;  // of the skin, those with texels
    // Shares of the texels that were looked for. missed: filled from the base; mirrored: from the other side.
    double seen = 0, missed = 0, wrong = 0, mirrored = 0;
    double other_colour = 0;          // share of the places seen that are no skin by their colour
    std::vector<HalfFigures> halves;  // of what is seen, before one was chosen
    std::vector<RegionTone> tones;    // of the source against the base, before any of it went
    std::map<std::string, Colour> part_colours, region_colours;  // of the maps that tell them apart
    // Where light was to go out: how light the darkest and lightest places were against a well lit one; 0: none was
    // told.
    double darkest = 0, lightest = 0;
    double shadow = 0, shine = 0;   // shares of the skin seen that lay in a cast shadow, and that shone
    std::optional<Vec3> lamp = {};  // towards the lamp that cast it, kit frame
    std::vector<std::string> notes;
};

// Shares of the texels of those regions that the source reaches at all: a head's scan says nothing of the feet. The
// rest of them is filled by the base's.
struct ReachedShares {
    double seen = 0, mirrored = 0;
};
bool is_reached(const RegionBaked& region);
ReachedShares where_it_reaches(const BakeReport& report);

// take: gets each tile when it is done, and says no to stop (Cancelled). At most one tile's maps are held at a time.
// Fails with BadInput on settings that cannot be, tiles or maps that there are none of; Limit when there is not enough
// memory; Cancelled.
Result<BakeReport> bake(const BakeSurface& base, const Mesh& kit_mesh, const BakeSource& source,
                        const BakeSettings& settings, const std::function<Status(BakedTile&&)>& take,
                        const Progress& progress);

// Bytes that one tile of such a bake takes.
std::size_t bake_bytes(const BakeSettings& settings);

}  // namespace veld
