#include "core/exchange/own_order.h"

#include <filesystem>

#include "core/base/file.h"
#include "core/io/obj.h"
#include "core/kit/original.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

double median_move(const Points& a, const Points& b) {
    std::vector<double> out;
    for (std::size_t v = 0; v < a.size(); ++v) out.push_back((a[v] - b[v]).norm());
    return quantile(std::move(out), 0.5);
}

}  // namespace

Status write_in_own_order(const BaseKit& kit, const Points& shape, const std::string& comment,
                          const std::string& path) {
    auto mesh = in_original(kit, shape);
    if (!mesh) return mesh.error();
    const auto write = [&](Mesh& m, const std::string& to) {
        m.material_libraries.clear();  // they lie beside the kit, not beside this file
        m.normals.clear(), m.corner_normal.clear();
        return write_obj(to, m, comment);
    };
    if (auto ok = write(*mesh, path); !ok) return ok;
    auto further = in_further_originals(kit, shape);
    if (!further) return further.error();
    const std::filesystem::path p(path);
    for (std::size_t i = 0; i < further->size(); ++i) {
        const std::string name = p.stem().string() + "_" + kit.original->more[i].name + p.extension().string();
        if (auto ok = write((*further)[i], (p.parent_path() / name).string()); !ok) return ok;
    }
    return Done{};
}

Status write_own_glb(const BaseKit& kit, const std::vector<FileTarget>& targets, const std::string& path) {
    const auto bytes = rewritten_original(kit, kit.mesh.positions, targets);
    return bytes ? write_file(path, *bytes) : Status(bytes.error());
}

Result<Points> read_base_shape(const BaseKit& kit, const std::string& path) {
    auto file = read_mesh(path);
    if (!file) return file.error();
    const std::size_t count = file->mesh.positions.size();
    if (auto own = shape_in_own_order(kit, file->mesh.positions)) return std::move(*own);
    if (count != kit.mesh.positions.size())
        return Error{ErrorCode::BadInput, "'" + path + "': It has " + std::to_string(count) +
                                              " vertices, the base has " + std::to_string(kit.mesh.positions.size()) +
                                              ". Only shapes of this base become morphs of it."};
    if (topology_key(file->mesh) != kit.topology_key)
        return Error{ErrorCode::BadInput, "'" + path +
                                              "' has the base's vertex count but other faces, so its vertices may be "
                                              "in another order. The return check puts it in order."};
    return std::move(file->mesh.positions);
}

std::optional<Points> shape_in_own_order(const BaseKit& kit, const Points& positions) {
    auto out = from_original(kit, positions);
    if (!out) return {};
    const bool also_base = positions.size() == kit.mesh.positions.size();
    if (also_base && median_move(positions, kit.mesh.positions) <= median_move(*out, kit.mesh.positions)) return {};
    return std::move(*out);
}

}  // namespace veld
