#include "app/views/lights.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

QVector3D unit(float x, float y, float z) { return QVector3D(x, y, z).normalized(); }

// A large key from above left, a weak cool fill, a faint rim: how faces are usually lit.
Lights soft() {
    Lights out;
    out.key = unit(-0.50f, 0.62f, 0.60f), out.key_colour = {1.02f, 0.98f, 0.92f};
    out.fill = unit(0.80f, -0.05f, 0.55f), out.fill_colour = {0.10f, 0.115f, 0.13f};
    out.ambient = {0.185f, 0.18f, 0.175f};
    out.rim = {0.10f, 0.10f, 0.10f};
    out.wrap = 0.35f, out.gloss = 0.10f;
    return out;
}

// One lamp along the surface: pores, folds and dents throw shadows, the rest falls into the dark.
Lights raking(float x, float y) {
    Lights out;
    out.key = unit(x, y, 0.16f), out.key_colour = {1.45f, 1.40f, 1.32f};
    out.fill = unit(-x, -y, 0.8f), out.fill_colour = {0.02f, 0.022f, 0.026f};
    out.ambient = {0.045f, 0.045f, 0.048f};
    out.wrap = 0.02f;
    return out;
}

}  // namespace

Lights lights_of(StudioLight light, const QPointF& by_hand) {
    Lights out = soft();
    switch (light) {
        case StudioLight::RakeLeft:
            return raking(-1, 0.12f);
        case StudioLight::RakeRight:
            return raking(1, 0.12f);
        case StudioLight::Below:
            return raking(0, -1);
        case StudioLight::Rim:
            out.key_colour = out.fill_colour = {0, 0, 0};
            out.ambient = {0.02f, 0.02f, 0.022f};
            out.rim = {0.95f, 0.92f, 0.86f};
            out.gloss = 0;
            return out;
        case StudioLight::Silhouette:
            out.flat = true;
            return out;
        case StudioLight::ByHand: {
            const float x = static_cast<float>(std::clamp(by_hand.x(), -1.0, 1.0)),
                        y = static_cast<float>(std::clamp(by_hand.y(), -1.0, 1.0));
            out.key = unit(x, y, std::sqrt(std::max(0.03f, 1 - x * x - y * y)));
            out.key_colour = {1.25f, 1.20f, 1.13f};
            out.fill_colour = {0.03f, 0.033f, 0.038f};
            out.ambient = {0.07f, 0.07f, 0.07f};
            out.wrap = 0.08f;
            return out;
        }
        case StudioLight::Soft:
            break;
    }
    return out;
}

}  // namespace veld
