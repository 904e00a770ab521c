#pragma once
// What test_bank_window, test_bank_joints share.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QSlider>
#include <QTreeWidget>
#include <filesystem>

#include "app/stations/bank/exchange_controller.h"
#include "app/stations/bank/face_map.h"
#include "app/stations/bank/morph_list.h"
#include "app/views/viewport.h"
#include "core/base/file.h"
#include "core/io/mesh_write.h"
#include "core/project/sources.h"
#include "core/proof/carry_expression.h"
#include "core/rig/pose.h"
#include "demo/standins/sculpting.h"
#include "tests/app/window_fixture.h"
#include "tests/support/apart.h"

using namespace veld;

namespace {

struct BankFixture : Fixture {
    BankFixture() {
        open_demo(false);
        station("station_bank");
    }
    Session& session() { return window->session(); }
    const ProjectState& state() { return window->session().state(); }
    void add(const std::string& name, const Points& shape, const std::string& group = {}) {
        ProjectState next = state();
        Morph m = *make_morph(*demo_kit(), shape, name);
        m.group = group;
        add_morph(next, std::move(m), 0);
        session().change("Add", std::move(next));
        QTest::qWait(20);
    }
    void add_people() {
        for (const auto& [file, name] : {std::pair{"warden_clean", "Warden"}, {"tall_carrier", "Tall carrier"}})
            add(name, read_mesh(demo(std::string("returns/") + file + ".obj"))->mesh.positions, "people");
    }
    void page(BankController::Page p) {
        window->bank().set_page(p);
        QTest::qWait(50);
    }
    void undo() { QTest::keyClick(window.get(), Qt::Key_Z, Qt::ControlModifier); }
};

}  // namespace
