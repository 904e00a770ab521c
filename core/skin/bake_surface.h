#pragma once
// The base in the shape of a fit, laid out flat for baking: what every texel of its tiles stands for.
//
// Tangent frames follow glTF 2.0's rule, MikkTSpace [Mikkelsen 2008, Simulation of Wrinkled Surfaces Revisited]: per
// corner, the triangles' own directions of u, averaged by angle over the triangles around a vertex that share its
// normal, its UV and the way their UVs turn.
#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

struct UvTile {
    std::string name;           // its UDIM number; "1001_eye" where materials with pictures of their own share one
    int number = 1001;          // UDIM: 1001 + column + 10 * row
    int image = -1;             // of the kit's images, what it shows now; -1: none
    TriangleIndices triangles;  // of the surface
};

// A corner's direction of u (not unit once interpolated) and whether v turns left (1) or right (-1) of it.
struct CornerTangent {
    Vec3 u = Vec3::UnitX();
    double turn = 1;
};

struct BakeSurface {
    int level = 0;     // how often the base is subdivided
    Points positions;  // kit frame, mm
    Points normals;    // per vertex, unit
    std::vector<Triangle> triangles;
    std::vector<std::array<Vec2, 3>> uv;     // parallel to triangles, origin at the lower left
    std::vector<std::array<Index, 3>> mate;  // across edge k (corner k to k + 1): 3 * triangle + its edge; kNone
    std::vector<std::array<CornerTangent, 3>> tangents;
    std::vector<std::string> part_names;    // the kit's parts, the skin first
    std::vector<std::uint8_t> part;         // per triangle, into part_names
    std::vector<std::string> region_names;  // the skin's regions, the smallest that hold a vertex
    std::vector<std::uint16_t> region;      // per vertex, into region_names; the last is "other"
    std::vector<Index> mirror;              // per vertex: the one on the other side; empty: subdivided, or not known
    // Vertices along the lids' edges and the lips' inner ones, by the kit's curves; empty: subdivided.
    VertexIndices lid_edges, lip_edges;
    std::vector<Colour> plain;           // per triangle: its material's colour,
    std::vector<std::uint8_t> pictured;  // and 1 where that material shows a picture instead
    std::vector<UvTile> tiles;
    std::vector<std::string> notes;  // what is odd about the UVs

    Vec3 place(Index t, const Vec3& shares) const {
        const Triangle& c = triangles[t];
        return shares[0] * positions[c[0]] + shares[1] * positions[c[1]] + shares[2] * positions[c[2]];
    }
    // not unit: as a renderer interpolates it
    Vec3 normal(Index t, const Vec3& shares) const {
        const Triangle& c = triangles[t];
        return shares[0] * normals[c[0]] + shares[1] * normals[c[1]] + shares[2] * normals[c[2]];
    }
    // The frame of a tangent-space normal map there: columns along u, along v, along the normal.
    Mat3 frame(Index t, const Vec3& shares) const;
};

// A place of the surface.
struct SkinSpot {
    Index triangle = kNone;  // kNone: none
    Vec3 shares = Vec3::Zero();
};

// Where a triangle is on the other side. A quad that is cut along its other diagonal there has two triangles for it.
struct MirroredTriangle {
    std::array<Index, 2> triangles{kNone, kNone};  // none: it has no partner
    Triangle corners{};                            // its own three vertices' partners
};
// Parallel to the triangles; empty where no mirror is known.
std::vector<MirroredTriangle> mirrored_triangles(const BakeSurface& surface);
// A place of that triangle on the other side; nothing where it has no partner.
SkinSpot mirrored_place(const BakeSurface& surface, const MirroredTriangle& triangle, const Vec3& shares);

// shape: every vertex of the base. Fails with BadInput where the base has no UVs at all.
Result<BakeSurface> bake_surface(const BaseKit& kit, const Points& shape, int level = 0);

// How a surface's UVs lie; for the UV view and for what is said before a bake.
struct UvFigures {
    double overlap = 0;  // share of the tile's used texels that two triangles claim
    Index flat = 0;      // triangles without area in the tile
    Index mirrored = 0;  // triangles whose UVs turn the other way than most
    Index islands = 0;
    double used = 0;     // share of the tile
    double density = 0;  // median of texels per mm at 1024 texels a side
};
UvFigures uv_figures(const BakeSurface& surface, const UvTile& tile);

}  // namespace veld
