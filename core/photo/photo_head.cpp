#include "core/photo/photo_head.h"

#include <algorithm>
#include <cmath>

#include "core/base/stopwatch.h"
#include "core/fit/follow.h"
#include "core/fit/push_apart.h"
#include "core/kit/kit_surface.h"
#include "core/photo/head_work.h"
#include "core/photo/photo_figures.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr int kMostAgain = 4;

Status check_input(const PhotoHeadInput& in, const std::map<std::string, SurfacePoint>& points) {
    if (!in.space || in.space->topology != in.kit->topology_key)
        return Error{ErrorCode::BadInput, "The shape space belongs to another base; make it anew."};
    for (const PhotoPlace& dragged : in.settings.places) {
        for (const Index v : dragged.place.vertices) {
            if (v >= in.kit->mesh.positions.size())
                return Error{ErrorCode::BadInput, "A dragged place lies on vertex " + std::to_string(v) +
                                                      ", which this base does not have. Take it out of the settings."};
        }
    }
    if (in.settings.eyes_mm > 0 && (!points.contains("pupil_l") || !points.contains("pupil_r")))
        return Error{ErrorCode::BadInput,
                     "The kit has no pupils marked, so a distance between them cannot be kept. Set it to 0."};
    return Done{};
}

// Another focal length at the same size of the face: the camera comes closer or goes away.
void set_lens(const HeadWork& w, PhotoCamera& camera, double focal) {
    const Vec3 face = w.points.contains("sellion") ? w.points.at("sellion").at(w.shape) : Vec3::Zero();
    camera.move.z() += (focal / camera.focal - 1) * camera.to_camera(face).z();
    camera.focal = focal;
}

// Lips and lids that slipped through each other, as after a wrap.
void set_sheets_apart(const BaseKit& kit, double neck_band_mm, Points& shape) {
    const std::vector<Triangle>& triangles = skin_triangles(kit);
    const VertexMask moving = head_vertices(kit, head_fade(kit, neck_band_mm));
    TriangleIndices near;
    for (Index t = 0; t < triangles.size(); ++t) {
        if (moving[triangles[t][0]] || moving[triangles[t][1]] || moving[triangles[t][2]]) near.push_back(t);
    }
    const auto& before = skin_cuts(kit);
    push_apart(shape, triangles, moving, {before.begin(), before.end()}, &near);
}

void place_cameras(HeadWork& w, PhotoHead& out) {
    const PhotoHeadInput& in = w.in;
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
        if (!w.cameras[i] && !like.parallel && is_guessed_profile(in.photos[i])) {
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
    }
}

// Eyes are seated in their lids afterwards, and that moves them a little.
void correct_eyes(HeadWork& w) {
    const PhotoHeadInput& in = w.in;
    Points seated = w.shape;
    follow_parts(*in.kit, nullptr, seated);
    w.eyes_mm += in.settings.eyes_mm - (w.points.at("pupil_l").at(seated) - w.points.at("pupil_r").at(seated)).norm();
    w.eyes_mm = std::clamp(w.eyes_mm, 0.8 * in.settings.eyes_mm, 1.25 * in.settings.eyes_mm);
}

// Sights that contradict one another tie knots: less is believed of them, until there are none.
Status untie(HeadWork& w) {
    const PhotoHeadInput& in = w.in;
    for (int again = 0; again < kMostAgain && !in.quick; ++again) {
        set_sheets_apart(*in.kit, in.settings.neck_band_mm, w.shape);
        const FitFigures f = photo_figures(*in.kit, in.settings.neck_band_mm, w.shape, {});
        if (f.flipped_faces == 0 && f.self_intersections == 0) break;
        w.strength *= 1.7;
        if (auto ok = solve_round(w, kPhotoRounds - 1, in.space->count(), 6); !ok) return ok.error();
        if (again + 1 == kMostAgain) set_sheets_apart(*in.kit, in.settings.neck_band_mm, w.shape);
    }
    return Done{};
}

}  // namespace

Result<PhotoHead> fit_photos(const PhotoHeadInput& in, const Progress& progress) {
    Stopwatch clock;
    HeadWork w{in,
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
    if (auto ok = check_input(in, w.points); !ok) return ok.error();
    if (w.z.size() != in.space->count()) w.z.resize(0);  // of another shape space: nothing to go on from
    w.cameras.resize(in.photos.size());
    w.eyes_mm = in.settings.eyes_mm;
    w.shape = in.space->shape(in.kit->mesh.positions, w.z);
    PhotoHead out;
    progress.say(0.02, "Placing the cameras");
    place_cameras(w, out);
    if (std::none_of(w.cameras.begin(), w.cameras.end(), [](const auto& c) { return c.has_value(); }))
        return Error{ErrorCode::DegenerateInput,
                     "No photograph has the four landmarks that a camera needs. Find or mark some first."};
    look_at_pictures(w);
    const Eigen::Index known = in.space->known, all = in.space->count();
    const bool goes_on = w.z.size() == all;
    for (int round = goes_on ? in.quick ? kPhotoRounds - 1 : 2 : 0; round < kPhotoRounds; ++round) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        progress.say(0.05 + 0.85 * round / kPhotoRounds,
                     round == 0 ? "Bending to the landmarks" : "Following curves and outlines");
        const Eigen::Index modes = std::min(all, known + (round == 0 ? 36 : round == 1 ? 120 : all));
        int iterations = in.settings.eyes_mm > 0 || round == 1 ? 8 : 5;
        if (round == 0) iterations = 15;
        if (auto ok = solve_round(w, round, modes, iterations); !ok) return ok.error();
        if (progress.live) progress.live(w.shape);
        if (in.settings.eyes_mm > 0) correct_eyes(w);
    }
    out.z = w.z;
    progress.say(0.9, "Eyes and teeth");
    if (auto ok = untie(w); !ok) return ok.error();
    out.z = w.z;
    follow_parts(*in.kit, nullptr, w.shape);
    for (std::size_t i = 0; i < in.photos.size(); ++i) out.photos.push_back(figures_of(w, i));
    progress.say(0.95, "Asking whether it can be true");
    if (!in.quick) {
        if (auto ok = say_what_looks_wrong(w, out); !ok) return ok.error();
        say_what_was_seen(w, out);
        out.figures = photo_figures(*in.kit, in.settings.neck_band_mm, w.shape, out.photos);
    }
    out.positions = std::move(w.shape);
    out.seconds = clock.lap();
    progress.say(1, "Done");
    return out;
}

}  // namespace veld
