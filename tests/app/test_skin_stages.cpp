// A skin's stages in the window: made, worked on, seen in Prove.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QTimer>

#include "app/stations/prove/prove_controller.h"
#include "tests/app/skin_fixture.h"

using namespace veld;

TEST_CASE("Skin window: a stage is made, painted in, left and taken away") {
    SkinFixture f;
    f.bake();
    QTimer::singleShot(0, f.window.get(), [] {
        QWidget* card = QApplication::activeModalWidget();
        REQUIRE(card);
        card->findChild<QLineEdit*>("stage_name")->setText("Flushed");
        auto* expression = card->findChild<QComboBox*>("stage_expression");
        expression->setCurrentIndex(expression->findData("smile"));
        CHECK(card->findChild<QComboBox*>("stage_fit")->count() >= 1);
        static_cast<QDialog*>(card)->accept();
    });
    f.window->findChild<QAction*>("skin_stage_new")->trigger();
    REQUIRE(f.skin()->stages.size() == 1);
    CHECK(f.skin()->stages[0].name == "Flushed");
    CHECK(f.skin()->stages[0].expression == "smile");
    CHECK(f.skins().stage() == "Flushed");
    auto* stage = f.find<QComboBox>("skin_stage");
    CHECK(stage->currentText() == "Flushed");
    f.settle();
    f.find<QPushButton>("skin_paint_layer")->click();
    REQUIRE(f.skin()->layers.size() == 2);
    CHECK(f.skin()->layers[1].stage == "Flushed");
    CHECK(f.find<QCheckBox>("skin_of_stage")->isChecked());
    // left: its layer is not seen; what is painted now is of no stage
    f.settle();
    stage->setCurrentIndex(0);
    emit stage->activated(0);
    CHECK(f.skins().stage().empty());
    f.settle();
    CHECK_FALSE(f.find<QCheckBox>("skin_of_stage")->isEnabled());
    stage->setCurrentIndex(1);
    emit stage->activated(1);
    f.window->findChild<QAction*>("skin_stage_remove")->trigger();
    CHECK(f.skin()->stages.empty());
    CHECK(f.skin()->layers.size() == 1);
    f.undo();
    CHECK(f.skin()->stages.size() == 1);
}

TEST_CASE("Skin window: in Prove a stage comes in with its expression") {
    SkinFixture f;
    f.small();
    ProjectState next = f.state();
    LayeredSkin skin;
    skin.name = "Skin", skin.size = 64;
    const auto layer = [&](std::uint8_t red, const std::string& stage) {
        SkinLayer out;
        out.name = "one colour", out.from = LayerFrom::Worn, out.stage = stage;
        Pixels one;
        one.width = one.height = 64;
        for (int i = 0; i < 64 * 64; ++i) one.rgba.insert(one.rgba.end(), {red, 100, 100, 255});
        for (const UvTile& tile : f.skins().shown()->surface->surface().tiles)
            out.tiles[tile.name].picture = std::make_shared<Image>(Image{"one.png", "image/png", encode_png(one)});
        return out;
    };
    skin.layers = {layer(100, {}), layer(200, "Flushed")};
    skin.stages = {{"Flushed", "smile", {}}};
    next.current()->skins.clear();
    REQUIRE(add_skin(next, next.current()->id, skin));
    f.window->session().change("skin", std::move(next));
    f.settle();
    f.skins().choose_stage("Flushed");  // what is worked on there is not what is worn elsewhere
    REQUIRE(wait_until([&] { return !f.skins().composing() && f.skins().shown()->stage == "Flushed"; }));
    f.station("station_prove");
    ProveController& prove = f.window->prove();
    prove.select("smile");
    auto& view = f.window->views().view(ViewId::Result);
    const std::string tile = f.skins().shown()->surface->tile_of(f.nose().triangle).name;
    const auto red = [&] {
        const UvTile& of = *f.skins().shown()->tile(tile);
        if (view.layers().empty()) return -1;
        const QImage& image = view.layers()[0].mesh->images[static_cast<std::size_t>(of.image)];
        return image.pixelColor(image.width() / 2, image.height() / 2).red();
    };
    prove.set_at(prove.last());
    REQUIRE(wait_until([&] { return prove.ready(); }, 60000));
    REQUIRE(wait_until([&] { return red() == 200; }));
    prove.set_at(0.5 * prove.last());
    REQUIRE(wait_until([&] { return red() == 150; }));
    prove.set_at(0);
    REQUIRE(wait_until([&] { return red() == 100; }));
    prove.select("rest");
    CHECK(wait_until([&] { return red() == 100; }));
}
