#pragma once
// Which station is meant. What there is of them, and in which order, is in stations/registry.
#include <string_view>

namespace veld {

struct Station {
    std::string_view id;  // also its icon's name and its button's
    constexpr bool operator==(const Station&) const = default;

    static const Station Base, Gather, Tidy, Mark, Fit, Touch, Skin, Prove, Bank, Deliver;
};

inline constexpr Station Station::Base{"base"}, Station::Gather{"gather"}, Station::Tidy{"tidy"},
    Station::Mark{"mark"}, Station::Fit{"fit"}, Station::Touch{"touch"}, Station::Skin{"skin"},
    Station::Prove{"prove"}, Station::Bank{"bank"}, Station::Deliver{"deliver"};

}  // namespace veld
