#pragma once
// Units of length and the axis that points up: what files differ in. Once read, all is mm and Y up.
#include <optional>
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

enum class Unit { Millimetre, Centimetre, Metre, Inch, Decimetre, Foot };
constexpr Unit kAllUnits[] = {Unit::Millimetre, Unit::Centimetre, Unit::Metre,
                              Unit::Inch,       Unit::Decimetre,  Unit::Foot};  // the usual ones first
double millimetres(Unit unit);                                                  // mm per unit
const char* unit_name(Unit unit);
std::optional<Unit> unit_from_name(const std::string& name);

// The axis that points up in a file. Rotations are proper (no mirroring): file -> Y up.
enum class UpAxis { PlusX, MinusX, PlusY, MinusY, PlusZ, MinusZ };
const char* up_axis_name(UpAxis up);
std::optional<UpAxis> up_axis_from_name(const std::string& name);
Mat3 rotation_to_y_up(UpAxis up);
// The 24 turns that lead axes to axes; the first is none.
std::vector<Mat3> axis_turns();

}  // namespace veld
