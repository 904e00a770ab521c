#pragma once
// The window in the station Skin, with a subject of one colour.
#include <QPushButton>

#include "app/stations/skin/skin_controller.h"
#include "app/views/viewport.h"
#include "app/widgets.h"
#include "tests/app/window_fixture.h"
#include "tests/support/dressed_subject.h"

namespace veld {

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

}  // namespace veld
