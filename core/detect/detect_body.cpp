#include <Eigen/Eigenvalues>
#include <cmath>

#include "core/detect/detector.h"
#include "core/fit/articulate.h"
#include "core/fit/find_pose.h"
#include "core/fit/fit.h"
#include "core/fit/floor.h"

namespace veld {
namespace {

constexpr double kFigureMatchMm = 90;  // a belly may stand this far before the kit's
constexpr double kPoorPoseMm = 12;
constexpr double kFigureEndMm = 6;
constexpr int kFigureLevels = 9, kFigureIterations = 2;

}  // namespace

// Taller than a head and shoulders, in the size that the face tells.
bool Detector::is_figure() const {
    Box box;
    for (const Vec3& p : look_.surface.positions) box.add(p);
    return kit_.joints.size() > 10 && box.size().maxCoeff() > 1100;
}

// The face's frame turned so that the figure's length is upright, sized and put down as the kit stands.
Similarity Detector::standing() const {
    Points on;
    for (const Triangle& t : look_.surface.triangles) on.push_back(look_.surface.positions[t[0]]);
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : on) middle += p / static_cast<double>(on.size());
    Mat3 spread = Mat3::Zero();
    for (const Vec3& p : on) spread += (p - middle) * (p - middle).transpose();
    Vec3 along = Eigen::SelfAdjointEigenSolver<Mat3>(spread).eigenvectors().col(2);
    if (along.y() < 0) along = -along;
    Similarity out;
    out.rotation = Eigen::Quaterniond::FromTwoVectors(along, Vec3::UnitY()).toRotationMatrix();
    Box box;
    for (const Vec3& p : on) box.add(out(p));
    const Box base = bounding_box(kit_.mesh.positions);
    out.scale = base.size().y() / box.size().y();
    const Vec3 from(box.centre().x(), box.high.y(), box.centre().z()),
        to(base.centre().x(), base.high.y(), base.centre().z());
    out.translation = to - out.scale * from;
    return out;
}

// Bends the kit's skeleton onto the figure, fits all of it, and reads off what the head's fit does not know.
Status Detector::find_body() {
    const Similarity stand = standing();
    const VertexMask ignored = ignored_with_floor(*in_.source, stand * out_.to_kit, in_.ignored);
    const SourceSurface surface = prepare_source(*in_.source, stand * out_.to_kit, &ignored);
    std::vector<PosePull> pulls;
    // a few: they turn the head; more would ask the whole figure for the head's size
    for (const std::string& name : minimal_points()) {
        const auto at = std::as_const(out_.set.points).find(name);
        const auto base = base_points_.find(name);
        if (at != out_.set.points.cend() && base != base_points_.end() && !unsure(out_.set.trust_of(name)))
            pulls.push_back({base->second, (stand * out_.to_kit)(at->second)});
    }
    const auto bent = articulate(kit_, surface, pulls, {}, stage(0.55, 0.65));
    if (!bent) {
        if (bent.error().code == ErrorCode::Cancelled) return bent.error();
        out_.notes.push_back("Body points were not looked for: " + bent.error().message);
        return Done{};
    }
    out_.figure = true;
    // the wrap cannot repair a pose that is off by more than this
    if (bent->fit_mm > kPoorPoseMm)
        out_.notes.push_back("The kit's skeleton could only roughly be bent to this pose (" +
                             std::to_string(static_cast<int>(bent->fit_mm)) + " mm): look at every body point.");
    const BaseKit posed = posed_kit(kit_, bent->pose);
    const Similarity to_posed = bent->to_kit * stand * out_.to_kit;
    FitInput fit;
    fit.kit = &posed;
    fit.base_points = base_points_;
    fit.source = in_.source;
    fit.ignored = &ignored;
    // placed by the posed skeleton alone: a head of another size than the kit's must not size the body
    for (const auto& [name, place] : base_points_)
        fit.landmarks.points[name] = to_posed.inverse()(place.at(posed.mesh.positions));
    fit.settings.part = FitPart::All;
    fit.settings.take_pose_out = false;  // it is out already
    fit.settings.landmark_strength = 1e-3;
    // to see where points lie, not for its own sake
    fit.settings.smooth_start_mm = 140, fit.settings.smooth_end_mm = kFigureEndMm;
    fit.settings.levels = kFigureLevels, fit.settings.iterations = kFigureIterations;
    fit.settings.match_start_mm = kFigureMatchMm;
    const auto result = run_fit(fit, stage(0.65, 0.97));
    if (!result) return result.error();
    const Pose stands = settled_pose(kit_, result->positions, bent->pose);
    const Points joints = pose_joints(kit_.joints, stands).place;
    for (std::size_t j = 0; j < joints.size(); ++j)
        out_.set.joints[kit_.joints[j].name] = {result->placement.source_to_kit.inverse()(joints[j]), false};
    const Similarity to_face = out_.to_kit * result->placement.source_to_kit.inverse();
    Points fitted;
    for (const Vec3& p : result->positions) fitted.push_back(to_face(p));
    read_off(posed, fitted, result->distances, FitPart::All, [](const std::string& name) {
        const SchemePoint* p = landmark_scheme().point(name);
        return !places_part(name, FitPart::Head) || (p && p->region == "neck");
    });
    return Done{};
}

}  // namespace veld
