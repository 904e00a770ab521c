#include "core/morph/joint_moves.h"

namespace veld {

Points joint_moves(const BaseKit& kit, const Morph& morph) {
    Points moved = kit.mesh.positions;
    for (std::size_t i = 0; i < morph.index.size(); ++i) moved[morph.index[i]] += morph.delta[i];
    const Points before = joint_places(kit, kit.mesh.positions);
    Points out = joint_places(kit, moved);
    for (std::size_t j = 0; j < out.size(); ++j) {
        out[j] -= before[j];
        if (const auto fixed = morph.joints.find(kit.joints[j].name); fixed != morph.joints.end())
            out[j] = fixed->second;
    }
    return out;
}

std::vector<Joint> mixed_joints(const BaseKit& kit, const std::vector<MorphAmount>& amounts) {
    std::vector<Joint> out = kit.joints;
    for (const MorphAmount& a : amounts) {
        if (a.amount == 0) continue;
        const Points moves = joint_moves(kit, *a.morph);
        for (std::size_t j = 0; j < out.size(); ++j) out[j].position += a.amount * (moves[j] + a.morph->root);
    }
    return out;
}

std::vector<Joint> joints_with_fixed(const BaseKit& kit, const Points& shape,
                                     const std::vector<MorphAmount>& amounts) {
    std::vector<Joint> out = joints_in(kit, shape);
    for (const MorphAmount& a : amounts) {
        if (a.amount == 0 || a.morph->joints.empty()) continue;
        Morph told = *a.morph;
        told.joints.clear();
        const Points fixed = joint_moves(kit, *a.morph), by_shape = joint_moves(kit, told);
        for (std::size_t j = 0; j < out.size(); ++j) out[j].position += a.amount * (fixed[j] - by_shape[j]);
    }
    return out;
}

void fix_joints(const BaseKit& kit, Morph& morph) {
    const Points moves = joint_moves(kit, morph);
    for (std::size_t j = 0; j < moves.size(); ++j) morph.joints.emplace(kit.joints[j].name, moves[j]);
}

}  // namespace veld
