#include "core/proof/lid_contact.h"

#include <algorithm>
#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/proof/transfer.h"

namespace veld {
namespace {

constexpr double kRegionReach = 2.6;  // of the region, in radii of the ball from its centre
constexpr double kPairReach = 1.8;    // lids' edges, in radii
constexpr double kEnoughMm = 0.01;
constexpr int kRounds = 16, kRoundsToShut = 60, kRoundsToTouch = 5;
constexpr double kGoesMm = 0.5;                       // skin that moves this far goes along wholly
constexpr double kMovedMm = 2;                        // skin that moved this far is brought out of the ball wholly
constexpr double kThinMm = 0.8;                       // the thinnest lid,
constexpr double kThinner = 0.4;                      // and what is left of the layers above it
constexpr double kBallHolds = 4, kPairHolds = 2000;   // against the surface's own weights, which are 1 over mm
constexpr double kSlackMm = 0.5;                      // a lid's inside that lies no farther off than this stays
constexpr double kFacesBall = -0.2, kInsideMm = 1.2;  // skin whose normal does, and so near to it, is a lid's inside

}  // namespace

LidContact::LidContact(const BaseKit& kit, const KitEye& eye, const Points& head, double size,
                       const ExpressionMeetings& meetings)
    : ball_(kit, eye, head),
      on_base_(kit, eye, kit.mesh.positions),
      head_(head),
      base_(kit.mesh.positions),
      size_(size),
      row_(head.size(), kNone) {
    if (!ball_.there() || !on_base_.there()) return;
    find_region(kit);
    find_pairs(kit, meetings);
    find_outside(kit);
    free_ = make_system(kit, false), meeting_ = make_system(kit, true);
}

void LidContact::find_region(const BaseKit& kit) {
    const Points& base = kit.mesh.positions;
    for (const Index v : kit.part("skin")->vertices) {
        if ((head_[v] - ball_.centre()).norm() > kRegionReach * ball_.radius()) continue;
        const bool moves = std::any_of(kit.expressions.begin(), kit.expressions.end(),
                                       [&](const auto& e) { return (e.second[v] - base[v]).norm() > kMovesMm; });
        if (moves) row_[v] = static_cast<Index>(region_.size()), region_.push_back(v);
    }
}

// Skin of the region that lies apart at rest and touches in an expression.
void LidContact::find_pairs(const BaseKit& kit, const ExpressionMeetings& meetings) {
    const double reach = kPairReach * ball_.radius();
    for (const auto& [name, all] : meetings) {
        const Points& shape = kit.expressions.at(name);
        for (const Meeting& m : all) {
            if (row_[m.a] == kNone || row_[m.b] == kNone || (head_[m.a] - ball_.centre()).norm() > reach) continue;
            const auto known = std::find_if(pairs_.begin(), pairs_.end(), [&](const Pair& p) {
                return (p.a == m.a && p.b == m.b) || (p.a == m.b && p.b == m.a);
            });
            const bool turned = known != pairs_.end() && known->a != m.a;
            const Vec3 shut = size_ * (turned ? shape[m.b] - shape[m.a] : shape[m.a] - shape[m.b]);
            if (known != pairs_.end()) {
                known->shut.try_emplace(name, shut);
                known->least = std::min(known->least, shut.dot(known->opening));
                continue;
            }
            Pair pair{m.a, m.b, head_[m.a] - head_[m.b], 0, {{name, shut}}};
            const Vec3 out = ball_.way_out(0.5 * (head_[m.a] + head_[m.b]));
            pair.opening -= pair.opening.dot(out) * out;
            if (!(pair.opening.norm() > kEnoughMm)) continue;
            pair.opening.normalize();
            pair.least = shut.dot(pair.opening);
            pairs_.push_back(pair);
        }
    }
}

// Which skin lies outside the ball on the base, at rest.
void LidContact::find_outside(const BaseKit& kit) {
    const Points& base = kit.mesh.positions;
    for (const Index v : region_) {
        base_rest_.push_back(on_base_.outside(base[v]));
        double least = std::min(base_rest_.back(), kThinMm);
        for (const auto& [name, shape] : kit.expressions)
            if (least > 0 && (shape[v] - base[v]).norm() > kMovesMm && on_base_.near(shape[v]))
                least = std::min(least, on_base_.outside(shape[v]));
        base_least_.push_back(std::max(0.0, least));
        at_rest_.push_back(ball_.outside(head_[v]));
        thin_ = thin_ || (base_rest_.back() > 0 && base_rest_.back() < kNearEyeMm - 1 &&
                          at_rest_.back() < size_ * base_rest_.back() - kSlackMm);
        inside_.push_back(base_rest_.back() < kInsideMm &&
                          kit_normals(kit)[v].dot(on_base_.way_out(base[v])) < kFacesBall);
    }
}

// As far outside as the base is in that shape, and as much less as the head's lids are thinner than the base's. Where
// the head's skin lies too near to its ball, or in it, what moves goes to a lid's thickness outside, layers in order.
// Lids' insides, which no scan shows, come near to the ball as the base's do, else the lids move through them.
std::vector<LidContact::Room> LidContact::room(const Points& base_shape) const {
    std::vector<Room> out(region_.size());
    double most = 0;
    for (const Index v : region_) most = std::max(most, (base_shape[v] - base_[v]).norm());
    const double awake = std::min(1.0, most / kMovedMm);
    for (std::size_t i = 0; i < region_.size(); ++i) {
        const Vec3& there = base_shape[region_[i]];
        if (!(base_rest_[i] > 0) || !(base_least_[i] > 0) || !on_base_.near(there))
            continue;  // it has no room to keep
        const double base = size_ * std::max(on_base_.outside(there), base_least_[i]);
        const double thin = base <= kThinMm ? base : kThinMm + kThinner * (base - kThinMm);
        const double own = base + std::min(0.0, at_rest_[i] - size_ * base_rest_[i]);
        const double moved = std::min(1.0, (there - base_[region_[i]]).norm() / kMovedMm);
        const double rest = std::min(own, at_rest_[i]);
        out[i].least = std::max(own, rest + moved * (thin - rest));
        if (inside_[i] && (thin_ || at_rest_[i] > size_ * base_rest_[i] + kSlackMm)) {
            out[i].least = rest + moved * (thin - rest);
            const double to = thin_ ? thin : base;
            out[i].most = std::max(out[i].least, to + (1 - awake) * std::max(0.0, at_rest_[i] - to));
        }
    }
    return out;
}

// The surface's own Laplacian over the region, held around it, with what constraints may hold.
std::unique_ptr<SpdSolver> LidContact::make_system(const BaseKit& kit, bool with_pairs) const {
    if (region_.empty()) return nullptr;
    const Adjacency& ways = kit_neighbours(kit);
    std::vector<std::pair<Index, Index>> entries;
    for (const Index v : region_)
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n)
            if (row_[*n] != kNone && *n > v) entries.emplace_back(row_[v], row_[*n]);
    for (const Pair& p : pairs_) entries.emplace_back(row_[p.a], row_[p.b]);
    auto system = std::make_unique<SpdSolver>(static_cast<Index>(region_.size()), std::move(entries));
    auto& values = system->values();
    std::fill(values.begin(), values.end(), 0.0);
    for (const Index v : region_) {
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            const double w = 1 / std::max(0.1, (head_[*n] - head_[v]).norm());
            values[system->slot(row_[v], row_[v])] += w;
            if (row_[*n] != kNone && *n > v) values[system->slot(row_[v], row_[*n])] -= w;
        }
    }
    for (std::size_t i = 0; i < region_.size(); ++i)
        if (base_rest_[i] > 0) values[system->slot(static_cast<Index>(i), static_cast<Index>(i))] += kBallHolds;
    for (const Pair& p : pairs_) {
        if (!with_pairs) break;
        const Index a = row_[p.a], b = row_[p.b];
        values[system->slot(a, a)] += kPairHolds, values[system->slot(b, b)] += kPairHolds;
        values[system->slot(a, b)] -= kPairHolds;
    }
    if (!system->factor()) return nullptr;
    return system;
}

Vec3 LidContact::pair_way(const Pair& p, const std::string* expression, const Points& shape) const {
    const Vec3 now = shape[p.a] - shape[p.b];
    if (const auto at = expression ? p.shut.find(*expression) : p.shut.end(); at != p.shut.end())
        return at->second - now;
    const double over = p.least - now.dot(p.opening);
    return over > 0 ? Vec3(over * p.opening) : Vec3(Vec3::Zero());
}

bool LidContact::shuts_in(const std::string& expression) const {
    return std::any_of(pairs_.begin(), pairs_.end(), [&](const Pair& p) { return p.shut.contains(expression); });
}

void LidContact::shut(const std::string& expression, const Points& base_shape, Points& shape) const {
    solve(&expression, base_shape, shape);
}
void LidContact::settle(const Points& base_shape, Points& shape) const { solve(nullptr, base_shape, shape); }

double LidContact::sunk(const Points& base_shape, const Points& shape) const {
    const std::vector<Room> rooms = room(base_shape);
    double out = 0;
    for (std::size_t i = 0; i < region_.size(); ++i) out = std::max(out, missing(rooms[i], shape[region_[i]]));
    return out;
}

// Above 0: to be moved out by that, below: in.
double LidContact::missing(const Room& room, const Vec3& now) const {
    if (room.least <= 0 || !ball_.near(now)) return 0;
    const double is = ball_.outside(now);
    return is < room.least ? room.least - is : std::min(0.0, room.most - is);
}

void LidContact::solve(const std::string* expression, const Points& base_shape, Points& shape) const {
    if (!free_ || !meeting_) return;
    const std::vector<Room> rooms = room(base_shape);
    Points moved(region_.size(), Vec3::Zero());  // what the constraints added so far
    const Points from = shape;
    // what the expressions leave where it is stays there
    std::vector<double> goes;
    for (std::size_t i = 0; i < region_.size(); ++i)
        goes.push_back(std::isfinite(rooms[i].most)
                           ? 1
                           : std::min(1.0, (base_shape[region_[i]] - base_[region_[i]]).norm() / kGoesMm));
    for (const Pair& p : pairs_)  // but for edges that touch: they go wherever they meet
        if (expression && p.shut.contains(*expression)) goes[row_[p.a]] = goes[row_[p.b]] = 1;
    for (int round = 0; round < (expression ? kRoundsToShut : kRounds); ++round) {
        Points right(region_.size(), Vec3::Zero()), apart;
        double sunk = 0, over = 0;
        for (std::size_t i = 0; i < region_.size(); ++i) {
            if (!(base_rest_[i] > 0)) continue;
            const Vec3& now = shape[region_[i]];
            const double deep = missing(rooms[i], now);
            sunk = std::max(sunk, std::abs(deep));
            right[i] += kBallHolds * (deep != 0 ? Vec3(moved[i] + deep * ball_.way_out(now)) : moved[i]);
        }
        for (const Pair& p : pairs_) {
            const Vec3 way = pair_way(p, expression, shape);
            over = std::max(over, way.norm());
            apart.push_back(kPairHolds * (way + moved[row_[p.a]] - moved[row_[p.b]]));
        }
        if (std::max(sunk, over) < kEnoughMm) break;
        for (std::size_t i = 0; over > 0 && i < pairs_.size(); ++i)
            right[row_[pairs_[i].a]] += apart[i], right[row_[pairs_[i].b]] -= apart[i];
        moved = (over > 0 ? meeting_ : free_)->solve(right);
        for (std::size_t i = 0; i < region_.size(); ++i) shape[region_[i]] = from[region_[i]] + goes[i] * moved[i];
    }
    for (std::size_t i = 0; i < region_.size(); ++i) {
        Vec3& p = shape[region_[i]];
        p += goes[i] * missing(rooms[i], p) * ball_.way_out(p);
    }
    if (expression) touch(expression, rooms, shape);
}

// What is left between edges that touch, half by each; what comes too near to the ball by that goes out with the
// other.
void LidContact::touch(const std::string* expression, const std::vector<Room>& rooms, Points& shape) const {
    for (int round = 0; round < kRoundsToTouch; ++round)
        for (const Pair& p : pairs_) {
            const Vec3 half = 0.5 * pair_way(p, expression, shape);
            if (half.isZero()) continue;
            shape[p.a] += half, shape[p.b] -= half;
            const Vec3 middle = 0.5 * (shape[p.a] + shape[p.b]);
            const double deep =
                std::max({0.0, missing(rooms[row_[p.a]], shape[p.a]), missing(rooms[row_[p.b]], shape[p.b])});
            const Vec3 out = deep * ball_.way_out(middle);
            shape[p.a] += out, shape[p.b] += out;
        }
}

std::function<void(Points&, const VertexIndices&)> LidContact::holding(const std::string* expression,
                                                                       const Points& base_shape) const {
    if (!free_ || !meeting_) return [](Points&, const VertexIndices&) {};
    return [this, rooms = room(base_shape), name = expression ? *expression : "", any = expression != nullptr](
               Points& shape, const VertexIndices& moved) {
        for (const Index v : moved)
            if (row_[v] != kNone) shape[v] += missing(rooms[row_[v]], shape[v]) * ball_.way_out(shape[v]);
        touch(any ? &name : nullptr, rooms, shape);
    };
}

}  // namespace veld
