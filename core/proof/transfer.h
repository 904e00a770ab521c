#pragma once
// How the base's skin moves in a shape, done by another head's skin.
//
// Expression cloning [Noh & Neumann 2001]: each vertex's way is turned and stretched as the head around it is against
// the base. That is nearer to what heads do whose own expressions are known than the base's triangles' turns and
// stretches on the head's (deformation transfer [Sumner & Popovic 2004]): measured, benchmarks/README.md. Skin that
// the shape does not move stays exactly where it is. Teeth and tongue go as the base's do, sized as the head's are;
// lashes ride on the lids.
#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

// Skin that a shape moves by less stays.
inline constexpr double kMovesMm = 1e-3;

// How much larger than the base's this head is.
double head_size(const BaseKit& kit, const Points& head);

// How the head lies to the base around each vertex that some expression moves: the affine map that skin around it
// says, towards the head's own size where that says little.
class HeadMap {
 public:
    HeadMap(const BaseKit& kit, const Points& head);
    const Mat3& at(Index vertex) const { return map_[vertex]; }

 private:
    std::vector<Mat3> map_;
};

// head: every vertex in the head's shape at rest; shape: of the base; out: begins as head, gets the skin.
void transfer_skin(const BaseKit& kit, const Points& head, const HeadMap& map, const Points& shape, Points& out);
// What is no skin. out: has the skin.
void transfer_parts(const BaseKit& kit, const Points& head, const Points& shape, Points& out);

}  // namespace veld
