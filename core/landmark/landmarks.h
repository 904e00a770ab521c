#pragma once
// Landmarks: points and guide curves, by name, in the coordinates of the surface they lie on.
//
// A landmark *file* is JSON:
//   {"format":"veldstone-landmarks","version":1,"unit":"mm",
//    "points":{"pronasale":[x,y,z],...},"curves":{"jaw_line":[[x,y,z],...]},
//    "trust":{"pronasale":{"origin":"found","expected_mm":0.8,...}},           (optional)
//    "joints":{"shin_l":{"at":[x,y,z],"by_hand":true},...}}                    (optional)
// in the source's own coordinates, `unit` being that source's unit.
#include <map>
#include <optional>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/landmark/landmark_set.h"

namespace veld {

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

constexpr PointSet kPointSets[] = {PointSet::Minimal, PointSet::Face, PointSet::Head, PointSet::Body};
const char* point_set_name(PointSet set);
// By name of a point or curve; names that the scheme does not know belong to every set but the minimal one.
bool in_point_set(const std::string& name, PointSet set);
// Ten that make a good start, in the order in which they are asked for.
const std::vector<std::string>& minimal_points();
// name_l <-> name_r, by the scheme or, for own names, by the ending; empty on the midline.
std::string other_side(const std::string& name);

// Curves of an open mouth; a shut one has the mouth line and the stomion instead.
inline constexpr const char* kInnerLips[] = {"upper_lip_inner", "lower_lip_inner"};
// False for what a mouth that is open, or shut, as the marks in the set say, does not have.
bool can_be_marked(const std::string& name, const LandmarkSet& beside);

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
