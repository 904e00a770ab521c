// Layers of a skin: texels in blocks, blending, what a project keeps, what goes out, brushes.
#include <catch2/catch.hpp>

#include <filesystem>

#include "core/project/skin_out.h"
#include "core/project/store.h"
#include "core/project/things.h"
#include "core/skin/dressed.h"
#include "tests/core/skin_support.h"

using namespace veld;

TEST_CASE("Skin layers: blocks of texels are shared until they are written to, and come back from bytes") {
    TexelBlocks a(300, {1, 2, 3, 4});
    CHECK(a.blank());
    a.set(299, 0, {9, 9, 9, 9});
    TexelBlocks b = a;
    b.set(299, 0, {7, 7, 7, 7});
    b.set(5, 299, {6, 6, 6, 6});
    CHECK(a.at(299, 0) == TexelBytes{9, 9, 9, 9});
    CHECK(b.at(299, 0) == TexelBytes{7, 7, 7, 7});
    CHECK(a.at(5, 299) == TexelBytes{1, 2, 3, 4});
    CHECK(b.used().size() == 2);
    TexelBlocks c;
    REQUIRE(c.read(300, b.fill(), b.used(), b.bytes()));
    CHECK(c.pixels().rgba == b.pixels().rgba);
    CHECK_FALSE(c.read(300, b.fill(), {99}, std::vector<std::uint8_t>(4u * 128 * 128)));
    CHECK_FALSE(c.read(300, b.fill(), b.used(), {1, 2, 3}));
    const TexelBlocks larger = b.resized(600);
    CHECK(larger.at(599, 0) == TexelBytes{7, 7, 7, 7});
    CHECK(larger.at(10, 10) == TexelBytes{1, 2, 3, 4});
}

TEST_CASE("Skin layers: blends of known colours, and amounts, masks and order when they are laid over each other") {
    const Vec3 low(0.5, 0.25, 0.1), high(0.2, 0.8, 0.6);
    CHECK((blended(LayerBlend::Over, low, high, 0.5) - 0.5 * (low + high)).norm() < 1e-12);
    CHECK((blended(LayerBlend::Multiply, low, high, 1) - low.cwiseProduct(high)).norm() < 1e-12);
    CHECK((blended(LayerBlend::Screen, low, high, 1) - Vec3(0.6, 0.85, 0.64)).norm() < 1e-12);
    CHECK((blended(LayerBlend::SoftLight, low, Vec3::Constant(0.5), 1) - low).norm() < 1e-12);  // grey changes nothing
    const Vec3 y(0.2126, 0.7152, 0.0722);
    CHECK(y.dot(blended(LayerBlend::Tone, low, high, 1)) == Approx(y.dot(low)));
    CHECK(y.dot(blended(LayerBlend::Light, low, high, 1)) == Approx(y.dot(high)));
    for (const LayerBlend b : kLayerBlends) {
        CHECK((blended(b, low, high, 0) - low).norm() < 1e-12);
        CHECK(layer_blend_from_name(layer_blend_name(b)) == b);
    }
    auto mask = std::make_shared<TexelBlocks>(8, TexelBytes{255, 0, 0, 0});
    mask->set(1, 1, {0, 0, 0, 0});
    const std::vector<ReadLayer> layers{
        {LayerId::make(), TexelBlocks::of(plain_picture(8, {200, 0, 0, 255})), mask, 0.5, {}},
        {LayerId::make(), TexelBlocks::of(plain_picture(8, {0, 0, 0, 0})), nullptr, 1, {}}};
    Pixels out = plain_picture(8, {1, 1, 1, 255});
    compose(plain_picture(8, {100, 100, 100, 255}), layers, {0, 0, 4, 8}, out);
    CHECK(texel_of(out, 0, 0) == TexelBytes{150, 50, 50, 255});
    CHECK(texel_of(out, 1, 1) == TexelBytes{100, 100, 100, 255});  // masked
    CHECK(texel_of(out, 5, 0) == TexelBytes{1, 1, 1, 255});        // not asked for
    CHECK(texel_of(resized(plain_picture(4, {10, 20, 30, 255}), 16), 7, 7) == TexelBytes{10, 20, 30, 255});
    CHECK(texel_of(resized(plain_picture(16, {10, 20, 30, 255}), 4), 2, 2) == TexelBytes{10, 20, 30, 255});
}

TEST_CASE("Skin layers: a fit's scan is baked into a layer, kept by the project, old when the fit changes") {
    ProjectState s = dressed_project();
    auto layer = layer_of_fit(s, s.subjects[0].id);
    REQUIRE(layer);
    CHECK(layer->from == LayerFrom::Scan);
    CHECK(is_old(s, *layer));
    layer->recipe = {0, 0, false, true, false};
    const auto work = layer_baking(s, *layer, 256);
    REQUIRE(work);
    auto baked = bake_layer(*work, {});
    REQUIRE(baked);
    CHECK(baked->layer.seen > 0.99);
    CHECK_FALSE(is_old(s, baked->layer));
    LayeredSkin skin{.name = "Plain", .size = 256, .layers = {baked->layer}};
    // colours at known places
    const BakeSurface base = *bake_surface(*s.kit, s.kit->mesh.positions);
    const UvTile& tile = base.tiles.front();
    auto pixels = composed_tile(s.kit->mesh, base, tile, skin);
    REQUIRE(pixels);
    std::vector<double> off;
    for (std::size_t i = 0; i < tile.triangles.size(); i += 37) {
        const Index t = tile.triangles[i];
        if (base.part[t] != 0) continue;
        const Vec2 uv = paint_surface().in_tile({t, Vec3::Constant(1.0 / 3)});
        const TexelBytes c = texel_of(*pixels, static_cast<int>(uv.x() * 256), static_cast<int>(uv.y() * 256));
        off.push_back(
            colour_difference(Vec3(c[0], c[1], c[2]) / 255, known_colour(base.place(t, Vec3::Constant(1.0 / 3)))));
    }
    std::sort(off.begin(), off.end());
    CHECK(off[off.size() / 2] < 1.5);  // at 256 texels a texel is several mm
    // kept by the project, with a painted and masked layer
    SkinLayer painted;
    painted.name = "Painted", painted.blend = LayerBlend::Multiply, painted.amount = 0.25;
    auto paint = std::make_shared<TexelBlocks>(256);
    paint->set(3, 200, {1, 2, 3, 200});
    painted.tiles[tile.name].paint = paint;
    painted.tiles[tile.name].mask = std::make_shared<const TexelBlocks>(TexelBlocks(256, {255, 0, 0, 0}));
    skin.layers.push_back(painted);
    REQUIRE(add_skin(s, s.subjects[0].id, skin));
    REQUIRE(add_skin(s, s.subjects[0].id, LayeredSkin{.name = "Plain", .size = 64, .layers = {}}));
    CHECK(s.subjects[0].skins[1]->name == "Plain 2");
    Scratch scratch;
    REQUIRE(save_project(scratch / "p.veldstone", s));
    const auto back = load_project(scratch / "p.veldstone");
    REQUIRE(back);
    const Subject& again = back->state.subjects[0];
    REQUIRE(again.skins.size() == 2);
    CHECK(again.current_skin == 1);
    const LayeredSkin& kept = *again.skins[0];
    REQUIRE(kept.layers.size() == 2);
    CHECK(kept.id == skin.id);
    CHECK(kept.layers[0].recipe == layer->recipe);
    CHECK(kept.layers[0].regions.size() > 10);
    CHECK(kept.layers[0].regions.size() == skin.layers[0].regions.size());
    CHECK_FALSE(is_old(back->state, kept.layers[0]));
    CHECK(kept.layers[0].tiles.at(tile.name).picture->bytes == skin.layers[0].tiles.at(tile.name).picture->bytes);
    CHECK(kept.layers[1].blend == LayerBlend::Multiply);
    CHECK(kept.layers[1].tiles.at(tile.name).paint->at(3, 200) == TexelBytes{1, 2, 3, 200});
    CHECK(kept.layers[1].tiles.at(tile.name).mask->blank());
    // a copy of the subject has skins of its own, of its own fits
    ProjectState copied = back->state;
    REQUIRE(duplicate_thing(copied, again.id));
    REQUIRE(copied.subjects.size() == 2);
    CHECK(copied.subjects[1].skins[0]->id != kept.id);
    CHECK(copied.subjects[1].skins[0]->layers[0].fit == copied.subjects[1].fits[0].id);
    // the fit changes
    auto moved = std::make_shared<Points>(*s.subjects[0].fits[0].positions);
    (*moved)[0].x() += 1;
    s.subjects[0].fits[0].positions = moved;
    CHECK(is_old(s, skin.layers[0]));
    s.subjects[0].fits.clear();
    CHECK_FALSE(is_old(s, skin.layers[0]));
    const auto gone = layer_baking(s, skin.layers[0], 256);
    REQUIRE_FALSE(gone);
    CHECK(gone.error().code == ErrorCode::Gone);
    REQUIRE_FALSE(layer_of_fit(s, s.subjects[0].id));
    REQUIRE(remove_skin(s, skin.id));
    CHECK(s.subjects[0].skins.size() == 1);
}

TEST_CASE("Skin layers: worn by another, written as maps, and as the base wearing it") {
    ProjectState s = dressed_project();
    SkinLayer red;
    red.name = "red", red.from = LayerFrom::Painted;
    const BakeSurface base = *bake_surface(*s.kit, s.kit->mesh.positions);
    red.tiles[base.tiles.front().name].picture = png_of(plain_picture(64, {200, 20, 30, 255}));
    const LayeredSkin skin{.name = "Red", .size = 64, .layers = {red}};
    const auto worn = worn_layer(*s.kit, skin, "Vesper, Red", {});
    REQUIRE(worn);
    CHECK(worn->from == LayerFrom::Worn);
    CHECK(worn->tiles.size() == 1);
    REQUIRE_FALSE(worn_layer(*s.kit, LayeredSkin{.name = "none", .size = 64, .layers = {}}, "x", {}));
    Scratch scratch;
    SkinOut out{s.kit, std::make_shared<const LayeredSkin>(skin), {}, {SkinMap::Colour}, 0, {}};
    out.files.folder = scratch / "maps", out.files.name = "red";
    const auto files = write_skin_maps(out, {});
    REQUIRE(files);
    CHECK(files->size() == base.tiles.size() + 1);
    // a disk that takes no more (here: a folder stands where the second file goes): what is there stays, and is said
    out.files.folder = scratch / "full";
    std::filesystem::create_directories(scratch / ("full/red_colour." + base.tiles[1].name + ".png/x"));
    const auto full = write_skin_maps(out, {});
    REQUIRE_FALSE(full);
    CHECK(full.error().message.find("1 map was written") != std::string::npos);
    CHECK(std::filesystem::exists(scratch / ("full/red_colour." + base.tiles[0].name + ".png")));
    out.maps = {SkinMap::Normal};
    const auto none = write_skin_maps(out, {});
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::BadInput);
    const auto kit = dressed_kit(*s.kit, skin, {});
    REQUIRE(kit);
    // that tile's faces show the new picture, the others theirs
    std::size_t dressed = 0;
    for (std::size_t f = 0; f < kit->mesh.face_count(); ++f) {
        const std::string& was = s.kit->mesh.materials[s.kit->mesh.face_material[f]].name;
        const std::string& now = kit->mesh.materials[kit->mesh.face_material[f]].name;
        if (was == now) continue;
        ++dressed;
        CHECK(now == "skin_" + base.tiles.front().name);
    }
    CHECK(dressed > 1000);
    CHECK(kit->mesh.images.size() <= s.kit->mesh.images.size());  // what nothing wears is left out
    CHECK(kit->mesh.positions == s.kit->mesh.positions);
}

TEST_CASE("Skin brushes: a dab paints what hangs together within its radius, and twice is once") {
    const int size = 512;
    const SeenTiles seen = seen_everywhere(size, {120, 100, 90, 255});
    const SkinSpot nose = at_landmark("pronasale");
    SkinBrushSettings settings;
    settings.radius_mm = 8, settings.hardness = 0.5, settings.colour = {255, 0, 0, 255};
    SkinStroke stroke(paint_surface(), settings, seen, {}, size, {}, nose);
    const auto touched = stroke.dab(nose, 1);
    REQUIRE(touched.size() == 1);
    const auto& [tile, rect] = *touched.begin();
    CHECK_FALSE(rect.empty());
    const TexelBlocks once = stroke.changed().at(tile);
    const Vec2 middle = paint_surface().in_tile(nose);
    CHECK(once.at(static_cast<int>(middle.x() * size), static_cast<int>(middle.y() * size)) ==
          TexelBytes{255, 0, 0, 255});
    CHECK(stroke.dab(nose, 1).empty());
    CHECK(stroke.changed().at(tile).pixels().rgba == once.pixels().rgba);
    // nothing farther away than the radius
    const BakeSurface& base = paint_surface().surface();
    const Vec3 centre = base.place(nose.triangle, nose.shares);
    for (int y = rect.top; y < rect.bottom; ++y) {
        for (int x = rect.left; x < rect.right; ++x) {
            if (once.at(x, y)[3] == 0) continue;
            const SkinSpot place =
                paint_surface().at(paint_surface().tile_of(nose.triangle), Vec2((x + 0.5) / size, (y + 0.5) / size));
            if (place.triangle == kNone) continue;
            CHECK((base.place(place.triangle, place.shares) - centre).norm() < 8.01);
        }
    }
    // half the pressure on top of nothing: half covered
    SkinStroke soft(paint_surface(), settings, seen, {}, size, {}, nose);
    soft.dab(nose, 0.5);
    CHECK(int(soft.changed().at(tile).at(static_cast<int>(middle.x() * size),
                                         static_cast<int>(middle.y() * size))[3]) == Approx(128).margin(1));
    CHECK(soft.dab({}, 1).empty());
}

TEST_CASE("Skin brushes: the closest place is the same when it is looked for from near it") {
    const BakeSurface& base = paint_surface().surface();
    double worst = 0;
    int far = 0, all = 0;
    for (Index t = 0; t < base.triangles.size(); t += 7) {
        if (base.part[t] != 0 || base.mate[t][0] == kNone) continue;
        const Vec3 shares(0.5, 0.3, 0.2), normal = base.normal(t, shares).normalized();
        const Vec3 place = base.place(t, shares) + 0.4 * normal;
        const SkinSpot exact = paint_surface().closest(place, normal);
        const SkinSpot walked = paint_surface().closest_from(place, normal, base.mate[t][0] / 3, 0.9);
        REQUIRE(walked.triangle != kNone);
        const double off = (base.place(walked.triangle, walked.shares) - place).norm() -
                           (base.place(exact.triangle, exact.shares) - place).norm();
        worst = std::max(worst, off);
        far += off > 0.05, ++all;
    }
    CHECK(all > 500);
    CHECK(far <= all / 200);  // between lips and lids another sheet may be nearer than the one that is walked on
    CHECK(worst < 1);
}

TEST_CASE("Skin layers: between its plain look and a stage's a tile has the colour between them") {
    const auto red = std::make_shared<const Pixels>(plain_picture(8, {200, 0, 40, 255}));
    const auto blue = std::make_shared<const Pixels>(plain_picture(8, {100, 0, 240, 255}));
    const Pixels plain = plain_picture(8, {100, 100, 40, 255});
    CHECK(between_stages(plain, {}).rgba == plain.rgba);
    CHECK(texel_of(between_stages(plain, {{red, 0.5}}), 3, 3) == TexelBytes{150, 50, 40, 255});
    CHECK(texel_of(between_stages(plain, {{red, 1}, {blue, 1}}), 3, 3) == TexelBytes{200, 0, 240, 255});
    CHECK(texel_of(between_stages(plain, {{red, 2}}), 3, 3) == TexelBytes{200, 0, 40, 255});
}

TEST_CASE("Skin brushes: over the neck's seam onto the next tile, erase and bring back, mirror, clone and heal") {
    const int size = 512;
    const BakeSurface& base = paint_surface().surface();
    SECTION("a seam") {
        // a border edge between two tiles
        SkinSpot place;
        for (Index t = 0; t < base.triangles.size() && place.triangle == kNone; ++t) {
            for (std::size_t k = 0; k < 3; ++k) {
                const Index mate = base.mate[t][k];
                if (base.part[t] != 0 || mate == kNone) continue;
                if (&paint_surface().tile_of(t) == &paint_surface().tile_of(mate / 3)) continue;
                Vec3 middle = Vec3::Constant(0.5);
                middle[static_cast<Eigen::Index>((k + 2) % 3)] = 0;
                place = {t, middle};
            }
        }
        REQUIRE(place.triangle != kNone);
        SkinBrushSettings settings;
        settings.radius_mm = 12;
        SkinStroke stroke(paint_surface(), settings, seen_everywhere(size, {9, 9, 9, 255}), {}, size, {}, place);
        CHECK(stroke.dab(place, 1).size() == 2);
    }
    SECTION("erase and bring back") {
        const SkinSpot nose = at_landmark("pronasale");
        SkinBrushSettings settings;
        settings.brush = SkinBrush::Erase;
        const SeenTiles seen = seen_everywhere(size, {9, 9, 9, 255});
        SkinStroke erase(paint_surface(), settings, seen, {}, size, {}, nose);
        const std::string tile = erase.dab(nose, 1).begin()->first;
        const Vec2 at = paint_surface().in_tile(nose);
        const int x = static_cast<int>(at.x() * size), y = static_cast<int>(at.y() * size);
        CHECK(erase.changed().at(tile).at(x, y)[0] == 0);
        SkinLayer erased;
        erased.tiles[tile].mask = std::make_shared<const TexelBlocks>(erase.changed().at(tile));
        settings.brush = SkinBrush::Restore;
        SkinStroke back(paint_surface(), settings, seen, erased, size, {}, nose);
        back.dab(nose, 1);
        CHECK(back.changed().at(tile).at(x, y)[0] == 255);
    }
    SECTION("from the other side and from elsewhere") {
        // the left half is green, the right one grey with a lighter forehead
        SeenTiles seen;
        for (const UvTile& tile : base.tiles) {
            Pixels p = plain_picture(size, {100, 100, 100, 255});
            for (const Index t : tile.triangles) {
                if (base.place(t, Vec3::Constant(1.0 / 3)).x() < 0) continue;
                for (int i = 0; i < 400; ++i) {
                    const double u = (i % 20 + 0.5) / 20, v = (i / 20 + 0.5) / 20;
                    if (u + v > 1) continue;
                    const Vec2 at = paint_surface().in_tile({t, Vec3(1 - u - v, u, v)});
                    const auto k = 4 * (static_cast<std::size_t>(at.y() * size) * std::size_t{size} +
                                        static_cast<std::size_t>(at.x() * size));
                    p.rgba[k] = 40, p.rgba[k + 1] = 200;
                }
            }
            seen[tile.name] = std::make_shared<const Pixels>(std::move(p));
        }
        const auto cheek = [&](double x) {
            const Vec3 nose = demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions);
            return paint_surface().closest(nose + Vec3(x, -5, -25), Vec3(x > 0 ? 0.5 : -0.5, 0, 1).normalized());
        };
        const SkinSpot left = cheek(38), right = cheek(-38);
        const auto painted = [&](SkinBrush brush, SkinSpot from) {
            SkinBrushSettings settings;
            settings.radius_mm = 6, settings.brush = brush;
            SkinStroke stroke(paint_surface(), settings, seen, {}, size, from, right);
            stroke.dab(right, 1);
            const Vec2 at = paint_surface().in_tile(right);
            return stroke.changed()
                .at(paint_surface().tile_of(right.triangle).name)
                .at(static_cast<int>(at.x() * size), static_cast<int>(at.y() * size));
        };
        const TexelBytes mirrored = painted(SkinBrush::Mirror, {});
        CHECK(mirrored[1] == 200);
        CHECK(painted(SkinBrush::Clone, left)[1] == 200);
        const TexelBytes healed = painted(SkinBrush::Heal, left);  // in the tone that is here: grey again
        CHECK(std::abs(healed[0] - 100) < 8);
        CHECK(std::abs(healed[1] - 100) < 8);
    }
}
