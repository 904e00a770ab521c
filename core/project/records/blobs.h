#pragma once
// The heavy arrays of a project file: kept apart from its JSON, which names them by what they hold. Plain numbers are
// in this machine's order (formats.md: little-endian).
#include <cstring>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "core/base/json.h"
#include "core/base/result.h"

namespace veld {

class BlobWriter {
 public:
    // Gives the id that the JSON says.
    std::string keep(std::string bytes);
    template <class T>
    std::string keep_array(const std::vector<T>& v) {
        return keep({reinterpret_cast<const char*>(v.data()), v.size() * sizeof(T)});
    }
    std::map<std::string, std::string> take() { return std::move(blobs_); }

 private:
    std::map<std::string, std::string> blobs_;
};

class BlobReader {
 public:
    using Bytes = std::function<bool(const std::string& id, std::string& bytes)>;  // false: not there, or damaged
    // path: of the project, for messages
    BlobReader(Bytes bytes, std::string path) : bytes_(std::move(bytes)), path_(std::move(path)) {}

    bool bytes(const std::string& id, std::string& out) const { return bytes_(id, out); }
    // False: not there, or no whole number of elements.
    template <class T>
    bool array(const std::string& id, std::vector<T>& out) const {
        std::string bytes;
        if (!bytes_(id, bytes) || bytes.size() % sizeof(T) != 0) return false;
        out.resize(bytes.size() / sizeof(T));
        if (!bytes.empty()) std::memcpy(static_cast<void*>(out.data()), bytes.data(), bytes.size());
        return true;
    }
    const std::string& path() const { return path_; }
    Error damaged(const std::string& why) const {
        return {ErrorCode::BadFile, "The project '" + path_ + "' is damaged: " + why};
    }

 private:
    Bytes bytes_;
    std::string path_;
};

}  // namespace veld
