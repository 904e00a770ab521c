#pragma once
// A made-up base mesh of somebody else's whose truth is known: another figure's proportions and another mesh of its
// surface, in another pose, unit, axis and vertex order, with parts under other names. All from a seed.
#include "core/base/similarity.h"
#include "core/base/units.h"
#include "core/kit/base_kit.h"

namespace veld {

struct BaseOptions {
    unsigned seed = 1;
    bool figure = true;       // false: a bust
    double edge_mm = 9;       // about, of the new mesh; finer at a head
    bool graded = false;      // finer at a head and hands, finest at eyes, mouth, nose and ears, as artists build
    bool quads = true;        // triangles paired where they may; else triangles
    bool parts = true;        // eyes, teeth, tongue and lashes
    double arms_degrees = 0;  // raised (towards T) or lowered
    bool symmetric = true;    // false: one side has another layout
    bool uvs = false;         // laid out otherwise than the kit's
    Unit unit = Unit::Centimetre;
    UpAxis up = UpAxis::PlusZ;
};

struct MadeUpBase {
    Mesh mesh;           // in its own unit and axes
    Similarity from_mm;  // kit axes, mm -> mesh
    // truth, in mm and kit axes
    std::map<std::string, Vec3> landmarks;
    std::vector<Joint> joints;                  // the kit's
    SkinWeights weights;                        // per vertex of mesh, of those joints
    std::map<std::string, Points> moves;        // the kit's expressions, per vertex of mesh
    std::map<std::string, VertexMask> regions;  // of the skin, per vertex of mesh
    Points on_kit;                              // per vertex of the skin, where on the kit it lies; NaN: nowhere
    std::vector<std::string> part_of;           // per vertex, the kit's names
    std::vector<Index> partner;                 // kNone: none
};

// The same base as its owner rigged it: other names, a joint on the floor above all, joints in the upper arms and
// thighs that take half of the twist.
struct MadeUpRig {
    std::vector<Joint> joints;                 // mm, kit axes
    SkinWeights weights;                       // per vertex of the mesh
    std::map<std::string, std::string> roles;  // truth: the kit's joint -> this one's name
};
MadeUpRig rig_of(const MadeUpBase& base);
// The mesh with that rig and the expressions as named targets, as GLB.
std::string rigged_glb(const MadeUpBase& base, const MadeUpRig& rig);

MadeUpBase make_base(const BaseKit& kit, const BaseOptions& options);

}  // namespace veld
