#pragma once
// Lengths as people read and type them: in millimetres, centimetres or inches, as they prefer. Everything behind the
// window stays in millimetres. Focal lengths are always in millimetres, as on every lens.
#include <QDoubleSpinBox>
#include <QString>
#include <optional>

namespace veld {

enum class LengthUnit { Millimetre, Centimetre, Inch };

// Tells who shows lengths that they are shown in another unit now.
class LengthUnits : public QObject {
    Q_OBJECT
 public:
    void set(LengthUnit unit);
    LengthUnit unit() const { return unit_; }

 signals:
    void changed();

 private:
    LengthUnit unit_ = LengthUnit::Millimetre;
};
LengthUnits& length_units();

double length_mm(LengthUnit unit);  // of one
QString length_name();              // "mm"
// decimals: as many as a figure in mm would have; other units get more, so that nothing is lost.
QString length_number(double mm, int decimals);
QString length_text(double mm, int decimals);  // with its unit

// A number in mm that is shown and typed in the unit that people prefer; "1.2 cm" or "0.5 in" is understood always.
// Says its value when it is done, not at each key.
class LengthBox : public QDoubleSpinBox {
    Q_OBJECT
 public:
    // decimals: of mm. pattern: what stands after the number, with %1 for the unit.
    LengthBox(const char* name, double low_mm, double high_mm, double step_mm, int decimals, const QString& tip,
              const QString& pattern = QStringLiteral(" %1"));
    // Shows something that is no length, with this after the number; empty: a length again.
    void set_other(const QString& suffix, double step = 1);

    QString textFromValue(double mm) const override;
    double valueFromText(const QString& text) const override;
    QValidator::State validate(QString& text, int& at) const override;

 private:
    void take_unit();
    std::optional<double> read(const QString& text) const;

    double step_mm_, other_step_ = 1;
    int shown_;
    QString pattern_, other_;
};

}  // namespace veld
