#include "core/io/gather.h"

#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>

#include "core/base/file.h"
#include "core/io/archive.h"
#include "core/io/general_import.h"

namespace veld {
namespace {

namespace fs = std::filesystem;
// A folder of its own that goes with the object.
class TemporaryFolder {
 public:
    TemporaryFolder() {
        std::error_code failed;
        std::string pattern = (fs::temp_directory_path(failed) / "veldstone-XXXXXX").string();
        if (!failed && ::mkdtemp(pattern.data())) path_ = pattern;
    }
    ~TemporaryFolder() {
        std::error_code ignored;
        if (!path_.empty()) fs::remove_all(path_, ignored);
    }
    TemporaryFolder(const TemporaryFolder&) = delete;
    TemporaryFolder& operator=(const TemporaryFolder&) = delete;
    const std::string& path() const { return path_; }

 private:
    std::string path_;
};

void collect(const fs::path& folder, int depth, std::vector<std::string>& out) {
    std::error_code failed;
    std::vector<fs::path> entries;
    for (const auto& entry : fs::directory_iterator(folder, failed)) entries.push_back(entry.path());
    std::sort(entries.begin(), entries.end());
    for (const fs::path& p : entries) {
        if (p.filename().string().starts_with(".") || p.filename().string().starts_with("__")) continue;
        if (fs::is_directory(p, failed) && depth > 0)
            collect(p, depth - 1, out);
        else if (is_mesh_file(p.string()))
            out.push_back(p.string());
    }
}

void read_folder(const std::string& folder, int depth, const std::string& shown, const std::string& dropped,
                 const Progress& progress, Gathered& out) {
    std::vector<std::string> files;
    collect(folder, depth, files);
    if (files.empty())
        out.errors.push_back({ErrorCode::BadFile, "'" + dropped + "': no mesh is in it (OBJ, PLY, STL, GLB, glTF)."});
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (progress.is_cancelled()) return out.errors.push_back({ErrorCode::Cancelled, "Stopped; nothing was read."});
        progress.say(0.5 + 0.5 * static_cast<double>(i) / static_cast<double>(files.size()),
                     "Reading " + file_name(files[i]));
        auto file = read_mesh(files[i], progress);
        const std::string inside = fs::path(files[i]).lexically_relative(folder).string();
        if (file)
            out.meshes.push_back({shown + inside, dropped, std::move(*file)});
        else
            out.errors.push_back(file.error());
    }
}

}  // namespace

bool is_mesh_file(const std::string& path) {
    const std::string e = lower_extension(path);
    return e == ".obj" || e == ".ply" || e == ".stl" || e == ".glb" || e == ".gltf" || general_import_reads(e);
}

Gathered gather(const std::string& path, const Progress& progress) {
    Gathered out;
    std::error_code failed;
    if (fs::is_directory(path, failed)) {
        read_folder(path, 2, "", path, progress, out);
    } else if (lower_extension(path) == ".zip") {
        const TemporaryFolder folder;
        if (folder.path().empty())
            out.errors.push_back({ErrorCode::Io, "No temporary folder can be made to unpack '" + path +
                                                     "': the disk is full or read-only."});
        else if (auto ok = unpack_zip(path, folder.path(), progress); !ok)
            out.errors.push_back(ok.error());
        else
            read_folder(folder.path(), 20, file_name(path) + "/", path, progress, out);
    } else {
        progress.say(0, "Reading " + file_name(path));
        auto file = read_mesh(path, progress);
        if (file)
            out.meshes.push_back({file_name(path), path, std::move(*file)});
        else
            out.errors.push_back(file.error());
    }
    return out;
}

}  // namespace veld
