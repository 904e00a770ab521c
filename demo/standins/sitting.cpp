#include "demo/standins/sitting.h"

#include <cmath>
#include <random>
#include <set>

#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

double uniform(std::mt19937& random, double low, double high) {
    return low + (high - low) * (static_cast<double>(random()) / 4294967296.0);
}

bool visible(const SurfaceQuery& query, const PhotoCamera& camera, const Vec3& p) {
    const SurfaceHit hit = query.first_front_hit(camera.eye(), p - camera.eye());
    return !hit || hit.distance > (p - camera.eye()).norm() - 1.5;
}

void mark(const BaseKit& kit, const SyntheticSubject& s, const SurfaceQuery& query, double error_mm,
          std::mt19937& random, SittingPhoto& out) {
    const PhotoCamera& camera = out.camera;
    out.marks.width = camera.width, out.marks.height = camera.height;
    const auto off = [&](double scale) {
        return Vec2(error_mm * scale * Vec2(uniform(random, -1, 1), uniform(random, -1, 1)) * std::sqrt(1.5));
    };
    out.true_marks = out.marks;
    for (const auto& [name, place] : kit.landmarks) {
        const SchemePoint* scheme = landmark_scheme().point(name);
        if (!in_point_set(name, PointSet::Head) || name == "cervicale" || name == "vertex" ||
            name == "opisthocranion" || (scheme && scheme->region == "skull"))
            continue;
        const Vec3 p = place.at(s.truth_mm);
        if (!visible(query, camera, p)) continue;
        out.true_marks.points[name] = camera.project(p);
        out.marks.points[name] = camera.project(p) + off(camera.pixels_per_mm(p));
    }
    for (const auto& [name, curve] : kit.curves) {
        if (name == kInnerLips[0] || name == kInnerLips[1]) continue;  // they sit with their mouths shut
        std::vector<Vec2> line;
        const Vec2 shift =
            off(0.7 * camera.pixels_per_mm(curve.front().at(s.truth_mm)));  // a drawn line is off as a whole
        for (const SurfacePoint& place : curve) {
            const Vec3 p = place.at(s.truth_mm);
            if (visible(query, camera, p)) line.push_back(camera.project(p));
        }
        if (2 * line.size() < curve.size()) continue;
        out.true_marks.curves[name] = line;
        for (Vec2& p : line) p += shift;
        out.marks.curves[name] = line;
    }
}

}  // namespace

Sitting make_sitting(const BaseKit& kit, const SittingOptions& o) {
    Sitting out;
    SubjectOptions subject;
    subject.seed = o.seed, subject.warp_mm = o.warp_mm, subject.holes = subject.stray_parts = false,
    subject.noise_mm = 0, subject.subdivisions = 3;
    out.subject = make_subject(kit, subject);
    static constexpr const char* skins[] = {"ottoline", "bram", "juniper"};
    const std::vector<Colour> colours = skin_colours(kit, out.subject.surface_on_base_mm, skins[o.seed % 3]);
    const SurfaceQuery query(out.subject.surface_mm, out.subject.surface_triangles);
    std::mt19937 random(o.seed * 104729 + 7);
    for (int i = 0; i < 20; ++i) random();
    static constexpr std::pair<const char*, double> all[] = {{"front", 0}, {"three_quarter", 40}, {"side", 90}};
    for (const auto& [name, yaw] : all) {
        Portrait how;
        how.width = o.width, how.height = o.height;
        how.yaw = yaw + (yaw == 90 ? o.side_turn / 4 : 1.0) * uniform(random, -4, 4),
        how.pitch = uniform(random, -4, 6), how.roll = uniform(random, -3, 3);
        // a head of 250 mm between a third and two thirds of the picture's height
        const double film_mm = kFilmDiagonalMm * o.height / std::hypot(o.width, o.height),
                     share = uniform(random, 0.36, 0.64);
        how.focal_35mm = std::exp(uniform(random, std::log(24.0), std::log(135.0)));
        how.distance = how.focal_35mm * 250 / (film_mm * share);
        if (how.distance > 3000) how.distance = 3000;
        if (how.distance < 400) how.distance = 400, how.focal_35mm = 400 * film_mm * share / 250;
        how.target = kit.landmarks.at("sellion").at(out.subject.truth_mm) +
                     Vec3(uniform(random, -10, 10), uniform(random, -40, -10), -60);
        how.light = Vec3(uniform(random, -0.9, 0.9), uniform(random, 0.2, 0.8), 0.7),
        how.fill = uniform(random, 0.25, 0.5);
        how.noise = uniform(random, 1, 6), how.seed = o.seed, how.samples = 2;
        SittingPhoto photo;
        photo.camera = camera_of(how);
        mark(kit, out.subject, query, o.mark_error_mm, random, photo);
        const bool wanted = o.photos >= 3 || yaw == 0 || (o.photos == 2 && yaw == 90);
        if (!wanted) continue;  // after the random numbers: the same picture whichever are asked for
        photo.photo.name = std::string(name) + ".png";
        photo.photo.pixels = take_portrait(out.subject.surface_mm, out.subject.surface_triangles, colours, how);
        photo.photo.focal_35mm = how.focal_35mm;
        out.photos.push_back(std::move(photo));
    }
    return out;
}

std::vector<Morph> made_up_heads(const BaseKit& kit, int count, unsigned first_seed, double warp_mm) {
    std::vector<Morph> out;
    for (int i = 0; i < count; ++i) {
        SubjectOptions o;
        o.seed = first_seed + static_cast<unsigned>(i), o.warp_mm = warp_mm, o.detail_mm = 0,
        o.holes = o.stray_parts = false, o.noise_mm = 0, o.subdivisions = 1;
        auto morph = make_morph(kit, make_subject(kit, o).truth_mm, "made up " + std::to_string(i + 1), 1e-2);
        if (!morph) continue;
        morph->kind = MorphKind::Head, morph->group = "heads/made up",
        morph->origin = "made by code from the kit, seed " + std::to_string(o.seed);
        out.push_back(std::move(*morph));
    }
    return out;
}

PhotoTruth compare_with_truth(const BaseKit& kit, const Sitting& sitting, const PhotoHead& fit) {
    PhotoTruth out;
    std::set<Index> hidden;
    for (const char* name : {"socket_l", "socket_r", "mouth_inner", "nostril_inside"})
        hidden.insert(kit.region(name).begin(), kit.region(name).end());
    Points from, to;
    for (const Index v : kit.region("face")) {
        if (!hidden.contains(v)) from.push_back(fit.positions[v]), to.push_back(sitting.subject.truth_mm[v]);
    }
    SimilarityOptions rigid;
    rigid.allow_scale = false, rigid.outlier_mm = 0;
    const auto align = fit_similarity(from, to, rigid);
    if (!align) return out;
    const SurfaceQuery truth(sitting.subject.surface_mm, sitting.subject.surface_triangles);
    std::vector<double> surface;
    for (std::size_t i = 0; i < from.size(); ++i) {
        const Vec3 p = (*align)(from[i]);
        if (const SurfaceHit hit = truth.closest(p, 50)) surface.push_back(hit.distance);
        out.place_mean += (p - to[i]).norm() / static_cast<double>(from.size());
    }
    out.surface_median = median(surface), out.surface_p95 = quantile(surface, 0.95);
    for (std::size_t i = 0; i < fit.photos.size() && i < sitting.photos.size(); ++i) {
        if (!fit.photos[i].camera) continue;
        PhotoCamera camera = *fit.photos[i].camera;
        camera.turn = camera.turn * align->rotation.transpose();
        const HeadTurn is = head_turn(camera), should = head_turn(sitting.photos[i].camera);
        out.focal_worst = std::max(out.focal_worst, std::abs(camera.focal / sitting.photos[i].camera.focal - 1));
        out.yaw_worst = std::max(out.yaw_worst, std::abs(is.yaw - should.yaw)),
        out.roll_worst = std::max(out.roll_worst, std::abs(is.roll - should.roll));
        out.landmark_share = std::max(out.landmark_share, fit.photos[i].landmark_share);
    }
    return out;
}

}  // namespace veld
