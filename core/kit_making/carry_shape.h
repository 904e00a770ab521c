#pragma once
// A shape of the model as a shape of the base that the model was laid onto [in the spirit of Sumner & Popovic 2004]:
// each vertex moves as its place on the model does, turned and scaled as the model's skin around it was when it was
// laid on.
#include "core/kit_making/lay_model.h"

namespace veld {

class ShapeCarrier {
 public:
    // base: its mesh and parts are looked at. All arguments must outlive it.
    ShapeCarrier(const BaseKit& model, const LaidModel& laid, const std::vector<ModelPlace>& places,
                 const BaseKit& base);

    // shape: whole positions of the model's vertices, its own frame. Returns those of the base's. A part moves as a
    // whole, as the model's part of that name does; what rides on the skin rides on it. meet: skin that meets in the
    // model's shape meets in the base's (meeting.h).
    Points operator()(const Points& shape, bool meet = false) const;
    // The way of one vertex of the model, in the base's frame.
    Vec3 turned(Index v, const Vec3& delta) const { return turns_[v] * delta; }

 private:
    Points on_laid(const Points& shape, bool meet) const;

    const BaseKit& model_;
    const LaidModel& laid_;
    const std::vector<ModelPlace>& places_;
    const BaseKit& base_;
    std::vector<Mat3> turns_;  // per vertex of the model, with its size
};

}  // namespace veld
