#include "core/kit_making/skeleton.h"

#include <algorithm>
#include <filesystem>
#include <map>

#include "core/base/file.h"
#include "core/kit/original.h"
#include "core/kit_making/frame_on_base.h"
#include "core/kit_making/own_rig.h"
#include "core/mesh/topology.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kSameWay = 0.2;  // cosine between a vertex's normal and the triangle's that it lies on
constexpr double kFarMm = 20;     // from the rigged mesh: said
constexpr double kLeastFar = 0.01;
constexpr std::size_t kMostJoints = 4;

// The strongest of what the three corners follow, adding up to 1.
void blend(const SkinWeights& from, const Triangle& on, const std::array<double, 3>& at, std::size_t v,
           SkinWeights& out) {
    std::map<std::uint16_t, double> sum;
    for (std::size_t k = 0; k < 3; ++k) {
        for (std::size_t i = 0; i < kMostJoints; ++i) {
            if (from.weight[on[k]][i] > 0) sum[from.joint[on[k]][i]] += at[k] * from.weight[on[k]][i];
        }
    }
    std::vector<std::pair<double, std::uint16_t>> sorted;
    for (const auto& [joint, weight] : sum) sorted.emplace_back(weight, joint);
    std::sort(sorted.rbegin(), sorted.rend());
    sorted.resize(std::min(sorted.size(), kMostJoints));
    double all = 0;
    for (const auto& [weight, joint] : sorted) all += weight;
    for (std::size_t i = 0; i < sorted.size() && all > 0; ++i)
        out.joint[v][i] = sorted[i].second, out.weight[v][i] = sorted[i].first / all;
}

}  // namespace

Result<Skeleton> read_skeleton(const std::string& path, const BaseKit& kit) {
    const auto bytes = bytes_to_keep(path);
    if (!bytes) return bytes.error();
    auto file = read_mesh(path);
    if (!file) return file.error();
    const std::string what = "'" + path + "'";
    if (!file->skin)
        return Error{ErrorCode::BadInput, what + " holds no joints. Export the rigged base as GLB, with its mesh."};
    if (!file->skin->has_weights)
        return Error{ErrorCode::BadInput,
                     what + " holds joints that no mesh follows. Export the base together with its skin weights."};
    const auto frame = frame_on_base(file->mesh, kit, what);
    if (!frame) return frame.error();
    Skeleton out;
    out.key = original_key(*bytes);
    out.notes = std::move(file->notes);
    out.joints = std::move(file->skin->joints);
    for (Joint& joint : out.joints) joint.position = (*frame)(joint.position);
    for (Vec3& p : file->mesh.positions) p = (*frame)(p);
    const Triangulation rigged = triangulate(file->mesh);
    const SurfaceQuery query(file->mesh.positions, rigged.triangles);
    const Points normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
    const std::size_t count = kit.mesh.positions.size();
    out.weights.joint.assign(count, {});
    out.weights.weight.assign(count, {});
    std::size_t far = 0;
    for (std::size_t v = 0; v < count; ++v) {
        const FacingFilter facing{normals[v], kSameWay};
        SurfaceHit hit = query.closest(kit.mesh.positions[v], 1e9, &facing);
        if (!hit) hit = query.closest(kit.mesh.positions[v], 1e9);
        if (!hit) continue;
        far += hit.distance > kFarMm;
        blend(file->skin->weights, rigged.triangles[hit.triangle], hit.barycentric, v, out.weights);
    }
    if (static_cast<double>(far) > kLeastFar * static_cast<double>(count))
        out.notes.push_back(std::to_string(far) + " vertices of the base lie more than " +
                            std::to_string(static_cast<int>(kFarMm)) + " mm from the mesh of " + what +
                            ": they follow what is nearest.");
    return out;
}

Result<SkinWeights> own_weights(const BaseKit& kit) {
    if (!kit.own_rig || !kit.original) return Error{ErrorCode::BadInput, "This kit's file has no joints of its own."};
    const bool apart = !kit.own_rig->file.empty();
    const std::string path =
        (std::filesystem::path(kit.folder) / (apart ? kit.own_rig->file : kit.original->file)).string();
    const auto changed = [&] {
        return Error{ErrorCode::BadFile, "'" + path + "' was changed since the kit was made. Make the kit again."};
    };
    if (apart) {
        auto skeleton = read_skeleton(path, kit);
        if (!skeleton) return skeleton.error();
        if (skeleton->key != kit.own_rig->key) return changed();
        return std::move(skeleton->weights);
    }
    // the first of the base's files that has joints, as when the kit was made
    std::size_t first = 0;
    for (std::size_t i = 0; i <= kit.original->more.size(); ++i) {
        const std::string name = i == 0 ? kit.original->file : kit.original->more[i - 1].file;
        auto file = read_mesh((std::filesystem::path(kit.folder) / name).string());
        if (!file) return file.error();
        const std::size_t count = file->mesh.positions.size();
        if (first + count > kit.original->work_of.size()) return changed();
        if (file->skin && file->skin->has_weights) {
            FileSkin& skin = *file->skin;
            skin.weights.joint.insert(skin.weights.joint.begin(), first, {});
            skin.weights.weight.insert(skin.weights.weight.begin(), first, {});
            skin.weights.joint.resize(kit.original->work_of.size(), {});
            skin.weights.weight.resize(kit.original->work_of.size(), {});
            return weights_in_kit(*kit.original, skin, kit.mesh.positions.size());
        }
        first += count;
    }
    return changed();
}

}  // namespace veld
