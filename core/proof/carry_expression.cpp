#include "core/proof/carry_expression.h"

#include <algorithm>

#include "core/fit/meeting.h"
#include "core/kit/kit_surface.h"
#include "core/proof/eye_ball.h"
#include "core/proof/face.h"
#include "core/proof/transfer.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

Points base_expression(const BaseKit& kit, const Points& full, double amount) {
    Points out = kit.mesh.positions;
    for (std::size_t v = 0; v < out.size(); ++v) out[v] += amount * (full[v] - out[v]);
    return out;
}

// Null: the kit has none of that name.
const Points* full_expression(const BaseKit& kit, const std::string& name) {
    const auto at = kit.expressions.find(name);
    return at == kit.expressions.end() ? nullptr : &at->second;
}

}  // namespace

Result<Points> carry_expression(const BaseKit& kit, const Points& head, const std::string& expression, double amount) {
    const auto face = Face::make(kit, head, {}, {expression});
    if (!face) return face.error();
    return amount == 1 ? face->carried().at(expression) : (*face)({{expression, amount}});
}

Points plain_expression(const BaseKit& kit, const Points& head, const std::string& expression, double amount) {
    Points out = head;
    const Points* full = full_expression(kit, expression);
    for (std::size_t v = 0; full && v < out.size(); ++v) out[v] += amount * ((*full)[v] - kit.mesh.positions[v]);
    return out;
}

Result<Morph> expression_morph(const BaseKit& kit, const Points& from, const Points& to,
                               const std::string& expression) {
    Points shape = kit.mesh.positions;
    for (std::size_t v = 0; v < shape.size(); ++v) shape[v] += to[v] - from[v];
    auto morph = make_morph(kit, shape, expression);
    if (!morph) return morph;
    morph->kind = MorphKind::Expression;
    morph->origin = "The kit's '" + expression + "' on this head";
    return morph;
}

Result<Morph> expression_correction(const BaseKit& kit, const Points& plain, const Points& carried,
                                    const std::string& expression, const std::string& head) {
    auto morph = expression_morph(kit, plain, carried, expression);
    if (!morph) return morph;
    morph->name = expression + ", what " + head + " needs";
    morph->origin = "The kit's '" + expression + "': what it lacks on '" + head + "'";
    morph->usual = 1, morph->drivers = {{head, 1, {}, Vec3::Zero()}, {expression, 1, {}, Vec3::Zero()}};
    return morph;
}

Result<HeadExpressions> head_expressions(const BaseKit& kit, const Points& head, const std::string& head_name,
                                         const Progress& progress, double least_mm) {
    const auto face = Face::make(kit, head, progress);
    if (!face) return face.error();
    HeadExpressions out;
    for (const auto& [name, carried] : face->carried()) {
        auto own = expression_morph(kit, kit.mesh.positions, kit.expressions.at(name), name);
        if (!own) return own.error();
        own->origin = "The kit's '" + name + "'";
        out.plain.push_back(std::move(*own));
        auto lacks = expression_correction(kit, plain_expression(kit, head, name), carried, name, head_name);
        if (!lacks) return lacks.error();
        if (std::any_of(lacks->delta.begin(), lacks->delta.end(), [&](const Vec3& d) { return d.norm() >= least_mm; }))
            out.corrections.push_back(std::move(*lacks));
    }
    return out;
}

Result<std::vector<Morph>> carried_morphs(const BaseKit& kit, const Points& head, const Progress& progress) {
    const auto face = Face::make(kit, head, progress);
    if (!face) return face.error();
    std::vector<Morph> out;
    const Index before = contact_figures(kit, head, kit.expressions.begin()->first, 0).cuts;
    for (const auto& [name, carried] : face->carried()) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        auto morph = expression_morph(kit, head, carried, name);
        if (!morph) return morph.error();
        const Index cuts = contact_figures(kit, carried, name).cuts;
        if (cuts > before)
            morph->note = "Look at it: skin still cuts itself in " + std::to_string(cuts - before) + " places.";
        out.push_back(std::move(*morph));
    }
    return out;
}

ContactFigures contact_figures(const BaseKit& kit, const Points& shape, const std::string& expression, double amount) {
    ContactFigures out;
    const Points* full = full_expression(kit, expression);
    if (!full) return out;
    const Points base = base_expression(kit, *full, amount);
    for (const Meeting& m : meetings_of(kit, base)) {
        const double missing = (shape[m.a] - shape[m.b]).norm() - (base[m.a] - base[m.b]).norm();
        out.gap_mm = std::max(out.gap_mm, missing);
    }
    out.outside_mm = std::numeric_limits<double>::infinity();
    for (const KitEye& eye : kit.eyes) {
        if (!kit.part(eye.part)) continue;
        const EyeBall on_base(kit, eye, base), on_head(kit, eye, shape);
        for (const Index v : kit.part("skin")->vertices) {
            const bool moves = (base[v] - kit.mesh.positions[v]).norm() >= kMovesMm;
            if (moves && on_base.near(base[v]) && on_head.near(shape[v]) && on_base.outside(base[v]) > 0)
                out.outside_mm = std::min(out.outside_mm, on_head.outside(shape[v]));
        }
    }
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const auto own = self_intersections(base, skin);
    for (const auto& pair : self_intersections(shape, skin))
        out.cuts += !std::binary_search(own.begin(), own.end(), pair);
    return out;
}

}  // namespace veld
