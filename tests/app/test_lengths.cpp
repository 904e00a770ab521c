// Lengths in the unit that people prefer: shown, typed, and taken up at once everywhere.
#include <catch2/catch.hpp>

#include <QLabel>
#include <QLineEdit>
#include <QPixmap>

#include "app/lengths.h"
#include "app/scene/colours.h"
#include "app/theme.h"
#include "app/window/preferences.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

struct MillimetresAgain {
    ~MillimetresAgain() {
        take_up({}, *qApp);
        QSettings().clear();
    }
};

// As a hand types it: the whole text selected, typed over, Enter.
double typed(LengthBox& box, const char* text) {
    auto* line = box.findChild<QLineEdit*>();
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, text);
    QTest::keyClick(line, Qt::Key_Return);
    return box.value();
}

}  // namespace

TEST_CASE("Lengths: each unit shows as much as millimetres do") {
    const MillimetresAgain after;
    CHECK(length_text(1.25, 2) == "1.25 mm");
    CHECK(length_text(-0.0333, 3) == "-0.033 mm");
    length_units().set(LengthUnit::Centimetre);
    CHECK(length_text(1.25, 2) == "0.125 cm");
    CHECK(length_number(1800, 0) == "180.0");
    length_units().set(LengthUnit::Inch);
    CHECK(length_text(25.4, 1) == "1.000 in");
    CHECK(length_mm(LengthUnit::Inch) == 25.4);
    const Legend legend = length_legend(2.54, "%1 from the base");
    CHECK(legend.unit == "in from the base");
    CHECK(legend.worst / legend.per == Approx(0.1));
}

TEST_CASE("Lengths: a number is typed in any unit and stays in millimetres") {
    const MillimetresAgain after;
    LengthBox box("size", 0.5, 500, 1, 1, "Size");
    box.setLocale(QLocale::c());
    box.setValue(12);
    box.show();
    CHECK(box.text() == "12.0 mm");
    SECTION("millimetres") {
        CHECK(typed(box, "30.5") == Approx(30.5));
        CHECK(typed(box, "2cm") == Approx(20));
        CHECK(typed(box, "0.5 in") == Approx(12.7));
        CHECK(typed(box, "1,5 cm") == Approx(15));  // as it is written elsewhere
    }
    SECTION("inches") {
        length_units().set(LengthUnit::Inch);
        CHECK(box.text() == "0.472 in");
        CHECK(box.value() == Approx(12));
        // what is shown is rounded; what was not touched is not
        QTest::keyClick(&box, Qt::Key_Return);
        CHECK(box.value() == Approx(12));
        CHECK(typed(box, "2") == Approx(50.8));
        CHECK(typed(box, "3 mm") == Approx(3));
        CHECK(box.text() == "0.118 in");
        box.stepUp();
        CHECK(box.value() > 3);
        CHECK(box.value() < 5);
    }
    SECTION("what is out of range or no number is not taken") {
        CHECK(typed(box, "40 in") <= 500);
        typed(box, "12");
        CHECK(typed(box, "many") == Approx(12));
        CHECK(typed(box, "") == Approx(12));
    }
    SECTION("something that is no length is left as it is") {
        length_units().set(LengthUnit::Centimetre);
        box.set_other(" px", 1);
        CHECK(box.text() == "12.0 px");
        CHECK(typed(box, "5") == Approx(5));
        box.set_other({});
        CHECK(box.text() == "0.50 cm");
    }
    SECTION("Escape and steps") {
        box.stepUp();
        CHECK(box.value() == Approx(13));
        length_units().set(LengthUnit::Centimetre);
        box.stepDown();
        CHECK(box.value() == Approx(12));
        CHECK(box.text() == "1.20 cm");
    }
}

TEST_CASE("Lengths: another unit is taken up at once, and lasts") {
    const MillimetresAgain after;
    Fixture f;
    f.open_demo(false);
    f.window->go_to(Station::Gather);
    const auto facts = [&] {
        for (const QLabel* label : f.window->findChildren<QLabel*>()) {
            if (label->text().contains("median edge length")) return label->text();
        }
        return QString();
    };
    REQUIRE(wait_until([&] { return facts().contains("median edge length, mm"); }));
    Preferences all(f.window.get());
    QObject::connect(&all, &Preferences::changed, f.window.get(), &MainWindow::take_up_preferences);
    all.findChild<QComboBox*>("preferences_units")->setCurrentIndex(2);
    CHECK(read_preferences().units == 2);
    CHECK(wait_until([&] { return facts().contains("median edge length, in"); }));
    for (LengthBox* box : f.window->findChildren<LengthBox*>()) {
        const std::string which = box->objectName().toStdString() + box->suffix().toStdString();
        CAPTURE(which);
        CHECK_FALSE(box->suffix().contains("mm"));
    }
    all.findChild<QComboBox*>("preferences_units")->setCurrentIndex(0);
    CHECK(wait_until([&] { return facts().contains("median edge length, mm"); }));
}

TEST_CASE("Preferences: icons take the colour of a theme at once") {
    const MillimetresAgain after;
    const QIcon icon = theme::icon("undo");
    REQUIRE_FALSE(icon.isNull());
    CHECK(theme::icon("no such icon").isNull());
    const auto brightness = [&] {
        const QImage image = icon.pixmap(32, 32).toImage();
        int most = 0, least = 255;
        for (int y = 0; y < image.height(); ++y) {
            for (int x = 0; x < image.width(); ++x) {
                const QColor c = image.pixelColor(x, y);
                if (c.alpha() > 200) most = std::max(most, c.value()), least = std::min(least, c.value());
            }
        }
        return std::pair(least, most);
    };
    theme::apply(*qApp, theme::Tone::Dark);
    CHECK(brightness().second > 200);
    theme::apply(*qApp, theme::Tone::Light);
    CHECK(brightness().first < 100);
}
