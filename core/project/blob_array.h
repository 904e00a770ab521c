#pragma once
// Arrays of plain numbers as the bytes of a blob, in this machine's order (formats.md: little-endian).
#include <cstring>
#include <string>
#include <vector>

namespace veld {

template <class T>
std::string array_blob(const std::vector<T>& v) {
    return {reinterpret_cast<const char*>(v.data()), v.size() * sizeof(T)};
}
// False: the bytes are no whole number of elements.
template <class T>
bool array_from(const std::string& bytes, std::vector<T>& out) {
    if (bytes.size() % sizeof(T) != 0) return false;
    out.resize(bytes.size() / sizeof(T));
    if (!bytes.empty()) std::memcpy(static_cast<void*>(out.data()), bytes.data(), bytes.size());
    return true;
}

}  // namespace veld
