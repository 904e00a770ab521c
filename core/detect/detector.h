#pragma once
// The run of detect_landmarks, told in four files: the head (detect.cpp), its ears, mouth and pupils
// (detect_parts.cpp), what is moved to edges and folds (detect_seats.cpp), and the body (detect_body.cpp). Private to
// this folder.
#include <functional>
#include <optional>

#include "core/detect/carry_over.h"
#include "core/detect/detect.h"
#include "core/detect/follow_edge.h"
#include "core/detect/mark_ears.h"
#include "core/fit/wrap.h"

namespace veld {

constexpr double kOnSurfaceMm = 8;  // farther from the surface than this: there is nothing to mark

class Detector {
 public:
    Detector(FaceNetwork& network, const DetectInput& input, const FaceReference& reference, const Progress& progress)
        : network_(network),
          in_(input),
          kit_(*input.kit),
          reference_(reference),
          progress_(progress),
          base_points_(input.base_points.empty() ? kit_.landmarks : input.base_points),
          base_curves_(input.base_curves.empty() ? kit_.curves : input.base_curves) {}

    Result<Detection> run();

 private:
    Status see();
    bool lay_by_shape();
    LandmarkSet start() const;
    void add_ears(LandmarkSet& into) const;
    void read_ears();
    void open_mouth();
    void read_mouth();
    void leave_out_teeth();
    void find_likely();
    void look_at_lids();
    void seat_commissures();
    Points in_kit(const Points& on_source) const;
    Points on_posed(const std::string& curve) const;
    void move_point(const std::string& name, const Vec3& to);  // kit frame
    void move_curve(const std::string& name, const Points& line);
    void move_corner(const std::string& name, const EdgePair& source, const EdgePair& base);
    Vec3 on_lid_edge(const std::string& name, const Edge& edge, const Edge* of_base) const;
    void seat_mouth_corners();
    void seat_grooves();
    void seat_lids(const Points& fitted);
    void seat_wings();
    void read_lids();
    std::vector<PointPull> hints() const;
    Status fit_head();
    void read_off(const BaseKit& kit, const Points& fitted, const std::vector<float>& distances, FitPart part,
                  const std::function<bool(const std::string&)>& wanted);
    void judge_head();
    void pupils();
    bool is_figure() const;
    Similarity standing() const;
    Status find_body();
    Progress stage(double from, double to) const;
    Vec3 on_base(const std::string& name) const { return base_points_.at(name).at(kit_.mesh.positions); }

    FaceNetwork& network_;
    const DetectInput& in_;
    const BaseKit& kit_;
    double jaw_degrees_ = 0;
    LidsShut lids_{0, 0};            // where they are told to be half or wholly shut
    std::optional<BaseKit> opened_;  // the same with its jaw down as the source's, shaped as its head most likely is
    const BaseKit& posed() const { return opened_ ? *opened_ : kit_; }
    const FaceReference& reference_;
    const Progress& progress_;
    const std::map<std::string, SurfacePoint> base_points_;
    const std::map<std::string, std::vector<SurfacePoint>> base_curves_;

    Detection out_;
    SurfaceLook look_;  // in the kit frame, as the face lies
    std::vector<SeenView> views_;
    std::vector<SurfacePair> pairs_;
    std::optional<SmoothMap> map_;
    std::array<MarkedEar, 2> ears_;
    bool by_shape_ = false;
};

}  // namespace veld
