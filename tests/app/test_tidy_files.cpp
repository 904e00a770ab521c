// Tidying in the window: units, replaced files, the inbox, large scans.
#include <catch2/catch.hpp>

#include "tests/app/tidy_support.h"

TEST_CASE("Window: unit and axis are changed with one click, a replaced file is read again") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    const std::string path = f.scratch / "capture.ply";
    const auto capture = [&](const char* seed) {
        QProcess p;
        p.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                 "--format", "ply", "--seed", seed, "--pause", "0", "--density", "2"});
        REQUIRE(p.waitForFinished(60000));
        REQUIRE(p.exitCode() == 0);
        std::filesystem::rename(f.scratch / (std::string("capture_") + seed + ".ply"), path);
    };
    capture("5");
    f.drop({QString::fromStdString(path)});
    REQUIRE(f.source().shown_unit == Unit::Centimetre);
    const double scale = f.source().upright.scale;
    auto* unit = f.find<QComboBox>("gather_unit");
    unit->setCurrentIndex(static_cast<int>(Unit::Inch));
    emit unit->activated(static_cast<int>(Unit::Inch));
    REQUIRE(f.source().upright.scale == Approx(2.54 * scale));
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.source().shown_unit == Unit::Centimetre);
    f.station("station_tidy");
    f.press("tidy_straighten");
    f.wait();
    const auto old = f.source().mesh;
    QTest::qWait(30);
    capture("6");
    f.station("station_gather");
    f.window->session().document().seal();
    f.press("gather_redo");
    f.wait();
    REQUIRE(f.source().mesh != old);
    REQUIRE(f.source().recipe.size() == 1);
    f.reply = 1;
}

TEST_CASE("Window: deliveries into the inbox are offered when they are whole") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    f.window->session().set_inbox(QString::fromStdString(f.scratch.folder()));
    QProcess device;
    device.start(
        QString(VELDSTONE_BUILD) + "/bin/capture-standin",
        {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()), "--seed",
         "9", "--pause", "500", "--density", "2", "--defects", "holes,components,noise,tilt,stand,spikes"});
    bool seen_waiting = false;
    REQUIRE(wait_until(
        [&] {
            for (const Delivery& d : f.window->session().deliveries()) {
                seen_waiting |= !d.complete;
                if (d.complete) return true;
            }
            return false;
        },
        60000));
    REQUIRE(seen_waiting);
    REQUIRE(device.state() == QProcess::NotRunning);  // not before the device had finished
    REQUIRE(f.find<QPushButton>("inbox_take")->isEnabled());
    f.press("inbox_take");
    f.wait();
    REQUIRE(f.source().name == "capture_9.obj");
    REQUIRE(f.source().mesh->images.size() == 1);
    device.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                 {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                  "--seed", "9", "--what", "photos", "--pause", "0", "--density", "2"});
    REQUIRE(wait_until(
        [&] { return !f.window->session().deliveries().empty() && f.window->session().deliveries()[0].complete; },
        60000));
    REQUIRE(f.window->session().deliveries()[0].kind == DeliveryKind::Photos);
    f.press("inbox_take");
    f.wait();
    REQUIRE(f.window->session().state().current()->photo_sets.size() == 1);
    REQUIRE(f.window->session().state().current()->photo_sets[0].photos->size() == 3);
    f.reply = 1;
}

// Not run by default: test_app "[heavy]". Needs about a minute.
TEST_CASE("Window: six million triangles are opened and cleaned within 2.5 GB", "[.heavy]") {
    TidyFixture f;
    REQUIRE(f.window->session().new_from_kit(demo("kit")));
    QProcess device;
    device.start(QString(VELDSTONE_BUILD) + "/bin/capture-standin",
                 {"--kit", QString::fromStdString(demo("kit")), "--out", QString::fromStdString(f.scratch.folder()),
                  "--format", "ply", "--seed", "3", "--pause", "0", "--density", "24"});
    REQUIRE(device.waitForFinished(120000));
    const auto peak_mb = [] {
        std::ifstream in("/proc/self/status");
        for (std::string line; std::getline(in, line);) {
            if (line.starts_with("VmHWM")) return std::atof(line.c_str() + 6) / 1024;
        }
        return 0.0;
    };
    double slowest = 0;
    const auto waiting = [&] {  // the window must answer all the while
        QElapsedTimer gap;
        gap.start();
        while (f.window->session().busy()) {
            QApplication::processEvents(QEventLoop::AllEvents, 10);
            slowest = std::max(slowest, static_cast<double>(gap.restart()));
        }
    };
    f.window->session().load_sources({QString::fromStdString(f.scratch / "capture_3.ply")});
    waiting();
    REQUIRE(f.source().mesh->face_count() > 5'000'000);
    f.station("station_tidy");
    for (const TidyStep& step :
         {TidyStep{Tool::Repair, {}, {}}, TidyStep{Tool::Components, {}, {}}, TidyStep{Tool::Straighten, {}, {}},
          TidyStep{Tool::Spikes, {}, {}}, TidyStep{Tool::Smooth, {{"rounds", 2}}, {}},
          TidyStep{Tool::Cut, {{"y", 1450}}, {}}}) {
        f.tidy().run(step, false);
        waiting();
        QTest::qWait(50);
        std::printf("%-18s peak %.0f MB\n", tool_info(step.tool).label, peak_mb());
    }
    f.tab(1);
    f.mode("rectangle");
    const QPoint m = f.middle();
    f.drag({m - QPoint(60, 60), m, m + QPoint(60, 60)});
    waiting();
    REQUIRE(f.tidy().selected_count() > 10000);
    QTest::keyClick(f.window.get(), Qt::Key_Delete);
    waiting();
    for (int i = 0; i < 4; ++i) QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(f.questions.isEmpty());
    std::printf("peak %.0f MB, longest gap between events %.0f ms, frame %.0f ms\n", peak_mb(), slowest,
                f.source_view().last_frame_ms());
    CHECK(peak_mb() < 2500);
    f.reply = 1;
}
