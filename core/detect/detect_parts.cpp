#include <cmath>

#include "core/detect/detector.h"
#include "core/detect/doubt.h"
#include "core/detect/find_lids.h"
#include "core/detect/lip_edges.h"
#include "core/detect/not_skin.h"
#include "core/detect/open_mouth.h"
#include "core/fit/articulate.h"
#include "core/fit/jaw.h"
#include "core/fit/likely_head.h"
#include "core/fit/problem.h"
#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"

namespace veld {
namespace {

constexpr double kEarAgreesMm = 4, kLobeAgreesMm = 12;
constexpr double kPairOnBaseMm = 25, kCoverMm = 60;

}  // namespace

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
    out_.mouth_gap_mm = *gap, jaw_degrees_ = degrees;
    opened_ = posed_kit(kit_, jaw_pose(kit_, degrees));
    carry_to_open(kit_, *opened_, pairs_);
}

void Detector::read_mouth() {
    const auto leave_out = [&](const char* name, const char* why) {
        if (!base_points_.contains(name) && !base_curves_.contains(name)) return;
        out_.set.points.erase(name), out_.set.curves.erase(name), out_.set.trust.erase(name),
            out_.evidence.erase(name);
        out_.left_out[name] = why;
    };
    if (!(out_.mouth_gap_mm > 0)) {
        for (const char* name : kInnerLips) leave_out(name, "the mouth is shut: the mouth line is both lips' edge");
        return;
    }
    char text[96];
    std::snprintf(text, sizeof text, "The mouth is open: its lips are about %.0f mm apart.", out_.mouth_gap_mm);
    out_.notes.push_back(text);
    for (const char* name : {"stomion", "mouth_line"}) leave_out(name, "the mouth is open: the lips do not meet");
    leave_out_teeth();
}

// What is seen in the mouth is not matched by the lips.
void Detector::leave_out_teeth() {
    const auto upper = out_.set.curves.find(kInnerLips[0]), lower = out_.set.curves.find(kInnerLips[1]);
    if (upper == out_.set.curves.end() || lower == out_.set.curves.end()) return;
    const Points& at = look_.surface.positions;
    const VertexMask seen = seen_between_lips(at, in_kit(upper->second), in_kit(lower->second));
    double area = 0, all = 0;
    for (const Triangle& t : look_.surface.triangles) {
        const double size = (at[t[1]] - at[t[0]]).cross(at[t[2]] - at[t[0]]).norm();
        all += size, area += seen[t[0]] && seen[t[1]] && seen[t[2]] ? size : 0;
    }
    if (area <= 0) return;
    if (out_.not_skin.empty()) out_.not_skin = in_.ignored ? *in_.ignored : VertexMask(at.size(), 0);
    for (std::size_t v = 0; v < at.size(); ++v) out_.not_skin[v] |= seen[v];
    out_.not_skin_share += area / all;
    out_.notes.push_back("Teeth or tongue are seen between the lips.");
}

// The most likely of the heads that the kit knows: points are carried over from it, and what stands outside of it may
// be no skin.
void Detector::find_likely() {
    std::vector<double> match(kit_.mesh.positions.size(), 0);
    for (const Index v : kit_.region("head_skin")) match[v] = 1;
    for (const Index v : hidden_skin(kit_)) match[v] = 0;
    const Pose pose = jaw_pose(kit_, jaw_degrees_);
    LikelyInput of;
    of.kit = &posed(), of.pose = opened_ ? &pose : nullptr;
    of.source = &look_.surface, of.match = &match, of.points = hints();
    for (PointPull& hint : of.points) hint.target = out_.to_kit(hint.target);
    // what the face alone says of the rest: a cap cannot make itself a skull
    of.face_only = true;
    auto likely = likely_head(of);
    if (!likely) return;
    LeftOut left = find_not_skin(look_, kit_, *likely);
    if (in_.by_shape) left = {VertexMask(look_.surface.positions.size(), 0), 0, {}};  // a base mesh wears nothing
    for (const Index v : kit_.region("head_skin")) {
        const SurfaceHit hit = look_.surface.closest(likely->positions[v], kCoverMm, nullptr);
        if (hit && left.vertices[look_.surface.triangles[hit.triangle][0]]) match[v] = 0;
    }
    of.face_only = false;
    likely = likely_head(of);
    if (left.share > 0) {
        out_.not_skin = std::move(left.vertices), out_.not_skin_share = left.share;
        for (const auto& [part, share] : left.part) out_.covered[head_part_name(part)] = share;
        for (std::size_t v = 0; in_.ignored && v < in_.ignored->size(); ++v) out_.not_skin[v] |= (*in_.ignored)[v];
    }
    // what was seen of the base is seen of the likely head
    const std::vector<Triangle>& triangles = skin_triangles(kit_);
    const SurfaceQuery query(posed().mesh.positions, triangles);
    for (SurfacePair& pair : pairs_) {
        const SurfaceHit hit = query.closest(pair.base, kPairOnBaseMm);
        if (!hit) continue;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = triangles[hit.triangle][k];
            pair.base += hit.barycentric[k] * (likely->positions[v] - posed().mesh.positions[v]);
        }
    }
    BaseKit shaped = posed();
    shaped.mesh.positions = likely->positions;
    opened_ = std::move(shaped);
}

// Lids that hang or are shut: the base's go down as far before anything is carried over, and what the networks say of
// them does not count, since they see every eye open.
void Detector::look_at_lids() {
    const auto found = find_lids(look_, kit_, posed().mesh.positions);
    for (const bool left : {false, true}) {
        if (!found[left]) continue;
        out_.lids[left] = lid_state(found[left]->opening);
        if (*out_.lids[left] != LidState::Open) lids_[left] = found[left]->shut;
    }
    if (lids_ == LidsShut{0, 0}) return;
    std::erase_if(pairs_,
                  [&](const SurfacePair& pair) { return lids_[of_left_eye(pair.point)] > 0 && on_lid(pair.point); });
    BaseKit shaped = posed();
    shaped.mesh.positions = move_lids(kit_, shaped.mesh.positions, lids_);
    opened_ = std::move(shaped);
}

void Detector::read_lids() {
    std::string text;
    for (const bool left : {false, true}) {
        if (!out_.lids[left] || *out_.lids[left] == LidState::Open) continue;
        text += std::string(text.empty() ? "The " : ", the ") + (left ? "left" : "right") + " eye is " +
                (*out_.lids[left] == LidState::Shut ? "shut" : "half shut");
        const std::string pupil = left ? "pupil_l" : "pupil_r";
        if (*out_.lids[left] != LidState::Shut || !base_points_.contains(pupil)) continue;
        out_.set.points.erase(pupil), out_.set.trust.erase(pupil), out_.evidence.erase(pupil);
        out_.left_out[pupil] = "the eye is shut";
    }
    if (!text.empty()) out_.notes.push_back(text + ".");
}

// What the fit made of the ears, their own edges know better.
void Detector::read_ears() {
    const Similarity back = out_.to_kit.inverse();
    for (const bool left : {false, true}) {
        const MarkedEar& ear = ears_[left];
        const std::string side = left ? "_l" : "_r";
        for (const auto& [name, place] : base_points_) {
            const SchemePoint* scheme = landmark_scheme().point(name);
            if (!scheme || scheme->region != "ear" || !name.ends_with(side) || !out_.set.points.contains(name))
                continue;
            if (ear.why.empty() || ear.seen) continue;
            out_.set.points.erase(name), out_.set.trust.erase(name), out_.evidence.erase(name);
            out_.left_out[name] = ear.why;
        }
        if (!ear.seen) {
            if (ear.why.empty()) continue;
            out_.not_seen.push_back("ear" + side);
            out_.set.curves.erase("ear_rim" + side), out_.set.trust.erase("ear_rim" + side);
            out_.left_out["ear_rim" + side] = ear.why;
            continue;
        }
        for (const auto& [name, p] : ear.points) {
            // where the fit agrees it knows which place of the base this is, else what the edge shows; the tragus has
            // a form of its own, and a lobe has none
            const auto fitted = out_.set.points.find(name);
            const double apart =
                fitted == out_.set.points.end() ? kLobeAgreesMm : (out_.to_kit(fitted->second) - p).norm();
            const bool agrees =
                !name.starts_with("tragion") && apart < (name.starts_with("subaurale") ? kLobeAgreesMm : kEarAgreesMm);
            if (!agrees) out_.set.points[name] = back(p);
            out_.left_out.erase(name);
            Evidence& e = out_.evidence[name];
            e = {}, e.disagree = std::min(apart, kEarAgreesMm), e.usual = ear_error(name, ear),
            e.ear = ear.clear.at(name), e.lies = ear.lies * ear.covers, e.rival = ear.rival;
            out_.set.trust[name] = trust_from(e);
        }
        Points& rim = out_.set.curves["ear_rim" + side];
        rim.clear();
        for (const Vec3& p : ear.rim) rim.push_back(back(p));
        out_.set.trust["ear_rim" + side] = {.origin = Origin::Found, .expected_mm = ear_error("ear_rim", ear)};
        out_.left_out.erase("ear_rim" + side);
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

}  // namespace veld
