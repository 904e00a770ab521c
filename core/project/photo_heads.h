#pragma once
#include "core/base/result.h"
#include "core/project/state.h"
// Fits from photographs as a project keeps them.

namespace veld {

class HandSliders;
struct HandShape;
struct PhotoHead;
struct PhotoHeadSettings;
struct TouchLayer;

// The photo set that a fit was made from; null when it is gone, or the fit is none from photographs.
const PhotoSet* photo_set_of(const Subject& subject, const FitRecord& fit);
// What a set's next head is made with: its own settings, else the usual ones with the bank's heads.
PhotoHeadSettings photo_settings(const ProjectState& state, const PhotoSet& set);
// Morphs of the bank that are heads (of kind Head or Whole): what a shape space can be made of, by default.
std::vector<std::string> head_morphs(const ProjectState& state);
std::vector<std::shared_ptr<const Morph>> morphs_named(const ProjectState& state,
                                                       const std::vector<std::string>& names);

FitRecord make_photo_record(const BaseKit& kit, PhotoHead&& fit, const PhotoSet& set,
                            const PhotoHeadSettings& settings, const std::vector<std::string>& taken,
                            const HandShape& hand, std::shared_ptr<const TouchLayer> touch,
                            const HandSliders* sliders);

// Another setting of the sliders; a touch-up stays on top.
void set_hand(const BaseKit& kit, const HandSliders& sliders, FitRecord& record, const HandShape& hand);
// Another solved shape with the sliders as they are (a place that is dragged).
void set_solved(const BaseKit& kit, const HandSliders& sliders, FitRecord& record,
                std::shared_ptr<const Points> solved);

// Two people's shapes at rest as one fit. share 0 the first, 1 the second.
FitRecord blend_fits(const BaseKit& kit, const FitRecord& a, const FitRecord& b, double share,
                     const std::vector<std::string>& taken);

}  // namespace veld
