#include "core/kit_making/base_files.h"

#include <algorithm>
#include <filesystem>

#include "core/base/cache.h"
#include "core/base/file.h"
#include "core/kit/expression_file.h"
#include "core/kit/original.h"
#include "core/kit_making/seams.h"

namespace veld {
namespace {
namespace fs = std::filesystem;

// Appends a mesh as it stands; groups and materials get numbers of their own.
void append_mesh(Mesh& to, const Mesh& more, const std::string& group) {
    const Index first = to.vertex_count(), first_uv = static_cast<Index>(to.uvs.size());
    const std::size_t corners = to.corner_vertex.size(), faces = to.face_count();
    const auto first_material = static_cast<Index>(to.materials.size());
    const auto first_image = static_cast<int>(to.images.size());
    const auto group_number = static_cast<Index>(to.group_names.size());
    if (!to.colours.empty() || !more.colours.empty()) {
        to.colours.resize(first);
        to.colours.insert(to.colours.end(), more.colours.begin(), more.colours.end());
        to.colours.resize(first + more.positions.size());
    }
    to.positions.insert(to.positions.end(), more.positions.begin(), more.positions.end());
    for (const Index v : more.corner_vertex) to.corner_vertex.push_back(first + v);
    for (Index f = 0; f < more.face_count(); ++f)
        to.face_start.push_back(static_cast<Index>(corners) + more.face_start[f + 1]);
    if (!to.corner_uv.empty() || !more.corner_uv.empty()) {
        to.corner_uv.resize(corners, kNone);
        for (const Index uv : more.corner_uv) to.corner_uv.push_back(uv == kNone ? kNone : first_uv + uv);
        to.corner_uv.resize(to.corner_vertex.size(), kNone);
        to.uvs.insert(to.uvs.end(), more.uvs.begin(), more.uvs.end());
    }
    to.normals.clear(), to.corner_normal.clear();
    to.group_names.push_back(group);
    to.face_group.resize(faces, kNone);
    to.face_group.resize(to.face_count(), group_number);
    if (!to.face_material.empty() || !more.face_material.empty()) {
        to.face_material.resize(faces, kNone);
        for (const Index m : more.face_material) to.face_material.push_back(m == kNone ? kNone : first_material + m);
        to.face_material.resize(to.face_count(), kNone);
    }
    for (Material m : more.materials) {
        if (m.image >= 0) m.image += first_image;
        for (auto& [tile, image] : m.tiles) image += first_image;
        to.materials.push_back(std::move(m));
    }
    to.images.insert(to.images.end(), more.images.begin(), more.images.end());
}

// Per vertex of the files what else than its place belongs to it; empty: nothing does.
std::vector<std::uint64_t> kept_apart(const BaseFiles& files, std::size_t vertices) {
    if (!files.skin && files.targets.empty()) return {};
    std::vector<std::uint64_t> out;
    for (std::size_t v = 0; v < vertices; ++v) {
        CacheKey key;
        if (files.skin) {
            for (std::size_t k = 0; k < 4; ++k) {
                const double weight = std::round(1e4 * files.skin->weights.weight[v][k]);
                if (weight > 0) key.mix(&files.skin->weights.joint[v][k], 2), key.mix(&weight, sizeof weight);
            }
        }
        for (std::size_t t = 0; t < files.targets.size(); ++t) {
            const Eigen::Vector3f d = files.targets[t].delta[v].cast<float>();
            if (!d.isZero(0)) key.mix(&t, sizeof t), key.mix(d.data(), 3 * sizeof(float));
        }
        out.push_back(key.value());
    }
    return out;
}

Status read_one(const BaseFile& wanted, bool first, const Progress& progress, BaseFiles& out) {
    const auto bytes = bytes_to_keep(wanted.path);
    if (!bytes) return bytes.error();
    const std::string kind = ending_to_keep(wanted.path);
    auto file = read_mesh(wanted.path, progress);
    if (!file) return file.error();
    const std::string key = original_key(*bytes);
    out.notes.insert(out.notes.end(), file->notes.begin(), file->notes.end());
    const std::size_t before = out.mesh.positions.size(), count = file->mesh.positions.size();
    if (first) {
        out.original.file = "original" + kind, out.original.key = key;
        out.mesh = std::move(file->mesh);
        out.targets = std::move(file->targets);
        if (!wanted.part.empty())
            out.notes.push_back("'" + wanted.path + "' is the main file; what it holds is told from its form.");
    } else {
        const std::string name = fs::path(wanted.path).stem().string();
        const std::string group = "file " + std::to_string(out.original.more.size() + 1) + " " + name;
        out.original.more.push_back(
            {name, "original_" + std::to_string(out.original.more.size() + 2) + kind, key, count});
        append_mesh(out.mesh, file->mesh, group);
        if (!wanted.part.empty()) out.part_of[group] = wanted.part;
    }
    for (FileTarget& t : out.targets) t.delta.resize(before + count, Vec3::Zero());
    if (file->skin && file->skin->has_weights && !out.skin) {
        out.skin = std::move(file->skin);
        out.skin->weights.joint.insert(out.skin->weights.joint.begin(), before, {});
        out.skin->weights.weight.insert(out.skin->weights.weight.begin(), before, {});
    } else if (file->skin && !file->skin->has_weights) {
        out.notes.push_back("'" + wanted.path +
                            "' has joints that nothing follows: they are left aside. Export the mesh with its skin "
                            "weights to use them.");
    }
    if (out.skin) {
        out.skin->weights.joint.resize(before + count, {});
        out.skin->weights.weight.resize(before + count, {});
    }
    return Done{};
}

// A shape of the files' vertices in the kit's.
Points in_kit(const BaseKit& kit, const Points& file_positions) {
    Points out = kit.mesh.positions;
    for (std::size_t v = file_positions.size(); v-- > 0;)
        out[kit.original->work_of[v]] = kit.original->to_kit(file_positions[v]);
    return out;
}

}  // namespace

Result<BaseFiles> read_base_files(const std::vector<BaseFile>& files, const Progress& progress) {
    BaseFiles out;
    for (const BaseFile& file : files) {
        if (auto ok = read_one(file, &file == &files.front(), progress, out); !ok) return ok.error();
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    }
    const std::vector<std::uint64_t> apart = kept_apart(out, out.mesh.positions.size());
    JoinedMesh joined = join_seams(out.mesh, apart.empty() ? nullptr : &apart);
    out.file_vertices = out.mesh.positions.size();
    out.joined = out.file_vertices - joined.mesh.positions.size();
    out.mesh = std::move(joined.mesh);
    out.original.work_of = std::move(joined.work_of);
    return out;
}

std::map<std::string, Points> target_shapes(const BaseFiles& files, const BaseKit& kit) {
    std::map<std::string, Points> out;
    const Similarity& to = kit.original->to_kit;
    for (const FileTarget& target : files.targets) {
        Points& shape = out[target.name] = kit.mesh.positions;
        for (std::size_t v = 0; v < target.delta.size(); ++v) {
            const Index w = kit.original->work_of[v];
            shape[w] = kit.mesh.positions[w] + to.scale * (to.rotation * target.delta[v]);
        }
    }
    return out;
}

std::map<std::string, Points> folder_shapes(const std::string& folder, const BaseKit& kit,
                                            std::vector<std::string>& notes, const Progress& progress) {
    std::map<std::string, Points> out;
    std::vector<std::string> files;
    std::error_code failed;
    for (const auto& entry : fs::directory_iterator(folder, failed)) {
        const std::string kind = lower_extension(entry.path().string());
        if (kind == ".obj" || kind == ".ply" || kind == ".morph") files.push_back(entry.path().string());
    }
    if (files.empty()) notes.push_back("'" + folder + "' holds no expressions: no OBJ, PLY or morph file is in it.");
    std::sort(files.begin(), files.end());
    std::size_t others = 0;
    std::string first_other;
    for (const std::string& path : files) {
        if (progress.is_cancelled()) break;
        if (lower_extension(path) == ".morph") {  // differences of the base that the kit is made of
            const auto bytes = read_file(path);
            auto shape = bytes ? expression_from(bytes->view(), path, kit) : bytes.error();
            if (shape)
                out[fs::path(path).stem().string()] = std::move(*shape);
            else
                notes.push_back(shape.error().message);
            continue;
        }
        const auto file = read_mesh(path);
        if (!file) {
            notes.push_back(file.error().message);
            continue;
        }
        if (file->mesh.positions.size() != kit.original->main_vertices()) {
            if (others++ == 0)
                first_other = "'" + path + "' has " + std::to_string(file->mesh.positions.size()) +
                              " vertices, the base " + std::to_string(kit.original->main_vertices());
            continue;
        }
        out[fs::path(path).stem().string()] = in_kit(kit, file->mesh.positions);
    }
    if (others)
        notes.push_back(std::to_string(others) + " of the expressions are left out: " + first_other +
                        ". Export them from the same mesh, in its vertex order.");
    return out;
}

}  // namespace veld
