#pragma once
// What a fit made from photographs keeps besides its shape.
#include <memory>

#include "core/photo/head_record.h"

namespace veld {

struct PhotoRecord {
    PhotoHeadSettings settings;
    std::vector<PhotoFigures> photos;      // cameras and figures, one per photograph of the set
    std::vector<double> z;                 // of the shape space, to go on from
    std::shared_ptr<const Points> solved;  // the shape before sliders and touch-up
    HandShape hand;                        // the sliders
    std::vector<std::uint8_t> seen_by;     // per vertex: by how many photographs, at most 2
    std::vector<std::optional<PhotoCamera>> cameras() const {
        std::vector<std::optional<PhotoCamera>> out;
        for (const PhotoFigures& p : photos) out.push_back(p.camera);
        return out;
    }
};

}  // namespace veld
