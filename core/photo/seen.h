#pragma once
// Which photograph sees which part of a head.
#include "core/kit/base_kit.h"
#include "core/photo/outline.h"

namespace veld {

// Nothing of `query` stands between the camera and the place, but for what is nearer to it than within_mm.
bool seen_from(const PhotoCamera& camera, const SurfaceQuery& query, const Vec3& place, double within_mm = 2.5);

// Which photographs see each vertex: not hidden by the head itself, and at less than 70 degrees from its normal. One
// bit each, at most 32.
std::vector<std::uint32_t> visible_in(const BaseKit& kit, const Points& shape,
                                      const std::vector<PhotoCamera>& cameras);

// Of the vertices that a photograph may see (nonzero in `visible`) those where it shows this face's skin: the face up
// to the brows, and outwards from it as far as the picture goes on having the skin's colours. Hair and collars stand
// before what they hide; a lock of skin's colour beyond them is no skin.
VertexMask skin_shown(const BaseKit& kit, const Points& shape, const PhotoCamera& camera, const VertexMask& visible,
                      const EdgePicture& picture, const SkinTone& tone);

}  // namespace veld
