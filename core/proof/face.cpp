#include "core/proof/face.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <functional>
#include <optional>
#include <set>

#include "core/base/made_once.h"
#include "core/fit/follow.h"
#include "core/fit/meeting.h"
#include "core/fit/push_apart.h"
#include "core/fit/rest_repair.h"
#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/proof/lid_contact.h"
#include "core/proof/transfer.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

using Pairs = std::vector<std::pair<Index, Index>>;

constexpr double kNearLipsMm = 25;     // skin this near the mouth line is looked at
constexpr double kNearNostrilMm = 10;  // and so near to the nostrils
constexpr double kLeftMm = 0.01;       // between sheets that are set apart
constexpr int kPushRounds = 2, kIdle = 3, kClosings = 3;
const std::vector<int> kMendRings = {1, 2, 3, 4, 5, 7, 9, 11};
constexpr double kSunkMm = 0.05;  // so little in a ball is nothing

Pairs both(const Pairs& a, const Pairs& b) {
    Pairs out;
    std::set_union(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(out));
    return out;
}

}  // namespace

struct Face::Inside {
    // Skin that may cut: around each eye, around the mouth.
    struct Sheets {
        TriangleIndices triangles;  // of the skin's
        Pairs own;                  // cuts of the head at rest, ascending
        bool moved(const std::vector<Triangle>& skin, const Points& from, const Points& to) const {
            return std::any_of(triangles.begin(), triangles.end(), [&](Index t) {
                return std::any_of(skin[t].begin(), skin[t].end(), [&](Index v) { return from[v] != to[v]; });
            });
        }
    };

    // One of the base's expressions: what touches in it, and what cuts.
    struct Touching {
        const Points& shape;
        const std::vector<Meeting>& meetings;
        Pairs cuts;
    };

    const BaseKit& kit;
    const Points head;
    const double size;
    const HeadMap map;
    ExpressionMeetings meetings;
    std::map<std::string, Points> carried;
    std::vector<std::unique_ptr<LidContact>> lids;
    std::vector<Sheets> sheets;
    MadeOnce<Face> base;  // the base's own face: what skin is like where it is mended

    Inside(const BaseKit& of, const Points& shape);
    void add_sheets(const VertexMask& marked);
    Status carry(const std::vector<std::string>& names, const Progress& progress);
    Result<Points> carry_one(const std::string& name) const;
    void close_lips(const Touching& touching, Points& out) const;
    double wrong(const Touching& touching, const Points& x) const;
    Points sum(const std::vector<ExpressionAmount>& amounts) const;
    std::size_t set_apart(const Sheets& sheets, const Pairs& allowed, const VertexMask& movable, Points& shape) const;
    VertexMask moving(const Points& on_base) const;
    void mend(const std::function<Points()>& like, const Points& on_base, const Pairs& also, Points& shape) const;
    Points base_sum(const std::vector<ExpressionAmount>& amounts) const;
    Points mix_of_base(const std::vector<ExpressionAmount>& amounts) const;
};

Face::Inside::Inside(const BaseKit& of, const Points& shape)
    : kit(of), head(shape), size(head_size(of, shape)), map(of, shape) {
    VertexMask marked(head.size(), 0);
    std::vector<const std::string*> names;
    for (const auto& [name, expression] : kit.expressions) names.push_back(&name), meetings[name];
    tbb::parallel_for(std::size_t{0}, names.size(), [&](std::size_t i) {
        meetings.at(*names[i]) = meetings_of(kit, kit.expressions.at(*names[i]));
    });
    for (const KitEye& eye : kit.eyes) {
        lids.push_back(std::make_unique<LidContact>(kit, eye, head, size, meetings));
        for (const Index v : lids.back()->region()) marked[v] = 1;
    }
    add_sheets(marked);
    marked.assign(head.size(), 0);
    for (const TriangleIndices& lip : lip_fans(kit, kNearLipsMm))
        for (const Index t : lip)
            for (const Index v : kit.triangulation.triangles[t]) marked[v] = 1;
    add_sheets(marked);
    marked.assign(head.size(), 0);
    const std::vector<float> nostrils =
        soft_region(kit.mesh.positions, kit_neighbours(kit), kit.region("nostril_inside"), kNearNostrilMm);
    for (std::size_t v = 0; v < nostrils.size(); ++v) marked[v] = nostrils[v] > 0;
    add_sheets(marked);
}

void Face::Inside::add_sheets(const VertexMask& marked) {
    Sheets out;
    const std::vector<Triangle>& skin = skin_triangles(kit);
    for (Index t = 0; t < skin.size(); ++t)
        if (marked[skin[t][0]] || marked[skin[t][1]] || marked[skin[t][2]]) out.triangles.push_back(t);
    if (out.triangles.empty()) return;
    out.own = self_intersections(head, skin, &out.triangles);
    sheets.push_back(std::move(out));
}

Status Face::Inside::carry(const std::vector<std::string>& names, const Progress& progress) {
    std::vector<Status> how(names.size(), Done{});
    std::vector<Points> shapes(names.size());
    std::atomic<std::size_t> done{0};
    skin_triangles(kit), kit_neighbours(kit);  // made before several ask for them
    tbb::parallel_for(std::size_t{0}, names.size(), [&](std::size_t i) {
        if (progress.is_cancelled()) return;
        auto shape = carry_one(names[i]);
        if (shape)
            shapes[i] = std::move(*shape);
        else
            how[i] = shape.error();
        progress.say(static_cast<double>(++done) / static_cast<double>(names.size()), names[i]);
    });
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (!how[i]) return how[i];
        carried[names[i]] = std::move(shapes[i]);
    }
    return Done{};
}

Result<Points> Face::Inside::carry_one(const std::string& name) const {
    const Points& shape = kit.expressions.at(name);
    Points out = head;
    transfer_skin(kit, head, map, shape, out);
    const Touching touching{shape, meetings.at(name), self_intersections(shape, skin_triangles(kit))};
    for (const auto& eye : lids) eye->shut(name, shape, out);
    Points best;
    double least = std::numeric_limits<double>::infinity();
    const auto keep = [&](const Points& x) {
        const double now = wrong(touching, x);
        if (now < least) least = now, best = x;
    };
    for (int round = 0; round < kClosings && least > 0; ++round) {
        const double before = least;
        close_lips(touching, out);
        mend([&] { return shape; }, shape, touching.cuts, out);
        keep(out);
        if (least == before) break;
    }
    if (least > 0) {  // where eyes are hardly other than the base's, its own way may be the better one
        Points plain = head;
        for (const Index v : kit.part("skin")->vertices) plain[v] += shape[v] - kit.mesh.positions[v];
        mend([&] { return shape; }, shape, touching.cuts, plain);
        keep(plain);
    }
    transfer_parts(kit, head, shape, best);
    return best;
}

// A cut is as bad as a tenth of a millimetre that is open, or in an eyeball.
double Face::Inside::wrong(const Touching& touching, const Points& x) const {
    double gap = 0, sunk = 0;
    for (const Meeting& m : touching.meetings)
        gap = std::max(gap, (x[m.a] - x[m.b]).norm() - size * (touching.shape[m.a] - touching.shape[m.b]).norm());
    for (const auto& eye : lids) sunk = std::max(sunk, eye->sunk(touching.shape, x));
    std::size_t cuts = 0;
    for (const Sheets& s : sheets) {
        const Pairs allowed = both(s.own, touching.cuts);
        for (const auto& pair : self_intersections(x, skin_triangles(kit), &s.triangles))
            cuts += !std::binary_search(allowed.begin(), allowed.end(), pair);
    }
    const auto tenths = [](double mm) { return mm > kSunkMm ? 10 * mm : 0; };
    return static_cast<double>(cuts) + tenths(gap) + tenths(sunk);
}

// What else touches in the base's expression.
void Face::Inside::close_lips(const Touching& touching, Points& out) const {
    std::vector<Meeting> meetings = touching.meetings;
    std::erase_if(meetings, [&](const Meeting& m) {
        return std::any_of(lids.begin(), lids.end(), [&](const auto& eye) {
            const VertexIndices& region = eye->region();
            return std::binary_search(region.begin(), region.end(), m.a);
        });
    });
    if (meetings.empty()) return;
    Points wanted;
    for (const Meeting& m : meetings) wanted.push_back(size * (touching.shape[m.b] - touching.shape[m.a]));
    const Points further = closing_ways(kit, meetings, wanted, head, out);
    for (std::size_t v = 0; v < out.size(); ++v) out[v] += further[v];
}

Points Face::Inside::sum(const std::vector<ExpressionAmount>& amounts) const {
    Points out = head;
    for (const auto& [name, amount] : amounts) {
        const auto at = carried.find(name);
        if (at == carried.end() || amount == 0) continue;
        for (std::size_t v = 0; v < out.size(); ++v) out[v] += amount * (at->second[v] - head[v]);
    }
    return out;
}

Points Face::Inside::base_sum(const std::vector<ExpressionAmount>& amounts) const {
    Points out = kit.mesh.positions;
    for (const auto& [name, amount] : amounts) {
        const auto at = kit.expressions.find(name);
        if (at == kit.expressions.end() || amount == 0) continue;
        for (std::size_t v = 0; v < out.size(); ++v) out[v] += amount * (at->second[v] - kit.mesh.positions[v]);
    }
    return out;
}

// Skin that the base moves in the shape.
VertexMask Face::Inside::moving(const Points& on_base) const {
    VertexMask out(head.size(), 0);
    for (const Index v : kit.part("skin")->vertices) out[v] = (on_base[v] - kit.mesh.positions[v]).norm() >= kMovesMm;
    return out;
}

// What cuts least of what was tried; a tangle only churns. Returns how many cuts that leaves.
std::size_t Face::Inside::set_apart(const Sheets& s, const Pairs& allowed, const VertexMask& movable,
                                    Points& shape) const {
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const std::set<std::pair<Index, Index>> may(allowed.begin(), allowed.end());
    PushOptions options;
    options.gap_mm = kLeftMm, options.rounds = 0;
    std::size_t fewest = push_apart(shape, skin, movable, may, &s.triangles, options);
    Points best = shape;
    options.rounds = kPushRounds;
    for (int idle = 0; fewest > 0 && idle < kIdle; ++idle) {
        const std::size_t left = push_apart(shape, skin, movable, may, &s.triangles, options);
        if (left < fewest) fewest = left, best = shape, idle = -1;
    }
    shape = std::move(best);
    return fewest;
}

// Sheets that cut are set apart; where that is not enough, skin becomes that other skin, bent by its surroundings, if
// that does not press it into an eyeball. also: pairs that may cut besides the head's own.
void Face::Inside::mend(const std::function<Points()>& like, const Points& on_base, const Pairs& also,
                        Points& shape) const {
    std::optional<Points> skin;
    const VertexMask may_move = moving(on_base);
    const auto sunk = [&](const Points& x) {
        double out = 0;
        for (const auto& eye : lids) out = std::max(out, eye->sunk(on_base, x));
        return out;
    };
    for (const Sheets& s : sheets) {
        if (!s.moved(skin_triangles(kit), head, shape)) continue;
        const Pairs allowed = both(s.own, also);
        Points apart = shape;
        const std::size_t cuts = set_apart(s, allowed, may_move, apart);
        if (cuts > 0) {
            if (!skin) skin = like();
            std::size_t left = cuts;
            const auto repair = [&](int rings) {
                if (left == 0) return;
                Points mended = apart;
                const std::size_t now =
                    repair_like(kit, {*skin, allowed, &s.triangles, &may_move, {rings}}, mended).cuts_after;
                if (now < left && sunk(mended) <= std::max(kSunkMm, sunk(apart)))
                    left = now, apart = std::move(mended);
            };
            for (const int rings : kMendRings) repair(rings);
        }
        shape = std::move(apart);
    }
}

// The base with these expressions at once: lids and sheets put right, nothing mended.
Points Face::Inside::mix_of_base(const std::vector<ExpressionAmount>& amounts) const {
    const Face& own = base.get([this] { return Face::of_base(kit); });
    Points out = own.sum(amounts);
    const Points added = out;
    for (const auto& eye : own.inside_->lids) eye->settle(added, out);
    for (const Sheets& s : own.inside_->sheets) own.inside_->set_apart(s, s.own, own.inside_->moving(added), out);
    return out;
}

Face::Face(std::unique_ptr<Inside> inside) : inside_(std::move(inside)) {}
Face::~Face() = default;
Face::Face(Face&&) noexcept = default;
Face& Face::operator=(Face&&) noexcept = default;

Result<Face> Face::make(const BaseKit& kit, const Points& head, const Progress& progress,
                        std::vector<std::string> names, const std::map<std::string, Points>& own) {
    if (kit.expressions.empty()) return Error{ErrorCode::BadInput, "The kit has no expressions."};
    if (names.empty())
        for (const auto& [name, shape] : kit.expressions) names.push_back(name);
    for (const std::string& name : names) {
        if (kit.expressions.contains(name)) continue;
        std::string known;
        for (const auto& [other, shape] : kit.expressions) known += (known.empty() ? "" : ", ") + other;
        return Error{ErrorCode::NotFound, "The kit has no expression '" + name + "'; it has " + known + "."};
    }
    auto inside = std::make_unique<Inside>(kit, head);
    for (const std::string& name : names)
        if (const auto known = own.find(name); known != own.end()) inside->carried[name] = known->second;
    std::erase_if(names, [&](const std::string& name) { return own.contains(name); });
    if (auto ok = inside->carry(names, progress); !ok) return ok.error();
    return Face(std::move(inside));
}

Face Face::of_base(const BaseKit& kit) {
    auto inside = std::make_unique<Inside>(kit, kit.mesh.positions);
    inside->carried = kit.expressions;
    return Face(std::move(inside));
}

const Points& Face::rest() const { return inside_->head; }
const std::map<std::string, Points>& Face::carried() const { return inside_->carried; }
Points Face::sum(const std::vector<ExpressionAmount>& amounts) const { return inside_->sum(amounts); }

bool Face::shut_lids(const std::vector<ExpressionAmount>& amounts, Points& shape) const {
    const Points on_base = inside_->base_sum(amounts), before = shape;
    bool any = false;
    for (const auto& [name, amount] : amounts) {
        if (amount < kShutFrom) continue;
        for (const auto& eye : inside_->lids) {
            if (!eye->shuts_in(name)) continue;
            eye->shut(name, on_base, shape);
            any = true;
        }
    }
    if (any) lashes_along(inside_->kit, before, shape);
    return any;
}

Points Face::operator()(const std::vector<ExpressionAmount>& amounts) const {
    const Inside& in = *inside_;
    Points out = in.sum(amounts);
    const Points before = out, on_base = in.base_sum(amounts);
    for (const auto& eye : in.lids) eye->settle(on_base, out);
    in.mend([&] { return in.mix_of_base(amounts); }, on_base, {}, out);
    if (out != before) lashes_along(in.kit, before, out);
    return out;
}

}  // namespace veld
