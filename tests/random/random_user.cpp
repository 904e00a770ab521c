#include "tests/random/random_user.h"

#include <QAbstractItemView>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDropEvent>
#include <QEventLoop>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QTabBar>
#include <QTest>
#include <QThread>
#include <QTimer>
#include <QWindow>

#include "app/ask.h"
#include "app/views/photo_view.h"
#include "app/views/viewport.h"
#include "core/project/store.h"

namespace veld {

std::atomic<int> g_user_action{0};
std::atomic<long long> g_alive_ms{0};

long long now_ms() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

namespace {

constexpr const char* kKinds[] = {"click",  "double", "drag", "wheel", "key",  "type",
                                  "resize", "drop",   "wait", "undo",  "redo", "close"};
constexpr int kIdleMs = 60000;  // for cancelled work to end

QWidget* target_of(MainWindow* window) {
    if (QWidget* popup = QApplication::activePopupWidget()) return popup;
    if (QWidget* dialog = QApplication::activeModalWidget()) return dialog;
    return window;
}

}  // namespace

QString UserAction::line() const {
    return QString("%1 %2 %3 %4 %5 %6 %7 %8 %9 ")
               .arg(kKinds[static_cast<int>(kind)])
               .arg(pause_ms)
               .arg(button)
               .arg(modifiers)
               .arg(from.x())
               .arg(from.y())
               .arg(to.x())
               .arg(to.y())
               .arg(number) +
           text;
}

UserAction UserAction::read(const QString& line) {
    const QStringList part = line.split(' ');
    UserAction out;
    for (int k = 0; k < static_cast<int>(std::size(kKinds)); ++k) {
        if (part.value(0) == kKinds[k]) out.kind = static_cast<Kind>(k);
    }
    out.pause_ms = part.value(1).toInt(), out.button = part.value(2).toInt(), out.modifiers = part.value(3).toInt();
    out.from = QPoint(part.value(4).toInt(), part.value(5).toInt()),
    out.to = QPoint(part.value(6).toInt(), part.value(7).toInt());
    out.number = part.value(8).toInt(), out.text = part.mid(9).join(' ');
    return out;
}

RandomUser::RandomUser(RandomUserOptions options)
    : o_(std::move(options)), random_(o_.seed), files_(o_.seed ^ 0x5DEECE66Dull) {
    if (!o_.record.isEmpty()) record_.open(o_.record.toStdString());
    if (o_.replay.isEmpty()) return;
    std::ifstream in(o_.replay.toStdString());
    for (std::string line; std::getline(in, line);)
        replayed_.push_back(UserAction::read(QString::fromStdString(line)));
    o_.actions = std::min(o_.actions, static_cast<int>(replayed_.size()));
    o_.seconds = 1e9;
}

RandomUser::~RandomUser() = default;

QString RandomUser::run() {
    QTimer alive;
    QObject::connect(&alive, &QTimer::timeout, [] { g_alive_ms = now_ms(); });
    alive.start(50);
    g_alive_ms = now_ms();
    ends_at_ = now_ms() + static_cast<qint64>(1000 * o_.seconds);
    QEventLoop loop;
    QTimer over;
    QObject::connect(&over, &QTimer::timeout, [&] {
        if (over_ && loop.isRunning() && QThread::currentThread()->loopLevel() <= 1) loop.quit();
    });
    over.start(20);
    QTimer::singleShot(0, [this] {
        open_window(true);
        schedule(10);
    });
    loop.exec();
    finish();
    return trouble_;
}

void RandomUser::open_window(bool with_project) {
    ++windows_;
    window_ = std::make_unique<MainWindow>();
    window_->session().files().answer = [this](const FileAsked& asked) { return answer_file(asked); };
    window_->session().set_autosave_ms(4000);  // it comes now and then, as in an hour's work
    QObject::connect(&window_->session(), &Session::changed, window_.get(), [this] { ++changes_; });
    // the demo is on the kit of the source tree, and what is corrected in a kit may be saved
    if (QAction* demo = window_->commands().find("project_demo")) demo->setVisible(false), demo->setEnabled(false);
    if (auto* demo = window_->findChild<QPushButton*>("start_demo")) demo->setEnabled(false);
    window_->show();
    if (with_project && !o_.project.isEmpty()) window_->open_project(o_.project);
    opened_ = window_->session().has_kit() ? pack_project(window_->session().state(), "").state : std::string();
    opened_project_ = window_->session().project();
}

void RandomUser::schedule(int ms) {
    QTimer::singleShot(ms, [this] { tick(); });
}

// A dialog or a menu runs events of its own within the action that opened it: there the user goes on. Within an action
// that is only being delivered, nothing more is done.
void RandomUser::tick() {
    if (over_) return;
    if (acting_ && QThread::currentThread()->loopLevel() <= level_) return schedule(3);
    if (!acting_ && !window_->isVisible()) {  // it closed itself, or was quit
        window_.reset();
        open_window(true);
    }
    if (done_ >= o_.actions || now_ms() > ends_at_) {
        // out of dialogs and menus first
        if (QWidget* open = QApplication::activePopupWidget())
            open->close(), schedule(10);
        else if (QWidget* dialog = QApplication::activeModalWidget())
            QTest::keyClick(dialog, Qt::Key_Escape), dialog->close(), schedule(10);
        else
            over_ = true;
        return;
    }
    const UserAction action = replayed_.empty() ? next_action() : replayed_[static_cast<std::size_t>(done_)];
    ++done_;
    g_user_action = done_;
    if (record_.is_open()) record_ << action.line().toStdString() << std::endl;
    QTimer::singleShot(action.pause_ms, [this, action] {
        // scheduled before it is done: the action may not return for long
        schedule(1);
        const bool outer = acting_;
        const int outer_level = level_;
        acting_ = true, level_ = QThread::currentThread()->loopLevel();
        act(action);
        acting_ = outer, level_ = outer_level;
    });
}

UserAction RandomUser::in_menu(QWidget* popup) {
    UserAction a;
    auto* menu = qobject_cast<QMenu*>(popup);
    a.from = QPoint(pick(popup->width()), pick(popup->height()));
    if (menu && !menu->actions().isEmpty())
        a.from = menu->actionGeometry(menu->actions().at(pick(static_cast<int>(menu->actions().size())))).center();
    a.kind = UserAction::Kind::Click;
    if (chance(0.2)) a.kind = UserAction::Kind::Key, a.number = Qt::Key_Escape;
    return a;
}

// One of the things that a click is meant for; sometimes just anywhere.
UserAction RandomUser::on_widget(QWidget* target) {
    UserAction a;
    // first which kind of thing, then which one of them: else the many small ones leave the few that change much alone
    enum { Views, Actions, Lists, Values, Others, kGroups };
    std::vector<QWidget*> groups[kGroups];
    for (QWidget* w : target->findChildren<QWidget*>()) {
        if (!w->isVisible() || !w->isEnabled() || w->window() != target) continue;
        if (qobject_cast<Viewport*>(w) || qobject_cast<PhotoView*>(w))
            groups[Views].push_back(w);
        else if (qobject_cast<QPushButton*>(w))
            groups[Actions].push_back(w);
        else if (qobject_cast<QAbstractItemView*>(w->parentWidget()))
            groups[Lists].push_back(w);
        else if (qobject_cast<QAbstractSlider*>(w) || qobject_cast<QAbstractSpinBox*>(w) ||
                 qobject_cast<QComboBox*>(w) || qobject_cast<QLineEdit*>(w) || qobject_cast<QCheckBox*>(w))
            groups[Values].push_back(w);
        else if (qobject_cast<QAbstractButton*>(w) || qobject_cast<QTabBar*>(w) || qobject_cast<QMenuBar*>(w))
            groups[Others].push_back(w);
    }
    const auto place = [&] {
        const int share = pick(100);
        const auto& likely = groups[share < 26   ? Views
                                    : share < 48 ? Actions
                                    : share < 58 ? Lists
                                    : share < 76 ? Values
                                                 : Others];
        if (likely.empty() || chance(0.08)) return QPoint(pick(target->width()), pick(target->height()));
        QWidget* w = likely[static_cast<std::size_t>(pick(static_cast<int>(likely.size())))];
        return w->mapTo(target, QPoint(pick(w->width()), pick(w->height())));
    };
    a.from = place(), a.to = chance(0.5) ? place() : a.from + QPoint(pick(240) - 120, pick(240) - 120);
    a.button = chance(0.75) ? Qt::LeftButton : chance(0.6) ? Qt::RightButton : Qt::MiddleButton;
    a.modifiers = static_cast<int>(chance(0.8)   ? Qt::NoModifier
                                   : chance(0.4) ? Qt::ShiftModifier
                                   : chance(0.5) ? Qt::ControlModifier
                                                 : Qt::AltModifier);
    a.kind = chance(0.55)  ? UserAction::Kind::Click
             : chance(0.5) ? UserAction::Kind::Drag
             : chance(0.5) ? UserAction::Kind::Wheel
                           : UserAction::Kind::DoubleClick;
    a.number = chance(0.5) ? 120 : -120;
    return a;
}

UserAction RandomUser::next_action() {
    UserAction a;
    a.pause_ms = chance(0.7) ? pick(40) : pick(250);
    const auto as = [&](UserAction b) {
        b.pause_ms = a.pause_ms;
        return b;
    };
    if (QWidget* popup = QApplication::activePopupWidget()) return as(in_menu(popup));
    QWidget* dialog = QApplication::activeModalWidget();
    if (dialog && chance(0.35)) {
        a.kind = UserAction::Kind::Key, a.number = chance(0.6) ? Qt::Key_Escape : Qt::Key_Return;
        return a;
    }
    // who has nothing open yet mostly wants to begin
    if (!dialog && !window_->session().has_kit() && chance(0.1)) {
        a.kind = UserAction::Kind::Key, a.number = Qt::Key_N, a.modifiers = Qt::ControlModifier;
        return a;
    }
    const int what = pick(100);
    static constexpr int kKeys[] = {Qt::Key_N,
                                    Qt::Key_P,
                                    Qt::Key_A,
                                    Qt::Key_M,
                                    Qt::Key_S,
                                    Qt::Key_L,
                                    Qt::Key_H,
                                    Qt::Key_F,
                                    Qt::Key_O,
                                    Qt::Key_W,
                                    Qt::Key_T,
                                    Qt::Key_X,
                                    Qt::Key_C,
                                    Qt::Key_1,
                                    Qt::Key_2,
                                    Qt::Key_3,
                                    Qt::Key_4,
                                    Qt::Key_5,
                                    Qt::Key_6,
                                    Qt::Key_Home,
                                    Qt::Key_Delete,
                                    Qt::Key_Escape,
                                    Qt::Key_Return,
                                    Qt::Key_Tab,
                                    Qt::Key_Left,
                                    Qt::Key_Right,
                                    Qt::Key_Up,
                                    Qt::Key_Down,
                                    Qt::Key_Space,
                                    Qt::Key_BracketLeft,
                                    Qt::Key_BracketRight,
                                    Qt::Key_PageDown,
                                    Qt::Key_Backspace};
    static constexpr int kControlKeys[] = {Qt::Key_1, Qt::Key_2, Qt::Key_3,      Qt::Key_4, Qt::Key_5,
                                           Qt::Key_6, Qt::Key_7, Qt::Key_Return, Qt::Key_G, Qt::Key_D,
                                           Qt::Key_S, Qt::Key_A, Qt::Key_O,      Qt::Key_N, Qt::Key_Z};
    if (what < 62) return as(on_widget(dialog ? dialog : window_.get()));
    if (what < 78) {
        a.kind = UserAction::Kind::Key;
        // stations more often than opening and closing
        const bool control = chance(0.3);
        a.number = control ? kControlKeys[chance(0.75) ? pick(10) : pick(static_cast<int>(std::size(kControlKeys)))]
                           : kKeys[pick(static_cast<int>(std::size(kKeys)))];
        a.modifiers = static_cast<int>(control       ? Qt::ControlModifier
                                       : chance(0.1) ? Qt::ShiftModifier
                                                     : Qt::NoModifier);
    } else if (what < 83) {
        static const char* kTexts[] = {"12", "-3.5", "0", "999999", "brow", "a b c", "ä", "x/y#z"};
        a.kind = UserAction::Kind::Type, a.text = kTexts[pick(8)];
    } else if (what < 88) {
        a.kind = UserAction::Kind::Undo, a.number = 1 + pick(4);
    } else if (what < 91) {
        a.kind = UserAction::Kind::Redo, a.number = 1 + pick(3);
    } else if (what < 93) {
        a.kind = UserAction::Kind::Resize, a.to = QPoint(700 + pick(580), 480 + pick(320));
    } else if (what < 95 && !o_.drops.isEmpty()) {
        a.kind = UserAction::Kind::Drop, a.number = pick(static_cast<int>(o_.drops.size()));
    } else if (what < 99) {
        a.kind = UserAction::Kind::Wait, a.number = pick(900);
    } else if (chance(0.25)) {
        a.kind = UserAction::Kind::Close;
    }
    return a;
}

void RandomUser::mouse(const UserAction& a) {
    QWidget* target = target_of(window_.get());
    QWindow* to = target->windowHandle();
    if (!to) return;
    const auto button = static_cast<Qt::MouseButton>(a.button);
    const auto keys = static_cast<Qt::KeyboardModifiers>(a.modifiers);
    const auto inside = [&](const QPoint& p) {
        return QPoint(std::clamp(p.x(), 1, std::max(to->width() - 2, 1)),
                      std::clamp(p.y(), 1, std::max(to->height() - 2, 1)));
    };
    const QPoint from = inside(a.from), end = inside(a.to);
    const QPointer<QWindow> still(to);  // a click may close it
    QTest::mouseMove(to, from);
    if (a.kind == UserAction::Kind::Wheel) {
        QWidget* under = target->childAt(from);
        if (!still || !under) return;
        QWheelEvent wheel(under->mapFrom(target, QPointF(from)), target->mapToGlobal(QPointF(from)), QPoint(),
                          QPoint(0, a.number), Qt::NoButton, keys, Qt::NoScrollPhase, false);
        QApplication::sendEvent(under, &wheel);
        return;
    }
    if (!still) return;
    QTest::mousePress(to, button, keys, from);
    if (a.kind == UserAction::Kind::Drag) {
        for (int i = 1; i <= 4 && still; ++i) QTest::mouseMove(to, from + (end - from) * i / 4);
    }
    if (still) QTest::mouseRelease(to, button, keys, a.kind == UserAction::Kind::Drag ? end : from);
    if (a.kind == UserAction::Kind::DoubleClick && still) {
        QTest::mousePress(to, button, keys, from);
        if (still) QTest::mouseRelease(to, button, keys, from);
    }
}

void RandomUser::act(const UserAction& a) {
    QWidget* target = target_of(window_.get());
    switch (a.kind) {
        case UserAction::Kind::Click:
        case UserAction::Kind::DoubleClick:
        case UserAction::Kind::Drag:
        case UserAction::Kind::Wheel:
            return mouse(a);
        case UserAction::Kind::Key:
            if (target->windowHandle())
                QTest::keyClick(target->windowHandle(), static_cast<Qt::Key>(a.number),
                                static_cast<Qt::KeyboardModifiers>(a.modifiers));
            return;
        case UserAction::Kind::Type:
            for (const QChar c : a.text) {
                QWidget* focus = QApplication::focusWidget();
                if (focus && c.unicode() < 128) QTest::keyClick(focus, c.toLatin1());
            }
            return;
        case UserAction::Kind::Resize:
            return window_->resize(a.to.x(), a.to.y());
        case UserAction::Kind::Drop: {
            if (target != window_.get()) return;
            QMimeData data;
            data.setUrls({QUrl::fromLocalFile(o_.drops.value(a.number))});
            QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(window_.get(), &enter);
            QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(window_.get(), &drop);
            return;
        }
        case UserAction::Kind::Wait:
            return QTest::qWait(a.number);
        case UserAction::Kind::Undo:
        case UserAction::Kind::Redo:
            for (int i = 0; i < a.number && target->windowHandle(); ++i) {
                QTest::keyClick(target->windowHandle(), Qt::Key_Z,
                                a.kind == UserAction::Kind::Undo ? Qt::KeyboardModifiers(Qt::ControlModifier)
                                                                 : Qt::ControlModifier | Qt::ShiftModifier);
            }
            return;
        case UserAction::Kind::Close:
            // closed while work runs, saved or not: the next start finds what was left behind
            if (target != window_.get() || QThread::currentThread()->loopLevel() > 1) return;
            window_->close();
            if (window_->isVisible()) return;  // the user stayed
            window_.reset();
            return open_window(true);
    }
}

QStringList RandomUser::answer_file(const FileAsked& asked) {
    const auto any = [&](int n) { return static_cast<int>(files_() % static_cast<std::uint64_t>(n)); };
    if (any(4) == 0) return {};  // thought better of it
    switch (asked.what) {
        case FileQuestion::Open:
            if (asked.filter.contains("veldstone"))
                return o_.project.isEmpty() ? QStringList() : QStringList{o_.project};
            return {o_.drops.value(any(static_cast<int>(o_.drops.size())))};
        case FileQuestion::OpenSeveral:
            return {o_.drops.value(any(static_cast<int>(o_.drops.size())))};
        case FileQuestion::Save:
            return {o_.folder + "/" +
                    (asked.filter.contains("veldstone")
                         ? QString("saved %1.veldstone").arg(any(3))
                         : QString("written %1").arg(any(5)) + (asked.filter.contains("obj")   ? ".obj"
                                                                : asked.filter.contains("glb") ? ".glb"
                                                                                               : ".json"))};
        case FileQuestion::Folder:
            return {asked.title.contains("kit") ? o_.kit : o_.folder + QString("/folder %1").arg(any(2))};
    }
    return {};
}

QString RandomUser::undone_to_the_beginning() {
    Session& session = window_->session();
    if (session.project() != opened_project_ || opened_.empty()) return {};  // another project was opened since
    Document& document = session.document();
    if (document.labels().front() != "") return {};  // longer than what is kept
    // a step at a time, as keys would: the views follow each of them
    const auto go = [&](bool (Document::*can)() const, void (Document::*step)()) {
        for (int guard = 0; (document.*can)() && guard < 2000; ++guard) {
            (document.*step)();
            QCoreApplication::processEvents();
            g_alive_ms = now_ms();
        }
    };
    go(&Document::can_undo, &Document::undo);
    go(&Document::can_redo, &Document::redo);
    go(&Document::can_undo, &Document::undo);
    const std::string now = pack_project(session.state(), "").state;
    if (now == opened_) return {};
    std::size_t at = 0;
    while (at < std::min(now.size(), opened_.size()) && now[at] == opened_[at]) ++at;
    const std::size_t from = at > 120 ? at - 120 : 0;
    return QString("undone to the beginning it is not what was opened: '%1' was '%2'")
        .arg(QString::fromStdString(now.substr(from, 240)), QString::fromStdString(opened_.substr(from, 240)));
}

void RandomUser::finish() {
    if (!window_) return;
    window_->answer = [](const QString&, const QStringList& buttons) { return static_cast<int>(buttons.size()) - 1; };
    Jobs& jobs = window_->session().jobs();
    jobs.cancel_all();
    const qint64 until = now_ms() + kIdleMs;
    while (jobs.any() && now_ms() < until) QTest::qWait(20);
    if (jobs.any()) trouble_ = "work did not end within a minute after it was cancelled";
    if (trouble_.isEmpty()) trouble_ = undone_to_the_beginning();
    window_.reset();
}

}  // namespace veld
