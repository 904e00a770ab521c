#pragma once
// What test_mark_window, test_mark_curves share.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QLabel>
#include <QTreeWidget>

#include "app/views/photo_view.h"
#include "app/views/viewport.h"
#include "core/io/image.h"
#include "core/landmark/snap.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

inline void detect(Fixture& f) {
    f.station("station_mark");
    f.press("mark_find");
    REQUIRE(f.window->session().detecting());
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
}

// An exact place: nothing flies, nothing snaps.
inline void keep_still(Fixture& f) {
    f.find<QCheckBox>("mark_hold")->setChecked(true);
    f.find<QCheckBox>("mark_snap")->setChecked(false);
}

// The point of the list's line is put where it truly belongs: selected, the views fly to it, dragged.
inline void put_worst_right(Fixture& f, const LandmarkSet& truth) {
    auto* list = f.find<QTreeWidget>("mark_list");
    QTreeWidgetItem* worst = nullptr;
    for (int i = 0; i < list->topLevelItemCount() && !worst; ++i) {
        const std::string name = list->topLevelItem(i)->data(0, Qt::UserRole).toString().toStdString();
        if (truth.points.contains(name) && f.source().landmarks.points.contains(name)) worst = list->topLevelItem(i);
    }
    REQUIRE(worst);
    REQUIRE(worst->text(1).endsWith("?"));
    const std::string name = worst->data(0, Qt::UserRole).toString().toStdString();
    list->scrollToItem(worst);
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(worst).center());
    REQUIRE(f.window->session().selected() == name);
    QTest::qWait(500);  // the flight
    Viewport& view = f.source_view();
    const QPoint to = f.on_screen(truth.points.at(name));
    INFO(name);
    REQUIRE(view.rect().contains(to));
    const QPoint from = f.on_screen(f.source().landmarks.points.at(name));
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, (from + to) / 2 + QPoint(5, 0));
    QTest::mouseMove(&view, to);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    REQUIRE(f.source().landmarks.trust_of(name).origin == Origin::Hand);
}

inline void open_unmarked_portraits(Fixture& f) {
    ProjectState s = new_project(demo_kit());
    auto photos = read_photos("portraits",
                              {demo("subjects/juniper/juniper_front.jpg"), demo("subjects/juniper/juniper_side.jpg")});
    REQUIRE(photos);
    s.subjects.push_back({"Juniper", {}, {}, {*photos}});
    REQUIRE(save_project(f.scratch / "p.veldstone", s));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "p.veldstone")));
    f.station("station_mark");
    QTest::qWait(50);
}

}  // namespace
