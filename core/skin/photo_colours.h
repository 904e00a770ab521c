#pragma once
// Photographs as a skin's source, through their cameras.
//
// Each photograph's own light goes out first (light.h), then what is left between them: where two show one place, the
// difference of their logarithms is shared between them and goes on over the surface as a membrane, so that they meet
// in one tone. A place shows the photographs that see it straight on and sharply; the best has nearly all the say, so
// that features do not blur where two disagree by a pixel.
#include "core/skin/bake_surface.h"
#include "core/skin/first_skin.h"

namespace veld {

class PhotoColours {
 public:
    // base: of level 0, in the shape. pixels are kept and must outlive it. Fails with BadInput where there is no
    // photograph, Cancelled.
    static Result<PhotoColours> make(const BaseKit& kit, const BakeSurface& base, const std::vector<SkinPhoto>& photos,
                                     double light_out, const Progress& progress);

    // Linear colour, with as much light out as was said; nothing: no photograph shows skin there.
    std::optional<Vec3> at(Index triangle, const Vec3& shares) const;
    bool shows(Index triangle, const Vec3& shares) const;
    // Of places seen by them, against a well lit one; 0: no light was told
    double darkest() const { return darkest_; }
    double lightest() const { return lightest_; }

 private:
    PhotoColours() = default;
    struct One {
        SkinPhoto photo;
        std::vector<float> weight;  // per vertex
        Points change;              // per vertex: the logarithm of what its colours are multiplied by
    };
    double weight_at(const One& one, Index triangle, const Vec3& shares) const;
    static Vec3 seen_colour(const One& one, const Vec3& place);
    void weigh(const BaseKit& kit, const Points& shape);
    void take_light_out(double amount, const std::vector<float>& open, const Points& normals);
    Status level();

    const BakeSurface* base_ = nullptr;
    std::vector<One> photos_;
    double darkest_ = 0, lightest_ = 0;
};

}  // namespace veld
