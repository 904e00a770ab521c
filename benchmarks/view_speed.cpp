// Frame times of a viewport under the display that is there (software GL under Xvfb): while the
// camera moves (no smoothing) and the one smooth frame when it rests.
// Usage: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bin/view_speed [THOUSANDS_OF_TRIANGLES | KIT]
#include <QApplication>
#include <QElapsedTimer>
#include <QSurfaceFormat>
#include <algorithm>
#include <cmath>
#include <cstdio>

#include "app/scene/openness_baker.h"
#include "app/views/viewport.h"
#include "core/kit/kit_surface.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

// As the window shows a base: with its hollows dark, eyes and lashes as such.
std::shared_ptr<DisplayMesh> display_of(const BaseKit& kit) {
    auto out = std::make_shared<DisplayMesh>(kit.mesh);
    out->set_kinds(surface_kinds(kit));
    out->set_openness(bake_base(kit, kit.mesh.positions, {}).open);
    return out;
}

}  // namespace

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(argc, argv);
    Camera c;
    CameraLink camera;
    Viewport view("speed", &camera);
    view.resize(800, 570);
    std::shared_ptr<DisplayMesh> shown;
    std::size_t triangles = 0;
    if (const double thousands = argc > 1 ? std::atof(argv[1]) : 1000; thousands > 0) {
        const int n = static_cast<int>(std::sqrt(thousands * 500));
        const Mesh mesh =
            sheet(n, 400, [](double x, double y) { return 25 * std::sin(0.04 * x) * std::cos(0.05 * y); });
        shown = std::make_shared<DisplayMesh>(mesh);
        triangles = mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()};
        c.frame(Vec3::Zero(), 200);
    } else {
        const auto kit = read_base_kit(argv[1]);
        if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
        shown = display_of(*kit);
        triangles = kit->triangulation.triangles.size();
        c.frame(Vec3(0, 1620, 0), 190);
    }
    view.set_layers({{shown, {}, QColor(180, 170, 160), Shading::Clay, false, 1}});
    camera.set(c);
    view.show();
    std::vector<double> moving;
    for (int i = 0; i < 24; ++i) {
        c.yaw = 4 * i;
        camera.set(c);
        view.repaint();
        QApplication::processEvents();
        if (i > 3) moving.push_back(view.last_frame_ms());
    }
    QElapsedTimer wait;
    wait.start();
    while (wait.elapsed() < 900) QApplication::processEvents(QEventLoop::AllEvents, 20);
    view.grabFramebuffer();
    std::sort(moving.begin(), moving.end());
    std::printf("%u triangles: moving median %.1f ms a frame, at rest %.0f ms once\n",
                static_cast<unsigned>(triangles), moving[moving.size() / 2], view.last_frame_ms());
}
