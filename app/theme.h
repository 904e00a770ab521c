#pragma once
// The look: warm dark stone, bone-white text, ochre for what is active, teal for the source.
#include <QColor>
#include <QIcon>
#include <QString>

class QApplication;

namespace veld::theme {

inline const QColor kBackground{0x26, 0x23, 0x20};
inline const QColor kPanel{0x30, 0x2c, 0x28};
inline const QColor kRaised{0x3b, 0x36, 0x31};
inline const QColor kLine{0x4b, 0x45, 0x3e};
inline const QColor kText{0xec, 0xe5, 0xd8};
inline const QColor kDim{0xab, 0xa1, 0x93};
inline const QColor kOchre{0xd0, 0x9a, 0x3c};
inline const QColor kTeal{0x4d, 0xa8, 0xa0};
inline const QColor kClay{0xb9, 0xae, 0xa0};
inline const QColor kFine{0x8f, 0xc4, 0xbd};   // a figure as it should be
inline const QColor kDoubt{0xe0, 0xae, 0x55};  // one that wants a look
inline const QColor kTealClay{0x8f, 0xae, 0xaa};

// Before there is a QApplication: OpenGL as the views need it.
void prepare();
void apply(QApplication& app);

// An icon of app/resources/icons drawn in the given colour.
QIcon icon(const QString& name, const QColor& colour = kText);

// Perceptually even colours for 0..1: bone, teal, ink; lightness falls steadily [Ottosson 2020, OKLab].
QColor distance_colour(double t);
// -1..1: ink-teal inside, bone where nothing is off, umber outside; as light on both sides.
QColor signed_colour(double t);

}  // namespace veld::theme
