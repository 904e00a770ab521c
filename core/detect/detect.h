#pragma once
// Landmarks and guide curves of a scan, found without a person.
//
// Heads: the face is found in any attitude (find_face.h), looked at from several sides (face_views.h), and
// what the network says there is carried over from the base (carry_over.h). Those places start a fit of the
// kit in which the surface itself has nearly all the say: it slides the base onto ridges, rims and creases,
// and reaches ears, skull and neck that no network knows. Every point and curve of the kit is read off it.
// Bodies: the kit's skeleton is first bent to the figure's pose (articulate.h).
//
// How far to trust a point is told by what could contradict it: the views among each other, the network
// against the fit, the fit against the surface, and the point against its neighbours' idea of the shape.
#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/detect/doubt.h"
#include "core/fit/lids.h"
#include "core/fit/settings.h"
#include "core/kit/base_kit.h"

namespace veld {

struct DetectInput {
    const BaseKit* kit = nullptr;
    std::map<std::string, SurfacePoint> base_points;               // empty: the kit's own
    std::map<std::string, std::vector<SurfacePoint>> base_curves;  // empty: the kit's own
    const Mesh* source = nullptr;
    Similarity upright;                        // source -> roughly upright mm; only tried first
    const VertexMask* ignored = nullptr;       // null, or one per vertex: not looked at
    const FaceReference* reference = nullptr;  // null: made for this run
    bool by_shape = false;  // a base mesh: where no face is seen, its head is found by its form, all points unsure
};

struct Detection {
    LandmarkSet set;                              // in the source's coordinates, with trust for every entry
    std::map<std::string, Evidence> evidence;     // of the points: what speaks against each
    std::map<std::string, std::string> left_out;  // name -> why
    std::vector<std::string> not_seen;            // regions of the kit that are covered or missing here: not to match
    Similarity to_kit;                            // source -> kit frame, mm, by the face
    bool figure = false;                          // body points were looked for
    VertexMask not_skin;  // per vertex of the source: hair, cap, glasses and the like, with what was ignored already;
                          // empty: nothing
    double not_skin_share = 0;                    // of the source's surface, beside what was ignored
    std::map<std::string, double> covered;        // face, ears, skull, neck: share of it under what is no skin
    double mouth_gap_mm = 0;                      // how far the lips are apart, in the kit's size; 0: shut
    std::array<std::optional<LidState>, 2> lids;  // of the right and the left eye; empty: nothing tells
    bool coloured = false;                        // skin colours helped
    int evaluations = 0;                          // of the networks, on the source
    double seconds = 0;
    std::vector<std::string> notes;
};

// Fails with NotFound when no face is there, DegenerateInput when there is no surface, Cancelled.
Result<Detection> detect_landmarks(FaceNetwork& network, const DetectInput& input, const Progress& progress);

// Detection::lids for reports: "right", "left" -> "open", "half", "shut"; what is not told is not there.
std::map<std::string, std::string> told_lids(const Detection& found);

// A sentence about Detection::not_skin: how much it is and what it covers. Empty when there is nothing.
std::string what_is_left_out(const Detection& found);

// Name of the preset (fit/presets.h) that what was found asks for in place of these settings; empty: these do.
std::string preset_for(const Detection& found, const FitSettings& settings);

// Puts what was found into a set; points by hand, accepted or locked stay as they are.
// Returns how many were put.
int merge_found(const Detection& found, LandmarkSet& into);

// Regions that were not seen are not matched in the next fit, those that are seen again are: only where the setting
// is untouched or was made here. Returns the regions that are left out now and were not before.
std::vector<std::string> leave_out_unseen(const Detection& found, const BaseKit& kit, FitSettings& settings);

}  // namespace veld
