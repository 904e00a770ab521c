#pragma once
// PLY: ascii, binary little-endian and big-endian; positions, vertex colours, faces (polygons).
// Other elements and properties are stepped over.
#include <string_view>

#include "core/io/mesh_file.h"

namespace veld {

Result<MeshFile> parse_ply(std::string_view bytes, const std::string& path);
Result<MeshFile> read_ply(const std::string& path);

enum class PlyEncoding { Ascii, LittleEndian, BigEndian };
// Positions as doubles, colours when present, faces as uchar/int lists; UVs and groups are lost.
std::string ply_bytes(const Mesh& mesh, PlyEncoding encoding = PlyEncoding::LittleEndian);

}  // namespace veld
