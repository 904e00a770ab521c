// One update of a stroke on the kit's head, in its parts and in a window of the size it has on the bench:
// what the brush reaches and moves, the distances that the colours need, the picture (software GL under Xvfb).
// Usage: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bin/touch_speed KIT_FOLDER
#include <QApplication>
#include <QSurfaceFormat>
#include <algorithm>
#include <chrono>
#include <cstdio>

#include "app/views/viewport.h"
#include "core/touchup/brush.h"

using namespace veld;

namespace {

double ms_since(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

double middle(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

}  // namespace

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(argc, argv);
    const auto kit = read_base_kit(argc > 1 ? argv[1] : "demo/kit");
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    const TouchBase base(*kit);
    const SourceSurface source = prepare_source(kit->mesh, {});
    auto display = std::make_shared<DisplayMesh>(kit->mesh);
    CameraLink camera;
    Viewport view("speed", &camera);
    view.resize(396, 570);
    view.set_layers({{display, {}, QColor(180, 170, 160), Shading::Colours, false, 1}});
    Camera c;
    const Vec3 nose = kit->landmarks.at("pronasale").at(kit->mesh.positions);
    c.frame(nose, 150);
    camera.set(c);
    view.show();
    for (int i = 0; i < 20; ++i) QApplication::processEvents(QEventLoop::AllEvents, 20);
    for (const double radius : {6.0, 12.0, 40.0}) {
        Points now = kit->mesh.positions;
        BrushSettings settings;
        settings.brush = Brush::Inflate, settings.radius_mm = radius, settings.strength = 0.1;
        std::vector<double> brush, distance, picture, all;
        std::size_t reached_count = 0;
        for (int i = 0; i < 60; ++i) {
            const auto start = std::chrono::steady_clock::now();
            const TouchPlace place = touch_place(base, now, nose + Vec3(0.5 * (i - 30), 25, 300), -Vec3::UnitZ());
            const auto reached = brush_reach(base, now, place, settings, Vec3::UnitZ(), nullptr);
            dab(base, reached, settings, 1, {}, now);
            brush.push_back(ms_since(start));
            VertexIndices moved;
            std::vector<Colour> colours;
            for (const Touched& t : reached) {
                moved.push_back(t.vertex);
                const double d = source.closest(now[t.vertex], 20, nullptr).distance;
                colours.push_back({static_cast<std::uint8_t>(std::min(255.0, 100 * d)), 90, 90, 255});
            }
            distance.push_back(ms_since(start) - brush.back());
            display->move_vertices(now, moved);
            display->recolour(moved, colours);
            view.redraw_quickly();
            view.repaint();
            QApplication::processEvents();
            all.push_back(ms_since(start));
            picture.push_back(all.back() - brush.back() - distance.back());
            reached_count = std::max(reached_count, reached.size());
        }
        std::printf(
            "radius %2.0f mm, up to %4zu vertices: brush %.2f ms, distances %.2f ms, picture %.2f ms, all %.2f ms "
            "(%.0f updates a second)\n",
            radius, reached_count, middle(brush), middle(distance), middle(picture), middle(all), 1000 / middle(all));
    }
}
