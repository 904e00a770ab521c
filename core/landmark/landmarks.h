#pragma once
// Landmarks: points and guide curves, by name, in the coordinates of the surface they lie on.
//
// A landmark *file* is JSON:
//   {"format":"veldstone-landmarks","version":1,"unit":"mm",
//    "points":{"pronasale":[x,y,z],...},"curves":{"jaw_line":[[x,y,z],...]},
//    "trust":{"pronasale":{"origin":"found","expected_mm":0.8,...}}}           (optional)
// in the source's own coordinates, `unit` being that source's unit.
#include <map>
#include <optional>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/base/units.h"

namespace veld {

// Where a point or curve comes from, and how far it can be trusted. What has no entry was set by hand.
enum class Origin { Hand, Read, Found, Mirrored, Copied };
const char* origin_name(Origin origin);
struct Trust {
    Origin origin = Origin::Hand;
    double expected_mm = 0;               // how far off it may well be; only of what was found by the program
    double spread_mm = 0;                 // how far apart the views put it
    double off_mm = 0;                    // how far it lies from where the kit's shape puts it
    bool accepted = false;                // a person looked at it and agreed
    bool locked = false, hidden = false;  // not moved by hand; not shown
    bool operator==(const Trust&) const = default;
};
constexpr double kUnsureMm = 3.0;  // found points that may be farther off than this are doubted
bool unsure(const Trust& trust);
// A later detection must not touch it.
bool kept_by_hand(const Trust& trust);
// What a fit makes of it: 1 by hand, accepted or sure; less the farther off it may be.
double trust_weight(const Trust& trust);

struct LandmarkSet {
    std::map<std::string, Vec3> points;
    std::map<std::string, Points> curves;
    std::map<std::string, Trust> trust;  // of points and curves, by name
    std::optional<Unit> unit;            // as the file says; the numbers are never converted
    Trust trust_of(const std::string& name) const {
        const auto at = trust.find(name);
        return at == trust.end() ? Trust{} : at->second;
    }
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
    std::string region;
    bool core = false;  // enough, with the others missing, to start a fit
};
struct SchemeCurve {
    std::string name, plain, definition, mirror;
    std::string region;
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

// How much of the scheme is asked for.
enum class PointSet { Minimal, Face, Head, Body };  // ten points; the face; with skull, ears and neck; everything
constexpr PointSet kPointSets[] = {PointSet::Minimal, PointSet::Face, PointSet::Head, PointSet::Body};
const char* point_set_name(PointSet set);
// By name of a point or curve; names that the scheme does not know belong to every set but the minimal one.
bool in_point_set(const std::string& name, PointSet set);
// Ten that make a good start, in the order in which they are asked for.
const std::vector<std::string>& minimal_points();
// name_l <-> name_r, by the scheme or, for own names, by the ending; empty on the midline.
std::string other_side(const std::string& name);

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
