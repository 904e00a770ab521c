#pragma once
// What test_layout, test_commands, test_things_window share.
#include <catch2/catch.hpp>

#include <QAccessible>
#include <QApplication>
#include <QClipboard>
#include <QKeySequenceEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QMessageBox>
#include <QSplitter>
#include <QStatusBar>
#include <QTableWidget>
#include <QTextBlock>
#include <set>

#include "app/stations/registry.h"
#include "app/window/command_search.h"
#include "app/window/figures_table.h"
#include "app/window/guide_window.h"
#include "app/window/next_line.h"
#include "app/window/parts.h"
#include "app/window/rail.h"
#include "app/window/shortcut_sheet.h"
#include "app/window/start_page.h"
#include "app/window/subject_tree.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

inline double picture_share(MainWindow& window) {
    QTest::qWait(30);
    const QSize views = window.views().size(), all = window.size();
    return static_cast<double>(views.width()) * views.height() / (static_cast<double>(all.width()) * all.height());
}

inline QAction& command(MainWindow& window, const char* id) {
    QAction* action = window.commands().find(id);
    REQUIRE(action);
    return *action;
}

}  // namespace
