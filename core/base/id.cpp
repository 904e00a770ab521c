#include "core/base/id.h"

#include <charconv>
#include <cstdio>
#include <random>

namespace veld {

std::uint64_t random_id_value() {
    std::random_device random;
    std::uint64_t out = 0;
    while (out == 0) out = (std::uint64_t{random()} << 32) | random();
    return out;
}

std::string id_text(std::uint64_t value) {
    char text[20];
    std::snprintf(text, sizeof text, "%016llx", static_cast<unsigned long long>(value));
    return text;
}

std::uint64_t id_value(std::string_view text) {
    std::uint64_t out = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out, 16);
    return error == std::errc() && end == text.data() + text.size() ? out : 0;
}

}  // namespace veld
