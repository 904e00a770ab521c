#include "core/proof/face.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <functional>

#include "core/fit/follow.h"
#include "core/fit/meeting.h"
#include "core/fit/untangle.h"
#include "core/kit/kit_surface.h"
#include "core/proof/lid_contact.h"
#include "core/proof/transfer.h"
#include "core/spatial/nearest_points.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

using Pairs = std::vector<std::pair<Index, Index>>;
using Hold = std::function<void(Points&, const VertexIndices&)>;

constexpr double kAreaMm = 6;  // skin so near to what an expression moves is looked at
constexpr int kClosings = 3;
constexpr double kSunkMm = 0.05;  // so little in a ball is nothing

Pairs both(const Pairs& a, const Pairs& b) {
    Pairs out;
    std::set_union(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(out));
    return out;
}

}  // namespace

struct Face::Inside {
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
    std::vector<Triangle> faces;                   // the skin's triangles, then those of teeth and tongue
    TriangleIndices moving_triangles;              // of the skin, that some expression moves
    std::map<std::string, TriangleIndices> areas;  // of all faces, what an expression moves, and what is near to that
    Pairs own;                                     // what cuts on the head at rest, ascending

    Inside(const BaseKit& of, const Points& shape);
    void find_moving();
    TriangleIndices area_of(const Points& shape) const;
    Status carry(const std::vector<std::string>& names, const Progress& progress);
    Result<Points> carry_one(const std::string& name) const;
    std::vector<Meeting> lips_of(const std::string& name) const;
    void close_lips(const std::string& name, Points& out) const;
    double wrong(const Touching& touching, std::size_t cuts, const Points& x) const;
    Points sum(const std::vector<ExpressionAmount>& amounts) const;
    VertexMask moving(const Points& on_base) const;
    Hold holding(const std::string* expression, const Points& on_base) const;
    std::size_t take_apart(const TriangleIndices& area, const Points& on_base, const Pairs& also, const Hold& hold,
                           Points& shape) const;
    Points base_sum(const std::vector<ExpressionAmount>& amounts) const;
};

Face::Inside::Inside(const BaseKit& of, const Points& shape)
    : kit(of), head(shape), size(head_size(of, shape)), map(of, shape) {
    std::vector<const std::string*> names;
    for (const auto& [name, expression] : kit.expressions) names.push_back(&name), meetings[name], areas[name];
    find_moving();
    tbb::parallel_for(std::size_t{0}, names.size(), [&](std::size_t i) {
        meetings.at(*names[i]) = meetings_of(kit, kit.expressions.at(*names[i]));
        areas.at(*names[i]) = area_of(kit.expressions.at(*names[i]));
    });
    for (const KitEye& eye : kit.eyes) lids.push_back(std::make_unique<LidContact>(kit, eye, head, size, meetings));
    TriangleIndices all = moving_triangles;
    for (std::size_t t = skin_triangles(kit).size(); t < faces.size(); ++t) all.push_back(static_cast<Index>(t));
    own = self_intersections(head, faces, &all);
}

void Face::Inside::find_moving() {
    VertexMask moves(head.size(), 0);
    for (const auto& [name, shape] : kit.expressions) {
        const VertexMask mine = moving(shape);
        for (std::size_t v = 0; v < moves.size(); ++v) moves[v] |= mine[v];
    }
    faces = skin_triangles(kit);
    for (Index t = 0; t < faces.size(); ++t)
        if (moves[faces[t][0]] || moves[faces[t][1]] || moves[faces[t][2]]) moving_triangles.push_back(t);
    for (const KitPart& part : kit.parts) {
        if (part.rule() != PartRule::UpperJaw && part.rule() != PartRule::LowerJaw) continue;
        for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t)
            if (part.has_face(kit.triangulation.triangle_face[t])) faces.push_back(kit.triangulation.triangles[t]);
    }
}

TriangleIndices Face::Inside::area_of(const Points& shape) const {
    const VertexMask moves = moving(shape);
    Points places;
    Eigen::AlignedBox3d around;
    for (std::size_t v = 0; v < moves.size(); ++v)
        if (moves[v]) places.push_back(kit.mesh.positions[v]), around.extend(kit.mesh.positions[v]);
    around.min().array() -= kAreaMm, around.max().array() += kAreaMm;
    const NearestPoints nearest(places, kAreaMm);
    const auto near = [&](const Vec3& p) { return around.contains(p) && nearest.nearest(p) != kNone; };
    const auto lies_in = [&](Index t) {
        return std::any_of(faces[t].begin(), faces[t].end(),
                           [&](Index v) { return moves[v] || near(kit.mesh.positions[v]); });
    };
    TriangleIndices out;
    for (const Index t : moving_triangles)
        if (lies_in(t)) out.push_back(t);
    for (std::size_t t = skin_triangles(kit).size(); t < faces.size(); ++t)
        if (lies_in(static_cast<Index>(t))) out.push_back(static_cast<Index>(t));
    return out;
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
    transfer_parts(kit, head, shape, out);  // teeth stand in the way
    const TriangleIndices& area = areas.at(name);
    const Touching touching{shape, meetings.at(name), self_intersections(shape, faces, &area)};
    const Hold hold = holding(&name, shape);
    for (const auto& eye : lids) eye->shut(name, shape, out);
    Points best;
    double least = std::numeric_limits<double>::infinity();
    const auto take = [&](Points& x) {
        const std::size_t cuts = take_apart(area, shape, touching.cuts, hold, x);
        const double now = wrong(touching, cuts, x);
        if (now < least) least = now, best = x;
    };
    for (int round = 0; round < kClosings && least > 0; ++round) {
        const double before = least;
        close_lips(name, out);
        take(out);
        if (least == before) break;
    }
    if (least > 0) {  // where eyes are hardly other than the base's, its own way may be the better one
        Points plain = out;
        for (const Index v : kit.part("skin")->vertices) plain[v] = head[v] + (shape[v] - kit.mesh.positions[v]);
        take(plain);
    }
    transfer_parts(kit, head, shape, best);
    return best;
}

// A cut is as bad as a tenth of a millimetre that is open, or in an eyeball.
double Face::Inside::wrong(const Touching& touching, std::size_t cuts, const Points& x) const {
    double gap = 0, sunk = 0;
    for (const Meeting& m : touching.meetings)
        gap = std::max(gap, (x[m.a] - x[m.b]).norm() - size * (touching.shape[m.a] - touching.shape[m.b]).norm());
    for (const auto& eye : lids) sunk = std::max(sunk, eye->sunk(touching.shape, x));
    const auto tenths = [](double mm) { return mm > kSunkMm ? 10 * mm : 0; };
    return static_cast<double>(cuts) + tenths(gap) + tenths(sunk);
}

// What touches in the base's expression, but for lids.
std::vector<Meeting> Face::Inside::lips_of(const std::string& name) const {
    std::vector<Meeting> out = meetings.at(name);
    std::erase_if(out, [&](const Meeting& m) {
        return std::any_of(lids.begin(), lids.end(), [&](const auto& eye) {
            const VertexIndices& region = eye->region();
            return std::binary_search(region.begin(), region.end(), m.a);
        });
    });
    return out;
}

// What is to hold where sheets are taken apart: lids stay where they meet and outside of the ball; lips stay where
// they meet in an expression.
Hold Face::Inside::holding(const std::string* expression, const Points& on_base) const {
    std::vector<Hold> eyes;
    for (const auto& eye : lids) eyes.push_back(eye->holding(expression, on_base));
    std::vector<std::pair<Meeting, Vec3>> lips;
    if (expression)
        for (const Meeting& m : lips_of(*expression)) lips.emplace_back(m, size * (on_base[m.a] - on_base[m.b]));
    return [eyes, lips](Points& x, const VertexIndices& moved) {
        for (const Hold& eye : eyes) eye(x, moved);
        for (const auto& [m, wanted] : lips) {
            const Vec3 half = 0.5 * (wanted - (x[m.a] - x[m.b]));
            x[m.a] += half, x[m.b] -= half;
        }
    };
}

void Face::Inside::close_lips(const std::string& name, Points& out) const {
    const std::vector<Meeting> lips = lips_of(name);
    if (lips.empty()) return;
    const Points& shape = kit.expressions.at(name);
    Points wanted;
    for (const Meeting& m : lips) wanted.push_back(size * (shape[m.b] - shape[m.a]));
    const Points further = closing_ways(kit, lips, wanted, head, out);
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

// Sheets that cut are taken out of each other again. also: pairs that may cut besides the head's own.
std::size_t Face::Inside::take_apart(const TriangleIndices& area, const Points& on_base, const Pairs& also,
                                     const Hold& hold, Points& shape) const {
    UntangleOptions options;
    options.hold = hold;
    VertexMask may_move = moving(on_base);
    for (const Index v : kit.part("skin")->vertices) may_move[v] |= shape[v] != head[v];
    return untangle(shape, faces, may_move, both(own, also), &area, options);
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
    TriangleIndices area;
    for (const auto& [name, amount] : amounts)
        if (const auto at = in.areas.find(name); at != in.areas.end() && amount != 0)
            area.insert(area.end(), at->second.begin(), at->second.end());
    std::sort(area.begin(), area.end());
    area.erase(std::unique(area.begin(), area.end()), area.end());
    in.take_apart(area, on_base, {}, in.holding(nullptr, on_base), out);
    if (out != before) lashes_along(in.kit, before, out);
    return out;
}

}  // namespace veld
