#pragma once
// Who is next to whom: adjacency, borders, components. Computed once per topology.
#include "core/mesh/mesh.h"

namespace veld {

// Compressed rows: neighbours of i are items[start[i]] .. items[start[i+1]-1], ascending.
struct Adjacency {
    std::vector<Index> start;
    std::vector<Index> items;
    const Index* begin(Index i) const { return items.data() + start[i]; }
    const Index* end(Index i) const { return items.data() + start[i + 1]; }
};

Adjacency vertex_neighbours(const std::vector<Triangle>& triangles, Index vertex_count);
Adjacency vertex_triangles(const std::vector<Triangle>& triangles, Index vertex_count);

// What an inspection counts. Vertices at one place (doubled along UV seams) are taken as one.
struct TopologyReport {
    Index border_edges = 0;        // used by one face
    Index non_manifold_edges = 0;  // used by more than two
    Index degenerate_faces = 0;    // a corner repeated, or no area
    Index duplicate_faces = 0;     // same corners as an earlier face
    Index components = 0;
    Index holes = 0;             // loops of border edges
    Index doubled_vertices = 0;  // vertices that share their place with an earlier one
    Index unused_vertices = 0;
};
TopologyReport inspect_topology(const Mesh& mesh);

// For each vertex the first vertex at exactly the same place. Scans double their vertices along
// chart seams; a border test that does not see through that finds borders everywhere.
std::vector<Index> same_place(const Points& positions);

// 1 for triangles' edges (edge k joins corner k and k+1) that lie on an open border.
std::vector<std::array<bool, 3>> border_edges(const std::vector<Triangle>& triangles,
                                              const std::vector<Index>& representative);

// Component number of each vertex (through faces), numbered from 0 by first vertex; vertices at
// one place belong together.
std::vector<Index> vertex_components(const Mesh& mesh, Index* count);

}  // namespace veld
