#pragma once
// A shape of the model as a shape of the base that the model was laid onto [in the spirit of Sumner & Popovic 2004]:
// each vertex moves as its place on the model does, turned and scaled as the model's skin around it was when it was
// laid on.
#include "core/kit_making/lay_model.h"

namespace veld {

class ShapeCarrier {
 public:
    // part_of: per vertex of the base its part's name, empty for skin; a part moves as a whole, as the model's part of
    // that name does. All arguments must outlive it.
    ShapeCarrier(const BaseKit& model, const LaidModel& laid, const std::vector<ModelPlace>& places, const Mesh& base,
                 const std::vector<std::string>& part_of);

    // shape: whole positions of the model's vertices, its own frame. Returns those of the base's.
    Points operator()(const Points& shape) const;
    // The way of one vertex of the model, in the base's frame.
    Vec3 turned(Index v, const Vec3& delta) const { return turns_[v] * delta; }

 private:
    const BaseKit& model_;
    const LaidModel& laid_;
    const std::vector<ModelPlace>& places_;
    const Mesh& base_;
    const std::vector<std::string>& part_of_;
    std::vector<Mat3> turns_;  // per vertex of the model, with its size
};

// Per vertex of a kit its part's name; empty for skin.
std::vector<std::string> part_names(const BaseKit& kit);

}  // namespace veld
