#pragma once
// What hands do to a head from photographs: sliders of the shape space region by region, and a place dragged to
// where it is in a picture.
#include "core/morph/region_mix.h"
#include "core/photo/head_record.h"
#include "core/photo/photo_head.h"

namespace veld {

class HandSliders {
 public:
    HandSliders(const BaseKit& kit, const ShapeSpace& space, const BaseRegions& regions);
    const std::vector<std::string>& regions() const { return names_; }
    // per vertex of the base, mm; cameras: of the fit's photographs
    Points delta(const HandShape& hand, const Points& shape,
                 const std::vector<std::optional<PhotoCamera>>& cameras) const;

 private:
    Points unit(const std::string& region, HandMove move) const;
    const BaseKit& kit_;
    const ShapeSpace& space_;
    const BaseRegions& regions_;
    std::vector<std::string> names_;
    mutable std::map<std::pair<std::string, HandMove>, Points> made_;
};

// Moves only along the rays of one camera where that sees the surface; fades where it sees it at a glance.
void keep_picture(const BaseKit& kit, const Points& shape, const PhotoCamera& camera, Points& delta);

// A place dragged in a photograph while all that was seen holds the rest: the most likely shape given the pull
// [conditioning of the Gaussian that the solve ends with]. Made once when a drag begins, microseconds a move.
class PinDrag {
 public:
    // fit: of this input. The cameras stay.
    PinDrag(const PhotoHeadInput& input, const PhotoHead& fit);
    // The coefficients with the place at that pixel.
    Eigen::VectorXd pull(const SurfacePoint& place, const PhotoCamera& camera, const Vec2& pixel) const;

 private:
    const ShapeSpace& space_;
    const Points& base_;
    Eigen::VectorXd z_;
    Eigen::LDLT<Eigen::MatrixXd> information_;
};

// Two people as one: shape between them, 0 the first, 1 the second; eyes, teeth and lashes follow.
Points blend_people(const BaseKit& kit, const Points& a, const Points& b, double share);

}  // namespace veld
