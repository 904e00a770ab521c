#pragma once
// What differs between two shapes: of the same base vertex by vertex, of any two meshes surface by surface.
//
// Millimetres in the frame that the meshes are in (brought together first when asked). Signed distances
// are positive where the second lies outside the first.
#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/fit/figures.h"

namespace veld {

enum class Align { None, Rigid, Similarity };

struct SurfaceDifference {
    DistanceFigures distance;        // absolute
    double mean = 0;                 // signed
    double share_within_mm[3] = {};  // of the vertices within 0.1, 0.5 and 1 mm
};

struct ShapeDifference {
    bool same_topology = false;  // both are the kit's base: counts and faces agree
    Similarity second_to_first;  // what Align found
    SurfaceDifference first_to_second, second_to_first_surface;
    // only of the same topology, over the skin and each of its regions
    DistanceFigures moved;  // vertex to vertex
    std::map<std::string, DistanceFigures> regions;
    double edge_p95 = 1, edge_max = 1;  // second's edge length against the first's, or its inverse
    double area_p95 = 1, area_max = 1;
    double angle_p95 = 0, angle_max = 0;    // degrees
    Index flipped_faces = 0;                // of the second, seen from the first
    Index first_cuts = 0, second_cuts = 0;  // self-intersections
    double first_symmetry_mm = 0, second_symmetry_mm = 0;
};

// kit: null: surfaces only. Align over all vertices of the same topology, by ICP otherwise.
// Fails with BadInput when a mesh is broken, with Cancelled.
Result<ShapeDifference> compare_shapes(const BaseKit* kit, const Mesh& first, const Mesh& second, Align align,
                                       const Progress& progress);

// Distortion of `now` against `base` over faces, means taken out: into the edge, area and angle fields.
struct Distortion {
    double edge_p95 = 1, edge_max = 1, area_p95 = 1, area_max = 1, angle_p95 = 0, angle_max = 0;
};
Distortion distortion_of(const Mesh& topology, const FaceIndices& faces, const Points& base, const Points& now);

}  // namespace veld
