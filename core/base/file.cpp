#include "core/base/file.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdint>
#include <cstring>
#include <filesystem>

namespace veld {
namespace {

std::string reason(int code) {
    switch (code) {
        case ENOENT:
            return "there is no such file. Check the path.";
        case EACCES:
        case EPERM:
            return "no permission. Choose another folder or change its rights.";
        case EROFS:
            return "the folder is read-only. Choose another place.";
        case ENOSPC:
        case EDQUOT:
        case EFBIG:
            return "the disk is full. Free some space and try again; nothing was changed.";
        case EISDIR:
            return "this is a folder, not a file.";
        default:
            return std::string(std::strerror(code)) + ".";
    }
}

Error io_error(const std::string& verb, const std::string& path, int code) {
    return {ErrorCode::Io, "Cannot " + verb + " '" + path + "': " + reason(code)};
}

}  // namespace

Result<FileBytes> read_file(const std::string& path) {
    const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0) return io_error("open", path, errno);
    struct stat info {};
    if (::fstat(fd, &info) != 0 || !S_ISREG(info.st_mode)) {
        const int code = S_ISDIR(info.st_mode) ? EISDIR : EINVAL;
        ::close(fd);
        return io_error("open", path, code);
    }
    FileBytes out;
    out.size = static_cast<std::size_t>(info.st_size);
    out.data = std::make_unique_for_overwrite<char[]>(out.size + 1);
    prefer_large_pages(out.data.get(), out.size);
    std::size_t done = 0;
    while (done < out.size) {
        const ssize_t got = ::read(fd, out.data.get() + done, out.size - done);
        if (got < 0 && errno == EINTR) continue;
        if (got <= 0) break;
        done += static_cast<std::size_t>(got);
    }
    const int code = errno;
    ::close(fd);
    if (done < out.size) return io_error("read", path, code ? code : EIO);
    out.data[out.size] = 0;
    return out;
}

void prefer_large_pages(void* data, std::size_t bytes) {
    constexpr std::uintptr_t page = 4096;
    constexpr std::size_t worth_it = std::size_t{4} << 20;
    if (bytes < worth_it) return;
    const std::uintptr_t first = (reinterpret_cast<std::uintptr_t>(data) + page - 1) / page * page;
    const std::uintptr_t last = (reinterpret_cast<std::uintptr_t>(data) + bytes) / page * page;
    if (last > first) ::madvise(reinterpret_cast<void*>(first), last - first, MADV_HUGEPAGE);
}

Status write_file(const std::string& path, std::string_view bytes) {
    // a device or a pipe is written as it is: nothing may be renamed over it
    struct stat info {};
    const bool special = ::stat(path.c_str(), &info) == 0 && !S_ISREG(info.st_mode) && !S_ISDIR(info.st_mode);
    const std::string temporary = special ? path : path + ".part-" + std::to_string(::getpid());
    const int fd = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (fd < 0) return io_error("write", path, errno);
    std::size_t done = 0;
    int code = 0;
    while (done < bytes.size()) {
        const ssize_t put = ::write(fd, bytes.data() + done, bytes.size() - done);
        if (put < 0 && errno == EINTR) continue;
        if (put <= 0) {
            code = put < 0 ? errno : ENOSPC;
            break;
        }
        done += static_cast<std::size_t>(put);
    }
    if (!code && !special && ::fsync(fd) != 0) code = errno;
    if (::close(fd) != 0 && !code) code = errno;
    if (!code && !special && ::rename(temporary.c_str(), path.c_str()) != 0) code = errno;
    if (code) {
        if (!special) ::unlink(temporary.c_str());
        return io_error("write", path, code);
    }
    return Done{};
}

std::string lower_extension(const std::string& path) {
    std::string out = std::filesystem::path(path).extension().string();
    std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::tolower(c); });
    return out;
}

std::string file_name(const std::string& path) { return std::filesystem::path(path).filename().string(); }

std::string folder_of(const std::string& path) {
    const std::string out = std::filesystem::path(path).parent_path().string();
    return out.empty() ? "." : out;
}

}  // namespace veld
