#include "demo/standins/foreign/form.h"

#include <random>

namespace veld::foreign {

const char* kind_name(Kind kind) {
    constexpr const char* names[] = {"adult", "lean", "heavy", "old", "child", "stylised", "creature"};
    return names[static_cast<int>(kind)];
}
const char* mouth_name(Mouth mouth) {
    constexpr const char* names[] = {"shut", "parted", "open"};
    return names[static_cast<int>(mouth)];
}
const char* lids_name(Lids lids) {
    constexpr const char* names[] = {"open", "half", "shut"};
    return names[static_cast<int>(lids)];
}
const char* cover_name(Cover cover) {
    constexpr const char* names[] = {"bald", "cropped", "short",      "long", "cap",
                                     "hat",  "helmet",  "headphones", "horns"};
    return names[static_cast<int>(cover)];
}

namespace {

class Draw {
 public:
    explicit Draw(unsigned seed) : random_(seed * 2654435761u + 17) {}
    double between(double low, double high) {
        return low + (high - low) * std::uniform_real_distribution<>()(random_);
    }
    double around(double middle, double spread) {
        return middle + spread * std::clamp(std::normal_distribution<>()(random_), -2.2, 2.2);
    }
    bool chance(double p) { return between(0, 1) < p; }
    int pick(std::initializer_list<double> shares) {
        double at = between(0, 1);
        int i = 0;
        for (const double s : shares) {
            if ((at -= s) < 0) return i;
            ++i;
        }
        return 0;
    }

 private:
    std::mt19937 random_;
};

void draw_ear(Draw& draw, EarForm& ear) {
    ear.length = std::clamp(draw.around(62, 7), 45.0, 80.0);
    ear.width = draw.around(0.57, 0.05);
    ear.stands_off = draw.between(6, 50);
    ear.leans = draw.around(11, 6);
    ear.lobe = draw.between(0.6, 1.4);
    ear.lobe_attached = draw.chance(0.4);
    ear.rim = draw.around(1, 0.18);
    ear.fold = draw.around(1, 0.2);
    ear.pointed = draw.chance(0.08) ? 0.5 : 0;
    ear.root = Vec3(0, draw.around(-8, 4), draw.around(-2, 5));
}

// What the kind of head does to the numbers of an adult's.
void shape_kind(Draw& draw, Form& f) {
    switch (f.kind) {
        case Kind::Adult:
            break;
        case Kind::Lean:
            f.cheek_fat = -0.8, f.cheekbone = 1.5, f.neck_size -= 6, f.face_width -= 3, f.age += 0.2;
            break;
        case Kind::Heavy:
            f.cheek_fat = 1.6, f.neck_size += 12, f.jaw_size += 6, f.face_width += 5, f.chin_size += 2;
            break;
        case Kind::Old:
            f.age = 1, f.ear.length += 6, f.lip_upper *= 0.6, f.lip_lower *= 0.7, f.lid_up -= 0.8;
            break;
        case Kind::Child:
            f.face_low += 22, f.chin.y() += 20, f.chin.z() -= 6, f.gonion.y() += 14, f.jaw_size -= 2, f.chin_size -= 2;
            f.nose_length *= 0.72, f.nose_forward *= 0.65, f.nose_wide *= 0.85, f.brow_ridge = 0, f.cheek_fat += 0.8;
            f.mouth_y += 13, f.mouth_wide *= 0.82, f.neck_size *= 0.75, f.ear.length *= 0.9, f.ball += 0.2, f.age = 0;
            f.mouth_front -= 3;
            break;
        case Kind::Stylised: {
            f.ball *= draw.between(1.15, 1.6);
            const double grown = f.ball / 12.4;
            f.lid_in *= grown, f.lid_out *= grown, f.lid_up *= grown * 1.15, f.lid_down *= grown;
            f.eye_x = std::max(f.eye_x, f.lid_in + 7), f.eye_z -= (grown - 1) * 10;
            if (draw.chance(0.5)) {
                f.nose_forward *= 0.6, f.nose_wide *= 0.7, f.nose_length *= 0.75;
            } else {
                f.chin.y() -= 18, f.face_low -= 14, f.gonion.y() -= 8;  // a long jaw
            }
            f.skull *= draw.between(1.0, 1.12);
            break;
        }
        case Kind::Creature:
            f.brow_ridge = 2.6, f.jaw_size += 6, f.chin.z() += 8, f.nose_wide *= 1.35, f.nose_forward *= 0.8;
            f.ear.pointed = draw.between(0.4, 1.0), f.ear.stands_off += 10, f.cheekbone = 2.2, f.neck_size += 10;
            f.lid_up *= 0.85, f.mouth_wide *= 1.15;
            break;
    }
}

}  // namespace

Form make_form(unsigned seed) {
    Draw draw(seed);
    Form f;
    f.seed = seed;
    f.kind = static_cast<Kind>(draw.pick({0.36, 0.12, 0.12, 0.1, 0.1, 0.12, 0.08}));
    f.skull = Vec3(draw.around(74, 3.5), draw.around(88, 4), draw.around(95, 4));
    f.skull_y = draw.around(24, 3), f.skull_z = draw.around(-4, 2);
    f.face_width = draw.around(56, 3), f.face_low = draw.around(-110, 5);
    f.chin = Vec3(0, f.face_low + draw.around(8, 1.5), draw.around(84, 4));
    f.chin_size = draw.around(13, 1.5), f.chin_wide = draw.between(5, 15);
    f.gonion = Vec3(draw.around(51, 4), draw.around(-70, 5), draw.around(10, 4));
    f.jaw_size = draw.around(13, 2), f.cheekbone = draw.around(1, 0.35), f.cheek_fat = draw.around(0.2, 0.4);
    f.brow_ridge = std::max(0.0, draw.around(0.9, 0.5)), f.age = draw.between(0, 0.6);
    f.neck_size = draw.around(51, 5), f.neck_back = draw.around(-22, 4);
    f.eye_x = draw.around(31.5, 1.6), f.eye_z = draw.around(75, 2), f.ball = draw.around(12.3, 0.3);
    f.lid_in = draw.around(13.4, 0.8), f.lid_out = draw.around(14.2, 0.8), f.lid_up = draw.around(5.2, 0.9);
    f.lid_down = draw.around(4.5, 0.6), f.tilt = draw.around(1.8, 1.8);
    f.nose_length = draw.around(36, 4), f.nose_forward = draw.around(20, 3.5), f.nose_wide = draw.around(15.5, 2.2);
    f.nose_bridge = draw.around(5.5, 1), f.nose_tip = draw.around(7.3, 0.9), f.nose_up = draw.around(0, 3);
    f.mouth_y = -f.nose_length - draw.around(33, 3), f.mouth_wide = draw.around(25, 2.3);
    f.mouth_y = std::max(f.mouth_y, f.face_low + 33);
    f.lip_upper = draw.around(3.9, 0.8), f.lip_lower = draw.around(4.8, 0.8), f.mouth_front = draw.around(98, 2.5);
    draw_ear(draw, f.ear);
    shape_kind(draw, f);
    f.ear.length = std::clamp(f.ear.length, 45.0, 80.0);

    f.lids = static_cast<Lids>(draw.pick({0.74, 0.12, 0.14}));
    if (f.lids == Lids::Half) f.lid_up = -0.15 * f.lid_down, f.lid_down *= 0.95;
    f.mouth = static_cast<Mouth>(draw.pick({0.62, 0.16, 0.22}));
    f.jaw_open = f.mouth == Mouth::Open ? draw.between(8, 20) : f.mouth == Mouth::Parted ? draw.between(2, 4) : 0;
    f.teeth = draw.chance(0.7), f.smile = draw.chance(0.15);
    f.cover = static_cast<Cover>(draw.pick({0.24, 0.18, 0.2, 0.1, 0.07, 0.05, 0.05, 0.05, 0.06}));
    if (f.kind == Kind::Child && f.cover == Cover::Horns) f.cover = Cover::Short;
    f.beard = f.kind != Kind::Child && draw.chance(0.17), f.glasses = draw.chance(0.13), f.collar = draw.chance(0.15);
    f.ear.missing = draw.chance(0.05);
    f.hair_mm = f.cover == Cover::Cropped ? draw.between(1, 4) : draw.between(9, 26);
    f.hairline = f.skull_y + f.skull.y() * draw.between(0.42, 0.62), f.beard_mm = draw.between(2, 14);
    for (int i = 0; i < 6; ++i) {
        const double wave = draw.between(70, 190);
        const Vec3 way(draw.around(0, 1), draw.around(0, 1), draw.around(0, 1));
        f.wobble[i] = 2 * M_PI / wave * way.normalized();
        f.wobble_phase[i] = Vec3(draw.between(0, 6), draw.between(0, 6), draw.between(0, 6));
        f.wobble_by[i] = Vec3(draw.around(0, 0.5), draw.around(0, 0.5), draw.around(0, 0.5));
    }
    const double dark = draw.between(0.35, 1.1);
    f.tone = {205 * dark + 20, 165 * dark + 5, 142 * dark};
    return f;
}

}  // namespace veld::foreign
