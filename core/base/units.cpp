#include "core/base/units.h"

namespace veld {

double millimetres(Unit unit) {
    switch (unit) {
        case Unit::Millimetre:
            return 1.0;
        case Unit::Centimetre:
            return 10.0;
        case Unit::Metre:
            return 1000.0;
        case Unit::Inch:
            return 25.4;
        case Unit::Decimetre:
            return 100.0;
        case Unit::Foot:
            return 304.8;
    }
    return 1.0;
}

const char* unit_name(Unit unit) {
    switch (unit) {
        case Unit::Millimetre:
            return "mm";
        case Unit::Centimetre:
            return "cm";
        case Unit::Metre:
            return "m";
        case Unit::Inch:
            return "in";
        case Unit::Decimetre:
            return "dm";
        case Unit::Foot:
            return "ft";
    }
    return "mm";
}

std::optional<Unit> unit_from_name(const std::string& name) {
    for (Unit u : kAllUnits) {
        if (name == unit_name(u)) return u;
    }
    return std::nullopt;
}

namespace {
constexpr UpAxis kAxes[] = {UpAxis::PlusX,  UpAxis::MinusX, UpAxis::PlusY,
                            UpAxis::MinusY, UpAxis::PlusZ,  UpAxis::MinusZ};
constexpr const char* kAxisNames[] = {"+X", "-X", "+Y", "-Y", "+Z", "-Z"};
}  // namespace

const char* up_axis_name(UpAxis up) { return kAxisNames[static_cast<int>(up)]; }

std::optional<UpAxis> up_axis_from_name(const std::string& name) {
    for (UpAxis up : kAxes) {
        if (name == up_axis_name(up)) return up;
    }
    return std::nullopt;
}

Mat3 rotation_to_y_up(UpAxis up) {
    Vec3 axis = Vec3::Zero();
    axis[static_cast<int>(up) / 2] = static_cast<int>(up) % 2 ? -1.0 : 1.0;
    if (up == UpAxis::MinusY) return Eigen::AngleAxisd(M_PI, Vec3::UnitX()).toRotationMatrix();
    return Eigen::Quaterniond::FromTwoVectors(axis, Vec3::UnitY()).toRotationMatrix();
}

std::vector<Mat3> axis_turns() {
    std::vector<Mat3> out;
    for (int x = 0; x < 3; ++x) {
        for (int step = 1; step < 3; ++step) {
            const int y = (x + step) % 3;
            for (const int signs : {0, 1, 2, 3}) {
                Mat3 turn = Mat3::Zero();
                turn(x, 0) = signs & 1 ? -1 : 1;
                turn(y, 1) = signs & 2 ? -1 : 1;
                turn.col(2) = turn.col(0).cross(turn.col(1));
                out.push_back(turn);
            }
        }
    }
    return out;
}

}  // namespace veld
