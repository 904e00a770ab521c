#pragma once
// The lids of one eye: where they meet, and that they stay outside the eyeball, in any mix of expressions.
//
// Projective constraints [Bouaziz et al. 2014]: the skin around the eye is moved on as evenly as the surface allows
// (harmonic), while skin near the ball is drawn to its outside and edges of lids to where they meet. The system is
// factored once for a head.
#include <functional>

#include "core/fit/meeting.h"
#include "core/linalg/spd_solver.h"
#include "core/proof/eye_ball.h"

namespace veld {

// What touches in each of the kit's expressions.
using ExpressionMeetings = std::map<std::string, std::vector<Meeting>>;

class LidContact {
 public:
    // head: every vertex of the base in the head's shape at rest; size: how much larger than the base's it is. Both
    // and the kit must outlive this.
    LidContact(const BaseKit& kit, const KitEye& eye, const Points& head, double size,
               const ExpressionMeetings& meetings);
    // Skin around the eye that some expression moves. Empty: there is nothing to do.
    const VertexIndices& region() const { return region_; }

    // An expression carried to the head: where lids touch in the base's, they touch; skin stays outside of the ball.
    // base_shape: the base's own skin in it.
    void shut(const std::string& expression, const Points& base_shape, Points& shape) const;
    bool shuts_in(const std::string& expression) const;  // they touch in the base's
    // Any mix: lids that passed one another meet; skin stays outside of the ball.
    void settle(const Points& base_shape, Points& shape) const;
    // The same for the few vertices that another step moved: edges meet (null: have not passed one another), skin
    // stays outside. base_shape is not kept; this must outlive it.
    std::function<void(Points&, const VertexIndices&)> holding(const std::string* expression,
                                                               const Points& base_shape) const;
    // How far skin is missing from where it is wanted, mm: in the ball, or too near to it.
    double sunk(const Points& base_shape, const Points& shape) const;

 private:
    struct Pair {
        Index a = kNone, b = kNone;
        Vec3 opening = Vec3::Zero();       // unit, from b to a as the eye opens
        double least = 0;                  // how far a lies from b along it, at least
        std::map<std::string, Vec3> shut;  // expressions of the kit in which they touch: how a lies from b there
    };
    void find_region(const BaseKit& kit);
    void find_pairs(const BaseKit& kit, const ExpressionMeetings& meetings);
    void find_outside(const BaseKit& kit);
    std::unique_ptr<SpdSolver> make_system(const BaseKit& kit, bool with_pairs) const;
    // How far outside the ball skin is to be, mm; least 0: no matter where.
    struct Room {
        double least = 0, most = std::numeric_limits<double>::infinity();
    };
    std::vector<Room> room(const Points& base_shape) const;
    double missing(const Room& room, const Vec3& now) const;
    // How far the pair is to be parted (closed, too, where it touches in that expression).
    Vec3 pair_way(const Pair& pair, const std::string* expression, const Points& shape) const;
    void touch(const std::string* expression, const std::vector<Room>& rooms, Points& shape) const;
    void solve(const std::string* expression, const Points& base_shape, Points& shape) const;

    EyeBall ball_, on_base_;
    const Points &head_, &base_;
    const double size_;
    VertexIndices region_;
    std::vector<Index> row_;  // per vertex of the base: its place in the region
    std::vector<Pair> pairs_;
    std::vector<double> at_rest_, base_rest_, base_least_;  // per vertex of the region: how far outside the ball
    bool thin_ = false;                          // some of the head's lids are thinner than the base's, or in the ball
    VertexMask inside_;                          // per vertex of the region: of a lid's inside
    std::unique_ptr<SpdSolver> free_, meeting_;  // without pairs, with them
};

}  // namespace veld
