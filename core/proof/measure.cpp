#include "core/proof/measure.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/proof/eye_ball.h"
#include "core/proof/proof_places.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

using Pairs = std::vector<std::pair<Index, Index>>;

constexpr int kFoldRings = 3;
constexpr double kStretchShare = 0.999;  // of the edges
constexpr double kDeeperMm = 0.05;       // in a ball than at rest: less is no news
constexpr double kBadMm = 0.1, kBadVolume = 0.05, kBadFloorMm = 5, kBadStretch = 1.5;

bool has(const Pairs& pairs, const std::pair<Index, Index>& pair) {
    return std::binary_search(pairs.begin(), pairs.end(), pair);
}

// Between a joint and the skin around it: a fan of tetrahedra from the joint.
double volume(const Points& x, const std::vector<Triangle>& skin, const TriangleIndices& patch, const Vec3& from) {
    double out = 0;
    for (const Index t : patch)
        out += (x[skin[t][0]] - from).dot((x[skin[t][1]] - from).cross(x[skin[t][2]] - from)) / 6;
    return out;
}

double lowest(const Points& x, const VertexIndices& sole, Index* at = nullptr) {
    double out = std::numeric_limits<double>::infinity();
    for (const Index v : sole)
        if (x[v].y() < out) {
            out = x[v].y();
            if (at) *at = v;
        }
    return out;
}

}  // namespace

struct ProofPlaces::Inside : KitPlacesForProofs {
    using KitPlacesForProofs::KitPlacesForProofs;

    // Everything that one measuring looks at.
    struct Look {
        const ProofSubject &shape, &base;
        const ProofStop& stop;
        const Points &x, &b, &x_rest, &b_rest;
        std::vector<ProofFigure> out;
        void add(ProofMeasure measure, double value, double base_value, Index at) {
            out.push_back({measure, value, base_value, at});
        }
    };
    Pairs cuts_of(const Points& x, const Points& rest, bool posed) const;
    Pairs new_cuts(const Look& look, Pairs* of_base) const;
    VertexMask around(const Pairs& cuts) const;
    void cuts(Look& look) const;
    void teeth(Look& look) const;
    void lids_shut(Look& look) const;
    void lids_sunk(Look& look) const;
    double deepest(const Look& look, bool rests, Index* at) const;
    void volumes(Look& look) const;
    void floor(Look& look) const;
    void stretch(Look& look) const;
};

// Of the skin in a proof. Without a pose only what moved can cut anew; what does at rest is asked for elsewhere.
Pairs ProofPlaces::Inside::cuts_of(const Points& x, const Points& rest, bool posed) const {
    const std::vector<Triangle>& skin = skin_triangles(kit);
    if (posed) return self_intersections(x, skin);
    VertexMask moved(x.size(), 0);
    bool any = false;
    for (const Index v : kit.part("skin")->vertices)
        if (x[v] != rest[v]) moved[v] = 1, any = true;
    if (!any) return {};
    const TriangleIndices near = triangles_near(x, skin, moved);
    return self_intersections(x, skin, &near);
}

// Pairs that the base has in the same proof, or the shape at rest, are not the proof's.
Pairs ProofPlaces::Inside::new_cuts(const Look& look, Pairs* of_base) const {
    const bool posed = look.stop.pose.turns.size() == kit.joints.size() &&
                       std::any_of(look.stop.pose.turns.begin(), look.stop.pose.turns.end(),
                                   [](const Mat3& turn) { return !turn.isIdentity(1e-9); });
    const bool rests = !posed && look.x == look.x_rest;
    if (rests && look.stop.amount == 1) {
        *of_base = skin_cuts(kit);
        Pairs out = look.shape.rest_cuts();
        std::erase_if(out, [&](const auto& pair) { return has(*of_base, pair); });
        return out;
    }
    if (rests) {  // more or less of the shape
        *of_base = skin_cuts(kit);
        Pairs out = self_intersections(look.x, skin_triangles(kit));
        std::erase_if(out, [&](const auto& pair) { return has(*of_base, pair); });
        return out;
    }
    *of_base = cuts_of(look.b, look.b_rest, posed);
    Pairs out = cuts_of(look.x, look.x_rest, posed);
    std::erase_if(out, [&](const auto& pair) { return has(*of_base, pair) || has(look.shape.rest_cuts(), pair); });
    if (posed && !out.empty() && !of_base->empty()) {
        const VertexMask fold = around(*of_base);
        const std::vector<Triangle>& skin = skin_triangles(kit);
        const auto lies_in = [&](Index t) { return fold[skin[t][0]] && fold[skin[t][1]] && fold[skin[t][2]]; };
        std::erase_if(out, [&](const auto& pair) { return lies_in(pair.first) && lies_in(pair.second); });
    }
    return out;
}

// Skin around cuts, some rings wide: where the base's own skin goes through itself in a fold, that of a shape does so
// in other triangles.
VertexMask ProofPlaces::Inside::around(const Pairs& cuts) const {
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const Adjacency& ways = kit_neighbours(kit);
    VertexMask out(kit.mesh.positions.size(), 0);
    for (const auto& [s, t] : cuts)
        for (const Index triangle : {s, t})
            for (const Index v : skin[triangle]) out[v] = 1;
    for (int ring = 0; ring < kFoldRings; ++ring) {
        const VertexMask before = out;
        for (Index v = 0; v < before.size(); ++v)
            if (before[v])
                for (const Index* n = ways.begin(v); n != ways.end(v); ++n) out[*n] = 1;
    }
    return out;
}

void ProofPlaces::Inside::cuts(Look& look) const {
    const std::vector<Triangle>& skin = skin_triangles(kit);
    Pairs own;
    const Pairs found = new_cuts(look, &own);
    struct Count {
        std::size_t all = 0, lids = 0, lips = 0;
        Index lid = kNone, lip = kNone;
    };
    const auto count = [&](const Pairs& pairs) {
        Count out;
        for (const auto& [s, t] : pairs) {
            ++out.all;
            if (of_lid[s] && of_lid[t]) ++out.lids, out.lid = skin[s][0];
            if (of_lip[s] && of_lip[t] && of_lip[s] != of_lip[t]) ++out.lips, out.lip = skin[s][0];
        }
        return out;
    };
    const Count mine = count(found), base = count(own);
    const auto number = [](std::size_t n) { return static_cast<double>(n); };
    look.add(ProofMeasure::Cuts, number(mine.all), number(base.all),
             found.empty() ? kNone : skin[found.front().first][0]);
    if (!kit.eyes.empty()) look.add(ProofMeasure::LidCuts, number(mine.lids), number(base.lids), mine.lid);
    if (has_lips) look.add(ProofMeasure::LipCuts, number(mine.lips), number(base.lips), mine.lip);
}

void ProofPlaces::Inside::teeth(Look& look) const {
    if (mouth.empty()) return;
    const auto crossing = [&](const Points& x, Index* at) {
        std::size_t out = 0;
        for (const auto& [s, t] : self_intersections(x, mouth_triangles, nullptr)) {
            if ((s < mouth_skin) == (t < mouth_skin)) continue;
            ++out;
            if (at) *at = mouth_triangles[s][0];
        }
        return static_cast<double>(out);
    };
    Index at = kNone;
    const double rest = crossing(look.x_rest, nullptr), base = crossing(look.b, nullptr);
    const double mine = crossing(look.x, &at);
    look.add(ProofMeasure::TeethCuts, std::max(0.0, mine - std::max(rest, base)), base, at);
}

void ProofPlaces::Inside::lids_shut(Look& look) const {
    double gap = 0;
    Index at = kNone;
    bool any = false;
    for (const auto& [name, amount] : look.stop.expressions) {
        const auto pairs = meet_in.find(name);
        if (pairs == meet_in.end() || amount < kShutFrom) continue;
        for (const Meeting& m : pairs->second) {
            any = true;
            const double missing = (look.x[m.a] - look.x[m.b]).norm() - (look.b[m.a] - look.b[m.b]).norm();
            if (missing > gap) gap = missing, at = m.a;
        }
    }
    if (any) look.add(ProofMeasure::LidGap, gap, 0, at);
}

// The deepest that skin lies in a ball where the base's lies outside of it; what lies as deep at rest is of the rest.
double ProofPlaces::Inside::deepest(const Look& look, bool rests, Index* at) const {
    const Points &x = look.x, &b = look.b;
    double out = 0;
    for (std::size_t e = 0; e < kit.eyes.size(); ++e) {
        const EyeBall ball(kit, kit.eyes[e], x);
        if (!ball.there()) continue;
        const EyeBall on_base(kit, kit.eyes[e], b), at_rest(kit, kit.eyes[e], look.x_rest);
        for (const Index v : around_eye[e]) {
            if (!ball.near(x[v])) continue;
            const double deep = -ball.outside(x[v]);
            if (deep <= out || !(on_base.outside(b[v]) > 0)) continue;
            if (!rests && deep < kDeeperMm - at_rest.outside(look.x_rest[v])) continue;
            out = deep;
            if (at) *at = v;
        }
    }
    return out;
}

void ProofPlaces::Inside::lids_sunk(Look& look) const {
    const bool rests = look.x == look.x_rest;
    if (kit.eyes.empty() || (look.stop.expressions.empty() && !rests)) return;
    Index at = kNone;
    const double deep = deepest(look, rests, &at);
    look.add(ProofMeasure::LidSunk, deep, 0, at);
}

void ProofPlaces::Inside::volumes(Look& look) const {
    if (look.stop.pose.turns.size() != kit.joints.size()) return;
    const Points joints = look.shape.joints_at(look.stop), base_joints = look.base.joints_at(look.stop),
                 rest = look.shape.joints_at({{}, {}, look.stop.amount}), base_rest = look.base.joints_at({});
    const std::vector<Triangle>& skin = skin_triangles(kit);
    ProofFigure worst{ProofMeasure::Volume, 0, 0, kNone};
    for (const JointPatch& patch : patches) {
        if (look.stop.pose.turns[patch.joint].isIdentity(1e-6)) continue;
        const auto loss = [&](const Points& now, const Points& at, const Points& before, const Points& was) {
            const double full = volume(before, skin, patch.triangles, was[patch.joint]);
            return full > 0 ? 1 - volume(now, skin, patch.triangles, at[patch.joint]) / full : 0;
        };
        const double mine = loss(look.x, joints, look.x_rest, rest),
                     base = loss(look.b, base_joints, look.b_rest, base_rest);
        if (worst.at == kNone || mine - base > worst.value - worst.base)
            worst.value = mine, worst.base = base, worst.at = skin[patch.triangles.front()][0];
    }
    if (worst.at != kNone) look.out.push_back(worst);
}

void ProofPlaces::Inside::floor(Look& look) const {
    if (soles.empty() || look.stop.pose.turns.size() != kit.joints.size()) return;
    ProofFigure worst{ProofMeasure::Floor, 0, 0, kNone};
    for (const VertexIndices& sole : soles) {
        Index at = kNone;
        const double base = lowest(look.b, sole) - lowest(look.b_rest, sole);
        const double off = lowest(look.x, sole, &at) - lowest(look.x_rest, sole) - base;
        if (worst.at == kNone || std::abs(off) > std::abs(worst.value)) worst.value = off, worst.at = at;
    }
    look.out.push_back(worst);
}

void ProofPlaces::Inside::stretch(Look& look) const {
    std::vector<std::pair<double, Index>> all;
    for (const auto& [v, w] : edges) {
        const double mine = (look.x[v] - look.x[w]).norm() / (look.x_rest[v] - look.x_rest[w]).norm();
        const double base = (look.b[v] - look.b[w]).norm() / (look.b_rest[v] - look.b_rest[w]).norm();
        if (mine > 0 && base > 0 && std::isfinite(mine) && std::isfinite(base))
            all.emplace_back(std::abs(std::log(mine / base)), v);
    }
    if (all.empty()) return;
    const auto nth = all.begin() + static_cast<std::ptrdiff_t>(kStretchShare * static_cast<double>(all.size() - 1));
    std::nth_element(all.begin(), nth, all.end());
    look.add(ProofMeasure::Stretch, std::exp(nth->first), 1, nth->second);
}

double ProofFigure::badness() const {
    switch (measure) {
        case ProofMeasure::LidGap:
        case ProofMeasure::LidSunk:
            return value / kBadMm;
        case ProofMeasure::Volume:
            return std::max(0.0, value - base) / kBadVolume;
        case ProofMeasure::Floor:
            return std::abs(value) / kBadFloorMm;
        case ProofMeasure::Stretch:
            return std::log(value) / std::log(kBadStretch);
        default:
            return value;
    }
}

const char* proof_measure_name(ProofMeasure measure) {
    constexpr const char* kNames[] = {"cuts",     "lid_cuts", "lip_cuts", "teeth_cuts", "lid_gap",
                                      "lid_sunk", "volume",   "floor",    "stretch"};
    return kNames[static_cast<std::size_t>(measure)];
}

const char* proof_measure_plain(ProofMeasure measure) {
    constexpr const char* kPlain[] = {"skin cuts itself",
                                      "lids cut each other",
                                      "lips cross",
                                      "teeth or tongue through skin",
                                      "lids stay open",
                                      "lid in the eyeball",
                                      "volume lost at a joint",
                                      "soles off the floor",
                                      "edges stretched"};
    return kPlain[static_cast<std::size_t>(measure)];
}

const char* proof_measure_unit(ProofMeasure measure) {
    switch (measure) {
        case ProofMeasure::LidGap:
        case ProofMeasure::LidSunk:
        case ProofMeasure::Floor:
            return "mm";
        case ProofMeasure::Volume:
            return "%";
        case ProofMeasure::Stretch:
            return "x";
        default:
            return "";
    }
}

ProofPlaces::ProofPlaces(const BaseKit& kit) : inside_(std::make_unique<Inside>(kit)) {}
ProofPlaces::~ProofPlaces() = default;
ProofPlaces::ProofPlaces(ProofPlaces&&) noexcept = default;

std::vector<ProofFigure> ProofPlaces::measure(const ProofSubject& shape, const ProofSubject& base,
                                              const ProofStop& stop, const Points& shape_at,
                                              const Points& base_at) const {
    const Points rest = shape.rest(stop.amount), base_rest = base.rest(1);
    Inside::Look look{shape, base, stop, shape_at, base_at, rest, base_rest, {}};
    inside_->cuts(look);
    inside_->teeth(look);
    inside_->lids_shut(look);
    inside_->lids_sunk(look);
    inside_->volumes(look);
    inside_->floor(look);
    inside_->stretch(look);
    return std::move(look.out);
}

std::vector<std::pair<Index, Index>> ProofPlaces::new_cuts(const ProofSubject& shape, const ProofSubject& base,
                                                           const ProofStop& stop, const Points& shape_at,
                                                           const Points& base_at) const {
    const Points rest = shape.rest(stop.amount), base_rest = base.rest(1);
    Pairs own;
    return inside_->new_cuts({shape, base, stop, shape_at, base_at, rest, base_rest, {}}, &own);
}

VertexMask ProofPlaces::cutting(const ProofSubject& shape, const ProofSubject& base, const ProofStop& stop,
                                const Points& shape_at, const Points& base_at) const {
    VertexMask out(shape_at.size(), 0);
    const std::vector<Triangle>& skin = skin_triangles(inside_->kit);
    for (const auto& [s, t] : new_cuts(shape, base, stop, shape_at, base_at))
        for (const Index triangle : {s, t})
            for (const Index v : skin[triangle]) out[v] = 1;
    return out;
}

std::vector<float> ProofPlaces::stretch(const Points& shape_rest, const Points& base_rest, const Points& shape_at,
                                        const Points& base_at) const {
    std::vector<float> out(shape_at.size(), 0);
    for (const auto& [v, w] : inside_->edges) {
        const double mine = (shape_at[v] - shape_at[w]).norm() / (shape_rest[v] - shape_rest[w]).norm();
        const double base = (base_at[v] - base_at[w]).norm() / (base_rest[v] - base_rest[w]).norm();
        if (!(mine > 0) || !(base > 0) || !std::isfinite(mine) || !std::isfinite(base)) continue;
        const auto by = static_cast<float>(std::log2(mine / base));
        for (const Index at : {v, w})
            if (std::abs(by) > std::abs(out[at])) out[at] = by;
    }
    return out;
}

}  // namespace veld
