#include "core/photo/photo_head.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>

#include "core/fit/follow.h"
#include "core/fit/problem.h"
#include "core/fit/push_apart.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/photo/photo_figures.h"
#include "core/photo/seen.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

// Standard deviations in mm at the face: what hands and networks miss a place by.
constexpr double kHandMm = 0.6, kFoundMm = 1.5, kSampleMm = 6.0, kCurveMm = 1.3, kFoundCurveMm = 2.5, kPinMm = 0.15,
                 kDepthMm = 4.0, kRoughMm = 3.0, kWallMm = 150;
constexpr double kRougherBy = 20;  // degrees of a head's turn that make what the network marks once more as rough
constexpr double kUsualLensSigma = 0.6, kSaidSigma = 0.04;
constexpr int kRounds = 5, kMostCalmer = 4;
constexpr double kLensDiffers = 0.4, kStrangerMm = 1.25, kFoundStrangerMm = 3.5;

struct FitWork {
    const PhotoHeadInput& in;
    const Progress& progress;
    std::map<std::string, SurfacePoint> points;
    std::map<std::string, std::vector<SurfacePoint>> curves;
    std::vector<std::optional<PhotoCamera>> cameras;
    std::vector<EdgePicture> pictures;  // empty ones: no pixels
    std::vector<SkinTone> tones;
    OutlineSurface outline;
    Eigen::VectorXd z;
    Points shape;
    double strength = 1;                       // of the shape space; more where the shape cut itself
    double eyes_mm = 0;                        // asked of the solve, so that the seated eyes end where they should
    std::vector<std::vector<Sight>> outlines;  // of the last round, per photograph
};

PhotoLens lens_of(const PhotoHeadInput& in, std::size_t i) {
    return i < in.settings.lenses.size() ? in.settings.lenses[i] : PhotoLens{};
}

PhotoCamera camera_like(const PhotoHeadInput& in, std::size_t i) {
    const PhotoView2D& view = in.photos[i];
    const PhotoLens lens = lens_of(in, i);
    PhotoCamera out;
    out.width = view.marks.width > 0 ? view.marks.width : view.photo ? view.photo->pixels.width : 0;
    out.height = view.marks.height > 0 ? view.marks.height : view.photo ? view.photo->pixels.height : 0;
    out.centre = lens.centre.value_or(0.5 * Vec2(out.width, out.height));
    out.parallel = lens.parallel;
    const double mm = lens.from == PhotoLens::From::Typed && lens.focal_35mm > 0     ? lens.focal_35mm
                      : lens.from == PhotoLens::From::Picture && view.focal_35mm > 0 ? view.focal_35mm
                                                                                     : kUsualLens;
    if (!out.parallel) out.focal = focal_pixels(mm, out.width, out.height);
    return out;
}

void expect_lens(const PhotoHeadInput& in, std::size_t i, SolveView& view) {
    const PhotoLens lens = lens_of(in, i);
    if (lens.parallel) return;
    const auto pixels = [&](double mm) { return focal_pixels(mm, view.camera.width, view.camera.height); };
    const double said = in.photos[i].focal_35mm;
    if (lens.from == PhotoLens::From::Typed && lens.focal_35mm > 0)
        view.focal_fixed = true, view.camera.focal = pixels(lens.focal_35mm);
    else if (lens.from == PhotoLens::From::Picture && said > 0)
        view.expected_focal = pixels(said), view.focal_sigma = kSaidSigma;
    else
        view.expected_focal = pixels(kUsualLens), view.focal_sigma = kUsualLensSigma;
}

// A profile that was found by its outline and that nobody marked.
bool guessed(const PhotoView2D& view) {
    if (!view.found || !view.found->camera) return false;
    return std::count_if(view.marks.points.begin(), view.marks.points.end(),
                         [&](const auto& p) { return kept_by_hand(view.marks.trust_of(p.first)); }) < 4;
}

// Pixels of a millimetre at the face, before any camera is known: from where marks and samples lie.
double rough_scale(const FitWork& w, std::size_t i) {
    std::vector<double> ratio;
    const Points& x = w.in.kit->mesh.positions;
    const auto& marked = w.in.photos[i].marks.points;
    for (auto a = marked.begin(); a != marked.end(); ++a) {
        for (auto b = std::next(a); b != marked.end(); ++b) {
            const auto p = w.points.find(a->first), q = w.points.find(b->first);
            if (p == w.points.end() || q == w.points.end()) continue;
            const double mm = (p->second.at(x) - q->second.at(x)).norm();
            if (mm > 25) ratio.push_back((a->second - b->second).norm() / mm);
        }
    }
    return ratio.empty() ? 1 : std::max(quantile(ratio, 0.8), 1e-3);  // seen across, not from the side
}

std::vector<Sight> point_sights(const FitWork& w, std::size_t i, double scale, bool pins) {
    const PhotoMarks& marks = w.in.photos[i].marks;
    std::vector<Sight> out;
    const auto& seen = w.in.photos[i].found;
    const double turned = seen && !seen->by_outline ? 1 + std::abs(seen->yaw) / kRougherBy : 1;
    for (const auto& [name, pixel] : marks.points) {
        const auto place = w.points.find(name);
        if (place == w.points.end()) continue;
        const Trust trust = marks.trust_of(name);
        const bool found = trust.origin == Origin::Found && !trust.accepted;
        out.push_back({place->second,
                       pixel,
                       found ? turned * std::max(kFoundMm * scale, trust.expected_mm) : kHandMm * scale,
                       {}});
    }
    if (seen) {
        for (const FaceSample& s : seen->samples) out.push_back({s.place, s.pixel, turned * kSampleMm * scale, {}});
    }
    for (const PhotoPin& pin : w.in.settings.pins) {
        if (pins && pin.photo == static_cast<int>(i)) out.push_back({pin.place, pin.pixel, kPinMm * scale, {}});
    }
    return out;
}

std::vector<DepthSight> depth_sights(const FitWork& w, std::size_t i, const PhotoCamera& camera) {
    std::vector<DepthSight> out;
    if (!w.in.settings.use_depth || !w.in.photos[i].found) return out;
    // one network, one error: all of a photograph's depths count as a twentieth of them would
    const Points& compared = w.in.kit->mesh.positions;
    for (const FaceSample& s : w.in.photos[i].found->samples)
        out.push_back({s.place, camera.to_camera(s.place.at(compared)).z() + s.deeper_mm, kDepthMm * std::sqrt(20.0)});
    return out;
}

// The place of a line that is nearest to a pixel, with the line's normal; none at its ends.
std::optional<std::pair<Vec2, Vec2>> nearest_on(const std::vector<Vec2>& line, const Vec2& p) {
    double best = 1e300;
    std::optional<std::pair<Vec2, Vec2>> out;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vec2 d = line[i + 1] - line[i];
        const double length = d.squaredNorm();
        if (length <= 0) continue;
        const double u = (p - line[i]).dot(d) / length;
        const bool past = (i == 0 && u < 0) || (i + 2 == line.size() && u > 1);
        const Vec2 q = line[i] + std::clamp(u, 0.0, 1.0) * d;
        if ((q - p).squaredNorm() >= best) continue;
        best = (q - p).squaredNorm();
        if (past)
            out.reset();
        else
            out = {q, Vec2(-d.y(), d.x()).normalized()};
    }
    return out;
}

std::vector<Sight> curve_sights(const FitWork& w, std::size_t i, const SurfaceQuery& query,
                                const PhotoCamera& camera) {
    std::vector<Sight> out;
    const PhotoMarks& marks = w.in.photos[i].marks;
    for (const auto& [name, line] : marks.curves) {
        const auto curve = w.curves.find(name);
        if (curve == w.curves.end()) continue;
        const Trust trust = marks.trust_of(name);
        const bool found = trust.origin == Origin::Found && !trust.accepted;
        for (const SurfacePoint& place : curve->second) {
            const Vec3 p = place.at(w.shape);
            if (!seen_from(camera, query, p)) continue;
            const auto at = nearest_on(line, camera.project(p));
            if (!at) continue;
            const double scale = camera.pixels_per_mm(p);
            out.push_back({place, at->first,
                           found ? std::max(kFoundCurveMm * scale, trust.expected_mm) : kCurveMm * scale, at->second});
        }
    }
    return out;
}

std::vector<Sight> find_outline(FitWork& w, std::size_t i, double reach_mm) {
    const PhotoCamera& camera = *w.cameras[i];
    auto points = contour(w.outline, w.shape, camera);
    // nobody said where ear and jaw are: only what stands before the wall is sure to be what it is taken for
    if (guessed(w.in.photos[i])) std::erase_if(points, [](const ContourPoint& p) { return p.behind_mm < kWallMm; });
    std::vector<Sight> out;
    bool drawn = false;
    for (const auto& [name, line] : w.in.photos[i].marks.curves) {
        if (!name.starts_with("outline") || line.size() < 2) continue;
        drawn = true;
        const auto more = drawn_outline_sights(points, line, camera, w.shape, 2 * reach_mm);
        out.insert(out.end(), more.begin(), more.end());
    }
    // a drawn line says where the outline is; what was not drawn there is not looked for
    if (!drawn && !w.pictures[i].rgb.empty())
        out = outline_sights(points, w.pictures[i], w.tones[i], camera, w.shape, reach_mm);
    return out;
}

void look_at_pictures(FitWork& w) {
    const std::size_t n = w.in.photos.size();
    w.pictures.resize(n), w.tones.resize(n), w.outlines.resize(n);
    w.outline = outline_surface(*w.in.kit);
    for (std::size_t i = 0; i < n; ++i) {
        if (!w.cameras[i] || !w.in.photos[i].photo) continue;
        w.pictures[i] = edge_picture(w.in.photos[i].photo->pixels, rough_scale(w, i));
        std::vector<Vec2> on_skin;
        if (w.in.photos[i].found) {
            for (const FaceSample& s : w.in.photos[i].found->samples) on_skin.push_back(s.pixel);
        }
        if (on_skin.empty()) {
            // no network: the base's own face under this camera
            const SurfaceQuery query(w.shape, w.outline.triangles);
            for (const Index v : w.in.kit->region("face")) {
                if (v % 3 == 0 && seen_from(*w.cameras[i], query, w.shape[v]))
                    on_skin.push_back(w.cameras[i]->project(w.shape[v]));
            }
        }
        w.tones[i] = skin_tone(w.pictures[i], on_skin);
    }
}

Status one_round(FitWork& w, int round, Eigen::Index modes, int iterations) {
    SolveProblem p;
    p.base = &w.in.kit->mesh.positions, p.space = w.in.space;
    p.one_lens = w.in.settings.one_lens, p.prior = w.strength, p.iterations = iterations;
    p.z = Eigen::VectorXd::Zero(modes);
    p.z.head(std::min(modes, w.z.size())) = w.z.head(std::min(modes, w.z.size()));
    if (w.in.settings.eyes_mm > 0 && w.points.contains("pupil_l") && w.points.contains("pupil_r"))
        p.sizes.push_back({w.points.at("pupil_l"), w.points.at("pupil_r"), w.eyes_mm, 0.1});
    const SurfaceQuery query(w.shape, w.outline.triangles);
    std::vector<std::size_t> which;
    for (std::size_t i = 0; i < w.in.photos.size(); ++i) {
        if (!w.cameras[i]) continue;
        SolveView view;
        view.camera = *w.cameras[i];
        expect_lens(w.in, i, view);
        if (guessed(w.in.photos[i])) view.expected_yaw = std::copysign(90, w.in.photos[i].found->yaw);
        const double scale = rough_scale(w, i);
        view.sights = point_sights(w, i, scale, true);
        view.depths = depth_sights(w, i, view.camera);
        if (round > 0 && w.in.settings.use_curves) {
            const auto more = curve_sights(w, i, query, view.camera);
            view.sights.insert(view.sights.end(), more.begin(), more.end());
        }
        if (round > 0 && w.in.settings.use_outline && !w.in.quick) {
            w.outlines[i] = find_outline(w, i, round == 1 ? 12 : round == 2 ? 8 : 5);
            view.sights.insert(view.sights.end(), w.outlines[i].begin(), w.outlines[i].end());
        }
        p.views.push_back(std::move(view)), which.push_back(i);
    }
    auto solved = solve_photos(p, w.progress);
    if (!solved) return solved.error();
    for (std::size_t k = 0; k < which.size(); ++k) w.cameras[which[k]] = solved->cameras[k];
    w.z = solved->z;
    w.shape = w.in.space->shape(w.in.kit->mesh.positions, w.z);
    return Done{};
}

// A profile's guess, which starts a fit and measures none.
bool rough(const PhotoView2D& view, const std::string& name) {
    if (!view.found || !view.found->by_outline) return false;
    const Trust trust = view.marks.trust_of(name);
    return !kept_by_hand(trust) && trust.expected_mm > kRoughMm * view.found->pixels_per_mm;
}

PhotoFigures figures_of(const FitWork& w, std::size_t i) {
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

void say_what_was_seen(const FitWork& w, PhotoHead& out) {
    const BaseKit& kit = *w.in.kit;
    std::vector<PhotoCamera> cameras;
    std::vector<std::size_t> which;
    for (std::size_t i = 0; i < w.cameras.size(); ++i) {
        if (w.cameras[i]) cameras.push_back(*w.cameras[i]), which.push_back(i);
    }
    const auto bits = visible_in(kit, w.shape, cameras);
    out.seen_by.assign(bits.size(), 0);
    for (std::size_t k = 0; k < cameras.size(); ++k) {
        std::vector<char> shown(bits.size());
        for (Index v = 0; v < bits.size(); ++v) shown[v] = static_cast<char>(bits[v] >> k & 1u);
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

// The photograph whose marks the common shape explains worst, when that is worse than marks of one person are; -1:
// none. Marks of hands agree within a millimetre and a quarter even when each is a millimetre off; the network's are
// off by more, each in its own way, so only gross strangers are told from them.
int stranger(const PhotoHeadInput& in, const std::vector<PhotoFigures>& photos) {
    int by_hand = 0, all = 0, worst = -1;
    double most = 0;
    for (const PhotoView2D& view : in.photos) {
        for (const auto& [name, p] : view.marks.points) ++all, by_hand += kept_by_hand(view.marks.trust_of(name));
    }
    const bool hands = 10 * by_hand > 7 * all;
    const double cap = hands ? 4.0 : 10.0;  // one wrong landmark makes no stranger
    for (std::size_t i = 0; i < photos.size() && photos.size() > 1; ++i) {
        double sum = 0;
        for (const auto& [name, mm] : photos[i].landmark_mm) sum += std::min(mm, cap) * std::min(mm, cap);
        const double rms = std::sqrt(sum / std::max<std::size_t>(photos[i].landmark_mm.size(), 1));
        if (photos[i].landmark_mm.size() >= 8 && rms > most) most = rms, worst = static_cast<int>(i);
    }
    return most > (hands ? kStrangerMm : kFoundStrangerMm) ? worst : -1;
}

// The lens that the data alone would choose, against the one that the file names; and whether the photographs
// show one person.
Status suspicions(FitWork& w, PhotoHead& out) {
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
        FitWork other{free, w.progress, w.points, w.curves,   w.cameras, {}, {},
                      {},   w.z,        w.shape,  w.strength, w.eyes_mm, {}};
        look_at_pictures(other);
        if (auto ok = one_round(other, 2, in.space->count(), 12); !ok)
            return ok.error().code == ErrorCode::Cancelled ? Status(ok.error()) : Status(Done{});
        for (std::size_t i = 0; i < in.photos.size(); ++i) {
            if (!w.cameras[i] || guessed(in.photos[i]) || in.photos[i].focal_35mm <= 0 ||
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
    if (const int at = stranger(in, out.photos); at >= 0)
        said.push_back("The landmarks of '" + out.photos[static_cast<std::size_t>(at)].name +
                       "' do not go with the other photographs: is it another person, another expression, or are left "
                       "and right exchanged?");
    out.notes.insert(out.notes.begin(), said.begin(), said.end());
    return Done{};
}

// Another focal length at the same size of the face: the camera comes closer or goes away.
void set_lens(const FitWork& w, PhotoCamera& camera, double focal) {
    const Vec3 face = w.points.contains("sellion") ? w.points.at("sellion").at(w.shape) : Vec3::Zero();
    camera.move.z() += (focal / camera.focal - 1) * camera.to_camera(face).z();
    camera.focal = focal;
}

// Lips and lids that slipped through each other, as after a wrap.
void set_sheets_apart(const BaseKit& kit, double neck_band_mm, Points& shape) {
    const std::vector<Triangle> triangles = skin_triangles(kit);
    const std::vector<char> moving = head_vertices(kit, head_fade(kit, neck_band_mm));
    std::vector<Index> near;
    for (Index t = 0; t < triangles.size(); ++t) {
        if (moving[triangles[t][0]] || moving[triangles[t][1]] || moving[triangles[t][2]]) near.push_back(t);
    }
    const auto before = self_intersections(kit.mesh.positions, triangles, &near);
    push_apart(shape, triangles, moving, {before.begin(), before.end()}, &near);
}

}  // namespace

Result<PhotoHead> fit_photos(const PhotoHeadInput& in, const Progress& progress) {
    const auto started = std::chrono::steady_clock::now();
    FitWork w{in,
              progress,
              in.base_points.empty() ? in.kit->landmarks : in.base_points,
              in.base_curves.empty() ? in.kit->curves : in.base_curves,
              in.cameras,
              {},
              {},
              {},
              in.z,
              {},
              in.settings.strength,
              0,
              {}};
    if (!in.space || in.space->topology != in.kit->topology_key)
        return Error{ErrorCode::BadInput, "The shape space belongs to another base; make it anew."};
    if (w.z.size() != in.space->count()) w.z.resize(0);  // of another shape space: nothing to go on from
    for (const PhotoPin& pin : in.settings.pins) {
        for (const Index v : pin.place.vertices) {
            if (v >= in.kit->mesh.positions.size())
                return Error{ErrorCode::BadInput, "A pin lies on vertex " + std::to_string(v) +
                                                      ", which this base does not have. Take it out of the settings."};
        }
    }
    w.cameras.resize(in.photos.size());
    w.eyes_mm = in.settings.eyes_mm;
    if (w.eyes_mm > 0 && (!w.points.contains("pupil_l") || !w.points.contains("pupil_r")))
        return Error{ErrorCode::BadInput,
                     "The kit has no pupils marked, so a distance between them cannot be kept. Set it to 0."};
    w.shape = in.space->shape(in.kit->mesh.positions, w.z);
    PhotoHead out;
    progress.say(0.02, "Placing the cameras");
    bool any = false;
    for (std::size_t i = 0; i < in.photos.size(); ++i) {
        const PhotoCamera like = camera_like(in, i);
        if (w.cameras[i]) {  // to go on from; the lens may have been changed since
            w.cameras[i]->centre = like.centre;
            if (w.cameras[i]->parallel != like.parallel)
                w.cameras[i].reset();
            else if (const PhotoLens lens = lens_of(in, i);
                     lens.from == PhotoLens::From::Typed && !lens.parallel && lens.focal_35mm > 0)
                set_lens(w, *w.cameras[i], like.focal);
        }
        if (!w.cameras[i] && !like.parallel && guessed(in.photos[i])) {
            w.cameras[i] = *in.photos[i].found->camera;
            w.cameras[i]->centre = like.centre;
            set_lens(w, *w.cameras[i], like.focal);
        }
        if (!w.cameras[i]) {
            auto placed = place_camera(like, point_sights(w, i, rough_scale(w, i), false), w.shape);
            if (placed)
                w.cameras[i] = *placed;
            else
                out.notes.push_back("'" + in.photos[i].name +
                                    "' is left out: too little is marked on it. Mark at least four points there.");
        }
        any |= w.cameras[i].has_value();
    }
    if (!any)
        return Error{ErrorCode::DegenerateInput,
                     "No photograph has the four landmarks that a camera needs. Find or mark some first."};
    look_at_pictures(w);
    const Eigen::Index known = in.space->known, all = in.space->count();
    const bool goes_on = w.z.size() == all;
    for (int round = goes_on ? in.quick ? kRounds - 1 : 2 : 0; round < kRounds; ++round) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        progress.say(0.05 + 0.85 * round / kRounds,
                     round == 0 ? "Bending to the landmarks" : "Following curves and outlines");
        const Eigen::Index modes = std::min(all, known + (round == 0 ? 36 : round == 1 ? 120 : all));
        if (auto ok = one_round(w, round, modes, round == 0 ? 15 : round == 1 || in.settings.eyes_mm > 0 ? 8 : 5); !ok)
            return ok.error();
        if (progress.live) progress.live(w.shape);
        if (in.settings.eyes_mm > 0) {  // eyes are seated in their lids afterwards, and that moves them a little
            Points seated = w.shape;
            follow_parts(*in.kit, nullptr, seated);
            w.eyes_mm +=
                in.settings.eyes_mm - (w.points.at("pupil_l").at(seated) - w.points.at("pupil_r").at(seated)).norm();
            w.eyes_mm = std::clamp(w.eyes_mm, 0.8 * in.settings.eyes_mm, 1.25 * in.settings.eyes_mm);
        }
    }
    out.z = w.z;
    progress.say(0.9, "Eyes and teeth");
    for (int again = 0; again < kMostCalmer && !in.quick; ++again) {
        set_sheets_apart(*in.kit, in.settings.neck_band_mm, w.shape);
        const FitFigures f = photo_figures(*in.kit, in.settings.neck_band_mm, w.shape, {});
        if (f.flipped_faces == 0 && f.self_intersections == 0) break;
        // sights that contradict one another tie knots: less is believed of them, until there are none
        w.strength *= 1.7;
        if (auto ok = one_round(w, kRounds - 1, all, 6); !ok) return ok.error();
        if (again + 1 == kMostCalmer) set_sheets_apart(*in.kit, in.settings.neck_band_mm, w.shape);
    }
    out.z = w.z;
    follow_parts(*in.kit, nullptr, w.shape);
    for (std::size_t i = 0; i < in.photos.size(); ++i) out.photos.push_back(figures_of(w, i));
    progress.say(0.95, "Asking whether it can be true");
    if (!in.quick) {
        if (auto ok = suspicions(w, out); !ok) return ok.error();
        say_what_was_seen(w, out);
        out.figures = photo_figures(*in.kit, in.settings.neck_band_mm, w.shape, out.photos);
    }
    out.positions = std::move(w.shape);
    out.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - started).count();
    progress.say(1, "Done");
    return out;
}

}  // namespace veld
