#include "core/io/archive.h"

#include <zip.h>

#include <filesystem>
#include <fstream>
#include <vector>

#include "core/base/file.h"

namespace veld {
namespace {

namespace fs = std::filesystem;
constexpr zip_uint64_t kMostBytes = 8ull << 30;
constexpr zip_int64_t kMostFiles = 1000;

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

}  // namespace

Status unpack_zip(const std::string& archive, const std::string& folder, const Progress& progress) {
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

Status pack_zip(const std::string& folder, const std::string& archive) {
    std::error_code failed;
    const fs::path root = fs::absolute(fs::path(folder) / "").parent_path();
    const std::string fresh = archive + ".part";
    fs::remove(fresh, failed);
    int code = 0;
    zip_t* zip = zip_open(fresh.c_str(), ZIP_CREATE | ZIP_EXCL, &code);
    if (!zip) return Error{ErrorCode::Io, "'" + archive + "' cannot be written."};
    const auto fail = [&](const std::string& why) -> Status {
        zip_discard(zip);
        fs::remove(fresh, failed);
        return Error{ErrorCode::Io, why};
    };
    for (const auto& entry : fs::recursive_directory_iterator(root, failed)) {
        if (!entry.is_regular_file()) continue;
        const std::string inside = root.filename().string() + "/" + fs::relative(entry.path(), root).string();
        zip_source_t* source = zip_source_file(zip, entry.path().c_str(), 0, -1);
        if (source && zip_file_add(zip, inside.c_str(), source, ZIP_FL_ENC_UTF_8) >= 0) continue;
        if (source) zip_source_free(source);
        return fail("'" + entry.path().string() + "' cannot be packed.");
    }
    if (failed) return fail("'" + folder + "' cannot be read: " + failed.message() + ".");
    if (zip_close(zip) != 0) return fail("'" + archive + "' cannot be written: " + zip_strerror(zip) + ".");
    fs::rename(fresh, archive, failed);
    if (failed) return Error{ErrorCode::Io, "'" + archive + "' cannot be written: " + failed.message() + "."};
    return Done{};
}

}  // namespace veld
