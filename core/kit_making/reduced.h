#pragma once
// Meshes of fewer vertices that belong to a base (levels of detail): each is tied to it by the closest places, so
// every shape of the base is one of theirs too.
#include "core/base/progress.h"
#include "core/kit/base_kit.h"
#include "core/spatial/surface_ties.h"

namespace veld {

// A mesh file as a reduced version of the kit's base; the kit itself is not changed. Fails as read_mesh and
// frame_on_base, with BadInput where the name is empty or taken.
Result<KitReduced> tie_reduced(const BaseKit& kit, const std::string& path, const std::string& name);

// One of the kit's, read from its file. The kit must outlive it.
class ReducedMesh {
 public:
    // Fails with Io or BadFile when the file is gone or changed.
    static Result<ReducedMesh> open(const BaseKit& kit, const KitReduced& which);

    const Mesh& mesh() const { return mesh_; }  // the file's own order, unit and axes
    const std::string& path() const { return path_; }
    // Per vertex of mesh(), kit frame, for a shape of the base.
    Points shape(const Points& base) const;
    Points in_file_frame(const Points& kit_positions) const;
    // How far the mesh lies from the base at rest, mm.
    double median_mm() const { return median_mm_; }
    double most_mm() const { return most_mm_; }

 private:
    Mesh mesh_;
    std::string path_;
    Similarity to_kit_;
    std::vector<Index> place_of_;  // per vertex of mesh_: of the points that are tied, vertices at one place being one
    std::unique_ptr<SurfaceTies> ties_;
    double median_mm_ = 0, most_mm_ = 0;
};

}  // namespace veld
