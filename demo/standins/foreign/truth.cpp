// Where the landmarks of an implicit head are: extremes of its midline and contours, and places of its own curves.
#include "core/landmark/landmarks.h"
#include "demo/standins/foreign/solid.h"

namespace veld::foreign {

namespace {

constexpr double kNothing = -1e6;

}  // namespace

Vec3 Head::onto_skin(Vec3 p, const Vec3& along) const {
    for (int i = 0; i < 24; ++i) {
        const double d = skin(p), h = 0.02;
        if (std::abs(d) < 1e-3) break;
        Vec3 slope;
        for (int k = 0; k < 3; ++k) {
            const Vec3 step = h * Vec3::Unit(k);
            slope[k] = (skin(p + step) - skin(p - step)) / (2 * h);
        }
        if (!along.isZero()) slope = slope.dot(along) * along;
        if (slope.squaredNorm() < 1e-6) break;
        Vec3 move = -d * slope / slope.squaredNorm();
        if (move.norm() > 2) move *= 2 / move.norm();
        p += 0.8 * move;
    }
    return p;
}

double Head::front(double y, double x) const {
    double z = 150;
    for (int i = 0; i < 400 && z > 20; ++i) {
        const double d = skin(Vec3(x, y, z));
        if (d < 2e-3) return z;
        z -= std::max(0.5 * d, 2e-3);
    }
    return kNothing;
}

// The midline from the side, read as a person with a ruler would: most forward, deepest, angles by their chords.
std::map<std::string, Vec3> Head::profile() const {
    std::map<std::string, Vec3> out;
    const double tip = -form_.nose_length;
    // x of the midline is bent with the unevenness
    const auto place = [&](double y) {
        const double x = unwobbled(Vec3(0, y, form_.face_front)).x();
        return Vec3(x, y, front(y, x));
    };
    const auto best = [&](double from, double to, const auto& score) {
        Vec3 at = place(from);
        for (double y = from; y >= to; y -= 0.2) {
            const Vec3 p = place(y);
            if (p.z() > kNothing / 2 && score(p) > score(at)) at = p;
        }
        return at;
    };
    const auto forward = [](const Vec3& p) { return p.z(); };
    const auto back = [](const Vec3& p) { return -p.z(); };
    const auto below = [](const Vec3& a, const Vec3& b) {  // how deep a place lies behind the chord
        return [a, b](const Vec3& p) { return -(b - a).cross(p - a).x(); };
    };
    // an extreme at the end of where it may be is none
    const auto keep_inside = [&](const std::string& name, double from, double to) {
        if (std::abs(out[name].y() - from) < 0.5 || std::abs(out[name].y() - to) < 0.5) out.erase(name);
    };
    out["glabella"] = best(26, 8, forward);
    out["sellion"] = best(out["glabella"].y() - 4, -14, back);
    out["pronasale"] = best(tip + 16, tip - 9, forward);
    const Vec3 upper = unwobbled(lip_place(0, true, 1)), lower = unwobbled(lip_place(0, false, 1));
    out["labiale_superius"] = onto_skin(upper), out["labiale_inferius"] = onto_skin(lower);
    out["subnasale"] = best(out["pronasale"].y() - 3, out["labiale_superius"].y() + 3,
                            below(out["labiale_superius"], out["pronasale"]));
    if (form_.mouth == Mouth::Shut)
        out["stomion"] = place(unwobbled(Vec3(0, lip_gap(0, true), form_.mouth_front)).y());
    const double low = jaw(form_.chin).y();
    out["pogonion"] = best(low + 12, low - form_.chin_size, forward);
    out["sublabiale"] = best(out["labiale_inferius"].y() - 2, out["pogonion"].y() + 2,
                             below(out["pogonion"], out["labiale_inferius"]));
    out["gnathion"] =
        best(out["pogonion"].y(), low - form_.chin_size - 8, [](const Vec3& p) { return p.z() - 1.6 * p.y(); });
    const double chin = out["pogonion"].y(), tip_y = out["pronasale"].y(), brow = out["glabella"].y();
    keep_inside("sublabiale", out["labiale_inferius"].y() - 2, chin + 2);
    keep_inside("gnathion", chin, low - form_.chin_size - 8);
    keep_inside("pogonion", low + 12, low - form_.chin_size);
    keep_inside("subnasale", tip_y - 3, out["labiale_superius"].y() + 3);
    keep_inside("sellion", brow - 4, -14);
    keep_inside("pronasale", tip + 16, tip - 9);
    keep_inside("glabella", 26, 8);
    return out;
}

void Head::add_eyes(std::map<std::string, Vec3>& out) const {
    const auto on_lid = [&](double x, bool upper) {
        const double y = lid_edge(x, form_.lids == Lids::Shut ? false : upper);
        const double r = form_.ball + form_.lid_thick, dx = x - eye_.x();
        return Vec3(x, y, eye_.z() + std::sqrt(std::max(1.0, r * r - dx * dx - y * y)));
    };
    const double in = eye_.x() - form_.lid_in, wide = form_.lid_in + form_.lid_out;
    out["endocanthion_l"] = on_lid(in, true), out["exocanthion_l"] = on_lid(in + wide, true);
    for (const bool upper : {true, false}) {
        // of lids that hang over or are shut the middle of their edge: its corners are higher
        Vec3 extreme = on_lid(in + 0.5 * wide, upper);
        for (double x = in; x < in + wide && (form_.lids == Lids::Open || !upper); x += 0.2) {
            if (form_.lids == Lids::Shut) break;
            const Vec3 p = on_lid(x, upper);
            if (upper ? p.y() > extreme.y() : p.y() < extreme.y()) extreme = p;
        }
        out[upper ? "palpebrale_superius_l" : "palpebrale_inferius_l"] = extreme;
    }
    if (form_.lids != Lids::Shut) out["pupil_l"] = eye_ + Vec3(0, 0, form_.ball + 0.8);
}

// From a place on the wing of the nose down and outwards: where the skin is deepest under a ball that rolls there, the
// wing goes over into the lip.
Vec3 Head::under_wing(const Vec3& from) const {
    constexpr double kBallMm = 2.0, kFarMm = 6.0, kStepMm = 0.2;
    const Vec3 way = Vec3(from.x() > 0 ? 0.5 : -0.5, -0.75, -0.45).normalized();
    Vec3 best = from;
    double least = 1e9;
    for (double t = 0; t < kFarMm; t += kStepMm) {
        const Vec3 p = onto_skin(from + t * way);
        Vec3 out;
        for (int k = 0; k < 3; ++k) out[k] = skin(p + 0.05 * Vec3::Unit(k)) - skin(p - 0.05 * Vec3::Unit(k));
        const double room = skin(p + kBallMm * out.normalized());
        if (room < least) least = room, best = p;
    }
    return best;
}

// Where upper and lower edge meet, the skin falls into a slit. The commissure is marked where it is seen, as the ball
// at the end of a caliper lies in it, and not at the slit's bottom.
Vec3 Head::in_slit(const Vec3& bottom) const {
    constexpr double kTipMm = 1.0, kDeepMm = 9.0, kStepMm = 0.1;
    for (double out = kDeepMm; out > 0; out -= kStepMm) {
        const Vec3 p = bottom + Vec3(0, 0, out);
        if (skin(p) < kTipMm) return onto_skin(p);
    }
    return bottom;
}

std::map<std::string, Vec3> Head::points() const {
    std::map<std::string, Vec3> left;
    add_eyes(left);
    left["brow_inner_l"] = brow_.points.front(), left["brow_outer_l"] = brow_.points.back();
    Vec3 high = brow_.points.front();
    for (const Vec3& p : brow_.points) high = p.y() > high.y() ? p : high;
    left["superciliare_l"] = high;
    const double low = -form_.nose_length, z = form_.eye_z + 17;
    left["alare_l"] = Vec3(form_.nose_wide, low - 2.5, z + 7);
    left["subalare_l"] = Vec3(form_.nose_wide - 1, low - 9.5, z + 3);
    left["cheilion_l"] = Vec3(corner_x_, corner_y_, corner_z_ + 1.0);
    left["crista_philtri_l"] = lip_place(5.5, true, 1);
    left["zygion_l"] = Vec3(0.92 * form_.skull.x() + 3, -11, 24);
    left["gonion_l"] = jaw(form_.gonion, 0.3) + Vec3(form_.jaw_size + 1, -3, -3);
    if (!form_.ear.missing) left.merge(ear_.points());
    std::map<std::string, Vec3> out = profile();
    for (const auto& [name, p] : left) {
        out[name] = onto_skin(unwobbled(p));
        out[other_side(name)] = onto_skin(unwobbled(Vec3(-p.x(), p.y(), p.z())));
    }
    for (const char* name : {"subalare_l", "subalare_r"}) out[name] = under_wing(out[name]);
    for (const char* name : {"endocanthion_l", "exocanthion_l", "endocanthion_r", "exocanthion_r", "cheilion_l",
                             "cheilion_r", "stomion"}) {
        if (const auto at = out.find(name); at != out.end()) at->second = in_slit(at->second);
    }
    // extremes of the outline
    Vec3 top(0, form_.skull_y + form_.skull.y(), form_.skull_z),
        rear(0, form_.skull_y, form_.skull_z - form_.skull.z());
    out["vertex"] = onto_skin(unwobbled(top));
    out["opisthocranion"] = onto_skin(unwobbled(rear));
    return out;
}

std::map<std::string, Points> Head::curves() const {
    std::map<std::string, Points> out;
    const auto both = [&](const std::string& name, const Points& line) {
        for (const Vec3& p : line) {
            out[name + "_l"].push_back(onto_skin(unwobbled(p)));
            out[name + "_r"].push_back(onto_skin(unwobbled(Vec3(-p.x(), p.y(), p.z()))));
        }
    };
    const double in = eye_.x() - form_.lid_in, wide = form_.lid_in + form_.lid_out;
    for (const bool upper : {true, false}) {
        Points line, lip;
        for (int i = 0; i <= 16; ++i) {
            const double x = in + wide * i / 16, y = lid_edge(x, upper && form_.lids != Lids::Shut), dx = x - eye_.x();
            const double r = form_.ball + form_.lid_thick;
            line.push_back({x, y, eye_.z() + std::sqrt(std::max(1.0, r * r - dx * dx - y * y))});
            lip.push_back(onto_skin(unwobbled(lip_place(corner_x_ * (i - 8) / 8.0, upper, 1))));
        }
        both(upper ? "upper_lid" : "lower_lid", line);
        out[upper ? "upper_lip_border" : "lower_lip_border"] = lip;
    }
    both("brow", brow_.points);
    if (form_.mouth == Mouth::Shut) {
        for (const Vec3& edge : out["upper_lip_border"]) {
            const Vec3 p = wobbled(edge);
            out["mouth_line"].push_back(
                onto_skin(unwobbled(Vec3(p.x(), lip_gap(p.x(), true), lip_place(p.x(), true, 0).z() + 1))));
        }
    }
    if (form_.mouth != Mouth::Shut) {
        for (const bool upper : {true, false}) {
            for (int i = -8; i <= 8; ++i) {
                const double x = corner_x_ * i / 8.0;
                const Vec3 edge(x, lip_gap(x, upper), lip_place(x, upper, 0).z());
                out[upper ? "upper_lip_inner" : "lower_lip_inner"].push_back(onto_skin(unwobbled(edge)));
            }
        }
    }
    if (!form_.ear.missing) both("ear_rim", ear_.rim()), both("antihelix", ear_.antihelix());
    return out;
}

}  // namespace veld::foreign
