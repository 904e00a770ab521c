#pragma once
// Where each place of the base is on a source that it was fitted to.
//
// A line along the normal, both ways, gives the nearest place of the source that faces the same way; where none is
// met, the closest such place does. A place is believed when the way back leads home: every vertex of the source knows
// its closest place of the base once. A hit whose way back ends elsewhere, or on skin that faces another way, or that
// has a much nearer partner there, is on a wrong sheet (the other lip, the next finger, the face before a mouth's
// inside). How far is looked is told by the fit: in each region its own distances, the far ones included, and what the
// source's triangles leave open.
#include "core/base/progress.h"
#include "core/fit/source_surface.h"
#include "core/skin/bake_surface.h"

namespace veld {

enum class Found : std::uint8_t {
    Nothing,     // not on an island, or nobody asked
    Along,       // along the normal
    Closest,     // by the closest place
    Missed,      // nothing of the source within reach
    WrongSheet,  // something is, but it belongs elsewhere
    Mirrored,    // missed, or no skin, and shown as the other side has it
};

struct RegionReach {
    std::string region;
    double median_mm = 0, far_mm = 0;  // of the distances to the source; far: 95 of 100 are nearer
    double reach_mm = 0;
    double shown = 0;  // share of its vertices that the source has within reach
};

struct SourcePlace {
    Found found = Found::Missed;
    Index triangle = kNone;  // of the source's surface
    Vec3 shares = Vec3::Zero();
    Vec3 position = Vec3::Zero();  // kit frame, mm
    double along = 0;              // mm outwards along the base's normal
};

class Projection {
 public:
    // Both are kept and must outlive it. reach_mm: 0: by the data. parts: of the base that are looked for on the
    // source (per part_names); the way back may lead to these only.
    static Result<Projection> make(const BakeSurface& base, const SourceSurface& source,
                                   const std::vector<bool>& parts, double reach_mm, const Progress& progress);

    SourcePlace at(Index triangle, const Vec3& shares) const;
    const std::vector<RegionReach>& reaches() const { return reaches_; }
    // Per vertex of the source's surface, unit; its doubled vertices share one.
    const Points& source_normals() const { return normals_; }
    // What a place costs at least: the line and, where it meets nothing, the closest place. For benchmarks.
    bool query_only(Index triangle, const Vec3& shares) const;

 private:
    Projection() = default;
    void look_back_all(const std::vector<bool>& parts);
    void choose_reach(double reach_mm);
    bool at_rim(const SurfaceHit& hit) const;
    bool leads_home(const Vec3& place, const Vec3& normal, const SurfaceHit& hit) const;

    const BakeSurface* base_ = nullptr;
    const SourceSurface* source_ = nullptr;
    Points normals_;
    struct Back {
        Vec3 place = Vec3::Zero();    // of the base
        float normal[3] = {0, 0, 0};  // the base's there
        float distance = -1;          // mm; below 0: none
    };
    Back look_back(const Vec3& from, const Vec3& normal) const;
    std::unique_ptr<SurfaceQuery> base_query_;
    std::vector<Triangle> base_faces_;
    std::vector<Index> base_number_;  // of these, into the base's triangles
    std::vector<Back> back_;          // per vertex of the source
    std::vector<float> reach_;        // per vertex of the base, mm
    std::vector<float> spread_;       // per vertex of the source: its longest edge, mm
    VertexMask rim_;                  // per vertex of the source: 1 where it ends
    std::vector<RegionReach> reaches_;
};

}  // namespace veld
