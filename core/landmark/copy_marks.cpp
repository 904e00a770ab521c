#include "core/landmark/copy_marks.h"

#include "core/linalg/fit_similarity.h"

namespace veld {

int copy_marks(const CopyMarks& what, LandmarkSet& into) {
    Similarity over = what.to_upright.inverse() * what.from_upright;
    Points a, b;
    for (const auto& [name, p] : what.from->points) {
        if (const auto at = into.points.find(name); at != into.points.end()) a.push_back(p), b.push_back(at->second);
    }
    SimilarityOptions options;
    options.outlier_mm = 6 / what.to_upright.scale;
    if (a.size() >= 3) {
        if (const auto fitted = fit_similarity(a, b, options)) over = *fitted;
    }
    const double reach = 20 / what.to_upright.scale;
    Trust copied;
    copied.origin = Origin::Copied;
    int put = 0;
    for (const auto& [name, p] : what.from->points) {
        const SurfaceHit hit = what.surface->closest(over(p), reach);
        if (!hit || into.points.contains(name)) continue;
        into.points[name] = hit.position, into.trust[name] = copied;
        ++put;
    }
    for (const auto& [name, line] : what.from->curves) {
        if (into.curves.contains(name)) continue;
        Points there;
        for (const Vec3& p : line) {
            if (const SurfaceHit hit = what.surface->closest(over(p), reach)) there.push_back(hit.position);
        }
        if (there.size() < 2) continue;
        into.curves[name] = there, into.trust[name] = copied;
        ++put;
    }
    return put;
}

}  // namespace veld
