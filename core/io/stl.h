#pragma once
// STL, binary and ascii. STL repeats every corner; corners at exactly one place become one vertex,
// in the order of their first use.
#include <string_view>

#include "core/io/mesh_file.h"

namespace veld {

Result<MeshFile> parse_stl(std::string_view bytes, const std::string& path);
Result<MeshFile> read_stl(const std::string& path);

// Binary, fan triangles.
std::string stl_bytes(const Mesh& mesh);

}  // namespace veld
