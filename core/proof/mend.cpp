#include "core/proof/mend.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <set>

#include "core/fit/rest_repair.h"
#include "core/fit/untangle.h"
#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

using Pairs = std::vector<std::pair<Index, Index>>;

constexpr double kLipsNearMm = 25;  // skin this near the mouth line is looked at for lips
constexpr double kStepMm = 0.3;     // thighs and armpits cut deeper than lids
constexpr int kMendTries = 4;
constexpr double kDriverShare = 0.25;  // of what moves: an expression that moves so much of it brings it in
constexpr double kMovesItMm = 0.05;
constexpr double kLeastOfAll = 0.03;  // a joint whose skin moves by less of all gets no correction of its own
constexpr double kTurned = 0.05;      // radians: a joint that is turned by less brings nothing in
constexpr double kBesideFold = 0.1;   // of skin that hangs on one joint alone, against skin in its fold
constexpr double kLeastShare = 0.2;   // a correction that is brought in by less is not changed there
constexpr double kFoldedBy = 1e-3;    // skin pressed flat by this has no way back

struct Look {
    const ProofBench& bench;
    const ProofStop& stop;
    const BaseKit& kit;
    Points x, like;         // the shape and the base in the stop
    TriangleIndices mouth;  // empty: all skin is looked at
    Pairs allowed;          // pairs of skin triangles that may cut
    Pairs cuts(const Points& at) const {
        Pairs out = bench.places->new_cuts(bench.shape, bench.base, stop, at, like);
        if (mouth.empty()) return out;
        const auto in = [&](Index t) { return std::binary_search(mouth.begin(), mouth.end(), t); };
        std::erase_if(out, [&](const auto& pair) { return !in(pair.first) || !in(pair.second); });
        return out;
    }
    const TriangleIndices* only() const { return mouth.empty() ? nullptr : &mouth; }
    // What cuts in that shape and is none of these.
    void allow_all_but(const Pairs& cutting, const Points& at) {
        allowed.clear();
        const Pairs all = self_intersections(at, skin_triangles(kit), only());
        std::set_difference(all.begin(), all.end(), cutting.begin(), cutting.end(), std::back_inserter(allowed));
    }
};

// Numbers of the skin's triangles around the mouth.
TriangleIndices mouth_triangles(const BaseKit& kit) {
    VertexMask near(kit.mesh.positions.size(), 0);
    for (const TriangleIndices& lip : lip_fans(kit, kLipsNearMm))
        for (const Index t : lip)
            for (const Index v : kit.triangulation.triangles[t]) near[v] = 1;
    TriangleIndices out;
    const std::vector<Triangle>& skin = skin_triangles(kit);
    for (Index t = 0; t < skin.size(); ++t)
        if (near[skin[t][0]] || near[skin[t][1]] || near[skin[t][2]]) out.push_back(t);
    return out;
}

// Skin as the base's in that stop, bent by its surroundings, where that is enough; what is left is taken apart.
Points pushed_apart(Look& look, const Pairs& cutting, std::size_t* left) {
    Points out = look.x;
    *left = cutting.size();
    look.allow_all_but(cutting, out);
    Points bent = out;
    repair_like(look.kit, {look.like, look.allowed, look.only()}, bent);
    if (const std::size_t now = look.cuts(bent).size(); now < *left) *left = now, out = std::move(bent);
    VertexMask movable(out.size(), 0);
    for (const Index v : look.kit.part("skin")->vertices) movable[v] = 1;
    UntangleOptions options;
    options.step_mm = kStepMm;
    for (int tries = 0; *left > 0 && tries < kMendTries; ++tries) {
        Points apart = out;
        look.allow_all_but(look.cuts(apart), apart);
        untangle(apart, skin_triangles(look.kit), movable, look.allowed, look.only(), options);
        const std::size_t now = look.cuts(apart).size();
        if (now >= *left) break;
        *left = now, out = std::move(apart);
    }
    return out;
}

double widest_gap(const ProofBench& bench, const ProofStop& stop, const Points& x, const Points& base) {
    for (const ProofFigure& f : bench.places->measure(bench.shape, bench.base, stop, x, base))
        if (f.measure == ProofMeasure::LidGap) return f.value;
    return 0;
}

Result<Mending> shut(const ProofBench& bench, const ProofStop& stop) {
    const Points before = bench.shape.unbent(stop);
    Points after = before;
    if (!bench.shape.face() || !bench.shape.face()->shut_lids(stop.expressions, after))
        return Error{ErrorCode::BadInput,
                     "The base's lids do not meet in this proof: choose one whose lids are shut, the blink at 1."};
    Mending out;
    ProofStop still{{}, stop.expressions, stop.amount};
    const Points base = bench.base.unbent({{}, stop.expressions, 1});
    out.gap_before = widest_gap(bench, still, before, base), out.gap_after = widest_gap(bench, still, after, base);
    out.ways.resize(before.size());
    for (std::size_t v = 0; v < before.size(); ++v) out.ways[v] = after[v] - before[v];
    return out;
}

bool moves(const Points& ways) {
    return std::any_of(ways.begin(), ways.end(), [](const Vec3& w) { return !w.isZero(1e-6); });
}

}  // namespace

const char* mend_name(Mend mend) {
    constexpr const char* kNames[] = {"shut_lids", "part_lips", "push_apart"};
    return kNames[static_cast<std::size_t>(mend)];
}

const char* mend_plain(Mend mend) {
    constexpr const char* kPlain[] = {"Shut the lids", "Part the lips", "Push apart"};
    return kPlain[static_cast<std::size_t>(mend)];
}

std::optional<Mend> mend_from_name(const std::string& name) {
    for (const Mend m : kMends)
        if (name == mend_name(m)) return m;
    return {};
}

Result<Mending> mend(const ProofBench& bench, const ProofStop& stop, Skinning skinning, Mend what,
                     const Progress& progress) {
    if (what == Mend::ShutLids) return shut(bench, stop);
    ProofStop on_base = stop;
    on_base.amount = 1;
    const BaseKit& kit = bench.shape.kit();
    Look look{bench, stop, kit, bench.shape.at(stop, skinning), bench.base.at(on_base, skinning), {}, {}};
    if (what == Mend::PartLips && (look.mouth = mouth_triangles(kit)).empty())
        return Error{ErrorCode::BadInput, "The kit cannot tell its lips apart: it needs the mouth line and a jaw."};
    const Pairs cutting = look.cuts(look.x);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    if (cutting.empty())
        return Error{ErrorCode::BadInput, what == Mend::PartLips ? "No lips cross in this proof."
                                                                 : "No skin cuts itself anew in this proof."};
    Mending out;
    out.before = cutting.size();
    const Points apart = pushed_apart(look, cutting, &out.after);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    out.ways = taken_back(bench.shape, stop, skinning, look.x, apart);
    if (!moves(out.ways)) return Error{ErrorCode::BadInput, "Nothing that was tried makes it cut less."};
    return out;
}

bool is_of_rest(const BaseKit& kit, const std::vector<MorphDriver>& drivers) {
    return std::none_of(drivers.begin(), drivers.end(),
                        [&](const MorphDriver& d) { return !d.joint.empty() || kit.expressions.contains(d.morph); });
}

// Bending is affine for each vertex, by either skinning: three more skins tell it.
Points taken_back(const ProofSubject& shape, const ProofStop& stop, Skinning skinning, const Points& from,
                  const Points& to) {
    const Points rest = shape.unbent(stop), here = shape.bent(rest, stop, skinning);
    std::array<Points, 3> along;
    for (int k = 0; k < 3; ++k) {
        Points moved = rest;
        for (Vec3& p : moved) p[k] += 1;
        along[static_cast<std::size_t>(k)] = shape.bent(moved, stop, skinning);
    }
    Points out(from.size(), Vec3::Zero());
    for (std::size_t v = 0; v < from.size(); ++v) {
        const Vec3 way = to[v] - from[v];
        if (way.isZero(0)) continue;
        Mat3 linear;
        for (int k = 0; k < 3; ++k) linear.col(k) = along[static_cast<std::size_t>(k)][v] - here[v];
        if (std::abs(linear.determinant()) > kFoldedBy) out[v] = linear.inverse() * way;
    }
    return out;
}

Points reduced_ways(const BaseKit& kit, const Points& shape, const std::vector<float>& weight, double share) {
    Points out(shape.size(), Vec3::Zero());
    for (std::size_t v = 0; v < out.size(); ++v)
        out[v] = -share * static_cast<double>(weight[v]) * (shape[v] - kit.mesh.positions[v]);
    return out;
}

std::vector<float> region_weights(const BaseKit& kit, const std::string& region, double soft_mm) {
    return soft_region(kit.mesh.positions, kit_neighbours(kit), kit.region(region), soft_mm);
}

namespace {

// Per vertex: the turned joint in whose fold it lies; kNone: it does not move, or no joint is turned.
std::vector<std::size_t> bending_joints(const BaseKit& kit, const ProofStop& stop, const Points& ways) {
    std::vector<std::size_t> out(ways.size(), kNone);
    if (stop.pose.turns.size() != kit.joints.size() || kit.weights.weight.size() != ways.size()) return out;
    std::vector<double> angle, all(kit.joints.size(), 0);
    for (const Mat3& turn : stop.pose.turns) angle.push_back(Eigen::AngleAxisd(turn).angle());
    for (std::size_t v = 0; v < ways.size(); ++v) {
        if (ways[v].isZero(0)) continue;
        const auto weight_of = [&](int joint) {
            double sum = 0;
            for (std::size_t k = 0; k < 4; ++k)
                if (kit.weights.joint[v][k] == joint) sum += kit.weights.weight[v][k];
            return sum;
        };
        double most = 0;
        for (std::size_t k = 0; k < 4; ++k) {
            const std::size_t j = kit.weights.joint[v][k];
            const int parent = kit.joints[j].parent;
            const double score = angle[j] > kTurned ? angle[j] * kit.weights.weight[v][k] *
                                                          (kBesideFold + (parent < 0 ? 0 : weight_of(parent)))
                                                    : 0;
            if (score > most) most = score, out[v] = j;
        }
        if (out[v] != kNone) all[out[v]] += ways[v].norm();
    }
    // little ones, and skin that hangs on no turned joint, go with the largest
    const auto largest = std::max_element(all.begin(), all.end());
    if (*largest == 0) return out;
    const double least = kLeastOfAll * std::accumulate(all.begin(), all.end(), 0.0);
    for (std::size_t v = 0; v < ways.size(); ++v)
        if (!ways[v].isZero(0) && (out[v] == kNone || all[out[v]] < least))
            out[v] = static_cast<std::size_t>(largest - all.begin());
    return out;
}

// How much of what moves lies on skin that the expression moves.
double share_of(const BaseKit& kit, const std::string& expression, const Points& ways) {
    const auto shape = kit.expressions.find(expression);
    if (shape == kit.expressions.end()) return 0;
    double all = 0, its = 0;
    for (std::size_t v = 0; v < ways.size(); ++v) {
        all += ways[v].norm();
        if ((shape->second[v] - kit.mesh.positions[v]).norm() > kMovesItMm) its += ways[v].norm();
    }
    return all > 0 ? its / all : 0;
}

}  // namespace

Result<std::vector<Morph>> corrections_of(const ProofSubject& shape, const ProofStop& stop, const Points& ways,
                                          const std::string& name) {
    const BaseKit& kit = shape.kit();
    std::vector<MorphDriver> drivers;
    for (const auto& [head, amount] : shape.heads())
        if (amount * stop.amount != 0) drivers.push_back({head, amount * stop.amount, {}, Vec3::Zero()});
    for (const auto& [expression, amount] : stop.expressions)
        if (amount != 0 && share_of(kit, expression, ways) > kDriverShare)
            drivers.push_back({expression, amount, {}, Vec3::Zero()});
    const std::vector<std::size_t> joints = bending_joints(kit, stop, ways);
    std::vector<Morph> out;
    for (const std::size_t joint : std::set<std::size_t>(joints.begin(), joints.end())) {
        Points to = kit.mesh.positions;
        for (std::size_t v = 0; v < to.size(); ++v)
            if (joints[v] == joint) to[v] += ways[v];
        auto part = make_morph(kit, to, joint == kNone ? name : name + ", " + kit.joints[joint].name);
        if (!part) return part.error();
        if (part->index.empty()) continue;
        part->kind = MorphKind::Fix, part->usual = 1, part->group = "corrections", part->drivers = drivers;
        if (joint != kNone) {
            const Eigen::AngleAxisd turn(stop.pose.turns[joint]);
            part->drivers.push_back({{}, 1, kit.joints[joint].name, turn.angle() * turn.axis()});
        }
        out.push_back(std::move(*part));
    }
    if (out.empty()) return Error{ErrorCode::BadInput, "There is nothing to keep: no vertex was moved."};
    return out;
}

Result<Morph> corrected_further(const ProofSubject& shape, const ProofStop& stop, const Morph& correction,
                                const Morph& more) {
    const double share = driven_share(correction.drivers, shape.driving(stop));
    if (share < kLeastShare)
        return Error{ErrorCode::BadInput, "This stop hardly brings in the correction '" + correction.name + "'."};
    const BaseKit& kit = shape.kit();
    const Points to = mix_morphs(kit.mesh.positions, {{&correction, 1}, {&more, 1 / share}});
    auto both = make_morph(kit, to, correction.name);
    if (!both) return both;
    Morph out = correction;
    out.index = std::move(both->index), out.delta = std::move(both->delta);
    return out;
}

}  // namespace veld
