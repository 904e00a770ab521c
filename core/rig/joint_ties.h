#pragma once
// How joints hang on the surface around them: a joint's place is a weighted sum of vertices, so that every shape of a
// base tells where its joints are.
//
// Of all weights that give the joint's own place back, and so every affine change of it, those are taken that are
// least where the skin is not near the joint or does not bend with it: a weighted minimum-norm solution [Lawson &
// Hanson 1974, ch. 25]. Bones lie nearer to one side of a limb or trunk than to the other, and flesh grows where they
// are far.
#include "core/rig/rig.h"

namespace veld {

struct JointTie {
    VertexIndices vertex;
    std::vector<double> weight;  // adds up to 1; may be negative
    bool operator==(const JointTie&) const = default;
};

struct TieInput {
    const Points& positions;           // of the base at rest, mm
    const std::vector<Joint>& joints;  // at rest
    const SkinWeights& weights;        // per vertex
    const VertexMask& skin;            // per vertex: may be tied to
    const std::vector<Index>& mirror;  // per vertex, the other side's; empty: none
    // joints that are tied to given vertices (an eye to its ball), by number
    std::vector<std::pair<std::size_t, VertexIndices>> given = {};
};

// One per joint, in their order. Exact under mirroring: what is tied on the left is tied on the right by the mirrored
// vertices. A joint that no skin is near (a prop's) has an empty tie.
std::vector<JointTie> tie_joints(const TieInput& input);

// The same for one joint by shares that people gave: how much each vertex may say of it, 0: nothing. Its place as it
// is now is where these vertices tell it from then on. Empty where fewer than eight say anything, or all lie in one
// plane.
JointTie tie_by_shares(const Points& positions, const Vec3& place, const std::vector<double>& shares);
// How much each vertex says in a tie, of the most that one does: 0..1; for looking at it.
std::vector<double> shares_of(const JointTie& tie, std::size_t vertices);

// Where the joints are in another shape of the base. A joint with an empty tie keeps its place against its parent.
Points tied_places(const std::vector<JointTie>& ties, const std::vector<Joint>& joints, const Points& shape);

}  // namespace veld
