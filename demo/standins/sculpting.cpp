#include "demo/standins/sculpting.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

#include "core/mesh/subdivide.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

// How a mesh stands: height along the axis that it is longest in, its top, its front by where a face would be.
struct Stance {
    int up = 1;
    double height = 1, top = 0;
    Vec3 middle;
};

Stance stance_of(const Mesh& mesh) {
    const Box box = bounding_box(mesh.positions);
    Stance out;
    box.size().maxCoeff(&out.up);
    out.height = box.size()[out.up];
    out.top = box.high[out.up];
    out.middle = box.centre();
    return out;
}

// A bump around a place of the surface, along `way`, fading over `reach`.
void push(Mesh& mesh, const Points& as_it_was, const Vec3& at, const Vec3& way, double reach) {
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) {
        const double t = 1 - (as_it_was[v] - at).squaredNorm() / (reach * reach);
        if (t > 0) mesh.positions[v] += t * t * way;
    }
}

Vec3 nearest(const Points& points, const Vec3& p) {
    return *std::min_element(points.begin(), points.end(), [&](const Vec3& a, const Vec3& b) {
        return (a - p).squaredNorm() < (b - p).squaredNorm();
    });
}

// Faces rebuilt from a list of corner lists.
void set_faces(Mesh& mesh, const std::vector<std::vector<Index>>& faces, const Mesh& from) {
    mesh.face_start = {0}, mesh.corner_vertex.clear(), mesh.corner_uv.clear(), mesh.corner_normal.clear(),
    mesh.normals.clear();
    for (const auto& corners : faces) {
        for (const Index c : corners) {
            mesh.corner_vertex.push_back(from.corner_vertex[c]);
            if (!from.corner_uv.empty()) mesh.corner_uv.push_back(from.corner_uv[c]);
        }
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    }
}

std::vector<std::vector<Index>> faces_of(const Mesh& mesh) {
    std::vector<std::vector<Index>> out(mesh.face_count());
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) out[f].push_back(c);
    }
    return out;
}

void forget_groups(Mesh& mesh) {
    mesh.group_names.clear(), mesh.face_group.clear(), mesh.materials.clear(), mesh.face_material.clear(),
        mesh.material_libraries.clear(), mesh.images.clear();
}

void renumber(Mesh& mesh, const std::vector<Index>& order) {  // order: new -> old
    const Points was = mesh.positions;
    std::vector<Index> now(was.size());
    for (Index i = 0; i < order.size(); ++i) now[order[i]] = i, mesh.positions[i] = was[order[i]];
    for (Index& v : mesh.corner_vertex) v = now[v];
    mesh.colours.clear();
}

void reorder(Mesh& mesh, std::mt19937& random) {
    std::vector<Index> order(mesh.positions.size());
    std::iota(order.begin(), order.end(), 0);
    std::shuffle(order.begin(), order.end(), random);
    renumber(mesh, order);
    auto faces = faces_of(mesh);
    std::shuffle(faces.begin(), faces.end(), random);
    for (auto& f : faces)
        std::rotate(f.begin(), f.begin() + static_cast<std::ptrdiff_t>(random() % f.size()), f.end());
    const Mesh from = mesh;
    set_faces(mesh, faces, from);
    forget_groups(mesh);
}

void triangulated(Mesh& mesh) {
    std::vector<std::vector<Index>> faces;
    for (const Triangle& t : triangulate(mesh).triangle_corner) faces.push_back({t[0], t[1], t[2]});
    const Mesh from = mesh;
    set_faces(mesh, faces, from);
    forget_groups(mesh);
}

// One vertex for each place in UV.
void split_at_seams(Mesh& mesh) {
    std::map<std::pair<Index, Index>, Index> known;
    Points places;
    for (Index c = 0; c < mesh.corner_vertex.size(); ++c) {
        const auto [at, fresh] =
            known.try_emplace({mesh.corner_vertex[c], mesh.corner_uv.empty() ? c : mesh.corner_uv[c]},
                              static_cast<Index>(places.size()));
        if (fresh) places.push_back(mesh.positions[mesh.corner_vertex[c]]);
        mesh.corner_vertex[c] = at->second;
    }
    mesh.positions = std::move(places);
    mesh.colours.clear();
}

// Vertices without a number go; faces keep what is left of them, when that is a face still.
void keep_vertices(Mesh& mesh, const std::vector<Index>& becomes, bool shrink_faces) {
    std::vector<Index> now(mesh.positions.size(), kNone);
    Points kept;
    for (Index v = 0; v < becomes.size(); ++v) {
        if (becomes[v] == v) now[v] = static_cast<Index>(kept.size()), kept.push_back(mesh.positions[v]);
    }
    std::vector<std::vector<Index>> faces;
    for (const auto& f : faces_of(mesh)) {
        std::vector<Index> corners;
        std::vector<Index> seen;
        for (const Index c : f) {
            const Index v = becomes[mesh.corner_vertex[c]];
            if (v == kNone || std::find(seen.begin(), seen.end(), v) != seen.end()) continue;
            seen.push_back(v), corners.push_back(c);
        }
        if (corners.size() == f.size() || (shrink_faces && corners.size() >= 3)) faces.push_back(std::move(corners));
    }
    const Mesh from = mesh;
    set_faces(mesh, faces, from);
    forget_groups(mesh);
    mesh.positions = std::move(kept);
    mesh.colours.clear();
    for (Index& v : mesh.corner_vertex) v = now[becomes[v]];
}

std::vector<Index> each_itself(const Mesh& mesh) {
    std::vector<Index> out(mesh.positions.size());
    std::iota(out.begin(), out.end(), 0);
    return out;
}

// The smallest connected piece goes.
void lose_part(Mesh& mesh) {
    Index count = 0;
    const std::vector<Index> piece = vertex_components(mesh, &count);
    std::vector<std::size_t> size(count, 0);
    for (const Index p : piece) ++size[p];
    if (count < 2) return;
    const auto gone = static_cast<Index>(std::min_element(size.begin(), size.end()) - size.begin());
    std::vector<Index> becomes = each_itself(mesh);
    for (Index v = 0; v < piece.size(); ++v) {
        if (piece[v] == gone) becomes[v] = kNone;
    }
    keep_vertices(mesh, becomes, false);
}

// Merge by distance: the nearest neighbours of the whole mesh become one.
void merge_nearest(Mesh& mesh, std::size_t pairs) {
    std::vector<std::pair<double, std::pair<Index, Index>>> edges;
    for (const auto& f : faces_of(mesh)) {
        for (std::size_t k = 0; k < f.size(); ++k) {
            const Index a = mesh.corner_vertex[f[k]], b = mesh.corner_vertex[f[(k + 1) % f.size()]];
            edges.push_back({(mesh.positions[a] - mesh.positions[b]).norm(), {std::min(a, b), std::max(a, b)}});
        }
    }
    std::sort(edges.begin(), edges.end());
    std::vector<Index> becomes = each_itself(mesh);
    VertexMask used(becomes.size(), 0);
    for (const auto& [length, ends] : edges) {
        if (pairs == 0) break;
        if (used[ends.first] || used[ends.second]) continue;
        used[ends.first] = used[ends.second] = 1;
        becomes[ends.second] = ends.first;
        --pairs;
    }
    keep_vertices(mesh, becomes, true);
}

void delete_some(Mesh& mesh, std::mt19937& random) {
    std::vector<Index> becomes = each_itself(mesh);
    for (int k = 0; k < 6; ++k) becomes[random() % becomes.size()] = kNone;
    keep_vertices(mesh, becomes, false);
}

void add_a_box(Mesh& mesh) {
    const Stance s = stance_of(mesh);
    const Index first = mesh.vertex_count(), uv = static_cast<Index>(mesh.uvs.size());
    for (int k = 0; k < 8; ++k)
        mesh.positions.push_back(s.middle +
                                 s.height * Vec3(0.5 + 0.05 * (k & 1), 0.05 * (k >> 1 & 1), 0.05 * (k >> 2)));
    if (!mesh.corner_uv.empty()) mesh.uvs.emplace_back(7.5, 7.5);
    static constexpr Index sides[6][4] = {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                                          {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
    for (const auto& side : sides) {
        for (const Index v : side) {
            mesh.corner_vertex.push_back(first + v);
            if (!mesh.corner_uv.empty()) mesh.corner_uv.push_back(uv);
        }
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    }
    forget_groups(mesh);
}

}  // namespace

std::vector<std::string> sculpt_names() { return {"brow", "jaw", "nose", "bulk", "ripple", "none"}; }

Status sculpt(Mesh& mesh, const std::string& name, unsigned seed, double strength) {
    if (mesh.positions.empty()) return Error{ErrorCode::BadInput, "There is nothing to sculpt."};
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(-1, 1);
    const Points was = mesh.positions;
    const Stance s = stance_of(mesh);
    const double unit = s.height / 1740 * strength;  // a millimetre of a figure; a head alone counts as one
    const Vec3 up = Vec3::Unit(s.up), forward = s.up == 2 ? Vec3(-Vec3::UnitY()) : Vec3(Vec3::UnitZ());
    const auto on_face = [&](double down, double aside) {
        const Vec3 far = s.middle + 2 * s.height * forward;
        return nearest(was, Vec3(s.middle + (s.top - s.middle[s.up] - down * s.height) * up +
                                 aside * s.height * Vec3::UnitX() + 0.1 * (far - s.middle)));
    };
    const double wobble = 0.2 * any(random);
    if (name == "brow") {
        for (const double side : {-1.0, 1.0})
            push(mesh, was, on_face(0.055, side * 0.018), 8 * unit * (1 + wobble) * (forward + 0.3 * up),
                 0.022 * s.height);
    } else if (name == "jaw") {
        push(mesh, was, on_face(0.125, 0.01 * wobble), 12 * unit * (1 + wobble) * (forward - 0.6 * up),
             0.04 * s.height);
    } else if (name == "nose") {
        push(mesh, was, on_face(0.085, 0), 9 * unit * (1 + wobble) * forward, 0.018 * s.height);
    } else if (name == "bulk") {
        const Points normals = vertex_normals(was, triangulate(mesh).triangles);
        for (std::size_t v = 0; v < was.size(); ++v)
            mesh.positions[v] += 10 * unit *
                                 std::exp(-std::pow((was[v][s.up] - s.top + 0.45 * s.height) / (0.2 * s.height), 2)) *
                                 normals[v];
    } else if (name == "ripple") {
        const Points normals = vertex_normals(was, triangulate(mesh).triangles);
        const double phase = 3 * any(random);
        for (std::size_t v = 0; v < was.size(); ++v)
            mesh.positions[v] += 2 * unit * std::sin(phase + 60 * (was[v][s.up] - s.top) / s.height) * normals[v];
    } else if (name != "none") {
        return Error{ErrorCode::NotFound, "There is no sculpt '" + name + "'."};
    }
    return Done{};
}

const std::vector<Damage>& damages() {
    static const std::vector<Damage> all = {
        {"reorder", "vertices, faces and first corners in another order, groups lost"},
        {"zup", "Z up"},
        {"metres", "a thousandth as large"},
        {"centimetres", "a tenth as large"},
        {"mirror", "left and right exchanged"},
        {"turn", "turned and moved a little"},
        {"triangulate", "every face split into triangles"},
        {"split", "a vertex for every place in UV"},
        {"subdivide", "one Catmull-Clark level"},
        {"lose-part", "the smallest part is missing"},
        {"no-uvs", "without UVs"},
        {"inside-out", "faces run the other way round"},
        {"explode", "a few vertices far away"},
        {"noise", "everything moved by less than a micrometre"},
        {"extra", "a box that does not belong to it"},
        {"digits", "numbers with three decimals"},
        {"groups-lost", "no groups, no materials"},
        {"merge", "twenty vertices merged with their nearest neighbour"},
        {"delete", "six vertices and their faces deleted"},
        {"rescale", "turned by 90 degrees about the vertical, 1.7 times as large, moved"},
    };
    return all;
}

Status damage(Mesh& mesh, const std::string& name, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(-1, 1);
    const auto each = [&](auto&& change) {
        for (Vec3& p : mesh.positions) p = change(p);
    };
    if (name == "reorder")
        reorder(mesh, random);
    else if (name == "zup")
        each([](const Vec3& p) { return Vec3(p.x(), -p.z(), p.y()); });
    else if (name == "metres")
        each([](const Vec3& p) { return Vec3(p / 1000); });
    else if (name == "centimetres")
        each([](const Vec3& p) { return Vec3(p / 10); });
    else if (name == "mirror")
        each([](const Vec3& p) { return Vec3(-p.x(), p.y(), p.z()); });
    else if (name == "turn") {
        const double size = bounding_box(mesh.positions).size().norm();
        const Mat3 turn = Eigen::AngleAxisd(0.4 * any(random) + 0.5, Vec3(any(random), 1, any(random)).normalized())
                              .toRotationMatrix();
        const Vec3 move = 0.3 * size * Vec3(any(random), any(random), any(random));
        each([&](const Vec3& p) { return Vec3(turn * p + move); });
    } else if (name == "triangulate")
        triangulated(mesh);
    else if (name == "split")
        split_at_seams(mesh);
    else if (name == "subdivide") {
        const auto fine = Subdivided::make(mesh, 1);
        if (!fine) return fine.error();
        mesh = (*fine)->mesh();
        mesh.normals.clear(), mesh.corner_normal.clear();
    } else if (name == "lose-part")
        lose_part(mesh);
    else if (name == "no-uvs")
        mesh.uvs.clear(), mesh.corner_uv.clear();
    else if (name == "inside-out") {
        auto faces = faces_of(mesh);
        for (auto& f : faces) std::reverse(f.begin(), f.end());
        const Mesh from = mesh;
        set_faces(mesh, faces, from);
    } else if (name == "explode") {
        const double size = bounding_box(mesh.positions).size().norm();
        for (int k = 0; k < 3; ++k)
            mesh.positions[random() % mesh.positions.size()] +=
                0.4 * size * Vec3(any(random), any(random), any(random));
    } else if (name == "noise") {
        const double size = bounding_box(mesh.positions).size().norm();
        each([&](const Vec3& p) { return Vec3(p + 1e-7 * size * Vec3(any(random), any(random), any(random))); });
    } else if (name == "extra")
        add_a_box(mesh);
    else if (name == "digits")
        each([](const Vec3& p) { return Vec3((p * 1000).array().round().matrix() / 1000); });
    else if (name == "groups-lost")
        forget_groups(mesh);
    else if (name == "merge")
        merge_nearest(mesh, 20);
    else if (name == "delete")
        delete_some(mesh, random);
    else if (name == "rescale") {
        const double size = bounding_box(mesh.positions).size().norm();
        Vec3 up = Vec3::Zero();
        up[stance_of(mesh).up] = 1;
        const Mat3 turn = Eigen::AngleAxisd(M_PI / 2, up).toRotationMatrix();
        const Vec3 move = 0.3 * size * Vec3(any(random), any(random), any(random));
        each([&](const Vec3& p) { return Vec3(1.7 * (turn * p) + move); });
    } else
        return Error{ErrorCode::NotFound, "There is no damage '" + name + "'."};
    return Done{};
}

}  // namespace veld
