#pragma once
// How far off an automatic point may be: from everything that could contradict it.
#include "core/detect/carry_over.h"
#include "core/fit/settings.h"

namespace veld {

struct DoubtInput {
    const BaseKit& kit;
    const std::map<std::string, SurfacePoint>& base_points;
    const SurfaceLook& look;  // of the source, kit frame
    const std::vector<SeenView>& views;
    const FaceReference& reference;
    const std::vector<SurfacePair>& pairs;
    const SmoothMap& map;
    const Points& fitted;                 // base vertices on the source, kit frame
    const std::vector<float>& distances;  // of that fit, NaN: nothing was matched there
    FitPart part = FitPart::Head;         // of that fit
};

// What speaks against a point, mm each; kept apart so that they can be measured against the truth.
struct Evidence {
    double usual = 0;          // what points of its region are off when all is well
    double spread = 0;         // the views among each other, near the point
    double disagree = 0;       // network against fit; 0 where the network knows nothing
    double nearest = 0;        // to the next point that the network knows
    double surface = 0;        // fit to surface
    double unmatched = 0;      // share of the neighbourhood where the fit found nothing to match, 0..1
    double bent = 0;           // fit against the smooth shape of its neighbours
    double colour = 0;         // 0: like the face's skin, 1 and more: another colour (hair, cloth)
    double closed = 0;         // 1: a point of a lid or pupil whose eye looks closed
    double ear = 0;            // of ears found by their shape: 0..1 how clean the edge is
    double lies = 0;           // the same: 0..1 how well the ear lies there
    double rival = 0;          // the same: 0..1 how well the best ear elsewhere lies, against it
    double moved = 0;          // from the fit to the edge or fold that was found beside it
    double strange = 0;        // mm: how far network and fit are apart on this head as a whole (median over the face)
    double strange_times = 0;  // what of that a point of its region may be off
    double gap = 0;            // of a mouth's points: how far the lips are apart
    double fade = 0;           // 0..1 how much the head's fit fades out here
};

class Doubts {
 public:
    explicit Doubts(const DoubtInput& known);
    Evidence evidence(const std::string& name, const SurfacePoint& place, const SurfaceHit& on_source) const;
    Trust of_curve(const std::string& name, const std::vector<SurfacePoint>& curve) const;

 private:
    bool looks_closed(bool left) const;
    double view_spread(const Vec3& base) const;
    double unlike_skin(const Vec3& on_source) const;

    const DoubtInput known_;
    // a place of the base, and where a view alone would put it, against all views together
    struct Moved {
        Vec3 base, by;
    };
    std::vector<std::vector<Moved>> by_view_;
    std::vector<double> fade_;
    bool closed_[2] = {false, false};  // right, left eye
    double skin_[2] = {0, 0}, skin_width_[2] = {1, 1};
    std::map<std::string, double> off_;
};

// mm, from the evidence; the weights were fitted to made-up subjects of the kit's own surface and to the tuning set of
// foreign heads together (benchmarks/detect_accuracy, foreign_accuracy): two of three points lie within.
double expected_error(const Evidence& evidence);
// mm that a point of a scheme's region is off when nothing speaks against it.
double usual_error(const std::string& region);
// A head on which network and fit are apart by more than usual: what of that its points of a region may be off.
double strange_error(const std::string& region);
constexpr double kUsuallyApartMm = 1.2;
Trust trust_from(const Evidence& evidence);

}  // namespace veld
