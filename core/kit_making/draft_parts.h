#pragma once
// A base's parts: which pieces are skin, which are eyes, teeth, tongue, lashes, and in what order a kit keeps them.
#include "core/kit_making/lay_model.h"
#include "core/kit_making/make_kit.h"
#include "core/kit_making/pieces.h"

namespace veld {

struct DraftParts {
    std::vector<Piece> pieces;      // the largest first
    std::vector<std::string> name;  // parallel; empty: not named yet
    std::vector<double> off_mm;     // parallel: from the model's part
    std::vector<std::size_t> skin;  // of pieces
    bool several = false;           // two or more bodies side by side

    VertexMask not_skin(std::size_t vertices) const;
};

// By pieces alone: the largest is skin, and others that are nearly as large and no ball.
DraftParts draft_parts(const Mesh& mesh);

// What people said of pieces: by a vertex of theirs, or by a group or material -> part.
void name_told_pieces(const std::map<Index, std::string>& by_vertex, const std::map<std::string, std::string>& by_word,
                      DraftParts& parts);

// Pieces that have no name yet take that of the model's part that they lie on; a ball may only be an eye, an eye only
// a ball or a shell of one. Others are "other": they follow the skin.
void name_pieces(const BaseKit& model, const LaidModel& laid, const Mesh& mesh, DraftParts& parts);

// The mesh with its faces in order of parts, skin first; vertices, corners and UVs stay.
Mesh in_order_of_parts(const Mesh& mesh, const DraftParts& parts, std::vector<KitPart>& out,
                       std::vector<MadePart>& report);

// Spheres of eye_l and eye_r, where they are there.
std::vector<KitEye> eyes_of(const BaseKit& kit);

// Parts that are no skin follow the joint that the model's part follows most, as a whole; others the nearest skin.
void follow_part_joints(const BaseKit& model, BaseKit& kit);

}  // namespace veld
