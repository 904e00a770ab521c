#pragma once
// What the figures say about how far each region of a fit may be trusted, in words.
#include <QStringList>

#include "core/fit/region_doubt.h"

namespace veld {

// "fine", "guessed", "odd shape"
QString doubt_words(const RegionDoubt& doubt);
// The same in a sentence.
QString doubt_reason(const RegionDoubt& doubt);
// Regions that a look would send back, the likeliest first.
QStringList regions_to_look_at(const FitFigures& figures);
// Regions that follow from the rest since little of them was seen.
QStringList guessed_regions(const FitFigures& figures);

}  // namespace veld
