#pragma once
// What can be made again, kept on disk so that it need not be: looks at bases, how open sources lie. Each value is a
// file under a name that carries a key of everything it depends on; what was not used for longest goes first when the
// folder grows beyond its limit. Losing any of it costs only time, so failures are no errors. All functions may be
// called from any thread.
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include "core/base/file.h"

namespace veld {

constexpr std::uint64_t kUsualCacheBytes = 500u << 20;

// folder: empty: $XDG_CACHE_HOME/veldstone, else ~/.cache/veldstone. most_bytes 0: nothing is kept any more.
void set_cache(const std::string& folder, std::uint64_t most_bytes);
std::string cache_folder();  // empty when there is no place for one
std::uint64_t cache_bytes();
// Removes what the cache keeps, and nothing else that lies in its folder.
void empty_cache();

std::optional<FileBytes> from_cache(const std::string& name);
void into_cache(const std::string& name, std::string_view bytes);

// FNV-1a [Fowler, Noll, Vo] of what a value depends on.
class CacheKey {
 public:
    void mix(const void* data, std::size_t bytes);
    std::uint64_t value() const { return hash_; }
    // "face", "json": "face-0123456789abcdef.json"
    std::string file(const char* kind, const char* extension) const;

 private:
    std::uint64_t hash_ = 14695981039346656037ull;
};

}  // namespace veld
