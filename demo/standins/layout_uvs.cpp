#include "demo/standins/layout_uvs.h"

#include <cmath>
#include <memory>
#include <numeric>

#include "core/kit/kit_surface.h"
#include "core/mesh/edges.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kReachMm = 60;
constexpr double kAcross = 0.03;   // of a tile: a corner this far off its face is on the other side of a seam
constexpr double kSameUv = 0.005;  // nearer ones of one vertex are one

// A quarter turned in its tile, the first two tiles swapped.
Vec2 laid_out(const Vec2& uv, int column) {
    const Vec2 in(uv.x() - column, uv.y());
    return {(column == 0 ? 1 : column == 1 ? 0 : column) + 1 - in.y(), in.x()};
}

// Islands of the kit's UVs: which one each of its UVs belongs to.
std::vector<Index> islands_of(const Mesh& mesh) {
    std::vector<Index> root(mesh.uvs.size());
    std::iota(root.begin(), root.end(), 0u);
    const auto find = [&](Index i) {
        while (root[i] != i) i = root[i] = root[root[i]];
        return i;
    };
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f] + 1; c < mesh.face_start[f + 1]; ++c)
            root[find(mesh.corner_uv[c])] = find(mesh.corner_uv[c - 1]);
    }
    for (Index i = 0; i < root.size(); ++i) root[i] = find(i);
    return root;
}

struct Island {
    std::vector<Triangle> triangles, uvs;
    std::unique_ptr<SurfaceQuery> query;
    int column = 0;
    std::multimap<Index, Index> uv_of;  // vertex of the mesh -> its UVs there: several along a tube's own seam
};

Vec2 straight_on(const Mesh& kit, const Points& shape, const Triangle& t, const Triangle& uvs, const Vec3& p) {
    const Vec3 a = shape[t[1]] - shape[t[0]], b = shape[t[2]] - shape[t[0]], d = p - shape[t[0]];
    const double aa = a.dot(a), ab = a.dot(b), bb = b.dot(b), det = aa * bb - ab * ab;
    const double s = (bb * a.dot(d) - ab * b.dot(d)) / det, r = (aa * b.dot(d) - ab * a.dot(d)) / det;
    return kit.uvs[uvs[0]] + s * (kit.uvs[uvs[1]] - kit.uvs[uvs[0]]) + r * (kit.uvs[uvs[2]] - kit.uvs[uvs[0]]);
}

}  // namespace

void layout_uvs(const BaseKit& kit, const Points& shape, const std::vector<Index>& kit_face, Mesh& mesh) {
    const std::vector<Index> island_of = islands_of(kit.mesh);
    const Triangulation fans = triangulate(kit.mesh);
    const std::vector<Triangle>& skin = skin_triangles(kit);
    std::map<Index, Island> islands;
    std::vector<Index> of_skin;  // per triangle of the skin
    const KitPart& part = *kit.part("skin");
    for (Index t = 0; t < fans.triangles.size(); ++t) {
        const Triangle& c = fans.triangle_corner[t];
        const Index island = island_of[kit.mesh.corner_uv[c[0]]];
        Island& to = islands[island];
        to.column = static_cast<int>(std::floor(kit.mesh.uvs[kit.mesh.corner_uv[c[0]]].x()));
        const Index f = fans.triangle_face[t];
        if (f < part.first_face || f >= part.first_face + part.face_count) continue;
        to.triangles.push_back(fans.triangles[t]);
        to.uvs.push_back({kit.mesh.corner_uv[c[0]], kit.mesh.corner_uv[c[1]], kit.mesh.corner_uv[c[2]]});
        of_skin.push_back(island);
    }
    for (auto& [island, one] : islands) {
        if (!one.triangles.empty()) one.query = std::make_unique<SurfaceQuery>(shape, one.triangles);
    }
    const SurfaceQuery whole(shape, skin);
    mesh.uvs.clear();
    mesh.corner_uv.assign(mesh.corner_vertex.size(), kNone);
    const auto put = [&](Index corner, Island& island, Index key, const Vec2& uv) {
        const Vec2 to = laid_out(uv, island.column);
        const auto [low, high] = island.uv_of.equal_range(key);
        for (auto at = low; at != high; ++at) {
            if ((mesh.uvs[at->second] - to).norm() < kSameUv) mesh.corner_uv[corner] = at->second;
        }
        if (mesh.corner_uv[corner] != kNone) return;
        mesh.corner_uv[corner] = island.uv_of.emplace(key, static_cast<Index>(mesh.uvs.size()))->second;
        mesh.uvs.push_back(to);
    };
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index first = mesh.face_start[f], size = mesh.face_size(f);
        if (kit_face[f] != kNone) {
            for (Index k = 0; k < size; ++k) {
                const Index uv = kit.mesh.corner_uv[kit.mesh.face_start[kit_face[f]] + k];
                put(first + k, islands.at(island_of[uv]), mesh.corner_vertex[first + k], kit.mesh.uvs[uv]);
            }
            continue;
        }
        Vec3 middle = Vec3::Zero();
        for (Index k = 0; k < size; ++k) middle += mesh.positions[mesh.corner_vertex[first + k]] / size;
        const FacingFilter facing{face_normal(mesh, f).normalized(), 0.0};
        SurfaceHit hit = whole.closest(middle, kReachMm, &facing);
        if (!hit) hit = whole.closest(middle, kReachMm);
        if (!hit) continue;
        Island& island = islands.at(of_skin[hit.triangle]);
        const SurfaceHit centre = island.query->closest(middle, kReachMm);
        for (Index k = 0; k < size; ++k) {
            const Vec3& p = mesh.positions[mesh.corner_vertex[first + k]];
            SurfaceHit near = island.query->closest(p, kReachMm, &facing);
            if (!near) near = island.query->closest(p, kReachMm);
            if (!near) continue;
            const auto from = [&](Index t) {
                return straight_on(kit.mesh, shape, island.triangles[t], island.uvs[t], p);
            };
            const Vec2 own = from(near.triangle), by_face = from(centre.triangle);
            put(first + k, island, mesh.corner_vertex[first + k], (own - by_face).norm() < kAcross ? own : by_face);
        }
    }
}

}  // namespace veld
