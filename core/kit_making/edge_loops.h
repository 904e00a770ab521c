#pragma once
// Borders and lines that follow how a base was built: moved onto the loops of edges that run along them, where there
// are any. Bases without such loops (scans, remeshed surfaces) keep what was carried over.
#include <memory>

#include "core/landmark/landmark_set.h"
#include "core/mesh/mesh.h"

namespace veld {

class EdgeLoops {
 public:
    // faces: of the skin. Keeps the mesh by reference.
    EdgeLoops(const Mesh& mesh, const FaceIndices& faces);
    ~EdgeLoops();

    // A region whose border runs beside closed loops of edges, up to them (their vertices are in it). values: per
    // vertex, above 0.5 inside; read between vertices. Its vertices, ascending; as the values have it where no loop
    // is.
    VertexIndices region(const std::vector<float>& values) const;
    // A line that runs beside a row of edges, on it.
    std::vector<SurfacePoint> line(const std::vector<SurfacePoint>& carried) const;

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
