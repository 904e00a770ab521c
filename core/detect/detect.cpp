#include "core/detect/detect.h"

#include <Eigen/Eigenvalues>
#include <chrono>
#include <cmath>
#include <functional>

#include "core/detect/carry_over.h"
#include "core/detect/doubt.h"
#include "core/detect/find_face.h"
#include "core/detect/head_by_shape.h"
#include "core/detect/mark_ears.h"
#include "core/detect/open_mouth.h"
#include "core/detect/reference_store.h"
#include "core/fit/articulate.h"
#include "core/fit/fit.h"
#include "core/fit/floor.h"
#include "core/fit/jaw.h"

namespace veld {
namespace {

constexpr double kNetworkReachMm = 18;   // a point with no network point this near starts from the fit alone
constexpr double kCarriedOff = 14;      // mm: carried-over points hardly count in the rough fit, the surface decides
constexpr double kFigureMatchMm = 90;    // a belly may stand this far before the kit's
constexpr double kPoorPoseMm = 12;
constexpr double kByShapeReachMm = 25, kByShapeMm = 8;  // of points of a head that no network saw
constexpr std::size_t kLeastByShape = 12;
constexpr double kOnSurfaceMm = 8;  // farther from the surface than this: there is nothing to mark

Error cancelled() { return {ErrorCode::Cancelled, "Cancelled; no landmark was changed."}; }

class Detector {
 public:
    Detector(FaceNetwork& network, const DetectInput& input, const FaceReference& reference, const Progress& progress)
        : network_(network),
          in_(input),
          kit_(*input.kit),
          reference_(reference),
          progress_(progress),
          base_points_(input.base_points.empty() ? kit_.landmarks : input.base_points),
          base_curves_(input.base_curves.empty() ? kit_.curves : input.base_curves) {}

    Result<Detection> run();

 private:
    Status see();
    bool lay_by_shape();
    LandmarkSet start() const;
    void add_ears(LandmarkSet& into) const;
    void read_ears();
    void open_mouth();
    void read_mouth();
    Status fit_head();
    void read_off(const BaseKit& kit, const Points& fitted, const std::vector<float>& distances, FitPart part,
                  const std::function<bool(const std::string&)>& wanted);
    void pupils();
    bool is_figure() const;
    Similarity standing() const;
    Status find_body();
    Progress stage(double from, double to) const;
    Vec3 on_base(const std::string& name) const { return base_points_.at(name).at(kit_.mesh.positions); }

    FaceNetwork& network_;
    const DetectInput& in_;
    const BaseKit& kit_;
    std::optional<BaseKit> opened_;  // the same with its jaw down as the source's
    const BaseKit& posed() const { return opened_ ? *opened_ : kit_; }
    const FaceReference& reference_;
    const Progress& progress_;
    const std::map<std::string, SurfacePoint> base_points_;
    const std::map<std::string, std::vector<SurfacePoint>> base_curves_;

    Detection out_;
    SurfaceLook look_;  // in the kit frame, as the face lies
    std::vector<SeenView> views_;
    std::vector<SurfacePair> pairs_;
    std::optional<SmoothMap> map_;
    std::array<MarkedEar, 2> ears_;
    bool by_shape_ = false;
};

// Nothing but the form speaks for it.
void doubt(Trust& trust) { trust.expected_mm = std::max(trust.expected_mm, kByShapeMm); }

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
        const Vec3 base = place.at(posed().mesh.positions);
        double nearest = 1e9;
        for (const SurfacePair& p : pairs_) nearest = std::min(nearest, (p.base - base).norm());
        if (nearest > kNetworkReachMm) continue;
        const SurfaceHit hit = look_.surface.closest((*map_)(base), 20, nullptr);
        if (!hit) continue;
        set.points[name] = back(hit.position);
        set.trust[name] = {.origin = Origin::Found, .expected_mm = kCarriedOff};
    }
    add_ears(set);
    return set;
}

// Ears are registered as wholes; what their clean edges say counts fully.
void Detector::add_ears(LandmarkSet& into) const {
    const Similarity back = out_.to_kit.inverse();
    for (const bool left : {false, true}) {
        const MarkedEar& ear = ears_[left];
        for (const auto& [name, place] : base_points_) {
            const SchemePoint* scheme = landmark_scheme().point(name);
            if (scheme && scheme->region == "ear" && name.ends_with(left ? "_l" : "_r")) into.points.erase(name);
        }
        if (!ear.seen) continue;
        for (const auto& [name, p] : ear.points) {
            into.points[name] = back(p);
            into.trust[name] = {.origin = Origin::Found, .expected_mm = ear_error(name, ear)};
        }
        const std::string rim = left ? "ear_rim_l" : "ear_rim_r";
        for (const Vec3& p : ear.rim) into.curves[rim].push_back(back(p));
        into.trust[rim] = {.origin = Origin::Found, .expected_mm = ear_error(rim, ear)};
    }
}

// Lips that lie apart: the base's jaw goes down as far before anything is carried over.
void Detector::open_mouth() {
    const auto gap = mouth_gap(reference_, views_);
    if (!gap) return;
    const double degrees = jaw_turn_for_gap(kit_, base_points_, *gap);
    if (!(degrees > 0)) return;
    out_.mouth_gap_mm = *gap;
    opened_ = posed_kit(kit_, jaw_pose(kit_, degrees));
    carry_to_open(kit_, *opened_, pairs_);
}

void Detector::read_mouth() {
    if (!(out_.mouth_gap_mm > 0)) return;
    char text[96];
    std::snprintf(text, sizeof text, "The mouth is open: its lips are about %.0f mm apart.", out_.mouth_gap_mm);
    out_.notes.push_back(text);
    for (const char* name : {"stomion", "mouth_line"}) {
        if (!base_points_.contains(name) && !base_curves_.contains(name)) continue;
        out_.set.points.erase(name), out_.set.curves.erase(name), out_.set.trust.erase(name), out_.evidence.erase(name);
        out_.left_out[name] = "the mouth is open: the lips do not meet";
    }
}

// What the fit made of the ears, their own edges know better.
void Detector::read_ears() {
    const Similarity back = out_.to_kit.inverse();
    for (const bool left : {false, true}) {
        const MarkedEar& ear = ears_[left];
        const std::string side = left ? "_l" : "_r";
        for (const auto& [name, place] : base_points_) {
            const SchemePoint* scheme = landmark_scheme().point(name);
            if (!scheme || scheme->region != "ear" || !name.ends_with(side) || !out_.set.points.contains(name)) continue;
            if (ear.why.empty() || ear.seen) continue;
            out_.set.points.erase(name), out_.set.trust.erase(name), out_.evidence.erase(name);
            out_.left_out[name] = ear.why;
        }
        if (!ear.seen) {
            if (ear.why.empty()) continue;
            out_.set.curves.erase("ear_rim" + side), out_.set.trust.erase("ear_rim" + side);
            out_.left_out["ear_rim" + side] = ear.why;
            continue;
        }
        for (const auto& [name, p] : ear.points) {
            out_.set.points[name] = back(p), out_.left_out.erase(name);
            Evidence& e = out_.evidence[name];
            e = {}, e.usual = ear_error(name, ear), e.ear = ear.clear.at(name), e.lies = ear.lies * ear.covers;
            out_.set.trust[name] = trust_from(e);
        }
        Points& rim = out_.set.curves["ear_rim" + side];
        rim.clear();
        for (const Vec3& p : ear.rim) rim.push_back(back(p));
        out_.set.trust["ear_rim" + side] = {.origin = Origin::Found, .expected_mm = ear_error("ear_rim", ear)};
        out_.left_out.erase("ear_rim" + side);
    }
}

Status Detector::fit_head() {
    FitInput fit;
    fit.kit = &posed();
    fit.base_points = base_points_;
    fit.source = in_.source;
    fit.ignored = in_.ignored;
    fit.landmarks = start();
    fit.settings.part = FitPart::Head;
    for (const bool left : {false, true}) {
        // what covers an ear is not pulled into its folds
        if (!ears_[left].seen && !ears_[left].why.empty())
            fit.settings.regions[left ? "ear_l" : "ear_r"] = {.match = 0, .stiffness = 3};
    }
    const auto result = run_fit(fit, stage(0.38, is_figure() ? 0.55 : 0.97));
    if (!result) return result.error();
    const Similarity to_kit = out_.to_kit * result->placement.source_to_kit.inverse();
    Points fitted;
    for (const Vec3& p : result->positions) fitted.push_back(to_kit(p));
    read_off(posed(), fitted, result->distances, FitPart::Head, [this](const std::string& name) {
        const auto curve = base_curves_.find(name);
        if (curve == base_curves_.end()) return places_part(name, FitPart::Head);
        return kit_.mesh.positions[curve->second.front().vertices[0]].y() >
               kit_.mesh.positions[kit_.neck_ring.empty() ? 0 : kit_.neck_ring.front()].y() - 100;
    });
    read_ears();
    read_mouth();
    return Done{};
}

// kit: as it was posed for the fit; fitted: in the face's frame.
void Detector::read_off(const BaseKit& kit, const Points& fitted, const std::vector<float>& distances, FitPart part,
                        const std::function<bool(const std::string&)>& wanted) {
    const Similarity back = out_.to_kit.inverse();
    const Doubts doubts({kit, base_points_, look_, views_, reference_, pairs_, *map_, fitted, distances, part});
    const auto near = [&](const SurfacePoint& place) {
        return look_.surface.closest(place.at(fitted), kOnSurfaceMm, nullptr);
    };
    for (const auto& [name, place] : base_points_) {
        if (!wanted(name)) continue;
        const SurfaceHit hit = near(place);
        if (!hit) {
            out_.left_out[name] = "there is no surface: a hole, or cut off";
            continue;
        }
        out_.set.points[name] = back(hit.position);
        out_.evidence[name] = doubts.evidence(name, place, hit);
        out_.set.trust[name] = trust_from(out_.evidence[name]);
        if (by_shape_) doubt(out_.set.trust[name]);
        out_.left_out.erase(name);
    }
    for (const auto& [name, curve] : base_curves_) {
        if (!wanted(name)) continue;
        Points line;
        for (const SurfacePoint& place : curve) {
            if (const SurfaceHit hit = near(place)) line.push_back(back(hit.position));
        }
        if (line.size() < std::max<std::size_t>(2, curve.size() / 2)) {
            out_.left_out[name] = "most of it lies where there is no surface";
            continue;
        }
        out_.set.curves[name] = std::move(line);
        out_.set.trust[name] = doubts.of_curve(name, curve);
        if (by_shape_) doubt(out_.set.trust[name]);
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
        const SurfaceHit hit =
            look_.surface.closest(middle->place + (on_base(name) - of_base->place), kOnSurfaceMm, nullptr);
        if (!hit) continue;
        out_.set.points[name] = out_.to_kit.inverse()(hit.position);
        Trust& t = out_.set.trust[name];
        t.origin = Origin::Found, t.spread_mm = middle->spread, t.expected_mm = 0.7 + middle->spread;
    }
}

// Taller than a head and shoulders, in the size that the face tells.
bool Detector::is_figure() const {
    Box box;
    for (const Vec3& p : look_.surface.positions) box.add(p);
    return kit_.joints.size() > 10 && box.size().maxCoeff() > 1100;
}

// The face's frame turned so that the figure's length is upright, sized and put down as the kit stands.
Similarity Detector::standing() const {
    Points on;
    for (const Triangle& t : look_.surface.triangles) on.push_back(look_.surface.positions[t[0]]);
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : on) middle += p / static_cast<double>(on.size());
    Mat3 spread = Mat3::Zero();
    for (const Vec3& p : on) spread += (p - middle) * (p - middle).transpose();
    Vec3 along = Eigen::SelfAdjointEigenSolver<Mat3>(spread).eigenvectors().col(2);
    if (along.y() < 0) along = -along;
    Similarity out;
    out.rotation = Eigen::Quaterniond::FromTwoVectors(along, Vec3::UnitY()).toRotationMatrix();
    Box box;
    for (const Vec3& p : on) box.add(out(p));
    const Box base = bounding_box(kit_.mesh.positions);
    out.scale = base.size().y() / box.size().y();
    const Vec3 from(box.centre().x(), box.high.y(), box.centre().z()),
        to(base.centre().x(), base.high.y(), base.centre().z());
    out.translation = to - out.scale * from;
    return out;
}

// Bends the kit's skeleton onto the figure, fits all of it, and reads off what the head's fit does not know.
Status Detector::find_body() {
    const Similarity stand = standing();
    const VertexMask ignored = ignored_with_floor(*in_.source, stand * out_.to_kit, in_.ignored);
    const SourceSurface surface = prepare_source(*in_.source, stand * out_.to_kit, &ignored);
    std::vector<PosePull> pulls;
    // a few: they turn the head; more would ask the whole figure for the head's size
    for (const std::string& name : minimal_points()) {
        const auto at = std::as_const(out_.set.points).find(name);
        const auto base = base_points_.find(name);
        if (at != out_.set.points.cend() && base != base_points_.end() && !unsure(out_.set.trust_of(name)))
            pulls.push_back({base->second, (stand * out_.to_kit)(at->second)});
    }
    const auto bent = articulate(kit_, surface, pulls, stage(0.55, 0.65));
    if (!bent) {
        if (bent.error().code == ErrorCode::Cancelled) return cancelled();
        out_.notes.push_back("Body points were not looked for: " + bent.error().message);
        return Done{};
    }
    out_.figure = true;
    // the wrap cannot repair a pose that is off by more than this
    if (bent->fit_mm > kPoorPoseMm)
        out_.notes.push_back("The kit's skeleton could only roughly be bent to this pose (" +
                             std::to_string(static_cast<int>(bent->fit_mm)) + " mm): look at every body point.");
    const BaseKit posed = posed_kit(kit_, bent->pose);
    const Similarity to_posed = bent->to_kit * stand * out_.to_kit;
    FitInput fit;
    fit.kit = &posed;
    fit.base_points = base_points_;
    fit.source = in_.source;
    fit.ignored = &ignored;
    // placed by the posed skeleton alone: a head of another size than the kit's must not size the body
    for (const auto& [name, place] : base_points_)
        fit.landmarks.points[name] = to_posed.inverse()(place.at(posed.mesh.positions));
    fit.settings.part = FitPart::All;
    fit.settings.take_pose_out = false;  // it is out already
    fit.settings.landmark_strength = 1e-3;
    fit.settings.smooth_start_mm = 140;
    fit.settings.match_start_mm = kFigureMatchMm;
    const auto result = run_fit(fit, stage(0.65, 0.97));
    if (!result) return result.error();
    const Similarity to_face = out_.to_kit * result->placement.source_to_kit.inverse();
    Points fitted;
    for (const Vec3& p : result->positions) fitted.push_back(to_face(p));
    read_off(posed, fitted, result->distances, FitPart::All, [](const std::string& name) {
        const SchemePoint* p = landmark_scheme().point(name);
        return !places_part(name, FitPart::Head) || (p && p->region == "neck");
    });
    return Done{};
}

// The face, and what the networks see of it from several sides.
Status Detector::see() {
    const auto face = find_face(network_, look_, reference_, stage(0.05, 0.25));
    if (!face) return face.error();
    out_.to_kit = face->to_kit * in_.upright;
    look_ = moved_look(std::move(look_), face->to_kit);
    views_ = see_face(network_, look_, reference_.place, face_views(look_.coloured), stage(0.25, 0.38));
    if (progress_.is_cancelled()) return cancelled();
    pairs_ = pairs_of(reference_, views_);
    if (pairs_.size() < 100)
        return Error{ErrorCode::NotFound,
                     "A face seems to be there, but too little of it can be seen to place its points. Mark the ten "
                     "points of the minimal set by hand."};
    return Done{};
}

// Nobody saw a face: the kit's own points, where they lie when its head is laid on as a whole.
bool Detector::lay_by_shape() {
    look_ = look_at_surface(*in_.source, in_.upright, in_.ignored);
    const auto placed = head_by_shape(kit_, look_.surface, stage(0.25, 0.38));
    if (!placed) return false;
    out_.to_kit = *placed * in_.upright;
    look_ = moved_look(std::move(look_), *placed);
    views_.clear(), pairs_.clear();
    for (const auto& [name, place] : base_points_) {
        if (!places_part(name, FitPart::Head)) continue;
        const Vec3 base = place.at(kit_.mesh.positions);
        if (const SurfaceHit hit = look_.surface.closest(base, kByShapeReachMm, nullptr))
            pairs_.push_back({base, hit.position, kByShapeMm, 0});
    }
    by_shape_ = pairs_.size() >= kLeastByShape;
    if (by_shape_)
        out_.notes.push_back("No face was seen: the head was found by its form alone. Look at every landmark.");
    return by_shape_;
}

Result<Detection> Detector::run() {
    const auto began = std::chrono::steady_clock::now();
    const int evaluations = network_.evaluations();
    if (auto ok = check_mesh(*in_.source, "The source"); !ok) return ok.error();
    look_ = look_at_surface(*in_.source, in_.upright, in_.ignored);
    out_.coloured = look_.coloured;
    if (auto ok = see(); !ok) {
        const bool laid = ok.error().code == ErrorCode::NotFound && in_.by_shape && lay_by_shape();
        if (progress_.is_cancelled()) return cancelled();
        if (!laid) return ok.error();
    }
    if (!by_shape_) open_mouth();
    map_ = map_through(pairs_);
    if (!by_shape_) ears_ = mark_ears(kit_, base_points_, look_.surface, stage(0.36, 0.38));
    if (progress_.is_cancelled()) return cancelled();
    if (auto ok = fit_head(); !ok) return ok.error();
    if (look_.coloured) pupils();
    if (is_figure()) {
        if (auto ok = find_body(); !ok) return ok.error();
    }
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
        auto made = kept_face_reference(network, *input.kit);
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
