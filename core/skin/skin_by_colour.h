#pragma once
// What of a source is no skin, by its colours: hair over the brow, the edge of a cap, a collar.
//
// Skin is alike in its chromaticity and, with the light out, in its lightness [the skin cluster of Jones & Rehg 2002,
// here each person's own]: a robust Gaussian of the face's colours says how far each place is off, averaged with what
// is around it.
#include <optional>

#include "core/skin/bake_surface.h"

namespace veld {

// A person's skin as a Gaussian of the logarithms of light, and of red and blue against green.
struct SkinCluster {
    Vec3 mean = Vec3::Zero();
    Mat3 inverse = Mat3::Zero();
    double far = 0;  // standard deviations beyond which a colour is no skin where that is in doubt
    // log: of a linear colour with the light out
    double off(const Vec3& log) const;
    bool skin(const Vec3& log) const { return off(log) <= far; }
    // How much of a colour is hair or cap where that is in doubt: 0 surely skin .. 1
    double doubt(const Vec3& log) const;
};

// Per vertex of the base, 1 where a scan or photograph shows no skin however it is held: insides of mouth, nostrils
// and sockets, and the edges of the lids, where eyeball and lashes come into the picture.
std::vector<std::uint8_t> never_seen(const BakeSurface& base);

struct SkinByColour {
    // Per vertex of the base: 1 where what is seen is no skin.
    std::vector<std::uint8_t> other;
    // 1 near these, and at the edge of what was seen: there each place is to be asked for its own colour.
    std::vector<std::uint8_t> doubtful;
    double share = 0;  // of the vertices that were seen
    SkinCluster skin;
};
// colours: per vertex of the base, the logarithm of linear colour with the light out; nothing where it was not seen.
// keep_brows: what lies within the face (brows, the shade of a beard) stays, unless it goes on beyond the face.
SkinByColour not_skin_by_colour(const BakeSurface& base, const std::vector<std::optional<Vec3>>& colours,
                                bool keep_brows);

}  // namespace veld
