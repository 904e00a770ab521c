#include "core/kit_making/lay_model.h"

#include <tbb/parallel_for.h>

#include "core/base/part_of.h"
#include "core/kit/kit_surface.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kLeastCosine = 0.2;  // between the base's normal and the model's
constexpr std::size_t kByHand = 3;    // landmarks by hand that do without a face
constexpr double kDetectShare = 0.4;  // of the time

}  // namespace

Result<LaidModel> lay_model(FaceNetwork& network, const LayInput& in, const Progress& progress) {
    const BaseKit& model = *in.model;
    LaidModel out;
    out.landmarks = in.by_hand;
    out.landmarks.unit = Unit::Millimetre;
    DetectInput look;
    look.kit = &model;
    look.source = in.base;
    look.by_shape = in.by_hand.points.size() < kByHand;  // people know better
    auto found = detect_landmarks(network, look, part_of(progress, 0, kDetectShare));
    if (found) {
        merge_found(*found, out.landmarks);
        out.left_out = found->left_out;
        out.notes = found->notes;
    } else if (found.error().code != ErrorCode::NotFound || in.by_hand.points.size() < kByHand) {
        return found.error();
    } else {
        out.notes.push_back("No face was found: the landmarks are those set by hand.");
    }
    FitInput fit;
    fit.kit = &model;
    fit.source = in.base;
    fit.landmarks = out.landmarks;
    fit.unit = Unit::Millimetre;
    fit.settings.part = in.figure ? FitPart::All : FitPart::Head;
    if (in.not_skin.size() == in.base->positions.size()) fit.ignored = &in.not_skin;
    auto done = run_fit(fit, part_of(progress, kDetectShare, 1));
    if (!done) return done.error();
    out.to_base = done->placement.source_to_kit.inverse();
    out.positions.reserve(done->positions.size());
    for (const Vec3& p : done->positions) out.positions.push_back(out.to_base(p));
    out.rest = at_rest(model, done->positions, done->pose);
    out.pose = done->pose;
    out.figures = done->figures;
    out.notes.insert(out.notes.end(), done->notes.begin(), done->notes.end());
    return out;
}

std::vector<ModelPlace> places_on_model(const BaseKit& model, const LaidModel& laid, const Mesh& base,
                                        double reach_mm) {
    const std::vector<Triangle>& triangles = skin_triangles(model);
    const SurfaceQuery query(laid.positions, triangles);
    const Points normals = vertex_normals(base.positions, triangulate(base).triangles);
    std::vector<ModelPlace> out(base.positions.size());
    tbb::parallel_for(std::size_t{0}, out.size(), [&](std::size_t v) {
        const FacingFilter facing{normals[v], kLeastCosine};
        const SurfaceHit hit = query.closest(base.positions[v], reach_mm, &facing);
        if (hit) out[v] = {hit.triangle, hit.barycentric, hit.distance};
    });
    return out;
}

}  // namespace veld
