#include "core/photo/photo_report.h"

#include <algorithm>
#include <cmath>
#include <cstdarg>
#include <cstdio>

#include "core/linalg/statistics.h"
#include "core/spatial/photo_camera.h"

namespace veld {
namespace {

__attribute__((format(printf, 1, 2))) std::string text(const char* format, ...) {
    char out[400];
    va_list arguments;
    va_start(arguments, format);
    std::vsnprintf(out, sizeof out, format, arguments);
    va_end(arguments);
    return out;
}

double luminance(const Pixels& p, int x, int y) {
    const std::uint8_t* c =
        &p.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(p.width) + static_cast<std::size_t>(x))];
    return 0.299 * c[0] + 0.587 * c[1] + 0.114 * c[2];
}

struct JudgedFace {
    const BaseKit& kit;
    const Photo& photo;
    const PhotoDetection& found;
    std::optional<Vec2> mark(const char* name) const {
        const auto at = found.marks.points.find(name);
        return at == found.marks.points.end() ? std::nullopt : std::optional(at->second);
    }
    Vec3 base(const char* name) const {
        const auto at = kit.landmarks.find(name);
        return at == kit.landmarks.end() ? Vec3::Zero() : at->second.at(kit.mesh.positions);
    }
};

void add(PhotoReport& out, PhotoGrade grade, const char* about, std::string says, std::string costs = {},
         std::string better = {}) {
    out.grade = std::max(out.grade, grade);
    out.remarks.push_back({grade, about, std::move(says), std::move(costs), std::move(better)});
}

void measure_size(const JudgedFace& f, PhotoReport& out) {
    std::vector<double> scale;
    const auto& samples = f.found.samples;
    for (std::size_t i = 0; i < samples.size(); i += 7) {
        for (std::size_t j = i + 3; j < samples.size(); j += 11) {
            const double mm =
                (samples[i].place.at(f.kit.mesh.positions) - samples[j].place.at(f.kit.mesh.positions)).norm();
            if (mm > 30) scale.push_back((samples[i].pixel - samples[j].pixel).norm() / mm);
        }
    }
    out.pixels_per_mm = scale.empty() ? f.found.pixels_per_mm : quantile(scale, 0.8);
    const auto r = f.mark("pupil_r"), l = f.mark("pupil_l");
    // turned away, the distance between the eyes says nothing of the resolution
    out.eyes_px = r && l && std::abs(out.yaw) < 25 ? (*r - *l).norm() : 63 * out.pixels_per_mm;
    const auto top = f.mark("sellion"), bottom = f.mark("subnasale");
    if (r && l && std::abs(out.yaw) < 50)
        out.roll = std::atan2((*l - *r).y(), (*l - *r).x()) * 180 / M_PI;
    else if (f.found.by_outline)
        out.roll = f.found.roll;
    else if (top && bottom)
        out.roll = std::atan2((*top - *bottom).x(), (*bottom - *top).y()) * 180 / M_PI;
    if (out.focal_35mm > 0 && out.pixels_per_mm > 0)
        out.distance_mm = focal_pixels(out.focal_35mm, out.width, out.height) / out.pixels_per_mm;
}

void measure_light(const JudgedFace& f, PhotoReport& out) {
    const Pixels& p = f.photo.pixels;
    std::vector<double> skin, left, right;
    int bright = 0, dark = 0, all = 0;
    for (const FaceSample& s : f.found.samples) {
        const int x = static_cast<int>(s.pixel.x()), y = static_cast<int>(s.pixel.y());
        if (x < 1 || y < 1 || x + 1 >= p.width || y + 1 >= p.height) continue;
        double l = 0;
        for (int i = -1; i <= 1; ++i) {
            for (int j = -1; j <= 1; ++j) {
                const std::uint8_t* c =
                    &p.rgba[4 * (static_cast<std::size_t>(y + j) * static_cast<std::size_t>(p.width) +
                                 static_cast<std::size_t>(x + i))];
                bright += std::max({c[0], c[1], c[2]}) >= 254, dark += std::max({c[0], c[1], c[2]}) <= 6, ++all;
                l += luminance(p, x + i, y + j) / 9;
            }
        }
        skin.push_back(l);
        const double side = s.place.at(f.kit.mesh.positions).x();
        if (side > 8) left.push_back(l);
        if (side < -8) right.push_back(l);
    }
    if (skin.size() < 20) return;
    out.too_bright = static_cast<double>(bright) / all, out.too_dark = static_cast<double>(dark) / all;
    out.contrast = (quantile(skin, 0.9) + 4) / (quantile(skin, 0.1) + 4);
    if (left.size() > 15 && right.size() > 15) {
        const double a = median(left) + 4, b = median(right) + 4;
        out.one_sided = std::max(a / b, b / a);
    }
}

void measure_expression(const JudgedFace& f, PhotoReport& out) {
    const double c = std::cos(out.roll * M_PI / 180), s = std::sin(out.roll * M_PI / 180);
    const auto up = [&](const Vec2& d) { return -(-s * d.x() + c * d.y()); };
    const auto corner_r = f.mark("cheilion_r"), corner_l = f.mark("cheilion_l"), middle = f.mark("stomion");
    if (corner_r && corner_l && middle && out.pixels_per_mm > 0 && std::abs(out.yaw) < 30) {
        const double rise = up(0.5 * (*corner_r + *corner_l) - *middle) / out.pixels_per_mm;
        const double base_rise = (0.5 * (f.base("cheilion_r") + f.base("cheilion_l")) - f.base("stomion")).y();
        const double wide = (*corner_l - *corner_r).norm() / out.pixels_per_mm /
                            std::max(std::cos(out.yaw * M_PI / 180), 0.3),
                     base_wide = (f.base("cheilion_l") - f.base("cheilion_r")).norm();
        out.smile_mm = rise - base_rise + 0.5 * std::max(0.0, wide - base_wide - 3);
    }
    for (int eye = 0; eye < 2; ++eye) {
        const std::string side = eye == 0 ? "_r" : "_l";
        const auto at = [&](const std::string& name) { return f.mark((name + side).c_str()); };
        const auto upper = at("palpebrale_superius"), lower = at("palpebrale_inferius");
        const double base_gap =
            (f.base(("palpebrale_superius" + side).c_str()) - f.base(("palpebrale_inferius" + side).c_str())).norm();
        out.lids[eye] = upper && lower && out.pixels_per_mm > 0 && base_gap > 0
                            ? (*upper - *lower).norm() / out.pixels_per_mm / base_gap
                            : -1;
    }
}

void remark_picture(PhotoReport& out) {
    using G = PhotoGrade;
    const double mm = 1 / std::max(out.pixels_per_mm, 1e-6);
    if (out.eyes_px >= 150)
        add(out, G::Good, "resolution", text("%.0f pixels between the eyes", out.eyes_px));
    else
        add(out, out.eyes_px >= 60 ? G::Usable : G::Poor, "resolution",
            text("only %.0f pixels between the eyes", out.eyes_px),
            text("a pixel is %.1f mm: points and skin are that coarse", mm),
            "Let the head fill half of the picture's height.");
    if (out.blur < 0.45)
        add(out, G::Good, "blur", "sharp enough");
    else
        add(out, out.blur < 0.6 ? G::Usable : G::Poor, "blur", out.blur < 0.6 ? "soft" : "blurred",
            "edges of lids and lips are found less surely, the skin loses its pores",
            "More light or a tripod; the eyes in focus.");
}

void remark_light(PhotoReport& out) {
    using G = PhotoGrade;
    if (out.too_bright > 0.02)
        add(out, out.too_bright > 0.1 ? G::Poor : G::Usable, "light",
            text("%.0f %% of the face is burnt out", 100 * out.too_bright), "no skin can be had from there",
            "Expose for the brightest skin.");
    if (out.too_dark > 0.05)
        add(out, out.too_dark > 0.2 ? G::Poor : G::Usable, "light",
            text("%.0f %% of the face is black", 100 * out.too_dark), "no skin can be had from there",
            "A second light, or a white wall beside the dark side.");
    if (out.one_sided > 1.6)
        add(out, out.one_sided > 3 ? G::Poor : G::Usable, "light",
            text("one half of the face is %.1f times brighter", out.one_sided),
            "the skin of the dark side is filled from the bright one", "Light from the front, or from both sides.");
    if (out.contrast > 4)
        add(out, out.contrast > 8 ? G::Poor : G::Usable, "shadow",
            text("strong shadows: bright skin is %.1f times as bright as dark", out.contrast),
            "shadows end up in the skin and are taken for outlines",
            "Soft light: an overcast sky, a window with a curtain.");
}

void remark_face(PhotoReport& out) {
    using G = PhotoGrade;
    if (out.smile_mm > 3)
        add(out, out.smile_mm > 7 ? G::Poor : G::Usable, "expression",
            text("a smile: the mouth's corners are %.0f mm out of rest", out.smile_mm),
            "it becomes part of the shape, and every expression starts from it", "A face at rest, lips together.");
    for (int eye = 0; eye < 2; ++eye) {
        if (out.lids[eye] >= 0 && out.lids[eye] < 0.4)
            add(out, G::Poor, "eyes", eye == 0 ? "the right eye is closed" : "the left eye is closed",
                "its lids cannot be placed", "A picture with open eyes.");
    }
}

void remark_camera(PhotoReport& out) {
    using G = PhotoGrade;
    if (std::abs(out.roll) > 15)
        add(out, G::Usable, "turn", text("the head leans by %.0f degrees", std::abs(out.roll)),
            "nothing by itself; the neck leans along", "Keep the head upright.");
    if (std::abs(out.pitch) > 18)
        add(out, G::Usable, "turn",
            text("seen %s by %.0f degrees", out.pitch > 0 ? "from above" : "from below", std::abs(out.pitch)),
            "chin or forehead are foreshortened", "The camera at the height of the eyes.");
    if (out.cut)
        add(out, G::Usable, "lens",
            "cut to another shape after it was taken: what the file says of its lens is not true any more",
            "the face's depth and the camera's distance are told apart by the data alone; it may have been cut "
            "off-centre",
            "The whole picture as the camera wrote it.");
    else if (out.focal_35mm <= 0)
        add(out, G::Usable, "lens", "the file does not say which lens",
            "the face's depth and the camera's distance are told apart by the data alone",
            "Keep the original file, or type the focal length.");
    if (out.distance_mm > 0 && out.distance_mm < 600)
        add(out, out.distance_mm < 350 ? G::Poor : G::Usable, "distance",
            text("about %.0f cm away: strong perspective", out.distance_mm / 10),
            "ears and jaw are hidden behind the cheeks; an error of the lens weighs more",
            "Stand a metre and a half away and zoom in.");
}

void remark(PhotoReport& out) {
    remark_picture(out);
    remark_light(out);
    remark_face(out);
    remark_camera(out);
}

}  // namespace

const char* photo_grade_name(PhotoGrade grade) {
    return grade == PhotoGrade::Good ? "good" : grade == PhotoGrade::Usable ? "usable" : "poor";
}

double blur_of(const Pixels& p, int left, int top, int width, int height) {
    const int x0 = std::clamp(left, 0, p.width), x1 = std::clamp(left + width, 0, p.width),
              y0 = std::clamp(top, 0, p.height), y1 = std::clamp(top + height, 0, p.height);
    if (x1 - x0 < 12 || y1 - y0 < 12) return 1;
    // at most about 400 x 400 numbers, whole pixels: blur is a matter of neighbours
    const int w = x1 - x0, h = y1 - y0;
    std::vector<double> l(static_cast<std::size_t>(w) * static_cast<std::size_t>(h));
    for (int y = 0; y < h; ++y) {
        for (int x = 0; x < w; ++x)
            l[static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x)] =
                luminance(p, x0 + x, y0 + y);
    }
    double worst = 0;
    for (const bool across : {true, false}) {
        const int n = across ? w : h, lines = across ? h : w;
        double before = 0, lost = 0;
        std::vector<double> sum(static_cast<std::size_t>(n) + 1), row(static_cast<std::size_t>(n)),
            soft(static_cast<std::size_t>(n));
        for (int i = 0; i < lines; ++i) {
            for (int k = 0; k < n; ++k)
                row[static_cast<std::size_t>(k)] =
                    across
                        ? l[static_cast<std::size_t>(i) * static_cast<std::size_t>(w) + static_cast<std::size_t>(k)]
                        : l[static_cast<std::size_t>(k) * static_cast<std::size_t>(w) + static_cast<std::size_t>(i)];
            for (std::size_t k = 0; k < row.size(); ++k) sum[k + 1] = sum[k] + row[k];
            for (int k = 0; k < n; ++k) {
                const int a = std::max(0, k - 4), b = std::min(n, k + 5);
                soft[static_cast<std::size_t>(k)] =
                    (sum[static_cast<std::size_t>(b)] - sum[static_cast<std::size_t>(a)]) / (b - a);
            }
            for (std::size_t k = 1; k < row.size(); ++k) {
                const double d = std::abs(row[k] - row[k - 1]), e = std::abs(soft[k] - soft[k - 1]);
                before += d, lost += std::max(0.0, d - e);
            }
        }
        if (before > 0) worst = std::max(worst, (before - lost) / before);
    }
    return worst;
}

PhotoReport report_on(const BaseKit& kit, const Photo& photo, const PhotoDetection* found, std::size_t by_hand) {
    PhotoReport out;
    out.name = photo.name, out.width = photo.pixels.width, out.height = photo.pixels.height,
    out.focal_35mm = photo.focal_35mm, out.cut = photo.cut;
    if (!found && by_hand >= 4) {
        add(out, PhotoGrade::Usable, "face", text("no face was found; %zu points are marked by hand", by_hand),
            "nothing is known of its light and its sharpness", "Look at both yourself.");
        return out;
    }
    if (!found) {
        add(out, PhotoGrade::Poor, "face", "no face was found", "every point has to be marked by hand",
            std::min(out.width, out.height) < 200
                ? text("A larger picture: this one has only %d x %d pixels.", out.width, out.height)
                : "A photograph of one face, not turned beyond a profile; or mark it by hand.");
        return out;
    }
    const JudgedFace face{kit, photo, *found};
    out.face = true, out.yaw = found->yaw, out.pitch = found->pitch;
    measure_size(face, out);
    Vec2 low = Vec2::Constant(1e9), high = Vec2::Constant(-1e9);
    for (const FaceSample& s : found->samples) low = low.cwiseMin(s.pixel), high = high.cwiseMax(s.pixel);
    for (const auto& [name, p] : found->marks.points) {
        if (found->by_outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
    }
    if (low.x() < high.x())
        out.blur = blur_of(photo.pixels, static_cast<int>(low.x()), static_cast<int>(low.y()),
                           static_cast<int>((high - low).x()), static_cast<int>((high - low).y()));
    measure_light(face, out);
    measure_expression(face, out);
    if (found->faces.size() > 1)
        add(out, PhotoGrade::Usable, "face", text("%zu faces are in the picture", found->faces.size()),
            "the largest is used unless another is selected", "A picture of one person alone, or cut to one.");
    remark(out);
    if (found->by_outline)
        add(out, PhotoGrade::Usable, "face", "seen from the side, found by its outline",
            "landmarks inside the outline are rough, most of all the ear's",
            "Check its landmarks and drag the ear's into place.");
    return out;
}

}  // namespace veld
