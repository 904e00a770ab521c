#include "core/proof/scanned_expression.h"

#include <algorithm>
#include <cmath>

#include "core/fit/lids.h"
#include "core/kit/kit_joints.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/mesh/soft_region.h"
#include "core/morph/arithmetic.h"
#include "core/morph/region_mix.h"
#include "core/morph/share.h"
#include "core/proof/face.h"
#include "core/proof/nearest_mix.h"

namespace veld {
namespace {

constexpr double kStillMm = 0.3;    // skin that no expression moves farther says how the head is held
constexpr double kStirsMm = 0.5;    // and from here on it is an expression's,
constexpr double kMuchMm = 1.2;     // where no mix of them says so, what the fit moves by less is noise
constexpr double kSoftMm = 18;      // fading out over this
constexpr double kOutlierMm = 1.5;  // of still skin: where the fit is off
constexpr double kNeckMm = 55;
constexpr double kStartMm = 30;       // of the second fit, which begins near
constexpr double kHalfSoftMm = 10;    // across the middle
constexpr double kLeastPartMm = 0.3;  // a part that moves by less is none

// Per vertex: how far the kit's expressions move it at most, mm.
std::vector<double> stirred(const BaseKit& kit) {
    std::vector<double> out(kit.mesh.positions.size(), 0);
    for (const auto& [name, shape] : kit.expressions)
        for (std::size_t v = 0; v < out.size(); ++v)
            out[v] = std::max(out[v], (shape[v] - kit.mesh.positions[v]).norm());
    return out;
}

// How the head is held in the fit against the neutral shape.
Result<Similarity> how_held(const BaseKit& kit, const Points& neutral, const FitResult& fit) {
    const std::vector<double> moves = stirred(kit);
    const std::vector<double> fade = head_fade(kit, kNeckMm);
    Points from, to;
    for (const Index v : kit.part("skin")->vertices) {
        const bool seen = v < fit.distances.size() && !std::isnan(fit.distances[v]);
        if (!seen || fade[v] < 1 || moves[v] > kStillMm) continue;
        from.push_back(neutral[v]), to.push_back(fit.positions[v]);
    }
    SimilarityOptions options;
    options.allow_scale = !fit.settings.keep_true_size, options.outlier_mm = kOutlierMm;
    return fit_similarity(from, to, options);
}

// The person with the mix of their expressions that the scan comes nearest to, as a base.
BaseKit person_near(const BaseKit& person, const FitInput& scan, const FitResult& fit, const Similarity& held) {
    MixTold told{person, held, *fit.cache.surface, {}, {}};
    const std::vector<double> moves = stirred(person);
    for (const Index v : person.part("skin")->vertices)
        if (v < fit.distances.size() && !std::isnan(fit.distances[v]) && moves[v] > kStirsMm) told.skin.push_back(v);
    for (const auto& [name, place] : scan.landmarks.points) told.landmarks[name] = fit.placement.source_to_kit(place);
    return person_with(person, nearest_amounts(told));
}

}  // namespace

Result<BaseKit> kit_of_person(const BaseKit& kit, const Points& neutral, const Progress& progress) {
    const auto face = Face::make(kit, neutral, progress);
    if (!face) return face.error();
    BaseKit out = kit;
    out.mesh.positions = neutral, out.expressions = face->carried(), out.known_heads = nullptr;
    if (!kit.joints.empty()) out.joints = joints_in(kit, neutral);
    for (KitEye& eye : out.eyes) {
        const auto moved = eye_seat(kit, eye, neutral);
        if (moved) eye.centre = (*moved)(eye.centre), eye.radius *= moved->scale;
    }
    for (std::size_t i = 0; i < out.head_vertices.size() && i < out.head.positions.size(); ++i)
        out.head.positions[i] = neutral[out.head_vertices[i]];
    return out;
}

Result<ScannedExpression> expression_from_scan(const BaseKit& kit, const Points& neutral, const FitInput& scan,
                                               const Progress& progress) {
    const auto person = kit_of_person(kit, neutral, progress);
    if (!person) return person.error();
    FitInput input = scan;
    input.kit = &*person;
    input.settings.part = FitPart::Head, input.settings.symmetry = 0;
    auto fit = run_fit(input, progress);
    if (!fit) return fit.error();
    auto held = how_held(kit, neutral, *fit);
    Points mix = fit->positions;
    if (held && fit->cache.surface) {  // once more, from the mix of expressions that is nearest
        const BaseKit near = person_near(*person, scan, *fit, *held);
        mix = near.mesh.positions;
        input.kit = &near, input.settings.smooth_start_mm = std::min(input.settings.smooth_start_mm, kStartMm);
        input.jaw_degrees = 0, input.lids = LidsShut{0, 0};  // it has its mouth and eyes as the scan has them
        fit = run_fit(input, progress);
        if (!fit) return fit.error();
        held = how_held(kit, neutral, *fit);
    }
    if (!held)
        return Error{
            held.error().code,
            "Too little of the scan is skin that expressions leave still (forehead, temples, ears), so how the "
            "head was held cannot be taken out. " +
                held.error().message};
    ScannedExpression out{neutral, *held, fit->figures, fit->notes};
    const Similarity back = held->inverse();
    VertexIndices of_expressions;
    const std::vector<double> moves = stirred(kit);
    for (Index v = 0; v < moves.size(); ++v) {
        const bool much =
            (mix[v] - neutral[v]).norm() > kStirsMm || (back(fit->positions[v]) - neutral[v]).norm() > kMuchMm;
        if (moves[v] > kStirsMm && much) of_expressions.push_back(v);
    }
    const std::vector<float> share = soft_region(kit.mesh.positions, kit_neighbours(kit), of_expressions, kSoftMm);
    VertexMask still(neutral.size(), 0);  // eyes look where joints turn them
    for (const KitEye& eye : kit.eyes)
        if (const KitPart* ball = kit.part(eye.part))
            for (const Index v : ball->vertices) still[v] = 1;
    for (std::size_t v = 0; v < neutral.size(); ++v)
        if (!still[v]) out.shape[v] += static_cast<double>(share[v]) * (back(fit->positions[v]) - neutral[v]);
    return out;
}

Result<std::vector<Morph>> expression_parts(const BaseKit& kit, const Points& neutral, const Points& shape,
                                            const std::string& name, const ExpressionParts& parts) {
    Points on_base = kit.mesh.positions;
    for (std::size_t v = 0; v < on_base.size(); ++v) on_base[v] += shape[v] - neutral[v];
    auto whole = make_morph(kit, on_base, name);
    if (!whole) return whole.error();
    whole->kind = MorphKind::Expression, whole->origin = "From a scan";
    std::vector<Morph> out{*whole};
    const auto add = [&](Morph&& part) {
        const bool moves =
            std::any_of(part.delta.begin(), part.delta.end(), [](const Vec3& d) { return d.norm() > kLeastPartMm; });
        part.kind = MorphKind::Expression, part.origin = whole->origin;
        if (moves) out.push_back(std::move(part));
    };
    for (const Side side : {Side::Left, Side::Right}) {
        if (!parts.halves) break;
        auto half = half_morph(kit, *whole, side, kHalfSoftMm, name + (side == Side::Left ? " left" : " right"));
        if (!half) return half.error();
        add(std::move(*half));
    }
    if (!parts.regions) return out;
    auto shares = region_shares(kit, face_regions(kit), *whole);
    if (!shares) return shares.error();
    for (Morph& share : *shares) add(std::move(share));
    return out;
}

}  // namespace veld
