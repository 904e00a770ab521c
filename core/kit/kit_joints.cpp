#include "core/kit/kit_joints.h"

namespace veld {
namespace {

constexpr double kEyeMm = 3;  // a joint this near an eye's centre is that eye's

}  // namespace

const std::vector<JointTie>& joint_ties(const BaseKit& kit) {
    return kit.made.ties.get([&] {
        VertexMask skin(kit.mesh.positions.size(), 0);
        for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
        TieInput input{kit.mesh.positions, kit.joints, kit.weights, skin, kit.mirror};
        for (std::size_t j = 0; j < kit.joints.size(); ++j) {
            for (const KitEye& eye : kit.eyes) {
                const KitPart* ball = kit.part(eye.part);
                if (ball && (kit.joints[j].position - eye.centre).norm() < kEyeMm)
                    input.given.emplace_back(j, ball->vertices);
            }
        }
        std::vector<JointTie> out = tie_joints(input);
        for (std::size_t j = 0; j < out.size(); ++j) {
            if (const auto own = kit.joint_ties.find(kit.joints[j].name); own != kit.joint_ties.end())
                out[j] = own->second;
        }
        return out;
    });
}

Points joint_places(const BaseKit& kit, const Points& shape) {
    return tied_places(joint_ties(kit), kit.joints, shape);
}

std::vector<Joint> joints_in(const BaseKit& kit, const Points& shape) {
    std::vector<Joint> out = kit.joints;
    const Points places = joint_places(kit, shape);
    for (std::size_t j = 0; j < out.size(); ++j) out[j].position = places[j];
    return out;
}

}  // namespace veld
