#include "core/project/inbox.h"

#include <zip.h>
#include <algorithm>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "core/base/file.h"
#include "core/io/gather.h"
#include "core/io/image.h"
#include "core/project/sources.h"

namespace veld {
namespace {

namespace fs = std::filesystem;

// Files that an OBJ, its library or a glTF names; read from the text, so that a file that is still
// being written only names less.
std::vector<std::string> named_files(const std::string& path) {
    std::vector<std::string> out;
    const std::string folder = folder_of(path), kind = lower_extension(path);
    std::ifstream in(path, std::ios::binary);
    if (kind == ".obj" || kind == ".mtl") {
        for (std::string line; std::getline(in, line);) {
            while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.pop_back();
            const bool library = line.starts_with("mtllib "), texture = kind == ".mtl" && line.starts_with("map_Kd ");
            if (!library && !texture) continue;
            const std::string file = folder + "/" + line.substr(7);
            if (file.find("<UDIM>") != std::string::npos) continue;
            out.push_back(file);
            if (library) {
                for (std::string& t : named_files(file)) out.push_back(std::move(t));
            }
        }
    } else if (kind == ".gltf") {
        std::stringstream text;
        text << in.rdbuf();
        const std::string s = text.str();
        for (std::size_t at = s.find("\"uri\""); at != std::string::npos; at = s.find("\"uri\"", at + 5)) {
            const std::size_t from = s.find('"', s.find(':', at)), to = s.find('"', from + 1);
            if (from == std::string::npos || to == std::string::npos) break;
            const std::string uri = s.substr(from + 1, to - from - 1);
            if (!uri.starts_with("data:")) out.push_back(folder + "/" + uri);
        }
    }
    return out;
}

// Sizes that files state of themselves.
bool looks_whole(const std::string& path) {
    const std::string kind = lower_extension(path);
    std::error_code failed;
    const auto size = fs::file_size(path, failed);
    if (failed || size == 0) return false;
    if (kind == ".glb") {
        std::ifstream in(path, std::ios::binary);
        std::uint32_t words[3] = {};
        in.read(reinterpret_cast<char*>(words), 12);
        return in && words[0] == 0x46546C67 && words[2] <= size;
    }
    if (kind == ".zip") {
        int code = 0;
        zip_t* zip = zip_open(path.c_str(), ZIP_RDONLY, &code);
        if (zip) zip_discard(zip);
        return zip != nullptr;
    }
    return true;
}

}  // namespace

bool Inbox::settled(const std::string& file, std::int64_t now_ms, std::string& stamp) {
    const std::string now = file_stamp(file);
    stamp += file_name(file) + ":" + now + ";";
    Seen& seen = seen_[file];
    if (seen.stamp != now) seen = {now, now_ms};
    return !now.empty() && now_ms - seen.since >= quiet_ms_;
}

void Inbox::look_at_mesh(const std::string& path, std::int64_t now_ms, std::vector<Delivery>& out) {
    Delivery d;
    d.path = path;
    d.name = file_name(path);
    bool quiet = settled(path, now_ms, d.stamp);
    for (const std::string& needed : named_files(path)) {
        std::error_code failed;
        if (!fs::exists(needed, failed)) {
            if (d.waiting_for.empty()) d.waiting_for = "'" + file_name(needed) + "'";
            quiet = false;
        } else {
            quiet &= settled(needed, now_ms, d.stamp);
        }
    }
    if (quiet && !looks_whole(path)) quiet = false, d.waiting_for = "the rest of the file";
    d.complete = quiet;
    if (!quiet && d.waiting_for.empty()) d.waiting_for = "the end of the transfer";
    if (!done_.contains(d.stamp)) out.push_back(std::move(d));
}

void Inbox::look_at_photos(const std::string& folder, const std::vector<std::string>& files, std::int64_t now_ms,
                           std::vector<Delivery>& out) {
    Delivery d;
    d.kind = DeliveryKind::Photos;
    d.path = folder;
    d.name = file_name(folder);
    d.files = files;
    // a set grows picture by picture: twice the patience
    bool quiet = true;
    for (const std::string& file : files) quiet &= settled(file, now_ms - quiet_ms_, d.stamp);
    d.complete = quiet && files.size() >= 2;
    if (!d.complete) d.waiting_for = files.size() < 2 ? "more pictures" : "the end of the transfer";
    if (!done_.contains(d.stamp)) out.push_back(std::move(d));
}

std::vector<Delivery> Inbox::look(std::int64_t now_ms) {
    std::vector<Delivery> out;
    std::error_code failed;
    const auto look_into = [&](const fs::path& folder, bool inner, auto& again) -> void {
        std::vector<fs::path> entries;
        for (const auto& entry : fs::directory_iterator(folder, failed)) entries.push_back(entry.path());
        std::sort(entries.begin(), entries.end());
        std::set<std::string> textures;
        std::vector<std::string> photos;
        bool mesh_here = false;
        for (const fs::path& p : entries) {
            const std::string path = p.string();
            if (p.filename().string().starts_with(".")) continue;
            if (!inner && fs::is_directory(p, failed)) {
                again(p, true, again);
            } else if (is_mesh_file(path) || lower_extension(path) == ".zip") {
                look_at_mesh(path, now_ms, out);
                mesh_here = true;
            } else if (is_picture_name(path)) {
                photos.push_back(path);
            }
        }
        // pictures beside a mesh are its textures
        if (inner && !mesh_here && !photos.empty()) look_at_photos(folder.string(), photos, now_ms, out);
    };
    look_into(folder_, false, look_into);
    return out;
}

}  // namespace veld
