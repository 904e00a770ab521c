#pragma once
// How much of which morph: of the whole shape, or of a region of it.
#include <string>

namespace veld {

struct Morph;

struct MorphAmount {
    const Morph* morph = nullptr;
    double amount = 0;
};
struct RegionAmount {
    std::string region, morph;  // by name
    double amount = 0;
    bool operator==(const RegionAmount&) const = default;
};

}  // namespace veld
