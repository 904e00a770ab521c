#pragma once
// A base kit from any base mesh: one call from file to kit.
//
// The file's seams are joined, its unit and axes told, its pieces parted; a kit that is known (the model) is laid onto
// it, and what the model knows is carried over: landmarks, guide curves, regions, neck ring, joints, weights,
// expressions. The mirror map comes from the mesh itself.
#include "core/kit_making/lay_model.h"

namespace veld {

struct KitRecipe {
    std::string file;
    std::optional<Unit> unit;  // empty: guessed
    std::optional<UpAxis> up;
    LandmarkSet landmarks;                    // set by hand, in the file's frame
    std::map<std::string, std::string> part;  // name of a group or material -> part, where form does not tell
};

struct MadePart {
    std::string name;
    std::size_t pieces = 0, vertices = 0;
    double off_mm = 0;  // mean distance from the model's part; 0: told by its name
};

struct KitReport {
    Unit unit = Unit::Millimetre;
    UpAxis up = UpAxis::PlusY;
    std::string unit_reason, up_reason;
    bool figure = false;
    std::size_t file_vertices = 0, joined = 0;  // vertices of the file; of those, joined with another
    std::vector<MadePart> parts;
    std::size_t paired = 0, unpaired = 0;         // of the mirror map
    std::map<std::string, double> doubts;         // landmarks that are unsure: expected error, mm
    std::map<std::string, std::string> left_out;  // landmarks that were not found: why
    FitFigures model;                             // of the model on the base
    std::vector<std::string> notes;
    double seconds = 0;
};

struct MadeKit {
    BaseKit kit;
    KitReport report;
};

// Fails as read_mesh; with BadInput where a file holds no single skin (several figures, next to no faces); NotFound
// where no face is found and too few landmarks are given; Cancelled.
Result<MadeKit> make_kit(FaceNetwork& network, const BaseKit& model, const KitRecipe& recipe,
                         const Progress& progress);

}  // namespace veld
