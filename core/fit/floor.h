#pragma once
// What a scanned figure stands on: a disc, a mat, the studio's ground.
#include <cstdint>

#include "core/mesh/types.h"

namespace veld {

// Per vertex: 1 on the plane under the feet. positions: upright within some degrees, mm. The plane with the
// most area among the level faces in the lowest sixteenth of the height, if it is larger than a hand;
// a figure's own soles count as floor when nothing else is there.
std::vector<std::uint8_t> floor_vertices(const Points& positions, const std::vector<Triangle>& triangles);

}  // namespace veld
