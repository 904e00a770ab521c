#include "core/detect/detect.h"

#include <chrono>
#include <cmath>

#include "core/detect/carry_over.h"
#include "core/detect/doubt.h"
#include "core/detect/find_face.h"
#include "core/fit/fit.h"

namespace veld {
namespace {

constexpr double kNetworkReachMm = 18;   // a point with no network point this near starts from the fit alone
constexpr double kStartStrength = 0.02;  // of the carried-over points in the rough fit: the surface decides
constexpr double kOnSurfaceMm = 8;       // farther from the surface than this: there is nothing to mark

Error cancelled() { return {ErrorCode::Cancelled, "Cancelled; no landmark was changed."}; }

class Detector {
   public:
    Detector(FaceNetwork& network, const DetectInput& input, const FaceReference& reference, const Progress& progress)
        : network_(network), in_(input), kit_(*input.kit), reference_(reference), progress_(progress),
          base_points_(input.base_points.empty() ? kit_.landmarks : input.base_points),
          base_curves_(input.base_curves.empty() ? kit_.curves : input.base_curves) {}

    Result<Detection> run();

   private:
    LandmarkSet start() const;
    Status fit_head();
    void read_off();
    void pupils();
    Progress stage(double from, double to) const;
    Vec3 on_base(const std::string& name) const { return base_points_.at(name).at(kit_.mesh.positions); }

    FaceNetwork& network_;
    const DetectInput& in_;
    const BaseKit& kit_;
    const FaceReference& reference_;
    const Progress& progress_;
    const std::map<std::string, SurfacePoint> base_points_;
    const std::map<std::string, std::vector<SurfacePoint>> base_curves_;

    Detection out_;
    SurfaceLook look_;                    // in the kit frame, as the face lies
    std::vector<SeenView> views_;
    std::vector<SurfacePair> pairs_;
    std::optional<SmoothMap> map_;
    Points fitted_;                       // every base vertex, kit frame
    std::vector<float> distances_;        // of the rough fit
};

Progress Detector::stage(double from, double to) const {
    Progress out;
    out.report = [this, from, to](double f, const std::string& what) { progress_.say(from + f * (to - from), what); };
    out.cancelled = progress_.cancelled;
    return out;
}

// What the network knows, carried over onto the source; in the source's coordinates.
LandmarkSet Detector::start() const {
    LandmarkSet set;
    const Similarity back = out_.to_kit.inverse();
    for (const auto& [name, place] : base_points_) {
        if (!places_part(name, FitPart::Head) || name.starts_with("pupil")) continue;
        const Vec3 base = place.at(kit_.mesh.positions);
        double nearest = 1e9;
        for (const SurfacePair& p : pairs_) nearest = std::min(nearest, (p.base - base).norm());
        if (nearest > kNetworkReachMm) continue;
        const SurfaceHit hit = look_.surface.closest((*map_)(base), 20, nullptr);
        if (hit) set.points[name] = back(hit.position);
    }
    return set;
}

Status Detector::fit_head() {
    FitInput fit;
    fit.kit = &kit_;
    fit.base_points = base_points_;
    fit.source = in_.source;
    fit.ignored = in_.ignored;
    fit.landmarks = start();
    fit.settings.part = FitPart::Head;
    fit.settings.landmark_strength = kStartStrength;
    const auto result = run_fit(fit, stage(0.4, 0.9));
    if (!result) return result.error();
    const Similarity to_kit = out_.to_kit * result->placement.source_to_kit.inverse();
    for (const Vec3& p : result->positions) fitted_.push_back(to_kit(p));
    distances_ = result->distances;
    return Done{};
}

void Detector::read_off() {
    const Similarity back = out_.to_kit.inverse();
    const DoubtInput known{kit_, base_points_, look_, views_, reference_, pairs_, *map_, fitted_, distances_};
    const Doubts doubts(known);
    for (const auto& [name, place] : base_points_) {
        if (!places_part(name, FitPart::Head)) continue;
        const SurfaceHit hit = look_.surface.closest(place.at(fitted_), kOnSurfaceMm, nullptr);
        if (!hit) {
            out_.left_out[name] = "there is no surface: a hole, or cut off";
            continue;
        }
        out_.set.points[name] = back(hit.position);
        out_.evidence[name] = doubts.evidence(name, place, hit);
        out_.set.trust[name] = trust_from(out_.evidence[name]);
    }
    for (const auto& [name, curve] : base_curves_) {
        Points line;
        for (const SurfacePoint& place : curve) {
            const SurfaceHit hit = look_.surface.closest(place.at(fitted_), kOnSurfaceMm, nullptr);
            if (hit) line.push_back(back(hit.position));
        }
        if (line.size() < std::max<std::size_t>(2, curve.size() / 2)) {
            out_.left_out[name] = "most of it lies where there is no surface";
            continue;
        }
        out_.set.curves[name] = std::move(line);
        out_.set.trust[name] = doubts.of_curve(name, curve);
    }
}

// Where skin colours show an iris, the subject's gaze counts and not the base's.
void Detector::pupils() {
    for (int eye = 0; eye < 2; ++eye) {
        const std::string name = eye == 0 ? "pupil_r" : "pupil_l";
        const int point = kFacePoints + eye * kEyePoints + 71;
        Points found, base;
        for (const SeenView& view : views_) {
            if (view.view.skin != Skin::Colours) continue;
            for (const SurfacePair& p : pairs_of_view(reference_, view)) {
                if (p.point == point) found.push_back(p.scan), base.push_back(p.base);
            }
        }
        const auto middle = middle_of(found), of_base = middle_of(base);
        if (!middle || found.size() < 2 || middle->spread > 3 || !base_points_.contains(name)) continue;
        const SurfaceHit hit = look_.surface.closest(middle->place + (on_base(name) - of_base->place), kOnSurfaceMm, nullptr);
        if (!hit) continue;
        out_.set.points[name] = out_.to_kit.inverse()(hit.position);
        Trust& t = out_.set.trust[name];
        t.origin = Origin::Found, t.spread_mm = middle->spread, t.expected_mm = 0.7 + middle->spread;
    }
}

Result<Detection> Detector::run() {
    const auto began = std::chrono::steady_clock::now();
    const int evaluations = network_.evaluations();
    if (auto ok = check_mesh(*in_.source, "The source"); !ok) return ok.error();
    look_ = look_at_surface(*in_.source, in_.upright, in_.ignored);
    const auto face = find_face(network_, look_, reference_, stage(0.05, 0.25));
    if (!face) return face.error();
    out_.coloured = look_.coloured;
    out_.to_kit = face->to_kit * in_.upright;
    look_ = moved_look(std::move(look_), face->to_kit);
    views_ = see_face(network_, look_, reference_.place, face_views(look_.coloured), stage(0.25, 0.38));
    if (progress_.is_cancelled()) return cancelled();
    pairs_ = pairs_of(reference_, views_);
    if (pairs_.size() < 100) return Error{ErrorCode::NotFound, "A face seems to be there, but too little of it can be seen to place its points. Mark the ten points of the minimal set by hand."};
    map_ = map_through(pairs_);
    if (auto ok = fit_head(); !ok) return ok.error();
    read_off();
    if (look_.coloured) pupils();
    out_.evaluations = network_.evaluations() - evaluations;
    out_.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
    progress_.say(1, "Done");
    return std::move(out_);
}

}  // namespace

Result<Detection> detect_landmarks(FaceNetwork& network, const DetectInput& input, const Progress& progress) {
    std::optional<FaceReference> own;
    if (!input.reference) {
        progress.say(0, "Looking at the base");
        auto made = face_reference(network, *input.kit);
        if (!made) return made.error();
        own = std::move(*made);
    }
    return Detector(network, input, input.reference ? *input.reference : *own, progress).run();
}

int merge_found(const Detection& found, LandmarkSet& into) {
    int put = 0;
    const auto free = [&](const std::string& name) {
        const bool there = into.points.contains(name) || into.curves.contains(name);
        return !there || !kept_by_hand(into.trust_of(name));
    };
    for (const auto& [name, p] : found.set.points) {
        if (!free(name)) continue;
        into.points[name] = p, into.trust[name] = found.set.trust_of(name);
        ++put;
    }
    for (const auto& [name, line] : found.set.curves) {
        if (!free(name)) continue;
        into.curves[name] = line, into.trust[name] = found.set.trust_of(name);
        ++put;
    }
    return put;
}

}  // namespace veld
