#pragma once
// A step of tidying as data: a tool, its numbers, and the selection that it acts on. tools.h and selection.h run it.
//
// Places and lengths are millimetres in the source's upright frame (Y up, facing +Z), so that a step means the same
// after the file came back in another unit or turned otherwise.
#include <map>
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

enum class SelectKind {
    All,
    None,
    Invert,
    Polygon,    // inside an outline drawn on the screen: lasso or rectangle
    Brush,      // within `radius` of a path on the surface
    Connected,  // everything joined to the face nearest to `place`
    Angle,      // spreads from there over edges that bend less than `degrees`
    Grow,
    Shrink,      // by `rings` of faces
    Colour,      // vertex or texture colour like `colour`, within `tolerance` (0..1, CIELAB/100)
    Components,  // those below `share` of the largest one's area
    Slab,        // between two heights: `place`.y and `place`.y + radius
    Suggest      // likely hair, clothes, furniture (suggest.h); needs the kit
};
enum class Combine { Replace, Add, Remove };

struct SelectStep {
    SelectKind kind = SelectKind::All;
    Combine combine = Combine::Replace;
    bool front_only = false;        // Polygon, Brush: only what the camera sees
    std::array<double, 16> view{};  // Polygon: row-major, upright mm -> clip space
    std::vector<Vec2> outline;      // Polygon: clip space, x and y in -1..1
    Points path;                    // Brush: in upright mm
    std::vector<double> pressure;   // Brush: 0..1 for each place of the path; empty: 1
    double radius = 10;             // mm
    Vec3 towards = Vec3::Zero();    // Brush with front_only: direction to the eye
    Vec3 place = Vec3::Zero();
    double degrees = 30;
    int rings = 1;
    std::array<double, 3> colour{0.5, 0.5, 0.5};  // sRGB 0..1
    double tolerance = 0.12;
    double share = 0.02;
    bool operator==(const SelectStep&) const = default;
};

enum class Tool {
    Straighten,
    FacePoints,
    FloorPoints,
    Turn,
    Move,
    Floor,
    Repair,
    Weld,
    Components,
    Cut,
    Delete,
    Spikes,
    Fill,
    Smooth,
    Flatten,
    Reduce,
    Remesh,
    Flip,
    Outward,
    Normals,
    Ignore
};

struct TidyStep {
    Tool tool = Tool::Repair;
    std::map<std::string, double> numbers;  // missing ones take their initial value
    std::vector<SelectStep> selection;      // empty: the whole mesh, where the tool allows it
    bool operator==(const TidyStep&) const = default;
};

}  // namespace veld
