// Light, cast shadows and highlights taken out of scans whose own colours are known: heads that share nothing with the
// kit, lit anew by a lamp in several places. usage: light_accuracy KIT SCAN.ply FIT.obj [SIZE]
// SCAN: of foreign-standin --upright; FIT: of veldstone-cli wrap --frame source.
#include <cmath>
#include <cstdio>
#include <cstdlib>

#include "core/base/stopwatch.h"
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/skin/bake.h"
#include "demo/standins/lit_scan.h"
#include "demo/standins/skin_truth.h"

using namespace veld;

namespace {

struct Baked {
    std::map<std::string, MapImage> colour;  // by tile
    std::map<std::string, std::vector<std::uint8_t>> found;
    BakeReport report;
    double seconds = 0;
};

struct Head {
    BaseKit kit;
    BakeSurface base;
    Mesh scan;  // in the kit's frame, in its own colours
    int size = 1024;

    Baked bake_of(const Mesh& mesh, double amount) const {
        const Triangulation fans = triangulate(mesh);
        const SourceSurface surface = prepare_source(mesh, {}, nullptr, 0.02, true);
        BakeSettings settings;
        settings.size = size, settings.maps = {SkinMap::Colour};
        settings.light_out = settings.shine_out = amount, settings.colours_tell = amount > 0;
        Baked out;
        Stopwatch clock;
        auto report = bake(base, kit.mesh, {&surface, &mesh, &fans, 1}, settings,
                           [&](BakedTile&& tile) -> Status {
                               out.colour[tile.tile.name] = std::move(tile.maps.begin()->second);
                               out.found[tile.tile.name] = std::move(tile.found);
                               return Done{};
                           },
                           {});
        if (!report) {
            std::fprintf(stderr, "%s\n", report.error().message.c_str());
            std::exit(1);
        }
        out.seconds = clock.lap();
        out.report = std::move(*report);
        return out;
    }
};

template <class T>
T needed(Result<T> result) {
    if (result) return std::move(*result);
    std::fprintf(stderr, "%s\n", result.error().message.c_str());
    std::exit(1);
}

Head head_of(const char* kit, const char* scan, const char* fit) {
    Head out{needed(read_base_kit(kit)), {}, needed(read_mesh(scan)).mesh};
    const Mesh shape = needed(read_mesh(fit)).mesh;
    SimilarityOptions options;
    options.outlier_mm = 0, options.allow_scale = false;
    const Similarity placed = needed(fit_similarity(shape.positions, out.kit.mesh.positions, options));
    Points in_kit;
    for (const Vec3& p : shape.positions) in_kit.push_back(placed(p));
    out.base = needed(bake_surface(out.kit, in_kit));
    for (Vec3& p : out.scan.positions) p = placed(p);
    if (!out.scan.colours.empty()) return out;
    for (const Vec3& p : out.scan.positions) {
        const Vec3 c = 255 * known_colour(p);
        out.scan.colours.push_back(
            {static_cast<std::uint8_t>(c[0]), static_cast<std::uint8_t>(c[1]), static_cast<std::uint8_t>(c[2]), 255});
    }
    return out;
}

Vec3 linear(const Vec3& c) { return {srgb_to_linear(c[0]), srgb_to_linear(c[1]), srgb_to_linear(c[2])}; }

// CIEDE2000 against the scan's own colours, in the face's tone, of what both show.
void compare(const Head& head, const char* what, const Baked& baked, const Baked& truth) {
    std::map<std::string, std::vector<std::pair<Vec3, Vec3>>> of;
    std::vector<double> gain[3];
    for (const UvTile& tile : head.base.tiles) {
        for (const Index t : tile.triangles) {
            if (head.base.part[t] != 0) continue;
            const auto& uvs = head.base.uv[t];
            const Vec2 uv = (uvs[0] + uvs[1] + uvs[2]) / 3,
                       in(uv.x() - std::floor(uv.x()), 1 - (uv.y() - std::floor(uv.y())));
            const std::size_t texel =
                static_cast<std::size_t>(in.y() * head.size) * static_cast<std::size_t>(head.size) +
                static_cast<std::size_t>(in.x() * head.size);
            const auto found = static_cast<Found>(baked.found.at(tile.name)[texel]);
            if (found != Found::Along && found != Found::Closest) continue;
            const Vec3 a = linear(map_at(baked.colour.at(tile.name), tile, uv)),
                       b = linear(map_at(truth.colour.at(tile.name), tile, uv));
            const std::string& region = head.base.region_names[head.base.region[head.base.triangles[t][0]]];
            of[region].emplace_back(a, b);
            for (int k = 0; k < 3 && region == "face"; ++k) gain[k].push_back(b[k] / std::max(1e-3, a[k]));
        }
    }
    const Vec3 tone(median(gain[0]), median(gain[1]), median(gain[2]));
    std::printf("  %-8s", what);
    for (const char* region : {"face", "neck", "ear_l", "lips"}) {
        std::vector<double> off;
        for (const auto& [a, b] : of[region]) {
            Vec3 ca, cb;
            for (int k = 0; k < 3; ++k)
                ca[k] = linear_to_srgb(std::min(1.0, a[k] * tone[k])), cb[k] = linear_to_srgb(b[k]);
            off.push_back(colour_difference(ca, cb));
        }
        std::printf("  %s %.2f %.2f", region, median(off), quantile(off, 0.95));
    }
    std::printf("\n");
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 4) return std::fprintf(stderr, "usage: light_accuracy KIT SCAN.ply FIT.obj [SIZE]\n"), 2;
    Head head = head_of(argv[1], argv[2], argv[3]);
    if (argc > 4) head.size = std::atoi(argv[4]);
    const Vec3 brow = head.kit.landmarks.at("sellion").at(head.base.positions);
    const struct {
        const char* name;
        Vec3 towards;
        double strength, spread, shine, plate;
    } lights[] = {
        {"from everywhere", {0, 1, 0.3}, 0, 0.02, 0, 0},          {"above, hard", {0.5, 0.8, 0.6}, 2, 0.02, 0, 0},
        {"side, hard", {-0.9, 0.3, 0.5}, 3, 0.01, 0, 0},          {"above, soft", {0.2, 0.9, 0.4}, 2, 0.12, 0, 0},
        {"something before it", {0.3, 0.6, 0.8}, 2, 0.02, 0, 35}, {"shining", {0.2, 0.5, 0.9}, 1, 0.02, 0.25, 0}};
    const Baked truth = head.bake_of(head.scan, 0);
    for (const auto& light : lights) {
        LitBy by;
        by.towards = light.towards, by.strength = light.strength, by.spread = light.spread, by.shine = light.shine;
        by.plate = brow + 70 * by.towards.normalized() + Vec3(20, 25, 0), by.plate_radius = light.plate;
        const Mesh scan = lit_scan(head.scan, by);
        const Baked raw = head.bake_of(scan, 0), clean = head.bake_of(scan, 1);
        const BakeReport& r = clean.report;
        std::printf("%s: lamp %s, shadow on %.1f %%, shine on %.1f %%, %.1f x as long as without\n", light.name,
                    r.lamp
                        ? (std::to_string(57.29578 * std::acos(std::min(1.0, r.lamp->dot(by.towards.normalized())))) +
                           " degrees off")
                              .c_str()
                        : "none",
                    100 * r.shadow, 100 * r.shine, clean.seconds / raw.seconds);
        compare(head, "lit", raw, truth), compare(head, "cleaned", clean, truth);
        for (const std::string& note : r.notes) std::printf("  %s\n", note.c_str());
    }
    return 0;
}
