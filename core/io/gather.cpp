#include "core/io/gather.h"

#include <zip.h>
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>

#include "core/base/file.h"
#include "core/io/general_import.h"

namespace veld {
namespace {

namespace fs = std::filesystem;
constexpr zip_uint64_t kMostBytes = 8ull << 30;
constexpr zip_int64_t kMostFiles = 1000;

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

Error refuse(const std::string& archive, const std::string& why) {
    return {ErrorCode::BadFile, "'" + archive + "': " + why};
}

// A name inside the archive that stays inside the folder; empty: leave it out.
std::string safe_name(const std::string& name) {
    const fs::path p = fs::path(name).lexically_normal();
    if (name.empty() || name.back() == '/' || p.is_absolute() || p.string().starts_with("..")) return "";
    return p.string();
}

Status unpack_one(zip_t* zip, zip_uint64_t i, const std::string& to, const std::string& archive, zip_uint64_t& total) {
    zip_file_t* in = zip_fopen_index(zip, i, 0);
    if (!in)
        return refuse(archive,
                      "the file '" + to +
                          "' in it cannot be opened (encrypted or damaged). Unpack it yourself and drop the folder.");
    std::error_code ignored;
    fs::create_directories(fs::path(to).parent_path(), ignored);
    std::ofstream out(to, std::ios::binary);
    std::vector<char> buffer(1 << 20);
    zip_int64_t n = 0;
    while (out && total <= kMostBytes && (n = zip_fread(in, buffer.data(), buffer.size())) > 0) {
        out.write(buffer.data(), n);
        total += static_cast<zip_uint64_t>(n);
    }
    const bool whole = zip_fclose(in) == 0 && n == 0;
    if (total > kMostBytes)
        return refuse(archive, "it would unpack to more than 8 GB. Unpack what you need yourself.");
    out.close();
    if (!out)
        return Error{ErrorCode::Io,
                     "'" + archive + "' cannot be unpacked into '" + to + "': the disk is full or read-only."};
    if (!whole)
        return refuse(archive, "'" + file_name(to) + "' in it is damaged or cut short. Fetch the archive again.");
    return Done{};
}

Status unpack(const std::string& archive, const std::string& folder, const Progress& progress) {
    int code = 0;
    zip_t* zip = zip_open(archive.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &code);
    if (!zip) {
        std::error_code missing;
        if (!fs::exists(archive, missing)) return Error{ErrorCode::Io, "'" + archive + "' is not there."};
        return refuse(archive, "it is no zip archive, or it is cut short. Fetch it again.");
    }
    const zip_int64_t count = zip_get_num_entries(zip, 0);
    Status ok =
        count > kMostFiles
            ? Status(refuse(archive, "it holds more than 1000 files. Unpack it yourself and drop what is needed."))
            : Status(Done{});
    zip_uint64_t total = 0;
    for (zip_int64_t i = 0; ok && i < count; ++i) {
        if (progress.is_cancelled()) ok = Error{ErrorCode::Cancelled, "Stopped; nothing was read."};
        progress.say(0.5 * static_cast<double>(i) / static_cast<double>(count), "Unpacking " + file_name(archive));
        const char* name = zip_get_name(zip, static_cast<zip_uint64_t>(i), 0);
        const std::string safe = name ? safe_name(name) : "";
        if (ok && !safe.empty())
            ok = unpack_one(zip, static_cast<zip_uint64_t>(i), folder + "/" + safe, archive, total);
    }
    zip_discard(zip);
    return ok;
}

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
        else if (auto ok = unpack(path, folder.path(), progress); !ok)
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
