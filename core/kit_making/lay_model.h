#pragma once
// A kit that is known (the model) laid onto a base that is not: its landmarks are found on the base as on a scan, then
// it is fitted. From there on every place of the base has a place on the model, and what the model knows can be
// carried over: regions, joints, skin weights, expressions.
#include "core/detect/detect.h"
#include "core/fit/fit.h"

namespace veld {

struct LayInput {
    const BaseKit* model = nullptr;
    const Mesh* base = nullptr;  // upright, facing +Z, mm
    VertexMask not_skin;         // of the base: eyes, teeth, lashes; empty: nothing is known
    LandmarkSet by_hand;         // on the base, in its frame; what is there is not looked for
    bool figure = false;         // a whole figure, not a head or a bust
};

// Where a vertex of the base lies on the model's skin.
struct ModelPlace {
    Index triangle = kNone;  // of skin_triangles(model)
    std::array<double, 3> weights{0, 0, 0};
    double off_mm = 0;  // between the two, in the model's size
    explicit operator bool() const { return triangle != kNone; }
};

struct LaidModel {
    LandmarkSet landmarks;  // on the base, in its frame, with trust
    std::map<std::string, std::string> left_out;
    Points positions;    // of the model's vertices, in the base's frame, standing as the base stands
    Points rest;         // the same without the pose that was taken, in the model's frame
    Similarity to_base;  // from the model's frame as the fit has it to the base's
    std::optional<Pose> pose;
    FitFigures figures;
    std::vector<std::string> notes;
};

// Fails with NotFound where no face is found and too few landmarks are set by hand, and as detect_landmarks, run_fit.
Result<LaidModel> lay_model(FaceNetwork& network, const LayInput& input, const Progress& progress);

// Per vertex of the base; vertices that face away from all of the model within reach, or are farther, have none.
std::vector<ModelPlace> places_on_model(const BaseKit& model, const LaidModel& laid, const Mesh& base,
                                        double reach_mm);

}  // namespace veld
