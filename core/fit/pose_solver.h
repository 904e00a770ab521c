#pragma once
// The unknowns of a figure: turns of the joints, lengths and girths of the bones, place and size; solved step by step
// (Gauss-Newton) so that places of the skin come to lie where they are wanted, with people's likely poses as a prior.
#include <Eigen/Dense>

#include "core/kit/base_kit.h"
#include "core/rig/joint_range.h"
#include "core/rig/pose.h"

namespace veld {

// A place of the kit's skin with what moves it.
struct SkinPlace {
    Vec3 rest = Vec3::Zero(), normal = Vec3::Zero();
    std::array<std::pair<Index, double>, 4> joints{};
    double firm = 1;  // how much its distance says of the pose (flesh.h)
};
SkinPlace skin_place(const BaseKit& kit, Index vertex, const Vec3& normal);
// normal: zero
SkinPlace skin_place(const BaseKit& kit, const SurfacePoint& point);

class PoseSolver {
 public:
    explicit PoseSolver(const BaseKit& kit);

    // What is solved for. The figure is `size` times as large as the kit; stretch is written by take_step() and set().
    const Pose& pose() const { return pose_; }
    double size() const { return size_; }
    // A pose of this size, its build as this class writes it (of one that it gave before, or none).
    void set(const Pose& pose, double size);
    // A pose that holds the size in its stretch, as whole().
    void set_whole(const Pose& pose);
    Pose whole() const;
    void move_by(const Vec3& way);  // mm, of the figure

    // Where the place is now, and its normal.
    Vec3 at(const SkinPlace& place) const;
    Vec3 normal_at(const SkinPlace& place) const;

    // One round: begin, what is wanted, priors, step.
    void begin();
    // The place is to move by `gap`; weight: of each direction. as: where on the figure it is taken to be when all of
    // it grows; null: where it is. The middle of a head for its places, so that a large head makes no tall figure.
    void want(const SkinPlace& place, const Vec3& gap, const Mat3& weight, const Vec3* as = nullptr);
    // ease: factor on how stiff limbs are; builds: how stiff lengths and girths
    void add_priors(double ease, double builds);
    // Joints that stay as they are (one per joint, or empty: none), and whether place, size and build do too, but for
    // the build of these joints.
    void hold(std::vector<char> joints, bool rest, const std::vector<std::size_t>& growing = {}) {
        held_ = std::move(joints), rest_held_ = rest, growing_.clear();
        for (const std::size_t j : growing) growing_.push_back(group_[j]);
    }
    // Jaw and eyes turn too. Else they stay as the pose has them: what little a figure's face says of them would be
    // taken out of its lips as a pose.
    void let_face_turn() { face_turns_ = true; }
    bool take_step();  // false: not solvable

    bool moves_with(std::size_t joint, std::size_t above) const { return below_[above][joint]; }

 private:
    void find_bones();
    Mat3 stretch_of(std::size_t joint) const;
    std::pair<Vec3, Vec3> growth(std::size_t joint, const SkinPlace& place) const;
    void gather_ways(const SkinPlace& place, const Vec3& now, const Vec3* as);
    void add_range(std::size_t joint, double ease);
    void add_held();

    const BaseKit& kit_;
    const std::vector<JointRange> ranges_;
    Pose pose_;
    double size_ = 1;
    PosedJoints posed_;  // by pose_
    std::vector<char> held_;
    std::vector<Eigen::Index> growing_;  // groups
    bool rest_held_ = false, face_turns_ = false;
    std::vector<std::vector<char>> below_;  // below_[j][k]: k moves with j
    std::vector<std::vector<Index>> way_;   // way_[j][k]: the child of j that leads to k
    std::vector<Eigen::Index> group_;       // per joint: whose build it shares
    std::vector<Vec3> along_;               // per joint: the bone's direction at rest; zero: grows on all sides
    Eigen::Index back_ = -1, hips_ = -1;    // the groups of spine and pelvis
    Eigen::VectorXd build_;                 // per group: logarithms of length and girth
    Eigen::MatrixXd left_;  // unknowns: three turns per joint, three moves, one size, the groups' builds
    Eigen::VectorXd right_;
    // of the place that is added
    std::vector<Eigen::Index> columns_;
    std::vector<Vec3> ways_;
    std::vector<int> slot_;  // column -> entry of the two above, or -1
};

}  // namespace veld
