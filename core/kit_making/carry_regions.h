#pragma once
// The model's regions and neck ring on the base.
#include "core/kit_making/lay_model.h"

namespace veld {

// Regions of the model's skin: vertices of the base's skin whose place on the model lies inside by more than half;
// their borders on the base's own loops of edges where there are any. even: the base is, so both sides are their mean.
// Of the base its mesh, parts and mirror map are looked at.
std::map<std::string, VertexIndices> carried_regions(const BaseKit& model, const std::vector<ModelPlace>& places,
                                                     const BaseKit& base, bool even);

// The closed loop of edges between faces that belong to the head and such that do not, in order around the neck; the
// longest when there are several. Empty: the base is all head, or has none. head: per vertex 0..1; faces: of the skin.
VertexIndices loop_around_head(const Mesh& base, const FaceIndices& faces, const std::vector<float>& head);
// The open border of the skin that lies lowest, in order: where a head or bust ends.
VertexIndices lowest_border(const Mesh& base, const FaceIndices& faces);

}  // namespace veld
