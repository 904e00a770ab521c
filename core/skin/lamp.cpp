#include "core/skin/lamp.h"

#include <tbb/parallel_for.h>

#include <Eigen/Dense>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/skin/log_colour.h"

namespace veld {
namespace {

constexpr std::size_t kLampPlaces = 2500;
constexpr int kDirections = 420;
constexpr double kStrengths[] = {0.5, 1, 2, 4};
constexpr double kWidePatch = 0.9;                          // as SkinLight::kPatch: a shadow is no patch yet
constexpr std::size_t kRefined = 8;                         // directions that are refined
constexpr double kLampSteps[] = {0.12, 0.06, 0.03, 0.015};  // radians around the best one
constexpr double kLeastBetter = 0.12;                       // of what is unexplained without a lamp

// Evenly over the sphere [Gonzalez 2010, Measurement of areas on a sphere using Fibonacci and latitude-longitude
// lattices].
Vec3 direction(int i) {
    const double z = 1 - (2.0 * i + 1) / kDirections, r = std::sqrt(1 - z * z), turn = 2.39996322972865332 * i;
    return {r * std::cos(turn), r * std::sin(turn), z};
}

class LampSearch {
 public:
    LampSearch(const std::vector<LitPlace>& all, const std::function<bool(std::size_t, const Vec3&)>& sees)
        : sees_(sees) {
        const std::size_t step = 1 + all.size() / kLampPlaces;
        for (std::size_t i = 0; i < all.size(); i += step) places_.push_back(all[i]), number_.push_back(i);
    }

    // How much a lamp in each direction could explain of what smooth light leaves, roughly: one step of weighted
    // least squares, with all that the smooth terms explain of the lamp's term taken out of it first.
    std::vector<Lamp> rough() const {
        const SkinLight smooth = SkinLight::of(places_, {}, kWidePatch);
        std::vector<SkinLight::Terms> rows;
        std::vector<Vec3> off;
        std::vector<double> weight;
        Eigen::Matrix<double, SkinLight::kTerms, SkinLight::kTerms> a;
        a.setIdentity();
        for (const LitPlace& p : places_) {
            rows.push_back(SkinLight::terms(p.normal, p.open, nullptr, 1));
            off.push_back(log_colour(p.colour) - smooth.skin() - smooth.light(p.normal, p.open));
            weight.push_back(p.area * geman_mcclure(off.back().norm() / std::sqrt(3.0), kWidePatch));
            a += weight.back() * rows.back() * rows.back().transpose();
        }
        const auto factor = a.ldlt();
        std::vector<std::pair<double, Lamp>> found(kDirections);
        tbb::parallel_for(0, kDirections, [&](int k) {
            const std::vector<double> lit = lit_from(direction(k));
            for (const double strength : kStrengths) {
                const Lamp lamp{direction(k), strength};
                SkinLight::Terms with = SkinLight::Terms::Zero();
                Vec3 along = Vec3::Zero();
                double square = 0;
                for (std::size_t i = 0; i < rows.size(); ++i) {
                    const double f = lamp.adds(places_[i].normal, lit[i]);
                    with += weight[i] * f * rows[i], along += weight[i] * f * off[i], square += weight[i] * f * f;
                }
                const double left = square - with.dot(factor.solve(with));
                const double gain = along.minCoeff() > 0 && left > 1e-9 * square ? along.squaredNorm() / left : 0;
                auto& best = found[static_cast<std::size_t>(k)];
                if (gain > best.first) best = {gain, lamp};
            }
        });
        std::stable_sort(found.begin(), found.end(), [](const auto& x, const auto& y) { return x.first > y.first; });
        std::vector<Lamp> out;
        for (std::size_t i = 0; i < kRefined && found[i].first > 0; ++i) out.push_back(found[i].second);
        return out;
    }

    double unexplained(const Lamp& lamp) const {
        std::vector<LitPlace> lit = places_;
        const std::vector<double> share = lit_from(lamp.towards);
        for (std::size_t i = 0; i < lit.size(); ++i) lit[i].lit = share[i];
        return SkinLight::of(lit, lamp).unexplained(lit);
    }
    double unexplained() const { return SkinLight::of(places_).unexplained(places_); }

    // Of the lamps around it, a step away, and of those a bit weaker or stronger, the best.
    void refine(double step, Lamp& lamp, double& left) const {
        const Vec3 side = lamp.towards.unitOrthogonal(), up = lamp.towards.cross(side);
        std::vector<Lamp> tries;
        for (int k = 0; k < 8; ++k) {
            const double turn = 0.25 * k * 3.14159265358979324;
            tries.push_back(
                {(lamp.towards + step * (std::cos(turn) * side + std::sin(turn) * up)).normalized(), lamp.strength});
        }
        for (const double factor : {0.75, 1.33}) tries.push_back({lamp.towards, factor * lamp.strength});
        std::vector<double> of(tries.size());
        tbb::parallel_for(std::size_t{0}, tries.size(), [&](std::size_t i) { of[i] = unexplained(tries[i]); });
        const auto best = std::min_element(of.begin(), of.end());
        if (*best >= left) return;
        left = *best, lamp = tries[static_cast<std::size_t>(best - of.begin())];
    }

 private:
    std::vector<double> lit_from(const Vec3& towards) const {
        std::vector<double> out(places_.size(), 0);
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = places_[i].normal.dot(towards) > 0 && sees_(number_[i], towards);
        return out;
    }

    const std::function<bool(std::size_t, const Vec3&)>& sees_;
    std::vector<LitPlace> places_;
    std::vector<std::size_t> number_;
};

}  // namespace

std::optional<Lamp> find_lamp(const std::vector<LitPlace>& places,
                              const std::function<bool(std::size_t, const Vec3&)>& sees, const Progress& progress) {
    if (places.size() < 2 * SkinLight::kLeastPlaces) return {};
    const LampSearch search(places, sees);
    const double without = search.unexplained();
    std::optional<Lamp> out;
    double left = (1 - kLeastBetter) * without;
    for (Lamp lamp : search.rough()) {
        if (progress.is_cancelled()) return {};
        double its = search.unexplained(lamp);
        for (const double step : {kLampSteps[0], kLampSteps[1]}) search.refine(step, lamp, its);
        if (its < left) out = lamp, left = its;
    }
    if (!out) return {};
    for (const double step : {kLampSteps[2], kLampSteps[2], kLampSteps[3], kLampSteps[3]})
        search.refine(step, *out, left);
    return out;
}

}  // namespace veld
