#include "core/tidy/change.h"

namespace veld {
namespace {

// old -> new numbers of what is used; kNone: not used
template <class T>
std::vector<Index> compact(std::vector<T>& items, const std::vector<Index>& corners) {
    std::vector<Index> to(items.size(), kNone);
    for (Index i : corners) {
        if (i != kNone) to[i] = 0;
    }
    Index next = 0;
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (to[i] == kNone) continue;
        to[i] = next;
        items[next++] = items[i];
    }
    items.resize(next);
    return to;
}

void renumber(std::vector<Index>& corners, const std::vector<Index>& to) {
    for (Index& i : corners) {
        if (i != kNone) i = to[i];
    }
}

}  // namespace

Changed keep_faces(const Mesh& mesh, const FaceMask& keep, bool drop_unused) {
    Changed out;
    Mesh& m = out.mesh;
    m.group_names = mesh.group_names, m.materials = mesh.materials, m.material_libraries = mesh.material_libraries,
    m.images = mesh.images;
    std::size_t corners = 0, faces = 0;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (keep[f]) corners += mesh.face_size(f), ++faces;
    }
    out.count = mesh.face_count() - faces;
    m.face_start.reserve(faces + 1);
    const auto take_corners = [&](const std::vector<Index>& from, std::vector<Index>& to) {
        if (from.empty()) return;
        to.reserve(corners);
        for (Index f = 0; f < mesh.face_count(); ++f) {
            if (keep[f]) to.insert(to.end(), from.begin() + mesh.face_start[f], from.begin() + mesh.face_start[f + 1]);
        }
    };
    const auto take_faces = [&](const std::vector<Index>& from, std::vector<Index>& to) {
        if (from.empty()) return;
        to.reserve(faces);
        for (Index f = 0; f < mesh.face_count(); ++f) {
            if (keep[f]) to.push_back(from[f]);
        }
    };
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (keep[f]) m.face_start.push_back(m.face_start.back() + mesh.face_size(f));
    }
    take_corners(mesh.corner_vertex, m.corner_vertex);
    take_corners(mesh.corner_uv, m.corner_uv);
    take_corners(mesh.corner_normal, m.corner_normal);
    take_faces(mesh.face_group, m.face_group);
    take_faces(mesh.face_material, m.face_material);
    m.positions = mesh.positions, m.colours = mesh.colours, m.uvs = mesh.uvs, m.normals = mesh.normals;
    if (!drop_unused) return out;
    if (!m.colours.empty()) (void)compact(m.colours, m.corner_vertex);
    const std::vector<Index> to = compact(m.positions, m.corner_vertex);
    renumber(m.corner_vertex, to);
    out.origin.resize(m.positions.size());
    for (Index v = 0; v < to.size(); ++v) {
        if (to[v] != kNone) out.origin[to[v]] = v;
    }
    if (!m.corner_uv.empty()) renumber(m.corner_uv, compact(m.uvs, m.corner_uv));
    if (!m.corner_normal.empty()) renumber(m.corner_normal, compact(m.normals, m.corner_normal));
    return out;
}

void append_triangles(Mesh& mesh, const std::vector<Triangle>& triangles, const std::vector<Triangle>& uv,
                      Index like) {
    for (std::size_t t = 0; t < triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            mesh.corner_vertex.push_back(triangles[t][k]);
            if (!mesh.corner_uv.empty()) mesh.corner_uv.push_back(uv.empty() ? kNone : uv[t][k]);
            if (!mesh.corner_normal.empty()) mesh.corner_normal.push_back(kNone);
        }
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
        if (!mesh.face_group.empty()) mesh.face_group.push_back(like == kNone ? kNone : mesh.face_group[like]);
        if (!mesh.face_material.empty())
            mesh.face_material.push_back(like == kNone ? kNone : mesh.face_material[like]);
    }
}

std::string counted(std::size_t n, const std::string& one, const std::string& many) {
    return std::to_string(n) + " " + (n == 1 ? one : many.empty() ? one + "s" : many);
}

}  // namespace veld
