#include "core/morph/head_seat.h"

#include <algorithm>

#include "core/base/smoothstep.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/smooth_map.h"
#include "core/mesh/surface_distance.h"
#include "core/morph/share.h"

namespace veld {
namespace {

// Way along the skin from the neck ring, over vertices on one side of it only; infinite elsewhere.
std::vector<double> from_ring(const BaseKit& kit, bool upwards) {
    const std::size_t count = kit.mesh.positions.size();
    VertexMask head(count, 0), skin(count, 0);
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    VertexMask passable(count, 0);
    for (std::size_t v = 0; v < count; ++v) passable[v] = skin[v] && (head[v] != 0) == upwards;
    return surface_distances(kit.mesh.positions, kit_neighbours(kit), kit.neck_ring, &passable).distance;
}

}  // namespace

Result<HeadMesh> head_mesh(const BaseKit& kit) {
    HeadMesh out;
    if (!kit.head_vertices.empty()) {
        out.mesh = kit.head, out.whole = kit.head_vertices;
        return out;
    }
    if (kit.region("head_skin").empty() || kit.neck_ring.empty())
        return Error{ErrorCode::BadInput,
                     "The kit names neither a head mesh nor a neck ring, so there is no head to take off."};
    const std::vector<double> weight = head_weights(kit, 1e-6);
    std::vector<Index> number(kit.mesh.positions.size(), kNone);
    VertexMask in(number.size(), 0);
    for (Index v = 0; v < number.size(); ++v) in[v] = weight[v] > 0;
    for (const Index v : kit.region("head_skin")) in[v] = 1;
    for (const Index v : kit.neck_ring) in[v] = 1;
    for (Index v = 0; v < number.size(); ++v) {
        if (!in[v]) continue;
        number[v] = static_cast<Index>(out.whole.size());
        out.whole.push_back(v);
        out.mesh.positions.push_back(kit.mesh.positions[v]);
    }
    out.mesh.uvs = kit.mesh.uvs;
    for (Index f = 0; f < kit.mesh.face_count(); ++f) {
        const Index begin = kit.mesh.face_start[f], end = kit.mesh.face_start[f + 1];
        if (!std::all_of(kit.mesh.corner_vertex.begin() + begin, kit.mesh.corner_vertex.begin() + end,
                         [&](Index v) { return in[v] != 0; }))
            continue;
        for (Index c = begin; c < end; ++c) {
            out.mesh.corner_vertex.push_back(number[kit.mesh.corner_vertex[c]]);
            if (!kit.mesh.corner_uv.empty()) out.mesh.corner_uv.push_back(kit.mesh.corner_uv[c]);
        }
        out.mesh.face_start.push_back(static_cast<Index>(out.mesh.corner_vertex.size()));
    }
    return out;
}

Points head_of(const HeadMesh& head, const Points& shape) {
    Points out;
    out.reserve(head.whole.size());
    for (const Index v : head.whole) out.push_back(shape[v]);
    return out;
}

Points whole_of(const HeadMesh& head, const Points& head_shape, const Points& body) {
    Points out = body;
    for (std::size_t i = 0; i < head.whole.size() && i < head_shape.size(); ++i) out[head.whole[i]] = head_shape[i];
    return out;
}

Points head_normals(const BaseKit& kit, const HeadMesh& head, const Points& shape) {
    return head_of(head, vertex_normals(shape, kit.triangulation.triangles));
}

SeatGap seat_gap(const BaseKit& kit, const Points& shape) {
    SeatGap out;
    for (const Index v : kit.neck_ring) {
        const Vec3 gap = shape[v] - kit.mesh.positions[v];
        out.mean += gap / static_cast<double>(kit.neck_ring.size());
        out.worst = std::max(out.worst, gap.norm());
    }
    return out;
}

void seat_head(const BaseKit& kit, Seat seat, double fade_mm, Points& shape) {
    if (seat == Seat::AsItLies || kit.neck_ring.empty()) return;
    const std::vector<double> weight = head_weights(kit, 1e-6);
    const bool up = seat == Seat::HeadToNeck;
    if (up) {
        const Vec3 move = seat_gap(kit, shape).mean;
        VertexMask ring(shape.size(), 0);
        for (const Index v : kit.neck_ring) ring[v] = 1;
        for (std::size_t v = 0; v < shape.size(); ++v) {
            if (weight[v] > 0 || ring[v]) shape[v] -= move;
        }
    }
    // what the ring is off now, spread smoothly into the side that gives way
    Points from, to;
    for (const Index v : kit.neck_ring) from.push_back(kit.mesh.positions[v]), to.push_back(shape[v]);
    const SmoothMap map(from, to, {}, 1e-4);
    const std::vector<double> way = from_ring(kit, up);
    std::vector<Vec3> at_ring(shape.size());
    for (const Index v : kit.neck_ring) at_ring[v] = shape[v] - kit.mesh.positions[v];
    for (std::size_t v = 0; v < shape.size(); ++v) {
        if (way[v] >= fade_mm) continue;
        const double fade = 1 - smoothstep(way[v] / fade_mm);
        const bool on_ring = way[v] == 0;
        const Vec3 off = on_ring ? at_ring[v] : Vec3(map(kit.mesh.positions[v]) - kit.mesh.positions[v]);
        if (up)
            shape[v] -= fade * off;
        else if (!on_ring)
            shape[v] += fade * off;
    }
}

}  // namespace veld
