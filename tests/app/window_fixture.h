#pragma once
// The real window with a scratch folder and answers to its questions.
#include <QApplication>
#include <QDropEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QLineEdit>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QUrl>

#include "app/ask.h"
#include "app/prepared_source.h"
#include "app/sections.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/stations/deliver/deliver_panel.h"
#include "app/stations/fit/fit_panel.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/tidy/tidy_panel.h"
#include "app/stations/touch/touch_panel.h"
#include "app/views/view_set.h"
#include "app/window/look_bar.h"
#include "app/window/main_window.h"
#include "core/io/gather.h"
#include "core/project/records/photo_record.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/support/demo_kit.h"

namespace veld {

#ifdef __SANITIZE_ADDRESS__
constexpr int kMostMs = 900000;  // a search for landmarks takes minutes there
#else
constexpr int kMostMs = 300000;
#endif

inline bool wait_until(const std::function<bool()>& done, int most_ms = kMostMs) {
    QElapsedTimer clock;
    clock.start();
    while (!done()) {
        if (clock.elapsed() >= most_ms) return false;
        QTest::qWait(5);  // sleeps: the work that is waited for needs the processor
    }
    return true;
}

// Answers the file dialog that comes up next.
inline void answer_file_dialog(const QString& path) {
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, qApp, [timer, path] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        if (!dialog) return;
        timer->deleteLater();
        auto* line = dialog->findChild<QLineEdit*>("fileNameEdit");
        line->setText(path);
        QTest::keyClick(line, Qt::Key_Return);
    });
    timer->start(40);
}

struct Fixture {
    Scratch scratch;
    std::unique_ptr<MainWindow> window = std::make_unique<MainWindow>();
    QStringList questions;
    int reply = 0;

    Fixture() {
        QSettings().clear();
        window->answer = [this](const QString& text, const QStringList&) {
            questions << text;
            return reply;
        };
        window->views().set_smooth_edges(false);  // two to three times as quick where there is no graphics card
        window->commands().find("view_hollows")->setChecked(false);  // takes seconds, and most look at no shading
        window->show();
        REQUIRE(QTest::qWaitForWindowExposed(window.get()));
        QApplication::setActiveWindow(window.get());  // no window manager under Xvfb does it, and keys need it
    }
    // an open project with the demo's head scan
    void open_demo(bool marks) {
        open_scan("Ottoline", "subjects/ottoline/ottoline_scan.glb",
                  marks ? "subjects/ottoline/ottoline_landmarks.json" : "");
    }
    void open_scan(const std::string& name, const std::string& file, const std::string& marks) {
        begin_with(name + (marks.empty() ? "" : " marked"), [&] {
            ProjectState s = new_project(demo_kit());
            Gathered scan = gather(demo(file));
            Source source = make_source(std::move(scan.meshes.front()), *demo_kit());
            if (!marks.empty()) source.landmarks = std::move(read_landmarks(demo(marks))->set);
            s.subjects.push_back({name, {source}, {}});
            return s;
        });
    }
    // What several sections begin with is made once, and opened from its file by each.
    void begin_with(const std::string& what, const std::function<ProjectState()>& make) {
        static Scratch kept;
        const std::string file = kept / (what + ".veldstone"), mine = scratch / "demo.veldstone";
        if (!std::filesystem::exists(file)) REQUIRE(save_project(file, make()));
        QApplication::setActiveWindow(window.get());  // another may have been at work
        std::filesystem::copy_file(file, mine);
        REQUIRE(window->open_project(QString::fromStdString(mine)));
        wait_prepared();
        QTest::qWait(50);
    }
    // the source can be looked at and picked on
    void wait_prepared() {
        REQUIRE(
            wait_until([&] { return !window->session().state().source() || window->session().prepared(); }, 60000));
    }
    template <class T>
    T* find(const char* name) {
        T* widget = window->findChild<T*>(name);
        REQUIRE(widget);
        return widget;
    }
    // the views have arrived where they fly to, however busy the machine is
    void rest() {
        Vec3 before = Vec3::Constant(1e9);
        int same = 0;
        REQUIRE(wait_until(
            [&] {
                const Vec3 now = window->views().camera().camera().target;
                same = now == before ? same + 1 : 0;
                before = now;
                QTest::qWait(120);
                return same >= 2;  // once may be before a flight's first step
            },
            20000));
    }
    // saved as by hand, and waited for
    bool save_to(const std::string& path) {
        std::optional<bool> ok;
        window->session().save(QString::fromStdString(path),
                               [&](const Status& done) { ok = static_cast<bool>(done); });
        return wait_until([&] { return ok.has_value(); }, 30000) && *ok;
    }
    void press(const char* name) { QTest::mouseClick(find<QPushButton>(name), Qt::LeftButton); }
    void trigger(const char* action) { find<QAction>(action)->trigger(); }
    void station(const char* name) { QTest::mouseClick(find<QToolButton>(name), Qt::LeftButton); }
    const Source& source() { return *window->session().state().source(); }
    Viewport& source_view() { return *window->views().source_view(); }
    // where a place of the scan's file appears on the source view now
    QPoint on_screen(const Vec3& p) {
        return source_view().screen_of(window->session().source_to_view()(p)).toPoint();
    }
    void drop(const QStringList& paths) {
        QMimeData data;
        QList<QUrl> urls;
        for (const QString& p : paths) urls << QUrl::fromLocalFile(p);
        data.setUrls(urls);
        QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window.get(), &enter);
        REQUIRE(enter.isAccepted());
        QDropEvent event(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(window.get(), &event);
        REQUIRE(wait_until([&] { return !window->session().busy(); }));
    }
    void fit_quickly() {
        quick_fit();
        station("station_fit");
        press("fit_start");
        REQUIRE(wait_until([&] { return !window->session().busy(); }));
    }
    // settings of a coarse fit that takes a moment only
    void quick_fit(int levels = 3) {
        ProjectState next = window->session().state();
        next.settings.levels = levels;
        next.settings.iterations = 1;
        window->session().change("quick", std::move(next));
    }
};

}  // namespace veld
