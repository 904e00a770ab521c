#include "core/exchange/joints_out.h"

#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/glb_write.h"
#include "core/kit/kit_surface.h"
#include "core/kit_making/skeleton.h"

namespace veld {
namespace {

// Joints of the kit's own file: those that do the work of one of ours go with it, the others as the skin around them.
std::vector<Joint> own_joints(const BaseKit& kit, const SkinWeights& weights, const Points& shape,
                              const std::vector<Joint>& joints) {
    VertexMask skin(kit.mesh.positions.size(), 0);
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    const std::vector<Joint>& own = kit.own_rig->joints;
    const std::vector<JointTie> ties = tie_joints({kit.mesh.positions, own, weights, skin, kit.mirror});
    const Points places = tied_places(ties, own, shape);
    std::vector<Joint> out = own;
    for (std::size_t j = 0; j < out.size(); ++j) out[j].position = places[j];
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const auto role = kit.own_rig->roles.find(joints[j].name);
        if (role == kit.own_rig->roles.end()) continue;
        for (std::size_t k = 0; k < out.size(); ++k) {
            if (out[k].name == role->second)
                out[k].position = own[k].position + joints[j].position - kit.joints[j].position;
        }
    }
    return out;
}

}  // namespace

std::string joints_text(const BaseKit& kit, const std::vector<Joint>& joints) {
    Json out = {{"format", "veldstone-joints"}, {"version", 1}, {"unit", "mm"}, {"topology", kit.topology_key}};
    out["joints"] = Json::array();
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const Vec3 &at = joints[j].position, move = at - kit.joints[j].position;
        const Json parent =
            joints[j].parent < 0 ? Json() : Json(joints[static_cast<std::size_t>(joints[j].parent)].name);
        out["joints"].push_back({{"name", joints[j].name},
                                 {"parent", parent},
                                 {"place", {at.x(), at.y(), at.z()}},
                                 {"move", {move.x(), move.y(), move.z()}}});
    }
    return out.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<WeightCheck> export_posable_glb(const BaseKit& kit, const Points& shape, const std::vector<Joint>& joints,
                                       const std::string& path, const WeightSettings& settings) {
    Mesh mesh = kit.mesh;
    mesh.positions = shape;
    GlbModel model;
    model.mesh = &mesh, model.joints = &joints;
    model.metres_per_unit = 0.001;
    model.name = std::filesystem::path(path).stem().string();
    SkinWeights weights = kit.weights;
    std::vector<Joint> own;
    if (kit.own_rig) {
        auto kept = own_weights(kit);
        if (!kept) return kept.error();
        weights = std::move(*kept);
        own = own_joints(kit, weights, shape, joints);
        model.joints = &own;
    }
    const std::size_t count = model.joints->size();
    const auto shaped = shape_weights(shape, skin_triangles(kit), weights, count, settings);
    if (!shaped) return shaped.error();
    const WeightCheck check = check_weights(*shaped, count, settings.most);
    if (!check.is_right())
        return Error{ErrorCode::DegenerateInput,
                     "The skin weights are not right: of " + std::to_string(check.wrong_sum) +
                         " vertices they do not add up to 1, " + std::to_string(check.too_many) +
                         " hang on more than " + std::to_string(settings.most) + " joints, " +
                         std::to_string(check.strange) + " have a weight below 0 or a joint that is not there."};
    model.weights = &shaped->first, model.more_weights = &shaped->next;
    if (auto ok = write_file(path, glb_bytes(model)); !ok) return ok.error();
    return check;
}

}  // namespace veld
