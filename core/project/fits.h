#pragma once
// Fits as a project keeps them: the result of a run, and what hands changed on it.
#include "core/project/state.h"

namespace veld {

// taken: names of the subject's other fits. touch: the layer that goes on with the new fit, may be null.
FitRecord make_record(const BaseKit& kit, FitResult&& fit, const std::string& source, const std::vector<std::string>& taken, std::shared_ptr<const TouchLayer> touch);

// Puts a layer on a fit; positions become fit plus layer, the figures are those of before until measured again.
void set_touch(const BaseKit& kit, FitRecord& record, TouchLayer layer);
// The fit without its layer.
const Points& untouched(const FitRecord& record);

// The fit as a shape of the base: touch-up included, pose taken out. What morphs are made of.
Points rest_shape(const BaseKit& kit, const FitRecord& record);

// What a fit is measured against, from the state that it lives in. Null source: it is no longer there.
struct Measuring {
    std::shared_ptr<const BaseKit> kit;
    std::map<std::string, SurfacePoint> base_points;
    std::map<std::string, std::vector<SurfacePoint>> base_curves;
    Source source;
    FitRecord record;
};
std::optional<Measuring> measuring_of(const ProjectState& state);
// Figures and distances of record.positions as they are now, into the record.
Status measure(Measuring& what, const Progress& progress);

}  // namespace veld
