#pragma once
// Small meshes made by code.
#include <cmath>
#include <map>

#include "core/mesh/mesh.h"

namespace veld {

inline void add_face(Mesh& mesh, std::initializer_list<Index> corners) {
    mesh.corner_vertex.insert(mesh.corner_vertex.end(), corners);
    mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
}

// Unit cube of six quads, outward.
inline Mesh cube() {
    Mesh m;
    for (int i = 0; i < 8; ++i) m.positions.emplace_back(i & 1, (i >> 1) & 1, (i >> 2) & 1);
    add_face(m, {0, 2, 3, 1}), add_face(m, {4, 5, 7, 6}), add_face(m, {0, 1, 5, 4});
    add_face(m, {2, 6, 7, 3}), add_face(m, {0, 4, 6, 2}), add_face(m, {1, 3, 7, 5});
    return m;
}

// n x n quads in the plane z = height(x, y), side `size`.
template <class Height>
Mesh sheet(int n, double size, Height height) {
    Mesh m;
    for (int j = 0; j <= n; ++j) {
        for (int i = 0; i <= n; ++i) {
            const double x = size * (static_cast<double>(i) / n - 0.5), y = size * (static_cast<double>(j) / n - 0.5);
            m.positions.emplace_back(x, y, height(x, y));
        }
    }
    const auto at = [&](int i, int j) { return static_cast<Index>(j * (n + 1) + i); };
    for (int j = 0; j < n; ++j) {
        for (int i = 0; i < n; ++i) add_face(m, {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)});
    }
    return m;
}

// A cube with everything that files can carry.
inline Mesh decorated_cube() {
    Mesh m = cube();
    m.uvs = {{0, 0}, {1, 0}, {1, 1}, {0, 1.0 / 3}};
    m.normals = {{0, 0, 1}, {0.6, 0.8, 0}};
    for (Index c = 0; c < m.corner_vertex.size(); ++c) {
        m.corner_uv.push_back(c % 4);
        m.corner_normal.push_back(c < 4 ? kNone : c % 2);
    }
    m.group_names = {"left side", "right"};
    m.face_group = {0, 0, 1, 1, 0, 1};
    m.materials.resize(2);
    m.materials[0].name = "skin", m.materials[1].name = "cloth";
    m.face_material = {0, 1, 1, 0, 0, 1};
    m.positions[3] = Vec3(0.1, 1e-17 + 1.0 / 3, -123456.789012345678);
    return m;
}

}  // namespace veld
