#include "core/kit/kit_joints.h"

#include "core/landmark/landmarks.h"

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

Result<std::map<std::string, JointTie>> ties_by_shares(const BaseKit& kit, const std::string& joint,
                                                       const std::vector<double>& shares, bool both) {
    const auto place_of = [&](const std::string& name) -> const Vec3* {
        for (const Joint& j : kit.joints)
            if (j.name == name) return &j.position;
        return nullptr;
    };
    const Vec3* place = place_of(joint);
    if (!place) return Error{ErrorCode::NotFound, "The kit has no joint '" + joint + "'."};
    const std::string other = other_side(joint);
    const Vec3* its_place = both && !other.empty() ? place_of(other) : nullptr;
    std::vector<double> mirrored(shares.size()), own = shares;
    for (std::size_t v = 0; v < shares.size(); ++v) mirrored[v] = shares[kit.mirror[v]];
    for (std::size_t v = 0; both && !its_place && v < shares.size(); ++v) own[v] = 0.5 * (shares[v] + mirrored[v]);
    std::map<std::string, JointTie> out{{joint, tie_by_shares(kit.mesh.positions, *place, own)}};
    if (its_place) out[other] = tie_by_shares(kit.mesh.positions, *its_place, mirrored);
    for (const auto& [name, tie] : out)
        if (tie.vertex.empty())
            return Error{ErrorCode::DegenerateInput, "What '" + name +
                                                         "' would be tied to is too little to say where it is: it "
                                                         "takes eight vertices that do not lie in one plane."};
    return out;
}

std::map<std::string, JointTie> ties_again(const BaseKit& before, const BaseKit& kit) {
    std::map<std::string, JointTie> out;
    const Points& x = kit.mesh.positions;
    for (const Joint& joint : kit.joints) {
        const auto tie = before.joint_ties.find(joint.name);
        if (tie == before.joint_ties.end()) continue;
        JointTie here = tie_by_shares(x, joint.position, shares_of(tie->second, x.size()));
        if (!here.vertex.empty()) out[joint.name] = std::move(here);
    }
    return out;
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
