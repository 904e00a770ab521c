#include "core/rig/pose_file.h"

#include <algorithm>

#include "core/base/file.h"
#include "core/base/json.h"

namespace veld {
namespace {

Error bad(const std::string& what, const std::string& why) { return {ErrorCode::BadFile, what + " " + why}; }

}  // namespace

std::string pose_text(const Pose& pose, const std::vector<Joint>& joints) {
    Json out = Json::object();
    for (std::size_t j = 0; j < joints.size() && j < pose.turns.size(); ++j) {
        if (pose.turns[j].isIdentity(1e-12)) continue;
        const Vec3 about = pose.turns[j].eulerAngles(2, 1, 0) * 180 / M_PI;  // about Z, Y and X
        out[joints[j].name] = {about[2], about[1], about[0]};
    }
    return out.dump();
}

Result<Pose> pose_from(const std::string& text, const std::vector<Joint>& joints, const std::string& what) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (!json.is_object()) return bad(what, "is no pose: wanted is an object of joint names with three angles each.");
    Pose out = rest_pose(joints);
    for (const auto& [name, angles] : json.items()) {
        const auto joint = std::find_if(joints.begin(), joints.end(), [&](const Joint& j) { return j.name == name; });
        if (joint == joints.end()) return bad(what, "the kit has no joint '" + name + "'.");
        if (!angles.is_array() || angles.size() != 3 ||
            !std::all_of(angles.begin(), angles.end(), [](const Json& a) { return a.is_number(); }))
            return bad(what, "the joint '" + name + "' needs three angles in degrees.");
        Mat3& turn = out.turns[static_cast<std::size_t>(joint - joints.begin())];
        for (int k = 2; k >= 0; --k)
            turn =
                turn * Eigen::AngleAxisd(angles[static_cast<std::size_t>(k)].get<double>() * M_PI / 180, Vec3::Unit(k))
                           .toRotationMatrix();
    }
    return out;
}

Result<Pose> read_pose(const std::string& path, const std::vector<Joint>& joints) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return pose_from(std::string(bytes->view()), joints, "'" + path + "'");
}

}  // namespace veld
