#pragma once
// What a bake knows of base and source before its first texel; for bake.cpp.
#include <algorithm>

#include "core/skin/bake.h"
#include "core/skin/cast_shadow.h"
#include "core/skin/grain.h"
#include "core/skin/light.h"
#include "core/skin/log_colour.h"
#include "core/skin/shine.h"
#include "core/skin/skin_by_colour.h"
#include "core/skin/smooth_colours.h"
#include "core/skin/texels.h"

namespace veld {

// Colours that are told apart, the same for the same number every time.
Colour mask_colour(std::size_t number);

// Three places of a triangle, each near one of its corners.
inline Vec3 near_corner(int k) {
    Vec3 out = Vec3::Constant(0.2);
    out[k] = 0.6;
    return out;
}

struct BakeWork {
    const BakeSurface& base;
    BakeSource source;
    BakeSettings settings;
    std::vector<bool> asked;  // per part
    bool wants_source = true, shows_colours = false, shows_normals = false, shows_scalars = false;
    std::optional<Projection> projection = {};  // none: photographs
    std::vector<Pixels> base_images = {};       // parallel to the kit's; empty where not shown
    std::vector<int> image = {};                // per triangle: what it shows of these, -1: its plain colour
    std::optional<SmoothColours> colours = {};
    std::vector<float> occlusion = {}, curvature = {}, cavity = {};  // per vertex of the source, empty: not wanted
    // per vertex of the base: the logarithm of source by base colour, mm along the normal, and occlusion, curvature
    // and cavity; found nearby or filled
    Points ratio = {}, along = {}, scalars = {};
    SkinLight lit = {};                     // the light that the source was taken in; unknown: none goes out
    std::optional<Lamp> lamp = {};          // that stands out of it, where there is one,
    std::optional<CastShadow> shadow = {};  // and its shadow
    std::optional<Shine> shine = {};
    Points light = {};                 // per vertex of the base: the logarithm of what goes out, light and tone
    std::vector<float> hidden = {};    // per vertex of the base: 1 where what is seen is no skin; empty: nowhere
    std::vector<float> doubtful = {};  // the same: 1 where each place's own colour tells
    SkinCluster skin = {};             // by which; far 0: nothing is told by colours
    Points skin_light = {};            // what went out of the colours that told it, as `light`
    std::vector<float> mirrored = {};  // per vertex of the base: how far it is filled from the other side
    std::vector<MirroredTriangle> other_side = {};
    // Of what is filled by the base: the person's grain, what is smooth of the base's own colour there (logarithm),
    // and how far the one takes the place of the other, 0..1; null, empty: the base's own stays.
    std::unique_ptr<SkinGrain> grain = {};
    Points base_smooth = {};
    std::vector<float> grained = {};
    std::vector<RegionTone> tones = {};
    std::vector<HalfFigures> halves = {};
    double other_colour = 0;  // share of the vertices seen that are no skin by their colour

    static Result<std::unique_ptr<BakeWork>> make(const BakeSurface& base, const Mesh& kit_mesh,
                                                  const BakeSource& source, const BakeSettings& settings,
                                                  std::vector<std::string>& notes, const Progress& progress);

    bool wants(SkinMap map) const {
        return std::find(settings.maps.begin(), settings.maps.end(), map) != settings.maps.end();
    }
    Vec3 at_vertices(const Points& values, Index t, const Vec3& shares) const {
        if (values.empty()) return Vec3::Zero();
        const Triangle& c = base.triangles[t];
        return shares[0] * values[c[0]] + shares[1] * values[c[1]] + shares[2] * values[c[2]];
    }
    Vec3 base_colour(Index t, const Vec3& shares) const;  // linear 0..1
    // The base's, as light and coloured as what is around, or what the other side shows, by `from_mirrored` 0..1.
    Vec3 filled_colour(Index t, const Vec3& shares, double& from_mirrored) const;
    SourcePlace look(Index t, const Vec3& shares) const;  // where on the source, when that shows skin there
    std::optional<Vec3> plain_colour(const SourcePlace& at) const;
    // with as much of cast shadows and highlights out as the settings say
    std::optional<Vec3> source_colour(const SourcePlace& at, Index t, const Vec3& shares) const;
    // the same with as much of the light out as the settings say
    std::optional<Vec3> unlit_colour(const SourcePlace& at, Index t, const Vec3& shares) const;
    // the same, going over into what it is filled with as far as it may be hair or cap
    Vec3 shown_colour(const SourcePlace& at, Index t, const Vec3& shares) const;
    Vec3 source_normal(const SourcePlace& at) const;
    Vec3 source_scalars(const SourcePlace& at) const;  // occlusion, curvature (of 1/mm), mm above its surroundings

 private:
    Status look_at_source(std::vector<std::string>& notes, const Progress& progress);
    // What is found at three places of every triangle.
    struct Seen {
        SourcePlace at;
        std::optional<Vec3> colour = {}, raw = {};  // raw: before shadows and highlights went
    };
    using SeenPlaces = std::vector<std::array<Seen, 3>>;
    SeenPlaces look_everywhere() const;
    struct Shot {
        ShotColours colours;
        Points place;  // of the source
    };
    using Says = std::vector<std::array<double, 3>>;  // parallel to the places seen
    Says say_of(const SeenPlaces& seen) const;
    Shot shot_of(const SeenPlaces& seen) const;
    std::vector<std::optional<Vec3>> mean_logs(const SeenPlaces& seen) const;
    Status find_shadows(const SeenPlaces& seen, const Progress& progress);
    Status find_light(SeenPlaces& seen, std::vector<std::string>& notes, const Progress& progress);
    void clean_colours(SeenPlaces& seen, double shadows, double highlights) const;
    Vec3 unlit(const Vec3& colour, Index t, const Vec3& shares) const;
    Vec3 cleaned(const Vec3& colour, Index t, const Vec3& shares, double shadows, double highlights) const;
    std::vector<std::optional<Vec3>> unlit_logs(const SeenPlaces& seen) const;
    void hide_never_seen(SeenPlaces& seen);
    void hide_other_colours(SeenPlaces& seen);
    Status take_tone_out(const SeenPlaces& seen);
    // 1 left, -1 right, 0 neither, per vertex of the base; empty: no mirror is known.
    std::vector<int> sides() const;
    void compare_halves(const SeenPlaces& seen);
    void hide_half(SeenPlaces& seen);
    Points base_logs() const;
    void find_grain(const SeenPlaces& seen, const std::vector<std::uint8_t>& known, std::vector<std::string>& notes);
    void find_other_side(const std::vector<std::uint8_t>& known);
    Status fill_vertices(std::vector<std::string>& notes, const Progress& progress);
    void read_base(const Mesh& kit_mesh, std::vector<std::string>& notes);
};

}  // namespace veld
