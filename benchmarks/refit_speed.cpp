// What one moved landmark costs: a refit against a fit from the beginning, on made-up heads, in one run; and when
// the first shape worth looking at is there.
// Usage: refit_speed KIT_FOLDER [SEEDS]
#include <chrono>
#include <cstdio>
#include <cstdlib>

#include "core/fit/fit.h"
#include "core/linalg/statistics.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

double seconds_of(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) return std::printf("usage: refit_speed KIT_FOLDER [SEEDS]\n"), 2;
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    const unsigned seeds = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 3;
    std::vector<double> ratios, previews, preview_face, preview_surface;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
        SubjectOptions options;
        options.seed = seed, options.landmark_count = 1000;
        const SyntheticSubject subject = make_subject(*kit, options);
        for (const char* name : {"cheilion_l", "pronasale", "gonion_r", "exocanthion_r"}) {
            FitInput input{&*kit, {}, &subject.scan, subject.landmarks, {}, {}};
            if (!input.landmarks.points.contains(name)) continue;
            // before: the point is three millimetres off; after: where it belongs
            const Vec3 right = input.landmarks.points[name];
            input.landmarks.points[name] = right + subject.scan_from_mm.scale * Vec3(2, -2, 1);
            const auto before = run_fit(input, {});
            if (!before) return std::printf("%s\n", before.error().message.c_str()), 1;
            const FitStart start{&before->positions, before->placement, before->pose, before->settings,
                                 input.landmarks,    nullptr,           before->cache};
            input.landmarks.points[name] = right;
            Result<FitResult> whole{Error{}}, again{Error{}};
            double solved = 0;
            double first_seconds = 0;
            Points first;
            const auto begun = std::chrono::steady_clock::now();
            Progress progress;
            progress.live = [&](const Points& x) {
                if (!first.empty()) return;
                first_seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
                first = x;
            };
            const double full = seconds_of([&] { whole = run_fit(input, progress); });
            const double part = seconds_of([&] { again = refit(input, start, {}, &solved); });
            if (!whole || !again) return 1;
            const auto off = [&](const FitResult& f, const Points* shape = nullptr) {
                FitResult shown = f;
                if (shape) shown.positions = *shape;
                Points mm = in_source_frame(shown);
                const Similarity back = subject.scan_from_mm.inverse();
                for (Vec3& p : mm) p = back(p);
                return compare_with_truth(*kit, subject, mm);
            };
            const TruthFigures a = off(*before), b = off(*again), c = off(*whole);
            ratios.push_back(part / full);
            const TruthFigures p = off(*whole, &first);
            previews.push_back(first_seconds / full), preview_face.push_back(p.face_mean),
                preview_surface.push_back(p.face_surface_median);
            std::printf(
                "seed %u, %s: refit %.1f %% of a full fit, %.0f %% of the surface solved (place %.0f wrap %.0f follow "
                "%.0f measure %.0f ms) | face to truth before %.3f refit %.3f full %.3f, lids and lips %.3f %.3f %.3f "
                "mm, flips %u cuts %u\n",
                seed, name, 100 * part / full, 100 * solved, 1000 * again->figures.seconds["place"],
                1000 * again->figures.seconds["wrap"], 1000 * again->figures.seconds["follow"],
                1000 * again->figures.seconds["measure"], a.face_mean, b.face_mean, c.face_mean, a.lids_lips_mean,
                b.lids_lips_mean, c.lids_lips_mean, again->figures.flipped_faces, again->figures.self_intersections);
        }
    }
    std::printf("refit after one moved landmark: median %.1f %% of a full fit, worst %.1f %%\n", 100 * median(ratios),
                100 * *std::max_element(ratios.begin(), ratios.end()));
    std::printf(
        "first shape shown: median at %.0f %% of a full fit, face %.2f mm from its truth, surface median %.2f mm\n",
        100 * median(previews), median(preview_face), median(preview_surface));
    return 0;
}
