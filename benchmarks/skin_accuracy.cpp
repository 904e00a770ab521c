// Maps baked from made-up people's scans and sculpts whose colours and relief are known at every place: how far
// colours, normals and heights are off, how much is taken from a wrong sheet, how UV borders meet, and how long it
// takes beside its own rays. usage: skin_accuracy KIT [PEOPLE] [SIZE] [SUBJECTS]
#include <sys/resource.h>

#include <atomic>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <set>

#include <tbb/parallel_for.h>

#include "core/base/stopwatch.h"
#include "core/fit/fit.h"
#include "core/io/mesh_file.h"
#include "core/kit/kit_surface.h"
#include "core/kit_making/lay_base.h"
#include "core/landmark/landmarks.h"
#include "core/linalg/statistics.h"
#include "core/mesh/subdivide.h"
#include "core/project/carried_skin.h"
#include "core/skin/compose.h"
#include "core/skin/paint.h"
#include "core/skin/smooth_colours.h"
#include "core/skin/texels.h"
#include "core/spatial/nearest_points.h"
#include "demo/standins/made_up_base.h"
#include "demo/standins/made_up_person.h"
#include "demo/standins/skin_truth.h"

using namespace veld;

namespace {

constexpr int kPlaces = 200000;  // that are compared
constexpr double kWrongMm = 4;   // a place of the source that truly belongs so far away is wrong

struct Baked {
    std::map<std::string, std::map<SkinMap, MapImage>> maps;  // by tile
    std::map<std::string, std::vector<std::uint8_t>> found;
    BakeReport report;
    double seconds = 0;
};

Baked bake_all(const BaseKit& kit, const BakeSurface& base, const BakeSource& source, BakeSettings settings) {
    Baked out;
    Stopwatch clock;
    auto report = bake(base, kit.mesh, source, settings,
                       [&](BakedTile&& tile) -> Status {
                           out.found[tile.tile.name] = std::move(tile.found);
                           out.maps[tile.tile.name] = std::move(tile.maps);
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

// A place of the skin, and the tile that shows it.
struct Place {
    const UvTile* tile;
    Index triangle;
    Vec3 shares;
    Vec2 uv;
};

std::vector<Place> random_places(const BakeSurface& s, const std::vector<std::string>& tiles, int count) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> unit(0, 1);
    std::vector<std::pair<const UvTile*, Index>> skin;
    std::vector<double> area;
    for (const UvTile& tile : s.tiles) {
        if (std::find(tiles.begin(), tiles.end(), tile.name) == tiles.end()) continue;
        for (const Index t : tile.triangles) {
            if (s.part[t] != 0) continue;
            const Triangle& c = s.triangles[t];
            skin.emplace_back(&tile, t);
            area.push_back(
                (s.positions[c[1]] - s.positions[c[0]]).cross(s.positions[c[2]] - s.positions[c[0]]).norm());
        }
    }
    std::discrete_distribution<std::size_t> pick(area.begin(), area.end());
    std::vector<Place> out;
    for (int i = 0; i < count; ++i) {
        const auto [tile, t] = skin[pick(random)];
        double a = unit(random), b = unit(random);
        if (a + b > 1) a = 1 - a, b = 1 - b;
        const Vec3 shares(1 - a - b, a, b);
        out.push_back({tile, t, shares, shares[0] * s.uv[t][0] + a * s.uv[t][1] + b * s.uv[t][2]});
    }
    return out;
}

bool seen(const Baked& baked, const Place& p) {
    const MapImage& map = baked.maps.at(p.tile->name).begin()->second;
    const double u = p.uv.x() - (p.tile->number - 1001) % 10, v = p.uv.y() - (p.tile->number - 1001) / 10;
    const auto x = static_cast<std::size_t>(u * map.width), y = static_cast<std::size_t>((1 - v) * map.height);
    const auto how = static_cast<Found>(baked.found.at(p.tile->name)[y * static_cast<std::size_t>(map.width) + x]);
    return how == Found::Along || how == Found::Closest;
}

void say_numbers(const char* what, std::vector<double> values, const char* unit) {
    double mean = 0;
    for (const double v : values) mean += v / static_cast<double>(std::max<std::size_t>(1, values.size()));
    std::printf("  %-34s mean %.4f  median %.4f  95%% %.4f  99.9%% %.4f %s\n", what, mean, median(values),
                quantile(values, 0.95), quantile(values, 0.999), unit);
}

void say_borders(const BakeSurface& base, const Baked& baked, SkinMap map) {
    std::map<std::string, MapImage> of;
    for (const auto& [tile, maps] : baked.maps) {
        if (maps.contains(map)) of[tile] = maps.at(map);
    }
    const BorderSteps steps = border_steps(base, of, map == SkinMap::Normal);
    std::printf("  UV borders, %-22s mean %.3f  95%% %.3f  most %.2f of 255\n", skin_map_name(map), steps.mean,
                steps.far, steps.most);
}

// A sculpt of the base at level 3 with a known relief, baked for the base at `level`.
void sculpt(const BaseKit& kit, unsigned seed, int level, int size) {
    SubjectOptions options;
    options.seed = seed;
    const Points shape = make_subject(kit, options).truth_mm;
    const Mesh high = known_sculpt(kit, shape, 3);
    const Triangulation fans = triangulate(high);
    const SourceSurface surface = prepare_source(high, {}, nullptr, 0, true);
    const BakeSurface base = *bake_surface(kit, shape, level);
    BakeSettings settings;
    settings.size = size, settings.tiles = {"1001"};
    settings.maps = {SkinMap::Colour, SkinMap::Normal, SkinMap::Displacement};
    const Baked baked = bake_all(kit, base, {&surface, &high, &fans, 1}, settings);
    const auto& maps = baked.maps.at("1001");
    const Points normals = vertex_normals(surface.positions, surface.triangles);
    std::vector<double> height, angle, colour;
    for (const Place& p : random_places(base, {"1001"}, kPlaces)) {
        if (!seen(baked, p)) continue;
        const Vec3 n = base.normal(p.triangle, p.shares).normalized();
        const Vec3 raised =
            base.place(p.triangle, p.shares) + map_at(maps.at(SkinMap::Displacement), *p.tile, p.uv)[0] * n;
        const FacingFilter facing{n, 0.3};
        const SurfaceHit hit = surface.query->closest(raised, 5, &facing);
        if (!hit) continue;
        height.push_back(hit.distance);
        Vec3 truth = Vec3::Zero(), shade = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = surface.triangles[hit.triangle][k];
            truth += hit.barycentric[k] * normals[v];
            shade += hit.barycentric[k] / 255 * Vec3(high.colours[v].r, high.colours[v].g, high.colours[v].b);
        }
        const Vec3 told =
            base.frame(p.triangle, p.shares) * (2 * map_at(maps.at(SkinMap::Normal), *p.tile, p.uv) - Vec3::Ones());
        angle.push_back(180 / M_PI * std::acos(std::clamp(told.normalized().dot(truth.normalized()), -1.0, 1.0)));
        colour.push_back(colour_difference(map_at(maps.at(SkinMap::Colour), *p.tile, p.uv), shade));
    }
    std::printf("sculpt %u at level 3, baked at level %d, %d texels: seen %.2f%%, wrong %.4f%%\n", seed, level, size,
                100 * baked.report.seen, 100 * baked.report.wrong);
    say_numbers("raised base to the sculpt", height, "mm");
    say_numbers("normals", angle, "degrees");
    say_numbers("colours", colour, "CIEDE2000");
    say_borders(base, baked, SkinMap::Colour);
    say_borders(base, baked, SkinMap::Normal);
}

// Where in truth a place of the scan belongs on the base at rest, per vertex of the scan (kit's rest, mm).
void scan_of(const BaseKit& kit, unsigned seed, int size, bool fitted, double light_out = 0) {
    SubjectOptions options;
    options.seed = seed;
    SyntheticSubject s = make_subject(kit, options);
    Mesh scan = s.scan;
    for (Index v = 0; v < scan.vertex_count(); ++v) {
        const bool known = v < s.surface_on_base_mm.size();
        const Vec3 c = known ? Vec3(255 * known_colour(s.surface_on_base_mm[v])) : Vec3(Vec3::Zero());
        const auto byte = [&](int k) { return static_cast<std::uint8_t>(std::lround(c[k])); };
        scan.colours.push_back({byte(0), byte(1), byte(2), 255});
    }
    Points shape = s.truth_mm;
    Similarity to_kit = s.scan_from_mm.inverse();
    if (fitted) {
        FitInput in{&kit, {}, &scan, s.landmarks, {}, {}};
        auto fit = run_fit(in, {});
        if (!fit) {
            std::printf("scan %u: %s\n", seed, fit.error().message.c_str());
            return;
        }
        shape = fit->positions, to_kit = fit->placement.source_to_kit;
    }
    const Triangulation fans = triangulate(scan);
    const SourceSurface surface = prepare_source(scan, to_kit, nullptr, 0.02, true);
    const BakeSurface base = *bake_surface(kit, shape), rest = *bake_surface(kit, kit.mesh.positions);
    BakeSettings settings;
    settings.size = size, settings.tiles = {"1001"}, settings.maps = {SkinMap::Colour};
    settings.light_out = light_out;
    const Baked baked = bake_all(kit, base, {&surface, &scan, &fans, to_kit.scale}, settings);
    const auto projection =
        Projection::make(base, surface, {true, false, false, false, false, false, false, false}, 0, {});
    std::vector<double> colour;
    std::size_t wrong = 0, looked = 0;
    for (const Place& p : random_places(base, {"1001"}, kPlaces)) {
        if (!seen(baked, p)) continue;
        const Vec3 place = rest.place(p.triangle, p.shares);
        colour.push_back(
            colour_difference(map_at(baked.maps.at("1001").at(SkinMap::Colour), *p.tile, p.uv), known_colour(place)));
        const SourcePlace at = projection->at(p.triangle, p.shares);
        if (at.triangle == kNone) continue;
        Vec3 home = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = surface.triangles[at.triangle][k];
            if (v < s.surface_on_base_mm.size())
                home += at.shares[static_cast<Eigen::Index>(k)] * s.surface_on_base_mm[v];
        }
        ++looked, wrong += (home - place).norm() > kWrongMm;
    }
    std::printf("scan %u, %s, %d texels: seen %.2f%%, missed %.2f%%, refused %.4f%%, wrong %.4f%% (%zu of %zu)\n",
                seed, fitted ? "fitted" : "true shape", size, 100 * baked.report.seen, 100 * baked.report.missed,
                100 * baked.report.wrong,
                looked ? 100.0 * static_cast<double>(wrong) / static_cast<double>(looked) : 0.0, wrong, looked);
    say_numbers("colours of what is seen", colour, "CIEDE2000");
    say_borders(base, baked, SkinMap::Colour);
}

// The demo's head scan with its baked light, as it is and with the light out, against the skin it was made with.
void demo_head(const BaseKit& kit, const std::string& folder, int size) {
    const auto scan = read_mesh(folder + "/ottoline/ottoline_scan.glb");
    const auto marks = read_landmarks(folder + "/ottoline/ottoline_landmarks.json");
    if (!scan || !marks) return;
    const auto fit = run_fit({&kit, {}, &scan->mesh, marks->set, Unit::Metre, {}}, {});
    if (!fit) return;
    const Similarity to_kit = fit->placement.source_to_kit;
    const SourceSurface surface = prepare_source(scan->mesh, to_kit, nullptr, 0.02, true);
    const Triangulation fans = triangulate(scan->mesh);
    const BakeSurface base = *bake_surface(kit, fit->positions);
    const SmoothColours truth(kit.mesh, kit.triangulation, 1, 0);
    for (const double out : {0.0, 0.5, 1.0}) {
        BakeSettings settings;
        settings.size = size, settings.tiles = {"1001"}, settings.maps = {SkinMap::Colour}, settings.light_out = out;
        const Baked baked = bake_all(kit, base, {&surface, &scan->mesh, &fans, to_kit.scale}, settings);
        std::map<std::string, std::vector<std::pair<Vec3, Vec3>>> pairs;  // told and true, linear
        std::vector<double> gain[3];
        for (const Place& p : random_places(base, {"1001"}, kPlaces)) {
            const std::string& region = base.region_names[base.region[base.triangles[p.triangle][0]]];
            static const std::set<std::string> skin{"face", "lips", "lid_l", "lid_r", "ear_l", "ear_r", "neck"};
            if (!skin.contains(region) || !seen(baked, p)) continue;
            const Vec3 coded = map_at(baked.maps.at("1001").at(SkinMap::Colour), *p.tile, p.uv);
            const Vec3 told(srgb_to_linear(coded[0]), srgb_to_linear(coded[1]), srgb_to_linear(coded[2]));
            const Vec3 real = *truth.at(p.triangle, p.shares);  // every triangle of this kit has UVs: the same numbers
            pairs[region].emplace_back(told, real);
            for (int k = 0; k < 3; ++k) gain[k].push_back(real[k] / std::max(told[k], 1e-3));
        }
        const Vec3 tone(median(gain[0]), median(gain[1]), median(gain[2]));
        std::printf("demo head, light out %.1f: darkest %.2f, lightest %.2f; tone off by %.2f %.2f %.2f\n", out,
                    baked.report.darkest, baked.report.lightest, tone[0], tone[1], tone[2]);
        for (const auto& [region, colours] : pairs) {
            std::vector<double> off;
            const auto coded = [](const Vec3& v) {
                Vec3 c;
                for (int k = 0; k < 3; ++k) c[k] = linear_to_srgb(std::clamp(v[k], 0.0, 1.0));
                return c;
            };
            for (const auto& [told, real] : colours)
                off.push_back(colour_difference(coded(told.cwiseProduct(tone)), coded(real)));
            say_numbers((region + ", in the same tone").c_str(), off, "CIEDE2000");
        }
    }
}

// Where each vertex of the demo's second base truly lies on the kit: that base was made from it.
Points truth_of_second(const BaseKit& kit, const BaseKit& second) {
    BaseOptions options;
    options.seed = 21, options.edge_mm = 34, options.graded = true;
    const MadeUpBase made = make_base(kit, options);
    Points at;
    for (const Vec3& p : made.mesh.positions) at.push_back(made.from_mm.inverse()(p));
    const NearestPoints near(at, 0.01);
    Points out;
    for (const Vec3& p : second.mesh.positions) {
        const Index v = near.nearest(p);
        out.push_back(v == kNone ? Vec3::Constant(std::nan("")) : made.on_kit[v]);
    }
    return out;
}

// The kit's own skin on another base, against what that base would wear if every place knew where it comes from.
void another_base(const BaseKit& kit, const BaseKit& second, int size) {
    const Points truth = truth_of_second(kit, second);
    const auto laid = lay_base(kit, second, {});
    const auto carried = carry_skin(kit, nullptr, "kit", second, size, {});
    if (!laid || !carried) return;
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const SurfaceQuery query(laid->laid.positions, skin);
    const Points& normals = kit_normals(second);
    std::map<std::string, std::vector<double>> off;
    for (const auto& [region, vertices] : second.regions) {
        for (const Index v : vertices) {
            const FacingFilter facing{normals[v], 0.2};
            const SurfaceHit hit = query.closest(second.mesh.positions[v], 20, &facing);
            if (!hit || !truth[v].allFinite()) continue;
            Vec3 on_kit = Vec3::Zero();
            for (std::size_t k = 0; k < 3; ++k)
                on_kit += hit.barycentric[k] * kit.mesh.positions[skin[hit.triangle][k]];
            off[region].push_back((on_kit - truth[v]).norm());
        }
    }
    std::printf("another base: seen %.1f %%\n", 100 * carried->seen);
    for (const auto& [region, mm] : off) say_numbers((region + ", place").c_str(), mm, "mm");
    const BakeSurface base = *bake_surface(second, second.mesh.positions);
    const PaintSurface on_kit(*bake_surface(kit, kit.mesh.positions));
    const SmoothColours own(kit.mesh, kit.triangulation, 1, 0);
    std::vector<double> colour;
    std::map<std::string, Pixels> tiles;
    for (const auto& [name, tile] : carried->layer.tiles) tiles[name] = *decode_image(*tile.picture);
    std::vector<std::string> names;
    for (const auto& [name, pixels] : tiles) names.push_back(name);
    for (const Place& p : random_places(base, names, kPlaces / 4)) {
        const Triangle& c = base.triangles[p.triangle];
        const Vec3 at = p.shares[0] * truth[c[0]] + p.shares[1] * truth[c[1]] + p.shares[2] * truth[c[2]];
        if (!at.allFinite()) continue;
        const SkinSpot spot = on_kit.closest(at, base.normal(p.triangle, p.shares).normalized());
        if (spot.triangle == kNone) continue;
        const Pixels& pixels = tiles.at(p.tile->name);
        const Vec2 in(p.uv.x() - std::floor(p.uv.x()), p.uv.y() - std::floor(p.uv.y()));
        const auto coded = [](const Vec3& v) {
            return Vec3(linear_to_srgb(v[0]), linear_to_srgb(v[1]), linear_to_srgb(v[2]));
        };
        colour.push_back(colour_difference(
            coded(linear_between(pixels, Vec2(in.x() * pixels.width, (1 - in.y()) * pixels.height), false)),
            coded(*own.at(spot.triangle, spot.shares))));
    }
    say_numbers("colours", colour, "CIEDE2000");
}

// The whole bake beside the queries that no bake can do without.
void speed(const BaseKit& kit, int size) {
    const SyntheticSubject s = make_subject(kit, {});
    const Similarity to_kit = s.scan_from_mm.inverse();
    Mesh scan = s.scan;
    scan.colours.assign(scan.positions.size(), Colour{200, 160, 140, 255});
    const Triangulation fans = triangulate(scan);
    const SourceSurface surface = prepare_source(scan, to_kit, nullptr, 0.02, true);
    const BakeSurface base = *bake_surface(kit, s.truth_mm);
    BakeSettings settings;
    settings.size = size, settings.tiles = {"1001"}, settings.samples = 1;
    const auto projection =
        Projection::make(base, surface, {true, false, false, false, false, false, false, false}, 0, {});
    const TexelRows rows(base, base.tiles.front(), size, 1, 2.5);
    for (int round = 0; round < 2; ++round) {
        Stopwatch queries;
        std::atomic<std::size_t> met{0};
        tbb::parallel_for(0, size / 16, [&](int band) {
            std::vector<TexelPlace> places;
            rows.rows(16 * band, 16, places);
            std::size_t mine = 0;
            for (const TexelPlace& p : places)
                mine +=
                    p.triangle != kNone && base.part[p.triangle] == 0 && projection->query_only(p.triangle, p.shares);
            met += mine;
        });
        const double own = queries.lap();
        const Baked baked = bake_all(kit, base, {&surface, &scan, &fans, to_kit.scale}, settings);
        rusage used{};
        getrusage(RUSAGE_SELF, &used);
        std::printf(
            "speed, %d texels, colour and normal: %.2f x its own queries (%.1f s, %zu met); memory at most %ld MB\n",
            size, baked.seconds / own, own, met.load(), used.ru_maxrss / 1024);
    }
}

// Strokes over the demo head's cheek: dabs with what they change composed again, as the window does it.
void brushes(const BaseKit& kit, int size) {
    const PaintSurface surface(*bake_surface(kit, kit.mesh.positions));
    SeenTiles seen;
    for (const UvTile& tile : surface.surface().tiles)
        seen[tile.name] = std::make_shared<const Pixels>(*base_texels(kit.mesh, surface.surface(), tile, size));
    const Vec3 nose = kit.landmarks.at("pronasale").at(kit.mesh.positions);
    const SkinSpot from = surface.closest(nose + Vec3(0, 60, -10), Vec3::UnitZ());
    for (const SkinBrush brush :
         {SkinBrush::Paint, SkinBrush::Smooth, SkinBrush::Mirror, SkinBrush::Clone, SkinBrush::Heal}) {
        SkinBrushSettings settings;
        settings.brush = brush, settings.strength = 0.5;
        std::vector<double> ms;
        SkinStroke stroke(surface, settings, seen, {}, size, from, surface.closest(nose, Vec3::UnitZ()));
        std::map<std::string, Pixels> live;
        for (int i = 0; i < 40; ++i) {
            const SkinSpot place =
                surface.closest(nose + Vec3(10 + i, -8 + 0.3 * i, -20), Vec3(0.5, 0, 1).normalized());
            Stopwatch clock;
            for (const auto& [tile, rect] : stroke.dab(place, 1)) {
                auto [at, fresh] = live.try_emplace(tile);
                if (fresh) at->second = *seen.at(tile);
                compose(*seen.at(tile), {{{}, stroke.changed().at(tile), nullptr, 1, {}}}, rect, at->second);
            }
            ms.push_back(1000 * clock.lap());
        }
        std::printf("brush %s, radius %.0f mm, %d texels: %.1f ms a dab (median), %.1f (95 of 100)\n",
                    skin_brush_name(brush), settings.radius_mm, size, quantile(ms, 0.5), quantile(ms, 0.95));
    }
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::fprintf(stderr, "usage: skin_accuracy KIT [PEOPLE] [SIZE] [SUBJECTS]\n");
        return 2;
    }
    auto kit = read_base_kit(argv[1]);
    if (!kit) {
        std::fprintf(stderr, "%s\n", kit.error().message.c_str());
        return 1;
    }
    const int people = argc > 2 ? std::atoi(argv[2]) : 3, size = argc > 3 ? std::atoi(argv[3]) : 2048;
    for (unsigned seed = 7001; seed < 7001u + static_cast<unsigned>(people); ++seed) {
        for (const int level : {0, 2}) sculpt(*kit, seed, level, size);
        for (const bool fitted : {false, true}) scan_of(*kit, seed, size, fitted);
        std::printf("evenly lit, and its light taken out all the same: ");
        scan_of(*kit, seed, size, false, 1);
    }
    if (argc > 4) demo_head(*kit, argv[4], size);
    if (auto second = read_base_kit(std::string(argv[1]) + "/../bases/orrin")) another_base(*kit, *second, size);
    for (const int texels : {4096, 8192}) speed(*kit, texels);
    brushes(*kit, 4096);
    return 0;
}
