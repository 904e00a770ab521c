#pragma once
// The light that a skin's colours were taken in, told by the skin itself.
//
// A colour is skin times light, so their logarithms add up. The light's is a smooth function of where the surface
// faces (polynomials of the normal up to the third degree: the second explains 98 % of what falls onto a matt surface
// [Ramamoorthi & Hanrahan 2001], the third what shadow sides and exponents add) and of how closed in a place is (its
// ambient occlusion). Skin is alike all over but for patches: the function is fitted to all of it by robust least
// squares (Geman & McClure), so that lips, brows, freckles and beards have little say.
#include <Eigen/Core>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct LitPlace {
    Vec3 colour = Vec3::Zero();  // linear 0..1
    Vec3 normal = Vec3::UnitZ();
    double open = 1;  // 0..1
    double area = 1;  // how much it counts
};

class SkinLight {
 public:
    static constexpr std::size_t kLeastPlaces = 200;

    // Of fewer places: no light is known, and light() is nothing.
    static SkinLight of(const std::vector<LitPlace>& places);

    bool known() const { return known_; }
    // Per channel: the logarithm of the light there, against that of a well lit place (of which a quarter are
    // lighter).
    Vec3 light(const Vec3& normal, double open) const;
    // Of the places it was told by, 5 and 95 of 100: how many times as light as a well lit one.
    double darkest() const { return darkest_; }
    double lightest() const { return lightest_; }

 private:
    static constexpr int kTerms = 23;
    using Terms = Eigen::Matrix<double, kTerms, 1>;
    static Terms terms(const Vec3& normal, double open);

    bool known_ = false;
    Eigen::Matrix<double, kTerms, 3> share_ = Eigen::Matrix<double, kTerms, 3>::Zero();
    Vec3 lit_ = Vec3::Zero();
    double darkest_ = 1, lightest_ = 1;
};

}  // namespace veld
