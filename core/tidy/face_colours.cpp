#include "core/tidy/face_colours.h"

#include <algorithm>
#include <cmath>

#include "core/io/surface_colour.h"

namespace veld {

std::vector<std::array<float, 3>> face_colours(const Mesh& mesh) {
    std::vector<std::array<float, 3>> out(mesh.face_count(), {0.8f, 0.8f, 0.8f});
    const SurfaceColour colour(mesh);
    const Triangulation fans = triangulate(mesh);
    std::vector<int> seen(mesh.face_count(), 0);
    // a face shows what its fan triangles show in their middles
    for (Index t = 0; t < fans.triangles.size(); ++t) {
        const Index f = fans.triangle_face[t];
        const auto c = colour.at(mesh, fans, t, {1.0 / 3, 1.0 / 3, 1.0 / 3});
        if (!c) continue;
        if (seen[f]++ == 0) out[f] = {0, 0, 0};
        for (std::size_t k = 0; k < 3; ++k) out[f][k] += static_cast<float>((*c)[static_cast<Eigen::Index>(k)]);
    }
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (float& s : out[f]) s /= static_cast<float>(std::max(seen[f], 1));
        const Material* material = mesh.face_material.empty() || mesh.face_material[f] == kNone
                                       ? nullptr
                                       : &mesh.materials[mesh.face_material[f]];
        for (std::size_t k = 0; k < 3 && seen[f] == 0 && material; ++k)
            out[f][k] = static_cast<float>(std::pow(std::clamp(material->colour[k], 0.0, 1.0), 1 / 2.2));
    }
    return out;
}

Vec3 lab_of(const std::array<double, 3>& srgb) {
    const auto linear = [](double s) { return s <= 0.04045 ? s / 12.92 : std::pow((s + 0.055) / 1.055, 2.4); };
    const double r = linear(srgb[0]), g = linear(srgb[1]), b = linear(srgb[2]);
    const double x = (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.95047, y = 0.2126 * r + 0.7152 * g + 0.0722 * b,
                 z = (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.08883;
    const auto f = [](double t) { return t > 0.008856 ? std::cbrt(t) : 7.787 * t + 16.0 / 116; };
    return {116 * f(y) - 16, 500 * (f(x) - f(y)), 200 * (f(y) - f(z))};
}

FaceMask faces_of_colour(const Mesh& mesh, const std::array<double, 3>& srgb, double tolerance) {
    const Vec3 wanted = lab_of(srgb);
    FaceMask out(mesh.face_count(), 0);
    const auto colours = face_colours(mesh);
    for (std::size_t f = 0; f < out.size(); ++f)
        out[f] = (lab_of({colours[f][0], colours[f][1], colours[f][2]}) - wanted).norm() <= 100 * tolerance;
    return out;
}

}  // namespace veld
