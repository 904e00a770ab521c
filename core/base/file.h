#pragma once
// Whole files in and out, with errors that name the file and the reason.
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace veld {

// Bytes of a file without the cost of clearing them first.
struct FileBytes {
    std::unique_ptr<char[]> data;
    std::size_t size = 0;
    std::string_view view() const { return {data.get(), size}; }
};

Result<FileBytes> read_file(const std::string& path);

// A hint for memory that is about to be filled for the first time: with pages of 2 MB instead of 4 kB
// the system's share of reading a large file falls by more than half. Does nothing where unsupported.
void prefer_large_pages(void* data, std::size_t bytes);

// Written beside the target, synced, then renamed over it: a full disk or a crash leaves the old
// file as it was.
Status write_file(const std::string& path, std::string_view bytes);

std::string lower_extension(const std::string& path);  // ".obj"
std::string file_name(const std::string& path);        // "scan.obj"
std::string folder_of(const std::string& path);        // "/a/b", "." when there is none

}  // namespace veld
