#include "core/detect/caliper.h"

#include <cmath>

namespace veld {
namespace {

constexpr double kBallMm = 1.0, kDeepMm = 9.0;
constexpr int kRays = 8;
constexpr double kClimbStepMm = 0.6, kClimbLeastMm = 0.03, kMostClimbMm = 6;

}  // namespace

double slit_depth(const SurfaceQuery& surface, const Vec3& at) {
    double most = 0;
    for (const double share : {0.0, 0.5, 0.9}) {
        const double r = share * kBallMm, ahead = std::sqrt(kBallMm * kBallMm - r * r);
        for (int k = 0; k < (share > 0 ? kRays : 1); ++k) {
            const double a = 2 * M_PI * k / kRays;
            const Vec3 from = at + Vec3(r * std::cos(a), r * std::sin(a), kDeepMm + 2 * kBallMm);
            const SurfaceHit hit = surface.first_front_hit(from, -Vec3::UnitZ());
            // where the ball's middle stands when it touches there; its front then lies one radius deeper
            if (hit) most = std::max(most, hit.position.z() - at.z() + ahead - kBallMm);
        }
    }
    return most <= kDeepMm ? most : 0;
}

Vec3 climbed(const SurfaceQuery& surface, const Vec3& from, const Vec3& way) {
    Vec3 at = from;
    while ((at - from).norm() < kMostClimbMm) {
        const SurfaceHit hit = surface.closest(at + kClimbStepMm * way, 2 * kClimbStepMm);
        if (!hit || way.dot(hit.position - at) < kClimbLeastMm) break;
        at = hit.position;
    }
    return at;
}

}  // namespace veld
