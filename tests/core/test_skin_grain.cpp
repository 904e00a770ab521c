// A person's own grain on what is filled, and layers in one region, in a mix, of one tone, in a stage.
#include <catch2/catch.hpp>

#include <cstring>
#include <filesystem>
#include <set>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/linalg/statistics.h"
#include "core/morph/face_region_names.h"
#include "core/project/carried_skin.h"
#include "core/project/skin_out.h"
#include "core/project/store.h"
#include "core/skin/grain.h"
#include "core/skin/reference_tone.h"
#include "core/skin/region_mask.h"
#include "tests/core/skin_support.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

// Freckles of some millimetres that no two places share.
double freckle(const Vec3& p) {
    return 0.08 * (std::sin(2.1 * p.x() + 1.3 * p.y()) + std::sin(1.7 * p.y() - 2.3 * p.z()) +
                   std::sin(1.1 * p.z() + 2.7 * p.x()));
}

LayeredSkin plain_skin(const std::string& name, TexelBytes colour, int size = 64) {
    LayeredSkin out;
    out.name = name, out.size = size;
    SkinLayer layer;
    layer.name = name;
    for (const UvTile& tile : paint_surface().surface().tiles)
        layer.tiles[tile.name].picture = png_of(plain_picture(size, colour));
    out.layers.push_back(layer);
    return out;
}

TexelBytes shown_at(const SkinLayer& layer, const SkinSpot& place) {
    const auto read = read_layer(layer, paint_surface().tile_of(place.triangle).name, 64);
    REQUIRE(read);
    const Vec2 at = paint_surface().in_tile(place);
    return read->picture.at(static_cast<int>(at.x() * 64), static_cast<int>(at.y() * 64));
}

}  // namespace

TEST_CASE("Grain: what is filled varies as the skin that it is taken from, and not twice in the same way") {
    const BakeSurface& base = paint_surface().surface();
    const Vec3 nose = demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions);
    const auto in = [&](Index v, const char* name) { return base.region_names[base.region[v]] == name; };
    std::vector<Index> from;
    VertexMask onto(base.positions.size(), 0);
    for (Index v = 0; v < onto.size(); ++v) {
        if (in(v, "face") && (base.positions[v] - nose).norm() < 80) from.push_back(v);
        onto[v] = in(v, "skull");
    }
    const auto detail = [&](const SkinSpot& s) -> std::optional<Vec3> {
        return Vec3(Vec3::Constant(freckle(base.place(s.triangle, s.shares))));
    };
    const auto grain = SkinGrain::make(base, from, onto, detail, 0.4);
    REQUIRE(grain);
    CHECK(grain->patches() > 10);
    std::vector<double> made, true_ones, step;
    for (Index t = 0; t < base.triangles.size(); ++t) {
        if (base.part[t] != 0) continue;
        const Triangle& c = base.triangles[t];
        if (onto[c[0]] && onto[c[1]] && onto[c[2]]) {
            const Vec3 middle = Vec3::Constant(1.0 / 3), beside(0.30, 0.35, 0.35);
            made.push_back(grain->at(t, middle)[0]);
            step.push_back(std::abs(grain->at(t, beside)[0] - made.back()));
        } else if (in(c[0], "face")) {
            true_ones.push_back(freckle(base.place(t, Vec3::Constant(1.0 / 3))));
        }
    }
    REQUIRE(made.size() > 500);
    const auto scatter = [](const std::vector<double>& v) {
        double sum = 0;
        for (const double x : v) sum += x * x;
        return std::sqrt(sum / static_cast<double>(v.size()));
    };
    CHECK(scatter(made) == Approx(scatter(true_ones)).epsilon(0.25));
    CHECK(std::abs(median(made)) < 0.03);
    CHECK(quantile(step, 0.99) < 0.15);  // without a step where patches meet
    // nothing where nothing was to be filled
    const SkinSpot foot = paint_surface().closest(Vec3(100, 20, 20), Vec3::UnitY());
    CHECK(grain->at(foot.triangle, foot.shares).norm() == 0);
    // nowhere to take it from
    CHECK_FALSE(SkinGrain::make(base, {}, onto, detail, 0.4));
    CHECK_FALSE(SkinGrain::make(
        base, from, onto, [](const SkinSpot&) { return std::optional<Vec3>(); }, 0.4));
}

TEST_CASE("Grain: a base without pictures is filled with it, one with pictures when that is asked for") {
    const auto baked_skull = [](bool pictures, bool own_grain) {
        BaseKit kit = *demo_kit();
        if (!pictures) kit.mesh.images.clear(), kit.mesh.materials.clear(), kit.mesh.face_material.clear();
        Mesh scan = demo_kit()->mesh;
        scan.images.clear(), scan.materials.clear(), scan.face_material.clear();
        VertexMask left_out(scan.positions.size(), 1);
        for (const Index v : kit.regions.at("face")) left_out[v] = 0;
        for (const Vec3& p : scan.positions) {
            const double c = 150 * std::exp(freckle(p));
            const auto byte = static_cast<std::uint8_t>(std::clamp(c, 0.0, 255.0));
            scan.colours.push_back({byte, byte, byte, 255});
        }
        const SourceSurface surface = prepare_source(scan, {}, &left_out, 0, true);
        const Triangulation fans = triangulate(scan);
        const BakeSurface base = *bake_surface(kit, kit.mesh.positions);
        BakeSettings settings;
        settings.size = 256, settings.samples = 1, settings.tiles = {"1001"}, settings.maps = {SkinMap::Colour};
        settings.own_grain = own_grain;
        std::vector<double> skull, face;
        const auto report = bake(base, kit.mesh, {&surface, &scan, &fans, 1}, settings,
                                 [&](BakedTile&& tile) -> Status {
                                     const Pixels p = map_pixels(tile.maps.at(SkinMap::Colour));
                                     for (Index t = 0; t < base.triangles.size(); ++t) {
                                         const Index v = base.triangles[t][0];
                                         const std::string& region = base.region_names[base.region[v]];
                                         if (region != "face" && (region != "skull" || base.positions[v].z() > 0))
                                             continue;
                                         const Vec2 uv = (base.uv[t][0] + base.uv[t][1] + base.uv[t][2]) / 3;
                                         (region == "face" ? face : skull)
                                             .push_back(texel_of(p, static_cast<int>(uv.x() * 256),
                                                                 static_cast<int>((1 - uv.y()) * 256))[0]);
                                     }
                                     return Done{};
                                 },
                                 {});
        REQUIRE(report);
        const auto scatter = [](const std::vector<double>& values) {
            const double middle = median(values);
            double sum = 0;
            for (const double v : values) sum += std::pow(std::log((v + 1) / (middle + 1)), 2);
            return std::sqrt(sum / static_cast<double>(values.size()));
        };
        return scatter(skull) / scatter(face);
    };
    const double none = baked_skull(true, false), asked = baked_skull(true, true), bare = baked_skull(false, false);
    CHECK(bare > 0.6);
    CHECK(bare < 1.2);
    CHECK(asked > 0.6);
    CHECK(asked < 1.2);
    CHECK(asked > 1.3 * none);
}

TEST_CASE("Skin: a layer is shown in one region, and skins are mixed as shapes are") {
    const SkinSpot nose = at_landmark("pronasale"), chin = at_landmark("pogonion");
    SkinLayer layer = plain_skin("one", {200, 100, 50, 255}).layers[0];
    REQUIRE(show_only_in(*demo_kit(), "nose", 64, layer));
    const auto share = [&](const SkinSpot& s) {
        const Vec2 at = paint_surface().in_tile(s);
        return layer.tiles.at(paint_surface().tile_of(s.triangle).name)
            .mask->at(static_cast<int>(at.x() * 64), static_cast<int>(at.y() * 64))[0];
    };
    CHECK(share(nose) > 240);
    CHECK(share(chin) < 10);
    REQUIRE(show_only_in(*demo_kit(), "", 64, layer));
    CHECK_FALSE(layer.tiles.begin()->second.mask);
    CHECK_FALSE(show_only_in(*demo_kit(), "knee", 64, layer));
    const std::vector<std::string> names = face_region_names();
    CHECK(std::find(names.begin(), names.end(), "nose") != names.end());

    const auto dark = std::make_shared<const LayeredSkin>(plain_skin("dark", {60, 60, 60, 255}));
    const auto light = std::make_shared<const LayeredSkin>(plain_skin("light", {220, 220, 220, 255}));
    const auto half = mixed_skin(*demo_kit(), {{dark, 0.5, {}}, {light, 0.5, {}}}, "mix", 64, {});
    REQUIRE(half);
    const double mean = linear_to_srgb(0.5 * (srgb_to_linear(60 / 255.0) + srgb_to_linear(220 / 255.0)));
    CHECK(int(shown_at(*half, chin)[0]) == Approx(255 * mean).margin(2));
    CHECK(shown_at(*half, chin)[3] == 255);
    // a quarter of one alone: the rest is the base's
    const auto quarter = mixed_skin(*demo_kit(), {{dark, 0.25, {}}}, "mix", 64, {});
    REQUIRE(quarter);
    CHECK(int(shown_at(*quarter, chin)[3]) == Approx(64).margin(2));
    // the nose of another; more than all of them together is all of them
    const auto nosed = mixed_skin(*demo_kit(), {{dark, 1, {}}, {light, 0, {{"nose", 3}}}}, "mix", 64, {});
    REQUIRE(nosed);
    CHECK(shown_at(*nosed, chin)[0] == 60);
    CHECK(shown_at(*nosed, nose)[0] > 180);
    CHECK_FALSE(mixed_skin(*demo_kit(), {{dark, 0, {}}}, "mix", 64, {}));
    CHECK_FALSE(mixed_skin(*demo_kit(), {}, "mix", 64, {}));
    Progress stop;
    stop.cancelled = [] { return true; };
    CHECK(mixed_skin(*demo_kit(), {{dark, 1, {}}}, "mix", 64, stop).error().code == ErrorCode::Cancelled);
}

TEST_CASE("Skin: whose skins are in the bank's mix is told by whose shape a morph was made of, or by its name") {
    ProjectState s = dressed_project();
    REQUIRE(add_skin(s, s.subjects[0].id, plain_skin("plain", {1, 2, 3, 255})));
    const auto entry = [&](const char* name, double amount, SubjectId of) {
        Morph m;
        m.name = name, m.topology = demo_kit()->topology_key;
        BankEntry e{std::make_shared<const Morph>(std::move(m)), amount};
        e.subject = of;
        s.bank.push_back(e);
    };
    entry("Vesper", 0.3, {}), entry("smile", 1, {}), entry("second look", 0.5, s.subjects[0].id);
    s.region_mix = {{"nose", "Vesper", 0.7}};
    const auto shares = skins_in_mix(s);
    REQUIRE(shares.size() == 2);
    CHECK(shares[0].amount == 0.3);
    CHECK(shares[0].in_regions.at("nose") == 0.7);
    CHECK(shares[1].amount == 0.5);
    // the one that it was made of is kept
    Scratch scratch;
    REQUIRE(save_project(scratch / "p.veldstone", s));
    const auto back = load_project(scratch / "p.veldstone");
    REQUIRE(back);
    CHECK(back->state.bank[2].subject == s.subjects[0].id);
}

TEST_CASE("Skin: a layer is brought to another skin's tone, or the face to a colour") {
    ProjectState s = dressed_project();
    REQUIRE(add_skin(s, s.subjects[0].id, plain_skin("other", {90, 140, 60, 255})));
    const SkinId other = s.subjects[0].skins[0]->id;
    auto layer = layer_of_fit(s, s.subjects[0].id);
    REQUIRE(layer);
    layer->recipe.light_out = 0, layer->recipe.leave_out_not_skin = false, layer->recipe.tone = 1;
    const auto cheek_of = [&](const ToneLike& like) {
        layer->recipe.tone_like = like;
        const auto what = layer_baking(s, *layer, 64);
        REQUIRE(what);
        const auto baked = bake_layer(*what, {});
        REQUIRE(baked);
        const BakeSurface& base = paint_surface().surface();
        Vec3 sum = Vec3::Zero();
        double count = 0;
        for (Index t = 0; t < base.triangles.size(); t += 5) {
            if (base.region_names[base.region[base.triangles[t][0]]] != "face") continue;
            const TexelBytes c = shown_at(baked->layer, {t, Vec3::Constant(1.0 / 3)});
            sum += Vec3(c[0], c[1], c[2]), ++count;
        }
        return Vec3(sum / count);
    };
    CHECK((cheek_of({other, {}}) - Vec3(90, 140, 60)).norm() < 15);
    CHECK((cheek_of({{}, Colour{200, 150, 130, 255}}) - Vec3(200, 150, 130)).norm() < 15);
    CHECK((cheek_of({}) - Vec3(90, 140, 60)).norm() > 40);
    layer->recipe.tone_like = {SkinId::make(), {}};
    const auto gone = layer_baking(s, *layer, 64);
    REQUIRE_FALSE(gone);
    CHECK(gone.error().code == ErrorCode::Gone);
    // as text and back
    LayerRecipe recipe;
    recipe.own_grain = true, recipe.tone_like.colour = Colour{1, 2, 3, 255};
    CHECK(*parse_layer_recipe(layer_recipe_text(recipe)) == recipe);
    recipe.tone_like = {other, {}};
    CHECK(*parse_layer_recipe(layer_recipe_text(recipe)) == recipe);
    CHECK_FALSE(parse_layer_recipe(R"({"tone_like": "somebody"})"));
    CHECK_FALSE(parse_layer_recipe(R"({"tone_like": [1, 2, 300]})"));
    // a picture without a face
    const Image plain = *png_of(plain_picture(200, {120, 130, 140, 255}));
    const auto none = reference_tone(*demo_kit(), plain, {});
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::NotFound);
}

TEST_CASE("Skin: a stage shows its own layers, is kept, and goes out under its own name") {
    ProjectState s = dressed_project();
    LayeredSkin skin = plain_skin("Skin", {100, 100, 100, 255});
    SkinLayer flush = plain_skin("flush", {220, 60, 60, 255}).layers[0];
    flush.stage = "angry";
    skin.layers.push_back(flush);
    skin.stages = {{"angry", "smile", s.subjects[0].fits[0].id}, {"pale", "", {}}};
    const UvTile& tile = paint_surface().surface().tiles.front();
    const auto colour = [&](const std::string& stage) {
        const auto seen = composed_tile(demo_kit()->mesh, paint_surface().surface(), tile, at_stage(skin, stage));
        REQUIRE(seen);
        return texel_of(*seen, 30, 30)[0];
    };
    CHECK(colour("") == 100);
    CHECK(colour("angry") == 220);
    CHECK(colour("pale") == 100);
    REQUIRE(add_skin(s, s.subjects[0].id, skin));
    Scratch scratch;
    REQUIRE(save_project(scratch / "p.veldstone", s));
    const auto back = load_project(scratch / "p.veldstone");
    REQUIRE(back);
    const auto kept = back->state.subjects[0].skins[0];
    REQUIRE(kept->stages.size() == 2);
    CHECK(kept->stages[0].expression == "smile");
    CHECK(kept->stages[0].fit == s.subjects[0].fits[0].id);
    CHECK(kept->layers[1].stage == "angry");

    SkinOut out = skin_out_of(s, s.subjects[0].id, kept);
    CHECK(out.relief);
    CHECK(out.stage_relief.size() == 1);
    out.maps = {SkinMap::Colour, SkinMap::Normal}, out.stages = true;
    out.files.folder = scratch / "maps", out.files.name = "V";
    const auto files = write_skin_maps(out, {});
    REQUIRE(files);
    const auto there = [&](const std::string& name) { return std::filesystem::exists(scratch / ("maps/" + name)); };
    CHECK(there("V_colour.1001.png"));
    CHECK(there("V_angry_colour.1001.png"));
    CHECK(there("V_angry_normal.1001.png"));
    CHECK(there("V_pale_colour.1001.png"));
    CHECK_FALSE(there("V_pale_normal.1001.png"));  // its relief is the skin's own
    CHECK(there("V_angry_maps.json"));
    // a stage that cannot be written (a folder stands where its first file goes): what is there is said, and stays
    out.files.folder = scratch / "full";
    std::filesystem::create_directories(scratch / "full/V_angry_colour.1001.png/x");
    const auto full = write_skin_maps(out, {});
    REQUIRE_FALSE(full);
    CHECK(full.error().message.find("stage 'angry'") != std::string::npos);
    CHECK(std::filesystem::exists(scratch / "full/V_colour.1001.png"));
    out.files.pattern = "{map}.{tile}";
    CHECK(write_skin_maps(out, {}).error().message.find("{name}") != std::string::npos);
    // worn by another: without the stage
    const auto worn = worn_layer(*demo_kit(), *kept, "worn", {});
    REQUIRE(worn);
    CHECK(shown_at(*worn, at_landmark("pronasale"))[0] == 100);
}

TEST_CASE("Skin: a GLB wears it; stages, relief and the subject's other skins are variants of its materials") {
    ProjectState s = dressed_project();
    const SubjectId who = s.subjects[0].id;
    LayeredSkin skin = plain_skin("Plain", {100, 100, 100, 255});
    SkinLayer flush = plain_skin("flush", {220, 60, 60, 255}).layers[0];
    flush.stage = "angry";
    flush.tiles.erase(std::next(flush.tiles.begin()), flush.tiles.end());  // on one tile only
    skin.layers.push_back(flush);
    skin.stages = {{"angry", "smile", s.subjects[0].fits[0].id}};
    const LayeredSkin made_up = plain_skin("Made up", {30, 60, 200, 255});
    REQUIRE(add_skin(s, who, made_up));
    REQUIRE(add_skin(s, who, skin));
    Scratch scratch;
    SkinOut out = skin_out_of(s, who, s.subjects[0].skin());
    out.maps = {SkinMap::Colour, SkinMap::Normal}, out.stages = out.all_skins = true;
    REQUIRE(write_skin_glb(out, {}, scratch / "worn.glb", {}));
    const auto bytes = read_file(scratch / "worn.glb");
    REQUIRE(bytes);
    const std::string text(bytes->view());
    std::uint32_t length = 0;
    std::memcpy(&length, text.data() + 12, 4);
    const Json json = Json::parse(text.substr(20, length));
    const Json& names = json["extensions"]["KHR_materials_variants"]["variants"];
    REQUIRE(names.size() == 2);
    CHECK(names[0]["name"] == "angry");
    CHECK(names[1]["name"] == "Made up");
    // every primitive of a tile changes with the other skin; with the stage those of one tile change colour, and all
    // that have relief of their own
    std::set<int> changed[2];
    for (const Json& primitive : json["meshes"][0]["primitives"]) {
        if (!primitive.contains("extensions")) continue;
        for (const Json& m : primitive["extensions"]["KHR_materials_variants"]["mappings"])
            changed[m["variants"][0].get<std::size_t>()].insert(m["material"].get<int>());
    }
    CHECK(changed[1].size() == paint_surface().surface().tiles.size());
    const auto picture = [&](int material) {
        const Json& m = json["materials"][static_cast<std::size_t>(material)];
        return m["pbrMetallicRoughness"]["baseColorTexture"]["index"].get<int>();
    };
    std::set<int> pictures;
    for (const int m : changed[0]) {
        CHECK(json["materials"][static_cast<std::size_t>(m)].contains("normalTexture"));
        pictures.insert(picture(m));
    }
    CHECK(pictures.size() == 2);  // flushed, and the plain one where the stage only has relief
    // as files: colours of the other skin under its own name
    out.files.folder = scratch / "maps";
    const auto files = write_skin_maps(out, {});
    REQUIRE(files);
    CHECK(std::filesystem::exists(scratch / "maps/Vesper_Made up_colour.1001.png"));
    CHECK_FALSE(std::filesystem::exists(scratch / "maps/Vesper_Made up_normal.1001.png"));
    out.files.pattern = "{map}.{tile}";
    CHECK_FALSE(write_skin_maps(out, {}));
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(write_skin_glb(out, {}, scratch / "none.glb", stopped).error().code == ErrorCode::Cancelled);
    CHECK_FALSE(std::filesystem::exists(scratch / "none.glb"));
}

TEST_CASE("Skin: a kit is written with a skin in place of its own pictures, and reads again") {
    Scratch scratch;
    const LayeredSkin skin = plain_skin("Skin", {10, 200, 30, 255});
    REQUIRE(write_dressed_kit(*demo_kit(), skin, scratch / "kit", {}));
    const auto kit = read_base_kit(scratch / "kit");
    REQUIRE(kit);
    CHECK(kit->topology_key == demo_kit()->topology_key);
    CHECK(kit->expressions.size() == demo_kit()->expressions.size());
    const BakeSurface base = *bake_surface(*kit, kit->mesh.positions);
    REQUIRE(base.tiles.size() == paint_surface().surface().tiles.size());
    for (const UvTile& tile : base.tiles) {
        const auto own = base_texels(kit->mesh, base, tile, 64);
        REQUIRE(own);
        CHECK(texel_of(*own, 32, 32) == TexelBytes{10, 200, 30, 255});
    }
    CHECK_FALSE(write_dressed_kit(*demo_kit(), skin, demo_kit()->folder, {}));
    CHECK_FALSE(write_dressed_kit(*demo_kit(), skin, "/proc/nowhere/kit", {}));
}

TEST_CASE(
    "Skin: carried to the same surface in another order it stays what it was; a project without one is refused") {
    LayeredSkin skin = plain_skin("Skin", {10, 200, 30, 255}, 128);
    const auto same = carry_skin(*demo_kit(), &skin, "Vesper", *demo_kit(), 128, {});
    REQUIRE(same);
    CHECK(same->layer.from == LayerFrom::Worn);
    CHECK(shown_at(same->layer, at_landmark("pogonion")) == TexelBytes{10, 200, 30, 255});
    // its tiles turned by half: the surface stays, the layout does not
    BaseKit turned = *demo_kit();
    for (Vec2& uv : turned.mesh.uvs) uv = Vec2(2 * std::floor(uv.x()) + 1 - uv.x(), 1 - uv.y());
    const auto carried = carry_skin(turned, &skin, "Vesper", *demo_kit(), 128, {});
    REQUIRE(carried);
    CHECK(carried->exact == demo_kit()->mesh.positions.size());
    CHECK(carried->seen > 0.99);
    const TexelBytes cheek = shown_at(carried->layer, at_landmark("pogonion"));
    CHECK(std::abs(int(cheek[0]) - 10) < 3);
    CHECK(std::abs(int(cheek[1]) - 200) < 3);
    Scratch scratch;
    REQUIRE(save_project(scratch / "bare.veldstone", dressed_project()));
    CHECK(skins_in_project(scratch / "bare.veldstone")->empty());
    const auto none = carry_skin_from_project(scratch / "bare.veldstone", "", "", *demo_kit(), 64, {});
    REQUIRE_FALSE(none);
    CHECK(none.error().message.find("no skin") != std::string::npos);
    CHECK_FALSE(carry_skin_from_project(scratch / "bare.veldstone", "Nobody", "", *demo_kit(), 64, {}));
    BaseKit bare = *demo_kit();
    bare.mesh.images.clear(), bare.mesh.materials.clear(), bare.mesh.face_material.clear();
    CHECK_FALSE(carry_skin(bare, nullptr, "bare", *demo_kit(), 64, {}));
}
