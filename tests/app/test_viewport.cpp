// One view alone: strokes, outlines, lines.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QDropEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QStandardPaths>
#include <QTest>
#include <QToolButton>
#include <QTreeWidget>
#include <QUrl>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/deliver/deliver_panel.h"
#include "app/views/viewport.h"
#include "core/io/mesh_file.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

using namespace veld;

TEST_CASE("Viewport: strokes, outlines and lines come as rays and clip places, the pen's pressure counts") {
    CameraLink link;
    Camera c;
    c.frame(Vec3(0, 1600, 0), 150);
    link.set(c);
    Viewport view("t", &link);
    view.resize(400, 300);
    view.show();
    REQUIRE(QTest::qWaitForWindowExposed(&view));
    std::vector<Ray> stroke;
    std::vector<Vec2> outline;
    std::pair<Ray, Ray> line;
    int ended = 0;
    QObject::connect(&view, &Viewport::stroke_begun, &view,
                     [&](const Ray& r, double, Qt::KeyboardModifiers) { stroke = {r}; });
    QObject::connect(&view, &Viewport::stroke_moved, &view, [&](const Ray& r, double) { stroke.push_back(r); });
    QObject::connect(&view, &Viewport::stroke_ended, &view, [&] { ++ended; });
    QObject::connect(&view, &Viewport::outline_drawn, &view,
                     [&](const std::vector<Vec2>& o, Qt::KeyboardModifiers) { outline = o; });
    QObject::connect(&view, &Viewport::line_drawn, &view, [&](const Ray& a, const Ray& b) { line = {a, b}; });
    const auto drag = [&](QPoint from, QPoint to) {
        QTest::mousePress(&view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i) QTest::mouseMove(&view, from + (to - from) * i / 10);
        QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    };
    view.set_gesture(Gesture::Stroke);
    view.set_brush(4);
    drag({100, 150}, {200, 150});
    REQUIRE(stroke.size() > 5);
    REQUIRE(ended == 1);
    const Vec3 first = stroke.front().origin + c.distance * stroke.front().direction;
    REQUIRE(std::abs(first.y() - 1600) < 2);
    REQUIRE(first.x() < 0);
    view.set_gesture(Gesture::Rectangle);
    drag({100, 75}, {300, 225});
    REQUIRE(outline.size() == 4);
    REQUIRE(outline[0].x() == Approx(-0.5));
    REQUIRE(outline[0].y() == Approx(0.5));
    REQUIRE(outline[2].x() == Approx(0.5));
    // the clip matrix says the same as the camera's own projection
    const auto m = view.clip_matrix();
    const Vec3 p(20, 1640, 30);
    Eigen::Vector4d clip;
    for (int r = 0; r < 4; ++r)
        clip[r] = m[static_cast<std::size_t>(4 * r)] * p.x() + m[static_cast<std::size_t>(4 * r + 1)] * p.y() +
                  m[static_cast<std::size_t>(4 * r + 2)] * p.z() + m[static_cast<std::size_t>(4 * r + 3)];
    const QPointF at = view.screen_of(p);
    REQUIRE((clip.x() / clip.w() + 1) * 200 == Approx(at.x()).margin(0.1));
    REQUIRE((1 - clip.y() / clip.w()) * 150 == Approx(at.y()).margin(0.1));
    view.set_gesture(Gesture::Line);
    drag({50, 200}, {350, 200});
    REQUIRE(line.first.direction.dot(line.second.direction) < 1);
    outline.clear();
    drag({50, 200}, {53, 200});  // too short to mean anything
    view.set_gesture(Gesture::Turn);
    const double yaw = link.camera().yaw;
    drag({100, 150}, {200, 150});
    REQUIRE(link.camera().yaw != yaw);
    REQUIRE(ended == 1);
}
