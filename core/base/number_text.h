#pragma once
// A number for a sentence.
#include <cstdio>
#include <string>

namespace veld {

// So many digits that count: 0.0312, 12.5, 1740.
inline std::string number_text(double x, int digits = 3) {
    char text[32];
    std::snprintf(text, sizeof text, "%.*g", digits, x);
    return text;
}

}  // namespace veld
