#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "core/skin/light.h"

using namespace veld;

namespace {

// Places all over a ball of one tone, lit by what `lit` says, every tenth one a dark patch.
template <class Lit>
std::vector<LitPlace> ball(const Vec3& tone, bool patches, const Lit& lit) {
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    std::uniform_real_distribution<double> unit(0.2, 1);
    std::vector<LitPlace> out;
    for (int i = 0; i < 4000; ++i) {
        LitPlace p;
        p.normal = Vec3(normal(random), normal(random), normal(random)).normalized();
        p.open = unit(random);
        p.colour = tone.cwiseProduct(lit(p));
        if (patches && i % 10 == 0) p.colour = p.colour.cwiseProduct(Vec3(0.5, 0.25, 0.25));
        out.push_back(p);
    }
    return out;
}

// How unlike one another the places are once the light is out: deviation of the logarithm, without the patches.
double unevenness(const std::vector<LitPlace>& places, const SkinLight& light, bool patches) {
    double sum = 0, squares = 0, n = 0;
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (patches && i % 10 == 0) continue;
        const double v = std::log(places[i].colour[1]) - light.light(places[i].normal, places[i].open)[1];
        sum += v, squares += v * v, ++n;
    }
    return std::sqrt(std::max(0.0, squares / n - sum * sum / (n * n)));
}

}  // namespace

TEST_CASE("Light: a soft light from one side comes out of a ball, whatever patches it has") {
    const Vec3 from = Vec3(0.6, 0.4, 0.7).normalized();
    const auto lit = [&](const LitPlace& p) {
        const double toward = p.normal.dot(from);
        return Vec3(Vec3(0.9, 0.85, 0.75) * (0.45 + 0.35 * toward + 0.1 * toward * toward) * std::pow(p.open, 0.7));
    };
    for (const bool patches : {false, true}) {
        const auto places = ball(Vec3(0.5, 0.35, 0.28), patches, lit);
        const SkinLight light = SkinLight::of(places);
        REQUIRE(light.known());
        CHECK(unevenness(places, SkinLight{}, patches) > 0.5);
        CHECK(unevenness(places, light, patches) < 0.08);  // a logarithm of a sum is no polynomial
        CHECK(light.darkest() < 0.5);
        CHECK(light.lightest() > 1);
        CHECK(light.lightest() < 2);
    }
}

TEST_CASE("Light: skin that is evenly lit stays as it is") {
    const auto places = ball(Vec3(0.5, 0.35, 0.28), true, [](const LitPlace&) { return Vec3(Vec3::Ones()); });
    const SkinLight light = SkinLight::of(places);
    for (std::size_t i = 0; i < places.size(); i += 40)
        CHECK(light.light(places[i].normal, places[i].open).cwiseAbs().maxCoeff() < 0.03);
    CHECK(light.darkest() == Approx(1).margin(0.03));
}

TEST_CASE("Light: of too few places nothing is told, and black ones break nothing") {
    std::vector<LitPlace> few(SkinLight::kLeastPlaces - 1);
    CHECK_FALSE(SkinLight::of(few).known());
    CHECK(SkinLight::of(few).light(Vec3::UnitX(), 0).isZero());
    std::vector<LitPlace> black(SkinLight::kLeastPlaces);  // all alike: one normal, no light
    CHECK(SkinLight::of(black).light(Vec3::UnitX(), 0.5).allFinite());
}
