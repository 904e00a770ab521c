#pragma once
// Morphs out for the reduced versions of a base (levels of detail), beside what goes out for the base itself.
#include "core/kit_making/reduced.h"
#include "core/morph/morph.h"

namespace veld {

class ReducedOut {
 public:
    // All of the kit's. The kit must outlive it. Fails as ReducedMesh::open, and with BadInput
    // where it has none.
    static Result<ReducedOut> open(const BaseKit& kit);

    // Beside `path`, as its name, '_' and the version's name say ("anna_half.obj"), each in its own file's order, unit
    // and axes: .obj the base with these morphs, .glb all of them as targets (a version that came as GLB is that file
    // again), .csv the first one's differences in mm. Returns the paths; other formats have no reduced versions.
    Result<std::vector<std::string>> write(const std::vector<MorphAmount>& amounts, const std::string& path) const;
    // Any shape of the base, as OBJ.
    Result<std::vector<std::string>> write_shape(const Points& shape, const std::string& comment,
                                                 const std::string& path) const;

 private:
    const BaseKit* kit_ = nullptr;
    std::vector<ReducedMesh> all_;
};

}  // namespace veld
