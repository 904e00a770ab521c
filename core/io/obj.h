#pragma once
// Wavefront OBJ. Keeps vertex, face, corner, UV, normal and group order exactly: what is read,
// written and read again is identical.
//
// Read: v (with colours), vt, vn, f (polygons, negative indices), g, o (as a group), usemtl,
// mtllib. Skipped with a note: lines, points, free-form curves, smoothing groups.
#include "core/io/mesh_file.h"

namespace veld {

// path is used for messages and to find the material library; text is the file's content.
Result<MeshFile> parse_obj(std::string_view text, const std::string& path);
Result<MeshFile> read_obj(const std::string& path);

std::string obj_text(const Mesh& mesh, const std::string& comment = {});
// Positions of `mesh` are replaced by `positions` when not empty (same count).
Status write_obj(const std::string& path, const Mesh& mesh, const std::string& comment = {});

// Reads the material library's colours and map_Kd into mesh.materials; a missing library is a
// note, not an error. Images are loaded when they are JPEG or PNG.
void load_materials(const std::string& folder, MeshFile& file);

}  // namespace veld
