#include "core/exchange/reduced_out.h"

#include <filesystem>

#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/io/glb_write.h"
#include "core/io/gltf_rewrite.h"
#include "core/io/obj.h"
#include "core/kit/original.h"

namespace veld {
namespace {
namespace fs = std::filesystem;

constexpr double kStillMm = 1e-4;  // a vertex that moves less is left out of lists

std::string path_beside(const std::string& path, const std::string& name) {
    const fs::path p(path);
    std::string clean = name;
    for (char& c : clean) {
        if (std::string_view("/\\:*?\"<>|").find(c) != std::string_view::npos) c = '_';
    }
    return (p.parent_path() / (p.stem().string() + "_" + clean + p.extension().string())).string();
}

Status write_shape_of(const ReducedMesh& version, const Points& shape, const std::string& comment,
                      const std::string& path) {
    Mesh mesh = version.mesh();
    mesh.positions = version.in_file_frame(version.shape(shape));
    mesh.material_libraries.clear();  // they lie beside the kit, not beside this file
    mesh.normals.clear(), mesh.corner_normal.clear();
    return write_obj(path, mesh, comment);
}

// Per vertex of the version, how a morph moves it; kit frame, mm.
Points moves_of(const BaseKit& kit, const ReducedMesh& version, const Points& rest, const Morph& morph) {
    Points out = version.shape(mix_morphs(kit.mesh.positions, {{&morph, 1.0}}));
    for (std::size_t v = 0; v < out.size(); ++v) out[v] -= rest[v];
    return out;
}

Result<std::string> targets_of(const BaseKit& kit, const ReducedMesh& version, const KitReduced& entry,
                               const std::vector<MorphAmount>& amounts) {
    const Points rest = version.shape(kit.mesh.positions);
    const Similarity back = entry.to_kit.inverse();
    std::vector<FileTarget> targets;
    std::vector<double> usual;
    for (const MorphAmount& a : amounts) {
        FileTarget target{a.morph->name, morph_about(*a.morph), moves_of(kit, version, rest, *a.morph)};
        for (Vec3& d : target.delta) d = back.scale * (back.rotation * d);
        targets.push_back(std::move(target)), usual.push_back(a.amount);
    }
    if (lower_extension(version.path()) == ".glb") {
        auto bytes = read_file(version.path());
        if (!bytes) return bytes.error();
        GlbChange change;
        change.positions = version.mesh().positions;
        change.targets = std::move(targets);
        return rewrite_glb(bytes->view(), version.path(), change);
    }
    GlbModel model;
    model.mesh = &version.mesh();
    model.metres_per_unit = entry.to_kit.scale / 1000;
    model.name = entry.name;
    for (std::size_t i = 0; i < targets.size(); ++i)
        model.targets.push_back({targets[i].name, std::move(targets[i].delta), usual[i], targets[i].about});
    return glb_bytes(model);
}

std::string list_of(const BaseKit& kit, const ReducedMesh& version, const Morph& morph) {
    Morph moved = morph;
    moved.topology = topology_key(version.mesh());
    moved.root.setZero();
    moved.index.clear(), moved.delta.clear();
    const Points rest = version.shape(kit.mesh.positions), moves = moves_of(kit, version, rest, morph);
    for (Index v = 0; v < moves.size(); ++v) {
        if (moves[v].norm() >= kStillMm) moved.index.push_back(v), moved.delta.push_back(moves[v]);
    }
    return delta_csv(moved);
}

}  // namespace

Result<ReducedOut> ReducedOut::open(const BaseKit& kit) {
    if (kit.reduced.empty())
        return Error{ErrorCode::BadInput,
                     "The kit has no reduced versions. Add them in the station Base or with 'kit edit --reduced'."};
    ReducedOut out;
    out.kit_ = &kit;
    for (const KitReduced& entry : kit.reduced) {
        auto version = ReducedMesh::open(kit, entry);
        if (!version) return version.error();
        out.all_.push_back(std::move(*version));
    }
    return out;
}

Result<std::vector<std::string>> ReducedOut::write(const std::vector<MorphAmount>& amounts,
                                                   const std::string& path) const {
    const std::string kind = lower_extension(path);
    if (kind == ".obj") {
        std::string comment = "A reduced version, in its own order, unit and axes";
        for (const MorphAmount& a : amounts) comment += "\n" + a.morph->name + " x " + std::to_string(a.amount);
        return write_shape(mix_morphs(kit_->mesh.positions, amounts), comment, path);
    }
    std::vector<std::string> out;
    for (std::size_t i = 0; i < all_.size() && !amounts.empty() && (kind == ".glb" || kind == ".csv"); ++i) {
        auto bytes = kind == ".glb" ? targets_of(*kit_, all_[i], kit_->reduced[i], amounts)
                                    : Result<std::string>(list_of(*kit_, all_[i], *amounts.front().morph));
        if (!bytes) return bytes.error();
        out.push_back(path_beside(path, kit_->reduced[i].name));
        if (auto ok = write_file(out.back(), *bytes); !ok) return ok.error();
    }
    return out;
}

Result<std::vector<std::string>> ReducedOut::write_shape(const Points& shape, const std::string& comment,
                                                         const std::string& path) const {
    std::vector<std::string> out;
    for (std::size_t i = 0; i < all_.size(); ++i) {
        out.push_back(path_beside(path, kit_->reduced[i].name));
        if (auto ok = write_shape_of(all_[i], shape, comment, out.back()); !ok) return ok.error();
    }
    return out;
}

}  // namespace veld
