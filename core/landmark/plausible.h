#pragma once
// Does every landmark lie where the others say it should?
//
// The kit's landmarks are laid over the marked ones: a robust similarity, then a smooth map through all
// points but the one in question (radial functions, smoothed). What is left is how far that point is off
// the kit's shape, bent as the rest asks for.
#include "core/landmark/landmarks.h"

namespace veld {

enum class SuspicionKind { SidesSwapped, Exchanged, FarOff };
struct Suspicion {
    SuspicionKind kind = SuspicionKind::FarOff;
    std::string a, b;            // names; b only of two exchanged points
    double off_mm = 0;           // how far off, in the kit's size
    Vec3 better = Vec3::Zero();  // FarOff: where it would belong, in the points' own coordinates
};

// base: places on the base, mm; set: marked points in any coordinates. Both give nothing below five common points.

// How far each point lies from where the others expect it, mm in the kit's size.
std::map<std::string, double> off_shape(const std::map<std::string, Vec3>& base, const LandmarkSet& set);

// Worst first, and of strays no more than `most` in all: each costs a judgement of all that is left, and once the
// worst are mended the rest looks different. A point is far off when it lies three times as far out as the others
// usually do, and more than least_mm; neck, skull, jaw and ears, where people differ most, get twice that. Of a body,
// whose pose may be any, only exchanged pairs are told.
std::vector<Suspicion> find_suspicions(const std::map<std::string, Vec3>& base, const LandmarkSet& set,
                                       double least_mm = 8, std::size_t most = 6);

// The set with the repair of one finding made: sides swapped, two points exchanged, or a point moved.
LandmarkSet repaired(const LandmarkSet& set, const Suspicion& finding);

}  // namespace veld
