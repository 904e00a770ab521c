#pragma once
// Made-up people before a camera, made once for a test program.
#include <map>

#include "core/photo/look_at_photos.h"
#include "demo/standins/sitting.h"
#include "tests/support/demo_kit.h"

namespace veld {

inline const ShapeSpace& smooth_space() {
    static const ShapeSpace space = *make_shape_space(*demo_kit(), {});
    return space;
}

inline const Sitting& sitter(int photos) {
    static std::map<int, Sitting> made;
    auto at = made.find(photos);
    if (at == made.end()) {
        SittingOptions how;
        how.seed = 3, how.photos = photos, how.width = 600, how.height = 750;
        at = made.emplace(photos, make_sitting(*demo_kit(), how)).first;
    }
    return at->second;
}

inline PhotoHeadInput input_of(const Sitting& s, bool exif = true) {
    PhotoHeadInput in;
    in.kit = demo_kit().get(), in.space = &smooth_space();
    for (const SittingPhoto& p : s.photos)
        in.photos.push_back({&p.photo, p.photo.name, exif ? p.photo.focal_35mm : 0, p.marks, nullptr});
    return in;
}

}  // namespace veld
