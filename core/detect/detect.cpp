#include "core/detect/detect.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "core/detect/detector.h"
#include "core/detect/doubt.h"
#include "core/detect/find_face.h"
#include "core/detect/head_by_shape.h"
#include "core/detect/reference_store.h"
#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kNetworkReachMm = 18;  // a point with no network point this near starts from the fit alone
constexpr double kCarriedOff = 14;      // mm: carried-over points hardly count in the rough fit, the surface decides
constexpr double kByShapeReachMm = 25, kByShapeMm = 8;  // of points of a head that no network saw
constexpr std::size_t kLeastByShape = 12;
constexpr double kToldCover = 0.03;  // share of a part of the head that is worth saying
constexpr double kHintOnBaseMm = 4, kHintWeight = 0.05;

Error cancelled_detection() { return {ErrorCode::Cancelled, "Cancelled; no landmark was changed."}; }

// Nothing but the form speaks for it.
void doubt(Trust& trust) { trust.expected_mm = std::max(trust.expected_mm, kByShapeMm); }

}  // namespace

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

// What the networks saw, as places of the base; many of them stand for few.
std::vector<PointPull> Detector::hints() const {
    std::vector<PointPull> out;
    const Similarity back = out_.to_kit.inverse();
    const std::vector<Triangle>& triangles = skin_triangles(kit_);
    const SurfaceQuery query(posed().mesh.positions, triangles);
    for (const SurfacePair& pair : pairs_) {
        const SurfaceHit hit = query.closest(pair.base, kHintOnBaseMm);
        if (!hit) continue;
        const Triangle& t = triangles[hit.triangle];
        out.push_back({{},
                       {0, {t[0], t[1], t[2]}, hit.barycentric},
                       back(pair.scan),
                       kHintWeight / (1 + 0.25 * pair.spread * pair.spread)});
    }
    return out;
}

Status Detector::fit_head() {
    FitInput fit;
    fit.kit = &kit_, fit.jaw_degrees = jaw_degrees_, fit.lids = lids_;
    fit.hints = hints();
    fit.base_points = base_points_;
    fit.source = in_.source;
    fit.ignored = out_.not_skin.empty() ? in_.ignored : &out_.not_skin;
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
    seat_lids(fitted);
    seat_commissures();
    seat_mouth_corners();
    seat_grooves();
    seat_wings();
    judge_head();
    read_ears();
    read_mouth();
    read_lids();
    return Done{};
}

// What only the head as a whole can say: a shape far from the base's own is marked less surely everywhere.
void Detector::judge_head() {
    std::vector<double> apart;
    for (const auto& [name, e] : out_.evidence) {
        if (e.disagree > 0) apart.push_back(e.disagree);
    }
    const double strange = median(apart);
    for (auto& [name, e] : out_.evidence) {
        e.strange = strange;
        const SchemePoint* p = landmark_scheme().point(name);
        if (p && (p->region == "mouth" || p->region == "chin")) e.gap = out_.mouth_gap_mm;
        out_.set.trust[name] = trust_from(e);
        if (by_shape_) doubt(out_.set.trust[name]);
    }
    for (const auto& [name, line] : out_.set.curves) {
        const SchemeCurve* curve = landmark_scheme().curve(name);
        Trust& t = out_.set.trust[name];
        t.expected_mm = std::hypot(t.expected_mm, strange_error(curve ? curve->region : std::string()) *
                                                      std::max(0.0, strange - kUsuallyApartMm));
    }
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

// The face, and what the networks see of it from several sides.
Status Detector::see() {
    const auto face = find_face(network_, look_, reference_, stage(0.05, 0.25));
    if (!face) return face.error();
    out_.to_kit = face->to_kit * in_.upright;
    look_ = moved_look(std::move(look_), face->to_kit);
    views_ = see_face(network_, look_, reference_.place, face_views(look_.coloured), stage(0.25, 0.38));
    if (progress_.is_cancelled()) return cancelled_detection();
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
        if (progress_.is_cancelled()) return cancelled_detection();
        if (!laid) return ok.error();
    }
    if (!by_shape_) open_mouth(), find_likely(), look_at_lids();
    map_ = map_through(pairs_);
    if (!by_shape_) ears_ = mark_ears(kit_, base_points_, look_.surface, stage(0.36, 0.38));
    if (progress_.is_cancelled()) return cancelled_detection();
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

std::map<std::string, std::string> told_lids(const Detection& found) {
    std::map<std::string, std::string> out;
    for (const bool left : {false, true}) {
        if (found.lids[left]) out[left ? "left" : "right"] = lid_state_name(*found.lids[left]);
    }
    return out;
}

std::string what_is_left_out(const Detection& found) {
    if (found.not_skin.empty()) return {};
    const auto percent = [](double share) { return std::to_string(std::max(1L, std::lround(100 * share))) + " %"; };
    std::string out = percent(found.not_skin_share) +
                      " of the source is likely no skin (hair, cap, glasses and the "
                      "like)";
    std::string parts;
    for (const auto& [part, share] : found.covered)
        if (share >= kToldCover) parts += (parts.empty() ? ": " : ", ") + percent(share) + " of the " + part;
    return out + parts + ".";
}

std::string preset_for(const Detection& found, const FitSettings& settings) {
    return found.figure && settings.part == FitPart::Head ? "body" : "";
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
    for (const auto& [name, joint] : found.set.joints) {
        JointMark& own = into.joints[name];
        if (!own.by_hand) own = joint;
    }
    return put;
}

std::vector<std::string> leave_out_unseen(const Detection& found, const BaseKit& kit, FitSettings& settings) {
    const RegionSetting left_out{.match = 0};
    std::vector<std::string> out;
    for (const std::string region : {"ear_l", "ear_r"}) {
        const bool unseen = std::find(found.not_seen.begin(), found.not_seen.end(), region) != found.not_seen.end();
        const auto at = settings.regions.find(region);
        if (!unseen && at != settings.regions.end() && at->second == left_out) settings.regions.erase(at);
        if (!unseen || at != settings.regions.end() || kit.region(region).empty()) continue;
        settings.regions[region] = left_out;
        out.push_back(region);
    }
    return out;
}

}  // namespace veld
