#pragma once
// A base kit from any base mesh: one call from file to kit.
//
// The file's seams are joined, its unit and axes told, its pieces parted; a kit that is known (the model) is laid onto
// it, and what the model knows is carried over: landmarks, guide curves, regions, neck ring, joints, weights,
// expressions. The mirror map comes from the mesh itself.
#include "core/kit_making/base_files.h"
#include "core/kit_making/lay_model.h"

namespace veld {

struct KitRecipe {
    std::string file;
    std::vector<BaseFile> more;                  // further files of the same base: a body, eyes
    std::string skeleton;                        // GLB of the rigged base; empty: the file's own joints, if any
    std::map<std::string, std::string> reduced;  // meshes of fewer vertices, by name
    std::map<std::string, PartRule> rule;        // part -> how it goes with the skin, where its name does not tell
    std::string expressions;                     // folder of meshes in the file's vertex order; empty: none
    std::shared_ptr<const BaseKit> before;       // made again: this kit's expressions that came from a folder stay
    std::optional<Unit> unit;                    // empty: guessed
    std::optional<UpAxis> up;
    LandmarkSet landmarks;                    // set by hand, in the file's frame
    std::map<std::string, std::string> part;  // name of a group or material -> part, where form does not tell
    std::map<Index, std::string> part_at;     // vertex of the files -> part of the piece that it belongs to

    std::vector<std::string> files() const;  // the file and the further ones
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
    std::size_t own_joints = 0;                   // of the file
    std::vector<std::string> roles_open;          // joints of ours that none of the file's stands for
    std::size_t own_expressions = 0;              // of the file or the folder; 0: they are the model's
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

// The axis of the file that points up in the kit; none: it lies along none.
std::optional<UpAxis> up_of(const KitOriginal& original);

// How a kit would be made once more from its own file: unit, axis, parts and further files as they were, and as set by
// hand those landmarks of `points` that were set so before or are not where the kit has them. Fails with BadInput when
// the kit was not made from a file.
Result<KitRecipe> recipe_again(const BaseKit& kit, const std::map<std::string, SurfacePoint>& points);

}  // namespace veld
