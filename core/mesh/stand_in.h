#pragma once
// A reduced stand-in for drawing a heavy mesh while the camera moves.
//
// Vertex clustering on a grid [Rossignac & Borrel 1993]: every vertex is replaced by the first one in
// its cell, triangles that collapse or repeat are dropped. Uses the vertices that are there, so it is
// only another index list; never used for anything but looking.
#include "core/mesh/types.h"

namespace veld {

// About `wanted` triangles or fewer; the input itself when it is small enough already.
std::vector<Triangle> stand_in_triangles(const Points& positions, const std::vector<Triangle>& triangles, std::size_t wanted);

}  // namespace veld
