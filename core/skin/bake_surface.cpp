#include "core/skin/bake_surface.h"

#include <algorithm>
#include <numeric>
#include <set>
#include <unordered_map>

#include "core/io/map_image.h"
#include "core/kit/kit_surface.h"
#include "core/landmark/landmarks.h"
#include "core/linalg/statistics.h"
#include "core/mesh/subdivide.h"
#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr int kLookTexels = 512;  // at which tiles are compared
constexpr double kSharedPlaces =
    0.02;  // of a material's texels: more than that on another's, and it is a tile of its own

double turned_area(const std::array<Vec2, 3>& uv) {
    const Vec2 a = uv[1] - uv[0], b = uv[2] - uv[0];
    return 0.5 * (a.x() * b.y() - b.x() * a.y());
}

std::uint64_t edge_key(Index a, Index b) { return static_cast<std::uint64_t>(std::min(a, b)) << 32u | std::max(a, b); }

std::vector<std::array<Index, 3>> link_triangles(const std::vector<Triangle>& triangles) {
    std::vector<std::array<Index, 3>> out(triangles.size(), {kNone, kNone, kNone});
    std::unordered_map<std::uint64_t, Index> open;
    open.reserve(3 * triangles.size());
    for (Index t = 0; t < triangles.size(); ++t) {
        for (Index k = 0; k < 3; ++k) {
            const auto [at, fresh] = open.try_emplace(edge_key(triangles[t][k], triangles[t][(k + 1) % 3]), 3 * t + k);
            if (fresh) continue;
            const Index other = at->second;
            if (other == kNone || out[other / 3][other % 3] != kNone) {  // more than two: none of them goes on
                at->second = kNone;
                continue;
            }
            out[t][k] = other, out[other / 3][other % 3] = 3 * t + k;
        }
    }
    return out;
}

// The direction in which u grows on a triangle; zero where its UVs have no area.
Vec3 direction_of_u(const BakeSurface& s, Index t) {
    const Triangle& c = s.triangles[t];
    const Vec3 a = s.positions[c[1]] - s.positions[c[0]], b = s.positions[c[2]] - s.positions[c[0]];
    const Vec2 p = s.uv[t][1] - s.uv[t][0], q = s.uv[t][2] - s.uv[t][0];
    const double area = p.x() * q.y() - q.x() * p.y();
    const Vec3 u = (q.y() * a - p.y() * b) * (area < 0 ? -1.0 : 1.0);
    return area == 0 || !(u.squaredNorm() > 0) ? Vec3(Vec3::Zero()) : Vec3(u.normalized());
}

struct CornerKey {
    Index vertex;
    double u, v;
    bool left;
    auto operator<=>(const CornerKey&) const = default;
};

void lay_tangents(BakeSurface& s) {
    std::map<CornerKey, Vec3> sums;
    std::vector<Vec3> own(s.triangles.size());
    const auto key = [&](Index t, std::size_t k) {
        return CornerKey{s.triangles[t][k], s.uv[t][k].x(), s.uv[t][k].y(), turned_area(s.uv[t]) > 0};
    };
    for (Index t = 0; t < s.triangles.size(); ++t) {
        own[t] = direction_of_u(s, t);
        if (own[t].isZero()) continue;
        for (std::size_t k = 0; k < 3; ++k) {
            const Vec3& at = s.positions[s.triangles[t][k]];
            const Vec3& n = s.normals[s.triangles[t][k]];
            const auto in_plane = [&](const Vec3& d) { return (d - n * n.dot(d)).normalized().eval(); };
            const Vec3 a = in_plane(s.positions[s.triangles[t][(k + 1) % 3]] - at),
                       b = in_plane(s.positions[s.triangles[t][(k + 2) % 3]] - at), u = in_plane(own[t]);
            const double angle = std::acos(std::clamp(a.dot(b), -1.0, 1.0));
            if (std::isfinite(angle) && u.allFinite())
                sums.try_emplace(key(t, k), Vec3::Zero()).first->second += angle * u;
        }
    }
    s.tangents.resize(s.triangles.size());
    for (Index t = 0; t < s.triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const auto at = sums.find(key(t, k));
            Vec3 u = at == sums.end() ? own[t] : at->second;
            if (!(u.squaredNorm() > 1e-20)) u = s.normals[s.triangles[t][k]].unitOrthogonal();
            s.tangents[t][k] = {u.normalized(), turned_area(s.uv[t]) < 0 ? -1.0 : 1.0};
        }
    }
}

// Per vertex of the base the smallest region that holds it.
void name_regions(const BaseKit& kit, const Subdivided* fine, BakeSurface& s) {
    s.region_names = skin_regions(kit);
    std::vector<std::uint16_t> of(kit.mesh.positions.size(), static_cast<std::uint16_t>(s.region_names.size()));
    std::vector<std::size_t> size(of.size(), of.size() + 1);
    for (std::size_t r = 0; r < s.region_names.size(); ++r) {
        const VertexIndices& vertices = kit.region(s.region_names[r]);
        for (const Index v : vertices) {
            if (vertices.size() < size[v]) size[v] = vertices.size(), of[v] = static_cast<std::uint16_t>(r);
        }
    }
    s.region_names.push_back("other");
    s.region.resize(s.positions.size());
    for (Index v = 0; v < s.region.size(); ++v) {
        if (!fine) {
            s.region[v] = of[v];
            continue;
        }
        const Subdivided::Row row = fine->row(v);
        const auto most = std::max_element(row.weight, row.weight + row.count) - row.weight;
        s.region[v] = of[row.vertex[most]];
    }
}

// Triangles of one picture are a tile. A material without a picture joins the tile of its number, unless it claims
// places there that are taken.
void find_tiles(const Mesh& mesh, const Triangulation& fans, const std::vector<Index>& kept, BakeSurface& s) {
    std::map<std::pair<int, std::pair<int, Index>>, UvTile> groups;  // number, picture, material of those without
    for (Index t = 0; t < s.triangles.size(); ++t) {
        const Vec2 middle = (s.uv[t][0] + s.uv[t][1] + s.uv[t][2]) / 3;
        const Index face = fans.triangle_face[kept[t]];
        const Index material = mesh.face_material.empty() ? kNone : mesh.face_material[face];
        const int number = udim_of(middle),
                  image = material == kNone ? -1 : image_of(mesh.materials[material], middle);
        UvTile& tile = groups[{number, {image, image >= 0 ? kNone : material}}];
        tile.number = number, tile.image = image;
        if (tile.name.empty() && material != kNone) tile.name = mesh.materials[material].name;
        tile.triangles.push_back(t);
        s.pictured.push_back(image >= 0);
        Colour plain{204, 204, 204, 255};
        if (material != kNone) {
            const auto byte = [&](std::size_t k) {
                const double linear = std::clamp(mesh.materials[material].colour[k], 0.0, 1.0);
                return static_cast<std::uint8_t>(std::lround(255 * linear_to_srgb(linear)));
            };
            plain = {byte(0), byte(1), byte(2), 255};
        }
        s.plain.push_back(plain);
    }
    std::vector<UvTile> order;
    for (auto& [key, tile] : groups) order.push_back(std::move(tile));
    std::stable_sort(order.begin(), order.end(), [](const UvTile& a, const UvTile& b) {
        if (a.number != b.number) return a.number < b.number;
        if ((a.image >= 0) != (b.image >= 0)) return a.image >= 0;
        return a.triangles.size() > b.triangles.size();
    });
    std::vector<std::vector<std::uint8_t>> taken;
    for (UvTile& tile : order) {
        const std::vector<std::uint8_t> mine = claimed_texels(s, tile, kLookTexels);
        std::size_t home = s.tiles.size();
        for (std::size_t k = 0; k < s.tiles.size() && tile.image < 0 && home == s.tiles.size(); ++k) {
            if (s.tiles[k].number != tile.number) continue;
            double all = 0, both = 0;
            for (std::size_t i = 0; i < mine.size(); ++i) all += mine[i] > 0, both += mine[i] > 0 && taken[k][i] > 0;
            if (both <= kSharedPlaces * all) home = k;
        }
        if (home == s.tiles.size()) {
            s.tiles.push_back(std::move(tile)), taken.push_back(mine);
            continue;
        }
        for (std::size_t i = 0; i < mine.size(); ++i) taken[home][i] |= mine[i];
        s.tiles[home].triangles.insert(s.tiles[home].triangles.end(), tile.triangles.begin(), tile.triangles.end());
    }
    std::map<int, int> of_number;
    for (const UvTile& tile : s.tiles) ++of_number[tile.number];
    std::set<std::string> names;
    for (UvTile& tile : s.tiles) {
        std::string name = std::to_string(tile.number);
        if (of_number[tile.number] > 1 && !tile.name.empty()) name += "_" + tile.name;
        for (int n = 2; names.contains(name); ++n) name = std::to_string(tile.number) + "_" + std::to_string(n);
        names.insert(tile.name = name);
    }
}

// The vertices that lie next to the points of those curves.
VertexIndices along_curves(const BaseKit& kit, const std::vector<std::string>& names) {
    VertexIndices out;
    for (const std::string& name : names) {
        const auto curve = kit.curves.find(name);
        if (curve == kit.curves.end()) continue;
        for (const SurfacePoint& p : curve->second)
            out.push_back(p.vertices[static_cast<std::size_t>(std::max_element(p.weights.begin(), p.weights.end()) -
                                                              p.weights.begin())]);
    }
    return out;
}

}  // namespace

Mat3 BakeSurface::frame(Index t, const Vec3& shares) const {
    Mat3 out;
    const std::array<CornerTangent, 3>& c = tangents[t];
    out.col(2) = normal(t, shares);
    out.col(0) = shares[0] * c[0].u + shares[1] * c[1].u + shares[2] * c[2].u;
    out.col(1) = c[0].turn * out.col(2).cross(out.col(0));
    return out;
}

std::vector<MirroredTriangle> mirrored_triangles(const BakeSurface& s) {
    std::vector<MirroredTriangle> out;
    if (s.mirror.size() != s.positions.size() || s.mirror.empty()) return out;
    std::map<Triangle, Index> by_corners;
    const auto sorted = [](Triangle c) {
        std::sort(c.begin(), c.end());
        return c;
    };
    for (Index t = 0; t < s.triangles.size(); ++t) by_corners.emplace(sorted(s.triangles[t]), t);
    const auto find = [&](Index a, Index b, Index c) {
        const auto at = by_corners.find(sorted({a, b, c}));
        return at == by_corners.end() ? kNone : at->second;
    };
    out.resize(s.triangles.size());
    for (Index t = 0; t < out.size(); ++t) {
        MirroredTriangle& to = out[t];
        for (std::size_t k = 0; k < 3; ++k) to.corners[k] = s.mirror[s.triangles[t][k]];
        to.triangles[0] = find(to.corners[0], to.corners[1], to.corners[2]);
        for (std::size_t k = 0; k < 3 && to.triangles[0] == kNone; ++k) {
            const Index mate = s.mate[t][k];
            if (mate == kNone) continue;
            const Index far = s.mirror[s.triangles[mate / 3][(mate % 3 + 2) % 3]], tip = to.corners[(k + 2) % 3];
            const Index one = find(tip, far, to.corners[k]), other = find(tip, far, to.corners[(k + 1) % 3]);
            if (one != kNone && other != kNone) to.triangles = {one, other};
        }
    }
    return out;
}

SkinSpot mirrored_place(const BakeSurface& s, const MirroredTriangle& mirrored, const Vec3& shares) {
    SkinSpot out;
    const Vec3 place = shares[0] * s.positions[mirrored.corners[0]] + shares[1] * s.positions[mirrored.corners[1]] +
                       shares[2] * s.positions[mirrored.corners[2]];
    double best = -std::numeric_limits<double>::infinity();
    for (const Index t : mirrored.triangles) {
        if (t == kNone) continue;
        const Vec3 &a = s.positions[s.triangles[t][0]], &b = s.positions[s.triangles[t][1]],
                   &c = s.positions[s.triangles[t][2]];
        const Vec3 normal = (b - a).cross(c - a);
        const double area = normal.squaredNorm();
        if (!(area > 0)) continue;
        const Vec3 own((b - place).cross(c - place).dot(normal) / area,
                       (c - place).cross(a - place).dot(normal) / area,
                       (a - place).cross(b - place).dot(normal) / area);
        if (own.minCoeff() <= best) continue;
        best = own.minCoeff();
        out = {t, own.cwiseMax(0) / own.cwiseMax(0).sum()};
    }
    return out;
}

Result<BakeSurface> bake_surface(const BaseKit& kit, const Points& shape, int level) {
    BakeSurface s;
    s.level = level;
    if (level == 0) {
        s.mirror = kit.mirror;
        s.lid_edges = along_curves(kit, {"upper_lid_l", "upper_lid_r", "lower_lid_l", "lower_lid_r"});
        s.lip_edges = along_curves(kit, {kInnerLips[0], kInnerLips[1]});
    }
    std::shared_ptr<const Subdivided> fine;
    if (level > 0) {
        auto made = Subdivided::make(kit.mesh, level);
        if (!made) return made.error();
        fine = *made;
    }
    const Mesh& mesh = fine ? fine->mesh() : kit.mesh;
    const Triangulation own = fine ? triangulate(mesh) : Triangulation{};
    const Triangulation& fans = fine ? own : kit.triangulation;
    s.positions = fine ? fine->positions(shape) : shape;
    std::vector<Index> kept;  // triangles with UVs
    for (Index t = 0; t < fans.triangles.size() && !mesh.corner_uv.empty(); ++t) {
        const Triangle& c = fans.triangle_corner[t];
        if (mesh.corner_uv[c[0]] == kNone || mesh.corner_uv[c[1]] == kNone || mesh.corner_uv[c[2]] == kNone) continue;
        kept.push_back(t);
        s.triangles.push_back(fans.triangles[t]);
        s.uv.push_back(
            {mesh.uvs[mesh.corner_uv[c[0]]], mesh.uvs[mesh.corner_uv[c[1]]], mesh.uvs[mesh.corner_uv[c[2]]]});
    }
    if (s.triangles.empty())
        return Error{ErrorCode::BadInput,
                     "The base has no UVs, so there is nothing to bake onto. Lay its UVs out in the program that it "
                     "comes from, and make the kit again from that file."};
    if (kept.size() < fans.triangles.size())
        s.notes.push_back(std::to_string(fans.triangles.size() - kept.size()) +
                          " triangles of the base have no UVs; nothing is baked for them.");
    s.normals = seamless_normals(s.positions, fans.triangles, same_place(s.positions));
    s.mate = link_triangles(s.triangles);
    lay_tangents(s);
    for (const KitPart& part : kit.parts) s.part_names.push_back(part.name);
    s.part.assign(s.triangles.size(), 0);
    std::vector<std::uint8_t> of_vertex(shape.size(), 0);
    for (std::size_t p = 0; p < kit.parts.size(); ++p) {
        for (const Index v : kit.parts[p].vertices) of_vertex[v] = static_cast<std::uint8_t>(p);
    }
    for (Index t = 0; t < s.triangles.size(); ++t) {
        const Index v = s.triangles[t][0];
        s.part[t] = of_vertex[fine ? fine->row(v).vertex[0] : v];
    }
    name_regions(kit, fine.get(), s);
    find_tiles(mesh, fans, kept, s);
    return s;
}

UvFigures uv_figures(const BakeSurface& s, const UvTile& tile) {
    UvFigures out;
    const std::vector<std::uint8_t> claims = claimed_texels(s, tile, kLookTexels);
    double used = 0, twice = 0;
    for (const std::uint8_t c : claims) used += c > 0, twice += c > 1;
    out.used = used / static_cast<double>(claims.size());
    out.overlap = used > 0 ? twice / used : 0;
    Index left = 0, right = 0;
    std::vector<double> densities;
    std::unordered_map<Index, Index> up;  // triangle -> one of its island
    for (const Index t : tile.triangles) up[t] = t;
    const auto root = [&](Index t) {
        while (up[t] != t) t = up[t] = up[up[t]];
        return t;
    };
    for (const Index t : tile.triangles) {
        const double area = turned_area(s.uv[t]);
        const Triangle& c = s.triangles[t];
        const double mm2 =
            0.5 * (s.positions[c[1]] - s.positions[c[0]]).cross(s.positions[c[2]] - s.positions[c[0]]).norm();
        if (std::abs(area) < 1e-12)
            ++out.flat;
        else
            ++(area > 0 ? left : right);
        if (mm2 > 1e-9) densities.push_back(1024 * std::sqrt(std::abs(area) / mm2));
        for (std::size_t k = 0; k < 3; ++k) {
            if (continues(s, t, k) && up.contains(s.mate[t][k] / 3)) up[root(t)] = root(s.mate[t][k] / 3);
        }
    }
    for (const Index t : tile.triangles) out.islands += root(t) == t;
    out.mirrored = std::min(left, right);
    out.density = median(densities);
    return out;
}

}  // namespace veld
