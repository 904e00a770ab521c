#pragma once
// Which vertex of one mesh is which vertex of another of the same making, whatever order a program left them in.
//
// Four ways, the first that proves itself: the old order (parts may be missing); UVs, which survive reordering,
// missing parts, triangulation and splitting; how faces hang together (isomorphism.h), for meshes without UVs; places,
// where faces were changed but nothing was moved far. What several places of the first share is told apart by its
// neighbours, loose pieces by where they lie.
#include "core/mesh/mesh.h"

namespace veld {

enum class FoundBy { Order, Uvs, Faces, Places };

struct Correspondence {
    std::vector<Index> first_of;  // per vertex of the second: its vertex of the first, kNone: none
    Index matched = 0;            // vertices of the second that have one
    Index first_found = 0;        // vertices of the first that were found
    FoundBy by = FoundBy::Order;
    // of the faces of the second whose corners were all matched: the share that are faces of the first, or parts of
    // one
    double faces_confirmed = 0;
    double faces_turned = 0;  // of those, the share that run the other way round
    std::vector<Index>
        ambiguous;  // vertices of the second that could as well be another's: pieces that are alike all around
};

// Fails with BadInput when none of the ways leads anywhere. parts: groups of vertices of the first that may be missing
// as a whole, each ascending.
Result<Correspondence> find_correspondence(const Mesh& first, const Mesh& second,
                                           const std::vector<std::vector<Index>>& parts);

}  // namespace veld
