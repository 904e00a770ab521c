#include "app/weight_brush.h"

namespace veld {

bool WeightBrush::paint(const std::shared_ptr<const BaseKit>& kit, const Ray& ray, double radius_mm, bool erase,
                        bool mirrored, std::vector<float>& weights) {
    if (kit_ != kit) {
        kit_ = kit;
        base_ = std::make_shared<TouchBase>(*kit_);
    }
    const Points& positions = kit_->mesh.positions;
    if (weights.empty()) weights.assign(positions.size(), 0);
    const TouchPlace place = touch_place(*base_, positions, ray.origin, ray.direction);
    if (place.triangle == kNone) return false;
    BrushSettings brush;
    brush.radius_mm = radius_mm;
    paint_weights(*kit_, brush_reach(*base_, positions, place, brush, -ray.direction, nullptr), erase, mirrored,
                  weights);
    return true;
}

}  // namespace veld
