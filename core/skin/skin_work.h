#pragma once
// What the steps of a first skin share; for first_skin.cpp and level_seams.cpp.
#include <cmath>

#include "core/kit/base_kit.h"
#include "core/skin/colour_of.h"
#include "core/skin/first_skin.h"

namespace veld {

inline constexpr int kGrid = 512;  // cells, width and height: where winners and levels are decided

// The head's skin laid out: which triangle, and where in it, a place of the tile shows.
struct Chart {
    TriangleIndices triangles;  // of the kit's triangulation
    int image = -1;
};

// Where a texel's colour can come from: photograph k, seen itself (2k) or on the mirrored side (2k + 1); the base
// last.
struct SkinWork {
    const BaseKit& kit;
    const Points& shape;
    const std::vector<SkinPhoto>& photos;
    Pixels base;
    Chart chart;
    std::size_t labels = 0;
    int front = 0;
    Vec3 gain = Vec3::Ones(), level = Vec3::Zero();  // of the base's skin, in its own numbers
    // grid cells
    std::vector<Index> triangle = std::vector<Index>(kGrid * kGrid, kNone);
    std::vector<Vec3> bary = std::vector<Vec3>(kGrid * kGrid, Vec3::Zero());
    std::vector<std::vector<float>> weight = {};
    std::vector<int> winner = std::vector<int>(kGrid * kGrid, -1);
    std::vector<std::vector<Vec3>> change = {};  // per label and cell, of 255
    std::vector<std::vector<char>> changed = {};

    Vec3 place(Index t, const Vec3& b, bool mirrored) const {
        Vec3 out = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = kit.triangulation.triangles[t][k];
            out += b[static_cast<Eigen::Index>(k)] * shape[mirrored ? kit.mirror[v] : v];
        }
        return out;
    }
    // texel: in shares of the tile, for the base's own picture
    Vec3 colour(std::size_t label, Index t, const Vec3& b, const Vec2& texel) const {
        if (label + 1 == labels)
            return gain.cwiseProduct(colour_of(base, Vec2(texel.x() * base.width, texel.y() * base.height))) + level;
        const SkinPhoto& photo = photos[label / 2];
        return colour_of(*photo.pixels, photo.camera.project(place(t, b, label % 2 == 1)));
    }
};

// Levels of the winners so that their borders vanish; blend: false only measures the steps across them.
Status level_seams(SkinWork& work, bool blend, FirstSkin& out);

}  // namespace veld
