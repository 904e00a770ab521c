#pragma once
// The base's ear as a model: what eleven numbers make of it, and how known ears differ beside these.
#include <Eigen/Core>
#include <map>
#include <optional>
#include <string>

#include "core/kit/base_kit.h"

namespace veld {

// The axes of an ear: backwards, upwards along its front edge, outwards. Frame of the kit.
struct EarAxes {
    Vec3 root = Vec3::Zero(), back = Vec3::Zero(), up = Vec3::Zero(), out = Vec3::Zero();
    double length = 60;  // mm
    Vec3 local(const Vec3& p) const {
        const Vec3 q = p - root;
        return turned(q);
    }
    Vec3 turned(const Vec3& q) const { return {q.dot(back), q.dot(up), q.dot(out)}; }
};

// By the kit's landmarks tragion, superaurale, subaurale and postaurale of side "l" or "r"; nothing when one is
// missing.
std::optional<EarAxes> ear_axes(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                const std::string& side);

// What may differ between two ears. How much people's ears vary is known [Ferrario et al. 1999; Sforza et al. 2009:
// length 62 +- 5 mm, width 37 +- 3 mm]; stylised ones more, so the spreads are wide. After kTop: the forms.
enum EarNumber { kTurnX, kTurnY, kTurnZ, kMoveX, kMoveY, kMoveZ, kSize, kWide, kOff, kLobe, kTop, kFirstForm };
inline constexpr int kEarForms = 4, kEarNumbers = kFirstForm + kEarForms;
using EarNumbers = Eigen::Matrix<double, kEarNumbers, 1>;
EarNumbers ear_spread();

// A place of the base's ear: in its axes, and how each form moves it.
struct EarPlace {
    Vec3 local = Vec3::Zero();
    Eigen::Matrix<double, 3, kEarForms> form = Eigen::Matrix<double, 3, kEarForms>::Zero();
    EarPlace moved(const Vec3& by) const { return {local + by, form}; }
    EarPlace bare() const { return EarPlace{}.moved(local); }  // as it is on the base
};
EarPlace between(const EarPlace& a, const EarPlace& b, double share);

// Forms are the principal components of what known heads (kit.known_heads) have at the ear beside size, place and the
// other numbers, the base's ear being 0 and one deviation 1; none when the kit knows no heads.
class EarModel {
 public:
    EarModel(const BaseKit& kit, const EarAxes& axes, const VertexIndices& ear);
    EarPlace place(Index vertex) const;
    EarPlace place(const SurfacePoint& at) const;
    Vec3 placed(const EarNumbers& x, const EarPlace& at) const { return Ear(axes_, x)(at); }  // in the kit's frame

    // The ear that these numbers make.
    class Ear {
     public:
        Ear(const EarAxes& axes, const EarNumbers& x);
        Vec3 operator()(const EarPlace& at) const;

     private:
        Eigen::Matrix<double, kEarForms, 1> form_;
        double low_, high_, folds_over_, lobe_, top_, wide_, off_;
        Mat3 turn_;  // with the size, into the kit's frame
        Vec3 move_;
    };
    Ear ear(const EarNumbers& x) const { return {axes_, x}; }

 private:
    using NumberRows = Eigen::Matrix<double, 3, kFirstForm>;
    NumberRows number_rows(const Vec3& local) const;
    Eigen::Matrix<double, 3, Eigen::Dynamic> known(Index vertex) const;  // mean and components there, in the axes
    void make_forms(const VertexIndices& ear);

    const BaseKit& kit_;
    const EarAxes axes_;
    std::vector<Index> row_;                                   // per vertex: its place in known_heads, or kNone
    Eigen::Matrix<double, Eigen::Dynamic, kEarForms> weight_;  // of the mean and the components; empty: no forms
    Eigen::Matrix<double, kFirstForm, kEarForms> taken_;       // what of each form the numbers say already
};

}  // namespace veld
