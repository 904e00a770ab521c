#include <catch2/catch.hpp>

#include <cmath>

#include "core/io/image_formats.h"
#include "core/linalg/statistics.h"
#include "core/skin/bake_out.h"
#include "core/skin/heal.h"
#include "core/skin/join_borders.h"
#include "core/skin/relief.h"
#include "core/skin/texels.h"
#include "demo/standins/skin_truth.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

// A sheet of n x n quads as a kit: its left half and its right half are islands beside one another with room between.
BaseKit sheet_kit(Index n, double size, bool uvs = true) {
    BaseKit kit;
    kit.mesh = sheet(static_cast<int>(n), size, [](double, double) { return 0.0; });
    if (uvs) {
        for (Index f = 0; f < kit.mesh.face_count(); ++f) {
            const bool left = f % n < n / 2;
            for (Index c = 4 * f; c < 4 * f + 4; ++c) {
                const Vec3& p = kit.mesh.positions[kit.mesh.corner_vertex[c]];
                const double u = 0.5 + 0.8 * p.x() / size + (left ? -0.05 : 0.05), v = 0.5 + 0.8 * p.y() / size;
                kit.mesh.corner_uv.push_back(static_cast<Index>(kit.mesh.uvs.size()));
                kit.mesh.uvs.emplace_back(u, v);
            }
        }
    }
    kit.triangulation = triangulate(kit.mesh);
    KitPart skin;
    skin.name = "skin", skin.face_count = kit.mesh.face_count();
    for (Index v = 0; v < kit.mesh.vertex_count(); ++v) skin.vertices.push_back(v);
    kit.parts.push_back(skin);
    kit.regions["skin"] = skin.vertices;
    return kit;
}

struct Made {
    std::map<std::string, BakedTile> tiles;
    BakeReport report;
};
Result<Made> bake_whole(const BakeSurface& base, const BaseKit& kit, const Mesh& source, const BakeSettings& settings,
                        const Progress& progress = {}) {
    const Triangulation fans = triangulate(source);
    const SourceSurface surface = prepare_source(source, {}, nullptr, 0, true);
    Made out;
    auto report = bake(
        base, kit.mesh, {&surface, &source, &fans, 1}, settings,
        [&](BakedTile&& tile) -> Status {
            const std::string name = tile.tile.name;
            out.tiles.emplace(name, std::move(tile));
            return Done{};
        },
        progress);
    if (!report) return report.error();
    out.report = std::move(*report);
    return out;
}

// A finer sheet above the kit's, its colour and height told by where it is.
template <class Height>
Mesh coloured_sheet(int n, double size, Height height) {
    Mesh out = sheet(n, size, height);
    for (const Vec3& p : out.positions) {
        const auto byte = [](double v) { return static_cast<std::uint8_t>(std::lround(255 * v)); };
        out.colours.push_back({byte(0.5 + 0.4 * p.x() / size), byte(0.5 + 0.4 * p.y() / size), 60, 255});
    }
    return out;
}

}  // namespace

TEST_CASE("Texels: each shows the place that its UVs say, and beyond a border what lies across the seam") {
    const BaseKit kit = sheet_kit(8, 80);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    REQUIRE(base.tiles.size() == 1);
    const UvFigures figures = uv_figures(base, base.tiles[0]);
    CHECK(figures.islands == 2);
    CHECK(figures.overlap == 0);
    CHECK(figures.mirrored == 0);
    CHECK(figures.density == Approx(1024 * 0.8 / 80).epsilon(0.01));
    const int size = 100;
    std::vector<TexelPlace> places;
    TexelRows(base, base.tiles[0], size, 1, 3).rows(0, size, places);
    int inside = 0, beyond = 0;
    for (int y = 0; y < size; ++y) {
        for (int x = 0; x < size; ++x) {
            const TexelPlace& p = places[static_cast<std::size_t>(y * size + x)];
            const double u = (x + 0.5) / size, v = 1 - (y + 0.5) / size;
            if (p.triangle == kNone) continue;
            const Vec3 at = base.place(p.triangle, p.shares);
            CHECK(at.y() == Approx(80 * (std::clamp(v, 0.1, 0.9) - 0.5) / 0.8).margin(1e-6));
            const bool left = u < 0.5;
            const double x_mm = 80 * (u - 0.5 - (left ? -0.05 : 0.05)) / 0.8;
            if (u < 0.05 || u > 0.95 || v < 0.1 || v > 0.9) continue;  // the sheet's own border: its edge goes on
            CHECK(at.x() == Approx(x_mm).margin(1e-6));                // the seam at x = 0 is passed
            ++(left == (x_mm < 0) ? inside : beyond);
        }
    }
    CHECK(inside > 6000);
    CHECK(beyond > 400);  // three texels on each side
}

TEST_CASE("Bake: colours, heights and normals of a sheet above the base, the same on both sides of a seam") {
    const BaseKit kit = sheet_kit(8, 80);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    const double slope = 0.02;
    const Mesh source = coloured_sheet(40, 80, [&](double x, double) { return 0.4 + slope * x; });
    BakeSettings settings;
    settings.size = 128, settings.maps = {SkinMap::Colour, SkinMap::Normal, SkinMap::Displacement};
    const auto made = bake_whole(base, kit, source, settings);
    REQUIRE(made);
    const BakedTile& tile = made->tiles.at("1001");
    CHECK(made->report.seen > 0.99);
    for (const double u : {0.2, 0.41, 0.449, 0.551, 0.7}) {
        const Vec2 uv(u, 0.37);
        const double x = 80 * (u - 0.5 - (u < 0.5 ? -0.05 : 0.05)) / 0.8, y = 80 * (0.37 - 0.5) / 0.8;
        CHECK(map_at(tile.maps.at(SkinMap::Displacement), tile.tile, uv)[0] == Approx(0.4 + slope * x).margin(2e-3));
        const Vec3 c = map_at(tile.maps.at(SkinMap::Colour), tile.tile, uv);
        CHECK(c[0] == Approx(0.5 + 0.4 * x / 80).margin(0.004));
        CHECK(c[1] == Approx(0.5 + 0.4 * y / 80).margin(0.004));
        const Vec3 n = 2 * map_at(tile.maps.at(SkinMap::Normal), tile.tile, uv) - Vec3::Ones();
        // u runs along x, v along y: the normal leans against the slope
        CHECK((n - Vec3(-slope, 0, 1).normalized()).norm() < 2e-3);
    }
    const BorderSteps colours = border_steps(base, {{"1001", tile.maps.at(SkinMap::Colour)}}, false),
                      normals = border_steps(base, {{"1001", tile.maps.at(SkinMap::Normal)}}, true);
    CHECK(colours.most < 0.5);
    CHECK(normals.most < 0.5);
}

TEST_CASE("Bake: what the source does not show is filled from what is around, and told") {
    BaseKit kit = sheet_kit(16, 80);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    Mesh source = coloured_sheet(80, 80, [](double, double) { return 0.3; });
    // a hole of 16 mm on the left
    Mesh holed = source;
    holed.face_start = {0}, holed.corner_vertex.clear();
    for (Index f = 0; f < source.face_count(); ++f) {
        const Vec3 middle =
            0.25 *
            (source.positions[source.corner_vertex[4 * f]] + source.positions[source.corner_vertex[4 * f + 1]] +
             source.positions[source.corner_vertex[4 * f + 2]] + source.positions[source.corner_vertex[4 * f + 3]]);
        if (std::abs(middle.x() + 20) < 8 && std::abs(middle.y()) < 8) continue;
        add_face(holed, {source.corner_vertex[4 * f], source.corner_vertex[4 * f + 1], source.corner_vertex[4 * f + 2],
                         source.corner_vertex[4 * f + 3]});
    }
    BakeSettings settings;
    settings.size = 128, settings.maps = {SkinMap::Colour, SkinMap::Displacement};
    const auto made = bake_whole(base, kit, holed, settings);
    REQUIRE(made);
    const BakedTile& tile = made->tiles.at("1001");
    CHECK(made->report.missed == Approx(16.0 * 16 / (80 * 80)).epsilon(0.2));
    const Vec2 middle(0.5 + 0.8 * -20 / 80 - 0.05, 0.5);
    const auto x = static_cast<std::size_t>(middle.x() * 128), y = static_cast<std::size_t>((1 - middle.y()) * 128);
    CHECK(static_cast<Found>(tile.found[y * 128 + x]) == Found::Missed);
    CHECK(map_at(tile.maps.at(SkinMap::Displacement), tile.tile, middle)[0] == Approx(0.3).margin(0.02));
    const Vec3 c = map_at(tile.maps.at(SkinMap::Colour), tile.tile, middle);
    CHECK(c[0] == Approx(0.5 + 0.4 * -20 / 80).margin(0.03));
    CHECK(c[1] == Approx(0.5).margin(0.03));
}

TEST_CASE("Bake: a second sheet behind the first and one that faces away are not taken") {
    const BaseKit kit = sheet_kit(8, 80);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    Mesh source = coloured_sheet(40, 80, [](double, double) { return 0.2; });
    const Mesh near = coloured_sheet(40, 80, [](double, double) { return -0.1; });  // nearer, and turned over
    const Index first = source.vertex_count();
    source.positions.insert(source.positions.end(), near.positions.begin(), near.positions.end());
    source.colours.insert(source.colours.end(), near.positions.size(), Colour{0, 0, 0, 255});
    for (Index f = 0; f < near.face_count(); ++f) {
        add_face(source, {first + near.corner_vertex[4 * f + 3], first + near.corner_vertex[4 * f + 2],
                          first + near.corner_vertex[4 * f + 1], first + near.corner_vertex[4 * f]});
    }
    BakeSettings settings;
    settings.size = 64, settings.maps = {SkinMap::Displacement};
    const auto made = bake_whole(base, kit, source, settings);
    REQUIRE(made);
    const BakedTile& tile = made->tiles.at("1001");
    for (const double u : {0.2, 0.3, 0.7})
        CHECK(map_at(tile.maps.at(SkinMap::Displacement), tile.tile, Vec2(u, 0.6))[0] == Approx(0.2).margin(1e-3));
}

TEST_CASE("Bake: the base's sculpt gives back its relief, its normals and its colours; nothing is wrong by a sheet") {
    const BaseKit& kit = *demo_kit();
    const Mesh high = known_sculpt(kit, kit.mesh.positions, 2);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions, 1);
    CHECK(base.tiles.size() == 2);
    BakeSettings settings;
    settings.size = 512, settings.maps = {SkinMap::Colour, SkinMap::Normal, SkinMap::Displacement};
    const auto made = bake_whole(base, kit, high, settings);
    REQUIRE(made);
    CHECK(made->report.wrong < 1e-4);
    CHECK(made->report.seen > 0.995);
    std::map<std::string, MapImage> colours;
    for (const auto& [name, tile] : made->tiles) colours[name] = tile.maps.at(SkinMap::Colour);
    // across the tiles at the neck too
    const BorderSteps steps = border_steps(base, colours, false);
    CHECK(steps.far < 1);  // islands a few texels wide have more borders than texels
    const Triangulation fans = triangulate(high);
    const SurfaceQuery query(high.positions, fans.triangles);
    const BakedTile& head = made->tiles.at("1001");
    std::vector<double> off;
    for (std::size_t n = 0; n < head.tile.triangles.size(); n += 7) {
        const Index t = head.tile.triangles[n];
        if (base.part[t] != 0) continue;
        const Vec3 shares = Vec3::Constant(1.0 / 3);
        const Vec2 uv = (base.uv[t][0] + base.uv[t][1] + base.uv[t][2]) / 3;
        const Vec3 raised = base.place(t, shares) + map_at(head.maps.at(SkinMap::Displacement), head.tile, uv)[0] *
                                                        base.normal(t, shares).normalized();
        off.push_back(query.closest(raised, 5).distance);
    }
    CHECK(median(off) < 0.01);
    CHECK(quantile(off, 0.95) < 0.06);  // 512 texels for a whole head
}

TEST_CASE("Bake: refusals say why, a cancelled bake gives nothing") {
    const BaseKit kit = sheet_kit(4, 40), bare = sheet_kit(4, 40, false);
    const auto none = bake_surface(bare, bare.mesh.positions);
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::BadInput);
    CHECK(none.error().message.find("no UVs") != std::string::npos);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    const Mesh plain = sheet(8, 40, [](double, double) { return 0.1; });
    BakeSettings settings;
    settings.size = 64, settings.maps = {SkinMap::Colour};
    CHECK(bake_whole(base, kit, plain, settings).error().code == ErrorCode::BadInput);  // no colours
    settings.maps = {SkinMap::Colour, SkinMap::Normal};
    const auto left_out = bake_whole(base, kit, plain, settings);
    REQUIRE(left_out);
    CHECK_FALSE(left_out->tiles.at("1001").maps.contains(SkinMap::Colour));
    CHECK(left_out->report.notes.size() == 1);
    settings.tiles = {"1007"};
    const auto tile = bake_whole(base, kit, plain, settings);
    REQUIRE_FALSE(tile);
    CHECK(tile.error().message.find("1001") != std::string::npos);
    settings.tiles.clear(), settings.size = 20000;
    CHECK_FALSE(bake_whole(base, kit, plain, settings));
    settings.size = 64;
    Progress stop;
    stop.cancelled = [] { return true; };
    CHECK(bake_whole(base, kit, plain, settings, stop).error().code == ErrorCode::Cancelled);
}

TEST_CASE("Bake: overlapping UVs are said, flat triangles harm nothing") {
    BaseKit kit = sheet_kit(8, 80);
    for (Vec2& uv : kit.mesh.uvs) uv.x() = std::abs(uv.x() - 0.5) + 0.02;  // the right half on the left one
    for (Index c = 0; c < 4; ++c) kit.mesh.uvs[kit.mesh.corner_uv[c]] = Vec2(0.3, 0.3);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    const UvFigures figures = uv_figures(base, base.tiles[0]);
    CHECK(figures.overlap > 0.9);
    CHECK(figures.flat == 2);
    BakeSettings settings;
    settings.size = 64, settings.maps = {SkinMap::Normal};
    const auto made = bake_whole(base, kit, sheet(16, 80, [](double, double) { return 0.1; }), settings);
    REQUIRE(made);
    REQUIRE_FALSE(made->report.notes.empty());
    CHECK(made->report.notes.front().find("overlap") != std::string::npos);
}

TEST_CASE("Membrane: through two known rims it is the straight line between them") {
    const int n = 10;
    const Mesh flat = sheet(n, 10, [](double, double) { return 0.0; });
    const std::vector<Triangle> triangles = triangulate(flat).triangles;
    Points values(flat.positions.size(), Vec3::Zero());
    std::vector<std::uint8_t> known(values.size(), 0);
    for (std::size_t v = 0; v < values.size(); ++v) {
        const double x = flat.positions[v].x();
        if (std::abs(x) > 4.9) known[v] = 1, values[v] = Vec3(x, 2, 0);
    }
    REQUIRE(membrane(triangles, known, {{&values, Vec3(7, 7, 7)}}));
    // diagonals all run one way, so a row in the middle is as symmetric as it gets
    for (int i = 0; i <= n; ++i) {
        const auto v = static_cast<std::size_t>(5 * (n + 1) + i);
        CHECK(values[v].x() == Approx(flat.positions[v].x()).margin(0.2));
        CHECK(values[v].y() == Approx(2).margin(1e-4));
    }
    std::fill(known.begin(), known.end(), 0);
    REQUIRE(membrane(triangles, known, {{&values, Vec3(7, 7, 7)}}));
    CHECK(values[3].x() == Approx(7).margin(1e-3));
}

TEST_CASE("Relief: a ball is as curved as its radius says, a pit lies below what is around it") {
    Mesh ball = cube();
    for (Vec3& p : ball.positions) p = 2 * p - Vec3::Ones();
    const Mesh flat = sheet(40, 20, [](double x, double y) { return -0.2 * std::exp(-(x * x + y * y) / 0.5); });
    const std::vector<Triangle> triangles = triangulate(flat).triangles;
    std::vector<Index> place(flat.positions.size());
    for (Index v = 0; v < place.size(); ++v) place[v] = v;
    const std::vector<float> deep =
        relief(flat.positions, vertex_normals(flat.positions, triangles), triangles, place, 1.5);
    const std::size_t middle = 20 * 41 + 20;
    CHECK(deep[middle] < -0.1f);
    CHECK(std::abs(deep[5 * 41 + 5]) < 1e-3f);
    const double radius = 8;
    Mesh cap = sheet(40, 6, [&](double x, double y) { return std::sqrt(radius * radius - x * x - y * y); });
    const std::vector<float> bent = mean_curvature(
        cap.positions, vertex_normals(cap.positions, triangulate(cap).triangles), triangulate(cap).triangles, place);
    CHECK(bent[middle] == Approx(1 / radius).epsilon(0.02));
}

TEST_CASE("Bake: a texture of 16 bits keeps them, shrunk or not") {
    const BaseKit kit = sheet_kit(8, 80);
    const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
    // from left to right three steps of 255, which 8 bits would show as four bands
    MapImage ramp{512, 4, 3, true, {}, {}};
    for (int i = 0; i < 512 * 4; ++i)
        for (int k = 0; k < 3; ++k)
            ramp.unit.push_back(static_cast<std::uint16_t>(100 * 257 + 3 * 257 * (i % 512) / 511));
    for (const MapFormat format : {MapFormat::Png16, MapFormat::Tiff16}) {
        CAPTURE(map_format_name(format));
        const std::string bytes = *encode_map(ramp, format);
        Mesh source = sheet(16, 80, [](double, double) { return 0.0; });
        for (const Vec3& p : source.positions) source.uvs.emplace_back(0.5 + p.x() / 80, 0.5 + p.y() / 80);
        source.corner_uv = source.corner_vertex;
        source.images = {{"ramp", "", {bytes.begin(), bytes.end()}}};
        source.materials.emplace_back();
        source.materials[0].image = 0;
        source.face_material.assign(source.face_count(), 0);
        for (const int size : {512, 32}) {  // at 32 texels the texture is averaged down first
            BakeSettings settings;
            settings.size = size, settings.maps = {SkinMap::Colour};
            const auto made = bake_whole(base, kit, source, settings);
            REQUIRE(made);
            const BakedTile& tile = made->tiles.begin()->second;
            const MapImage& colour = tile.maps.at(SkinMap::Colour);
            std::vector<TexelPlace> places;
            TexelRows(base, tile.tile, size, 1, 0).rows(0, size, places);
            double farthest = 0;
            for (std::size_t i = 0; i < places.size(); ++i) {
                if (places[i].triangle == kNone) continue;
                const double x = base.place(places[i].triangle, places[i].shares).x() / 80;
                if (std::abs(x) > 0.45) continue;  // the texture ends there, and goes on at its other side
                const double should = 257 * (100 + 3 * (0.5 + x));
                farthest = std::max(farthest, std::abs(colour.unit[3 * i] - should) / 257);
            }
            CHECK(farthest < 0.1);
        }
    }
}

TEST_CASE("Map files: PNG and TIFF come back as they were, heights with their range, EXR is one") {
    MapImage map;
    map.width = 5, map.height = 3, map.channels = 3, map.srgb = true;
    for (std::size_t i = 0; i < 45; ++i) map.unit.push_back(static_cast<std::uint16_t>(257 * (i * 5 % 256)));
    for (const MapFormat format : {MapFormat::Png8, MapFormat::Png16, MapFormat::Tiff8, MapFormat::Tiff16}) {
        const auto bytes = encode_map(map, format);
        REQUIRE(bytes);
        const auto back = decode_image({"map", {}, {bytes->begin(), bytes->end()}});
        REQUIRE(back);
        REQUIRE(back->width == 5);
        for (std::size_t i = 0; i < 15; ++i) {
            for (std::size_t k = 0; k < 3; ++k) CHECK(back->rgba[4 * i + k] == map.unit[3 * i + k] / 257);
        }
    }
    MapImage heights;
    heights.width = 4, heights.height = 2, heights.channels = 1;
    heights.real = {-1.5f, 0, 0.25f, 3, 0, 0, 0, 0};
    CHECK(encode_map(heights, MapFormat::Png16).error().code == ErrorCode::BadInput);
    double span = 0;
    const MapImage scaled = scaled_heights(heights, span);
    CHECK((scaled.unit[2] / 65535.0 - 0.5) * span == Approx(0.25).margin(span / 65535));
    for (const MapFormat format : {MapFormat::Exr16, MapFormat::Exr32}) {
        const auto bytes = encode_map(heights, format);
        REQUIRE(bytes);
        CHECK(static_cast<unsigned char>((*bytes)[0]) == 0x76);  // the format's first bytes
        CHECK(static_cast<unsigned char>((*bytes)[1]) == 0x2f);
    }
    CHECK(encode_map(heights, MapFormat::Tiff32));
    CHECK(encode_map({}, MapFormat::Png8).error().code == ErrorCode::BadInput);
    for (const double v : {0.0, 0.001, 0.2, 0.7, 1.0})
        CHECK(linear_to_srgb(srgb_to_linear(v)) == Approx(v).margin(1e-9));
}

TEST_CASE("Colour difference: the published pairs") {
    // Lab pairs of [Sharma, Wu, Dalal 2005] need Lab; of sRGB: black and white are 100 apart, a colour is 0 from
    // itself
    CHECK(colour_difference(Vec3::Zero(), Vec3::Ones()) == Approx(100).epsilon(1e-3));
    CHECK(colour_difference(Vec3(0.3, 0.5, 0.2), Vec3(0.3, 0.5, 0.2)) == Approx(0).margin(1e-9));
}
