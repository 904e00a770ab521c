#include "core/project/records/rest_work.h"

#include <algorithm>

#include "core/kit/base_kit.h"
#include "core/project/records/packing.h"

namespace veld {

Json pack_pose(const Pose& pose, BlobWriter& blobs) {
    return {{"turns", blobs.keep_array(pose.turns)},
            {"stretch", blobs.keep_array(pose.stretch)},
            {"move", {pose.move.x(), pose.move.y(), pose.move.z()}},
            {"lids", pose.lids}};
}

Result<Pose> unpack_pose(const Json& j, const BaseKit& kit, const std::string& of, const BlobReader& blobs) {
    Pose pose;
    const std::size_t joints = kit.joints.size();
    const bool whole = blobs.array(j.at("turns"), pose.turns) && blobs.array(j.at("stretch"), pose.stretch);
    if (!whole || pose.turns.size() != joints || (!pose.stretch.empty() && pose.stretch.size() != joints))
        return blobs.damaged("the pose of '" + of + "' does not match the kit's joints.");
    for (int k = 0; k < 3; ++k) pose.move[k] = j.at("move").at(static_cast<std::size_t>(k));
    if (j.contains("lids")) pose.lids = j.at("lids").get<std::array<double, 2>>();
    return pose;
}

Json pack_rest_work(const RestWork& work, BlobWriter& blobs) {
    Json out = {{"pose", pack_pose(work.pose, blobs)}};
    if (work.found)
        out["found"] = {{"shape", id_text(work.shape)}, {"turned", work.turned}, {"left_mm", work.left_mm}};
    return out;
}

Result<RestWork> unpack_rest_work(const Json& json, const BaseKit& kit, const BlobReader& blobs) {
    auto pose = unpack_pose(json.at("pose"), kit, "Rest pose", blobs);
    if (!pose) return pose.error();
    RestWork out;
    out.pose = std::move(*pose);
    if (!json.contains("found")) return out;
    const Json& found = json["found"];
    out.found = true, out.shape = id_value(found.at("shape").get<std::string>());
    out.turned = found.at("turned").get<std::vector<std::size_t>>(), out.left_mm = found.at("left_mm");
    if (std::any_of(out.turned.begin(), out.turned.end(), [&](std::size_t j) { return j >= kit.joints.size(); }))
        return blobs.damaged("the pose of 'Rest pose' names joints that the kit does not have.");
    return out;
}

}  // namespace veld
