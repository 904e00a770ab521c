#pragma once
// The light that a skin's colours were taken in, told by the skin itself.
//
// A colour is skin times light, so their logarithms add up. The light's is a smooth function of where the surface
// faces (polynomials of the normal up to the third degree: the second explains 98 % of what falls onto a matt surface
// [Ramamoorthi & Hanrahan 2001], the third what shadow sides and exponents add) and of how closed in a place is (its
// ambient occlusion); a lamp (lamp.h) adds what only those places have that face and see it. Skin is alike all over
// but for patches: the function is fitted to all of it by robust least squares (Geman & McClure), so that lips, brows,
// freckles and beards have little say.
#include <Eigen/Core>
#include <cmath>
#include <optional>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct LitPlace {
    Vec3 colour = Vec3::Zero();  // linear 0..1
    Vec3 normal = Vec3::UnitZ();
    double open = 1;  // 0..1
    double area = 1;  // how much it counts
    double lit = 1;   // 0..1: how much of the lamp's light arrives, where there is a lamp
};

// One from which a shadow falls: far away, so that it lies in the same direction everywhere.
struct Lamp {
    Vec3 towards = Vec3::UnitZ();  // unit
    double strength = 1;           // of its light on what faces it, against all other light

    // The logarithm of all light against all but the lamp's.
    double adds(const Vec3& normal, double lit) const {
        return std::log1p(strength * lit * std::max(0.0, normal.dot(towards)));
    }
};

class SkinLight {
 public:
    static constexpr std::size_t kLeastPlaces = 200;
    static constexpr double kPatch = 0.3;  // a residual of the logarithm that counts a quarter

    // Of fewer places: no light is known, and light() is nothing. patch: as kPatch.
    static SkinLight of(const std::vector<LitPlace>& places, const std::optional<Lamp>& lamp = {},
                        double patch = kPatch);

    bool known() const { return known_; }
    // Per channel: the logarithm of the light there, against that of a well lit place (of which a quarter are
    // lighter). lit: of the lamp's light.
    Vec3 light(const Vec3& normal, double open, double lit = 1) const;
    // The logarithm of the skin's colour in the light of a well lit place.
    const Vec3& skin() const { return skin_; }
    // Of the places it was told by, 5 and 95 of 100: how many times as light as a well lit one.
    double darkest() const { return darkest_; }
    double lightest() const { return lightest_; }
    // What of these it leaves unexplained: the mean of Geman and McClure's measure, 0..1.
    double unexplained(const std::vector<LitPlace>& places) const;

    static constexpr int kTerms = 24;  // the last one is the lamp's
    using Terms = Eigen::Matrix<double, kTerms, 1>;
    static Terms terms(const Vec3& normal, double open, const Lamp* lamp, double lit);

 private:
    bool known_ = false;
    std::optional<Lamp> lamp_;
    Eigen::Matrix<double, kTerms, 3> share_ = Eigen::Matrix<double, kTerms, 3>::Zero();
    Vec3 lit_ = Vec3::Zero(), skin_ = Vec3::Zero();
    double darkest_ = 1, lightest_ = 1;
};

}  // namespace veld
