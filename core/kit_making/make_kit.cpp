#include "core/kit_making/make_kit.h"

#include <algorithm>

#include "core/base/file.h"
#include "core/base/stopwatch.h"
#include "core/io/mesh_file.h"
#include "core/kit/original.h"
#include "core/kit_making/carry_regions.h"
#include "core/kit_making/carry_rig.h"
#include "core/kit_making/carry_shape.h"
#include "core/kit_making/draft_parts.h"
#include "core/kit_making/mirror_map.h"
#include "core/kit_making/seams.h"
#include "core/landmark/surface_pick.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"

namespace veld {
namespace {

constexpr double kModelReachMm = 40;                 // of a vertex from the model
constexpr int kWeightRounds = 2;                     // weights are averaged that often
constexpr double kMirrorReachMm = 0.5;               // where only places tell
constexpr double kLeastSize = 0.6, kMostSize = 1.7;  // of a base against the model: beyond, the unit is another
constexpr double kEvenShare = 0.02, kEvenMm = 0.3;   // vertices without a partner; how far pairs lie from even
constexpr double kOnPlaceMm = 30;                    // a landmark's place is looked for within

// The nearest of the 24 turns that lead axes to axes: bases are modelled along their axes.
Mat3 nearest_axes(const Mat3& turn) {
    Mat3 best = Mat3::Identity();
    double most = -1e300;
    for (int x = 0; x < 3; ++x) {
        for (int y = 0; y < 3; ++y) {
            if (x == y) continue;
            for (const int signs : {0, 1, 2, 3}) {
                Mat3 now = Mat3::Zero();
                now(x, 0) = signs & 1 ? -1 : 1;
                now(y, 1) = signs & 2 ? -1 : 1;
                now.col(2) = now.col(0).cross(now.col(1));
                const double alike = (now.transpose() * turn).trace();
                if (alike > most) most = alike, best = now;
            }
        }
    }
    return best;
}

// Is the shape even, by its mirror map?
bool is_even(const BaseKit& kit) {
    std::vector<double> off;
    for (Index v = 0; v < kit.mirror.size(); v += 3) {
        const Vec3& p = kit.mesh.positions[v];
        off.push_back((Vec3(-p.x(), p.y(), p.z()) - kit.mesh.positions[kit.mirror[v]]).norm());
    }
    return kit.unpaired.size() < kEvenShare * static_cast<double>(kit.mirror.size()) &&
           quantile(std::move(off), 0.9) < kEvenMm;
}

// Pairs at the mean of both, each on its side; points of the middle on it. What was set by hand stays.
void make_even(const std::map<std::string, Vec3>& by_hand, std::map<std::string, Vec3>& points) {
    const auto mirrored = [](const Vec3& p) { return Vec3(-p.x(), p.y(), p.z()); };
    for (auto& [name, p] : points) {
        if (by_hand.contains(name)) continue;
        const SchemePoint* known = landmark_scheme().point(name);
        if (!known) continue;
        if (known->mirror.empty()) {
            p.x() = 0;
            continue;
        }
        const auto other = points.find(known->mirror);
        if (other == points.end() || by_hand.contains(other->first) || name > other->first) continue;
        const Vec3 mean = 0.5 * (p + mirrored(other->second));
        p = mean, other->second = mirrored(mean);
    }
}

class Maker {
 public:
    Maker(FaceNetwork& network, const BaseKit& model, const KitRecipe& recipe, const Progress& progress)
        : network_(network), model_(model), recipe_(recipe), progress_(progress) {}

    Result<MadeKit> run() {
        Stopwatch watch;
        for (const auto step : {&Maker::read, &Maker::part, &Maker::lay, &Maker::straighten, &Maker::name_parts,
                                &Maker::mirror, &Maker::carry}) {
            if (auto ok = (this->*step)(); !ok) return ok.error();
            if (progress_.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        }
        out_.report.seconds = watch.lap();
        return std::move(out_);
    }

 private:
    Status read();
    Status part();
    Status lay();
    Status straighten();
    Status name_parts();
    Status mirror();
    Status carry();
    void carry_landmarks();
    void turn_all(const Similarity& by);

    FaceNetwork& network_;
    const BaseKit& model_;
    const KitRecipe& recipe_;
    const Progress& progress_;
    MadeKit out_;
    DraftParts parts_;
    LaidModel laid_;
};

Status Maker::read() {
    progress_.say(0, "reading");
    auto bytes = read_file(recipe_.file);
    if (!bytes) return bytes.error();
    auto file = read_mesh(recipe_.file, progress_);
    if (!file) return file.error();
    JoinedMesh joined = join_seams(file->mesh);
    BaseKit& kit = out_.kit;
    KitReport& report = out_.report;
    report.file_vertices = file->mesh.positions.size();
    report.joined = report.file_vertices - joined.mesh.positions.size();
    report.notes = file->notes;
    if (!file->targets.empty())
        report.notes.push_back("The file's own morph targets (" + std::to_string(file->targets.size()) +
                               ") are not taken over; the expressions are the known kit's.");
    const FrameGuess guess = guess_frame(file->mesh, recipe_.file, recipe_.landmarks);
    report.unit = recipe_.unit.value_or(guess.unit), report.up = recipe_.up.value_or(guess.up);
    report.unit_reason = recipe_.unit ? "you said so" : guess.unit_reason;
    report.up_reason = recipe_.up ? "you said so" : guess.up_reason;
    KitOriginal original;
    original.file = "original" + lower_extension(recipe_.file);
    original.key = original_key(bytes->view());
    original.work_of = std::move(joined.work_of);
    kit.original = std::move(original);
    kit.mesh = std::move(joined.mesh);
    turn_all({millimetres(report.unit), rotation_to_y_up(report.up), Vec3::Zero()});
    report.figure = is_figure(kit.mesh.positions, 1);
    return Done{};
}

void Maker::turn_all(const Similarity& by) {
    KitOriginal& original = *out_.kit.original;
    original.to_kit = by * original.to_kit;
    Points& x = out_.kit.mesh.positions;
    for (Vec3& p : x) p = by(p);
    for (Vec3& n : out_.kit.mesh.normals) n = by.rotation * n;
    for (Vec3& p : laid_.positions) p = by(p);
    for (auto& [name, p] : laid_.landmarks.points) p = by(p);
    for (auto& [name, curve] : laid_.landmarks.curves) {
        for (Vec3& p : curve) p = by(p);
    }
    laid_.to_base = by * laid_.to_base;
}

Status Maker::part() {
    parts_ = draft_parts(out_.kit.mesh);
    if (parts_.skin.empty())
        return Error{ErrorCode::BadInput, "'" + recipe_.file + "' holds no surface that could be a figure's skin."};
    if (parts_.several)
        return Error{ErrorCode::BadInput,
                     "'" + recipe_.file +
                         "' holds several bodies of about the same size side by side. Export the base "
                         "alone, or name its group."};
    return Done{};
}

Status Maker::lay() {
    LayInput in;
    in.model = &model_;
    in.base = &out_.kit.mesh;
    in.not_skin = parts_.not_skin(out_.kit.mesh.positions.size());
    in.figure = out_.report.figure;
    in.by_hand = recipe_.landmarks;
    for (auto& [name, p] : in.by_hand.points) p = out_.kit.original->to_kit(p);
    for (auto& [name, curve] : in.by_hand.curves) {
        for (Vec3& p : curve) p = out_.kit.original->to_kit(p);
    }
    auto laid = lay_model(network_, in, progress_);
    if (!laid) return laid.error();
    laid_ = std::move(*laid);
    return Done{};
}

// Which way it faces, and its unit, are known now that the model lies on it.
Status Maker::straighten() {
    KitReport& report = out_.report;
    const Mat3 facing = nearest_axes(laid_.to_base.rotation);
    turn_all({1, facing.transpose(), Vec3::Zero()});
    const double size = laid_.to_base.scale;  // of the base, the model being 1
    if (!recipe_.unit && (size < kLeastSize || size > kMostSize)) {
        Unit best = report.unit;
        for (const Unit unit : kAllUnits) {
            const auto off = [&](Unit u) {
                return std::abs(std::log(size * millimetres(u) / millimetres(report.unit)));
            };
            if (off(unit) < off(best)) best = unit;
        }
        if (best != report.unit) {
            turn_all({millimetres(best) / millimetres(report.unit), Mat3::Identity(), Vec3::Zero()});
            report.unit_reason = "its face has a person's size then";
            report.unit = best;
        }
    }
    report.model = laid_.figures;
    report.notes.insert(report.notes.end(), laid_.notes.begin(), laid_.notes.end());
    report.left_out = laid_.left_out;
    for (const auto& [name, trust] : laid_.landmarks.trust) {
        if (unsure(trust)) report.doubts[name] = trust.expected_mm;
    }
    return Done{};
}

// Pieces get their parts' names, and faces are put in order of parts, skin first; vertices stay as they are.
Status Maker::name_parts() {
    progress_.say(0.9, "parts");
    name_pieces(model_, laid_, recipe_.part, out_.kit.mesh, parts_);
    out_.kit.mesh = in_order_of_parts(out_.kit.mesh, parts_, out_.kit.parts, out_.report.parts);
    out_.kit.triangulation = triangulate(out_.kit.mesh);
    out_.kit.topology_key = topology_key(out_.kit.mesh);
    out_.kit.eyes = eyes_of(out_.kit);
    return Done{};
}

Status Maker::mirror() {
    progress_.say(0.92, "mirror map");
    BaseKit& kit = out_.kit;
    const MirrorMap map = find_mirror_map(kit.mesh, kMirrorReachMm);
    kit.mirror = map.partner;
    for (Index v = 0; v < kit.mirror.size(); ++v) {
        if (kit.mirror[v] == kNone) kit.mirror[v] = v, kit.unpaired.push_back(v);
    }
    out_.report.unpaired = kit.unpaired.size();
    out_.report.paired = kit.mirror.size() - kit.unpaired.size();
    return Done{};
}

// On the base's own faces; pairs and the middle line are brought to their mean where the base is symmetric.
void Maker::carry_landmarks() {
    BaseKit& kit = out_.kit;
    // on the skin; pupils on the eyes, where there are any
    FaceMask eye(kit.mesh.face_count(), 0);
    for (const KitPart& part : kit.parts) {
        if (!part.name.starts_with("eye_")) continue;
        for (const Index f : faces_of(part)) eye[f] = 1;
    }
    std::vector<Triangle> of[2];
    std::vector<Index> fan[2];
    const KitPart& skin = *kit.part("skin");
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index f = kit.triangulation.triangle_face[t];
        if (!eye[f] && !skin.has_face(f)) continue;
        of[eye[f]].push_back(kit.triangulation.triangles[t]);
        fan[eye[f]].push_back(t);
    }
    if (of[1].empty()) of[1] = of[0], fan[1] = fan[0];
    const SurfaceQuery query[2]{{kit.mesh.positions, of[0]}, {kit.mesh.positions, of[1]}};
    const auto place = [&](const Vec3& p, bool on_eye = false) -> std::optional<SurfacePoint> {
        SurfaceHit hit = query[on_eye].closest(p, kOnPlaceMm);
        if (!hit) return {};
        hit.triangle = fan[on_eye][hit.triangle];
        return surface_point(kit.triangulation, hit);
    };
    std::map<std::string, Vec3> points = laid_.landmarks.points;
    for (auto& [name, p] : points) {
        // what was set by hand is as it is; the rest is where the model's own lies, which all of the surface told
        const auto known = model_.landmarks.find(name);
        if (known != model_.landmarks.end() && !recipe_.landmarks.points.contains(name))
            p = known->second.at(laid_.positions);
    }
    if (is_even(kit)) make_even(recipe_.landmarks.points, points);
    for (const auto& [name, p] : points) {
        if (const auto at = place(p, name.starts_with("pupil"))) kit.landmarks[name] = *at;
    }
    for (const auto& [name, curve] : laid_.landmarks.curves) {
        std::vector<SurfacePoint> places;
        for (const Vec3& p : curve) {
            if (const auto at = place(p)) places.push_back(*at);
        }
        if (places.size() >= 2) kit.curves[name] = std::move(places);
    }
}

Status Maker::carry() {
    progress_.say(0.94, "regions, joints, weights");
    BaseKit& kit = out_.kit;
    carry_landmarks();
    const std::vector<ModelPlace> places = places_on_model(model_, laid_, kit.mesh, kModelReachMm);
    VertexMask skin(kit.mesh.positions.size(), 0);
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    kit.regions = carried_regions(model_, places, kit.mesh, skin);
    for (const KitPart& part : kit.parts) {
        if (part.name != "skin") kit.regions[part.name] = part.vertices;
    }
    const std::vector<std::string> part_of = part_names(kit);
    std::vector<float> head(skin.size(), 0);
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    kit.neck_ring = loop_around_head(kit.mesh, faces_of(*kit.part("skin")), head);
    if (kit.neck_ring.empty()) kit.neck_ring = lowest_border(kit.mesh, faces_of(*kit.part("skin")));
    kit.joints = carried_joints(model_, laid_);
    kit.weights = carried_weights(model_, places, kit.mesh, kWeightRounds);
    follow_part_joints(model_, kit);
    const ShapeCarrier carry(model_, laid_, places, kit.mesh, part_of);
    for (const auto& [name, shape] : model_.expressions) kit.expressions[name] = carry(shape);
    return Done{};
}

}  // namespace

Result<MadeKit> make_kit(FaceNetwork& network, const BaseKit& model, const KitRecipe& recipe,
                         const Progress& progress) {
    return Maker(network, model, recipe, progress).run();
}

}  // namespace veld
