#pragma once
// The look: warm stone, ochre for what is active, teal for the source. Dark or light around the views; the views and
// what is drawn over them stay dark in both, as a picture on a wall does.
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
inline const QColor kTealClay{0x8f, 0xae, 0xaa};

// Before there is a QApplication: OpenGL as the views need it.
void prepare();
enum class Tone { Dark, Light };
// text_scale: 1 is the usual size of text. Icons and what is written already follow when they are made anew.
void apply(QApplication& app, Tone tone = Tone::Dark, double text_scale = 1);

// What is written with and on, outside of the views.
struct Ink {
    QColor text, dim, accent, source, panel;
    QColor fine, doubt;  // figures: as it should be; one that wants a look
};
const Ink& ink();
const Ink& ink_of(Tone tone);

// An icon of app/resources/icons in a colour of the look that holds when it is drawn, at any size.
QIcon icon(const QString& name, QColor Ink::*of = &Ink::text);
// The same in one colour, whatever the look.
QIcon icon(const QString& name, const QColor& colour);

}  // namespace veld::theme
