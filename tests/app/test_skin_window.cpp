// The Skin station in the real window: bake a layer, look at it, paint on the model and on its UVs, write it.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QSlider>
#include <QTimer>
#include <QTreeWidget>

#include "app/stations/skin/skin_controller.h"
#include "core/io/image.h"
#include "core/project/records/photo_record.h"
#include "tests/app/skin_fixture.h"

using namespace veld;

TEST_CASE("Skin window: a fit is baked into a layer, seen, changed, taken back and kept") {
    SkinFixture f;
    CHECK_FALSE(f.skin());
    const QColor own = f.seen_at(f.nose());
    f.bake();
    REQUIRE(f.skin()->layers.size() == 1);
    CHECK(f.skin()->layers[0].seen > 0.95);
    const QColor baked = f.seen_at(f.nose());
    CHECK(std::abs(baked.red() - 150) < 4);
    CHECK(std::abs(baked.blue() - 100) < 4);
    CHECK(baked != own);
    CHECK(f.find<QTreeWidget>("skin_layers")->topLevelItem(0)->text(1).contains("%"));
    // the fit wears it elsewhere too
    f.station("station_prove");
    auto& view = f.window->views().view(ViewId::Result);
    const auto wears = [&](int size) {
        if (view.layers().empty()) return false;
        const auto& images = view.layers()[0].mesh->images;
        return std::any_of(images.begin(), images.end(), [&](const QImage& i) { return i.width() == size; });
    };
    CHECK(wait_until([&] { return wears(256); }));
    f.station("station_skin");
    f.settle();
    // half of it
    f.find<QSlider>("skin_amount")->setValue(50);
    f.settle();
    const QColor half = f.seen_at(f.nose());
    CHECK(std::abs(half.red() - (own.red() + baked.red()) / 2) < 4);
    f.undo();
    f.settle();
    CHECK(f.seen_at(f.nose()) == baked);
    // its recipe changed: to be baked again, and said so
    f.find<QCheckBox>("skin_fill_mirrored")->click();
    f.find<QSlider>("skin_shine_out")->setValue(40);
    CHECK(f.skin()->layers[0].recipe.shine_out == Approx(0.4));
    CHECK(f.skins().old(f.skin()->layers[0]));
    CHECK(f.find<QPushButton>("skin_bake_old")->isVisible());
    f.find<QPushButton>("skin_bake_old")->click();
    REQUIRE(wait_until([&] { return !f.skins().baking() && !f.skins().old(f.skin()->layers[0]); }));
    f.settle();
    // hidden by its box: the base's own again
    auto* item = f.find<QTreeWidget>("skin_layers")->topLevelItem(0);
    item->setCheckState(0, Qt::Unchecked);
    REQUIRE(wait_until([&] { return !f.skin()->layers[0].shown; }));
    f.settle();
    const QColor again = f.seen_at(f.nose());  // `own` was looked at in larger texels
    CHECK(std::abs(again.red() - own.red()) + std::abs(again.blue() - own.blue()) < 16);
    CHECK(std::abs(again.red() - baked.red()) + std::abs(again.blue() - baked.blue()) > 16);
    REQUIRE(f.save_to(f.scratch / "kept.veldstone"));
    const auto back = load_project(f.scratch / "kept.veldstone");
    REQUIRE(back);
    CHECK(back->state.subjects[0].skin()->layers[0].tiles.size() >= 1);
    CHECK_FALSE(back->state.subjects[0].skin()->layers[0].shown);
    CHECK(back->state.subjects[0].skin()->layers[0].recipe.shine_out == Approx(0.4));
}

TEST_CASE("Skin window: strokes on the model and on the UVs paint a layer of their own, and are taken back") {
    SkinFixture f;
    f.small();
    f.fold(1);
    auto& view = f.window->views().view(ViewId::Result);
    const SkinSpot nose = f.nose();
    const BakeSurface& base = f.skins().shown()->surface->surface();
    const QPoint at = view.screen_of(base.place(nose.triangle, nose.shares)).toPoint();
    const QColor before = f.seen_at(nose);
    QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, at);
    QTest::mouseMove(&view, at + QPoint(4, 2));
    QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, at + QPoint(4, 2));
    REQUIRE(wait_until([&] { return f.skin() && f.skin()->layers.size() == 1; }, 5000));
    f.settle();
    CHECK(f.skin()->layers[0].from == LayerFrom::Painted);
    // away and back: the brush is still at hand
    f.station("station_prove");
    f.station("station_skin");
    CHECK(view.gesture() == Gesture::Touch);
    f.settle();
    const QColor painted = f.seen_at(nose);
    CHECK(std::abs(painted.red() - 201) < 12);
    CHECK(painted != before);
    // Alt and click picks the colour
    QTest::mousePress(&view, Qt::LeftButton, Qt::AltModifier, at);
    QTest::mouseRelease(&view, Qt::LeftButton, Qt::AltModifier, at);
    CHECK(f.find<QPushButton>("skin_colour")->text() == painted.name());
    f.undo();
    REQUIRE(wait_until([&] { return f.skin()->layers.empty(); }, 5000));
    f.settle();
    CHECK(f.seen_at(nose) == before);
    // on the tile
    PhotoView* uv = f.window->views().photo_view();
    const Vec2 in = f.skins().shown()->surface->in_tile(nose);
    f.skins().set_tile(f.skins().shown()->surface->tile_of(nose.triangle).name);
    QTest::qWait(50);
    const QPoint pixel = uv->screen_of({in.x() * 256, in.y() * 256}).toPoint();
    QTest::mousePress(uv, Qt::LeftButton, Qt::NoModifier, pixel);
    QTest::mouseRelease(uv, Qt::LeftButton, Qt::NoModifier, pixel);
    REQUIRE(wait_until([&] { return f.skin()->layers.size() == 1; }, 5000));
    f.settle();
    CHECK(f.seen_at(nose) != before);
    // erased from it again
    f.skins().select(f.skin()->layers[0].id);
    auto* kind = f.find<QComboBox>("skin_brush");
    kind->setCurrentIndex(static_cast<int>(SkinBrush::Erase));
    emit kind->activated(static_cast<int>(SkinBrush::Erase));
    f.settle();
    QTest::mousePress(uv, Qt::LeftButton, Qt::NoModifier, pixel);
    QTest::mouseRelease(uv, Qt::LeftButton, Qt::NoModifier, pixel);
    f.settle();
    CHECK(f.seen_at(nose) == before);
}

TEST_CASE("Skin window: skins of a subject, ways of looking, and maps out") {
    SkinFixture f;
    f.bake();
    const auto act = [&](const char* name) {
        auto* action = f.window->findChild<QAction*>(name);
        REQUIRE(action);
        action->trigger();
        f.settle();
    };
    act("skin_copy");
    CHECK(f.state().subjects[0].skins.size() == 2);
    CHECK(f.find<QComboBox>("skin_which")->count() == 2);
    f.skins().rename_skin("Weathered");
    CHECK(f.skin()->name == "Weathered");
    act("skin_remove");
    CHECK(f.state().subjects[0].skins.size() == 1);
    for (const SkinLook look : {SkinLook::Layer, SkinLook::Origin, SkinLook::Checker, SkinLook::Skin}) {
        f.skins().set_look(look);
        REQUIRE(wait_until([&] { return f.skins().shown()->look == look; }));
        CHECK_FALSE(f.skins().uv_picture().isNull());
    }
    f.fold(3);
    CHECK(f.find<QLabel>("skin_uv_said")->text().contains("Islands"));
    CHECK(f.find<QTreeWidget>("skin_regions")->topLevelItemCount() > 5);
    f.find<QCheckBox>("skin_edges")->click();
    CHECK(f.skins().edges());
    f.fold(4);
    f.window->session().files().answer = [&](const FileAsked& asked) {
        return QStringList(
            QString::fromStdString(asked.what == FileQuestion::Folder ? f.scratch / "maps" : f.scratch / "worn.glb"));
    };
    f.find<QPushButton>("skin_write")->click();
    REQUIRE(wait_until([&] { return std::filesystem::exists(f.scratch / "maps/Vesper_Skin_maps.json"); }));
    CHECK(std::filesystem::exists(f.scratch / "maps/Vesper_Skin_colour.1001.png"));
    CHECK(std::filesystem::exists(f.scratch / "maps/Vesper_Skin_normal.1001.png"));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    f.find<QPushButton>("skin_glb")->click();
    REQUIRE(wait_until([&] { return std::filesystem::exists(f.scratch / "worn.glb"); }));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
}

TEST_CASE("Skin window: relief in the light, maps alone, and held against another skin along a line") {
    SkinFixture f;
    f.bake();
    auto& view = f.window->views().view(ViewId::Result);
    auto* look = f.find<QComboBox>("skin_look");
    const auto choose = [&](const QString& entry, SkinLook wanted) {
        const int i = look->findText(entry);
        REQUIRE(i >= 0);
        look->setCurrentIndex(i);
        emit look->activated(i);
        REQUIRE(wait_until([&] { return f.skins().shown()->look == wanted && !f.skins().composing(); }));
        QTest::qWait(80);
        CHECK(look->currentText() == entry);
    };
    choose("Relief on clay", SkinLook::Relief);
    REQUIRE(view.layers().size() == 1);
    CHECK(view.layers()[0].relief);
    CHECK(view.layers()[0].shading == Shading::Clay);
    const auto& mesh = *view.layers()[0].mesh;
    REQUIRE_FALSE(mesh.relief.empty());
    for (const auto& [image, normals] : mesh.relief) {
        const QImage& map = mesh.images[normals];
        CHECK(map.pixelColor(map.width() / 2, map.height() / 2).blue() > 200);  // out of the surface
    }
    choose("Displacement", SkinLook::Heights);
    CHECK_FALSE(view.layers()[0].relief);
    CHECK(view.layers()[0].mesh->relief.empty());
    // no paint goes onto a map
    f.fold(1);
    const QPoint middle =
        view.screen_of(demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions)).toPoint();
    QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, middle);
    QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, middle);
    CHECK(f.skin()->layers.size() == 1);
    choose("All layers", SkinLook::Skin);

    f.fold(2);
    auto* against = f.find<QComboBox>("skin_against");
    CHECK_FALSE(f.find<QSlider>("skin_wipe")->isEnabled());
    against->setCurrentIndex(1);
    emit against->activated(1);
    REQUIRE(wait_until([&] { return view.layers().size() == 2; }));
    f.find<QSlider>("skin_wipe")->setValue(30);
    QTest::qWait(50);
    CHECK(view.layers()[0].to == 0.3);
    CHECK(view.layers()[1].from == 0.3);
    CHECK(view.layers()[0].mesh != view.layers()[1].mesh);
    // without the layer it is the base's own
    const auto& other = f.skins().shown_against();
    REQUIRE(other);
    const std::string tile = f.skins().shown()->surface->tile_of(f.nose().triangle).name;
    CHECK(other->seen.at(tile)->rgba != f.skins().shown()->seen.at(tile)->rgba);
    against->setCurrentIndex(0);
    emit against->activated(0);
    REQUIRE(wait_until([&] { return view.layers().size() == 1; }));
    CHECK(view.layers()[0].from == 0);
}

TEST_CASE("Skin window: a layer in one region, another tone, a skin of another project, a kit with the skin") {
    SkinFixture f;
    f.bake();
    REQUIRE(save_project(f.scratch / "other.veldstone", f.state()));
    f.window->session().files().answer = [&](const FileAsked& asked) {
        return QStringList(QString::fromStdString(asked.what == FileQuestion::Folder ? f.scratch / "kit"
                                                                                     : f.scratch / "other.veldstone"));
    };
    auto* menu = f.find<QPushButton>("skin_only_in")->menu();
    emit menu->aboutToShow();
    const auto pick = [&](QMenu* of, const QString& text) {
        for (QAction* a : of->actions()) {
            if (a->text() == text) return a->trigger();
        }
        FAIL("no entry " << text.toStdString());
    };
    pick(menu, "Nose");
    REQUIRE(wait_until([&] { return f.skin()->layers[0].tiles.begin()->second.mask != nullptr; }));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    f.settle();
    const QColor nose = f.seen_at(f.nose());
    CHECK(std::abs(nose.red() - 150) < 6);
    pick(menu, "Everywhere");
    REQUIRE(wait_until([&] { return f.skin()->layers[0].tiles.begin()->second.mask == nullptr; }));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));

    auto* wear = f.find<QPushButton>("skin_wear")->menu();
    emit wear->aboutToShow();
    wear->findChild<QAction*>("skin_wear_project")->trigger();
    REQUIRE(wait_until([&] { return f.skin()->layers.size() == 2; }));
    CHECK(f.skin()->layers[1].from == LayerFrom::Worn);
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    f.settle();
    // another skin of the project as the tone that a layer is brought to
    f.window->findChild<QAction*>("skin_copy")->trigger();
    f.settle();
    f.skins().select(f.skin()->layers[0].id);
    auto* like = f.find<QComboBox>("skin_tone_like");
    REQUIRE(like->count() == 4);
    emit like->activated(3);
    CHECK(f.skin()->layers[0].recipe.tone_like.skin == f.state().subjects[0].skins[0]->id);
    CHECK(f.skin()->layers[0].recipe.tone == 1);
    CHECK(f.skins().old(f.skin()->layers[0]));
    f.fold(4);
    f.find<QPushButton>("skin_kit")->click();
    REQUIRE(wait_until([&] { return std::filesystem::exists(f.scratch / "kit/figure.json"); }));
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
}

TEST_CASE("Skin window: a photograph beside the model, which is seen through its camera") {
    Fixture f;
    f.begin_with("one photograph", [] {
        ProjectState s = dressed_subject("Vesper", [](const Vec3&) { return Colour{150, 120, 100, 255}; });
        Pixels grey;
        grey.width = 120, grey.height = 160, grey.rgba.assign(4 * 120 * 160, 128);
        PhotoSet set;
        set.photos = std::make_shared<const std::vector<Image>>(
            std::vector<Image>{{"front.png", "image/png", encode_png(grey)}});
        FitRecord& fit = s.subjects[0].fits[0];
        PhotoRecord record;
        PhotoCamera camera;
        camera.width = 120, camera.height = 160, camera.focal = 200, camera.centre = {60, 80};
        record.photos.resize(1);
        record.photos[0].camera = camera;
        record.solved = fit.positions;
        record.seen_by.assign(fit.positions->size(), 1);
        fit.photo = std::make_shared<const PhotoRecord>(record);
        fit.photo_set_id = set.id;
        s.subjects[0].photo_sets.push_back(std::move(set));
        return s;
    });
    f.station("station_skin");
    SkinController& skins = f.window->skins();
    REQUIRE(wait_until([&] { return skins.shown() && !skins.composing(); }));
    f.find<Sections>("skin_sections")->set_current(2);
    auto* beside = f.find<QComboBox>("skin_beside");
    REQUIRE(beside->count() == 2);
    CHECK(beside->itemText(1) == "front.png");
    emit beside->activated(1);
    QTest::qWait(80);
    CHECK(f.window->views().camera().camera().photo);
    REQUIRE(f.window->views().photo_view());
    CHECK(f.window->views().photo_view()->isVisible());
    // home leaves it
    f.window->views().frame_home();
    Camera home = f.window->views().camera().camera();
    home.photo.reset();
    f.window->views().camera().set(home);
    QTest::qWait(50);
    CHECK(skins.photo() == -1);
    emit beside->activated(1);
    QTest::qWait(50);
    f.station("station_prove");
    CHECK_FALSE(f.window->views().camera().camera().photo);
}

TEST_CASE("Skin window: without a fit it says what to do") {
    Fixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    f.station("station_skin");
    CHECK_FALSE(f.find<QPushButton>("skin_bake_fit")->isEnabled());
    CHECK(f.find<QLabel>("skin_said")->text().contains("fit"));
}
