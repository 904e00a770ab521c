#include "core/base/cache.h"

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <mutex>
#include <vector>

namespace veld {
namespace {
namespace fs = std::filesystem;

constexpr std::size_t kKeyDigits = 16;

struct CacheSettings {
    std::mutex guard;
    std::string folder;
    std::uint64_t most = kUsualCacheBytes;
};

CacheSettings& cache_settings() {
    static CacheSettings all;
    return all;
}

std::string usual_folder() {
    if (const char* xdg = std::getenv("XDG_CACHE_HOME"); xdg && *xdg) return std::string(xdg) + "/veldstone";
    if (const char* home = std::getenv("HOME"); home && *home) return std::string(home) + "/.cache/veldstone";
    return {};
}

// "kind-<16 hexadecimal digits>.extension": so that nothing else is ever removed.
bool is_ours(const std::string& name) {
    const std::size_t dash = name.rfind('-'), dot = name.rfind('.');
    if (dash == std::string::npos || dot == std::string::npos || dash == 0 || dot != dash + 1 + kKeyDigits)
        return false;
    return std::all_of(name.begin() + static_cast<std::ptrdiff_t>(dash) + 1,
                       name.begin() + static_cast<std::ptrdiff_t>(dot),
                       [](unsigned char c) { return std::isxdigit(c) != 0; });
}

struct KeptFile {
    fs::path path;
    fs::file_time_type used;
    std::uint64_t bytes = 0;
};

std::vector<KeptFile> kept_files(const std::string& folder) {
    std::vector<KeptFile> out;
    std::error_code failed;
    for (fs::directory_iterator at(folder, failed), end; !failed && at != end; at.increment(failed)) {
        std::error_code gone;
        if (!at->is_regular_file(gone) || !is_ours(at->path().filename().string())) continue;
        const auto used = at->last_write_time(gone);
        const std::uint64_t bytes = at->file_size(gone);
        if (!gone) out.push_back({at->path(), used, bytes});
    }
    return out;
}

std::uint64_t total(const std::vector<KeptFile>& files) {
    std::uint64_t out = 0;
    for (const KeptFile& f : files) out += f.bytes;
    return out;
}

void hold_below(const std::string& folder, std::uint64_t most) {
    std::vector<KeptFile> files = kept_files(folder);
    std::uint64_t held = total(files);
    std::sort(files.begin(), files.end(), [](const auto& a, const auto& b) { return a.used < b.used; });
    for (const KeptFile& f : files) {
        if (held <= most) return;
        std::error_code failed;
        if (fs::remove(f.path, failed)) held -= f.bytes;
    }
}

}  // namespace

void set_cache(const std::string& folder, std::uint64_t most_bytes) {
    {
        const std::lock_guard lock(cache_settings().guard);
        cache_settings().folder = folder;
        cache_settings().most = most_bytes;
    }
    if (const std::string now = cache_folder(); !now.empty()) hold_below(now, most_bytes);
}

std::string cache_folder() {
    const std::lock_guard lock(cache_settings().guard);
    return cache_settings().folder.empty() ? usual_folder() : cache_settings().folder;
}

std::uint64_t cache_bytes() { return total(kept_files(cache_folder())); }

void empty_cache() { hold_below(cache_folder(), 0); }

std::optional<FileBytes> from_cache(const std::string& name) {
    const std::string folder = cache_folder();
    if (folder.empty()) return {};
    const fs::path path = fs::path(folder) / name;
    std::error_code failed;
    if (!fs::exists(path, failed)) return {};
    auto bytes = read_file(path.string());
    if (!bytes) return {};
    fs::last_write_time(path, fs::file_time_type::clock::now(), failed);  // it is of use
    return std::move(*bytes);
}

void into_cache(const std::string& name, std::string_view bytes) {
    const std::string folder = cache_folder();
    std::uint64_t most;
    {
        const std::lock_guard lock(cache_settings().guard);
        most = cache_settings().most;
    }
    if (folder.empty() || bytes.size() > most) return;
    std::error_code failed;
    fs::create_directories(folder, failed);
    if (!write_file((fs::path(folder) / name).string(), bytes)) return;
    hold_below(folder, most);
}

void CacheKey::mix(const void* data, std::size_t bytes) {
    const auto* p = static_cast<const unsigned char*>(data);
    for (std::size_t i = 0; i < bytes; ++i) hash_ = (hash_ ^ p[i]) * 1099511628211ull;
}

std::string CacheKey::file(const char* kind, const char* extension) const {
    char digits[kKeyDigits + 1];
    std::snprintf(digits, sizeof digits, "%016llx", static_cast<unsigned long long>(hash_));
    return std::string(kind) + "-" + digits + "." + extension;
}

}  // namespace veld
