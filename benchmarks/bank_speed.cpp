// A bank of 500 morphs: opening its project beyond reading the bytes, and one step of a slider with ten morphs on,
// through document, panels and packed mesh, and the picture of it (software GL under Xvfb).
// Usage: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bin/bank_speed KIT_FOLDER
#include <QApplication>
#include <QSurfaceFormat>
#include <chrono>
#include <cstdio>
#include <filesystem>

#include "app/stations/bank/bank_controller.h"
#include "app/views/view_set.h"
#include "app/window/main_window.h"
#include "core/base/file.h"
#include "core/morph/morph_file.h"
#include "core/project/bank.h"
#include "core/project/store.h"

using namespace veld;

namespace {

double ms_since(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

double middle(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

// Every other one moves the head, the rest some of the body: 5,000 to 20,000 vertices.
Morph some_morph(const BaseKit& kit, int k) {
    Points shape = kit.mesh.positions;
    const double from = k % 2 ? 1450 : 100.0 * (k % 11), to = k % 2 ? 1800 : from + 450;
    for (Vec3& p : shape) {
        if (p.y() > from && p.y() < to) p += Vec3(std::sin(p.y() / 50 + k), std::cos(p.x() / 40), 0.3 * k / 500.0);
    }
    Morph m = *make_morph(kit, shape, "morph " + std::to_string(k));
    m.group = "group " + std::to_string(k % 8);
    return m;
}

}  // namespace

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication app(argc, argv);
    auto kit = read_base_kit(argc > 1 ? argv[1] : "demo/kit");
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    const std::string path = (std::filesystem::temp_directory_path() / "bank_speed.veldstone").string();
    std::filesystem::remove(path);
    ProjectState state = new_project(std::make_shared<BaseKit>(*kit));
    std::size_t largest = 0, all = 0;
    for (int k = 0; k < 500; ++k) {
        Morph m = some_morph(*kit, k);
        const std::size_t size = morph_bytes(m).size();
        largest = std::max(largest, size), all += size;
        add_morph(state, std::move(m), k % 50 == 0 ? 0.5 : 0);  // ten are on
    }
    if (auto ok = save_project(path, state); !ok) return std::printf("%s\n", ok.error().message.c_str()), 1;
    std::printf("500 morphs, %.0f MB in all, the largest %.2f MB\n", all / 1e6, largest / 1e6);
    std::vector<double> opening, reading, kit_only;
    for (int i = 0; i < 3; ++i) {
        auto start = std::chrono::steady_clock::now();
        const auto bytes = read_file(path);
        const std::string copy(bytes->view());
        reading.push_back(ms_since(start));
        start = std::chrono::steady_clock::now();
        (void)read_base_kit(kit->folder);
        kit_only.push_back(ms_since(start));
        start = std::chrono::steady_clock::now();
        const auto loaded = load_project(path);
        opening.push_back(ms_since(start));
        if (!loaded || loaded->state.bank.size() != 500) return std::printf("it did not open\n"), 1;
    }
    std::printf(
        "open: %.0f ms; of it the kit %.0f ms, the bytes read and copied once %.0f ms; work beyond reading %.0f ms\n",
        middle(opening), middle(kit_only), middle(reading), middle(opening) - middle(kit_only) - middle(reading));

    MainWindow window;
    window.answer = [](const QString&, const QStringList&) { return 0; };
    window.show();
    window.open_project(QString::fromStdString(path));
    window.go_to(Station::Bank);
    for (int i = 0; i < 30; ++i) QApplication::processEvents(QEventLoop::AllEvents, 20);
    std::vector<double> mix, own, picture;
    for (int i = 0; i < 60; ++i) {
        auto start = std::chrono::steady_clock::now();
        const Points shape = mixed_shape(window.session().state());
        mix.push_back(ms_since(start));
        start = std::chrono::steady_clock::now();
        window.bank().slide(0, 0.01 * i + 0.005, true);
        own.push_back(ms_since(start));
        start = std::chrono::steady_clock::now();
        window.views().result_view()->repaint();
        picture.push_back(ms_since(start));
        QApplication::processEvents();
    }
    std::printf(
        "slide with ten on: mix %.2f ms, of all our own work from slider to packed mesh %.1f ms; the picture by "
        "software GL %.1f ms\n",
        middle(mix), middle(own), middle(picture));
    std::filesystem::remove(path);
    return 0;
}
