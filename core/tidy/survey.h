#pragma once
// What a source is and what is wrong with it, in plain words, with the tool that repairs it.
#include "core/base/similarity.h"
#include "core/mesh/topology.h"
#include "core/tidy/tools.h"

namespace veld {

enum class Weight { Fine, Note, Problem };  // Problem: in the way of a good fit

struct Finding {
    Weight weight = Weight::Note;
    std::string text;
    std::optional<Tool> repaired_by;
};

struct Survey {
    std::size_t vertices = 0, triangles = 0;
    TopologyReport topology;
    std::size_t components_small = 0;  // below 2 % of the largest one's area
    std::size_t holes_small = 0;       // up to 60 mm
    double largest_hole_mm = 0;
    std::size_t inside_out = 0;  // faces that Turn outward would turn
    std::size_t textures = 0;
    bool uv = false, colours = false, normals = false;
    Vec3 size_mm = Vec3::Zero();
    double edge_mm = 0;             // usual edge length
    std::vector<Finding> findings;  // problems first
};

Survey survey(const Mesh& mesh, const Similarity& to_upright, const Progress& progress = {});

}  // namespace veld
