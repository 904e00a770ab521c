#pragma once
// How a wrap goes; for the files of this folder only. wrap.cpp brings the surface to the source, wrap_repair.cpp mends
// what went wrong on the way.
#include "core/fit/faults.h"
#include "core/linalg/surface_energy.h"

namespace veld {

// What changes from level to level.
struct WrapLevel {
    double lambda = 1;    // bending length, mm
    double match_mm = 1;  // robust scale
    double landmark = 1;  // strength of points, as a multiple of the plate's own resistance
    bool match = true;
};

class Wrapper {
 public:
    Wrapper(const WrapProblem& problem, const FitSettings& settings, const Progress& progress)
        : p_(problem),
          settings_(settings),
          progress_(progress),
          surface_(surface_of(problem)),
          triangles_(surface_->triangles),
          energy_(make_energy()) {
        stiffness_ = p_.stiffness;
        match_ = p_.match;
        base_cuts_ = cuts_of_base(p_, *surface_);
        x_ = p_.start ? *p_.start : rest();
    }

    Result<WrapResult> run();

 private:
    const Points& rest() const { return p_.rest ? *p_.rest : p_.base->positions; }
    SurfaceEnergy make_energy();
    Status round(const WrapLevel& level);
    Result<Points> solve(const WrapLevel& level, const Points& rhs);
    void pull(const SurfacePoint& place, const Vec3& target, double weight, Points& rhs);
    void pull_all(const WrapLevel& level, Points& rhs);
    void keep_contacts(Points& rhs);
    void match_along_normals();
    void apply_stiffness(double lambda);
    Status repair(const WrapLevel& last, int* repaired);
    Status repair_around(const WrapLevel& last, int* repaired);
    struct Faults : SurfaceFaults {
        double away_mm = 0;  // mean distance to the source of what wants to lie on it
    };
    struct Settled {
        Points x;
        Faults faults;
    };
    Faults faults_of(const Points& x) const;
    static bool better(const Faults& a, const Faults& b);
    void settle(Settled& best) const;
    void go_back(Settled& best) const;
    void keep_precise(const Settled& first, Settled& best) const;
    void relax_faults(Settled& best) const;
    void turn_slivers_back(const std::vector<Mat3>& maps, const std::vector<Index>& ring_of, Points& x) const;
    Status match_again(const WrapLevel& last, std::set<Index> faulty, const std::set<Index>& touched, Settled& best);
    WrapLevel level_at(double fraction) const;

    const WrapProblem& p_;
    const Points* averaged_ = nullptr;  // of the source, from kDenoiseFrom on
    const FitSettings& settings_;
    const Progress& progress_;
    WrapTimes times_;
    const std::shared_ptr<const ProblemSurface> surface_;
    const std::vector<Triangle>& triangles_;
    SurfaceEnergy energy_;
    Points x_;
    std::vector<Points> earlier_;  // x_ after some of the levels
    // of a repair around faults: what is measured is of the whole all the same
    double whole_area_ = 0, away_elsewhere_ = 0;
    std::vector<double> stiffness_, match_;
    double factored_lambda_ = -1;   // the level that the energy's solver was factored for
    double stiffness_lambda_ = -1;  // the level that the energy's stiffness was made for
    std::vector<Match> matches_;
    std::set<std::pair<Index, Index>> base_cuts_;
};

}  // namespace veld
