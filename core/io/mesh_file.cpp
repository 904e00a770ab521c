#include "core/io/mesh_file.h"

#include "core/base/file.h"
#include "core/io/general_import.h"
#include "core/io/gltf_read.h"
#include "core/io/obj.h"
#include "core/io/ply.h"
#include "core/io/stl.h"

namespace veld {

Result<MeshFile> read_mesh(const std::string& path, const Progress& progress) {
    const std::string extension = lower_extension(path);
    Result<MeshFile> file = [&]() -> Result<MeshFile> {
        if (extension == ".obj") return read_obj(path);
        if (extension == ".ply") return read_ply(path);
        if (extension == ".stl") return read_stl(path);
        if (extension == ".glb" || extension == ".gltf") return read_gltf(path);
        if (general_import_reads(extension)) return general_import(path, progress);
        return Error{ErrorCode::Unsupported, "'" + path + "': a file ending in '" + extension +
                                                 "' is not read here. Use OBJ, PLY, STL, GLB or glTF."};
    }();
    if (!file) return file;
    if (auto ok = check_mesh(file->mesh, "'" + path + "'"); !ok) return ok.error();
    return file;
}

}  // namespace veld
