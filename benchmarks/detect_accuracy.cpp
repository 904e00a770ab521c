// How near automatic landmarks come to the truth, and how honest their doubts are: made-up heads
// (every other one in skin colours), in random attitudes, with noise and holes, and the demo's scans.
// Usage: detect_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER] [--fits] [--evidence FILE]
#include <cstdio>
#include <cstring>
#include <fstream>

#include "core/detect/detect.h"
#include "core/fit/fit.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

std::string group_of(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    if (!p) return "own";
    for (const char* brow : {"brow", "superciliare"}) {
        if (name.starts_with(brow)) return "brows";
    }
    if (name.starts_with("pupil")) return "pupils";
    return p->region;
}

struct Tally {
    std::map<std::string, std::vector<double>> errors;  // by group, mm
    int wanted = 0, found = 0, face_wanted = 0, face_found = 0, wrong = 0, wrong_unsaid = 0, unsure_right = 0;
    FILE* evidence = nullptr;

    void add(const std::string& name, const Vec3* truth, const Detection& d, double mm) {
        const bool face = in_point_set(name, PointSet::Face);
        ++wanted, face_wanted += face;
        const auto at = d.set.points.find(name);
        if (at == d.set.points.end()) return;
        ++found, face_found += face;
        const double e = (at->second - *truth).norm() * mm;
        errors[group_of(name)].push_back(e);
        const bool doubted = unsure(d.set.trust_of(name));
        wrong += e > 6, wrong_unsaid += e > 6 && !doubted, unsure_right += e < 2 && doubted;
        if (!evidence) return;
        const auto ev = d.evidence.find(name);
        if (ev == d.evidence.end()) return;
        const Evidence& v = ev->second;
        std::fprintf(evidence, "kit %s %s %.3f", name.c_str(), group_of(name).c_str(), e);
        for (const double x : {v.usual, v.spread, v.disagree, std::min(v.nearest, 999.0), v.surface, v.unmatched,
                               v.bent, v.colour, v.closed, v.fade, v.strange, v.gap, v.ear, v.lies, v.rival})
            std::fprintf(evidence, " %.3f", x);
        std::fprintf(evidence, "\n");
    }
    void print() const {
        for (const auto& [group, e] : errors) {
            std::printf("  %-9s n %4zu  median %.2f  90 %% %.2f  max %.2f mm\n", group.c_str(), e.size(), median(e),
                        quantile(e, 0.9), *std::max_element(e.begin(), e.end()));
        }
        std::printf(
            "  found %.1f %% (face %.1f %%); off by more than 6 mm: %.2f %%, and not said: %.2f %%; doubted though "
            "within 2 mm: %.2f %%\n",
            100.0 * found / wanted, 100.0 * face_found / face_wanted, 100.0 * wrong / found,
            100.0 * wrong_unsaid / found, 100.0 * unsure_right / found);
    }
};

TruthFigures fit_truth(const BaseKit& kit, const SyntheticSubject& s, const LandmarkSet& marks) {
    FitInput input;
    input.kit = &kit, input.source = &s.scan, input.landmarks = marks;
    const auto fit = run_fit(input, {});
    if (!fit) return {};
    Points mm = in_source_frame(*fit);
    const Similarity back = s.scan_from_mm.inverse();
    for (Vec3& p : mm) p = back(p);
    return compare_with_truth(kit, s, mm);
}

void synthetic(const BaseKit& kit, FaceNetwork& network, const FaceReference& reference, unsigned seeds, bool fits,
               Tally& tally) {
    int most = 0;
    for (unsigned seed = 1; seed <= seeds; ++seed) {
        SubjectOptions options;
        options.seed = seed;
        SyntheticSubject s = make_subject(kit, options);
        if (seed % 2) {
            s.scan.colours = skin_colours(kit, s.surface_on_base_mm, seed % 4 == 1 ? "bram" : "juniper");
            s.scan.colours.resize(s.scan.positions.size(), Colour{120, 118, 112, 255});
        }
        DetectInput input;
        input.kit = &kit, input.source = &s.scan, input.reference = &reference;
        const FrameGuess guess = guess_frame(s.scan, "scan.obj", {});
        input.upright = rough_upright(s.scan, guess.unit, guess.up, kUsualCrownMm);
        const auto d = detect_landmarks(network, input, {});
        if (!d) {
            std::printf("seed %u: %s\n", seed, d.error().message.c_str());
            for (const auto& [name, place] : kit.landmarks)
                tally.wanted += in_point_set(name, PointSet::Head),
                    tally.face_wanted += in_point_set(name, PointSet::Face);
            continue;
        }
        most = std::max(most, d->evaluations);
        for (const auto& [name, place] : kit.landmarks) {
            const Vec3 truth = s.scan_from_mm(place.at(s.truth_mm));
            if (in_point_set(name, PointSet::Head)) tally.add(name, &truth, *d, 1 / s.scan_from_mm.scale);
        }
        std::printf("seed %u%s: %d evaluations, %.1f s\n", seed, d->coloured ? " in colours" : "", d->evaluations,
                    d->seconds);
        if (!fits) continue;
        LandmarkSet truth;
        for (const auto& [name, place] : kit.landmarks) {
            if (in_point_set(name, PointSet::Head) && !name.starts_with("pupil"))
                truth.points[name] = s.scan_from_mm(place.at(s.truth_mm));
        }
        for (const bool automatic : {false, true}) {
            const LandmarkSet* marks = automatic ? &d->set : &truth;
            const char* label = automatic ? "automatic" : "true points";
            const TruthFigures t = fit_truth(kit, s, *marks);
            std::printf(
                "  wrap from %-11s: to the true surface median %.4f 95 %% %.3f | to the true place face %.3f head "
                "%.3f eyes %.3f mm\n",
                label, t.face_surface_median, t.face_surface_p95, t.face_mean, t.head_mean, t.eye_worst);
        }
    }
    std::printf("at most %d evaluations\n", most);
}

void demo(const BaseKit& kit, FaceNetwork& network, const FaceReference& reference, const std::string& scan_path,
          const std::string& truth_path, double mm) {
    auto scan = read_mesh(scan_path);
    auto truth = read_landmarks(truth_path);
    if (!scan || !truth) {
        std::printf("demo data not found: %s\n", scan_path.c_str());
        return;
    }
    DetectInput input;
    input.kit = &kit, input.source = &scan->mesh, input.reference = &reference;
    const FrameGuess guess = guess_frame(scan->mesh, scan_path, {});
    input.upright = rough_upright(scan->mesh, guess.unit, guess.up, kUsualCrownMm);
    const auto d = detect_landmarks(network, input, {});
    if (!d) {
        std::printf("%s: %s\n", scan_path.c_str(), d.error().message.c_str());
        return;
    }
    std::printf("%s: %d evaluations, %.1f s\n", scan_path.c_str(), d->evaluations, d->seconds);
    Tally tally;
    for (const auto& [name, p] : truth->set.points) tally.add(name, &p, *d, mm);
    tally.print();
    for (const auto& [name, p] : d->set.points) {
        const auto at = truth->set.points.find(name);
        const double e = at == truth->set.points.end() ? -1 : (at->second - p).norm() * mm;
        const Evidence v = d->evidence.contains(name) ? d->evidence.at(name) : Evidence{};
        if (e < 0 || e > 3 || unsure(d->set.trust_of(name)))
            std::printf(
                "    %-20s %s%.2f mm, expected %.2f | spread %.2f disagree %.2f surface %.2f unmatched %.2f bent %.2f "
                "colour %.2f fade %.2f\n",
                name.c_str(), e < 0 ? "not in the truth " : "off ", e, d->set.trust_of(name).expected_mm, v.spread,
                v.disagree, v.surface, v.unmatched, v.bent, v.colour, v.fade);
    }
    for (const auto& [name, why] : d->left_out) std::printf("    %s left out: %s\n", name.c_str(), why.c_str());
    for (const std::string& note : d->notes) std::printf("    note: %s\n", note.c_str());
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::printf(
            "usage: detect_accuracy KIT_FOLDER [--seeds N] [--demo SUBJECTS_FOLDER] [--fits] [--evidence FILE]\n");
        return 2;
    }
    const auto kit = read_base_kit(argv[1]);
    if (!kit) {
        std::printf("%s\n", kit.error().message.c_str());
        return 1;
    }
    unsigned seeds = 20;
    bool fits = false;
    std::string subjects;
    Tally tally;
    for (int i = 2; i < argc; ++i) {
        if (!std::strcmp(argv[i], "--fits"))
            fits = true;
        else if (i + 1 >= argc)
            break;
        else if (!std::strcmp(argv[i], "--seeds"))
            seeds = static_cast<unsigned>(std::atoi(argv[++i]));
        else if (!std::strcmp(argv[i], "--demo"))
            subjects = argv[++i];
        else if (!std::strcmp(argv[i], "--evidence"))
            tally.evidence = std::fopen(argv[++i], "w");
    }
    FaceNetwork network;
    const auto reference = face_reference(network, *kit);
    if (!reference) {
        std::printf("%s\n", reference.error().message.c_str());
        return 1;
    }
    if (seeds > 0) {
        synthetic(*kit, network, *reference, seeds, fits, tally);
        tally.print();
    }
    if (tally.evidence) std::fclose(tally.evidence);
    if (subjects.empty()) return 0;
    demo(*kit, network, *reference, subjects + "/ottoline/ottoline_scan.glb",
         subjects + "/ottoline/ottoline_landmarks.json", 1000);
    demo(*kit, network, *reference, subjects + "/bram/bram_scan.ply", subjects + "/bram/bram_landmarks.json", 10);
    return 0;
}
