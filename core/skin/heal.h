#pragma once
// Places that a bake found nothing for, filled from what is around them on the surface.
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/io/map_image.h"

namespace veld {

// Values per vertex (of each field) where `known` is 0, as a membrane through the others (Laplace's equation on the
// mesh's edges, the interpolant of [Perez, Gangnet, Blake 2003, section 3] with no gradients wanted): it goes over
// into its surroundings across seams of the UVs too. Pieces of the surface where nothing is known become `otherwise`.
// values: several fields at once, each with what it becomes otherwise.
struct Field {
    Points* values;
    Vec3 otherwise = Vec3::Zero();
};
Status membrane(const std::vector<Triangle>& triangles, const std::vector<std::uint8_t>& known,
                const std::vector<Field>& fields);

enum class Texel : std::uint8_t {
    Outside,
    Good,    // holds what was found
    Missed,  // holds what it is filled with
    Kept     // holds something else, which is nothing to fill from
};

// Which texels are changed after each other when borders tell what lies beside them: the same for all maps of a tile.
class TexelBorders {
 public:
    // reach: texels that borders tell of inwards; padding: that are filled outwards.
    TexelBorders(std::vector<Texel> texels, int width, int height, double reach, int padding);

    // What the borders between Good and Missed texels differ from what the Missed ones are filled with goes on into
    // these from texel to texel, fading over that share of `reach`.
    void spread(MapImage& map, double share = 1) const;
    // `padding` texels beyond what is not Outside become the average of their neighbours.
    void pad(MapImage& map) const;

 private:
    using Ring = std::vector<std::uint32_t>;
    template <class Is, class Other>
    Ring beside(const Is& is, const Other& other) const;
    std::vector<Vec3> border_steps(const MapImage& map) const;
    void even_out(std::vector<Vec3>& change, std::size_t rings, int rounds) const;
    void go_on(std::vector<Vec3>& change, double fade) const;
    void find_inward();
    void find_outward(int padding);
    template <class Take>
    void around(std::uint32_t texel, const Take& take) const;

    std::vector<Texel> texels_;
    int width_, height_;
    double reach_;
    std::vector<Ring> inward_, outward_;  // the nearest first
    // Texels that a missed texel's change is told by: of inward_ in turn, those of it and of the ring before.
    std::vector<std::uint32_t> slot_;  // of a texel: its place in inward_, counted through; kNone: none
};

}  // namespace veld
