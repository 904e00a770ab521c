#pragma once
// How a fit is looked at, in the stations that show one.
#include <QString>

namespace veld {

enum class Colouring { None, Distance, SignedDistance, FromSource, EdgeStretch, AngleChange, Guessed, SeenBy };
enum class Compare { Fade, Wipe, Flicker, Beside };
enum class Cut { None, Side, Height, Depth, AsSeen };  // planes across x, y, z, or facing the camera

struct Look {
    Colouring colours = Colouring::None;
    double worst = 1;  // end of the colour scale, in the colouring's own unit
    int against = 0;   // what the fit is held against: 0 the source, 1 the base, 2.. the subject's tries
    Compare compare = Compare::Fade;
    double share = 1;  // 0 only the other, 1 only the fit; of a wipe: how much of the width is the fit's
    Cut cut = Cut::None;
    double cut_at = 0.5;  // along the way through the head
    int level = 0;        // subdivisions for the eye; what is kept is level 0
};

// "%", "°"; empty for lengths
inline QString unit_of(Colouring c) {
    return c == Colouring::EdgeStretch   ? QStringLiteral("%")
           : c == Colouring::AngleChange ? QStringLiteral("°")
                                         : QString();
}
inline bool is_length(Colouring c) { return c != Colouring::EdgeStretch && c != Colouring::AngleChange; }
inline bool both_ways(Colouring c) { return c == Colouring::SignedDistance || c == Colouring::EdgeStretch; }

}  // namespace veld
