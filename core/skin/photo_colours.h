#pragma once
// Photographs as a skin's source, through their cameras.
//
// Each photograph's own light, cast shadow and highlights go out first (light.h, cast_shadow.h, shine.h), then what is
// left between them: where two show one place, the difference of their logarithms is shared between them and goes on
// over the surface as a membrane, so that they meet in one tone. A place shows the photographs that see it straight on
// and sharply; the best has nearly all the say, so that features do not blur where two disagree by a pixel.
#include "core/photo/look_at_photos.h"
#include "core/skin/bake.h"
#include "core/skin/cast_shadow.h"
#include "core/skin/shine.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct SkinPhoto {
    const Pixels* pixels = nullptr;
    PhotoCamera camera;
    std::vector<Vec2> on_skin;  // places that certainly are skin (of the network), for telling hair; may be empty
};
// Those whose camera is known.
std::vector<SkinPhoto> skin_photos(const std::vector<LookedAt>& looked,
                                   const std::vector<std::optional<PhotoCamera>>& cameras);

class PhotoColours {
 public:
    // base: of level 0, in the shape. pixels are kept and must outlive it. Fails with BadInput where there is no
    // photograph, Cancelled.
    static Result<PhotoColours> make(const BaseKit& kit, const BakeSurface& base, const std::vector<SkinPhoto>& photos,
                                     double light_out, double shine_out, const Progress& progress);

    // Linear colour, with as much light out as was said; nothing: no photograph shows skin there.
    std::optional<Vec3> at(Index triangle, const Vec3& shares) const;
    bool shows(Index triangle, const Vec3& shares) const;
    // Of places seen by them, against a well lit one; 0: no light was told
    double darkest() const { return darkest_; }
    double lightest() const { return lightest_; }
    // shares of what they show that lay in a cast shadow, and that shone
    double shadow() const { return shadow_; }
    double shine() const { return shine_; }

 private:
    PhotoColours() = default;
    struct One {
        SkinPhoto photo;
        std::vector<float> weight;  // per vertex
        Points change = {};         // per vertex: the logarithm of what its colours are multiplied by
        Points seen = {};           // per vertex: what it shows, cast shadow and highlights out
        std::optional<CastShadow> shadow = {};
        std::optional<Shine> shine = {};
    };
    Vec3 cleaned(const One& one, Index triangle, const Vec3& shares, double shadow, double shine) const;
    Status find_shadow(One& one, const std::vector<float>& open, const SurfaceQuery& query, std::optional<Lamp>& lamp,
                       const Progress& progress) const;
    double weight_at(const One& one, Index triangle, const Vec3& shares) const;
    static Vec3 seen_colour(const One& one, const Vec3& place);
    void weigh(const BaseKit& kit, const Points& shape);
    void see_all(One& one, double shadow, double shine) const;
    Status take_light_out(const std::vector<float>& open, const SurfaceQuery& query, const Progress& progress);
    Status level();

    const BakeSurface* base_ = nullptr;
    std::vector<One> photos_;
    std::vector<SkinSpot> at_vertex_;
    double light_out_ = 0, shine_out_ = 0, darkest_ = 0, lightest_ = 0, shadow_ = 0, shine_ = 0;
};

// The photographs of the base in that shape onto its tiles. Fails as PhotoColours::make() and bake() do.
Result<BakeReport> bake_photos(const BaseKit& kit, const Points& shape, const std::vector<SkinPhoto>& photos,
                               const BakeSettings& settings, const std::function<Status(BakedTile&&)>& take,
                               const Progress& progress);

}  // namespace veld
