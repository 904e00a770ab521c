#pragma once
// Fits as a project keeps them: the result of a run, and what hands changed on it.
#include "core/base/result.h"
#include "core/project/state.h"

namespace veld {

struct FitCache;
struct FitResult;
struct FitStart;
struct Progress;
struct SourceSurface;

// taken: names of the subject's other fits. touch: the layer that goes on with the new fit, may be null.
FitRecord make_record(const BaseKit& kit, FitResult&& fit, const Source& source, const std::vector<std::string>& taken,
                      std::shared_ptr<const TouchLayer> touch);

// A new try beside the others; it becomes the current one.
void add_fit(Subject& subject, FitRecord&& record);
// Takes a try away; the one before it is selected then.
void remove_fit(Subject& subject, std::size_t at);

// Did marks, ignored areas, settings or what is matched change since the current fit was made? A fit goes on from
// there.
bool outdated(const ProjectState& state);
// The current fit as a start, its parts pointing into `state`; none when its source is gone. cache may be empty.
std::optional<FitStart> start_from(const ProjectState& state, FitCache cache);

// What tells two tries' settings apart, in words ("smooth_end_mm 1.4 -> 2"); empty: nothing.
std::vector<std::string> settings_differences(const FitSettings& before, const FitSettings& now);

// Puts a layer on a fit; positions become fit plus layer, the figures are those of before until measured again.
void set_touch(const BaseKit& kit, FitRecord& record, TouchLayer layer);
// The fit without its layer.
const Points& untouched(const FitRecord& record);

// The fit as a shape of the base: touch-up included, pose taken out. What morphs are made of.
Points rest_shape(const BaseKit& kit, const FitRecord& record);

// The source's surface in the kit frame as a fit was matched to it: without what is ignored and what a figure stands
// on.
std::shared_ptr<const SourceSurface> surface_under(const Source& source, const FitRecord& fit);

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
