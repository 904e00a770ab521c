#pragma once
// An expression of the base on another head (face.h), as it is there and as a morph; how well its skin meets.
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/kit/base_kit.h"
#include "core/morph/morph.h"

namespace veld {

// head: every vertex of the base in the head's shape at rest, mm. Gives every vertex. Fails with NotFound when the kit
// has no such expression, naming those that it has.
Result<Points> carry_expression(const BaseKit& kit, const Points& head, const std::string& expression,
                                double amount = 1);

// The expression as it is, its differences added: what carry_expression() is better than.
Points plain_expression(const BaseKit& kit, const Points& head, const std::string& expression, double amount = 1);

// The way from one shape to the other as a morph of the base, `from` being the head. Fails as make_morph().
Result<Morph> expression_morph(const BaseKit& kit, const Points& from, const Points& to,
                               const std::string& expression);
// What the plain expression lacks on this head: brought in by the morph of that name and the expression's together.
Result<Morph> expression_correction(const BaseKit& kit, const Points& plain, const Points& carried,
                                    const std::string& expression, const std::string& head);

// The kit's own expressions as morphs, and what each of them lacks on this head; of those nothing that is less than
// least_mm everywhere. head_name: the name of the head's own morph. Fails as carry_expression().
struct HeadExpressions {
    std::vector<Morph> plain, corrections;
};
Result<HeadExpressions> head_expressions(const BaseKit& kit, const Points& head, const std::string& head_name,
                                         const Progress& progress, double least_mm = 0.02);

// All of the kit's expressions as this head makes them; the note of one whose skin still cuts itself, where the head
// alone does not, says so. Fails as carry_expression(), with BadInput when the kit has none, and with Cancelled.
Result<std::vector<Morph>> carried_morphs(const BaseKit& kit, const Points& head, const Progress& progress);

// How a pair of shut lids, or any skin that touches in the base's expression, is on a shape of it.
struct ContactFigures {
    double gap_mm = 0;      // the widest that is left between two places that touch on the base
    double outside_mm = 0;  // the least that skin near an eyeball lies outside it; below 0: it cuts through
    Index cuts = 0;         // pairs of skin triangles that cut each other and do not in the base's own expression
};
ContactFigures contact_figures(const BaseKit& kit, const Points& shape, const std::string& expression,
                               double amount = 1);

}  // namespace veld
