#include "core/tidy/suggest.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/spatial/surface_query.h"
#include "core/tidy/face_colours.h"
#include "core/tidy/orient.h"

namespace veld {
namespace {

constexpr double kRoughnessReachMm = 6;  // roughness is judged within about this
constexpr double kRoughDegrees = 17;
constexpr double kSpreadMm = 8;         // the verdict is evened out over this
constexpr double kOtherColour = 0.085;  // distance of chromaticity from the face's own skin
constexpr double kLeastMm2 = 600;       // smaller patches are lips, brows, shadows

template <class Work>
void each(std::size_t n, Work work) {
    tbb::parallel_for(tbb::blocked_range<Index>(0, static_cast<Index>(n), 4096), [&](const auto& range) {
        for (Index i = range.begin(); i < range.end(); ++i) work(i);
    });
}

// Mean over each face and its neighbours, `rounds` times: a bell of width sqrt(rounds) edges.
template <class T>
void even_out(const Mesh& mesh, const EdgeLinks& links, std::vector<T>& values, int rounds) {
    std::vector<T> next(values.size());
    for (int round = 0; round < rounds; ++round) {
        each(values.size(), [&](Index f) {
            T sum = values[f];
            double n = 1;
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                if (links.mate[c] < kManyFaces) sum += values[links.corner_face[links.mate[c]]], n += 1;
            }
            next[f] = sum / n;
        });
        values.swap(next);
    }
}

// The median colour of the cheeks and the brow, and how far every face is from it; empty without colours.
std::vector<double> colour_difference(const Mesh& mesh, const Similarity& to_mm, const BaseKit& kit) {
    std::vector<double> out;
    if (mesh.colours.empty() && mesh.images.empty()) return out;
    const auto tip = kit.landmarks.find("pronasale"), root = kit.landmarks.find("sellion");
    if (tip == kit.landmarks.end() || root == kit.landmarks.end()) return out;
    const Vec3 nose = tip->second.at(kit.mesh.positions);
    // a figure stands on the floor: its face is higher or lower than the base's
    Box box;
    for (const Vec3& p : mesh.positions) box.add(to_mm(p));
    const bool figure = is_figure(mesh.positions, to_mm.scale);
    const double up = figure ? box.high.y() - bounding_box(kit.mesh.positions).high.y() : 0;
    const double low = nose.y() - 25 + up, high = root->second.at(kit.mesh.positions).y() + 5 + up;
    // ... and may hold its head forward: the front of what is there counts
    double front = nose.z();
    for (const Vec3& q : mesh.positions) {
        const Vec3 p = to_mm(q);
        if (figure && p.y() > low && p.y() < high && std::abs(p.x()) < 55) front = std::max(front, p.z());
    }
    const auto colours = face_colours(mesh);
    // chromaticity of linear light: a shadow changes brightness, not this
    const auto linear = [](float c) { return std::pow(static_cast<double>(c), 2.2); };
    std::array<std::vector<double>, 2> skin;
    std::vector<Vec2> chroma(colours.size(), Vec2::Constant(-1));
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const double r = linear(colours[f][0]), g = linear(colours[f][1]), sum = r + g + linear(colours[f][2]);
        if (sum < 0.012) continue;  // too dark to tell
        chroma[f] = Vec2(r / sum, g / sum);
        const Vec3 p = to_mm(face_centre(mesh, f));
        if (p.y() < low || p.y() > high || std::abs(p.x()) > 55 || p.z() < front - 70) continue;
        for (int k = 0; k < 2; ++k) skin[static_cast<std::size_t>(k)].push_back(chroma[f][k]);
    }
    if (skin[0].size() < 200) return out;
    Vec2 usual;
    for (std::size_t k = 0; k < 2; ++k) {
        const auto middle = skin[k].begin() + static_cast<std::ptrdiff_t>(skin[k].size() / 2);
        std::nth_element(skin[k].begin(), middle, skin[k].end());
        usual[static_cast<int>(k)] = *middle;
    }
    for (const Vec2& c : chroma) out.push_back(c.x() < 0 ? 0 : (c - usual).norm());
    return out;
}

// Patches smaller than kLeastMm2 are given back.
void drop_small_patches(const Mesh& mesh, const EdgeLinks& links, double mm2_per_area, FaceMask& selected) {
    FaceMask seen(selected.size(), 0);
    std::vector<Index> patch;
    for (Index seed = 0; seed < selected.size(); ++seed) {
        if (!selected[seed] || seen[seed]) continue;
        patch.assign(1, seed);
        seen[seed] = 1;
        double area = 0;
        bool loose = true;
        for (std::size_t i = 0; i < patch.size(); ++i) {
            const Index f = patch[i];
            area += mm2_per_area * face_normal(mesh, f).norm();
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                if (links.mate[c] >= kManyFaces) continue;
                const Index g = links.corner_face[links.mate[c]];
                loose &= selected[g] != 0;
                if (selected[g] && !seen[g]) seen[g] = 1, patch.push_back(g);
            }
        }
        if (area >= kLeastMm2 || loose) continue;
        for (Index f : patch) selected[f] = 0;
    }
}

}  // namespace

FaceMask suggest_ignored(const Mesh& mesh, const Similarity& to_mm, const BaseKit& kit) {
    const Index faces = mesh.face_count();
    const EdgeLinks links = link_edges(mesh, same_place(mesh.positions));
    Points normal(faces);
    double length = 0;
    Box box;
    for (Index f = 0; f < faces; ++f) {
        normal[f] = to_mm.rotation * face_normal(mesh, f).normalized();
        if (!normal[f].allFinite()) normal[f] = Vec3::Zero();
        const Index c = mesh.face_start[f];
        length +=
            to_mm.scale * (mesh.positions[mesh.corner_vertex[c + 1]] - mesh.positions[mesh.corner_vertex[c]]).norm();
        box.add(to_mm(mesh.positions[mesh.corner_vertex[c]]));
    }
    const double edge = std::max(length / std::max<Index>(faces, 1), 0.05);
    const auto rounds = [&](double mm) { return std::clamp(static_cast<int>(std::pow(mm / edge, 2) / 2), 2, 60); };
    Points even = normal;
    even_out(mesh, links, even, rounds(kRoughnessReachMm));
    std::vector<double> rough(faces);
    each(faces, [&](Index f) {
        const double n = even[f].norm();
        rough[f] = n > 1e-9 ? std::acos(std::clamp(normal[f].dot(even[f]) / n, -1.0, 1.0)) * 180 / M_PI : 90;
    });
    even_out(mesh, links, rough, rounds(kSpreadMm));
    const bool figure = is_figure(mesh.positions, to_mm.scale);
    // bodies differ from the base far more than heads do, and their scans are coarser
    const double far = figure ? 220 : 25, too_rough = figure ? 1.8 * kRoughDegrees : kRoughDegrees;
    std::vector<Triangle> skin;
    const KitPart& part = kit.parts.front();
    for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index f = kit.triangulation.triangle_face[t];
        if (part.has_face(f)) skin.push_back(kit.triangulation.triangles[t]);
    }
    const SurfaceQuery query(kit.mesh.positions, skin);
    std::vector<double> colour = colour_difference(mesh, to_mm, kit);
    if (!colour.empty()) even_out(mesh, links, colour, rounds(2));
    std::vector<double> verdict(faces);
    each(faces, [&](Index f) {
        const bool near = static_cast<bool>(query.closest(to_mm(face_centre(mesh, f)), far));
        const bool other = !colour.empty() && colour[f] > kOtherColour;
        verdict[f] = !near || other || rough[f] > too_rough ? 1.0 : 0.0;
    });
    even_out(mesh, links, verdict, rounds(kSpreadMm));
    FaceMask out(faces);
    for (Index f = 0; f < faces; ++f) out[f] = verdict[f] > 0.5;
    drop_small_patches(mesh, links, to_mm.scale * to_mm.scale, out);
    // what is left as an island inside is part of it
    for (std::uint8_t& c : out) c = !c;
    drop_small_patches(mesh, links, to_mm.scale * to_mm.scale, out);
    for (std::uint8_t& c : out) c = !c;
    return out;
}

}  // namespace veld
