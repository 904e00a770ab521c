// A kit's joints, weights and eyes, and what is not known for sure.
#include <algorithm>

#include "core/kit/kit_reader.h"
#include "core/rig/pose_file.h"
#include "core/rig/rest_poses.h"

namespace veld {
namespace {

constexpr double kWeightTolerance = 1e-3;  // figure.json rounds its weights to four digits

}  // namespace

bool KitReader::joint_list(const Json& list, std::vector<Joint>& out) {
    if (!list.is_array()) return fail("a list of joints is none.");
    for (const Json& j : list) {
        Joint joint;
        if (!j.is_object() || !j.contains("name") || !j["name"].is_string() || !j.contains("pos"))
            return fail("a joint lacks its name or position.");
        joint.name = j["name"].get<std::string>();
        if (!point(j["pos"], "joint '" + joint.name + "'", joint.position)) return false;
        if (j.contains("parent") && !j["parent"].is_null()) {
            for (std::size_t k = 0; k < out.size(); ++k) {
                if (j["parent"] == out[k].name) joint.parent = static_cast<int>(k);
            }
            if (joint.parent < 0)
                return fail("joint '" + joint.name + "' has the parent " + j["parent"].dump() +
                            ", which does not come before it.");
        }
        out.push_back(joint);
    }
    return true;
}

bool KitReader::joints() {
    const Json* joints = member("joints", false);
    return !joints || joint_list(*joints, kit_.joints);
}

// {"own_rig": {"joints": [...], "roles": {"hand_l": "Wrist.L"}}}
bool KitReader::own_rig() {
    const Json* j = member("own_rig", false);
    if (!j) return true;
    if (!j->is_object() || !j->contains("joints") || !j->contains("roles") || !(*j)["roles"].is_object())
        return fail("'own_rig' lacks its joints or their roles.");
    KitRig rig;
    if (!joint_list((*j)["joints"], rig.joints)) return false;
    const auto known = [](const std::vector<Joint>& all, const std::string& name) {
        return std::any_of(all.begin(), all.end(), [&](const Joint& joint) { return joint.name == name; });
    };
    for (const auto& [role, name] : (*j)["roles"].items()) {
        if (!name.is_string() || !known(kit_.joints, role) || !known(rig.joints, name.get<std::string>()))
            return fail("'own_rig' gives " + name.dump() + " the role '" + role + "'; one of them is no joint.");
        rig.roles[role] = name.get<std::string>();
    }
    if (j->contains("file")) {
        const Json& file = (*j)["file"];
        if (!file.is_string() || file.get<std::string>().find('/') != std::string::npos || !j->contains("key") ||
            !(*j)["key"].is_string())
            return fail("'own_rig' names no file beside the kit.");
        rig.file = file.get<std::string>(), rig.key = (*j)["key"].get<std::string>();
    }
    kit_.own_rig = std::move(rig);
    return true;
}

// {"rest_poses": {"T": {"upper_arm_l": [0, 0, 40]}}}: angles as in a pose file. None: those that the joints tell.
bool KitReader::rest_poses() {
    const Json* list = member("rest_poses", false);
    if (!list) return kit_.rest_poses = arm_poses(kit_.joints), true;
    if (!list->is_object()) return fail("'rest_poses' is no object.");
    for (const auto& [name, j] : list->items()) {
        auto pose = pose_from(j.dump(), kit_.joints, "the rest pose '" + name + "'");
        if (!pose) return fail(pose.error().message);
        kit_.rest_poses[name] = std::move(*pose);
    }
    return true;
}

bool KitReader::doubts() {
    if (const Json* names = member("by_hand", false)) {
        if (!names->is_array()) return fail("'by_hand' is no list.");
        for (const Json& name : *names) {
            if (name.is_string()) kit_.by_hand.insert(name.get<std::string>());
        }
    }
    const Json* j = member("doubts", false);
    if (!j) return true;
    if (!j->is_object()) return fail("'doubts' is no object.");
    for (const auto& [name, mm] : j->items()) {
        if (!number(mm, "the doubt about '" + name + "'", kit_.doubts[name])) return false;
    }
    return true;
}

bool KitReader::weights() {
    const Json* weights = member("skin_weights", !kit_.joints.empty());
    if (!weights) return why_.empty();
    const std::size_t count = kit_.mesh.positions.size();
    std::vector<int> used(count, 0);
    kit_.weights.joint.assign(count, {});
    kit_.weights.weight.assign(count, {});
    for (const auto& [name, j] : weights->items()) {
        const auto at =
            std::find_if(kit_.joints.begin(), kit_.joints.end(), [&](const Joint& k) { return k.name == name; });
        if (at == kit_.joints.end())
            return fail("'skin_weights' names the joint '" + name + "', which is not in 'joints'.");
        const auto joint = static_cast<std::uint16_t>(at - kit_.joints.begin());
        std::vector<Index> index;
        if (!j.is_object() || !j.contains("index") || !j.contains("weight") ||
            !indices(j["index"], count, "weights of '" + name + "'", index)) {
            return fail("weights of '" + name + "' lack index or weight.");
        }
        if (!j["weight"].is_array() || j["weight"].size() != index.size())
            return fail("weights of '" + name + "': index and weight differ in length.");
        for (std::size_t i = 0; i < index.size(); ++i) {
            const Index v = index[i];
            double w = 0;
            if (!number(j["weight"][i], "weights of '" + name + "'", w)) return false;
            if (w < 0 || used[v] == 4)
                return fail("vertex " + std::to_string(v) + " has a negative weight or more than four joints.");
            kit_.weights.joint[v][static_cast<std::size_t>(used[v])] = joint;
            kit_.weights.weight[v][static_cast<std::size_t>(used[v]++)] = w;
        }
    }
    for (std::size_t v = 0; v < count; ++v) {
        double sum = 0;
        for (double w : kit_.weights.weight[v]) sum += w;
        if (std::abs(sum - 1) > kWeightTolerance)
            return fail("the weights of vertex " + std::to_string(v) + " add up to " + std::to_string(sum) +
                        ", not 1.");
        for (double& w : kit_.weights.weight[v]) w /= sum;
    }
    return true;
}

bool KitReader::joint_ties() {
    const Json* ties = member("joint_ties", false);
    if (!ties) return true;
    if (!ties->is_object()) return fail("'joint_ties' is no object.");
    for (const auto& [name, j] : ties->items()) {
        const std::string where = "'joint_ties' of '" + name + "'";
        const auto at =
            std::find_if(kit_.joints.begin(), kit_.joints.end(), [&](const Joint& k) { return k.name == name; });
        if (at == kit_.joints.end()) return fail(where + ": there is no such joint.");
        JointTie& tie = kit_.joint_ties[name];
        if (!j.is_object() || !j.contains("index") || !j.contains("weight") || !j["weight"].is_array() ||
            !indices(j["index"], kit_.mesh.positions.size(), where, tie.vertex) ||
            j["weight"].size() != tie.vertex.size())
            return fail(where + " lacks index or weight, or they differ in length.");
        double sum = 0;
        for (const Json& w : j["weight"]) {
            tie.weight.push_back(0);
            if (!number(w, where, tie.weight.back())) return false;
            sum += tie.weight.back();
        }
        if (std::abs(sum - 1) > kWeightTolerance)
            return fail(where + ": the weights add up to " + std::to_string(sum) + ", not 1.");
    }
    return true;
}

bool KitReader::eyes() {
    const Json* eyes = member("eyes", false);
    if (!eyes) return true;
    if (!eyes->is_object()) return fail("'eyes' is no object.");
    for (const auto& [side, j] : eyes->items()) {
        KitEye eye;
        const std::string where = "eye '" + side + "'";
        if (!j.is_object() || !j.contains("centre") || !j.contains("radius") || !j.contains("part") ||
            !j["part"].is_string())
            return fail(where + " lacks centre, radius or part.");
        eye.part = j["part"].get<std::string>();
        if (!point(j["centre"], where, eye.centre) || !number(j["radius"], where, eye.radius)) return false;
        if (!kit_.part(eye.part) || eye.radius <= 0) return fail(where + " names no existing part or has no radius.");
        kit_.eyes.push_back(eye);
    }
    return true;
}

}  // namespace veld
