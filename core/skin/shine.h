#pragma once
// Highlights on skin, taken out of its colours.
//
// Skin shows two things added up: its own colour in the light, and the light itself, mirrored by the oil on it, which
// is white [Shafer 1985, dichromatic reflection]. Where a place is lighter and whiter than the skin around it, both in
// the measure that white added to that skin would give, the white is told by least squares and goes; what the skin
// around is like is told by a smooth surface of colours on which shining places have little say.
#include <optional>

#include "core/base/result.h"
#include "core/skin/bake_surface.h"

namespace veld {

class Shine {
 public:
    // logs: per vertex of the base, log_colour() with cast shadows out and the light still in; light: the logarithm of
    // that light there (empty: none is known). base: of level 0, kept and must outlive it. Nothing: no place shines.
    static Result<std::optional<Shine>> find(const BakeSurface& base, const std::vector<std::optional<Vec3>>& logs,
                                             const Points& light);

    // A colour (linear, light still in) without its highlight, by `amount` 0..1.
    Vec3 without(const Vec3& colour, Index triangle, const Vec3& shares, double amount) const;
    double share() const { return share_; }  // of the skin that is seen

 private:
    explicit Shine(const BakeSurface& base) : base_(&base) {}

    const BakeSurface* base_;
    std::vector<float> white_;   // per vertex: added to the skin's colour, as far as that is lighter than skin
    std::vector<float> hue_;     // 0..1: how far a place takes the hue of the skin around it
    std::vector<float> shines_;  // 0..1: how far a place's own lightness is looked at
    Points skin_;                // linear: the skin's own colour, in the light
    double share_ = 0;
};

}  // namespace veld
