#include "core/kit_making/make_kit.h"

#include <algorithm>

#include "core/base/stopwatch.h"
#include "core/kit/kit_joints.h"
#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/kit/original.h"
#include "core/kit_making/carry_heads.h"
#include "core/kit_making/carry_regions.h"
#include "core/kit_making/carry_rig.h"
#include "core/kit_making/carry_shape.h"
#include "core/kit_making/draft_parts.h"
#include "core/kit_making/edge_loops.h"
#include "core/kit_making/kit_places.h"
#include "core/kit_making/mirror_map.h"
#include "core/kit_making/own_rig.h"
#include "core/kit_making/reduced.h"
#include "core/kit_making/skeleton.h"
#include "core/linalg/statistics.h"
#include "core/mesh/edges.h"
#include "core/rig/rest_poses.h"
#include "core/tidy/orient.h"

namespace veld {
namespace {

constexpr double kModelReachMm = 40;                 // of a vertex from the model
constexpr int kWeightRounds = 2;                     // weights are averaged that often
constexpr double kMirrorReachMm = 0.5;               // where only places tell
constexpr double kLeastSize = 0.6, kMostSize = 1.7;  // of a base against the model: beyond, the unit is another
constexpr double kEvenShare = 0.02, kEvenMm = 0.3;   // vertices without a partner; how far pairs lie from even
constexpr double kInsideOut = 0.1;                   // of the volume that a ball of its area would have
constexpr std::size_t kScanVertices = 20000;
constexpr double kScanPaired = 0.1;
constexpr double kEvenCurveMm = 6;  // a curve and the other side's are the same line, so near
constexpr double kOnPlaceMm = 30;   // a landmark's place is looked for within

// Bases are modelled along their axes.
Mat3 nearest_axes(const Mat3& turn) {
    const std::vector<Mat3> all = axis_turns();
    return *std::max_element(all.begin(), all.end(), [&](const Mat3& a, const Mat3& b) {
        return (a.transpose() * turn).trace() < (b.transpose() * turn).trace();
    });
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

// To a millionth of a millimetre: the kit's files are half as large, and everything is given back as exactly as any
// file has it.
void rounded(Points& points) {
    for (Vec3& p : points) p = (p * 1e6).array().round() / 1e6;
}

// By the volume that its faces enclose, against that of a ball of their area: open meshes count too.
bool turned_inside_out(const Mesh& mesh) {
    const Vec3 middle = bounding_box(mesh.positions).centre();
    double volume = 0, area = 0;
    for (const Triangle& t : triangulate(mesh).triangles) {
        const Vec3 a = mesh.positions[t[0]] - middle, b = mesh.positions[t[1]] - middle,
                   c = mesh.positions[t[2]] - middle;
        volume += a.dot(b.cross(c)) / 6;
        area += (b - a).cross(c - a).norm() / 2;
    }
    return volume < -kInsideOut * std::pow(area, 1.5) / (6 * std::sqrt(M_PI));
}

// Curves likewise: each with that of the other side, those across the middle with themselves turned round.
void make_even(std::map<std::string, std::vector<Vec3>>& curves) {
    const auto mirrored = [](const Vec3& p) { return Vec3(-p.x(), p.y(), p.z()); };
    for (auto& [name, curve] : curves) {
        const bool left = name.ends_with("_l");
        if (name.ends_with("_r")) continue;
        const auto other = left ? curves.find(name.substr(0, name.size() - 2) + "_r") : curves.find(name);
        if (other == curves.end() || other->second.size() != curve.size()) continue;
        const std::vector<Vec3> there = other->second, here = curve;
        for (std::size_t i = 0; i < curve.size(); ++i) {
            const std::size_t k = left ? i : curve.size() - 1 - i;
            if ((here[i] - mirrored(there[k])).norm() > kEvenCurveMm) continue;
            const Vec3 mean = 0.5 * (here[i] + mirrored(there[k]));
            curve[i] = mean;
            if (left) other->second[k] = mirrored(mean);
        }
    }
}

class Maker {
 public:
    Maker(FaceNetwork& network, const BaseKit& model, const KitRecipe& recipe, const Progress& progress)
        : network_(network), model_(model), recipe_(recipe), progress_(progress), words_(recipe.part) {}

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
    Status take_rig();
    Status take_reduced();
    void keep_expressions();
    bool same_as_before() const;
    void turn_all(const Similarity& by);

    FaceNetwork& network_;
    const BaseKit& model_;
    const KitRecipe& recipe_;
    const Progress& progress_;
    MadeKit out_;
    std::map<std::string, std::string> words_;  // group or material -> part
    std::map<Index, std::string> told_;         // vertex of the base -> part
    BaseFiles files_;
    DraftParts parts_;
    LaidModel laid_;
};

Status Maker::read() {
    progress_.say(0, "reading");
    std::vector<BaseFile> wanted{{recipe_.file, {}}};
    wanted.insert(wanted.end(), recipe_.more.begin(), recipe_.more.end());
    auto files = read_base_files(wanted, progress_);
    if (!files) return files.error();
    files_ = std::move(*files);
    BaseKit& kit = out_.kit;
    KitReport& report = out_.report;
    report.file_vertices = files_.file_vertices, report.joined = files_.joined;
    report.notes = files_.notes;
    const FrameGuess guess = guess_frame(files_.mesh, recipe_.file, recipe_.landmarks);
    report.unit = recipe_.unit.value_or(guess.unit), report.up = recipe_.up.value_or(guess.up);
    report.unit_reason = recipe_.unit ? "you said so" : guess.unit_reason;
    report.up_reason = recipe_.up ? "you said so" : guess.up_reason;
    kit.original = std::move(files_.original);
    kit.original->part_at = recipe_.part_at;
    for (const auto& [name, p] : recipe_.landmarks.points) kit.by_hand.insert(name);
    kit.mesh = std::move(files_.mesh);
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
    if (turned_inside_out(out_.kit.mesh))
        return Error{ErrorCode::BadInput, "'" + recipe_.file +
                                              "' is turned inside out: its faces look inwards. Turn its faces (or "
                                              "normals) outwards where it was made, and export it again."};
    parts_ = draft_parts(out_.kit.mesh);
    for (const auto& [group, part] : files_.part_of) words_[group] = part;
    for (const auto& [vertex, part] : recipe_.part_at) {
        if (vertex < out_.kit.original->work_of.size()) told_[out_.kit.original->work_of[vertex]] = part;
    }
    name_told_pieces(told_, words_, parts_);
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

// What is said of a base that may not be one, or is not clean.
void say_faults(const Mesh& mesh, std::size_t paired, std::vector<std::string>& notes) {
    const EdgeLinks links = link_edges(mesh);
    std::size_t many = 0;
    for (const Index m : links.mate) many += m == kManyFaces;
    if (many)
        notes.push_back(std::to_string(many) +
                        " edges of the base belong to more than two faces; work along the surface stops there.");
    const bool triangles = mesh.corner_vertex.size() == 3 * std::size_t{mesh.face_count()};
    if (triangles && mesh.positions.size() > kScanVertices &&
        static_cast<double>(paired) < kScanPaired * static_cast<double>(mesh.positions.size()))
        notes.push_back(
            "This looks like a scan and not like a base mesh: it is all triangles, and hardly any vertex has "
            "a partner on the other side. Scans go into Gather, as sources.");
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
    if (const auto up = up_of(*out_.kit.original); up && *up != report.up)
        report.up = *up, report.up_reason = "its head stands upright then";
    report.model = laid_.figures;
    report.notes.insert(report.notes.end(), laid_.notes.begin(), laid_.notes.end());
    report.left_out = laid_.left_out;
    for (const auto& [name, trust] : laid_.landmarks.trust) {
        if (unsure(trust)) out_.kit.doubts[name] = trust.expected_mm;
    }
    return Done{};
}

// Pieces get their parts' names, and faces are put in order of parts, skin first; vertices stay as they are.
Status Maker::name_parts() {
    progress_.say(0.9, "parts");
    name_pieces(model_, laid_, out_.kit.mesh, parts_);
    out_.kit.mesh = in_order_of_parts(out_.kit.mesh, parts_, out_.kit.parts, out_.report.parts);
    out_.kit.triangulation = triangulate(out_.kit.mesh);
    out_.kit.topology_key = topology_key(out_.kit.mesh);
    out_.kit.eyes = eyes_of(out_.kit);
    for (KitPart& part : out_.kit.parts) {
        if (const auto rule = recipe_.rule.find(part.name); rule != recipe_.rule.end()) part.told = rule->second;
    }
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
    say_faults(kit.mesh, out_.report.paired, out_.report.notes);
    return Done{};
}

// On the base's own faces; pairs and the middle line are brought to their mean where the base is symmetric.
void Maker::carry_landmarks() {
    BaseKit& kit = out_.kit;
    const KitPlaces where(kit);
    const auto place = [&](const Vec3& p, bool on_eye = false) { return where.place(p, on_eye, kOnPlaceMm); };
    std::map<std::string, Vec3> points = laid_.landmarks.points;
    for (auto& [name, p] : points) {
        // what was set by hand is as it is; the rest is where the model's own lies, which all of the surface told
        const auto known = model_.landmarks.find(name);
        if (known != model_.landmarks.end() && !recipe_.landmarks.points.contains(name))
            p = known->second.at(laid_.positions);
    }
    std::map<std::string, std::vector<Vec3>> curves = laid_.landmarks.curves;
    if (is_even(kit)) {
        make_even(recipe_.landmarks.points, points);
        if (recipe_.landmarks.curves.empty()) make_even(curves);
    }
    const EdgeLoops loops(kit.mesh, faces_of(*kit.part("skin")));
    for (const auto& [name, p] : points) {
        if (const auto at = place(p, name.starts_with("pupil"))) kit.landmarks[name] = *at;
    }
    for (const auto& [name, curve] : curves) {
        std::vector<SurfacePoint> places;
        for (const Vec3& p : curve) {
            if (const auto at = place(p)) places.push_back(*at);
        }
        if (places.size() < 2) continue;
        kit.curves[name] = recipe_.landmarks.curves.contains(name) ? std::move(places) : loops.line(places);
    }
    // a ball looks ahead: its pupil is where the known one's is, whatever a picture of a bare ball may show
    for (const KitEye& eye : kit.eyes) {
        const std::string pupil = "pupil_" + eye.part.substr(eye.part.size() - 1);
        if (!recipe_.landmarks.points.contains(pupil)) kit.doubts.erase(pupil);
    }
    std::erase_if(kit.doubts,
                  [&](const auto& d) { return !kit.landmarks.contains(d.first) && !kit.curves.contains(d.first); });
    out_.report.doubts = kit.doubts;
}

Status Maker::carry() {
    progress_.say(0.94, "regions, joints, weights");
    BaseKit& kit = out_.kit;
    carry_landmarks();
    const std::vector<ModelPlace> places = places_on_model(model_, laid_, kit.mesh, kModelReachMm);
    kit.regions = carried_regions(model_, places, kit, is_even(kit));
    for (const KitPart& part : kit.parts) {
        if (part.name != "skin") kit.regions[part.name] = part.vertices;
    }
    std::vector<float> head(kit.mesh.positions.size(), 0);
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    kit.neck_ring = loop_around_head(kit.mesh, faces_of(*kit.part("skin")), head);
    if (kit.neck_ring.empty()) kit.neck_ring = lowest_border(kit.mesh, faces_of(*kit.part("skin")));
    kit.joints = carried_joints(model_, laid_);
    kit.weights = carried_weights(model_, places, kit.mesh, kWeightRounds);
    follow_part_joints(model_, kit);
    if (auto ok = take_rig(); !ok) return ok;
    add_inner_lips(kit);
    if (out_.report.figure) kit.rest_poses = arm_poses(kit.joints);
    kit.expressions = target_shapes(files_, kit);
    if (!recipe_.expressions.empty())
        kit.expressions.merge(folder_shapes(recipe_.expressions, kit, out_.report.notes, progress_));
    if (kit.expressions.empty()) keep_expressions();
    if (same_as_before()) kit.joint_ties = ties_again(*recipe_.before, kit);
    out_.report.own_expressions = kit.expressions.size();
    const ShapeCarrier carry(model_, laid_, places, kit);
    kit.known_heads = carried_heads(model_, carry, places, kit);
    if (kit.expressions.empty()) {
        for (const auto& [name, shape] : model_.expressions) kit.expressions[name] = carry(shape, true);
    }
    rounded(kit.mesh.positions);
    for (auto& [name, shape] : kit.expressions) rounded(shape);
    return take_reduced();
}

bool Maker::same_as_before() const {
    const BaseKit* before = recipe_.before.get();
    return before && before->original && before->original->work_of == out_.kit.original->work_of;
}

// Of the kit that is made again: those that are not the known kit's, where the base is the same.
void Maker::keep_expressions() {
    if (!same_as_before()) return;
    const BaseKit* before = recipe_.before.get();
    BaseKit& kit = out_.kit;
    const bool own = std::any_of(before->expressions.begin(), before->expressions.end(),
                                 [&](const auto& e) { return !model_.expressions.contains(e.first); });
    if (!own) return;
    const Similarity moved = kit.original->to_kit * before->original->to_kit.inverse();
    for (const auto& [name, shape] : before->expressions) {
        Points& here = kit.expressions[name];
        for (const Vec3& p : shape) here.push_back(moved(p));
    }
}

// The base's own joints take the place of those that were carried over.
Status Maker::take_rig() {
    BaseKit& kit = out_.kit;
    KitRig rig;
    SkinWeights weights;
    if (!recipe_.skeleton.empty()) {
        auto skeleton = read_skeleton(recipe_.skeleton, kit);
        if (!skeleton) return skeleton.error();
        rig.joints = std::move(skeleton->joints);
        rig.file = "skeleton" + ending_to_keep(recipe_.skeleton), rig.key = skeleton->key;
        weights = std::move(skeleton->weights);
        out_.report.notes.insert(out_.report.notes.end(), skeleton->notes.begin(), skeleton->notes.end());
    } else if (files_.skin) {
        rig.joints = files_.skin->joints;
        for (Joint& joint : rig.joints) joint.position = kit.original->to_kit(joint.position);
        weights = weights_in_kit(*kit.original, *files_.skin, kit.mesh.positions.size());
    } else {
        return Done{};
    }
    rig.roles = recognise_roles(kit.joints, rig.joints);
    for (const Joint& joint : kit.joints) {
        if (!rig.roles.contains(joint.name)) out_.report.roles_open.push_back(joint.name);
    }
    out_.report.own_joints = rig.joints.size();
    kit.own_rig = std::move(rig);
    take_own_rig(weights, kit);
    return Done{};
}

Status Maker::take_reduced() {
    for (const auto& [name, path] : recipe_.reduced) {
        auto reduced = tie_reduced(out_.kit, path, name);
        if (!reduced) return reduced.error();
        out_.kit.reduced.push_back(std::move(*reduced));
    }
    return Done{};
}

}  // namespace

Result<MadeKit> make_kit(FaceNetwork& network, const BaseKit& model, const KitRecipe& recipe,
                         const Progress& progress) {
    return Maker(network, model, recipe, progress).run();
}

}  // namespace veld
