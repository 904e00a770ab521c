#include <algorithm>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/photo/head_work.h"
#include "core/photo/seen.h"

namespace veld {
namespace {

// Standard deviations in mm at the face: what hands and networks miss a place by.
constexpr double kHandMm = 0.6, kFoundMm = 1.5, kSampleMm = 6.0, kCurveMm = 1.3, kFoundCurveMm = 2.5, kPlaceMm = 0.15,
                 kDepthMm = 4.0, kWallMm = 150;
constexpr double kRougherBy = 20;  // degrees of a head's turn that make what the network marks once more as rough
constexpr double kUsualLensSigma = 0.6, kSaidSigma = 0.04;

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

std::vector<DepthSight> depth_sights(const HeadWork& w, std::size_t i, const PhotoCamera& camera) {
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

std::vector<Sight> find_outline(HeadWork& w, std::size_t i, double reach_mm) {
    const PhotoCamera& camera = *w.cameras[i];
    auto points = contour(w.outline, w.shape, camera);
    // nobody said where ear and jaw are: only what stands before the wall is sure to be what it is taken for
    if (is_guessed_profile(w.in.photos[i]))
        std::erase_if(points, [](const ContourPoint& p) { return p.behind_mm < kWallMm; });
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

}  // namespace

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

bool is_guessed_profile(const PhotoView2D& view) {
    if (!view.found || !view.found->camera) return false;
    return std::count_if(view.marks.points.begin(), view.marks.points.end(),
                         [&](const auto& p) { return kept_by_hand(view.marks.trust_of(p.first)); }) < 4;
}

double rough_scale(const HeadWork& w, std::size_t i) {
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

std::vector<Sight> point_sights(const HeadWork& w, std::size_t i, double scale, bool places) {
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
    for (const PhotoPlace& dragged : w.in.settings.places) {
        if (places && dragged.photo == static_cast<int>(i))
            out.push_back({dragged.place, dragged.pixel, kPlaceMm * scale, {}});
    }
    return out;
}

std::vector<Sight> curve_sights(const HeadWork& w, std::size_t i, const SurfaceQuery& query,
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

void look_at_pictures(HeadWork& w) {
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

Status solve_round(HeadWork& w, int round, Eigen::Index modes, int iterations) {
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
        if (is_guessed_profile(w.in.photos[i])) view.expected_yaw = std::copysign(90, w.in.photos[i].found->yaw);
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

}  // namespace veld
