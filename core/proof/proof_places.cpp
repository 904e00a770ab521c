#include "core/proof/proof_places.h"

#include <algorithm>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/proof/eye_ball.h"

namespace veld {
namespace {

constexpr double kLidReach = 1.8, kEyeReach = 2.2;  // of lids and skin around an eye, in radii of the ball
constexpr double kLipMm = 14;                       // skin this near the mouth line is a lip's
constexpr double kMouthMm = 25;                     // skin this near teeth and tongue is looked at
constexpr double kSideShare = 0.03;                 // skin follows either side of a joint by more than this
constexpr double kLeastEdgeMm = 1;

bool below(const std::vector<Joint>& joints, std::size_t joint, std::size_t top) {
    for (int j = static_cast<int>(joint); j >= 0; j = joints[static_cast<std::size_t>(j)].parent)
        if (j == static_cast<int>(top)) return true;
    return false;
}

}  // namespace

KitPlacesForProofs::KitPlacesForProofs(const BaseKit& of)
    : kit(of), of_lid(skin_triangles(of).size(), 0), of_lip(skin_triangles(of).size(), 0) {
    eyes();
    lips();
    mouths();
    joints();
    skin_edges();
}

void KitPlacesForProofs::eyes() {
    const Points& base = kit.mesh.positions;
    const std::vector<Triangle>& skin = skin_triangles(kit);
    around_eye.resize(kit.eyes.size());
    for (std::size_t e = 0; e < kit.eyes.size(); ++e) {
        const KitEye& eye = kit.eyes[e];
        for (const Index v : kit.part("skin")->vertices)
            if ((base[v] - eye.centre).norm() < kEyeReach * eye.radius) around_eye[e].push_back(v);
        for (std::size_t t = 0; t < skin.size(); ++t)
            if ((base[skin[t][0]] - eye.centre).norm() < kLidReach * eye.radius) of_lid[t] = 1;
    }
    for (const auto& [name, shape] : kit.expressions) {
        std::vector<Meeting> lids;
        for (const Meeting& m : meetings_of(kit, shape))
            for (const VertexIndices& around : around_eye)
                if (std::binary_search(around.begin(), around.end(), m.a)) lids.push_back(m);
        if (!lids.empty()) meet_in[name] = std::move(lids);
    }
}

void KitPlacesForProofs::lips() {
    std::set<Triangle> upper, lower;
    const auto fans = lip_fans(kit, kLipMm);
    for (const Index t : fans[0]) upper.insert(kit.triangulation.triangles[t]);
    for (const Index t : fans[1]) lower.insert(kit.triangulation.triangles[t]);
    const std::vector<Triangle>& skin = skin_triangles(kit);
    for (std::size_t t = 0; t < skin.size(); ++t)
        of_lip[t] = upper.contains(skin[t]) ? 1 : lower.contains(skin[t]) ? 2 : 0;
    has_lips = !upper.empty() && !lower.empty();
}

void KitPlacesForProofs::mouths() {
    const Points& base = kit.mesh.positions;
    Box box;
    std::vector<Triangle> inside;
    for (std::size_t p = 0; p < kit.parts.size(); ++p) {
        const PartRule rule = kit.parts[p].rule();
        if (rule != PartRule::UpperJaw && rule != PartRule::LowerJaw) continue;
        mouth.push_back(p);
        for (const Index v : kit.parts[p].vertices) box.add(base[v]);
        for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t)
            if (kit.parts[p].has_face(kit.triangulation.triangle_face[t]))
                inside.push_back(kit.triangulation.triangles[t]);
    }
    if (inside.empty()) return;
    const Vec3 low = box.low.array() - kMouthMm, high = box.high.array() + kMouthMm;
    for (const Triangle& t : skin_triangles(kit)) {
        const Vec3& at = base[t[0]];
        if ((at.array() >= low.array()).all() && (at.array() <= high.array()).all()) mouth_triangles.push_back(t);
    }
    mouth_skin = mouth_triangles.size();
    mouth_triangles.insert(mouth_triangles.end(), inside.begin(), inside.end());
}

void KitPlacesForProofs::joints() {
    if (kit.weights.weight.size() != kit.mesh.positions.size()) return;
    const std::vector<Triangle>& skin = skin_triangles(kit);
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        const std::string& name = kit.joints[j].name;
        const bool foot = name.starts_with("foot");
        if (!foot && !name.starts_with("forearm") && !name.starts_with("shin") && name != "neck") continue;
        std::vector<double> share(kit.mesh.positions.size(), 0);
        for (std::size_t v = 0; v < share.size(); ++v)
            for (std::size_t k = 0; k < 4; ++k)
                if (below(kit.joints, kit.weights.joint[v][k], j)) share[v] += kit.weights.weight[v][k];
        if (foot) {
            VertexIndices sole;
            for (const Index v : kit.part("skin")->vertices)
                if (share[v] > 0.5) sole.push_back(v);
            if (!sole.empty()) soles.push_back(std::move(sole));
            continue;
        }
        JointPatch patch{j, {}};
        for (Index t = 0; t < skin.size(); ++t)
            if (std::all_of(skin[t].begin(), skin[t].end(),
                            [&](Index v) { return share[v] > kSideShare && share[v] < 1 - kSideShare; }))
                patch.triangles.push_back(t);
        if (!patch.triangles.empty()) patches.push_back(std::move(patch));
    }
}

void KitPlacesForProofs::skin_edges() {
    const Adjacency& ways = kit_neighbours(kit);
    for (const Index v : kit.part("skin")->vertices)
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n)
            if (*n > v && (kit.mesh.positions[v] - kit.mesh.positions[*n]).norm() > kLeastEdgeMm)
                edges.emplace_back(v, *n);
}

}  // namespace veld
