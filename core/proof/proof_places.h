#pragma once
// Where on a kit proofs are measured; for the files of this folder only.
#include "core/fit/meeting.h"
#include "core/kit/base_kit.h"

namespace veld {

// Skin around a joint that bends: what follows the joint's own side and its parent's.
struct JointPatch {
    std::size_t joint = 0;
    TriangleIndices triangles;  // of the skin's
};

struct KitPlacesForProofs {
    const BaseKit& kit;
    std::vector<std::uint8_t> of_lid, of_lip;             // per skin triangle; of_lip: 1 upper, 2 lower
    bool has_lips = false;                                // the kit can tell its lips apart
    std::map<std::string, std::vector<Meeting>> meet_in;  // expression -> lids' places that meet in it
    std::vector<VertexIndices> around_eye;                // per eye of the kit
    std::vector<std::size_t> mouth;                       // parts in it: teeth, tongue
    std::vector<Triangle> mouth_triangles;                // skin around them, then their own
    std::size_t mouth_skin = 0;                           // how many of these are skin
    std::vector<JointPatch> patches;                      // elbows, knees, neck
    std::vector<VertexIndices> soles;                     // skin of each foot
    std::vector<std::pair<Index, Index>> edges;           // of the skin, each once, longer than a millimetre

    explicit KitPlacesForProofs(const BaseKit& of);

 private:
    void eyes();
    void lips();
    void mouths();
    void joints();
    void skin_edges();
};

}  // namespace veld
