#include "core/mesh/stand_in.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace veld {

namespace {

// Each vertex's stand-in: the first vertex in its cell. Empty when the mesh has no extent.
std::vector<Index> cell_representatives(const Points& positions, double area, std::size_t wanted) {
    // a closed surface has about two triangles a vertex, and a grid cuts a slanted one in more cells than a flat one
    const double cell = std::sqrt(3.0 * area / static_cast<double>(wanted));
    if (!(cell > 0)) return {};
    Vec3 low = positions.front();
    for (const Vec3& p : positions) low = low.cwiseMin(p);
    std::unordered_map<std::uint64_t, Index> first_in_cell;
    first_in_cell.reserve(wanted);
    std::vector<Index> out(positions.size());
    for (Index v = 0; v < positions.size(); ++v) {
        const Vec3 at = (positions[v] - low) / cell;
        std::uint64_t key = 0;
        for (int k = 0; k < 3; ++k) key = (key << 21) | (static_cast<std::uint64_t>(at[k]) & 0x1fffff);
        out[v] = first_in_cell.try_emplace(key, v).first->second;
    }
    return out;
}

}  // namespace

std::vector<Triangle> stand_in_triangles(const Points& positions, const std::vector<Triangle>& triangles,
                                         std::size_t wanted) {
    if (triangles.size() <= wanted || wanted == 0) return triangles;
    double area = 0;
    for (const Triangle& t : triangles)
        area += 0.5 * (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]).norm();
    const std::vector<Index> representative = cell_representatives(positions, area, wanted);
    if (representative.empty()) return triangles;
    std::vector<Triangle> out;
    for (const Triangle& t : triangles) {
        Triangle r{representative[t[0]], representative[t[1]], representative[t[2]]};
        if (r[0] == r[1] || r[1] == r[2] || r[2] == r[0]) continue;
        // smallest first, so that repeats are found; the turn stays
        std::rotate(r.begin(), std::min_element(r.begin(), r.end()), r.end());
        out.push_back(r);
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

LightMesh light_version(const Mesh& mesh, std::size_t wanted) {
    LightMesh out;
    Mesh& m = out.mesh;
    m.materials = mesh.materials, m.images = mesh.images;
    double area = 0;
    const auto each_triangle = [&](auto visit) {
        for (Index f = 0; f < mesh.face_count(); ++f) {
            const Index first = mesh.face_start[f];
            for (Index c = first + 1; c + 1 < mesh.face_start[f + 1]; ++c) visit(f, first, c, c + 1);
        }
    };
    const auto at = [&](Index corner) -> const Vec3& { return mesh.positions[mesh.corner_vertex[corner]]; };
    each_triangle(
        [&](Index, Index a, Index b, Index c) { area += 0.5 * (at(b) - at(a)).cross(at(c) - at(a)).norm(); });
    const std::vector<Index> representative = cell_representatives(mesh.positions, area, wanted);
    std::vector<Index> number(mesh.positions.size(), kNone), uv_number(mesh.uvs.size(), kNone);
    each_triangle([&](Index f, Index a, Index b, Index c) {
        const auto stand_in = [&](Index corner) {
            return representative.empty() ? mesh.corner_vertex[corner] : representative[mesh.corner_vertex[corner]];
        };
        const Triangle r{stand_in(a), stand_in(b), stand_in(c)};
        if (r[0] == r[1] || r[1] == r[2] || r[2] == r[0]) return;
        const std::array<Index, 3> corners{a, b, c};
        for (std::size_t k = 0; k < 3; ++k) {
            Index& n = number[r[k]];
            if (n == kNone) {
                n = m.vertex_count();
                m.positions.push_back(mesh.positions[r[k]]);
                out.origin.push_back(r[k]);
                if (!mesh.colours.empty()) m.colours.push_back(mesh.colours[r[k]]);
            }
            m.corner_vertex.push_back(n);
            if (mesh.corner_uv.empty()) continue;
            const Index uv = mesh.corner_uv[corners[k]];
            if (uv != kNone && uv_number[uv] == kNone)
                uv_number[uv] = static_cast<Index>(m.uvs.size()), m.uvs.push_back(mesh.uvs[uv]);
            m.corner_uv.push_back(uv == kNone ? kNone : uv_number[uv]);
        }
        m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
        if (!mesh.face_material.empty()) m.face_material.push_back(mesh.face_material[f]);
    });
    return out;
}

}  // namespace veld
