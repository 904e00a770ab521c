#pragma once
// Numbers out of text, fast. Decimal numbers of at most 19 digits and a small exponent are exact
// with one multiplication [Clinger 1990]; everything else goes to std::from_chars.
#include <charconv>
#include <cstdint>
#include <string>
#include <string_view>

namespace veld {

inline bool is_space(char c) { return c == ' ' || c == '\t' || c == '\r'; }

// Line number (from 1) of a place in the text; only for error messages.
inline std::size_t line_number(std::string_view text, const char* at) {
    std::size_t line = 1;
    for (const char* p = text.data(); p < at; ++p) line += *p == '\n';
    return line;
}

namespace detail {
constexpr double kPowersOfTen[] = {1e0,  1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,  1e8,  1e9,  1e10, 1e11,
                                   1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22};
}

// Reads a number at p and moves p behind it. False (p unmoved) when there is none.
inline bool scan_double(const char*& p, const char* end, double& out) {
    const char* q = p;
    bool negative = false;
    if (q < end && (*q == '-' || *q == '+')) negative = *q++ == '-';
    std::uint64_t mantissa = 0;
    const char* digits = q;
    while (q < end && static_cast<unsigned>(*q - '0') < 10) mantissa = mantissa * 10 + (*q++ - '0');
    std::ptrdiff_t count = q - digits;
    int exponent = 0;
    if (q < end && *q == '.') {
        const char* fraction = ++q;
        while (q < end && static_cast<unsigned>(*q - '0') < 10) {
            mantissa = mantissa * 10 + (*q++ - '0');
        }
        exponent = -static_cast<int>(q - fraction);
        count += q - fraction;
    }
    const bool has_exponent = q < end && (*q == 'e' || *q == 'E');
    if (!has_exponent && count > 0 && count <= 19 && mantissa <= (std::uint64_t{1} << 53) && exponent >= -22) {
        const double value = static_cast<double>(mantissa) / detail::kPowersOfTen[-exponent];
        out = negative ? -value : value;
        p = q;
        return true;
    }
    const char* start = p < end && *p == '+' ? p + 1 : p;
    const auto [after, code] = std::from_chars(start, end, out);
    if (code != std::errc{}) return false;
    p = after;
    return true;
}

inline bool scan_int(const char*& p, const char* end, std::int64_t& out) {
    const char* q = p;
    bool negative = false;
    if (q < end && (*q == '-' || *q == '+')) negative = *q++ == '-';
    const char* digits = q;
    std::int64_t value = 0;
    while (q < end && static_cast<unsigned>(*q - '0') < 10 && q - digits < 18) {
        value = value * 10 + (*q++ - '0');
    }
    if (q == digits) return false;
    out = negative ? -value : value;
    p = q;
    return true;
}

// Shortest text that reads back as the same double.
inline void append_double(std::string& text, double value) {
    char buffer[32];
    const auto [end, code] = std::to_chars(buffer, buffer + sizeof buffer, value);
    (void)code;  // 32 characters hold every shortest double
    text.append(buffer, end);
}

inline void append_int(std::string& text, std::int64_t value) {
    char buffer[24];
    text.append(buffer, std::to_chars(buffer, buffer + sizeof buffer, value).ptr);
}

}  // namespace veld
