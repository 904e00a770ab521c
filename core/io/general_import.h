#pragma once
// Formats that are not ours, by a general library (assimp). It runs in a process of its own, `veldstone-importer`
// beside the program, with limits on memory and time: such a library believes what a damaged file promises.
#include "core/base/progress.h"
#include "core/io/mesh_file.h"

namespace veld {

// Endings that it is asked for (".fbx", ".off", ...).
bool general_import_reads(const std::string& extension);

struct ImportLimits {
    std::size_t memory_bytes = 0;  // 0: by the file's size
    double seconds = 0;            // 0: by the file's size
};

// One mesh with materials and embedded textures, in the file's own axes and unit as far as the library keeps them.
// Fails with BadFile (not readable), Limit (it asked for more memory or time than such a file may), Io (the importer
// or the file is missing), Cancelled.
Result<MeshFile> general_import(const std::string& path, const Progress& progress = {},
                                const ImportLimits& limits = {});

// What the importer answers with: a line of JSON, then the mesh's bytes.
std::string import_answer(const MeshFile& file);
std::string import_answer(const Error& error);
Result<MeshFile> read_import_answer(std::string_view answer, const std::string& path);

}  // namespace veld
