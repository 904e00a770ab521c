// What a person sets once: the look in both tones, the mouse, what is kept.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QRegularExpression>
#include <QSpinBox>
#include <QWheelEvent>
#include <cmath>

#include "app/colour_maps.h"
#include "app/theme.h"
#include "app/views/habits.h"
#include "app/window/preferences.h"
#include "core/base/threads.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

double luminance(const QColor& c) {
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}

// WCAG 2.1
double contrast(const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

// Whatever a case sets is taken back.
struct UsualAgain {
    ~UsualAgain() {
        take_up({}, *qApp);
        QSettings().clear();
    }
};

}  // namespace

TEST_CASE("Preferences: what is written can be read, dark and light") {
    const UsualAgain after;
    CHECK(contrast(Qt::white, Qt::black) == Approx(21));
    for (const theme::Tone tone : {theme::Tone::Dark, theme::Tone::Light}) {
        const theme::Ink& ink = theme::ink_of(tone);
        for (const QColor& colour : {ink.text, ink.dim, ink.accent, ink.source, ink.fine, ink.doubt}) {
            const std::string which = colour.name().toStdString() + (tone == theme::Tone::Dark ? " dark" : " light");
            CAPTURE(which);
            CHECK(contrast(colour, ink.panel) >= 4.5);
        }
        theme::apply(*qApp, tone);
        // in the style sheet: wherever a rule says both what is written and on what
        static const QRegularExpression rule("([^{}]+)\\{([^{}]*)\\}"), ground("background: (#[0-9a-f]{6})"),
            written("(?<![-a-z])color: (#[0-9a-f]{6})");
        int looked_at = 0;
        for (auto at = rule.globalMatch(qApp->styleSheet()); at.hasNext();) {
            const auto m = at.next();
            const auto on = ground.match(m.captured(2)), with = written.match(m.captured(2));
            if (!on.hasMatch() || !with.hasMatch() || m.captured(1).contains(":disabled")) continue;
            const std::string which = m.captured(0).simplified().toStdString();
            CAPTURE(which);
            CHECK(contrast(QColor(on.captured(1)), QColor(with.captured(1))) >= 4.5);
            ++looked_at;
        }
        CHECK(looked_at >= 8);
    }
}

TEST_CASE("Preferences: text grows, and nothing of the window is wider than the screen") {
    const UsualAgain after;
    take_up({.text_percent = 130}, *qApp);
    Fixture f;
    CHECK(f.window->font().pointSizeF() == Approx(9.75 * 1.3));
    CHECK(qApp->styleSheet().contains("font-size: 11.7pt"));
}

TEST_CASE("Preferences: they are kept, held in their ranges, and reset") {
    const UsualAgain after;
    Fixture f;
    Preferences all(f.window.get());
    PreferenceValues told;
    QObject::connect(&all, &Preferences::changed, &all, [&](const PreferenceValues& now) { told = now; });
    all.findChild<QComboBox*>("preferences_theme")->setCurrentIndex(1);
    all.findChild<QComboBox*>("preferences_mouse")->setCurrentIndex(2);
    all.findChild<QCheckBox*>("preferences_wheel")->setChecked(true);
    all.findChild<QSpinBox*>("preferences_autosave")->setValue(7);
    CHECK(told.theme == 1);
    CHECK(told.autosave_minutes == 7);
    const PreferenceValues kept = read_preferences();
    CHECK(kept.theme == 1);
    CHECK(kept.mouse == 2);
    CHECK(kept.wheel_reversed);
    CHECK(kept.autosave_minutes == 7);
    QSettings().setValue("preferences/mouse", 77);
    QSettings().setValue("preferences/threads", -3);
    QSettings().setValue("preferences/text_percent", "nonsense");
    CHECK(read_preferences().mouse == 3);
    CHECK(read_preferences().threads == 0);
    CHECK(read_preferences().text_percent == 80);
    QTest::mouseClick(all.findChild<QPushButton*>("preferences_reset"), Qt::LeftButton);
    CHECK(read_preferences().theme == 0);
    CHECK_FALSE(read_preferences().wheel_reversed);
    CHECK(machine_threads() >= 1);
}

TEST_CASE("Preferences: the button that turns is the one that was asked for, and the wheel goes that way") {
    const UsualAgain after;
    Fixture f;
    f.open_demo(false);
    f.window->go_to(Station::Gather);
    Viewport* view = f.window->views().source_view();
    const auto camera = [&] { return f.window->views().camera().camera(); };
    const auto drag = [&](Qt::MouseButton button, Qt::KeyboardModifiers keys = {}) {
        const QPointF from(120, 200);
        const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButton which, Qt::MouseButtons held) {
            QMouseEvent event(type, at, view->mapToGlobal(at), which, held, keys);
            QApplication::sendEvent(view, &event);
        };
        send(QEvent::MouseButtonPress, from, button, button);
        send(QEvent::MouseMove, from + QPointF(40, 0), Qt::NoButton, button);
        send(QEvent::MouseButtonRelease, from + QPointF(40, 0), button, Qt::NoButton);
    };
    const Qt::MouseButton buttons[] = {Qt::LeftButton, Qt::MiddleButton, Qt::RightButton};
    const MouseButtons ways[] = {MouseButtons::LeftTurns, MouseButtons::MiddleTurns, MouseButtons::RightTurns};
    for (std::size_t way = 0; way < 3; ++way) {
        habits().buttons = ways[way];
        for (std::size_t b = 0; b < 3; ++b) {
            CAPTURE(way, b);
            const Camera before = camera();
            drag(buttons[b]);
            CHECK((camera().yaw != before.yaw) == (way == b));
            const bool moves = b != way && b != 0;  // left selects where it does not turn
            CHECK((camera().target != before.target) == moves);
        }
    }
    // somebody's own: what is held turns and moves, nothing else does
    habits().buttons = MouseButtons::Own;
    habits().turn = {Qt::LeftButton, Qt::AltModifier};
    habits().move = {Qt::MiddleButton, Qt::ShiftModifier};
    for (const auto button : buttons) {
        for (const Qt::KeyboardModifiers keys : {Qt::NoModifier, Qt::AltModifier, Qt::ShiftModifier}) {
            const Camera before = camera();
            drag(button, keys);
            CHECK((camera().yaw != before.yaw) == (button == Qt::LeftButton && keys == Qt::AltModifier));
            CHECK((camera().target != before.target) == (button == Qt::MiddleButton && keys == Qt::ShiftModifier));
        }
    }
    const auto wheel = [&] {
        QWheelEvent event(QPointF(50, 50), view->mapToGlobal(QPointF(50, 50)), {}, QPoint(0, 120), Qt::NoButton,
                          Qt::NoModifier, Qt::NoScrollPhase, false);
        const double before = camera().distance;
        QApplication::sendEvent(view, &event);
        return camera().distance / before;
    };
    CHECK(wheel() < 1);
    habits().wheel_reversed = true;
    CHECK(wheel() > 1);
}

TEST_CASE("Preferences: the mouse's own arrangement never turns and moves by the same hold") {
    const UsualAgain after;
    Fixture f;
    Preferences all(f.window.get());
    auto* turn = all.findChild<QComboBox*>("preferences_turn");
    auto* move = all.findChild<QComboBox*>("preferences_move");
    CHECK_FALSE(turn->isEnabled());
    all.findChild<QComboBox*>("preferences_mouse")->setCurrentIndex(3);
    CHECK(turn->isEnabled());
    for (int i = 0; i < turn->count(); ++i) {
        turn->setCurrentIndex(i);
        move->setCurrentIndex(i);
        CHECK(turn->currentIndex() != move->currentIndex());
        CHECK(read_preferences().turn != read_preferences().move);
    }
}

namespace {

// What somebody sees whose receptors of one kind are missing: in linear light [Machado, Oliveira, Fernandes 2009,
// table 1, severity 1].
QColor seen(const QColor& c, ColourVision by) {
    constexpr double kMachado[3][3][3] = {
        {{0.152286, 1.052583, -0.204868}, {0.114503, 0.786281, 0.099216}, {-0.003882, -0.048116, 1.051998}},
        {{0.367322, 0.860646, -0.227968}, {0.280085, 0.672501, 0.047413}, {-0.011820, 0.042940, 0.968881}},
        {{1.255528, -0.076749, -0.178779}, {-0.078411, 0.930809, 0.147602}, {0.004733, 0.691367, 0.303900}}};
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    const auto shown = [](double v) {
        v = std::clamp(v, 0.0, 1.0);
        return static_cast<float>(v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055);
    };
    if (by == ColourVision::Usual) return c;
    const double rgb[3] = {linear(c.redF()), linear(c.greenF()), linear(c.blueF())};
    if (by == ColourVision::None) {
        const float grey = shown(0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]);
        return QColor::fromRgbF(grey, grey, grey);
    }
    const auto& m = kMachado[static_cast<int>(by) - 1];
    float out[3];
    for (int i = 0; i < 3; ++i) out[i] = shown(m[i][0] * rgb[0] + m[i][1] * rgb[1] + m[i][2] * rgb[2]);
    return QColor::fromRgbF(out[0], out[1], out[2]);
}

double apart(const QColor& a, const QColor& b) {
    const OkLab x = oklab(a), y = oklab(b);
    return std::hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
}

}  // namespace

TEST_CASE("Preferences: figures' colours are told apart by the eyes they are made for") {
    const UsualAgain after;
    for (const auto by : {ColourVision::Usual, ColourVision::RedWeak, ColourVision::GreenWeak, ColourVision::BlueWeak,
                          ColourVision::None}) {
        CAPTURE(static_cast<int>(by));
        set_colour_vision(by);
        // distances: lightness falls at each step, so that it tells as much without the colour
        for (int i = 0; i < 20; ++i) {
            const double a = i / 20.0, b = (i + 1) / 20.0;
            CHECK(oklab(seen(distance_colour(a), by))[0] > oklab(seen(distance_colour(b), by))[0] + 0.005);
        }
        // inside, outside and nothing: far from one another (0.02 is just noticeable side by side)
        const QColor in = seen(signed_colour(-1), by), out = seen(signed_colour(1), by),
                     nothing = seen(signed_colour(0), by);
        CHECK(apart(in, out) > 0.12);
        CHECK(apart(in, nothing) > 0.3);
        CHECK(apart(out, nothing) > 0.3);
        if (by != ColourVision::None) CHECK(std::abs(oklab(signed_colour(-1))[0] - oklab(signed_colour(1))[0]) < 0.06);
    }
}
