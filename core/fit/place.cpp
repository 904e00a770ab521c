#include "core/fit/place.h"

#include <tbb/parallel_for.h>

#include <cmath>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

struct Pairs {
    Points from, to;
    std::vector<double> weights;
};

Pairs gather(const PlaceInput& input, const LandmarkSet& source) {
    Pairs out;
    for (const auto& [name, p] : source.points) {
        const auto at = input.base_points.find(name);
        if (at == input.base_points.end() || !places_part(name, input.part)) continue;
        out.from.push_back(p);
        out.to.push_back(at->second.at(input.kit->mesh.positions));
        const bool eye = name.find("canthion") != std::string::npos;
        out.weights.push_back((eye ? 3.0 : name == "cervicale" ? 0.1 : 1.0) * trust_weight(source.trust_of(name)));
    }
    return out;
}

double rms(const Pairs& pairs, const Similarity& s) {
    double sum = 0;
    for (std::size_t i = 0; i < pairs.from.size(); ++i) sum += (s(pairs.from[i]) - pairs.to[i]).squaredNorm();
    return std::sqrt(sum / static_cast<double>(std::max<std::size_t>(pairs.from.size(), 1)));
}

Unit nearest_unit(double mm_per_unit) {
    Unit best = Unit::Millimetre;
    for (const Unit u : kAllUnits) {
        if (std::abs(std::log(mm_per_unit / millimetres(u))) < std::abs(std::log(mm_per_unit / millimetres(best))))
            best = u;
    }
    return best;
}

}  // namespace

bool places_part(const std::string& landmark, FitPart part) {
    if (part != FitPart::Head) return true;
    static const std::set<std::string> body = [] {
        std::set<std::string> names;
        bool below = false;  // the scheme lists the head first; the body starts at the throat notch
        for (const SchemePoint& p : landmark_scheme().points) {
            below |= p.name == "suprasternale";
            if (below) names.insert(p.name);
        }
        return names;
    }();
    return !body.contains(landmark);
}

bool sides_exchanged(const PlaceInput& input) {
    const Pairs as_is = gather(input, input.source), swapped = gather(input, swap_sides(input.source));
    int sided = 0;
    for (const auto& [name, p] : input.source.points) sided += name.ends_with("_l") || name.ends_with("_r");
    if (sided < 4 || swapped.from.size() < 4) return false;
    SimilarityOptions plain;
    plain.outlier_mm = 0;
    const auto a = fit_similarity(as_is.from, as_is.to, plain), b = fit_similarity(swapped.from, swapped.to, plain);
    return a && b && rms(swapped, *b) < 0.5 * rms(as_is, *a);
}

Result<Placement> place_by_landmarks(const PlaceInput& input) {
    if (sides_exchanged(input)) {
        return Error{ErrorCode::SidesSwapped,
                     "Left and right look exchanged in the source's landmarks: with the sides swapped they fit the "
                     "base far better. "
                     "Swap them (window: 'Swap sides'; command line: --swap-sides). Left is the subject's own left."};
    }
    const Pairs pairs = gather(input, input.source);
    SimilarityOptions options;
    options.weights = pairs.weights;
    auto free = fit_similarity(pairs.from, pairs.to, options);
    if (!free) return free.error();
    Placement out;
    out.unit = input.unit.value_or(nearest_unit(free->scale));
    const double ratio = free->scale / millimetres(out.unit);
    out.unit_reason = input.unit ? "given by the file or the user"
                                 : "guessed: the landmarks are " + std::to_string(1 / ratio).substr(0, 4) +
                                       " times the base's size in this unit";
    if (input.unit && (ratio > 2.2 || ratio < 0.45)) {
        out.notes.push_back(std::string("With the unit ") + unit_name(out.unit) + " the subject would be " +
                            std::to_string(1 / ratio).substr(0, 6) + " times the base's size; check the unit (" +
                            unit_name(nearest_unit(free->scale)) + " would fit).");
    }
    out.source_to_kit = *free;
    if (input.keep_true_size) {
        const double k = millimetres(out.unit);
        Points scaled;
        for (const Vec3& p : pairs.from) scaled.push_back(k * p);
        options.allow_scale = false;
        auto rigid = fit_similarity(scaled, pairs.to, options);
        if (!rigid) return rigid.error();
        out.source_to_kit = *rigid;
        out.source_to_kit.scale = k;
    }
    out.size_ratio = out.source_to_kit.scale / millimetres(out.unit);
    return out;
}

Similarity preview_placement(const PlaceInput& input, const Mesh& source) {
    if (!sides_exchanged(input)) {
        if (const auto placed = place_by_landmarks(input)) return placed->source_to_kit;
    }
    const Box box = bounding_box(source.positions), base = bounding_box(input.kit->mesh.positions);
    if (box.empty()) return {};
    Similarity out;
    const double tallest = std::max(box.size().maxCoeff(), 1e-9);
    // without a known unit: a figure or a head-and-shoulders scan of ordinary size
    double mm = input.unit ? millimetres(*input.unit) : 0;
    for (const Unit u : kAllUnits) {
        const double size = tallest * millimetres(u);
        if (mm == 0 && size > 200 && size < 2300) mm = millimetres(u);
    }
    if (mm == 0) mm = 450 / tallest;
    out.scale = mm;
    const bool z_up = box.size().z() == box.size().maxCoeff() && box.size().z() > 1.3 * box.size().y();
    out.rotation = rotation_to_y_up(z_up ? UpAxis::PlusZ : UpAxis::PlusY);
    Box turned;
    for (const Vec3& p : source.positions) turned.add(out(p));
    // crown to crown, so that heads stand beside each other whatever is below
    const Vec3 top(base.centre().x(), base.high.y(), base.centre().z());
    out.translation = top - Vec3(turned.centre().x(), turned.high.y(), turned.centre().z());
    return out;
}

Similarity refine_by_icp(const BaseKit& kit, const VertexIndices& vertices, const SourceSurface& surface,
                         bool allow_scale, const Progress& progress) {
    const Points& normals = kit_normals(kit);
    Similarity total;  // surface's frame -> better frame
    for (int round = 0; round < 12 && !progress.is_cancelled(); ++round) {
        const Similarity back = total.inverse();
        Points from, to;
        std::vector<double> weights, distances;
        std::vector<SurfaceHit> hits(vertices.size());
        tbb::parallel_for(std::size_t{0}, hits.size(), [&](std::size_t i) {
            const FacingFilter facing{back.rotation * normals[vertices[i]], 0.6};
            hits[i] = surface.closest(back(kit.mesh.positions[vertices[i]]), 25.0, &facing);
        });
        for (std::size_t i = 0; i < hits.size(); ++i) {
            if (!hits[i] || surface.on_border(hits[i])) continue;
            from.push_back(hits[i].position);
            to.push_back(kit.mesh.positions[vertices[i]]);
            distances.push_back(hits[i].distance);
        }
        if (from.size() < 50) return {};
        const double scale = std::max(2.0, 2.0 * median(distances));
        for (double d : distances) weights.push_back(geman_mcclure(d, scale));
        SimilarityOptions options;
        options.allow_scale = allow_scale;
        options.outlier_mm = 0;
        options.weights = weights;
        const auto step = fit_similarity(from, to, options);
        if (!step) return {};
        const double moved = ((*step)(from[0]) - total(from[0])).norm();
        total = *step;
        if (moved < 1e-4) break;
    }
    return total;
}

}  // namespace veld
