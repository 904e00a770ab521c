#pragma once
// Head mesh and whole mesh: a kit's head on its own, and heads that were sculpted elsewhere set back on the neck.
//
// The head's vertices are vertices of the whole mesh, so a morph carried from one to the other is the same numbers,
// and along the neck ring, which both have, the seam closes to 0. Its normals are taken from the whole mesh, so that
// none shows there either.
#include "core/morph/morph.h"

namespace veld {

struct HeadMesh {
    Mesh mesh;                 // the head's faces, in the base's order
    std::vector<Index> whole;  // per vertex of it: the base's
};
// The kit's own head mesh where it has one, else its head's skin down to the neck ring with the parts in it.
// Fails with BadInput where the kit has neither.
Result<HeadMesh> head_mesh(const BaseKit& kit);

// shape: of the whole base.
Points head_of(const HeadMesh& head, const Points& shape);
// The base with this head; the body as in `body` (the base's own, say).
Points whole_of(const HeadMesh& head, const Points& head_shape, const Points& body);
// Unit normals of the head's vertices as the whole mesh has them.
Points head_normals(const BaseKit& kit, const HeadMesh& head, const Points& shape);

enum class Seat { AsItLies, HeadToNeck, NeckToHead };
// How far a head's neck ring lies from the body's: mean and worst, mm.
struct SeatGap {
    Vec3 mean = Vec3::Zero();
    double worst = 0;
};
SeatGap seat_gap(const BaseKit& kit, const Points& shape);
// shape: whole base, its head from elsewhere, its body the base's. HeadToNeck moves the head as a whole and lets what
// is left at the ring fade upwards over fade_mm; NeckToHead lets the body's neck follow the ring, fading downwards.
// Beyond the fade nothing of the head's form, and nothing of the body, changes.
void seat_head(const BaseKit& kit, Seat seat, double fade_mm, Points& shape);

}  // namespace veld
