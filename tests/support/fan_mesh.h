#pragma once
// Random meshes without symmetry, with UVs, from a seed.
#include <random>

#include "core/mesh/mesh.h"

namespace veld {

// A bent sheet of quads, some of them split into triangles or joined to one another's fans, with UVs of its own.
inline Mesh random_sheet(unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(-0.3, 0.3);
    const Index w = 8 + random() % 12, h = 8 + random() % 12;
    Mesh out;
    for (Index j = 0; j <= h; ++j) {
        for (Index i = 0; i <= w; ++i) {
            out.positions.emplace_back(10 * (i + any(random)), 10 * (j + any(random)),
                                       20 * std::sin(0.2 * i + 0.1 * seed) + any(random));
            out.uvs.emplace_back((i + 0.5 * any(random)) / (w + 1.0), (j + 0.5 * any(random)) / (h + 1.0));
        }
    }
    const auto face = [&](std::initializer_list<Index> corners) {
        for (const Index v : corners) out.corner_vertex.push_back(v), out.corner_uv.push_back(v);
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    };
    for (Index j = 0; j < h; ++j) {
        for (Index i = 0; i < w; ++i) {
            const Index a = j * (w + 1) + i, b = a + 1, c = b + w + 1, d = a + w + 1;
            const auto kind = random() % 4;
            if (kind == 0)
                face({a, b, c}), face({a, c, d});
            else if (kind == 1)
                face({a, b, d}), face({b, c, d});
            else
                face({a, b, c, d});
        }
    }
    return out;
}

}  // namespace veld
