// How well a kit is made from somebody else's base: landmarks, regions, mirror map, joints, parts, order; how well
// heads fit onto it, against the same heads on the demo's own kit. Usage: kit_accuracy KIT [--seeds N] [--first N]
// [--edge MM] [--even] [--heads N] [--verbose]
#include <algorithm>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <set>

#include "core/io/mesh_write.h"
#include "core/kit/original.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/make_kit.h"
#include "core/linalg/statistics.h"
#include "core/mesh/edges.h"
#include "core/spatial/surface_query.h"
#include "demo/standins/made_up_base.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

BaseOptions options_of(unsigned seed) {
    BaseOptions o;
    o.seed = seed;
    o.figure = seed % 3 != 0;
    o.edge_mm = seed % 4 == 0 ? 6 : seed % 4 == 1 ? 9 : seed % 4 == 2 ? 14 : 5;
    o.quads = seed % 2 == 0;
    o.arms_degrees = seed % 5 == 1 ? 35 : seed % 5 == 2 ? -20 : 0;
    o.parts = seed % 6 != 5;
    o.symmetric = seed % 7 != 6;
    o.unit = seed % 4 == 0   ? Unit::Metre
             : seed % 4 == 1 ? Unit::Centimetre
             : seed % 4 == 2 ? Unit::Millimetre
                             : Unit::Inch;
    o.up = seed % 3 == 1 ? UpAxis::PlusZ : UpAxis::PlusY;
    return o;
}

std::vector<double> vertex_areas(const Mesh& mesh) {
    std::vector<double> out(mesh.positions.size(), 0);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const double share = face_normal(mesh, f).norm() / mesh.face_size(f);
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) out[mesh.corner_vertex[c]] += share;
    }
    return out;
}

// Below which value so much of the weight lies.
double weighted_quantile(std::vector<std::pair<double, double>> values, double share) {
    std::sort(values.begin(), values.end());
    double all = 0, seen = 0;
    for (const auto& [value, weight] : values) all += weight;
    for (const auto& [value, weight] : values) {
        if ((seen += weight) >= share * all) return value;
    }
    return 0;
}

// A head fitted onto a kit: how far the outside of its face is from the true surface, by area.
struct HeadFigures {
    double median = 0, p95 = 0;  // mm
    Index flipped = 0, cuts = 0;
    std::set<std::string> where;  // the landmarks next to what is turned over or cut
};
std::optional<HeadFigures> fit_head(const BaseKit& kit, const SyntheticSubject& head) {
    FitInput in;
    in.kit = &kit;
    in.source = &head.scan;
    in.landmarks = head.landmarks;
    const auto fit = run_fit(in, {});
    if (!fit) return {};
    const Similarity to_mm = head.scan_from_mm.inverse() * fit->placement.source_to_kit.inverse();
    const SurfaceQuery truth(head.surface_mm, head.surface_triangles);
    const std::vector<double> area = vertex_areas(kit.mesh);
    const auto inside = [&](Index v) {  // what no scan sees, more or less of it from base to base
        for (const char* name : {"mouth_inner", "nostril_inside", "socket_l", "socket_r"}) {
            const VertexIndices& region = kit.region(name);
            if (std::binary_search(region.begin(), region.end(), v)) return true;
        }
        return false;
    };
    std::vector<std::pair<double, double>> off;
    for (const Index v : kit.region("face")) {
        if (!inside(v)) off.emplace_back(truth.closest(to_mm(fit->positions[v]), 1e9).distance, area[v]);
    }
    HeadFigures out{weighted_quantile(off, 0.5),
                    weighted_quantile(off, 0.95),
                    fit->figures.flipped_faces,
                    fit->figures.self_intersections,
                    {}};
    VertexIndices faulty = fit->figures.flipped_at;
    faulty.insert(faulty.end(), fit->figures.cut_at.begin(), fit->figures.cut_at.end());
    const LandmarkSet known = kit.landmark_positions();
    for (const Index v : faulty) {
        out.where.insert(std::min_element(known.points.begin(), known.points.end(), [&](const auto& a, const auto& b) {
                             return (a.second - kit.mesh.positions[v]).norm() <
                                    (b.second - kit.mesh.positions[v]).norm();
                         })->first);
    }
    return out;
}

struct Tally {
    std::vector<double> head_median, head_p95, median_ratio, p95_ratio;
    int heads = 0, heads_failed = 0;
    Index flipped = 0, cuts = 0;
    std::map<std::string, std::vector<double>> landmark;  // by group
    std::map<std::string, std::vector<double>> overlap;   // by region
    std::vector<double> joint, finger, seconds;
    int points = 0, unsaid = 0, rings = 0, bases = 0, orders = 0, wrong_pairs = 0, failed = 0;
    std::size_t symmetric = 0, paired = 0;
    int parts = 0, parts_right = 0;
};

std::string group_of(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    static const std::set<std::string> body{"arm", "foot", "hand", "hip", "leg", "shoulder", "torso"};
    if (!p) return "other";
    return body.contains(p->region) ? "body" : p->region;
}

void compare(const MadeUpBase& truth, const MadeKit& made, bool verbose, Tally& t) {
    const BaseKit& kit = made.kit;
    // kit frame against the truth's: the same axes and unit if all is well
    const Similarity to_kit = kit.original->to_kit * truth.from_mm;
    for (const auto& [name, p] : truth.landmarks) {
        const auto at = kit.landmarks.find(name);
        if (at == kit.landmarks.end()) continue;
        const double off = (at->second.at(kit.mesh.positions) - to_kit(p)).norm();
        t.landmark[group_of(name)].push_back(off);
        const bool said = made.report.doubts.contains(name);
        ++t.points, t.unsaid += off > 8 && !said;
        if (verbose && off > (group_of(name) == "eye" ? 2.5 : 8))
            std::printf("    %s off by %.1f%s\n", name.c_str(), off, said ? "" : " unsaid");
    }
    const std::vector<double> area = vertex_areas(kit.mesh);
    for (const auto& [name, region] : truth.regions) {
        const auto found = kit.regions.find(name);
        double both = 0, any = 0;
        VertexMask mine(region.size(), 0);
        if (found != kit.regions.end()) {
            for (const Index v : found->second) mine[v] = 1;
        }
        for (Index v = 0; v < region.size(); ++v) {
            if (truth.part_of[v] != "skin") continue;
            both += region[v] && mine[v] ? area[v] : 0;
            any += region[v] || mine[v] ? area[v] : 0;
        }
        if (any > 0) t.overlap[name].push_back(both / any);
    }
    for (std::size_t j = 0; j < truth.joints.size() && j < kit.joints.size(); ++j) {
        if (!made.report.figure && to_kit(truth.joints[j].position).y() < bounding_box(kit.mesh.positions).low.y())
            continue;
        const double off = (kit.joints[j].position - to_kit(truth.joints[j].position)).norm();
        const std::string& name = truth.joints[j].name;
        const bool finger = name.find("_1_") != std::string::npos || name.find("_2_") != std::string::npos ||
                            name.find("_3_") != std::string::npos;
        (finger ? t.finger : t.joint).push_back(off);
        if (verbose && off > 12) std::printf("    joint %s off by %.1f\n", name.c_str(), off);
    }
    for (Index v = 0; v < truth.partner.size(); ++v) {
        if (truth.partner[v] == kNone) continue;
        ++t.symmetric;
        const bool alone = std::binary_search(kit.unpaired.begin(), kit.unpaired.end(), v);
        t.paired += !alone, t.wrong_pairs += !alone && kit.mirror[v] != truth.partner[v];
    }
    std::set<std::string> expected(truth.part_of.begin(), truth.part_of.end());
    for (const std::string& name : expected) {
        std::size_t right = 0, all = 0;
        const KitPart* part = kit.part(name);
        for (Index v = 0; v < truth.part_of.size(); ++v) {
            if (truth.part_of[v] != name) continue;
            ++all;
            right += part && std::binary_search(part->vertices.begin(), part->vertices.end(), v);
        }
        ++t.parts, t.parts_right += right == all;
        if (verbose && right != all) std::printf("    part %s: %zu of %zu vertices\n", name.c_str(), right, all);
    }
    t.rings += kit.neck_ring.size() > 8;
}

// The same heads on the demo's kit and on the one that was made.
void compare_heads(const BaseKit& demo, const BaseKit& kit, unsigned count, bool verbose, Tally& t) {
    static std::map<unsigned, std::pair<SyntheticSubject, std::optional<HeadFigures>>> known;
    for (unsigned h = 1; h <= count; ++h) {
        if (!known.contains(h)) {
            SubjectOptions o;
            o.seed = 40 + h;
            SyntheticSubject head = make_subject(demo, o);
            auto on_demo = fit_head(demo, head);
            known.emplace(h, std::make_pair(std::move(head), on_demo));
        }
        const auto& [head, on_demo] = known.at(h);
        const auto here = fit_head(kit, head);
        ++t.heads;
        if (!here || !on_demo) {
            ++t.heads_failed;
            continue;
        }
        t.head_median.push_back(here->median), t.head_p95.push_back(here->p95);
        t.median_ratio.push_back(here->median / on_demo->median), t.p95_ratio.push_back(here->p95 / on_demo->p95);
        t.flipped += here->flipped, t.cuts += here->cuts;
        if (!verbose && !here->flipped && !here->cuts) continue;
        std::printf("    head %u: %.3f and %.3f mm (demo's kit %.3f, %.3f), %u turned over, %u cuts", h, here->median,
                    here->p95, on_demo->median, on_demo->p95, here->flipped, here->cuts);
        for (const std::string& name : here->where) std::printf(" %s", name.c_str());
        std::printf("\n");
    }
}

void say(const char* what, const std::vector<double>& values) {
    if (values.empty()) return;
    std::vector<double> sorted = values;
    std::sort(sorted.begin(), sorted.end());
    std::printf("  %-16s n %5zu  median %.2f  90 %% %.2f  max %.2f\n", what, sorted.size(), sorted[sorted.size() / 2],
                sorted[sorted.size() * 9 / 10], sorted.back());
}

}  // namespace

int main(int argc, char** argv) {
    unsigned seeds = 12, first = 1;
    bool verbose = false;
    bool even = false;
    unsigned heads = 0;
    double edge = 0;  // 0: each seed's own
    for (int i = 2; i < argc; ++i) {
        if (!std::strcmp(argv[i], "--seeds") && i + 1 < argc) seeds = static_cast<unsigned>(std::atoi(argv[++i]));
        if (!std::strcmp(argv[i], "--first") && i + 1 < argc) first = static_cast<unsigned>(std::atoi(argv[++i]));
        if (!std::strcmp(argv[i], "--edge") && i + 1 < argc) edge = std::atof(argv[++i]);
        if (!std::strcmp(argv[i], "--heads") && i + 1 < argc) heads = static_cast<unsigned>(std::atoi(argv[++i]));
        if (!std::strcmp(argv[i], "--even")) even = true;
        if (!std::strcmp(argv[i], "--verbose")) verbose = true;
    }
    const auto model = read_base_kit(argc > 1 ? argv[1] : "demo/kit");
    if (!model) return std::fprintf(stderr, "%s\n", model.error().message.c_str()), 1;
    FaceNetwork network;
    Tally t;
    const std::string folder = (std::filesystem::temp_directory_path() / "veldstone-kit-accuracy").string();
    for (unsigned seed = first; seed < first + seeds; ++seed) {
        BaseOptions o = options_of(seed);
        o.graded = !even;
        if (o.graded) o.edge_mm *= 2;  // of a body; features are finer
        if (edge > 0) o.edge_mm = edge;
        const MadeUpBase base = make_base(*model, o);
        std::filesystem::create_directories(folder);
        const std::string file = folder + "/base.obj";
        if (!write_mesh(file, base.mesh, 1)) return 1;
        KitRecipe recipe;
        recipe.file = file;
        const auto made = make_kit(network, *model, recipe, {});
        std::printf("seed %u: %s, %zu vertices, %s, edge %.0f, %s%s\n", seed, o.figure ? "figure" : "bust",
                    base.mesh.positions.size(), o.quads ? "quads" : "triangles", o.edge_mm, unit_name(o.unit),
                    o.symmetric ? "" : ", asymmetric");
        if (!made) {
            std::printf("    failed: %s\n", made.error().message.c_str());
            ++t.failed;
            continue;
        }
        ++t.bases;
        t.seconds.push_back(made->report.seconds);
        std::printf("    %.1f s, unit %s, up %s, model median %.3f mm, %zu unpaired\n", made->report.seconds,
                    unit_name(made->report.unit), up_axis_name(made->report.up), made->report.model.surface.median,
                    made->report.unpaired);
        compare(base, *made, verbose, t);
        if (heads) compare_heads(*model, made->kit, heads, verbose, t);
        // the file's own order: written, read again, given back
        if (write_base_kit(made->kit, folder + "/kit", {file})) {
            const auto kit = read_base_kit(folder + "/kit");
            const auto back = kit ? in_original(*kit, kit->mesh.positions) : Result<Mesh>(Error{});
            bool same = back && back->corner_vertex == base.mesh.corner_vertex;
            for (std::size_t v = 0; same && v < base.mesh.positions.size(); ++v)
                same = (back->positions[v] - base.mesh.positions[v]).norm() < 1e-6;
            t.orders += same;
        }
        std::fflush(stdout);
    }
    std::printf("landmarks, mm:\n");
    for (const auto& [group, values] : t.landmark) say(group.c_str(), values);
    std::printf("  off by more than 8 mm and not said: %d of %d (%.1f %%)\n", t.unsaid, t.points,
                100.0 * t.unsaid / std::max(1, t.points));
    std::printf("regions, overlap with truth by area:\n");
    for (const auto& [name, values] : t.overlap) {
        double sum = 0, least = 1;
        for (const double v : values) sum += v, least = std::min(least, v);
        std::printf("  %-16s mean %.3f  least %.3f\n", name.c_str(), sum / static_cast<double>(values.size()), least);
    }
    std::printf("joints, mm:\n");
    say("body", t.joint), say("fingers", t.finger);
    std::printf("mirror map: %zu of %zu paired, %d wrong\n", t.paired, t.symmetric, t.wrong_pairs);
    std::printf("parts whole and right: %d of %d\n", t.parts_right, t.parts);
    std::printf("neck rings: %d of %d; own order given back: %d of %d; failed: %d\n", t.rings, t.bases, t.orders,
                t.bases, t.failed);
    if (heads) {
        std::printf("heads fitted onto them: %d, failed %d, faces turned over %u, new cuts %u\n", t.heads,
                    t.heads_failed, t.flipped, t.cuts);
        say("median, mm", t.head_median), say("95 %, mm", t.head_p95);
        say("against demo's", t.median_ratio), say("95 % against", t.p95_ratio);
    }
    say("seconds", t.seconds);
}
