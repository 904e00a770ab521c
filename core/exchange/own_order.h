#pragma once
// Shapes of a kit that was made from a file, in that file's own vertices.
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"
#include "core/morph/morph.h"

namespace veld {

// OBJ in the file's order, unit and axes; further files of the base are written beside it ("head_eyes.obj").
Status write_in_own_order(const BaseKit& kit, const Points& shape, const std::string& comment,
                          const std::string& path);
// The kit's GLB with these targets besides its own; joints, weights and all else are as they were.
Status write_own_glb(const BaseKit& kit, const std::vector<FileTarget>& targets, const std::string& path);
// Positions of a file as the base's, kit frame: it has the vertices of the file that the kit was made from, in that
// file's frame, and lies nearer to the base so than as it is. None: it is not so.
std::optional<Points> shape_in_own_order(const BaseKit& kit, const Points& positions);

// A shape of the base from a mesh file, kit frame: in the base's own order, or in that of the file that the kit was
// made from. Fails as read_mesh, with BadInput where it is neither.
Result<Points> read_base_shape(const BaseKit& kit, const std::string& path);

}  // namespace veld
