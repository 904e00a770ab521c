#pragma once
// What test_tidy_window, test_tidy_files share.
#include <catch2/catch.hpp>

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QProcess>
#include <QSlider>
#include <QTest>

#include "app/stations/tidy/tidy_controller.h"
#include "core/io/mesh_write.h"
#include "core/mesh/topology.h"
#include "core/project/inbox.h"
#include "core/tidy/repair.h"
#include "core/tidy/tools.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

struct TidyFixture : Fixture {
    void wait() {
        REQUIRE(wait_until([&] { return !window->session().busy(); }));
        QTest::qWait(10);
    }
    void tab(int i) { find<Sections>("tidy_sections")->set_current(i); }
    void mode(const char* name) {
        QTest::mouseClick(find<QToolButton>((std::string("tidy_mode_") + name).c_str()), Qt::LeftButton);
    }
    void drag(const QList<QPoint>& path, Qt::KeyboardModifiers keys = {}) {
        Viewport& v = source_view();
        QTest::mousePress(&v, Qt::LeftButton, keys, path.first());
        for (const QPoint& p : path) QTest::mouseMove(&v, p);
        QTest::mouseRelease(&v, Qt::LeftButton, keys, path.last());
    }
    TidyController& tidy() { return window->tidy(); }
    QPoint middle() { return {source_view().width() / 2, source_view().height() / 2}; }
};

}  // namespace
