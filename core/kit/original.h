#pragma once
// The file that a kit was made from, and the way back into its vertices.
#include <string_view>

#include "core/base/result.h"
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"

namespace veld {

// What a kit keeps of a file that it is made from: its bytes; of a .gltf, with all that it refers to, one .glb.
Result<std::string> bytes_to_keep(const std::string& path);
std::string ending_to_keep(const std::string& path);  // ".obj"

// What a kit remembers of its file's bytes, to know it again.
std::string original_key(std::string_view bytes);

// The files that lie beside figure.json because the kit was made from them, in the order in which write_base_kit wants
// their sources: the base mesh, further files of it, the skeleton's. Reduced versions are not among them.
std::vector<std::string> kit_originals(const BaseKit& kit);

// A shape of the base in the vertices, order, unit and axes of the file that the kit was made from. positions: of the
// base, kit frame. Fails with BadInput when the kit was not made from a file, Io or BadFile when that is gone or
// changed.
Result<Mesh> in_original(const BaseKit& kit, const Points& positions);
// The same for the further files that the base came in, in their order.
Result<std::vector<Mesh>> in_further_originals(const BaseKit& kit, const Points& positions);

// A shape in the file's vertices, as in_original gives it, back in the kit's order and frame. Fails with BadInput when
// there are not as many.
Result<Points> from_original(const BaseKit& kit, const Points& positions);

// Is the file a GLB, so that rewritten_original can keep all that is in it?
bool original_is_glb(const BaseKit& kit);
// That file with another shape of the base and further morph targets (deltas per vertex of the base, mm); joints,
// weights and all else stay as they are. Fails as in_original and rewrite_glb.
Result<std::string> rewritten_original(const BaseKit& kit, const Points& positions,
                                       const std::vector<FileTarget>& targets);

// figure.json's "original" as text and back; `why` says what is wrong with it (empty: nothing).
std::string original_text(const KitOriginal& original);
KitOriginal original_from(const std::string& json, std::size_t base_vertices, std::string& why);

}  // namespace veld
