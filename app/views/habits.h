#pragma once
// How a hand turns the views: which button does what, and which way the wheel goes. One for all views.

namespace veld {

enum class MouseButtons {
    LeftTurns,    // left turns and selects, right and middle (or Shift) move
    MiddleTurns,  // middle turns, with Shift it moves; left only selects
    RightTurns    // right turns, middle moves; left only selects
};

struct Habits {
    MouseButtons buttons = MouseButtons::LeftTurns;
    bool wheel_reversed = false;
};

Habits& habits();

}  // namespace veld
