#include "demo/standins/skin_truth.h"

#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/subdivide.h"
#include "core/skin/texels.h"

namespace veld {

Vec3 known_colour(const Vec3& p) {
    const double patch = std::sin(p.x() / 17) * std::sin(p.y() / 23 + 1) + std::sin(p.z() / 19 + p.y() / 31),
                 freckle = std::sin(p.x() / 3.1) * std::sin(p.y() / 2.7 + 0.4) * std::sin(p.z() / 3.6);
    const Vec3 tone(0.80, 0.62, 0.53);
    return (tone + patch * Vec3(0.05, 0.035, 0.02) - std::max(0.0, freckle) * Vec3(0.10, 0.14, 0.14))
        .cwiseMax(0.0)
        .cwiseMin(1.0);
}

double known_relief(const Vec3& p) {
    return 0.3 * std::sin(p.x() / 4.1 + std::sin(p.y() / 9)) * std::sin(p.y() / 3.7) +
           0.3 * std::sin(p.z() / 5.3 + p.x() / 7);
}

Mesh known_sculpt(const BaseKit& kit, const Points& shape, int level) {
    const auto fine = *Subdivided::make(kit.mesh, level);
    const Points rest = fine->positions(kit.mesh.positions);
    Mesh out = fine->mesh();
    out.positions = fine->positions(shape);
    const std::vector<Triangle> triangles = triangulate(out).triangles;
    const Points normals = vertex_normals(out.positions, triangles);
    std::vector<std::uint8_t> skin(kit.mesh.positions.size(), 0);
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    for (Index v = 0; v < out.positions.size(); ++v) {
        const bool raised = skin[fine->row(v).vertex[0]] != 0;
        if (raised) out.positions[v] += known_relief(rest[v]) * normals[v];
        const Vec3 c = 255 * known_colour(rest[v]);
        const auto byte = [&](int k) { return static_cast<std::uint8_t>(std::lround(c[k])); };
        out.colours.push_back({byte(0), byte(1), byte(2), 255});
    }
    out.materials.clear(), out.face_material.clear(), out.images.clear();
    return out;
}

namespace {

Vec3 lab_of(const Vec3& srgb) {
    const Vec3 l(srgb_to_linear(srgb[0]), srgb_to_linear(srgb[1]), srgb_to_linear(srgb[2]));
    const double xyz[3] = {(0.4124564 * l[0] + 0.3575761 * l[1] + 0.1804375 * l[2]) / 0.95047,
                           0.2126729 * l[0] + 0.7151522 * l[1] + 0.0721750 * l[2],
                           (0.0193339 * l[0] + 0.1191920 * l[1] + 0.9503041 * l[2]) / 1.08883};
    double f[3];
    for (int k = 0; k < 3; ++k) f[k] = xyz[k] > 216.0 / 24389 ? std::cbrt(xyz[k]) : (24389.0 / 27 * xyz[k] + 16) / 116;
    return Vec3(116 * f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2]));
}

double hue_of(double a, double b) {
    const double h = std::atan2(b, a);
    return h < 0 ? h + 2 * M_PI : h;
}

}  // namespace

double colour_difference(const Vec3& x, const Vec3& y) {
    const Vec3 p = lab_of(x), q = lab_of(y);
    const double c_mean = 0.5 * (std::hypot(p[1], p[2]) + std::hypot(q[1], q[2])), c7 = std::pow(c_mean, 7);
    const double g = 0.5 * (1 - std::sqrt(c7 / (c7 + std::pow(25.0, 7))));
    const double a1 = (1 + g) * p[1], a2 = (1 + g) * q[1], c1 = std::hypot(a1, p[2]), c2 = std::hypot(a2, q[2]);
    const double h1 = hue_of(a1, p[2]), h2 = hue_of(a2, q[2]);
    double dh = h2 - h1, h_mean = 0.5 * (h1 + h2);
    if (std::abs(dh) > M_PI) dh -= std::copysign(2 * M_PI, dh), h_mean += h_mean < M_PI ? M_PI : -M_PI;
    if (c1 * c2 == 0) dh = 0, h_mean = h1 + h2;
    const double dl = q[0] - p[0], dc = c2 - c1, dhue = 2 * std::sqrt(c1 * c2) * std::sin(0.5 * dh);
    const double l_mean = 0.5 * (p[0] + q[0]), cm = 0.5 * (c1 + c2), degree = M_PI / 180;
    const double t = 1 - 0.17 * std::cos(h_mean - 30 * degree) + 0.24 * std::cos(2 * h_mean) +
                     0.32 * std::cos(3 * h_mean + 6 * degree) - 0.2 * std::cos(4 * h_mean - 63 * degree);
    const double l50 = (l_mean - 50) * (l_mean - 50), sl = 1 + 0.015 * l50 / std::sqrt(20 + l50), sc = 1 + 0.045 * cm,
                 sh = 1 + 0.015 * cm * t, cm7 = std::pow(cm, 7);
    const double turn = 30 * degree * std::exp(-std::pow((h_mean / degree - 275) / 25, 2)),
                 rt = -2 * std::sqrt(cm7 / (cm7 + std::pow(25.0, 7))) * std::sin(2 * turn);
    return std::sqrt(std::pow(dl / sl, 2) + std::pow(dc / sc, 2) + std::pow(dhue / sh, 2) + rt * dc / sc * dhue / sh);
}

Vec3 map_at(const MapImage& map, const UvTile& tile, const Vec2& uv) {
    const double u = uv.x() - (tile.number - 1001) % 10, v = uv.y() - (tile.number - 1001) / 10;
    const double x = u * map.width - 0.5, y = (1 - v) * map.height - 0.5, i = std::floor(x), j = std::floor(y);
    Vec3 out = Vec3::Zero();
    for (int k = 0; k < 4; ++k) {
        const int c = std::clamp(static_cast<int>(i) + k % 2, 0, map.width - 1),
                  r = std::clamp(static_cast<int>(j) + k / 2, 0, map.height - 1);
        const double share = (k % 2 ? x - i : 1 - x + i) * (k / 2 ? y - j : 1 - y + j);
        for (int n = 0; n < map.channels; ++n) {
            const std::size_t at =
                (static_cast<std::size_t>(r) * static_cast<std::size_t>(map.width) + static_cast<std::size_t>(c)) *
                    static_cast<std::size_t>(map.channels) +
                static_cast<std::size_t>(n);
            out[n] += share * (map.real.empty() ? map.unit[at] / 65535.0 : map.real[at]);
        }
    }
    return out;
}

BorderSteps border_steps(const BakeSurface& s, const std::map<std::string, MapImage>& maps, bool normals) {
    std::vector<const UvTile*> tile_of(s.triangles.size(), nullptr);
    for (const UvTile& tile : s.tiles) {
        for (const Index t : tile.triangles) tile_of[t] = &tile;
    }
    std::vector<double> steps;
    for (Index t = 0; t < s.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Index mate = s.mate[t][k];
            if (s.part[t] != 0 || mate == kNone || mate < 3 * t || continues(s, t, k)) continue;
            const Index other = mate / 3;
            if (!maps.contains(tile_of[t]->name) || !maps.contains(tile_of[other]->name)) continue;
            for (const double along : {0.25, 0.5, 0.75}) {
                Vec3 value[2];
                const std::pair<Index, std::size_t> sides[2] = {{t, k}, {other, mate % 3}};
                for (int side = 0; side < 2; ++side) {
                    const auto [on, edge] = sides[side];
                    // the same place from both sides
                    const bool turned = s.triangles[on][edge] != s.triangles[t][k];
                    Vec3 shares = Vec3::Zero();
                    shares[static_cast<Eigen::Index>(edge)] = turned ? along : 1 - along;
                    shares[static_cast<Eigen::Index>((edge + 1) % 3)] = turned ? 1 - along : along;
                    const Vec2 uv = shares[0] * s.uv[on][0] + shares[1] * s.uv[on][1] + shares[2] * s.uv[on][2];
                    value[side] = map_at(maps.at(tile_of[on]->name), *tile_of[on], uv);
                    if (normals)
                        value[side] = 0.5 * (s.frame(on, shares) * (2 * value[side] - Vec3::Ones())).normalized();
                }
                steps.push_back(255 * (value[1] - value[0]).cwiseAbs().maxCoeff());
            }
        }
    }
    BorderSteps out;
    for (const double d : steps) out.mean += d / static_cast<double>(steps.size()), out.most = std::max(out.most, d);
    out.far = quantile(steps, 0.95);
    return out;
}

}  // namespace veld
