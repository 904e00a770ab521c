#pragma once
// Landmarks: points and guide curves, by name, in the coordinates of the surface they lie on.
//
// A landmark *file* is JSON:
//   {"format":"veldstone-landmarks","version":1,"unit":"mm",
//    "points":{"pronasale":[x,y,z],...},"curves":{"jaw_line":[[x,y,z],...]}}
// in the source's own coordinates, `unit` being that source's unit.
#include <map>
#include <optional>
#include <string>

#include "core/io/mesh_file.h"

namespace veld {

struct LandmarkSet {
    std::map<std::string, Vec3> points;
    std::map<std::string, Points> curves;
    std::optional<Unit> unit;  // as the file says; the numbers are never converted
    bool operator==(const LandmarkSet&) const = default;
};

// A place on a mesh that survives every change of its shape: a triangle of a face's own corners
// and its barycentric weights (they add up to 1).
struct SurfacePoint {
    Index face = kNone;
    std::array<Index, 3> vertices{kNone, kNone, kNone};
    std::array<double, 3> weights{1, 0, 0};
    bool operator==(const SurfacePoint&) const = default;

    Vec3 at(const Points& positions) const {
        return weights[0] * positions[vertices[0]] + weights[1] * positions[vertices[1]] +
               weights[2] * positions[vertices[2]];
    }
};

struct SchemePoint {
    std::string name, plain, definition, mirror;  // mirror empty: on the midline
    bool core = false;                            // enough, with the others missing, to start a fit
};
struct SchemeCurve {
    std::string name, plain, definition, mirror;
};
// The built-in scheme (data/landmarks.json), in its own order.
struct LandmarkScheme {
    std::vector<SchemePoint> points;
    std::vector<SchemeCurve> curves;
    const SchemePoint* point(const std::string& name) const;
    const SchemeCurve* curve(const std::string& name) const;
    // plain name of a point or curve; the name itself when the scheme does not know it
    std::string plain(const std::string& name) const;
};
const LandmarkScheme& landmark_scheme();

struct LandmarkFile {
    LandmarkSet set;
    std::vector<std::string> unknown;  // kept, but not in the scheme
    std::vector<std::string> notes;
};
Result<LandmarkFile> parse_landmarks(std::string_view text, const std::string& path);
Result<LandmarkFile> read_landmarks(const std::string& path);
std::string landmarks_text(const LandmarkSet& set);

// The same set with left and right exchanged.
LandmarkSet swap_sides(const LandmarkSet& set);

}  // namespace veld
