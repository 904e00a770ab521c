// What covers a head: hair, beard, and what people wear; and the colour of everything.
#include "demo/standins/foreign/solid.h"

namespace veld::foreign {

namespace {

// Tufts and strands: an unevenness of 1 at most.
double strands(const Vec3& p, double fine) {
    const double bend =
        2.2 * std::sin(0.043 * p.y() + 0.6 * std::sin(0.031 * p.x())) + 1.1 * std::sin(0.087 * p.z() + 0.05 * p.x());
    return 0.5 * std::sin(fine * 0.31 * p.x() + bend) * std::cos(fine * 0.23 * p.z() + 0.7 * bend) +
           0.3 * std::sin(fine * (0.5 * p.x() + 0.37 * p.z()) + 1.7 * bend + 0.04 * p.y()) +
           0.2 * std::sin(fine * 0.21 * p.y() + bend * 1.3 + fine * 0.17 * p.z());
}

double glasses(const Vec3& m, const Form& f) {
    const double z = f.eye_z + 25, half = f.eye_x - 9, lens_y = -3;
    const double lens = std::hypot((m.x() - f.eye_x) / half, (m.y() - lens_y) / (0.78 * half)) * half - half;
    const double ring = std::hypot(lens, m.z() - z + square(m.x()) / 400) - 1.7;
    const double bridge = limb(m, Vec3(0, 4, z), Vec3(9, 3, z - 0.5), 1.6, 1.6);
    const Vec3 hinge(2 * f.eye_x - 10, 3, z - 7), over_ear(0.9 * f.skull.x() + 8, 6, -6);
    return std::min({ring, bridge, limb(m, hinge, over_ear, 1.8, 1.8)});
}

// A stand-up collar and what shoulders wear.
double collar(const Vec3& m, const Form& f) {
    const double wide = f.neck_size + 11 - 0.12 * (m.y() + 150);
    const double around = std::hypot(m.x(), 0.9 * (m.z() - f.neck_back + 16)) - wide;
    const double shirt = limb(m, Vec3(0, -214, -42), Vec3(165, -234, -44), 49, 45);
    return std::min(meet(std::abs(around) - 3, std::abs(m.y() + 150 + 0.12 * m.z()) - 21, 2),
                    shirt + 0.8 * std::sin(0.12 * m.x() + 0.09 * m.y()));
}

}  // namespace

double Head::hair(const Vec3& p, const Vec3& m) const {
    const Form& f = form_;
    if (f.cover != Cover::Cropped && f.cover != Cover::Short && f.cover != Cover::Long) return 1e3;
    const bool cropped = f.cover == Cover::Cropped;
    const Vec3 middle(0, f.skull_y, f.skull_z);
    const double thick = f.hair_mm + (cropped ? 0.4 : 0.3 * f.hair_mm) * strands(p, cropped ? 3 : 1);
    double d = ellipsoid(m, middle, f.skull) - thick;
    // the hairline: high on the forehead, down before the ear, around it, low at the neck
    const double temple = 0.5 * f.hairline + 0.5 * ear_.place(0.2, 0.42).y();
    const double forehead = f.hairline + 0.004 * square(m.x()) - 14 * ramp(40, 62, std::abs(m.x()));
    double line = temple + (forehead - temple) * ramp(28, 62, m.z());
    line += (ear_.place(0.2, 0.46).y() - 1 - temple) * (1 - ramp(4, 30, m.z()));
    line += (-50 - ear_.place(0.2, 0.46).y()) * (1 - ramp(-52, -26, m.z()));
    d = meet(d, line - m.y(), cropped ? 2 : 8);
    if (f.cover != Cover::Long) return d;
    double fall =
        limb(m, Vec3(0.86 * f.skull.x(), 20, -30), Vec3(f.skull.x() + 4, -150, -34), 20, 27) + 2.5 * strands(p, 1);
    fall =
        join(fall, limb(m, Vec3(20, 10, -0.9 * f.skull.z()), Vec3(25, -160, -82), 28, 36) + 2.5 * strands(p, 1), 14);
    return join(d, fall, 12);
}

double Head::worn(const Vec3& p, const Vec3& m) const {
    const Form& f = form_;
    const Vec3 middle(0, f.skull_y, f.skull_z);
    double d = 1e3;
    const double round = ellipsoid(m, middle, f.skull);
    switch (f.cover) {
        case Cover::Cap: {
            d = meet(round - 6, f.hairline - 16 - 0.12 * (m.z() + 60) - m.y(), 4);
            const double peak =
                meet(ellipsoid(p, Vec3(0, f.hairline - 2, f.skull.z() - 8), Vec3(66, 12, 78)),
                     std::abs(m.y() - f.hairline + 12 + 0.006 * square(m.x()) + 0.14 * (m.z() - 80)) - 2, 1);
            d = join(d, peak, 3);
            break;
        }
        case Cover::Hat: {
            d = meet(round - 9, f.hairline - 18 - m.y(), 4);
            d = join(d,
                     meet(ellipsoid(m, middle + Vec3(0, f.hairline - f.skull_y - 12, 0), Vec3(145, 40, 160)),
                          std::abs(m.y() - f.hairline + 14 - 0.0007 * square(m.x())) - 2.5, 1),
                     5);
            break;
        }
        case Cover::Helmet: {
            d = ellipsoid(m, middle + Vec3(0, -12, 0), f.skull + Vec3(24, 30, 24));
            const double opening = ellipsoid(m, Vec3(0, -28, 110), Vec3(56, 76, 80));
            d = meet(carve(d, opening, 6), -98 - m.y(), 6);
            break;
        }
        case Cover::Headphones: {
            const Vec3 ear = ear_.middle();
            d = ellipsoid(m, Vec3(f.skull.x() + 15, ear.y(), ear.z() - 4), Vec3(17, 40, 34));
            const double band = std::abs(std::hypot(m.x(), m.y() - f.skull_y) - f.skull.x() - 15);
            d = join(d,
                     m.y() > ear.y()
                         ? std::hypot(std::max(0.0, band - 3), std::max(0.0, std::abs(m.z() + 8) - 11)) - 2.5
                         : 1e3,
                     4);
            break;
        }
        case Cover::Horns: {
            const Rod horn{smooth_through({Vec3(34, f.skull_y + 50, 44), Vec3(52, f.skull_y + 88, 40),
                                           Vec3(82, f.skull_y + 106, 8), Vec3(88, f.skull_y + 92, -34)},
                                          6),
                           {16, 16, 15.5, 15, 14.5, 14, 13.5, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2}};
            d = horn.distance(m) + 0.7 * std::sin(0.8 * (m.x() + m.y()));
            break;
        }
        default:
            break;
    }
    if (f.glasses) d = std::min(d, glasses(m, f));
    if (f.collar) d = std::min(d, collar(m, f));
    return d;
}

double Head::cover(const Vec3& place) const {
    const Vec3 p = wobbled(place), m(std::abs(p.x()), p.y(), p.z());
    double d = std::min(hair(p, m), worn(p, m));
    if (!form_.beard) return d;
    // over jaw and chin, around the mouth, not on it
    const double mouth = ellipsoid(
        m, Vec3(0, 0.5 * (corner_y_ + jaw(Vec3(0, form_.mouth_y, form_.mouth_front)).y()), form_.mouth_front),
        Vec3(corner_x_ + 3, 9 + 0.9 * form_.jaw_open, 30));
    const double upper = form_.mouth_y + 13 + std::max(0.0, m.x() - corner_x_) * 0.55;
    const Form& f = form_;
    double b = face(m) -
               form_.beard_mm * ramp(0, 12, mouth) * ramp(upper, upper - 14, m.y()) * ramp(2, 30, m.z()) *
                   ramp(f.face_low - 30, f.face_low - 4, m.y()) * (1 + 0.3 * strands(p, 1.6)) +
               0.2;
    b = meet(b, std::max({m.y() - upper, -m.y() + form_.face_low - 28, 3 - m.z(), 1 - mouth}), 3);
    return std::min(d, b);
}

Stuff Head::stuff_at(const Vec3& place) const {
    const Vec3 p = wobbled(place), m(std::abs(p.x()), p.y(), p.z());
    if (cover(place) < skin(place)) {
        const double h = std::min(hair(p, m), form_.beard ? cover(place) : 1e3), w = worn(p, m);
        if (h < w) return Stuff::Hair;
        const bool cloth = form_.cover == Cover::Cap || form_.cover == Cover::Hat || m.y() < -100;
        return cloth ? Stuff::Cloth : Stuff::Hard;
    }
    if (m.z() < 40) return Stuff::Skin;
    if ((m - eye_).norm() < form_.ball + 2.5 && inside(m) < 0.05) return Stuff::Eye;
    if (form_.mouth != Mouth::Shut && inside(m) < 0.05) {
        return ellipsoid(m, jaw(Vec3(0, form_.mouth_y - 4, form_.mouth_front - 34)), Vec3(17, 7, 26)) < 0.1
                   ? Stuff::Tongue
                   : Stuff::Teeth;
    }
    return Stuff::Skin;
}

std::array<double, 3> Head::colour_at(const Vec3& place) const {
    const Vec3 p = wobbled(place), m(std::abs(p.x()), p.y(), p.z());
    const auto mixed = [](std::array<double, 3> a, const std::array<double, 3>& b, double t) {
        for (std::size_t k = 0; k < 3; ++k) a[k] += t * (b[k] - a[k]);
        return a;
    };
    const std::array<double, 3> dark{62, 44, 34};
    const double speckle = 1 + 0.05 * strands(p, 4);
    switch (stuff_at(place)) {
        case Stuff::Hair:
            return {62 * speckle, 46 * speckle, 36 * speckle};
        case Stuff::Cloth:
            return {52, 66, 104};
        case Stuff::Hard:
            return {70, 72, 76};
        case Stuff::Teeth:
            return {222, 214, 196};
        case Stuff::Tongue:
            return {176, 92, 92};
        case Stuff::Eye: {
            const double r = std::hypot(m.x() - eye_.x(), m.y());
            if (r < 2.2) return {20, 18, 18};
            return r < 5.6 ? std::array<double, 3>{78, 96, 88} : std::array<double, 3>{214, 208, 202};
        }
        case Stuff::Skin:
            break;
    }
    std::array<double, 3> c = form_.tone;
    for (double& v : c) v *= speckle;
    if (m.z() > 40 && m.y() < -40) {
        const double lip = std::min(upper_lip_.distance(m), lower_lip_.distance(m));
        c = mixed(c, {c[0] * 0.86, c[1] * 0.62, c[2] * 0.64}, 1 - ramp(0.2, 1.6, lip));
    }
    const double brow = brow_.distance(m);
    if (m.z() > 40) c = mixed(c, dark, 0.8 * (1 - ramp(0, 2.5, brow)));
    const double lash = m.z() > 40 && form_.lids != Lids::Shut ? std::abs(m.y() - lid_edge(m.x(), true)) : 9;
    if (lash < 1 && std::abs(m.x() - eye_.x()) < form_.lid_in && (m - eye_).norm() < form_.ball + 4)
        c = mixed(c, dark, 0.6);
    return c;
}

}  // namespace veld::foreign
