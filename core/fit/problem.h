#pragma once
// From kit, marks and settings to what the wrap is asked to do: who may move, who is matched, how stiff.
#include "core/base/similarity.h"
#include "core/fit/fit.h"

namespace veld {

// Which part of the skin a fit of this part moves, per vertex; regions that are kept are not yet taken out.
VertexMask moving_vertices(const BaseKit& kit, FitPart part, const std::vector<double>& fade);
BaseCreases find_creases(const BaseKit& kit, const VertexMask& moving);

// Per vertex 0..1: where a region's setting acts. Painted regions by their weights, the kit's own fading over
// fade_mm. Empty: there is no such region.
std::vector<float> region_weights(const BaseKit& kit, const FitSettings& settings, const std::string& region);

// surface: null when only points and curves shape the fit. Points into surface and creases.
WrapProblem make_problem(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                         const Similarity& to_kit, const SourceSurface* surface, const BaseCreases& creases,
                         std::vector<std::string>& notes);

// A curve that was marked in part (half of a jaw on half a head) draws none of the base's that lies beyond its end;
// where a point says how far the base's goes, all of it is drawn. shape: about where the base's places will come to
// lie.
void leave_open_ends(const Points& shape, WrapProblem& problem);

// Skin that no camera sees: sockets, the inside of mouth and nostrils.
VertexIndices hidden_skin(const BaseKit& kit);

// Vertices of the source that are never matched: what is painted so, and what a figure stands on.
VertexMask never_matched(const FitInput& input, const Similarity& to_kit);

}  // namespace veld
