// The Skin station in the real window: bake a layer, look at it, paint on the model and on its UVs, write it.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QMenu>
#include <QSlider>
#include <QTreeWidget>

#include "app/stations/skin/skin_controller.h"
#include "core/io/image.h"
#include "tests/app/window_fixture.h"
#include "tests/support/dressed_subject.h"

using namespace veld;

namespace {

struct SkinFixture : Fixture {
    SkinFixture() {
        begin_with("one colour", [] {
            return dressed_subject("Vesper", [](const Vec3&) { return Colour{150, 120, 100, 255}; });
        });
        station("station_skin");
        REQUIRE(wait_until([&] { return skins().shown() && !skins().composing(); }));
    }
    SkinController& skins() { return window->skins(); }
    const ProjectState& state() { return window->session().state(); }
    std::shared_ptr<const LayeredSkin> skin() { return skins().skin(); }
    void small() {
        find<QPushButton>("skin_paint_layer")->click();
        skins().set_size(256);
        skins().remove_layer();
        settle();
    }
    void bake() {
        small();
        find<QPushButton>("skin_bake_fit")->click();
        REQUIRE(wait_until([&] { return skin() && !skin()->layers.empty() && !skin()->layers[0].tiles.empty(); }));
        settle();
    }
    void settle() {
        REQUIRE(
            wait_until([&] { return !skins().composing() && skins().shown() && skins().shown()->skin == skin(); }));
        QTest::qWait(50);
    }
    void undo() {
        QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier);
        QTest::qWait(30);
    }
    QColor seen_at(const SkinSpot& place) {
        const auto& shown = skins().shown();
        const Pixels& p = *shown->seen.at(shown->surface->tile_of(place.triangle).name);
        const Vec2 at = shown->surface->in_tile(place);
        const std::size_t i = 4 * (static_cast<std::size_t>(at.y() * p.height) * static_cast<std::size_t>(p.width) +
                                   static_cast<std::size_t>(at.x() * p.width));
        return {p.rgba[i], p.rgba[i + 1], p.rgba[i + 2]};
    }
    SkinSpot nose() {
        return skins().shown()->surface->closest(demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions),
                                                 Vec3::UnitZ());
    }
    void fold(int i) {
        find<Sections>("skin_sections")->set_current(i);
        QTest::qWait(50);
    }
};

}  // namespace

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
    f.fold(2);
    CHECK(f.find<QLabel>("skin_uv_said")->text().contains("Islands"));
    CHECK(f.find<QTreeWidget>("skin_regions")->topLevelItemCount() > 5);
    f.find<QCheckBox>("skin_edges")->click();
    CHECK(f.skins().edges());
    f.fold(3);
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

TEST_CASE("Skin window: without a fit it says what to do") {
    Fixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    f.station("station_skin");
    CHECK_FALSE(f.find<QPushButton>("skin_bake_fit")->isEnabled());
    CHECK(f.find<QLabel>("skin_said")->text().contains("fit"));
}
