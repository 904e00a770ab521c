#include "app/lengths.h"

#include <QLocale>
#include <QRegularExpression>
#include <algorithm>
#include <cmath>

namespace veld {
namespace {
constexpr double kInchMm = 25.4;
constexpr int kKeptDecimals = 4;  // of mm: what is typed in inches stays exact enough

const char* symbol(LengthUnit unit) {
    return unit == LengthUnit::Millimetre ? "mm" : unit == LengthUnit::Centimetre ? "cm" : "in";
}

int more_decimals(LengthUnit unit) {
    return unit == LengthUnit::Millimetre ? 0 : unit == LengthUnit::Centimetre ? 1 : 2;
}

// The nearest of 1, 2, 5, 10, ... below.
double round_step(double step) {
    const double ten = std::pow(10, std::floor(std::log10(step) + 1e-9));
    const double lead = step / ten;
    return ten * (lead < 2 ? 1 : lead < 5 ? 2 : 5);
}
}  // namespace

void LengthUnits::set(LengthUnit unit) {
    if (unit == unit_) return;
    unit_ = unit;
    emit changed();
}

LengthUnits& length_units() {
    static LengthUnits units;
    return units;
}

double length_mm(LengthUnit unit) {
    return unit == LengthUnit::Millimetre ? 1 : unit == LengthUnit::Centimetre ? 10 : kInchMm;
}

QString length_name() { return QString::fromLatin1(symbol(length_units().unit())); }

QString length_number(double mm, int decimals) {
    const LengthUnit unit = length_units().unit();
    return QString::number(mm / length_mm(unit), 'f', decimals + more_decimals(unit));
}

QString length_text(double mm, int decimals) { return length_number(mm, decimals) + " " + length_name(); }

LengthBox::LengthBox(const char* name, double low_mm, double high_mm, double step_mm, int decimals, const QString& tip,
                     const QString& pattern)
    : step_mm_(step_mm), shown_(decimals), pattern_(pattern) {
    setObjectName(name);
    setDecimals(kKeptDecimals);
    setRange(low_mm, high_mm);
    setToolTip(tip);
    setKeyboardTracking(false);
    take_unit();
    connect(&length_units(), &LengthUnits::changed, this, &LengthBox::take_unit);
}

void LengthBox::set_other(const QString& suffix, double step) {
    other_ = suffix, other_step_ = step;
    take_unit();
}

void LengthBox::take_unit() {
    const double per = length_mm(length_units().unit());
    setSingleStep(!other_.isEmpty() ? other_step_ : per == kInchMm ? per * round_step(step_mm_ / per) : step_mm_);
    const QString suffix = other_.isEmpty() ? pattern_.arg(length_name()) : other_;
    // the same number again: its text is made for the unit that holds now
    const bool quiet = blockSignals(true);
    setSuffix(suffix);
    setValue(value());
    blockSignals(quiet);
}

QString LengthBox::textFromValue(double mm) const {
    const LengthUnit unit = other_.isEmpty() ? length_units().unit() : LengthUnit::Millimetre;
    QLocale plain = locale();
    plain.setNumberOptions(QLocale::OmitGroupSeparator);
    return plain.toString(mm / length_mm(unit), 'f', shown_ + more_decimals(unit));
}

std::optional<double> LengthBox::read(const QString& text) const {
    QString left = text;
    if (!suffix().isEmpty() && left.endsWith(suffix())) left.chop(suffix().size());
    static const QRegularExpression words(R"(^\s*([-+]?[0-9.,]*)\s*(mm|cm|in|")?\s*$)");
    const auto found = words.match(left);
    if (!found.hasMatch()) return {};
    QString digits = found.captured(1);
    bool good = false;
    const double number = digits.replace(',', '.').toDouble(&good);
    if (!good) return {};
    if (!other_.isEmpty()) return number;
    const QString unit = found.captured(2);
    const LengthUnit typed = unit.isEmpty() ? length_units().unit()
                             : unit == "mm" ? LengthUnit::Millimetre
                             : unit == "cm" ? LengthUnit::Centimetre
                                            : LengthUnit::Inch;
    return number * length_mm(typed);
}

double LengthBox::valueFromText(const QString& text) const {
    // what was shown and not touched is not rounded to what is shown
    if (text == prefix() + textFromValue(value()) + suffix()) return value();
    return std::clamp(read(text).value_or(value()), minimum(), maximum());
}

// While a number is being typed nothing that may become one is refused.
QValidator::State LengthBox::validate(QString& text, int&) const {
    if (const auto mm = read(text)) {
        constexpr double kEven = 1e-6;
        return *mm >= minimum() - kEven && *mm <= maximum() + kEven ? QValidator::Acceptable
                                                                    : QValidator::Intermediate;
    }
    static const QRegularExpression begun(R"(^\s*[-+]?[0-9.,]*\s*[a-z"%]*.*$)");
    return begun.match(text).hasMatch() ? QValidator::Intermediate : QValidator::Invalid;
}

}  // namespace veld
