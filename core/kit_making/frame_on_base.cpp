#include "core/kit_making/frame_on_base.h"

#include <algorithm>

#include "core/base/units.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kBoxShare = 0.25;     // of the base's size: how far the corners of both boxes may lie apart
constexpr double kOnBaseMm = 6;        // half of the vertices lie this near; a person's size
constexpr std::size_t kSamples = 800;  // vertices that are looked at
constexpr double kSureShare = 0.2;     // of kOnBaseMm: nothing else needs to be tried

std::vector<Similarity> frames(const BaseKit& kit) {
    std::vector<Similarity> out;
    if (kit.original) out.push_back(kit.original->to_kit);
    out.emplace_back();
    for (const Unit unit : kAllUnits) {
        for (const Mat3& turn : axis_turns()) out.push_back({millimetres(unit), turn, Vec3::Zero()});
    }
    return out;
}

double boxes_apart(const Box& a, const Box& b) { return std::max((a.low - b.low).norm(), (a.high - b.high).norm()); }

}  // namespace

Result<Similarity> frame_on_base(const Mesh& mesh, const BaseKit& kit, const std::string& what) {
    const Box base = bounding_box(kit.mesh.positions), own = bounding_box(mesh.positions);
    const SurfaceQuery query(kit.mesh.positions, kit.triangulation.triangles);
    const std::size_t step = std::max<std::size_t>(1, mesh.positions.size() / kSamples);
    std::optional<Similarity> best;
    double least = kOnBaseMm;
    for (const Similarity& frame : frames(kit)) {
        Box turned;
        for (int corner = 0; corner < 8; ++corner)
            turned.add(frame(Vec3(corner & 1 ? own.low.x() : own.high.x(), corner & 2 ? own.low.y() : own.high.y(),
                                  corner & 4 ? own.low.z() : own.high.z())));
        if (boxes_apart(turned, base) > kBoxShare * base.size().norm()) continue;
        std::vector<double> off;
        for (std::size_t v = 0; v < mesh.positions.size(); v += step)
            off.push_back(query.closest(frame(mesh.positions[v]), 1e9).distance);
        const double median = quantile(std::move(off), 0.5);
        if (median < least) least = median, best = frame;
        if (best && least < kSureShare * kOnBaseMm) break;
    }
    if (!best)
        return Error{ErrorCode::BadInput, what +
                                              " does not lie on the base, whatever its unit and axes. Export it from "
                                              "the scene that the base came from, in the same place and rest pose."};
    return *best;
}

}  // namespace veld
