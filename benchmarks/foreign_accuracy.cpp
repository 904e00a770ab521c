// Landmarks, and the doubts said of them, on heads that share nothing with the kit: scans of foreign-standin, each
// with its truth beside it. Where a landmark is covered or cut away only what is said of it counts.
// Usage: foreign_accuracy KIT_FOLDER SCANS_FOLDER [--evidence FILE] [--points] [--only NAME]
#include <cstdio>
#include <cstring>
#include <filesystem>

#include "benchmarks/foreign_truth.h"
#include "core/detect/detect.h"
#include "core/io/mesh_file.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"

using namespace veld;
namespace fs = std::filesystem;

namespace {

struct Group {
    std::vector<double> off;
    int within = 0, within_twice = 0, wrong = 0, unsaid = 0, doubted_right = 0, missing = 0;
    int hidden = 0, hidden_said = 0;
};

double off_line(const Vec3& p, const Points& line) {
    double best = 1e18;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vec3 d = line[i + 1] - line[i];
        const double t = std::clamp((p - line[i]).dot(d) / std::max(1e-18, d.squaredNorm()), 0.0, 1.0);
        best = std::min(best, (line[i] + t * d - p).norm());
    }
    return best;
}

// Both sides' as one.
std::string sideless(const std::string& name) {
    return name.ends_with("_l") || name.ends_with("_r") ? name.substr(0, name.size() - 2) : name;
}

struct Run {
    std::map<std::string, Group> groups;
    std::map<std::string, std::vector<double>> curves;  // off by that much, mm: median of a curve's true points
    int heads = 0, found = 0;
    FILE* evidence = nullptr;
    bool points = false;

    void add(const std::string& scan, const Truth& truth, const Detection& d) {
        for (const auto& [name, unused] : truth.json.at("points").items()) {
            if (!in_point_set(name, PointSet::Head)) continue;
            Group& g = groups[group_of(name)];
            const auto at = d.set.points.find(name);
            if (truth.covered.contains(name)) {
                ++g.hidden;
                g.hidden_said += at == d.set.points.end() || unsure(d.set.trust_of(name));
                continue;
            }
            if (at == d.set.points.end()) {
                ++g.missing;
                continue;
            }
            const double off = (at->second - truth.point(name)).norm() * truth.mm;
            const Trust trust = d.set.trust_of(name);
            g.off.push_back(off);
            g.within += off <= trust.expected_mm, g.within_twice += off <= 2 * trust.expected_mm;
            g.wrong += off > 6, g.unsaid += off > 6 && !unsure(trust), g.doubted_right += off < 2 && unsure(trust);
            if (points) {
                // outwards from the middle, up, forward
                Vec3 way = d.to_kit.rotation * (at->second - truth.point(name)) * truth.mm;
                if (name.ends_with("_r")) way.x() = -way.x();
                std::printf("    %-22s off %6.2f said %5.2f by %6.2f %6.2f %6.2f%s\n", name.c_str(), off,
                            trust.expected_mm, way.x(), way.y(), way.z(), off > 6 && !unsure(trust) ? "  UNSAID" : "");
            }
            if (evidence && d.evidence.contains(name)) write_evidence(scan, name, off, d.evidence.at(name));
        }
    }
    void add_curves(const Truth& truth, const Detection& d) {
        if (!truth.json.contains("curves")) return;
        for (const auto& [name, line] : truth.json.at("curves").items()) {
            const auto found = d.set.curves.find(name);
            if (found == d.set.curves.end()) continue;
            std::vector<double> off;
            for (const Json& p : line)
                off.push_back(truth.mm * off_line(Vec3(p.at(0), p.at(1), p.at(2)), found->second));
            curves[sideless(name)].push_back(median(std::move(off)));
        }
    }
    void write_evidence(const std::string& scan, const std::string& name, double off, const Evidence& e) const {
        std::fprintf(evidence, "%s %s %s %.3f", scan.c_str(), name.c_str(), group_of(name), off);
        for (const double v : {e.usual, e.spread, e.disagree, std::min(e.nearest, 999.0), e.surface, e.unmatched,
                               e.bent, e.colour, e.closed, e.fade, e.strange, e.gap, e.ear, e.lies, e.rival})
            std::fprintf(evidence, " %.3f", v);
        std::fprintf(evidence, "\n");
    }
    void print() const {
        std::printf("faces found %d of %d\n", found, heads);
        std::size_t n = 0;
        int unsaid = 0, wrong = 0, right = 0;
        for (const auto& [name, g] : groups) {
            if (g.off.empty()) continue;
            const double all = 0.01 * static_cast<double>(g.off.size());
            std::printf(
                "  %-6s n %4zu median %5.2f 90 %% %6.2f mm | within the said %3.0f %%, twice %3.0f %% | off > 6 mm "
                "%4.1f %%, "
                "unsaid %4.1f %% | doubted within 2 mm %4.1f %% | missing %d | hidden %d, said %d\n",
                name.c_str(), g.off.size(), median(g.off), quantile(g.off, 0.9), g.within / all, g.within_twice / all,
                g.wrong / all, g.unsaid / all, g.doubted_right / all, g.missing, g.hidden, g.hidden_said);
            n += g.off.size(), unsaid += g.unsaid, wrong += g.wrong, right += g.doubted_right;
        }
        for (const auto& [name, off] : curves)
            std::printf("  curve %-16s n %3zu median %5.2f 90 %% %6.2f mm\n", name.c_str(), off.size(), median(off),
                        quantile(off, 0.9));
        if (n)
            std::printf("  all    off > 6 mm %.1f %%, unsaid %.2f %%; doubted within 2 mm %.1f %%\n",
                        100.0 * wrong / n, 100.0 * unsaid / n, 100.0 * right / n);
    }
};

void one(const fs::path& path, const BaseKit& kit, FaceNetwork& network, const FaceReference& reference, Run& run) {
    const auto truth = read_truth(path.string() + ".truth.json");
    const auto scan = read_mesh(path.string());
    if (!truth || !scan) return;
    ++run.heads;
    DetectInput input;
    input.kit = &kit, input.source = &scan->mesh, input.reference = &reference;
    const FrameGuess guess = guess_frame(scan->mesh, path.string(), {});
    input.upright = rough_upright(scan->mesh, guess.unit, guess.up, kUsualCrownMm);
    const auto d = detect_landmarks(network, input, {});
    std::printf("%s %s\n", path.filename().c_str(), truth->json.at("about").dump().c_str());
    if (!d) return void(std::printf("    NOT FOUND: %s\n", d.error().message.c_str()));
    ++run.found;
    std::printf("    %u faces, %d evaluations, %.1f s\n", scan->mesh.face_count(), d->evaluations, d->seconds);
    for (const std::string& note : d->notes) std::printf("    note: %s\n", note.c_str());
    run.add(path.stem().string(), *truth, *d);
    run.add_curves(*truth, *d);
    std::fflush(stdout);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 3)
        return std::printf(
                   "usage: foreign_accuracy KIT_FOLDER SCANS_FOLDER [--evidence FILE] [--points] [--only NAME]\n"),
               2;
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    Run run;
    std::string only;
    for (int i = 3; i < argc; ++i) {
        if (!std::strcmp(argv[i], "--points")) run.points = true;
        if (!std::strcmp(argv[i], "--evidence") && i + 1 < argc) run.evidence = std::fopen(argv[++i], "w");
        if (!std::strcmp(argv[i], "--only") && i + 1 < argc) only = argv[++i];
    }
    FaceNetwork network;
    const auto reference = face_reference(network, *kit);
    if (!reference) return std::printf("%s\n", reference.error().message.c_str()), 1;
    std::vector<fs::path> scans;
    for (const auto& entry : fs::directory_iterator(argv[2])) {
        if (entry.path().extension() == ".ply" && (only.empty() || entry.path().stem() == only))
            scans.push_back(entry.path());
    }
    std::sort(scans.begin(), scans.end());
    for (const fs::path& scan : scans) one(scan, *kit, network, *reference, run);
    run.print();
    if (run.evidence) std::fclose(run.evidence);
    return 0;
}
