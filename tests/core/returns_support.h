#pragma once
// What test_returns, test_return_repairs share.
#include <catch2/catch.hpp>

#include <cmath>
#include <numeric>
#include <random>

#include "core/base/file.h"
#include "core/exchange/correspondence.h"
#include "core/exchange/frame.h"
#include "core/exchange/leftovers.h"
#include "core/io/mesh_file.h"
#include "core/mesh/subdivide.h"
#include "core/rig/pose_file.h"
#include "core/spatial/isomorphism.h"
#include "demo/standins/sculpting.h"
#include "tests/support/demo_kit.h"
#include "tests/support/fan_mesh.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

inline Mesh returned(const std::string& name) { return std::move(read_mesh(demo("returns/" + name + ".obj"))->mesh); }

// Vertices, faces and the faces' first corners in another order.
inline Mesh shuffled(const Mesh& mesh, unsigned seed, std::vector<Index>& was) {
    std::mt19937 random(seed);
    was.resize(mesh.positions.size());
    std::iota(was.begin(), was.end(), 0);
    std::shuffle(was.begin(), was.end(), random);
    std::vector<Index> now(was.size()), faces(mesh.face_count());
    for (Index i = 0; i < was.size(); ++i) now[was[i]] = i;
    std::iota(faces.begin(), faces.end(), 0);
    std::shuffle(faces.begin(), faces.end(), random);
    Mesh out;
    for (const Index v : was) out.positions.push_back(mesh.positions[v]);
    out.uvs = mesh.uvs;
    for (const Index f : faces) {
        const Index n = mesh.face_size(f), turn = static_cast<Index>(random() % n);
        for (Index k = 0; k < n; ++k) {
            const Index c = mesh.face_start[f] + (k + turn) % n;
            out.corner_vertex.push_back(now[mesh.corner_vertex[c]]);
            out.corner_uv.push_back(mesh.corner_uv[c]);
        }
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

inline double worst_to(const ReturnCheck& check, const Mesh& truth) {
    double worst = 0;
    for (Index v = 0; v < check.positions.size(); ++v) {
        if (check.returned[v]) worst = std::max(worst, (check.positions[v] - truth.positions[v]).norm());
    }
    return worst;
}

inline bool says(const ReturnCheck& check, const std::string& words) {
    return std::any_of(check.steps.begin(), check.steps.end(),
                       [&](const ReturnStep& s) { return s.what.find(words) != std::string::npos; });
}

}  // namespace
