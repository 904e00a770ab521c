#include "core/io/mesh_write.h"

#include <filesystem>
#include <map>
#include <set>

#include "core/base/file.h"
#include "core/io/glb_write.h"
#include "core/io/obj.h"
#include "core/io/ply.h"
#include "core/io/stl.h"

namespace veld {
namespace {

namespace fs = std::filesystem;

// A name for a texture beside the OBJ: the image's own, without folders; never that of another picture that
// is there already.
std::string texture_name(const Image& image, const std::string& folder, std::set<std::string>& taken) {
    std::string name = file_name(image.name);
    if (name.empty()) name = "texture";
    const std::string kind = image.mime == "image/png" ? ".png" : ".jpg";
    const std::string have = lower_extension(name);
    if (have != ".png" && have != ".jpg" && have != ".jpeg") name += kind;
    const std::string stem = fs::path(name).stem().string(), extension = fs::path(name).extension().string();
    const auto of_another = [&] {
        const auto there = read_file(folder + "/" + name);
        return there && there->view() !=
                            std::string_view(reinterpret_cast<const char*>(image.bytes.data()), image.bytes.size());
    };
    for (int i = 2; taken.contains(name) || of_another(); ++i) name = stem + "_" + std::to_string(i) + extension;
    taken.insert(name);
    return name;
}

Status write_obj_with_textures(const std::string& path, const Mesh& mesh, const std::string& comment) {
    Mesh out = mesh;
    out.material_libraries.clear();
    if (!out.materials.empty()) {
        const std::string stem = fs::path(path).stem().string(), folder = folder_of(path);
        std::set<std::string> taken;
        std::map<int, std::string> names;
        std::string library;
        const auto keep = [&](int at) -> Status {
            if (names.contains(at)) return Done{};
            const Image& image = mesh.images[static_cast<std::size_t>(at)];
            const std::string name = texture_name(image, folder, taken);
            names[at] = name;
            return write_file(folder + "/" + name,
                              {reinterpret_cast<const char*>(image.bytes.data()), image.bytes.size()});
        };
        for (Material& m : out.materials) {
            if (m.name.empty()) m.name = "material_" + std::to_string(&m - out.materials.data() + 1);
            char colour[96];
            std::snprintf(colour, sizeof colour, "Kd %.6g %.6g %.6g\n", m.colour[0], m.colour[1], m.colour[2]);
            library += "newmtl " + m.name + "\n" + colour;
            if (!m.tiles.empty()) {
                for (const auto& [tile, image] : m.tiles) {
                    if (auto ok = keep(image); !ok) return ok;
                }
                library += "map_Kd " + file_name(m.image_path) + "\n";
            } else if (m.image >= 0) {
                if (auto ok = keep(m.image); !ok) return ok;
                library += "map_Kd " + names[m.image] + "\n";
            }
        }
        if (auto ok = write_file(folder + "/" + stem + ".mtl", library); !ok) return ok;
        out.material_libraries = {stem + ".mtl"};
    }
    return write_obj(path, out, comment);
}

}  // namespace

Status write_mesh(const std::string& path, const Mesh& mesh, double metres_per_unit, const std::string& comment) {
    const std::string extension = lower_extension(path);
    if (extension == ".obj") return write_obj_with_textures(path, mesh, comment);
    if (extension == ".ply") return write_file(path, ply_bytes(mesh, PlyEncoding::LittleEndian));
    if (extension == ".stl") return write_file(path, stl_bytes(mesh));
    if (extension == ".glb") {
        GlbModel model;
        model.name = fs::path(path).stem().string();
        model.mesh = &mesh;
        model.metres_per_unit = metres_per_unit;
        return write_file(path, glb_bytes(model));
    }
    return Error{ErrorCode::Unsupported, "'" + path + "': a mesh is not written to a file ending in '" + extension +
                                             "'. Use OBJ, PLY, STL or GLB."};
}

}  // namespace veld
