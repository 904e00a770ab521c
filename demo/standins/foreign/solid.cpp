#include "demo/standins/foreign/solid.h"

namespace veld::foreign {

namespace {

constexpr double kHingeY = -14, kHingeZ = 8;  // about which the jaw turns

}  // namespace

Head::Head(const Form& form) : form_(form), ear_(form.ear, 0.9 * form.skull.x()) {
    eye_ = Vec3(form.eye_x, 0, form.eye_z);
    const double smile = form.smile ? 1 : 0;
    const Vec3 low = jaw(Vec3(0, form.mouth_y, form.mouth_front));
    corner_x_ = form.mouth_wide + 4 * smile - 0.12 * form.jaw_open;
    corner_y_ = 0.55 * form.mouth_y + 0.45 * low.y() + 3 * smile;
    corner_z_ = form.mouth_front - square(corner_x_) / 62 - 0.16 * form.jaw_open;
    for (int i = -8; i <= 8; ++i) {
        const double x = corner_x_ * i / 8.0, t = std::abs(i) / 8.0;
        const double full = std::sqrt(std::max(0.0, 1 - t * t));
        for (const bool upper : {true, false}) {
            const double r = 0.9 + ((upper ? form.lip_upper : form.lip_lower) - 0.9) * full;
            Rod& lip = upper ? upper_lip_ : lower_lip_;
            const double gap = lip_gap(x, upper);
            lip.points.push_back(Vec3(x, gap + (upper ? r : -r), lip_place(x, upper, 0).z()));
            lip.radii.push_back(r);
            Rod& edge = upper ? upper_edge_ : lower_edge_;
            edge.points.push_back(lip_place(x, upper, 1));
            edge.radii.push_back(0.75 * std::min(1.0, full + 0.2));
        }
    }
    const double z = form.eye_z + 17;
    brow_.points = smooth_through(
        {Vec3(form.eye_x - 20, 15.5, z + 3), Vec3(form.eye_x, 21.5, z - 2.5), Vec3(form.eye_x + 19, 16, z - 20)}, 4);
    brow_.radii.assign(brow_.points.size(), 3.2);
}

Vec3 Head::jaw(const Vec3& p, double share) const {
    const double a = share * form_.jaw_open * M_PI / 180;
    const double y = p.y() - kHingeY, z = p.z() - kHingeZ;
    return {p.x(), kHingeY + std::cos(a) * y - std::sin(a) * z, kHingeZ + std::sin(a) * y + std::cos(a) * z};
}

Vec3 Head::wobbled(const Vec3& p) const {
    Vec3 out = p;
    for (int i = 0; i < 6; ++i) {
        for (int k = 0; k < 3; ++k)
            out[k] += form_.wobble_by[i][k] * std::sin(form_.wobble[i].dot(p) + form_.wobble_phase[i][k]);
    }
    return out;
}

Vec3 Head::unwobbled(const Vec3& p) const {
    Vec3 out = p;
    for (int i = 0; i < 12; ++i) out += p - wobbled(out);
    return out;
}

double Head::lid_edge(double x, bool upper) const {
    const double from = eye_.x() - form_.lid_in, to = eye_.x() + form_.lid_out;
    const double t = std::clamp((x - from) / (to - from), 0.0, 1.0);
    const double level = -1.2 + (form_.tilt + 1.2) * t;
    const double arch = std::pow(4 * t * (1 - t), 0.72) * (upper ? 1 + 0.25 * (0.45 - t) : 1 + 0.25 * (t - 0.5));
    return level + arch * (upper ? form_.lid_up : -form_.lid_down);
}

// Where the lips' inner edges are, seen from the front.
double Head::lip_gap(double x, bool upper) const {
    const double t = std::min(1.0, std::abs(x) / corner_x_);
    const double low = jaw(Vec3(0, form_.mouth_y, form_.mouth_front)).y();
    const double middle =
        upper ? form_.mouth_y + (form_.jaw_open > 0 ? 0.4 : -0.25) : low + (form_.jaw_open > 0 ? 0 : -0.25);
    return corner_y_ + (middle - corner_y_) * std::pow(1 - t * t, upper ? 0.9 : 0.7);
}

// border 0: middle of the lip, 1: where the red ends.
Vec3 Head::lip_place(double x, bool upper, double border) const {
    const double t = std::min(1.0, std::abs(x) / corner_x_), full = std::sqrt(std::max(0.0, 1 - t * t));
    const double r = 0.9 + ((upper ? form_.lip_upper : form_.lip_lower) - 0.9) * full;
    const double open_z = jaw(Vec3(0, form_.mouth_y, form_.mouth_front)).z();
    const double z0 = upper ? form_.mouth_front - 0.22 * form_.jaw_open : open_z - (form_.jaw_open > 0 ? 4.0 : 2.0);
    const double z = corner_z_ + (z0 - corner_z_) * (1 - square(t));
    // the bow of the upper lip: two peaks and a dip
    const double bow = upper ? 1.1 * std::exp(-square((std::abs(x) - 6) / 3.5)) - 0.8 * std::exp(-square(x / 3)) : 0;
    const double side = upper ? 1 : -1;
    return {x, lip_gap(x, upper) + side * (r + border * (0.86 * r) + border * bow), z + border * 0.35 * r};
}

double Head::nose(const Vec3& m) const {
    const double z = form_.eye_z + 17, low = -form_.nose_length, tip_z = z + form_.nose_forward + 2;
    const double wing = form_.nose_wide;
    double d = limb(m, Vec3(0, 7, z), Vec3(0, low + 10, tip_z - form_.nose_tip - 5), form_.nose_bridge,
                    form_.nose_bridge + 1);
    d = join(d, ball(m, Vec3(0, low + 2 + form_.nose_up, tip_z - form_.nose_tip + 1.5), form_.nose_tip), 6);
    // the flanks
    d = join(d, limb(m, Vec3(4, 0, z - 4), Vec3(wing - 8, low + 2, z + 6), 4, 8), 8);
    d = join(d, ellipsoid(m, Vec3(wing - 5.2, low - 2.5, z + 7), Vec3(5.2, 6.4, 9.5)), 4.5);
    d = join(
        d, limb(m, Vec3(0, low - 2 + form_.nose_up, tip_z - form_.nose_tip), Vec3(0, low - 10.5, z + 8), 3.6, 4.4), 3);
    return d;
}

double Head::face(const Vec3& m) const {
    const Form& f = form_;
    double d = ellipsoid(m, Vec3(0, f.skull_y, f.skull_z), f.skull);
    const double low = 0.5 * (f.face_low + 30), tall = 0.5 * (30 - f.face_low);
    d = join(d, ellipsoid(m, jaw(Vec3(0, low, f.face_front - 58), 0.25), Vec3(f.face_width, tall, 58)), 30);
    const Vec3 chin = jaw(f.chin), gonion = jaw(f.gonion, 0.3);
    d = join(d, limb(m, gonion, chin + Vec3(f.chin_wide, 0, -f.chin_size), f.jaw_size, f.jaw_size - 2), 34);
    d = join(d,
             limb(m, chin - Vec3(0, 0, f.chin_size), chin + Vec3(f.chin_wide, 0, -f.chin_size), f.chin_size,
                  f.chin_size - 1),
             14);
    // neck and shoulders
    d = join(d, limb(m, Vec3(0, -35, f.neck_back + 4), Vec3(0, -190, f.neck_back - 18), f.neck_size, f.neck_size + 5),
             26);
    d = join(d, limb(m, Vec3(0, -212, -42), Vec3(165, -232, -44), 44, 40), 40);
    d = join(d, limb(m, Vec3(20, -118, f.neck_back - 26), Vec3(150, -208, -46), 26, 24), 44);
    // bones of the cheeks, their fat, the brows
    const double z = f.eye_z;
    d = join(d, ellipsoid(m, Vec3(f.eye_x + 10, -19, z - 8), Vec3(15, 8 + 2 * f.cheekbone, 19)), 20);
    d = join(d, limb(m, Vec3(f.eye_x + 15, -16, z - 10), Vec3(0.9 * f.skull.x() - 6, -10, 14), 3.5 + f.cheekbone, 3),
             26);
    const double fat = 14 + 7 * f.cheek_fat;
    if (fat > 4) d = join(d, ellipsoid(m, jaw(Vec3(36, -52, z - 30), 0.5), Vec3(fat, fat + 6, fat + 8)), 20);
    if (f.cheek_fat < -0.3) d = carve(d, ellipsoid(m, Vec3(62, -50, 52), Vec3(12, 20, 20)), 24);
    d = join(d, limb(m, Vec3(6, 15, z + 11), Vec3(f.eye_x, 20, z + 7.5), 5.5, 6 + f.brow_ridge), 12);
    d = join(d, limb(m, Vec3(f.eye_x, 20, z + 7.5), Vec3(f.eye_x + 19, 13, z - 10), 6 + f.brow_ridge, 6), 12);
    // sockets, then the lids as a shell around the eyeball
    d = carve(d, ellipsoid(m, eye_ + Vec3(0, -2, 20), Vec3(f.ball + 7, f.ball, 17)), 12);
    d = join(d, ball(m, eye_, f.ball + f.lid_thick), 7);
    d = join(d, nose(m), 7);
    // teeth carry the lips
    d = join(d, ellipsoid(m, jaw(Vec3(0, f.mouth_y + 2, f.mouth_front - 29), 0.3), Vec3(29, 21, 27)), 16);
    return d;
}

void Head::lips(const Vec3& m, double& d) const {
    d = join(d, upper_lip_.distance(m), 4);
    d = join(d, lower_lip_.distance(m), 4);
    d = join(d, upper_edge_.distance(m), 1.2);
    d = join(d, lower_edge_.distance(m), 1.2);
    const Form& f = form_;
    const double base = -f.nose_length - 10;
    d = carve(d,
              limb(m, Vec3(0, base - 4, f.eye_z + 30), Vec3(0, f.mouth_y + 2 * f.lip_upper + 1.5, f.mouth_front + 4.5),
                   1.6, 2.2),
              5);
    const Vec3 under = jaw(Vec3(0, f.mouth_y, f.mouth_front)) + Vec3(0, -2 * f.lip_lower - 4, 3.5);
    d = carve(d, limb(m, under, under + Vec3(11, 1, -3), 2.5, 1.5), 9);
    const double deep = 1.0 + 2.6 * f.age + (f.smile ? 1.6 : 0);
    const Vec3 wing(f.nose_wide + 3, -f.nose_length - 1, f.eye_z + 19),
        beside(corner_x_ + 9, corner_y_ + 1, corner_z_ - 1);
    d = carve(d, limb(m, wing, 0.5 * (wing + beside) + Vec3(2.5, 0, 2), deep, deep), 8);
    d = carve(d, limb(m, 0.5 * (wing + beside) + Vec3(2.5, 0, 2), beside, deep, 0.5 * deep), 8);
}

void Head::openings(const Vec3& m, double& d) const {
    const Form& f = form_;
    const Vec3 q = m - eye_;
    const double out = q.norm();
    if (q.z() > 0 && out < f.ball + 9) {
        const double in = std::max({eye_.x() - f.lid_in - m.x(), m.x() - eye_.x() - f.lid_out});
        if (f.lids == Lids::Shut) {
            const double line = std::hypot(m.y() - lid_edge(m.x(), false), out - f.ball - f.lid_thick);
            d = carve(d, std::max(line - 0.55, in), 0.8);
        } else {
            const double gap = std::max({m.y() - lid_edge(m.x(), true), lid_edge(m.x(), false) - m.y(), in});
            d = carve(d, std::max({gap, f.ball - 1.5 - out, 1.5 - q.z()}), 0.9);
        }
        // the fold above the upper lid
        const double fold = lid_edge(m.x(), true) + (f.lids == Lids::Open ? 4.2 : 7.5);
        d = carve(d, std::max(std::hypot(m.y() - fold, out - f.ball - f.lid_thick - 0.5) - 0.8, in + 2), 2.2);
    }
    const double z = f.eye_z + 17, low = -f.nose_length;
    d = carve(d,
              limb(m, Vec3(0.42 * f.nose_wide, low - 12, z + 11), Vec3(0.36 * f.nose_wide, low + 1, z + 6), 3.0, 2.2),
              1.6);
    if (f.mouth == Mouth::Shut) {
        double line = 1e9;
        if (std::abs(m.x()) < corner_x_ + 2)
            line = std::hypot(m.y() - lip_gap(m.x(), true) - 0.1,
                              std::max(0.0, lip_place(m.x(), true, 0).z() - 1 - m.z())) -
                   0.5;
        d = carve(d, std::max(line, m.x() - corner_x_), 1.1);
        return;
    }
    const double gap = std::max({m.y() - lip_gap(m.x(), true), lip_gap(m.x(), false) - m.y(), m.x() - corner_x_});
    d = carve(d, std::max(gap, f.mouth_front - 46 - m.z()), 1.6);
}

double Head::inside(const Vec3& m) const {
    const Form& f = form_;
    double d = ball(m, eye_, f.ball);
    // the cornea, and the flesh of the inner corner
    d = join(d, ball(m, eye_ + Vec3(0, 0, 5.4 * f.ball / 12.4), 0.62 * f.ball), 1.5);
    if (f.lids != Lids::Shut) d = join(d, ball(m, eye_ + Vec3(-f.lid_in + 2.6, -1.0, 9.0 * f.ball / 12.4), 1.7), 1.0);
    if (f.mouth == Mouth::Shut) return d;
    const auto row = [&](const Vec3& middle, double tall) {
        const double arch = std::hypot(m.x() / 23.0, (m.z() - middle.z() + 26) / 26.0);
        const double across = std::abs(arch - 1) * 23 - 2.2;
        const double notch = 0.25 * std::cos(2 * M_PI * m.x() / 7.5);
        return meet(across + notch, std::abs(m.y() - middle.y()) - tall, 1.5);
    };
    if (f.teeth) {
        d = std::min(d, row(Vec3(0, f.mouth_y + 2.5, f.mouth_front - 7.5), 6));
        d = std::min(d, row(jaw(Vec3(0, f.mouth_y - 6.5, f.mouth_front - 9.5)), 5));
    }
    d = std::min(d, ellipsoid(m, jaw(Vec3(0, f.mouth_y - 4, f.mouth_front - 34)), Vec3(17, 7, 26)));
    return d;
}

double Head::skin(const Vec3& place) const {
    const Vec3 p = wobbled(place), m(std::abs(p.x()), p.y(), p.z());
    double d = face(m);
    const bool before = m.z() > 40 && m.y() > form_.face_low - 40;
    if (before && m.y() < 0) lips(m, d);
    if (!form_.ear.missing && (m - ear_.middle()).norm() < ear_.reach() + 10) {
        d = join(d, ear_.distance(m), 3.5);
        ear_.hollow(m, d);
    }
    if (before) {
        openings(m, d);
        d = std::min(d, inside(m));
    }
    return d;
}

}  // namespace veld::foreign
