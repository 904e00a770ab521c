#pragma once
// The shadow that a lamp (lamp.h) casts on a face, taken out of its colours.
//
// Which vertices lie in it: what the lamp's rays say and what the colours say (are they nearer to lit skin or to skin
// without the lamp?), made one by random walks that seldom cross a step of lightness [Grady 2006, Random walks for
// image segmentation, with priors: Grady 2005]. Shadows of what is not in the scan are found by the colours alone,
// where they are large enough. How much the shadow takes is told by the light (light.h) and, for each shadow as a
// whole, by the skin on both sides of its border. Within the border each place's own colour says how far it lies in
// the shadow, between what it would be lit and what it would be without the lamp, as in shadow matting
// [Wu, Tang, Brown, Shum 2007, Natural shadow matting]; how wide that is, is told by the colours too.
#include <optional>

#include "core/base/result.h"
#include "core/mesh/topology.h"
#include "core/skin/bake_surface.h"
#include "core/skin/lamp.h"

namespace veld {

// What one shot shows, per vertex of the base.
struct ShotColours {
    std::vector<std::optional<Vec3>> log;  // log_colour() of the mean there; nothing: not seen, or no skin
    std::vector<float> open;               // 0..1
    std::vector<float> sees_lamp;          // by rays: 1, or 0
    std::vector<double> say;               // how much each counts
};

class CastShadow {
 public:
    // base: of level 0, kept and must outlive it. Nothing: no place lies in a shadow.
    static Result<std::optional<CastShadow>> find(const BakeSurface& base, const ShotColours& shot, const Lamp& lamp);

    // A colour (linear) as it would be in the lamp's light, by `amount` 0..1.
    Vec3 without(const Vec3& colour, Index triangle, const Vec3& shares, double amount) const;
    // Per vertex: 1 in the shadow
    const std::vector<float>& inside() const { return inside_; }
    double share() const { return share_; }          // of the skin that is seen
    double border_mm() const { return border_mm_; }  // half as wide as its border

 private:
    explicit CastShadow(const BakeSurface& base) : base_(&base) {}
    Status label(const ShotColours& shot, const SkinLight& light);
    void drop_small();
    void measure_border(const ShotColours& shot, const SkinLight& light);
    Status level(const ShotColours& shot);

    const BakeSurface* base_;
    Adjacency ways_;
    std::vector<float> inside_;   // 0, 1
    std::vector<double> off_mm_;  // to the shadow's border, negative inside
    Points takes_;                // the logarithm of lit by unlit colour
    Points lit_;                  // the logarithm of the colour that skin there has in the light, smooth
    std::vector<float> border_;   // 1 within the border .. 0
    std::vector<float> depth_;    // 0 lit .. 1 in the shadow, by the vertex's own colour
    double share_ = 0, border_mm_ = 0;
};

}  // namespace veld
