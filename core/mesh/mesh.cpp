#include "core/mesh/mesh.h"

#include <algorithm>
#include <cmath>

namespace veld {

int udim_of(const Vec2& uv) {
    const double u = std::clamp(std::floor(uv.x()), 0.0, 9.0), v = std::clamp(std::floor(uv.y()), 0.0, 98.0);
    return 1001 + static_cast<int>(u) + 10 * static_cast<int>(v);
}

int image_of(const Material& material, const Vec2& uv) {
    if (material.tiles.empty()) return material.image;
    const int wanted = udim_of(uv);
    for (const auto& [tile, image] : material.tiles) {
        if (tile == wanted) return image;
    }
    return -1;
}

bool has_tiles(const Mesh& mesh) {
    return std::any_of(mesh.materials.begin(), mesh.materials.end(),
                       [](const Material& m) { return !m.tiles.empty(); });
}

Mesh tiles_as_materials(const Mesh& mesh) {
    Mesh out = mesh;
    if (mesh.corner_uv.empty() || mesh.face_material.empty()) return out;
    std::map<std::pair<Index, int>, Index> made;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index material = mesh.face_material[f];
        if (material == kNone || mesh.materials[material].tiles.empty()) continue;
        Vec2 middle = Vec2::Zero();
        int known = 0;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            if (mesh.corner_uv[c] != kNone) middle += mesh.uvs[mesh.corner_uv[c]], ++known;
        }
        if (known == 0) continue;
        middle /= known;
        const int tile = udim_of(middle);
        const auto [at, fresh] = made.try_emplace({material, tile}, static_cast<Index>(out.materials.size()));
        if (fresh) {
            Material m = mesh.materials[material];
            m.image = image_of(m, middle);
            m.name += "." + std::to_string(tile);
            m.tiles.clear();
            out.materials.push_back(m);
        }
        out.face_material[f] = at->second;
    }
    return out;
}

Triangulation triangulate(const Mesh& mesh) {
    Triangulation out;
    const std::size_t count = mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()};
    out.triangles.reserve(count);
    out.triangle_face.reserve(count);
    out.triangle_corner.reserve(count);
    for (Index face = 0; face < mesh.face_count(); ++face) {
        const Index first = mesh.face_start[face];
        for (Index corner = first + 1; corner + 1 < mesh.face_start[face + 1]; ++corner) {
            out.triangles.push_back(
                {mesh.corner_vertex[first], mesh.corner_vertex[corner], mesh.corner_vertex[corner + 1]});
            out.triangle_face.push_back(face);
            out.triangle_corner.push_back({first, corner, corner + 1});
        }
    }
    return out;
}

Box bounding_box(const Points& points) {
    Box box;
    for (const Vec3& p : points) box.add(p);
    return box;
}

namespace {

void make_unit(Points& normals) {
    for (Vec3& n : normals) {
        const double length = n.norm();
        n = length > 0 ? Vec3(n / length) : Vec3(Vec3::Zero());
    }
}

}  // namespace

Points vertex_normals(const Points& positions, const std::vector<Triangle>& triangles) {
    Points normals(positions.size(), Vec3::Zero());
    for (const Triangle& t : triangles) {
        const Vec3 n = (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]);
        for (Index v : t) normals[v] += n;
    }
    make_unit(normals);
    return normals;
}

Points seamless_normals(const Points& positions, const std::vector<Triangle>& triangles,
                        const std::vector<Index>& place) {
    Points normals(positions.size(), Vec3::Zero());
    for (const Triangle& t : triangles) {
        const Vec3 n = (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]);
        for (Index v : t) normals[place[v]] += n;
    }
    make_unit(normals);
    for (std::size_t v = 0; v < normals.size(); ++v) normals[v] = normals[place[v]];
    return normals;
}

namespace {

Error bad_mesh(const std::string& what, const std::string& why) { return {ErrorCode::BadInput, what + ": " + why}; }

Status check_corners(const std::vector<Index>& corners, std::size_t count, bool may_miss, const std::string& what,
                     const char* name) {
    for (std::size_t c = 0; c < corners.size(); ++c) {
        if (may_miss && corners[c] == kNone) continue;
        if (corners[c] >= count) {
            return bad_mesh(what, "corner " + std::to_string(c) + " asks for " + name + " " +
                                      std::to_string(corners[c]) + " of " + std::to_string(count) +
                                      ". The file is damaged or cut short; export it again.");
        }
    }
    return Done{};
}

}  // namespace

Status check_mesh(const Mesh& mesh, const std::string& what) {
    if (mesh.positions.empty()) return bad_mesh(what, "has no vertices, so there is nothing to work on.");
    if (mesh.face_count() == 0) {
        return bad_mesh(
            what, "has " + std::to_string(mesh.vertex_count()) + " points but no faces. Export it with its surface.");
    }
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) {
        if (!mesh.positions[v].allFinite()) {
            return bad_mesh(what, "vertex " + std::to_string(v) +
                                      " has a coordinate that is not a number (NaN or infinite). "
                                      "Delete that vertex where the mesh was made and export again.");
        }
    }
    const std::size_t corners = mesh.corner_vertex.size();
    if (mesh.face_start.front() != 0 || mesh.face_start.back() != corners) {
        return bad_mesh(what, "the face table does not cover its corners.");
    }
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (mesh.face_start[f + 1] < mesh.face_start[f] + 3) {
            return bad_mesh(what, "face " + std::to_string(f) + " has fewer than three corners.");
        }
    }
    if (auto ok = check_corners(mesh.corner_vertex, mesh.positions.size(), false, what, "vertex"); !ok) {
        return ok;
    }
    if (auto ok = check_corners(mesh.corner_uv, mesh.uvs.size(), true, what, "texture point"); !ok) {
        return ok;
    }
    return check_corners(mesh.corner_normal, mesh.normals.size(), true, what, "normal");
}

std::vector<Triangle> face_triangles(const Mesh& mesh, const FaceIndices& faces) {
    std::vector<Triangle> out;
    for (Index f : faces) {
        const Index* c = mesh.corner_vertex.data() + mesh.face_start[f];
        for (Index k = 1; k + 1 < mesh.face_size(f); ++k) out.push_back({c[0], c[k], c[k + 1]});
    }
    return out;
}

}  // namespace veld
