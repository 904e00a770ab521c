#include "core/photo/photo_figures.h"

#include <cmath>

#include "core/kit/kit_surface.h"

namespace veld {

FitFigures photo_figures(const BaseKit& kit, double neck_band_mm, const Points& shape,
                         const std::vector<PhotoFigures>& photos) {
    WrapProblem problem;
    problem.base = &kit.mesh;
    problem.faces = skin_faces(kit);
    problem.active = head_vertices(kit, head_fade(kit, neck_band_mm));
    problem.match.assign(shape.size(), 0.0);
    FitFigures out = measure_fit(kit, problem, shape, std::vector<Match>(shape.size()), nullptr);
    double sum = 0;
    int count = 0;
    for (const PhotoFigures& photo : photos) {
        for (const auto& [name, mm] : photo.landmark_mm) {
            out.landmark_mm[name] = std::max(out.landmark_mm[name], mm);
            out.landmark_max = std::max(out.landmark_max, mm), sum += mm * mm, ++count;
        }
    }
    out.landmark_rms = count > 0 ? std::sqrt(sum / count) : 0;
    return out;
}

}  // namespace veld
