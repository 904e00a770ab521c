// How near a fit comes to the truth: made-up subjects (seeds 1..N) and the demo's head scan.
// Usage: fit_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER]
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>

#include "core/fit/fit.h"
#include "core/io/file.h"
#include "core/linalg/statistics.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

void print_figures(const FitFigures& f) {
    std::printf("  landmarks rms %.3f max %.3f | surface median %.4f p95 %.3f | coverage %.3f | flips %u cuts %u repaired %d | edge p95 %.2f max %.2f\n",
                f.landmark_rms, f.landmark_max, f.surface.median, f.surface.p95, f.coverage, f.flipped_faces,
                f.self_intersections, f.repaired_vertices, f.edge_p95, f.edge_max);
    for (const auto& [name, s] : f.seconds) std::printf("  %s %.2f s", name.c_str(), s);
    std::printf("\n");
}

void synthetic(const BaseKit& kit, unsigned seed, const FitSettings& settings) {
    SubjectOptions options;
    options.seed = seed;
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
    std::printf("seed %u (%u triangles): truth face %.3f head %.3f | to true surface in the face: median %.4f p95 %.3f | eyes %.3f mm\n",
                seed, subject.scan.face_count(), t.face_mean, t.head_mean, t.face_surface_median, t.face_surface_p95, t.eye_worst);
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
        for (Index v : vertices) sum += 1000 * (placed[v] - Vec3(truth[3 * v], truth[3 * v + 1], truth[3 * v + 2])).norm();
        return sum / static_cast<double>(vertices.size());
    };
    std::printf("ottoline: truth face %.3f ears %.3f %.3f eyes %.3f %.3f teeth %.2f %.2f lash %.2f | face to scan median %.4f p95 %.3f max %.2f\n", mean_to_truth(kit.region("face")),
                mean_to_truth(kit.region("ear_l")), mean_to_truth(kit.region("ear_r")), mean_to_truth(kit.region("eye_l")), mean_to_truth(kit.region("eye_r")),
                mean_to_truth(kit.region("teeth_upper")), mean_to_truth(kit.region("teeth_lower")), mean_to_truth(kit.region("lash_l")),
                fit->figures.regions.at("face").median, fit->figures.regions.at("face").p95, fit->figures.regions.at("face").max);
    print_figures(fit->figures);
    for (const auto& note : fit->notes) std::printf("  note: %s\n", note.c_str());
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::printf("usage: fit_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER] [--settings JSON]\n");
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
    for (int i = 2; i + 1 < argc; i += 2) {
        if (!std::strcmp(argv[i], "--seeds")) seeds = static_cast<unsigned>(std::atoi(argv[i + 1]));
        if (!std::strcmp(argv[i], "--demo")) subjects = argv[i + 1];
        if (!std::strcmp(argv[i], "--settings")) {
            auto parsed = parse_fit_settings(argv[i + 1], "--settings");
            if (!parsed) return std::printf("%s\n", parsed.error().message.c_str()), 2;
            settings = *parsed;
        }
    }
    for (unsigned s = 1; s <= seeds; ++s) synthetic(*kit, s, settings);
    if (!subjects.empty()) demo(*kit, subjects, settings);
    return 0;
}
