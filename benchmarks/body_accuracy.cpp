// Made-up figures marked and fitted without a person: how near their rest shape and joints come to the truth.
// Usage: body_accuracy KIT_FOLDER [--seeds N] [--first N] [--true-marks] [--out FOLDER] [--demo SUBJECTS_FOLDER]
//        [--signs] [--stands FILE.png]
// --true-marks: the landmarks of the truth instead; --out: truth, fit at rest and scan of each as OBJ; --signs: what
// says how sure each region is at rest, and how far off it is; --stands: truth and fit in the
// stock poses as a picture.
#include <cstdio>
#include <cstring>

#include "core/base/file.h"
#include "core/base/stopwatch.h"
#include "core/detect/detect.h"
#include "core/fit/find_pose.h"
#include "core/fit/fit.h"
#include "core/fit/presets.h"
#include "core/io/image.h"
#include "core/io/mesh_file.h"
#include "core/io/mesh_write.h"
#include "core/kit/kit_joints.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/rig/joint_range.h"
#include "core/rig/stock_poses.h"
#include "core/spatial/self_intersections.h"
#include "core/spatial/small_picture.h"
#include "core/tidy/orient.h"
#include "demo/standins/made_up_figure.h"

using namespace veld;

namespace {

struct Bench {
    const BaseKit& kit;
    bool true_marks = false, signs = false;
    std::string out, stands;
    FaceNetwork network;
    std::optional<FaceReference> reference;
    std::map<std::string, std::vector<double>> all;

    void put(const std::string& name, double value) {
        all[name].push_back(value);
        std::printf(" | %s %.2f", name.c_str(), value);
    }
};

struct Truth {
    Points rest, rest_joints;
    std::map<std::string, Vec3> landmarks;  // scan coordinates
    double mm_per_unit = 1;
    Points posed;  // every vertex, scan coordinates
};

double mean_of(const std::vector<double>& v) {
    double sum = 0;
    for (const double x : v) sum += x;
    return v.empty() ? 0 : sum / static_cast<double>(v.size());
}

std::optional<LandmarkSet> marks_of(Bench& b, const Mesh& scan, const Truth& truth) {
    LandmarkSet out;
    if (b.true_marks) {
        out.points = truth.landmarks;
        return out;
    }
    if (!b.reference) {
        auto made = face_reference(b.network, b.kit);
        if (!made) return {};
        b.reference = std::move(*made);
    }
    DetectInput input;
    input.kit = &b.kit, input.source = &scan, input.reference = &*b.reference;
    const FrameGuess guess = guess_frame(scan, "scan.ply", {});
    input.upright = rough_upright(scan, guess.unit, guess.up, kUsualCrownMm);
    Stopwatch clock;
    const auto d = detect_landmarks(b.network, input, {});
    if (!d) {
        std::printf(" | not marked: %s\n", d.error().message.c_str());
        return {};
    }
    b.put("mark_s", clock.lap());
    out = d->set, out.unit = guess.unit;
    double off = 0, unsaid = 0, count = 0;
    for (const auto& [name, at] : truth.landmarks) {
        const auto found = out.points.find(name);
        if (found == out.points.end() || in_point_set(name, PointSet::Head)) continue;
        const bool far = (found->second - at).norm() * truth.mm_per_unit > 25;
        ++count, off += far, unsaid += far && !unsure(out.trust_of(name));
    }
    b.put("marks_off", 100 * off / std::max(1.0, count)), b.put("unsaid", 100 * unsaid / std::max(1.0, count));
    return out;
}

constexpr int kSide = 420, kFine = 2;  // pixels of a figure, and how many are drawn for each way

void paint(const SmallPicture& drawn, int left, int top, Pixels& sheet) {
    for (int y = 0; y < kSide; ++y) {
        for (int x = 0; x < kSide; ++x) {
            int light = 0;
            for (int k = 0; k < kFine * kFine; ++k) {
                const int at = (kFine * y + k / kFine) * drawn.side + kFine * x + k % kFine;
                const auto i = static_cast<std::size_t>(at);
                light += drawn.seen[i] ? drawn.grey[i] : 235;
            }
            const auto to = 4 * static_cast<std::size_t>((top + y) * sheet.width + left + x);
            std::fill_n(sheet.rgba.begin() + static_cast<std::ptrdiff_t>(to), 3,
                        static_cast<std::uint8_t>(light / (kFine * kFine)));
        }
    }
}

// The truth (above) and the shape (below) in every stock pose, each about its own joints, as one picture.
void picture_stands(const BaseKit& kit, const Points& rest, const Truth& truth, const std::string& path) {
    const std::vector<StockPose> all = stock_poses(kit.joints);
    Pixels sheet{kSide * static_cast<int>(all.size()), 2 * kSide, {}};
    sheet.rgba.assign(4 * static_cast<std::size_t>(sheet.width * sheet.height), 255);
    for (std::size_t p = 0; p < all.size(); ++p) {
        const Points its = skin(truth.rest, joints_at(kit, truth.rest_joints), kit.weights, all[p].pose);
        const auto mine = in_pose(kit, rest, all[p].pose);
        if (!mine) continue;
        const Points* rows[] = {&its, &*mine};
        for (int row = 0; row < 2; ++row) {
            const Vec3 middle = bounding_box(*rows[row]).centre();
            Box box;
            box.add(middle - Vec3::Constant(1150)), box.add(middle + Vec3::Constant(1150));
            paint(small_picture(*rows[row], skin_triangles(kit), box, kFine * kSide), static_cast<int>(p) * kSide,
                  row * kSide, sheet);
        }
    }
    const auto bytes = encode_png(sheet);
    (void)write_file(path, {reinterpret_cast<const char*>(bytes.data()), bytes.size()});
}

// The shape in every stock pose about its own joints, against the truth about its true ones: mean over all of them.
double stock_pose_error(const BaseKit& kit, const Points& rest, const Truth& truth) {
    std::vector<double> all;
    for (const StockPose& stock : stock_poses(kit.joints)) {
        const auto mine = in_pose(kit, rest, stock.pose);
        if (!mine) continue;
        const Points its = skin(truth.rest, joints_at(kit, truth.rest_joints), kit.weights, stock.pose);
        Points from, to;
        for (const Index v : kit.region("body_skin")) from.push_back((*mine)[v]), to.push_back(its[v]);
        SimilarityOptions rigid;
        rigid.allow_scale = false, rigid.outlier_mm = 0;
        const auto over = fit_similarity(from, to, rigid);
        for (std::size_t i = 0; over && i < from.size(); ++i) all.push_back(((*over)(from[i]) - to[i]).norm());
    }
    return mean_of(all);
}

// What was said of each region at rest against how far off it is, root mean square.
void sureness(Bench& b, const FitResult& fit, const Points& rest, const Truth& truth) {
    double within = 0, twice = 0, shown = 0;
    for (const auto& [region, doubt] : fit.figures.rest) {
        double sum = 0;
        const VertexIndices& vertices = b.kit.region(region);
        for (const Index v : vertices) sum += (rest[v] - truth.rest[v]).squaredNorm();
        const double off = std::sqrt(sum / static_cast<double>(vertices.size()));
        ++shown, within += off <= doubt.expected_mm, twice += off <= 2 * doubt.expected_mm;
        const RestSigns& s = doubt.signs;
        if (b.signs)
            std::printf("\nsign %s %.3f %.3f %.4f %.3f %.3f %.3f %.2f", region.c_str(), off, doubt.expected_mm,
                        s.guessed, s.uneven, s.build, s.left, s.turned);
    }
    if (b.signs) std::printf("\n   ");
    if (shown > 0) b.put("within", 100 * within / shown), b.put("twice", 100 * twice / shown);
}

void compare(Bench& b, const FitResult& fit, const Truth& truth, const std::string& name, const Mesh& scan) {
    const BaseKit& kit = b.kit;
    Points rest = at_rest(kit, fit.positions, fit.pose);
    Points joints;
    if (fit.pose) {
        joints = pose_joints(kit.joints, rest_of(*fit.pose)).place;
        const Points unmoved = unposed(fit.positions, kit.joints, kit.weights, *fit.pose);
        for (Vec3& p : joints) p += rest[0] - unmoved[0];
    }
    const VertexIndices& body = kit.region("body_skin");
    Points from, to;
    for (const Index v : body) from.push_back(rest[v]), to.push_back(truth.rest[v]);
    SimilarityOptions rigid;
    rigid.allow_scale = false, rigid.outlier_mm = 0;
    const auto over = fit_similarity(from, to, rigid);
    if (!over) return;
    for (Vec3& p : rest) p = (*over)(p);
    for (Vec3& p : joints) p = (*over)(p);
    const auto off = [&](const VertexIndices& vertices) {
        std::vector<double> out;
        for (const Index v : vertices) out.push_back((rest[v] - truth.rest[v]).norm());
        return out;
    };
    sureness(b, fit, rest, truth);
    const Similarity to_scan = fit.placement.source_to_kit.inverse();
    std::vector<double> posed, posed_torso;
    for (const Index v : body)
        posed.push_back((to_scan(fit.positions[v]) - truth.posed[v]).norm() * truth.mm_per_unit);
    for (const Index v : kit.region("torso"))
        posed_torso.push_back((to_scan(fit.positions[v]) - truth.posed[v]).norm() * truth.mm_per_unit);
    b.put("posed", median(posed)), b.put("posed_mean", mean_of(posed)), b.put("posed_torso", mean_of(posed_torso));
    b.put("rest", median(off(body))), b.put("rest_mean", mean_of(off(body)));
    for (const char* region :
         {"hip", "torso", "thigh_l", "shin_l", "foot_l", "upper_arm_l", "forearm_l", "hand_all_l"})
        if (!kit.region(region).empty()) b.put(region, mean_of(off(kit.region(region))));
    std::vector<double> large, fingers;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const std::string& joint = kit.joints[j].name;
        if (joint == "pelvis" || joint.starts_with("eye") || joint == "jaw") continue;
        (of_finger(joint) ? fingers : large).push_back((joints[j] - truth.rest_joints[j]).norm());
    }
    b.put("joints", median(large)), b.put("joints_worst", *std::max_element(large.begin(), large.end()));
    b.put("fingers", median(fingers));
    std::vector<double> tied;  // as the shape alone tells them
    const Points told = joint_places(kit, rest);
    for (std::size_t j = 0; j < joints.size(); ++j)
        if (!of_finger(kit.joints[j].name)) tied.push_back((told[j] - truth.rest_joints[j]).norm());
    b.put("tied", median(tied));
    if (!b.stands.empty()) picture_stands(kit, rest, truth, b.stands);
    b.put("stock", stock_pose_error(kit, rest, truth));
    b.put("surface", fit.figures.surface.median), b.put("flips", static_cast<double>(fit.figures.flipped_faces));
    b.put("cuts", static_cast<double>(fit.figures.self_intersections));
    std::vector<Triangle> skin;
    for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t)
        if (kit.part("skin")->has_face(kit.triangulation.triangle_face[t]))
            skin.push_back(kit.triangulation.triangles[t]);
    const auto in_itself = [&](const Points& x) { return static_cast<double>(self_intersections(x, skin).size()); };
    b.put("rest_cuts", std::max(0.0, in_itself(rest) - in_itself(kit.mesh.positions)));
    Mesh shape = kit.mesh;
    shape.positions = rest;
    if (b.out.empty()) return;
    (void)write_mesh(b.out + "/" + name + "_fit.obj", shape, 0.001);
    shape.positions = truth.rest;
    (void)write_mesh(b.out + "/" + name + "_true.obj", shape, 0.001);
    (void)write_mesh(b.out + "/" + name + "_scan.obj", scan, 1);
}

void one(Bench& b, const Mesh& scan, const Truth& truth, std::optional<Unit> unit, const std::string& name) {
    auto marks = marks_of(b, scan, truth);
    if (!marks) return;
    FitInput input;
    input.kit = &b.kit, input.source = &scan, input.landmarks = *marks, input.unit = unit;
    input.settings = *fit_preset("body");
    input.settings.keep_true_size = true;
    Stopwatch clock;
    const auto fit = run_fit(input, {});
    if (!fit) return void(std::printf(" | %s\n", fit.error().message.c_str()));
    b.put("fit_s", clock.lap());
    for (const std::string& note : fit->notes) std::printf(" | note: %s", note.c_str());
    if (!fit->pose) return void(std::printf("\n"));
    compare(b, *fit, truth, name, scan);
    std::printf("\n");
    std::fflush(stdout);
}

Points floats(const std::string& path) {
    Points out;
    const auto bytes = read_file(path);
    if (!bytes) return out;
    const auto* x = reinterpret_cast<const float*>(bytes->data.get());
    for (std::size_t i = 0; i + 2 < bytes->size / sizeof(float); i += 3) out.emplace_back(x[i], x[i + 1], x[i + 2]);
    return out;
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) return std::printf("usage: body_accuracy KIT_FOLDER [--seeds N] ...\n"), 2;
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    Bench b{*kit, false, false, {}, {}, {}, {}, {}};
    unsigned seeds = 12, first = 1;
    std::string subjects;
    for (int i = 2; i < argc; ++i) {
        const bool more = i + 1 < argc;
        if (!std::strcmp(argv[i], "--true-marks")) b.true_marks = true;
        if (!std::strcmp(argv[i], "--signs")) b.signs = true;
        if (!std::strcmp(argv[i], "--seeds") && more) seeds = static_cast<unsigned>(std::atoi(argv[++i]));
        if (!std::strcmp(argv[i], "--first") && more) first = static_cast<unsigned>(std::atoi(argv[++i]));
        if (!std::strcmp(argv[i], "--out") && more) b.out = argv[++i];
        if (!std::strcmp(argv[i], "--stands") && more) b.stands = argv[++i];
        if (!std::strcmp(argv[i], "--demo") && more) subjects = argv[++i];
    }
    for (unsigned seed = first; seed < first + seeds; ++seed) {
        FigureOptions options;
        options.seed = seed;
        const MadeUpFigure f = make_figure(*kit, options);
        std::printf("%u %s, %s%s, %u faces\n   ", seed, build_name(f.build), stand_name(f.stand),
                    f.fists ? ", fists" : "", f.scan.face_count());
        const double scale = f.scan_from_mm.scale;
        const Unit unit = scale == 1     ? Unit::Millimetre
                          : scale == 0.1 ? Unit::Centimetre
                          : scale < 0.01 ? Unit::Metre
                                         : Unit::Inch;
        Points posed;
        for (const Vec3& p : f.posed) posed.push_back(f.scan_from_mm(p));
        one(b, f.scan, {f.rest, f.rest_joints, f.landmarks, 1 / scale, posed}, unit, std::to_string(seed));
    }
    if (!subjects.empty()) {
        const auto scan = read_mesh(subjects + "/bram/bram_scan.ply");
        Truth truth{floats(subjects + "/bram/bram_truth.unposed_mm.f32"),
                    floats(subjects + "/bram/bram_truth.joints_unposed_mm.f32"),
                    {},
                    10,
                    {}};
        const Points placed = floats(subjects + "/bram/bram_truth.scan_space_cm.f32");
        if (!scan || truth.rest.empty() || placed.empty()) return std::printf("no demo figure there\n"), 1;
        truth.posed = placed;
        for (const auto& [name, at] : kit->landmarks) truth.landmarks[name] = at.at(placed);
        std::printf("the demo's figure\n   ");
        one(b, scan->mesh, truth, Unit::Centimetre, "bram");
    }
    for (const auto& [name, v] : b.all)
        std::printf("  %-13s n %3zu  mean %8.2f  median %8.2f  worst %8.2f\n", name.c_str(), v.size(), mean_of(v),
                    median(v), *std::max_element(v.begin(), v.end()));
    return 0;
}
