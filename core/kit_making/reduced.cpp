#include "core/kit_making/reduced.h"

#include <algorithm>
#include <filesystem>

#include "core/base/file.h"
#include "core/io/mesh_file.h"
#include "core/kit/original.h"
#include "core/kit_making/frame_on_base.h"
#include "core/kit_making/seams.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kReachMm = 60;  // of a vertex from the base

std::string path_of(const BaseKit& kit, const KitReduced& which) {
    return which.file.find('/') == std::string::npos ? (std::filesystem::path(kit.folder) / which.file).string()
                                                     : which.file;
}

}  // namespace

Result<KitReduced> tie_reduced(const BaseKit& kit, const std::string& path, const std::string& name) {
    if (name.empty()) return Error{ErrorCode::BadInput, "A reduced version needs a name."};
    for (const KitReduced& r : kit.reduced) {
        if (r.name == name) return Error{ErrorCode::BadInput, "The kit has a reduced version '" + name + "' already."};
    }
    const auto bytes = bytes_to_keep(path);
    if (!bytes) return bytes.error();
    auto file = read_mesh(path);
    if (!file) return file.error();
    const auto frame = frame_on_base(file->mesh, kit, "'" + path + "'");
    if (!frame) return frame.error();
    std::error_code failed;
    return KitReduced{name, std::filesystem::absolute(path, failed).string(), original_key(*bytes),
                      file->mesh.positions.size(), *frame};
}

Result<ReducedMesh> ReducedMesh::open(const BaseKit& kit, const KitReduced& which) {
    ReducedMesh out;
    out.path_ = path_of(kit, which);
    const auto bytes = bytes_to_keep(out.path_);
    if (!bytes) return bytes.error();
    auto file = read_mesh(out.path_);
    if (!file) return file.error();
    if (original_key(*bytes) != which.key || file->mesh.positions.size() != which.vertices)
        return Error{ErrorCode::BadFile, "'" + out.path_ + "' was changed since it became the reduced version '" +
                                             which.name + "'. Take it out of the kit and add it again."};
    out.mesh_ = std::move(file->mesh);
    out.to_kit_ = which.to_kit;
    // a file's doubled vertices are one, so that nothing comes apart along its seams
    JoinedMesh joined = join_seams(out.mesh_);
    out.place_of_ = std::move(joined.work_of);
    for (Vec3& p : joined.mesh.positions) p = which.to_kit(p);
    const Points normals = vertex_normals(joined.mesh.positions, triangulate(joined.mesh).triangles);
    out.ties_ = std::make_unique<SurfaceTies>(joined.mesh.positions, &normals, kit.mesh.positions,
                                              kit.triangulation.triangles, kReachMm);
    std::vector<double> off;
    for (const SurfaceTie& tie : out.ties_->ties()) off.push_back(tie.triangle == kNone ? kReachMm : tie.distance);
    out.most_mm_ = off.empty() ? 0 : *std::max_element(off.begin(), off.end());
    out.median_mm_ = quantile(std::move(off), 0.5);
    return out;
}

Points ReducedMesh::shape(const Points& base) const {
    const Points moved = ties_->moved(base);
    Points out;
    out.reserve(place_of_.size());
    for (const Index p : place_of_) out.push_back(moved[p]);
    return out;
}

Points ReducedMesh::in_file_frame(const Points& kit_positions) const {
    const Similarity back = to_kit_.inverse();
    Points out;
    for (const Vec3& p : kit_positions) out.push_back(back(p));
    return out;
}

}  // namespace veld
