#pragma once
// What a made-up head looks like that shares nothing with any kit: numbers from a seed. mm; y = 0 at the eyes,
// +z forward, the head's own left is +x. The solid made of them is solid.h.
#include <string>

#include "core/base/types.h"

namespace veld::foreign {

enum class Kind { Adult, Lean, Heavy, Old, Child, Stylised, Creature };
enum class Mouth { Shut, Parted, Open };
enum class Lids { Open, Half, Shut };
enum class Cover { Bald, Cropped, Short, Long, Cap, Hat, Helmet, Headphones, Horns };
const char* kind_name(Kind kind);
const char* mouth_name(Mouth mouth);
const char* lids_name(Lids lids);
const char* cover_name(Cover cover);

struct EarForm {
    double length = 62, width = 0.58;    // mm; share of the length
    double stands_off = 22, leans = 12;  // degrees
    double lobe = 1, pointed = 0, rim = 1, fold = 1;
    bool lobe_attached = false, missing = false;
    Vec3 root{68, -8, -2};  // of its front edge, half way up
};

struct Form {
    unsigned seed = 1;
    Kind kind = Kind::Adult;
    Mouth mouth = Mouth::Shut;
    Lids lids = Lids::Open;
    Cover cover = Cover::Bald;
    bool beard = false, glasses = false, collar = false, teeth = true, smile = false;

    Vec3 skull{74, 88, 96};  // half sizes
    double skull_y = 24, skull_z = -3;
    double face_width = 56, face_front = 92, face_low = -112;
    Vec3 chin{0, -104, 84};
    double chin_size = 14, chin_wide = 10;
    Vec3 gonion{52, -72, 10};
    double jaw_size = 13, cheekbone = 1, cheek_fat = 0, brow_ridge = 1, age = 0.2;
    double neck_size = 52, neck_back = -22;

    double eye_x = 32, eye_z = 75, ball = 12.4;  // centre of the eyeball and its radius
    double lid_thick = 1.7, lid_in = 13.5, lid_out = 14.5, lid_up = 5.2, lid_down = 4.6, tilt = 2.0;
    double nose_length = 36, nose_forward = 21, nose_wide = 15, nose_bridge = 5.5, nose_tip = 7.5, nose_up = 0;
    double mouth_y = -69, mouth_wide = 25, lip_upper = 4.0, lip_lower = 5.0, mouth_front = 99,
           jaw_open = 0;  // degrees
    EarForm ear;
    double hair_mm = 10, hairline = 66, beard_mm = 8;
    Vec3 wobble[6], wobble_phase[6], wobble_by[6];  // smooth unevenness, both sides differ
    std::array<double, 3> tone{200, 160, 138};      // of the skin, 0..255
};

// Seeds from kMeasuredFrom on are only ever measured, never tuned on.
constexpr unsigned kMeasuredFrom = 10001;
Form make_form(unsigned seed);

}  // namespace veld::foreign
