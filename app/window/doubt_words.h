#pragma once
// What the figures say about how far each region of a fit may be trusted, in words.
#include <QStringList>

#include "core/fit/region_doubt.h"

namespace veld {

// "fine", "guessed", "odd shape"
QString doubt_words(const RegionDoubt& doubt);
// The same in a sentence.
QString doubt_reason(const RegionDoubt& doubt);
// How far a region of a figure may be off at rest: "△ ± 9 mm"; and what says so.
QString rest_words(const RestDoubt& doubt);
QString rest_reason(const RestDoubt& doubt);
// The least sure regions of a figure's rest shape with how far each may be off, at most `most`; empty: all are sure.
QStringList unsure_at_rest(const FitFigures& figures, std::size_t most);

// Regions that a look would send back, the likeliest first.
QStringList regions_to_look_at(const FitFigures& figures);
// Regions that follow from the rest since little of them was seen.
QStringList guessed_regions(const FitFigures& figures);

}  // namespace veld
