#pragma once
// A person's own expression, from a scan of them with it.
//
// The scan is fitted with the person's neutral shape in the base's place, so that what does not move is there already
// and the fit only has the expression to find; then once more from the mix of the kit's expressions, as this head
// makes them, that comes nearest: smooth skin that slid along the surface lies right then [after Weise, Bouaziz, Li,
// Pauly 2011]. How the head was held is taken out by skin that no expression moves; what is left, beyond the skin that
// expressions move, is noise and goes.
#include "core/fit/fit.h"
#include "core/morph/morph.h"

namespace veld {

// The base as that person: positions, joints, eyes and the kit's expressions as their head makes them; nothing is
// known of other heads. neutral: every vertex, at rest, mm. Fails as Face::make().
Result<BaseKit> kit_of_person(const BaseKit& kit, const Points& neutral, const Progress& progress);

struct ScannedExpression {
    Points shape;        // every vertex of the base, the head held as in the neutral shape, mm
    Similarity held;     // how the scan's head was held against it: neutral -> scan
    FitFigures figures;  // of the fit to the scan
    std::vector<std::string> notes;
};
// scan: of the kit's own `kit` field is taken no notice. Fails as kit_of_person() and run_fit().
Result<ScannedExpression> expression_from_scan(const BaseKit& kit, const Points& neutral, const FitInput& scan,
                                               const Progress& progress);

struct ExpressionParts {
    bool halves = true, regions = true;
};
// The expression, its left and its right half, and what each region has of it; those that hardly move are left out.
// Names: "smile", "smile left", "smile mouth".
Result<std::vector<Morph>> expression_parts(const BaseKit& kit, const Points& neutral, const Points& shape,
                                            const std::string& name, const ExpressionParts& parts = {});

}  // namespace veld
