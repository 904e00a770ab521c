#pragma once
// Landmarks as data: points and guide curves by name, where they come from, and places on a mesh. What is done with
// them is in landmarks.h and photo_marks.h.
#include <map>
#include <optional>
#include <string>

#include "core/base/types.h"
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

// Where a joint of a figure is, inside it.
struct JointMark {
    Vec3 at = Vec3::Zero();
    bool by_hand = false;  // a fit keeps it there; found ones only say how it begins
    bool operator==(const JointMark&) const = default;
};

struct LandmarkSet {
    std::map<std::string, Vec3> points;
    std::map<std::string, Points> curves;
    std::map<std::string, Trust> trust;       // of points and curves, by name
    std::map<std::string, JointMark> joints;  // of whole figures, by the kit's names
    std::optional<Unit> unit;                 // as the file says; the numbers are never converted
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
    // of its triangle, unit; zero where that has no area
    Vec3 normal(const Points& positions) const {
        const Vec3 &a = positions[vertices[0]], &b = positions[vertices[1]], &c = positions[vertices[2]];
        return (b - a).cross(c - a).normalized();
    }
};

// Points and curves in pixels from the upper left corner of the upright picture.
struct PhotoMarks {
    int width = 0, height = 0;
    std::map<std::string, Vec2> points;
    std::map<std::string, std::vector<Vec2>> curves;
    std::map<std::string, Trust> trust;  // expected_mm holds pixels here
    bool operator==(const PhotoMarks&) const = default;
    Trust trust_of(const std::string& name) const {
        const auto at = trust.find(name);
        return at == trust.end() ? Trust{} : at->second;
    }
};

// How much of the scheme is asked for.
enum class PointSet { Minimal, Face, Head, Body };  // ten points; the face; with skull, ears and neck; everything

}  // namespace veld
