// How near a fit comes to the truth: made-up subjects (seeds 1..N) and the demo's head scan.
// Usage: fit_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER] [--settings JSON] [--warp MM] [--landmarks N]
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>

#include "core/base/file.h"
#include "core/fit/fit.h"
#include "core/fit/settings_text.h"
#include "core/io/mesh_file.h"
#include "core/linalg/statistics.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

void print_figures(const FitFigures& f) {
    std::printf(
        "  landmarks rms %.3f max %.3f | surface median %.4f p95 %.3f | coverage %.3f | flips %u cuts %u repaired %d "
        "| edge p95 %.2f max %.2f\n",
        f.landmark_rms, f.landmark_max, f.surface.median, f.surface.p95, f.coverage, f.flipped_faces,
        f.self_intersections, f.repaired_vertices, f.edge_p95, f.edge_max);
    for (const auto& [name, s] : f.seconds) std::printf("  %s %.2f s", name.c_str(), s);
    std::printf("\n");
}

struct Made {
    double warp_mm = 0;  // 0: as usual
    int landmarks = 0;   // 0: 40 of them; more than there are: every point of the head
};

struct Summary {
    std::vector<double> face, fine, ears, head, surface, p95, eyes;
    int flips = 0, cuts = 0;
    static void line(const char* name, const std::vector<double>& v) {
        if (v.empty()) return;
        double sum = 0;
        for (double x : v) sum += x;
        std::printf("  %-34s mean %.4f  median %.4f  worst %.4f mm\n", name, sum / static_cast<double>(v.size()),
                    median(v), *std::max_element(v.begin(), v.end()));
    }
    void print() const {
        std::printf("%zu made heads; for each the mean over its vertices, then over the heads:\n", face.size());
        line("face to its true place", face), line("lids and lips", fine), line("ears", ears), line("head", head);
        line("to the true surface, median", surface), line("to the true surface, 95 %", p95),
            line("eyeball centres", eyes);
        std::printf("  flips %d, new cuts %d\n", flips, cuts);
    }
};

void synthetic(const BaseKit& kit, unsigned seed, const FitSettings& settings, const Made& how, Summary& all) {
    SubjectOptions options;
    options.seed = seed;
    if (how.warp_mm > 0) options.warp_mm = how.warp_mm;
    if (how.landmarks > 0) options.landmark_count = how.landmarks;
    const SyntheticSubject subject = make_subject(kit, options);
    FitInput input{&kit, {}, &subject.scan, subject.landmarks, {}, settings};
    const auto fit = run_fit(input, {});
    if (!fit) {
        std::printf("seed %u: %s\n", seed, fit.error().message.c_str());
        return;
    }
    Points mm = in_source_frame(*fit);
    const Similarity back = subject.scan_from_mm.inverse();
    for (Vec3& p : mm) p = back(p);
    const TruthFigures t = compare_with_truth(kit, subject, mm);
    all.face.push_back(t.face_mean), all.fine.push_back(t.lids_lips_mean), all.ears.push_back(t.ears_mean),
        all.head.push_back(t.head_mean);
    all.surface.push_back(t.face_surface_median), all.p95.push_back(t.face_surface_p95),
        all.eyes.push_back(t.eye_worst);
    all.flips += static_cast<int>(fit->figures.flipped_faces),
        all.cuts += static_cast<int>(fit->figures.self_intersections);
    std::printf(
        "seed %u (%u triangles): truth face %.3f lids and lips %.3f ears %.3f head %.3f | to true surface in the "
        "face: median %.4f p95 %.3f | eyes %.3f mm\n",
        seed, subject.scan.face_count(), t.face_mean, t.lids_lips_mean, t.ears_mean, t.head_mean,
        t.face_surface_median, t.face_surface_p95, t.eye_worst);
    print_figures(fit->figures);
}

void demo(const BaseKit& kit, const std::string& folder, const FitSettings& settings) {
    auto scan = read_mesh(folder + "/ottoline/ottoline_scan.glb");
    auto marks = read_landmarks(folder + "/ottoline/ottoline_landmarks.json");
    auto truth_bytes = read_file(folder + "/ottoline/ottoline_truth.scan_space_m.f32");
    if (!scan || !marks || !truth_bytes) {
        std::printf("demo data not found in %s\n", folder.c_str());
        return;
    }
    FitInput input{&kit, {}, &scan->mesh, marks->set, Unit::Metre, settings};
    const auto fit = run_fit(input, {});
    if (!fit) {
        std::printf("ottoline: %s\n", fit.error().message.c_str());
        return;
    }
    const Points placed = in_source_frame(*fit);
    const auto* truth = reinterpret_cast<const float*>(truth_bytes->data.get());
    const auto mean_to_truth = [&](const std::vector<Index>& vertices) {
        double sum = 0;
        for (Index v : vertices)
            sum += 1000 * (placed[v] - Vec3(truth[3 * v], truth[3 * v + 1], truth[3 * v + 2])).norm();
        return sum / static_cast<double>(vertices.size());
    };
    std::printf(
        "ottoline: truth face %.3f ears %.3f %.3f eyes %.3f %.3f teeth %.2f %.2f lash %.2f | face to scan median %.4f "
        "p95 %.3f max %.2f\n",
        mean_to_truth(kit.region("face")), mean_to_truth(kit.region("ear_l")), mean_to_truth(kit.region("ear_r")),
        mean_to_truth(kit.region("eye_l")), mean_to_truth(kit.region("eye_r")),
        mean_to_truth(kit.region("teeth_upper")), mean_to_truth(kit.region("teeth_lower")),
        mean_to_truth(kit.region("lash_l")), fit->figures.regions.at("face").median,
        fit->figures.regions.at("face").p95, fit->figures.regions.at("face").max);
    print_figures(fit->figures);
    for (const auto& note : fit->notes) std::printf("  note: %s\n", note.c_str());
}

// A posed figure: the body's skin as scanned against its truth, with the pose taken first and without.
void figure(const BaseKit& kit, const std::string& folder, FitSettings settings) {
    auto scan = read_mesh(folder + "/bram/bram_scan.ply");
    auto marks = read_landmarks(folder + "/bram/bram_landmarks.json");
    auto bytes = read_file(folder + "/bram/bram_truth.scan_space_cm.f32");
    if (!scan || !marks || !bytes) return;
    const auto* truth = reinterpret_cast<const float*>(bytes->data.get());
    settings.part = FitPart::All;
    for (const bool posed : {false, true}) {
        settings.take_pose_out = posed;
        const auto fit = run_fit({&kit, {}, &scan->mesh, marks->set, Unit::Centimetre, settings}, {});
        if (!fit) continue;
        const Points placed = in_source_frame(*fit);
        double sum = 0;
        const std::vector<Index>& body = kit.region("body_skin");
        for (Index v : body) sum += 10 * (placed[v] - Vec3(truth[3 * v], truth[3 * v + 1], truth[3 * v + 2])).norm();
        std::printf("bram, %s: body to its true place %.2f mm, flips %u, new cuts %u\n",
                    posed ? "pose taken first" : "without the pose", sum / static_cast<double>(body.size()),
                    fit->figures.flipped_faces, fit->figures.self_intersections);
    }
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::printf(
            "usage: fit_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER] [--settings JSON] [--warp MM] "
            "[--landmarks N]\n");
        return 2;
    }
    const auto kit = read_base_kit(argv[1]);
    if (!kit) {
        std::printf("%s\n", kit.error().message.c_str());
        return 1;
    }
    unsigned seeds = 2;
    std::string subjects;
    FitSettings settings;
    Made how;
    for (int i = 2; i + 1 < argc; i += 2) {
        if (!std::strcmp(argv[i], "--seeds")) seeds = static_cast<unsigned>(std::atoi(argv[i + 1]));
        if (!std::strcmp(argv[i], "--demo")) subjects = argv[i + 1];
        if (!std::strcmp(argv[i], "--warp")) how.warp_mm = std::atof(argv[i + 1]);
        if (!std::strcmp(argv[i], "--landmarks")) how.landmarks = std::atoi(argv[i + 1]);
        if (!std::strcmp(argv[i], "--settings")) {
            auto parsed = parse_fit_settings(argv[i + 1], "--settings");
            if (!parsed) return std::printf("%s\n", parsed.error().message.c_str()), 2;
            settings = *parsed;
        }
    }
    Summary all;
    for (unsigned s = 1; s <= seeds; ++s) synthetic(*kit, s, settings, how, all);
    if (seeds > 1) all.print();
    if (subjects.empty()) return 0;
    demo(*kit, subjects, settings);
    figure(*kit, subjects, settings);
    return 0;
}
