#include "core/kit/kit_archive.h"

#include <stdlib.h>

#include <filesystem>

#include "core/io/archive.h"

namespace veld {
namespace {
namespace fs = std::filesystem;

constexpr const char* kFigure = "figure.json";

// The folder in which the archive has the kit; empty: nowhere.
fs::path kit_in(const fs::path& folder) {
    std::error_code failed;
    for (const auto& entry : fs::recursive_directory_iterator(folder, failed)) {
        if (entry.path().filename() == kFigure) return entry.path().parent_path();
    }
    return {};
}

}  // namespace

Status pack_kit(const std::string& folder, const std::string& zip) {
    std::error_code failed;
    if (!fs::exists(fs::path(folder) / kFigure, failed))
        return Error{ErrorCode::BadInput, "'" + folder + "' is no kit: it has no " + kFigure + "."};
    return pack_zip(folder, zip);
}

Status unpack_kit(const std::string& zip, const std::string& folder, const Progress& progress) {
    std::error_code failed;
    const fs::path wanted = fs::absolute(fs::path(folder) / "").parent_path();
    if (fs::exists(wanted, failed) && !fs::is_empty(wanted, failed))
        return Error{ErrorCode::BadInput, "'" + folder + "' is not empty. Name an empty or a new folder."};
    fs::create_directories(wanted.parent_path(), failed);
    // beside the wanted one, so that a kit is there whole or not at all
    std::string beside = wanted.string() + "-XXXXXX";
    if (!::mkdtemp(beside.data())) return Error{ErrorCode::Io, "Nothing can be written beside '" + folder + "'."};
    Status ok = unpack_zip(zip, beside, progress);
    const fs::path kit = ok ? kit_in(beside) : fs::path();
    if (ok && kit.empty())
        ok = Error{ErrorCode::BadFile, "'" + zip + "' holds no kit: there is no figure.json in it."};
    if (ok) {
        fs::remove(wanted, failed);
        failed.clear();
        fs::permissions(kit,
                        fs::perms::owner_all | fs::perms::group_read | fs::perms::group_exec | fs::perms::others_read |
                            fs::perms::others_exec,
                        failed);
        fs::rename(kit, wanted, failed);
        if (failed) ok = Error{ErrorCode::Io, "'" + folder + "' cannot be written: " + failed.message() + "."};
    }
    fs::remove_all(beside, failed);
    return ok;
}

}  // namespace veld
