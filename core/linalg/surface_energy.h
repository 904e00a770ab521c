#pragma once
// The base's own shape as an energy: how much a deformation bends and stretches it.
//
//   bending   lambda^4 sum_i s_i / A_i | sum_j w_ij (x_j - x_i) - T_i sum_j w_ij (b_j - b_i) |^2
//   stretch   mu^2     sum_ij s_ij w_ij | (x_j - x_i) - (T_i + T_j)/2 (b_j - b_i) |^2
//
// x: positions, b: base positions, w: cotangent weights, A_i: vertex area, s_i: stiffness factor of
// a vertex, T_i: the linear map that best takes the one-ring of b to that of x, smoothed over a few rings
// [Sorkine & Alexa 2007; Botsch & Sorkine 2008; a smooth field of maps as in Sumner, Schmid & Pauly 2007]:
// a deformation may stretch and shear as long as it does so evenly, which a field of similarities
// forbids; measured on made heads warped by 40 mm that took 14 % off the error (benchmarks/README.md). With a data
// term sum_i A_i |x_i - q_i|^2, lambda is the length (mm) below which the surface keeps its own shape; it does not
// depend on the mesh's density. T_i is taken from the last iterate, so the matrix stays the same for all three
// coordinates.
#include "core/linalg/spd_solver.h"
#include "core/mesh/mesh.h"

namespace veld {

struct SurfaceStencil {
    std::vector<Index> unknown;       // per vertex: its row in the system, kNone when it is held
    std::vector<Index> vertex;        // per unknown: its vertex
    std::vector<Index> ring_vertex;   // vertices that have a stencil: the unknowns' and their held neighbours'
    std::vector<Index> ring_start;    // compressed rows over ring_vertex
    std::vector<Index> neighbour;     // vertex numbers
    std::vector<double> weight;       // w_ij > 0
    std::vector<double> area;         // per ring, mm^2
    std::vector<double> vertex_area;  // per vertex of the mesh, mm^2; right where the stencil is
};

// faces: which faces of `mesh` carry the surface; active: per vertex, may it move.
// Quads count with both of their diagonals, so a mirrored face gets mirrored weights.
SurfaceStencil make_stencil(const Mesh& mesh, const FaceIndices& faces, const VertexMask& active);

// T_i for every ring of the stencil, scale within 1/3..3.
std::vector<Mat3> local_similarities(const SurfaceStencil& stencil, const Points& base, const Points& now);

class SurfaceEnergy {
 public:
    // extra: pairs of unknowns that constraints will couple (beyond the one- and two-rings)
    SurfaceEnergy(SurfaceStencil stencil, const Points& base, std::vector<std::pair<Index, Index>> extra);

    const SurfaceStencil& stencil() const { return stencil_; }
    // stiffness: per vertex of the mesh. Only needed again when it changes.
    void set_stiffness(const std::vector<double>& stiffness);
    // Another shape to bend from, of the same vertices; must outlive this.
    void set_base(const Points& base) { base_ = &base; }
    // Writes lambda^4 * bending + mu^2 * stretch into the solver's values and the right-hand side.
    void assemble(double lambda, double mu, const Points& now, Points& right_hand_side);
    SpdSolver& solver() { return solver_; }

 private:
    void prepare_slots();
    std::vector<Mat3> smooth_local_maps(const Points& now) const;

    SurfaceStencil stencil_;
    const Points* base_;
    SpdSolver solver_;
    std::vector<double> bending_, stretch_;  // values over the solver's slots
    std::vector<double> ring_stiffness_;
    std::vector<Index> pair_slot_;  // slots of each ring's products, in order
    std::vector<Index> edge_slot_;  // slot of (centre, neighbour), kNone when one is held
    std::vector<Index> diagonal_;
    std::vector<Index> ring_neighbour_;  // parallel to the stencil's neighbours: their ring
};

}  // namespace veld
