#pragma once
// The files that a base comes in, as one mesh, and the way back into them.
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"

namespace veld {

struct BaseFile {
    std::string path;
    std::string part;  // what it holds: "skin", "eye_l"; empty: to be told from its form
};

struct BaseFiles {
    Mesh mesh;             // seams joined; the first file's frame
    KitOriginal original;  // to_kit not set yet
    std::size_t file_vertices = 0, joined = 0;
    std::optional<FileSkin> skin;                // per vertex of the files; of the first that has joints
    std::vector<FileTarget> targets;             // per vertex of the files; of the first
    std::map<std::string, std::string> part_of;  // group -> part, for files that say what they hold
    std::vector<std::string> notes;
};

// All in the frame of the first. Vertices that follow other joints, or that a target moves another way, are never
// joined. Fails as read_mesh and bytes_to_keep; Cancelled.
Result<BaseFiles> read_base_files(const std::vector<BaseFile>& files, const Progress& progress);

// Shapes that the base can take, in its own frame: the file's morph targets.
std::map<std::string, Points> target_shapes(const BaseFiles& files, const BaseKit& kit);
// The meshes of a folder that have the first file's vertices, in its order and frame, by their file names. What does
// not fit is said in notes.
std::map<std::string, Points> folder_shapes(const std::string& folder, const BaseKit& kit,
                                            std::vector<std::string>& notes, const Progress& progress);

}  // namespace veld
