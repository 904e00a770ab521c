#pragma once
// How a hand turns the views: which button does what, and which way the wheel goes. One for all views.
#include <Qt>

namespace veld {

enum class MouseButtons {
    LeftTurns,    // left turns and selects, right and middle (or Shift) move
    MiddleTurns,  // middle turns, with Shift it moves; left only selects
    RightTurns,   // right turns, middle moves; left only selects
    Own           // as turn and move say
};

// A button, with a key held down or none.
struct Hold {
    Qt::MouseButton button = Qt::LeftButton;
    Qt::KeyboardModifier key = Qt::NoModifier;
    bool operator==(const Hold&) const = default;
};

struct Habits {
    MouseButtons buttons = MouseButtons::LeftTurns;
    bool wheel_reversed = false;
    Hold turn{Qt::LeftButton}, move{Qt::RightButton};  // of Own
};

Habits& habits();
// Does the left button turn, where it does not select?
bool left_turns();

}  // namespace veld
