// Fits without a person on heads that share nothing with the kit, against what is true of them: scans of
// foreign-standin named by their seed (12.ply), each with its truth beside it.
// Usage: foreign_fit KIT_FOLDER SCANS_FOLDER [--marks FOLDER] [--true-marks] [--out FOLDER] [--only NAME] [--settings
// JSON] [--signs FILE] [--match-all] --marks: landmarks once found are kept there and taken from there; --true-marks:
// those of the truth instead; --signs: what speaks against each region of each fit, and what is true of it;
// --match-all: what is no skin is matched too.
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <set>

#include "benchmarks/foreign_truth.h"
#include "core/base/stopwatch.h"
#include "core/detect/detect.h"
#include "core/fit/fit.h"
#include "core/fit/settings_text.h"
#include "core/io/mesh_file.h"
#include "core/io/mesh_write.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"
#include "demo/standins/foreign/solid.h"

using namespace veld;
namespace fs = std::filesystem;

namespace {

struct Options {
    std::string kit, scans, marks, out, only, settings, signs;
    bool true_marks = false, match_all = false;
};

struct Found {
    LandmarkSet set;
    std::vector<std::string> not_seen;
    VertexMask not_skin;
    double detect_seconds = 0;  // 0: the marks were kept from an earlier run
    int evaluations = 0;
};

struct Bench {
    const BaseKit& kit;
    const Options& o;
    FaceNetwork network;
    std::optional<FaceReference> reference;
    std::map<std::string, std::vector<double>> all;  // figure -> one number a head
    int heads = 0, fits = 0;
    double evaluation = 0;  // seconds of one, by itself
    FILE* signs = nullptr;
};

// What is true, in mm of the made head's own frame.
struct TrueHead {
    foreign::Head head;
    Similarity from_scan;
    double skin_off(const Vec3& p) const {
        const double h = 0.05, d = head.skin(p);
        Vec3 g;
        for (int k = 0; k < 3; ++k)
            g[k] = (head.skin(p + h * Vec3::Unit(k)) - head.skin(p - h * Vec3::Unit(k))) / (2 * h);
        return std::abs(d) / std::max(0.3, g.norm());
    }
};

std::optional<Found> marks_of(Bench& b, const fs::path& path, const Mesh& scan, const Truth& truth) {
    const fs::path kept = fs::path(b.o.marks) / (path.stem().string() + ".marks.json");
    Found out;
    if (b.o.true_marks) {
        for (const auto& [name, unused] : truth.json.at("points").items())
            if (!truth.covered.contains(name)) out.set.points[name] = truth.point(name);
        return out;
    }
    if (!b.o.marks.empty() && fs::exists(kept)) {
        auto read = read_landmarks(kept.string());
        if (!read) return {};
        out.set = read->set;
        if (const auto bytes = read_file(kept.string() + ".not_seen")) {
            const Json j = Json::parse(bytes->data.get(), bytes->data.get() + bytes->size);
            for (const Json& name : j.at("regions")) out.not_seen.push_back(name);
            out.not_skin = j.at("not_skin").get<VertexMask>();
        }
        return out;
    }
    if (!b.reference) {
        auto made = face_reference(b.network, b.kit);
        if (!made) return {};
        b.reference = std::move(*made);
    }
    DetectInput input;
    input.kit = &b.kit, input.source = &scan, input.reference = &*b.reference;
    const FrameGuess guess = guess_frame(scan, path.string(), {});
    input.upright = rough_upright(scan, guess.unit, guess.up, kUsualCrownMm);
    Stopwatch clock;
    const auto d = detect_landmarks(b.network, input, {});
    if (!d) return {};
    out.detect_seconds = clock.lap(), out.evaluations = d->evaluations;
    out.set = d->set, out.set.unit = guess.unit, out.not_seen = d->not_seen, out.not_skin = d->not_skin;
    if (!b.o.marks.empty()) {
        (void)write_file(kept.string(), landmarks_text(out.set));
        (void)write_file(kept.string() + ".not_seen",
                         Json({{"regions", out.not_seen}, {"not_skin", out.not_skin}}).dump());
    }
    return out;
}

std::set<std::pair<Index, Index>> open_edges(const std::vector<Triangle>& triangles) {
    std::map<std::pair<Index, Index>, int> times;
    for (const Triangle& t : triangles)
        for (std::size_t k = 0; k < 3; ++k) ++times[std::minmax({t[k], t[(k + 1) % 3]})];
    std::set<std::pair<Index, Index>> out;
    for (const auto& [edge, n] : times)
        if (n == 1) out.insert(edge);
    return out;
}

bool on_edge(const Triangle& t, const SurfaceHit& hit, const std::set<std::pair<Index, Index>>& edges) {
    for (std::size_t k = 0; k < 3; ++k)
        if (hit.barycentric[static_cast<int>((k + 2) % 3)] < 1e-6 &&
            edges.contains(std::minmax({t[k], t[(k + 1) % 3]})))
            return true;
    return false;
}

TrueHead true_head(const fs::path& path, const Truth& truth) {
    TrueHead out{foreign::Head(foreign::make_form(static_cast<unsigned>(std::stoul(path.stem().string())))), {}};
    Points from, to;
    for (const auto& [name, p] : out.head.points())
        if (truth.json.at("points").contains(name)) from.push_back(truth.point(name)), to.push_back(p);
    if (const auto fitted = fit_similarity(from, to, {.outlier_mm = 0, .weights = {}})) out.from_scan = *fitted;
    return out;
}

const char* fine_group(const std::string& name) {
    const std::string g = group_of(name);
    if (g == "eye") return "lids";
    if (g == "mouth") return "lips";
    if (g == "nose") return "nose";
    return g == "ears" ? "ears" : nullptr;
}

// What was left out as no skin: of true skin the share that was lost, of true cover the share that was kept.
void judge_left_out(const Mesh& scan, const Truth& truth, const VertexMask& left_out, double& lost, double& kept) {
    const Json& stuff = truth.json.at("stuff");
    double area[2] = {0, 0}, wrong[2] = {0, 0};
    for (const Triangle& t : triangulate(scan).triangles) {
        const int what = stuff[t[0]];
        if (what == 2 || what == 3) continue;  // teeth, tongue
        const bool cover = what >= 4, out = !left_out.empty() && left_out[t[0]];
        const Points& x = scan.positions;
        const double a = (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).norm();
        area[cover] += a, wrong[cover] += out != cover ? a : 0;
    }
    lost = wrong[0] / std::max(area[0], 1e-12), kept = area[1] > 0 ? wrong[1] / area[1] : 0;
}

// What speaks against each region, and what is true of it: distance to the true skin, median and 90 %, and of its
// landmarks' vertices to their true places, median (-1: none).
void write_signs(const Bench& b, const fs::path& path, const Truth& truth, const TrueHead& is, const Points& mm,
                 const FitResult& fit) {
    const std::vector<double> fade = head_fade(b.kit, fit.settings.neck_band_mm);
    for (const auto& [region, doubt] : fit.figures.doubts) {
        std::vector<double> off, marks;
        for (const Index v : b.kit.region(region)) {
            if (fade[v] >= 0.99 && fit.cache.creases->open[v] >= 0.4) off.push_back(is.skin_off(mm[v]));
        }
        for (const auto& [name, at] : b.kit.landmarks) {
            if (!fine_group(name) || truth.covered.contains(name) || !truth.json.at("points").contains(name)) continue;
            const Vec3 place = at.at(b.kit.mesh.positions);
            const auto& in = b.kit.region(region);
            if (std::any_of(in.begin(), in.end(),
                            [&](Index v) { return (b.kit.mesh.positions[v] - place).squaredNorm() < 25; }))
                marks.push_back((at.at(mm) - is.from_scan(truth.point(name))).norm());
        }
        const RegionSigns& s = doubt.signs;
        std::fprintf(b.signs, "%s %s %.3f %.3f %.3f %.3f %.3f %.3f %.3f %.0f  %.2f %.2f %.2f  %.2f\n",
                     path.stem().c_str(), region.c_str(), s.guessed, s.unlikely, s.not_skin, s.marks, s.apart,
                     s.surface, s.bent, s.cuts, median(off), quantile(off, 0.9), marks.empty() ? -1 : median(marks),
                     doubt.wrong);
    }
    std::fflush(b.signs);
}

void measure(Bench& b, const fs::path& path, const Mesh& scan, const Truth& truth, const Found& found,
             const FitResult& fit) {
    const TrueHead is = true_head(path, truth);
    Points mm = in_source_frame(fit);
    for (Vec3& p : mm) p = is.from_scan(p);
    Points scan_mm;
    for (const Vec3& p : scan.positions) scan_mm.push_back(is.from_scan(p));
    std::vector<Triangle> seen_skin;
    const Json& stuff = truth.json.at("stuff");
    for (const Triangle& t : triangulate(scan).triangles)
        if (stuff[t[0]] == 0 && stuff[t[1]] == 0 && stuff[t[2]] == 0) seen_skin.push_back(t);
    const SurfaceQuery query(scan_mm, seen_skin);
    const auto borders = open_edges(seen_skin);
    std::vector<double> seen, hidden, likely;
    const Similarity back = fit.placement.source_to_kit.inverse();
    const std::vector<double> fade = head_fade(b.kit, fit.settings.neck_band_mm);
    for (const Index v : b.kit.region("head_skin")) {
        if (fade[v] < 1 || fit.cache.creases->open[v] < 0.4) continue;
        if (is.head.form().ear.missing &&
            (std::binary_search(b.kit.region("ear_l").begin(), b.kit.region("ear_l").end(), v) ||
             std::binary_search(b.kit.region("ear_r").begin(), b.kit.region("ear_r").end(), v)))
            continue;
        // what lies nearest to an open edge of the skin lies beyond a cut, or under what covers the head
        const SurfaceHit hit = query.closest(mm[v], 4);
        const bool near = hit && !on_edge(seen_skin[hit.triangle], hit, borders);
        const bool is_seen = near && is.head.cover(mm[v]) > 0.8;
        (is_seen ? seen : hidden).push_back(is.skin_off(mm[v]));
        if (!is_seen && fit.cache.likely)
            likely.push_back(is.skin_off(is.from_scan(back(fit.cache.likely->positions[v]))));
    }
    if (b.signs) write_signs(b, path, truth, is, mm, fit);
    const auto put = [&](const std::string& name, double value) {
        b.all[name].push_back(value);
        std::printf(" | %s %.2f", name.c_str(), value);
    };
    std::printf("   ");
    double lost = 0, kept = 0;
    judge_left_out(scan, truth, found.not_skin, lost, kept);
    put("skin_lost", lost), put("cover_kept", kept);
    if (!seen.empty()) put("seen", median(seen)), put("seen95", quantile(seen, 0.95));
    if (hidden.size() > 50) put("hidden", median(hidden)), put("hidden95", quantile(hidden, 0.95));
    if (likely.size() > 50) put("likely", median(likely)), put("likely95", quantile(likely, 0.95));
    std::map<std::string, std::vector<double>> marks;
    for (const auto& [name, at] : b.kit.landmarks) {
        const char* group = fine_group(name);
        if (!group || truth.covered.contains(name) || !truth.json.at("points").contains(name)) continue;
        marks[group].push_back((at.at(mm) - is.from_scan(truth.point(name))).norm());
    }
    for (const auto& [group, off] : marks) put(group, median(off));
    // ears: areas against the base's, the ear's own size taken out
    std::vector<double> area;
    for (const std::string ear : {"ear_l", "ear_r"}) {
        const auto& in = b.kit.region(ear);
        std::vector<double> ratio;
        for (const Triangle& t : b.kit.triangulation.triangles) {
            if (!std::all_of(t.begin(), t.end(), [&](Index v) { return std::binary_search(in.begin(), in.end(), v); }))
                continue;
            const auto of = [&](const Points& x) { return (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).norm(); };
            ratio.push_back(of(mm) / std::max(1e-9, of(b.kit.mesh.positions)));
        }
        const double size = median(ratio);
        for (const double r : ratio) area.push_back(r / size);
    }
    put("ear_low", quantile(area, 0.01)), put("ear_high", quantile(area, 0.99));
    put("flips", static_cast<double>(fit.figures.flipped_faces));
    put("cuts", static_cast<double>(fit.figures.self_intersections));
    double seconds = 0;
    for (const char* stage : {"place", "wrap", "follow", "measure"}) seconds += fit.figures.seconds.at(stage);
    put("seconds", seconds);
    const double solver = fit.times.factor + fit.times.solve + fit.times.query;
    put("solver", solver / seconds);
    // all of detecting and fitting against its network evaluations and the solves of its two fits
    if (found.detect_seconds > 0)
        put("times", (found.detect_seconds + seconds) / (found.evaluations * b.evaluation + 2 * solver));
    std::printf("\n");
    std::fflush(stdout);
}

// Seconds of one evaluation of the face network, by itself.
double one_evaluation(FaceNetwork& network) {
    constexpr int kTimes = 20;
    Pixels grey;
    grey.width = grey.height = 192, grey.rgba.assign(4ull * 192 * 192, 128);
    (void)network.mesh(grey, {Vec2(96, 96), 192, 0});
    Stopwatch clock;
    for (int i = 0; i < kTimes; ++i) (void)network.mesh(grey, {Vec2(96, 96), 192, 0});
    return clock.lap() / kTimes;
}

void one(Bench& b, const fs::path& path) {
    const auto truth = read_truth(path.string() + ".truth.json");
    const auto scan = read_mesh(path.string());
    if (!truth || !scan) return;
    ++b.heads;
    std::printf("%s %s\n", path.filename().c_str(), truth->json.at("about").dump().c_str());
    const auto found = marks_of(b, path, scan->mesh, *truth);
    if (!found) return void(std::printf("    no face\n"));
    FitInput input;
    input.kit = &b.kit, input.source = &scan->mesh, input.landmarks = found->set;
    if (!b.o.settings.empty()) {
        auto read = parse_fit_settings(b.o.settings, "--settings");
        if (!read) return void(std::printf("%s\n", read.error().message.c_str()));
        input.settings = *read;
    }
    Detection seen;
    seen.not_seen = found->not_seen;
    (void)leave_out_unseen(seen, b.kit, input.settings);
    if (!found->not_skin.empty()) (b.o.match_all ? input.not_skin : input.ignored) = &found->not_skin;
    const auto fit = run_fit(input, {});
    if (!fit) return void(std::printf("    %s\n", fit.error().message.c_str()));
    ++b.fits;
    for (const std::string& note : fit->notes) std::printf("    note: %s\n", note.c_str());
    measure(b, path, scan->mesh, *truth, *found, *fit);
    if (b.o.out.empty()) return;
    Mesh made = b.kit.mesh;
    made.positions = fit->positions;
    (void)write_mesh((fs::path(b.o.out) / (path.stem().string() + ".obj")).string(), made, 0.001);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 3) return std::printf("usage: foreign_fit KIT_FOLDER SCANS_FOLDER [--marks FOLDER] ...\n"), 2;
    Options o;
    o.kit = argv[1], o.scans = argv[2];
    for (int i = 3; i < argc; ++i) {
        for (const auto& [flag, to] : {std::pair{"--marks", &o.marks},
                                       {"--out", &o.out},
                                       {"--signs", &o.signs},
                                       {"--only", &o.only},
                                       {"--settings", &o.settings}})
            if (!std::strcmp(argv[i], flag) && i + 1 < argc) *to = argv[++i];
        if (!std::strcmp(argv[i], "--true-marks")) o.true_marks = true;
        if (!std::strcmp(argv[i], "--match-all")) o.match_all = true;
    }
    const auto kit = read_base_kit(o.kit);
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    Bench b{*kit, o, {}, {}, {}};
    if (!o.signs.empty()) b.signs = std::fopen(o.signs.c_str(), "w");
    b.evaluation = one_evaluation(b.network);
    std::vector<fs::path> scans;
    for (const auto& entry : fs::directory_iterator(o.scans))
        if (entry.path().extension() == ".ply" && (o.only.empty() || entry.path().stem() == o.only))
            scans.push_back(entry.path());
    std::sort(scans.begin(), scans.end());
    for (const fs::path& scan : scans) one(b, scan);
    std::printf("%d of %d heads fitted\n", b.fits, b.heads);
    for (const auto& [name, values] : b.all)
        std::printf("  %-10s n %3zu  median %7.3f  90 %% %7.3f  worst %7.3f\n", name.c_str(), values.size(),
                    median(values), quantile(values, 0.9), quantile(values, 1.0));
    return 0;
}
