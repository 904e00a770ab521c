#pragma once
// The base kit: the base mesh and everything that belongs to it (docs/formats.md).
//
// A kit is a folder with figure.json and the files that it names. The reader checks that all of it
// agrees (counts, indices, mirror map, weights, expressions) and says what does not.
#include <algorithm>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>

#include "core/base/made_once.h"
#include "core/base/similarity.h"
#include "core/kit/known_heads.h"
#include "core/landmark/landmarks.h"
#include "core/mesh/mesh.h"
#include "core/mesh/soft_region.h"
#include "core/mesh/topology.h"
#include "core/rig/joint_ties.h"

namespace veld {

// How a part that no scan shows goes with the skin: seated like an eyeball, rigid with a jaw, on the lids' edge, or as
// a whole with the skin around it.
enum class PartRule { Eye, UpperJaw, LowerJaw, Edge, Skin };
inline constexpr PartRule kAllPartRules[] = {PartRule::Eye, PartRule::UpperJaw, PartRule::LowerJaw, PartRule::Edge,
                                             PartRule::Skin};
const char* part_rule_name(PartRule rule);  // "upper_jaw"
std::optional<PartRule> part_rule_from_name(const std::string& name);

struct KitPart {
    std::string name;
    VertexIndices vertices;
    Index first_face = 0, face_count = 0;
    std::optional<PartRule> told;  // what people said; empty: its name tells
    PartRule rule() const;
    bool has_face(Index face) const { return face >= first_face && face < first_face + face_count; }
};

struct KitEye {
    Vec3 centre = Vec3::Zero();  // mm
    double radius = 0;           // mm
    std::string part;
};

// The file that a kit was made from. What is exported for the kit can be given back in that file's own vertices.
struct KitOriginal {
    std::string file;            // beside figure.json
    std::string key;             // of its bytes (CacheKey)
    std::vector<Index> work_of;  // per vertex of the file's mesh, then of those of `more`: the base's
    Similarity to_kit;           // the file's frame -> the kit's

    // A base may come in several files: a head and a body, or eyes by themselves.
    struct More {
        std::string name;  // of the file as it came, without folder and ending
        std::string file, key;
        std::size_t vertices = 0;
    };
    std::vector<More> more;
    std::map<Index, std::string> part_at;  // what people said of pieces: a vertex of the files -> part
    std::size_t main_vertices() const {
        std::size_t out = work_of.size();
        for (const More& m : more) out -= std::min(out, m.vertices);
        return out;
    }
};

// The joints that the kit's own file brings, in the kit's frame. Their weights and their binding stay in that file.
struct KitRig {
    std::string file, key;  // beside figure.json, when the joints came in a file of their own; empty: in the original
    std::vector<Joint> joints;                 // parents first
    std::map<std::string, std::string> roles;  // one of BaseKit::joints -> the file's joint that does its work
};

// A mesh of fewer vertices (a level of detail) that moves with the base: each of its vertices by the closest place of
// it.
struct KitReduced {
    std::string name;
    std::string file;  // beside figure.json; a whole path until the kit is saved
    std::string key;   // of its bytes
    std::size_t vertices = 0;
    Similarity to_kit;  // its frame -> the kit's
    bool operator==(const KitReduced&) const = default;
};

// What follows from a kit alone, made when kit_surface's functions are first asked for it. A kit is not changed after
// that; a copy of it begins without.
struct MadeOfKit {
    MadeOnce<Adjacency> neighbours;
    MadeOnce<Points> normals;
    MadeOnce<FaceIndices> skin_faces;
    MadeOnce<std::vector<Triangle>> skin_triangles, solid_triangles;
    MadeOnce<std::vector<double>> from_neck;
    MadeOnce<std::vector<std::pair<Index, Index>>> cuts;
    MadeOnce<std::vector<JointTie>> ties;
};

struct BaseKit {
    std::string folder;
    Mesh mesh;
    Triangulation triangulation;
    std::vector<KitPart> parts;                    // skin first
    std::map<std::string, VertexIndices> regions;  // vertices, ascending
    std::map<std::string, SurfacePoint> landmarks;
    std::map<std::string, std::vector<SurfacePoint>> curves;
    std::vector<Index> mirror;  // mirror[mirror[v]] == v
    VertexIndices unpaired;     // without a partner on the other side: the mirror map has them as their own
    VertexIndices neck_ring;    // where the head joins the body
    std::vector<Joint> joints;
    SkinWeights weights;
    std::map<std::string, JointTie> joint_ties;  // of joints that people tied themselves; the others: kit_joints.h
    std::optional<KitRig> own_rig;               // none: the file has no joints
    std::map<std::string, Pose> rest_poses;      // other rest poses of the same figure: "A", "T"
    std::vector<KitEye> eyes;
    std::map<std::string, Points> expressions;  // whole positions, same order
    Mesh head;                                  // a head mesh of its own, when the kit has one
    std::vector<Index> head_vertices;           // per vertex of it: the base's at the same place

    std::optional<KitOriginal> original;   // none: the mesh is the file's own
    std::set<std::string> by_hand;         // landmarks that people set
    std::map<std::string, double> doubts;  // landmarks that nobody has looked at yet: how far they may be off, mm
    std::vector<KitReduced> reduced;       // by name
    std::shared_ptr<const KnownHeads> known_heads;  // null: nothing is known of how heads differ
    SoftWeights head_share;                         // how much of a whole shape the head owns, painted; empty: none
    MadeOfKit made;

    const KitPart* part(const std::string& name) const;
    const VertexIndices& region(const std::string& name) const;  // empty when there is none
    LandmarkSet landmark_positions() const;                      // on the base, mm
    // changes when counts or faces change: stored with everything that hangs on the topology
    std::string topology_key;
};

// Points and curves that the scheme does not know, kept beside the kit (own_landmarks.json) and read with it.
// Replaces what was there; only names in `points` and `curves` that figure.json lacks are written.
Status write_own_landmarks(const BaseKit& kit, const std::map<std::string, SurfacePoint>& points,
                           const std::map<std::string, std::vector<SurfacePoint>>& curves);

// Painted head weights, kept beside the kit (share_weights.json) and read with it; empty ones take the file away.
Status write_share_weights(const BaseKit& kit, const SoftWeights& head);

// folder, or the path of its figure.json
Result<BaseKit> read_base_kit(const std::string& folder);
std::string topology_key(const Mesh& mesh);

}  // namespace veld
