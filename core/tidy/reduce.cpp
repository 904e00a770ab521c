#include <meshoptimizer.h>

#include <algorithm>
#include <map>

#include "core/tidy/resample.h"

namespace veld {
namespace {

// Faces that share group and material, with one vertex for each (vertex, UV) pair.
struct Chunk {
    Index group = kNone, material = kNone;
    std::vector<Index> indices;     // into vertex
    std::vector<Index> vertex, uv;  // of the mesh
};

std::vector<Chunk> chunks_of(const Mesh& mesh) {
    std::map<std::pair<Index, Index>, Chunk> by_kind;
    std::map<std::pair<Index, Index>, std::vector<std::vector<std::pair<Index, Index>>>> known;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const std::pair kind{mesh.face_group.empty() ? kNone : mesh.face_group[f],
                             mesh.face_material.empty() ? kNone : mesh.face_material[f]};
        Chunk& chunk = by_kind[kind];
        auto& seen = known[kind];
        if (seen.empty()) seen.resize(mesh.positions.size()), chunk.group = kind.first, chunk.material = kind.second;
        const auto split = [&](Index corner) {
            const Index v = mesh.corner_vertex[corner], uv = mesh.corner_uv.empty() ? kNone : mesh.corner_uv[corner];
            for (const auto& [have, at] : seen[v]) {
                if (have == uv) return at;
            }
            seen[v].emplace_back(uv, static_cast<Index>(chunk.vertex.size()));
            chunk.vertex.push_back(v), chunk.uv.push_back(uv);
            return seen[v].back().second;
        };
        const Index first = mesh.face_start[f];
        for (Index c = first + 1; c + 1 < mesh.face_start[f + 1]; ++c)
            chunk.indices.insert(chunk.indices.end(), {split(first), split(c), split(c + 1)});
    }
    std::vector<Chunk> out;
    for (auto& [kind, chunk] : by_kind) out.push_back(std::move(chunk));
    return out;
}

}  // namespace

Changed reduce_triangles(const Mesh& mesh, std::size_t wanted, const Progress& progress) {
    const std::size_t before = mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()};
    Changed out;
    if (wanted >= before) {
        out.mesh = mesh;
        out.said = "The mesh has no more triangles than that.";
        return out;
    }
    progress.say(0, "Reducing");
    const std::vector<Chunk> chunks = chunks_of(mesh);
    Mesh m;
    m.group_names = mesh.group_names, m.materials = mesh.materials, m.material_libraries = mesh.material_libraries,
    m.images = mesh.images;
    m.positions = mesh.positions, m.colours = mesh.colours, m.uvs = mesh.uvs;
    const Vec3 middle = bounding_box(mesh.positions).centre();
    std::size_t done = 0;
    for (const Chunk& chunk : chunks) {
        if (progress.is_cancelled()) return {};
        progress.say(static_cast<double>(done) / static_cast<double>(before), "Reducing");
        done += chunk.indices.size() / 3;
        std::vector<float> positions;
        positions.reserve(chunk.vertex.size() * 3);
        for (Index v : chunk.vertex) {
            for (int k = 0; k < 3; ++k) positions.push_back(static_cast<float>(mesh.positions[v][k] - middle[k]));
        }
        std::vector<Index> kept(chunk.indices.size());
        const std::size_t target = chunk.indices.size() / 3 * wanted / before * 3;
        const unsigned options =
            chunks.size() > 1 ? static_cast<unsigned>(meshopt_SimplifyLockBorder) : 0u;  // chunks must still meet
        kept.resize(meshopt_simplify(kept.data(), chunk.indices.data(), chunk.indices.size(), positions.data(),
                                     chunk.vertex.size(), 3 * sizeof(float), target, 1e30f, options, nullptr));
        for (std::size_t i = 0; i + 2 < kept.size(); i += 3) {
            const Triangle t{chunk.vertex[kept[i]], chunk.vertex[kept[i + 1]], chunk.vertex[kept[i + 2]]};
            if (t[0] == t[1] || t[1] == t[2] || t[2] == t[0]) continue;
            for (std::size_t k = 0; k < 3; ++k) {
                m.corner_vertex.push_back(t[k]);
                if (!mesh.corner_uv.empty()) m.corner_uv.push_back(chunk.uv[kept[i + k]]);
            }
            m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
            if (!mesh.face_group.empty()) m.face_group.push_back(chunk.group);
            if (!mesh.face_material.empty()) m.face_material.push_back(chunk.material);
        }
    }
    if (m.face_count() == 0) {  // a mesh of a few triangles cannot go lower and stay a surface
        out.mesh = mesh;
        out.said = "The mesh cannot be reduced that far.";
        return out;
    }
    out = keep_faces(m, FaceMask(m.face_count(), 1));
    out.count = before - m.face_count();
    out.said = "Reduced from " + counted(before, "triangle") + " to " + std::to_string(m.face_count()) + ".";
    return out;
}

}  // namespace veld
