#pragma once
// The border between files and the core: any mesh file in, with what was noticed on the way.
#include <optional>
#include <string>
#include <vector>

#include "core/mesh/mesh.h"
#include "core/progress.h"
#include "core/result.h"

namespace veld {

// A named morph target that a file brings along.
struct FileTarget {
    std::string name, about;          // about: JSON text of what else was said of it, or empty
    Points delta;                     // per vertex of the mesh, the file's own unit and axes
};

struct MeshFile {
    Mesh mesh;                        // in the file's own unit and axes
    std::vector<std::string> notes;   // what was skipped or repaired, in plain words
    std::vector<FileTarget> targets = {};   // glTF only
};

// By extension: .obj .ply .stl .glb .gltf, and what the general importer reads besides (only that one can be cancelled).
// The mesh has passed check_mesh.
Result<MeshFile> read_mesh(const std::string& path, const Progress& progress = {});

enum class Unit { Millimetre, Centimetre, Metre, Inch, Decimetre, Foot };
constexpr Unit kAllUnits[] = {Unit::Millimetre, Unit::Centimetre, Unit::Metre, Unit::Inch, Unit::Decimetre, Unit::Foot};   // the usual ones first
double millimetres(Unit unit);  // mm per unit
const char* unit_name(Unit unit);
std::optional<Unit> unit_from_name(const std::string& name);

// The axis that points up in a file. Rotations are proper (no mirroring): file -> Y up.
enum class UpAxis { PlusX, MinusX, PlusY, MinusY, PlusZ, MinusZ };
const char* up_axis_name(UpAxis up);
std::optional<UpAxis> up_axis_from_name(const std::string& name);
Mat3 rotation_to_y_up(UpAxis up);

}  // namespace veld
