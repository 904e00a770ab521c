#include "demo/standins/foreign/solid.h"

namespace veld::foreign {

namespace {

// In shares of the ear's length: back, up.
struct Flat {
    double u, v;
};
constexpr Flat kHelix[] = {{0.02, 0.10}, {0.00, 0.24},  {0.06, 0.39},  {0.19, 0.485}, {0.35, 0.48},  {0.49, 0.39},
                           {0.56, 0.23}, {0.555, 0.05}, {0.49, -0.12}, {0.40, -0.25}, {0.31, -0.35}, {0.25, -0.41}};
constexpr Flat kLobeMiddle = {0.165, -0.37};
constexpr Flat kLobeSize = {0.115, 0.12};
constexpr Flat kFold[] = {{0.27, -0.21}, {0.37, -0.10}, {0.41, 0.05}, {0.39, 0.19}, {0.29, 0.35}};
constexpr Flat kCrus[] = {{0.02, 0.11}, {0.09, 0.06}, {0.20, 0.03}};

}  // namespace

Ear::Ear(const EarForm& form, double side_x) : form_(form) {
    const double d = M_PI / 180, off = form.stands_off * d, lean = form.leans * d;
    origin_ = form.root + Vec3(side_x, 0, 0);
    // leaning: its top goes back, about the x axis; standing off: its back edge goes out
    const Vec3 flat_back(0, std::sin(lean), -std::cos(lean)), flat_up(0, std::cos(lean), std::sin(-lean));
    back_ = std::cos(off) * flat_back + std::sin(off) * Vec3::UnitX();
    up_ = flat_up;
    out_ = up_.cross(back_).x() > 0 ? Vec3(up_.cross(back_)) : Vec3(back_.cross(up_));
    const double wide = form.width / 0.57;
    Points helix, fold, crus;
    for (const Flat& f : kHelix) {
        double u = f.u * wide, v = f.v;
        if (f.v > 0.25)
            v += form.pointed * 0.55 * std::exp(-std::pow((f.u - 0.42) / 0.13, 2)),
                u += 0.2 * form.pointed * (f.v - 0.25);
        const double edge = 2.4 + 3.0 * ramp(0.1, 0.45, f.v);  // the rim stands before the plate at the top
        helix.push_back(place(u, v, edge));
    }
    for (const Flat& f : kFold) fold.push_back(place(f.u * wide, f.v, 2.6));
    for (const Flat& f : kCrus) crus.push_back(place(f.u * wide, f.v, 2.4));
    helix_.points = smooth_through(helix, 4), fold_.points = smooth_through(fold, 4);
    crus_.points = smooth_through(crus, 3);
    const double size = form.length / 62;
    for (std::size_t i = 0; i < helix_.points.size(); ++i)
        helix_.radii.push_back(size * form.rim *
                               (3.1 - 0.9 * static_cast<double>(i) / static_cast<double>(helix_.points.size())));
    fold_.radii.assign(fold_.points.size(), 2.7 * size * form.fold);
    crus_.radii.assign(crus_.points.size(), 2.0 * size);
    const auto flat = [&](const Vec3& p) { return Vec3((p - origin_).dot(back_), (p - origin_).dot(up_), 0); };
    for (const Vec3& p : helix_.points) outline_.push_back(flat(p));
    for (const Flat f : {Flat{0.16, -0.44}, Flat{0.07, -0.38}, Flat{0.04, -0.25}})
        outline_.push_back(Vec3(f.u * wide * form.length, f.v * form.length, 0));
    // the lobe from the rim's end around to the cheek
    for (int i = 0; i <= 8; ++i) {
        const double a = (-10 - (form.lobe_attached ? 11 : 17) * i) * d;
        lobe_.push_back(place(wide * kLobeMiddle.u + kLobeSize.u * std::cos(a),
                              kLobeMiddle.v + form.lobe * kLobeSize.v * std::sin(a)));
    }
}

Vec3 Ear::place(double back, double up, double out) const {
    return origin_ + form_.length * (back * back_ + up * up_) + out * out_;
}

double Ear::distance(const Vec3& p) const {
    const Vec3 q = p - origin_;
    const double u = q.dot(back_), v = q.dot(up_), w = q.dot(out_), size = form_.length / 62;
    const double bowl = -6.5 * size *
                        std::exp(-(std::pow((u - 0.22 * form_.length) / (0.15 * form_.length), 2) +
                                   std::pow((v + 0.03 * form_.length) / (0.2 * form_.length), 2)));
    const double thick = (v < -0.3 * form_.length ? 2.6 : 1.5) * size;
    double d = meet(outline_distance(outline_, u, v), std::abs(w - bowl) - thick, 1.5);
    d = join(d, helix_.distance(p), 1.6 * size);
    d = join(d, fold_.distance(p), 3.2 * size);
    d = join(d, crus_.distance(p), 2.0 * size);
    d = join(d, ellipsoid(p, place(0.07, -0.09, 2.5), Vec3(4.5, 6.0, 4.0) * size), 3 * size);   // tragus
    d = join(d, ellipsoid(p, place(0.25, -0.255, 2.0), Vec3(4.0, 3.6, 4.6) * size), 3 * size);  // antitragus
    const Vec3 lobe = place(kLobeMiddle.u * form_.width / 0.57, kLobeMiddle.v, 0.5);
    const Vec3 r(kLobeSize.u * form_.length, kLobeSize.v * form_.lobe * form_.length, 3.6 * size);
    const Vec3 l = p - lobe, flat(l.dot(back_), l.dot(up_), l.dot(out_));
    d = join(
        d, meet(std::hypot(flat.x(), flat.y() * r.x() / r.y()) - r.x(), std::abs(flat.z()) - 0.7 * r.z(), 2.5 * size),
        4.5 * size);
    if (form_.lobe_attached)
        d = join(d, limb(p, place(0.03, -0.30, -1), place(0.12, -0.40, -2), 3.2 * size, 3.2 * size), 4);
    // what holds it to the head
    d = join(d, limb(p, place(0.12, 0.22, -5 * size), place(0.14, -0.20, -5 * size), 4.5 * size, 4.5 * size), 4);
    return d;
}

void Ear::hollow(const Vec3& p, double& d) const {
    const double size = form_.length / 62;
    d = carve(d, ellipsoid(p, place(0.185, -0.06, 1.5), Vec3(5.5, 8.0, 6.5) * size), 2.5);
}

std::map<std::string, Vec3> Ear::points() const {
    std::map<std::string, Vec3> out;
    const auto rim = this->rim();
    Vec3 top = rim.front(), rear = rim.front(), low = rim.back();
    for (const Vec3& p : rim) {
        if (p.y() > top.y()) top = p;
        if ((p - origin_).dot(back_) > (rear - origin_).dot(back_)) rear = p;
        if (p.y() < low.y()) low = p;
    }
    out["superaurale_l"] = top, out["postaurale_l"] = rear, out["subaurale_l"] = low;
    out["tragion_l"] = place(0.035, 0.02, 2.0);
    return out;
}

Points Ear::rim() const {
    Points out;
    const Vec3 middle = place(0.28, 0.05);
    for (std::size_t i = 0; i < helix_.points.size(); ++i) {
        Vec3 outwards = helix_.points[i] - middle;
        outwards -= outwards.dot(out_) * out_;
        out.push_back(helix_.points[i] + helix_.radii[i] * outwards.normalized());
    }
    out.insert(out.end(), lobe_.begin(), lobe_.end());
    return out;
}

}  // namespace veld::foreign
