#pragma once
// The inner edges of open lips, which stand before the mouth (follow_edge.h); and the grooves beside the lips, at the
// foot of the nose (subnasale) and under the lower lip (sublabiale), read on the profile by its chord as a person with
// a ruler would [Farkas 1994, Anthropometry of the head and face].
#include <optional>

#include "core/detect/follow_edge.h"
#include "core/spatial/surface_query.h"

namespace veld {

// from: where the lips meet, or the lip's inner edge; to: the tip of the nose, or the chin's foremost place. In a
// frame in which the face looks along +Z. Nothing when the surface is missing there or has no lip and groove.
std::optional<Vec3> groove_beside_lip(const SurfaceQuery& surface, const Vec3& from, const Vec3& to);

// guess: the inner edge of an open mouth's lip, from corner to corner, in the same frame.
std::optional<Edge> follow_lip(const SurfaceQuery& surface, const Points& guess, bool upper);

// Teeth, tongue and whatever else is seen between the lips of an open mouth: 1 for each of the positions that lies in
// the opening and behind the lips by more than they are thick at their edge. upper, lower: the lips' inner edges in
// the same frame, mm.
VertexMask seen_between_lips(const Points& positions, const Points& upper, const Points& lower);

}  // namespace veld
