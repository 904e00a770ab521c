#include <algorithm>
#include <cmath>
#include <cstdio>

#include "core/linalg/statistics.h"
#include "core/photo/head_work.h"
#include "core/photo/seen.h"

namespace veld {
namespace {

constexpr double kRoughMm = 3.0;
constexpr double kLensDiffers = 0.4, kOutlierPhotoMm = 1.25, kFoundOutlierPhotoMm = 3.5;

// A profile's guess, which starts a fit and measures none.
bool rough(const PhotoView2D& view, const std::string& name) {
    if (!view.found || !view.found->by_outline) return false;
    const Trust trust = view.marks.trust_of(name);
    return !kept_by_hand(trust) && trust.expected_mm > kRoughMm * view.found->pixels_per_mm;
}

// The photograph whose marks the common shape explains worst, when that is worse than marks of one person are; -1:
// none. Marks of hands agree within a millimetre and a quarter even when each is a millimetre off; the network's are
// off by more, each in its own way, so only gross outliers are told from them.
int outlier_photo(const PhotoHeadInput& in, const std::vector<PhotoFigures>& photos) {
    int by_hand = 0, all = 0, worst = -1;
    double most = 0;
    for (const PhotoView2D& view : in.photos) {
        for (const auto& [name, p] : view.marks.points) ++all, by_hand += kept_by_hand(view.marks.trust_of(name));
    }
    const bool hands = 10 * by_hand > 7 * all;
    const double cap = hands ? 4.0 : 10.0;  // one wrong landmark makes no outlier
    for (std::size_t i = 0; i < photos.size() && photos.size() > 1; ++i) {
        double sum = 0;
        for (const auto& [name, mm] : photos[i].landmark_mm) sum += std::min(mm, cap) * std::min(mm, cap);
        const double rms = std::sqrt(sum / std::max<std::size_t>(photos[i].landmark_mm.size(), 1));
        if (photos[i].landmark_mm.size() >= 8 && rms > most) most = rms, worst = static_cast<int>(i);
    }
    return most > (hands ? kOutlierPhotoMm : kFoundOutlierPhotoMm) ? worst : -1;
}

}  // namespace

PhotoFigures figures_of(const HeadWork& w, std::size_t i) {
    PhotoFigures out;
    const PhotoView2D& view = w.in.photos[i];
    out.name = view.name, out.camera = w.cameras[i];
    if (!out.camera) return out;
    const PhotoCamera& camera = *out.camera;
    const auto eye = [&](const char* name) {
        return w.points.contains(name) ? w.points.at(name).at(w.shape) : Vec3::Zero();
    };
    const Vec3 right = eye("exocanthion_r"), left = eye("exocanthion_l"), between = 0.5 * (right + left);
    const double eyes_mm = 0.72 * (left - right).norm();  // pupil to pupil, from corner to corner
    out.distance_mm = camera.parallel ? 0 : (between - camera.eye()).norm();
    double sum = 0;
    std::vector<double> all;
    for (const auto& [name, pixel] : w.in.photos[i].marks.points) {
        const auto place = w.points.find(name);
        if (place == w.points.end() || rough(w.in.photos[i], name)) continue;
        const Vec3 p = place->second.at(w.shape);
        const double mm = (camera.project(p) - pixel).norm() / camera.pixels_per_mm(p);
        out.landmark_mm[name] = mm, out.landmark_max_mm = std::max(out.landmark_max_mm, mm);
        sum += mm * mm, ++out.landmarks;
        all.push_back(mm);
    }
    if (out.landmarks > 0)
        out.landmark_rms_mm = std::sqrt(sum / out.landmarks),
        out.landmark_share = median(all) / std::max(eyes_mm, 1.0);
    const auto rms = [&](const std::vector<Sight>& sights) {
        double squares = 0;
        for (const Sight& s : sights) {
            const Vec3 p = s.place.at(w.shape);
            const double mm = s.across->dot(camera.project(p) - s.pixel) / camera.pixels_per_mm(p);
            squares += mm * mm;
        }
        return sights.empty() ? 0 : std::sqrt(squares / static_cast<double>(sights.size()));
    };
    const SurfaceQuery query(w.shape, w.outline.triangles);
    if (w.in.settings.use_curves) out.curve_rms_mm = rms(curve_sights(w, i, query, camera));
    out.outline_rms_mm = rms(w.outlines[i]), out.outline_points = static_cast<int>(w.outlines[i].size());
    return out;
}

void say_what_was_seen(const HeadWork& w, PhotoHead& out) {
    const BaseKit& kit = *w.in.kit;
    std::vector<PhotoCamera> cameras;
    std::vector<std::size_t> which;
    for (std::size_t i = 0; i < w.cameras.size(); ++i) {
        if (w.cameras[i]) cameras.push_back(*w.cameras[i]), which.push_back(i);
    }
    const auto bits = visible_in(kit, w.shape, cameras);
    out.seen_by.assign(bits.size(), 0);
    for (std::size_t k = 0; k < cameras.size(); ++k) {
        VertexMask shown(bits.size());
        for (Index v = 0; v < bits.size(); ++v) shown[v] = bits[v] >> k & 1u;
        const std::size_t i = which[k];
        if (!w.pictures[i].rgb.empty()) shown = skin_shown(kit, w.shape, cameras[k], shown, w.pictures[i], w.tones[i]);
        for (Index v = 0; v < bits.size(); ++v)
            out.seen_by[v] = static_cast<std::uint8_t>(std::min(out.seen_by[v] + shown[v], 2));
    }
    for (const auto& [name, vertices] : kit.regions) {
        std::array<double, 3> share{0, 0, 0};
        bool of_head = !vertices.empty();
        for (const Index v : vertices)
            of_head &= w.in.space->slot[v] != kNone,
                share[out.seen_by[v]] += 1.0 / static_cast<double>(vertices.size());
        if (of_head) out.region_seen[name] = share;
    }
}

Status say_what_looks_wrong(HeadWork& w, PhotoHead& out) {
    const PhotoHeadInput& in = w.in;
    std::vector<std::string> said;
    bool from_file = false;
    for (std::size_t i = 0; i < in.photos.size(); ++i)
        from_file |= w.cameras[i] && lens_of(in, i).from == PhotoLens::From::Picture && in.photos[i].focal_35mm > 0 &&
                     !lens_of(in, i).parallel;
    if (from_file) {
        PhotoHeadInput free = in;
        free.settings.lenses.resize(in.photos.size());
        for (PhotoLens& lens : free.settings.lenses) {
            if (lens.from == PhotoLens::From::Picture) lens.from = PhotoLens::From::Data;
        }
        free.settings.use_outline = false;
        HeadWork other{free, w.progress, w.points, w.curves,   w.cameras, {}, {},
                       {},   w.z,        w.shape,  w.strength, w.eyes_mm, {}};
        look_at_pictures(other);
        if (auto ok = solve_round(other, 2, in.space->count(), 12); !ok)
            return ok.error().code == ErrorCode::Cancelled ? Status(ok.error()) : Status(Done{});
        for (std::size_t i = 0; i < in.photos.size(); ++i) {
            if (!w.cameras[i] || is_guessed_profile(in.photos[i]) || in.photos[i].focal_35mm <= 0 ||
                lens_of(in, i).from != PhotoLens::From::Picture || lens_of(in, i).parallel)
                continue;
            const double ratio = other.cameras[i]->focal_35mm() / in.photos[i].focal_35mm;
            if (std::abs(std::log(ratio)) < kLensDiffers) continue;
            char text[320];
            std::snprintf(text, sizeof text,
                          "'%s' says %.0f mm, but its face looks as taken with about %.0f mm: was it cropped, or its "
                          "lens noted wrongly? If so, let the lens come from the data.",
                          in.photos[i].name.c_str(), in.photos[i].focal_35mm, other.cameras[i]->focal_35mm());
            said.emplace_back(text);
        }
    }
    if (const int at = outlier_photo(in, out.photos); at >= 0)
        said.push_back("The landmarks of '" + out.photos[static_cast<std::size_t>(at)].name +
                       "' do not go with the other photographs: is it another person, another expression, or are left "
                       "and right exchanged?");
    out.notes.insert(out.notes.begin(), said.begin(), said.end());
    return Done{};
}

}  // namespace veld
