#pragma once
// Morphs out of the program and in again.
#include "core/base/progress.h"
#include "core/io/glb_write.h"
#include "core/morph/morph.h"
#include "core/morph/morph_file.h"

namespace veld {

// The base with these morphs as OBJ, in the base's vertex, face, UV and group order; figures and origin as comments.
Status export_morphed_obj(const BaseKit& kit, const std::vector<MorphAmount>& amounts, const std::string& path);
// Any shape of the base, in the same way. comment: lines for the file's head. A kit that was made from a file gives
// all of this in that file's own vertices, unit and axes.
Status export_shape_obj(const BaseKit& kit, const Points& shape, const std::string& comment, const std::string& path);
// The same where the shape stands in another frame (a source's), which it keeps.
Status export_placed_obj(const BaseKit& kit, const Points& shape, const std::string& comment, const std::string& path);

// The base with these morphs as named morph targets, sparse (the amounts become the default weights), joints and skin
// weights, textures inside: glTF 2.0 binary, metres. Roots are part of the targets there: glTF knows no others. Kind,
// group, range, note, origin and figures are in the mesh's extras. A kit that was made from a GLB gives that file
// again, with these targets after its own.
Status export_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const std::string& path);

// What the kit wears in a GLB. As export_glb(), but always a file of the kit's own mesh: a file that the kit was made
// from keeps its own pictures.
struct GlbSkin {
    std::map<std::string, GlbPictures> pictures;  // by material
    std::vector<GlbVariant> variants;
};
Status export_worn_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const GlbSkin& skin,
                       const std::string& path);

// What is said of a morph in files of other formats, as a JSON object.
std::string morph_about(const Morph& morph);

// vertex,dx,dy,dz a line, after lines of '#' with name, range and origin.
std::string delta_csv(const Morph& morph);

enum class MorphFormat { Json, Obj, Csv, Glb };
std::optional<MorphFormat> morph_format(const std::string& extension);  // "json", ".obj"

// {name}, {group}, {kind} and {number} (from 001) are filled in; what files cannot be called becomes '_'. A group's
// '/' makes folders.
std::string file_name_of(const std::string& pattern, const Morph& morph, std::size_t number);

// Each into a file of its own below the folder. Returns the paths. Two morphs that would get the same file are refused
// before anything is written. Cancelled: what was written stays.
struct EachInto {
    MorphFormat format = MorphFormat::Json;
    std::string folder, pattern = "{name}";
    bool reduced = false;  // also for each reduced version of the base (reduced_out.h)
};
Result<std::vector<std::string>> export_each(const BaseKit& kit, const std::vector<const Morph*>& morphs,
                                             const EachInto& into, const Progress& progress);

// Morphs of a file: a morph file, a delta list (.csv), a shape in the base's order (.obj, .ply), or the named targets
// of a GLB of this base. Of a folder: all of them, by name. Fails with the first that is none of them.
Result<std::vector<Morph>> import_morphs(const BaseKit& kit, const std::string& path, const Progress& progress);

}  // namespace veld
