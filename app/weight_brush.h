#pragma once
// Soft weights painted on the base with the pointer; for whoever keeps such weights.
#include <memory>

#include "app/views/camera.h"
#include "core/touchup/paint.h"

namespace veld {

class WeightBrush {
 public:
    // One touch on the base as it stands. False: nothing is under the ray.
    bool paint(const std::shared_ptr<const BaseKit>& kit, const Ray& ray, double radius_mm, bool erase, bool mirrored,
               std::vector<float>& weights);

 private:
    std::shared_ptr<const TouchBase> base_;
    std::shared_ptr<const BaseKit> kit_;
};

}  // namespace veld
