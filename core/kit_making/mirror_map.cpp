#include "core/kit_making/mirror_map.h"

#include <algorithm>
#include <deque>
#include <map>
#include <set>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/spatial/isomorphism.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kFarShare = 0.15;  // of the mesh's size: how far a partner may lie from its mirrored place
constexpr double kConfirmed = 0.6;  // of the faces around a vertex that must have an image
constexpr double kExactMm = 0.02;   // places that are mirrored to what single precision keeps of them

Vec3 mirrored(const Vec3& p) { return {-p.x(), p.y(), p.z()}; }

// x turned round, and so the faces' direction too.
Mesh mirror_image(const Mesh& mesh) {
    Mesh out;
    out.positions.reserve(mesh.positions.size());
    for (const Vec3& p : mesh.positions) out.positions.push_back(mirrored(p));
    out.face_start = mesh.face_start;
    out.corner_vertex = mesh.corner_vertex;
    for (Index f = 0; f < mesh.face_count(); ++f)
        std::reverse(out.corner_vertex.begin() + mesh.face_start[f],
                     out.corner_vertex.begin() + mesh.face_start[f + 1]);
    return out;
}

// Pairs that contradict one another are none.
void hold_mutual(std::vector<Index>& partner) {
    const std::vector<Index> before = partner;
    for (Index v = 0; v < before.size(); ++v) {
        if (before[v] != kNone && before[before[v]] != v) partner[v] = kNone;
    }
}

// Mutually nearest in mirrored places, among those that have no partner yet.
std::size_t pair_by_place(const Mesh& mesh, double reach_mm, std::vector<Index>& partner) {
    Points left;
    std::vector<Index> number;
    for (Index v = 0; v < partner.size(); ++v) {
        if (partner[v] != kNone) continue;
        left.push_back(mesh.positions[v]);
        number.push_back(v);
    }
    if (left.empty()) return 0;
    const NearestPoints near(left, reach_mm);
    std::vector<Index> nearest(left.size(), kNone);
    for (std::size_t i = 0; i < left.size(); ++i) nearest[i] = near.nearest(mirrored(left[i]));
    std::size_t found = 0;
    for (Index i = 0; i < nearest.size(); ++i) {
        if (nearest[i] == kNone || nearest[nearest[i]] != i) continue;
        partner[number[i]] = number[nearest[i]];
        ++found;
    }
    return found;
}

// From a pair of edges to the faces beside them: their other corners are pairs too, as long as the faces are alike.
class Growth {
 public:
    Growth(const Mesh& mesh, std::vector<Index>& partner) : mesh_(mesh), links_(link_edges(mesh)), partner_(partner) {
        for (Index c = 0; c < mesh.corner_vertex.size(); ++c) at_[{from(c), to(c)}] = c;
        far_ = kFarShare * bounding_box(mesh.positions).size().norm();
    }

    void run() {
        for (Index c = 0; c < mesh_.corner_vertex.size(); ++c) todo_.push_back(c);
        while (!todo_.empty()) {
            const Index c = todo_.front();
            todo_.pop_front();
            step(c);
        }
    }

 private:
    Index from(Index c) const { return mesh_.corner_vertex[c]; }
    Index to(Index c) const { return mesh_.corner_vertex[next_corner(mesh_, links_, c)]; }

    void step(Index c) {
        const Index a = partner_[from(c)], b = partner_[to(c)];
        if (a == kNone || b == kNone) return;
        const auto other = at_.find({b, a});
        if (other == at_.end()) return;
        const Index f = links_.corner_face[c], g = links_.corner_face[other->second];
        if (mesh_.face_size(f) != mesh_.face_size(g)) return;
        // forwards here is backwards there
        Index here = next_corner(mesh_, links_, c), there = other->second;
        for (Index k = 0; k + 2 < mesh_.face_size(f); ++k) {
            here = next_corner(mesh_, links_, here), there = previous(g, there);
            pair(from(here), from(there), f, g);
        }
    }

    Index previous(Index face, Index c) const {
        return c > mesh_.face_start[face] ? c - 1 : mesh_.face_start[face + 1] - 1;
    }

    void pair(Index v, Index w, Index f, Index g) {
        if (partner_[v] != kNone || partner_[w] != kNone) return;
        const Vec3& p = mesh_.positions[w];
        if ((Vec3(-p.x(), p.y(), p.z()) - mesh_.positions[v]).norm() > far_) return;  // no asymmetry goes that far
        partner_[v] = w, partner_[w] = v;
        for (const Index face : {f, g}) {
            for (Index c = mesh_.face_start[face]; c < mesh_.face_start[face + 1]; ++c) {
                todo_.push_back(c);
                if (links_.mate[c] < kManyFaces) todo_.push_back(links_.mate[c]);
            }
        }
    }

    const Mesh& mesh_;
    EdgeLinks links_;
    std::vector<Index>& partner_;
    std::map<std::pair<Index, Index>, Index> at_;
    std::deque<Index> todo_;
    double far_ = 0;  // mm
};

// Grown pairs hold only where the faces around them are one another's images: on triangles a growth always finds a
// next vertex, also where both sides have nothing in common (a scan).
void drop_unconfirmed(const Mesh& mesh, std::vector<Index>& partner) {
    const auto corners = [&](Index f, bool mirrored) {
        std::vector<Index> out;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            const Index v = mesh.corner_vertex[c];
            out.push_back(mirrored ? partner[v] : v);
        }
        // an image runs the other way round; told from the lowest corner on
        if (mirrored) std::reverse(out.begin(), out.end());
        std::rotate(out.begin(), std::min_element(out.begin(), out.end()), out.end());
        return out;
    };
    std::set<std::vector<Index>> faces;
    for (Index f = 0; f < mesh.face_count(); ++f) faces.insert(corners(f, false));
    for (bool again = true; again;) {
        std::vector<int> all(partner.size(), 0), confirmed(partner.size(), 0);
        for (Index f = 0; f < mesh.face_count(); ++f) {
            const bool image = faces.contains(corners(f, true));
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
                ++all[mesh.corner_vertex[c]], confirmed[mesh.corner_vertex[c]] += image;
        }
        again = false;
        for (Index v = 0; v < partner.size(); ++v) {
            if (partner[v] == kNone || confirmed[v] >= kConfirmed * all[v]) continue;
            partner[partner[v]] = kNone, partner[v] = kNone;
            again = true;
        }
    }
}

}  // namespace

std::size_t MirrorMap::without() const {
    return static_cast<std::size_t>(std::count(partner.begin(), partner.end(), kNone));
}

// A piece whose places are mirrored exactly needs no walk, and an eyeball can be laid on the other in many ways that
// only places tell apart: there their pairs hold.
void prefer_exact_places(const Mesh& mesh, std::vector<Index>& partner) {
    std::vector<Index> exact(mesh.positions.size(), kNone);
    pair_by_place(mesh, kExactMm, exact);
    hold_mutual(exact);
    Index count = 0;
    const std::vector<Index> piece = vertex_components(mesh, &count);
    std::vector<std::size_t> all(count, 0), paired(count, 0);
    for (std::size_t v = 0; v < exact.size(); ++v) ++all[piece[v]], paired[piece[v]] += exact[v] != kNone;
    for (std::size_t v = 0; v < exact.size(); ++v) {
        if (paired[piece[v]] == all[piece[v]]) partner[v] = exact[v];
    }
    hold_mutual(partner);
}

MirrorMap find_mirror_map(const Mesh& mesh, double reach_mm) {
    MirrorMap out;
    out.partner = match_by_faces(mesh, mirror_image(mesh)).first_of;
    hold_mutual(out.partner);
    drop_unconfirmed(mesh, out.partner);
    prefer_exact_places(mesh, out.partner);
    out.by_faces = mesh.positions.size() - out.without();
    if (out.without() == 0) return out;
    out.by_place = pair_by_place(mesh, reach_mm, out.partner);
    Growth(mesh, out.partner).run();
    drop_unconfirmed(mesh, out.partner);
    out.by_faces = mesh.positions.size() - out.without();
    out.by_faces -= std::min(out.by_faces, out.by_place);
    return out;
}

}  // namespace veld
