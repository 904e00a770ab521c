#include "core/fit/follow.h"

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <map>

#include "core/fit/wrap.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/linalg/surface_energy.h"
#include "core/mesh/topology.h"
#include "core/spatial/surface_ties.h"

namespace veld {
namespace {

constexpr double kEyePriorMm = 0.6;  // how far the lids alone may misplace an eyeball
constexpr double kSeatSidewaysMm = 0.7;
constexpr double kCoverRadii = 6;
constexpr double kAlongMm = 2.5;
constexpr double kLeastThickness = 0.5;  // of the base's own, where a lid is pressed
constexpr double kRideMm = 6;            // skin this near carries a part along
constexpr double kLargePieceMm = 60;     // across: such a piece bends with the skin under it
constexpr double kTieReachMm = 150;      // of its places from the skin
constexpr double kSeatReachMm = 4.0;     // the scan's eye surface is looked for this near

Similarity anchor_fit(const Points& base, const Points& now, const std::vector<Index>& anchors,
                      const std::vector<double>& weights, bool scale) {
    Points from, to;
    for (Index v : anchors) {
        from.push_back(base[v]);
        to.push_back(now[v]);
    }
    SimilarityOptions options;
    options.allow_scale = scale;
    options.outlier_mm = 3.0;
    options.weights = weights;
    const auto fit = fit_similarity(from, to, options);
    return fit ? *fit : Similarity{};
}

// Skin vertices around a place of the base, with weights that fade with the distance.
void anchors_near(const BaseKit& kit, const Points& part, double reach, auto&& accept, std::vector<Index>& anchors,
                  std::vector<double>& weights) {
    Eigen::AlignedBox3d box;
    for (const Vec3& q : part) box.extend(q);
    for (Index v : kit.part("skin")->vertices) {
        const Vec3& p = kit.mesh.positions[v];
        if (box.squaredExteriorDistance(p) > 9 * reach * reach || !accept(p)) continue;
        double nearest = 1e300;
        for (const Vec3& q : part) nearest = std::min(nearest, (p - q).squaredNorm());
        if (nearest > 9 * reach * reach) continue;
        anchors.push_back(v);
        weights.push_back(std::exp(-0.5 * nearest / (reach * reach)));
    }
}

// Moves a seated eyeball so that its uncovered front lies on the scan: point-to-plane along the
// sphere's normals, held by the lids' estimate as a prior.
Vec3 seat_on_scan(const BaseKit& kit, const KitPart& part, const KitEye& eye, const Similarity& seat,
                  const SourceSurface& source, const SurfaceQuery& skin) {
    const Vec3 centre = seat(eye.centre);
    Vec3 shift = Vec3::Zero();
    for (int round = 0; round < 8; ++round) {
        Mat3 normal_matrix = Mat3::Identity() / (kEyePriorMm * kEyePriorMm);
        Vec3 rhs = Vec3::Zero();
        double total = 0;
        for (Index v : part.vertices) {
            const Vec3 p = seat(kit.mesh.positions[v]);
            const Vec3 n = (p - centre).normalized();
            const SurfaceHit lid = skin.first_hit(p, n);
            if (lid) continue;  // covered by a lid or the head
            const FacingFilter facing{n, 0.7};
            const SurfaceHit hit = source.closest(p + shift, kSeatReachMm, &facing);
            if (!hit || source.on_border(hit)) continue;
            const Vec3 gap = hit.position - p - shift;
            const double r = n.dot(gap);
            if ((gap - r * n).norm() > kSeatSidewaysMm) continue;  // a lid beside it, not the eye's own surface
            const double w = geman_mcclure(r, 1.0);
            normal_matrix += w * n * n.transpose() / 0.04;
            rhs += w * n * r / 0.04;
            total += w;
        }
        if (total < 6) return shift;
        const Vec3 step = normal_matrix.ldlt().solve(rhs - shift / (kEyePriorMm * kEyePriorMm));
        shift += step;
        if (step.norm() < 1e-5) break;
    }
    return shift;
}

// No skin vertex may be deeper in the eyeball than it is on the base. What must come out takes its surroundings along,
// the lid's other sheet first of all: it would be pierced otherwise.
void keep_outside(const BaseKit& kit, const KitEye& eye, const Similarity& seat, Points& positions) {
    const Vec3 centre = seat(eye.centre);
    std::vector<Index> near;
    std::vector<double> need;
    for (Index v : kit.part("skin")->vertices) {
        const double base_distance = (kit.mesh.positions[v] - eye.centre).norm();
        if (base_distance > 1.6 * eye.radius) continue;
        const double gap = std::min(base_distance - eye.radius, 0.35);
        near.push_back(v);
        need.push_back(std::max(0.0, seat.scale * (eye.radius + gap) - (positions[v] - centre).norm()));
    }
    const auto base_height = [&](std::size_t i) { return (kit.mesh.positions[near[i]] - eye.centre).norm(); };
    const auto height = [&](std::size_t i) { return (positions[near[i]] - centre).norm(); };
    std::vector<double> push(need);
    for (std::size_t i = 0; i < near.size(); ++i) {
        if (need[i] <= 0) continue;
        const double out = height(i) + need[i];
        for (std::size_t k = 0; k < near.size(); ++k) {
            const double d2 = (kit.mesh.positions[near[k]] - kit.mesh.positions[near[i]]).squaredNorm();
            const double above = kLeastThickness * seat.scale * (base_height(k) - base_height(i));
            push[k] = std::max(
                push[k], std::min(need[i], out + above - height(k)) * std::exp(-0.5 * d2 / (kAlongMm * kAlongMm)));
        }
    }
    for (std::size_t k = 0; k < near.size(); ++k) {
        const Vec3 away = positions[near[k]] - centre;
        if (push[k] > 0 && away.norm() > 1e-6) positions[near[k]] += push[k] * away.normalized();
    }
}

void move_part(const BaseKit& kit, const KitPart& part, const Similarity& s, Points& positions) {
    for (Index v : part.vertices) positions[v] = s(kit.mesh.positions[v]);
}

Points part_points(const BaseKit& kit, const KitPart& part) {
    Points out;
    for (std::size_t i = 0; i < part.vertices.size(); i += 4) out.push_back(kit.mesh.positions[part.vertices[i]]);
    return out;
}

void follow_jaws(const BaseKit& kit, Points& positions) {
    const auto mouth = kit.curves.find("mouth_line");
    if (mouth == kit.curves.end()) return;
    const double mouth_y = mouth->second[mouth->second.size() / 2].at(kit.mesh.positions).y();
    for (const KitPart& part : kit.parts) {
        const bool upper = part.rule() == PartRule::UpperJaw, lower = part.rule() == PartRule::LowerJaw;
        if (part.name == "skin" || (!upper && !lower)) continue;
        std::vector<Index> anchors;
        std::vector<double> weights;
        // the gums' outer skin: lips slide over the teeth, so the band next to the mouth line is left out
        anchors_near(
            kit, part_points(kit, part), 14.0,
            [&](const Vec3& p) { return upper ? p.y() > mouth_y + 6 : p.y() < mouth_y - 6; }, anchors, weights);
        move_part(kit, part, anchor_fit(kit.mesh.positions, positions, anchors, weights, false), positions);
    }
}

// What a kit has besides (brows, nails, clothes) rides on the skin around it: each of its pieces as a whole where it
// is small, with the skin under each of its places where it is large.
void follow_skin(const BaseKit& kit, Points& positions) {
    std::vector<Index> piece_of;
    for (const KitPart& part : kit.parts) {
        const bool on_eye = part.rule() == PartRule::Eye && !kit.eyes.empty();
        if (part.name == "skin" || on_eye || (part.rule() != PartRule::Skin && part.rule() != PartRule::Eye)) continue;
        if (piece_of.empty()) piece_of = vertex_components(kit.mesh, nullptr);
        std::map<Index, VertexIndices> pieces;
        for (const Index v : part.vertices) pieces[piece_of[v]].push_back(v);
        for (const auto& [number, vertices] : pieces) {
            Points rest;
            for (const Index v : vertices) rest.push_back(kit.mesh.positions[v]);
            if (bounding_box(rest).size().norm() > kLargePieceMm) {
                const SurfaceTies ties(rest, nullptr, kit.mesh.positions, skin_triangles(kit), kTieReachMm);
                const Points moved = ties.moved(positions);
                for (std::size_t i = 0; i < vertices.size(); ++i) positions[vertices[i]] = moved[i];
                continue;
            }
            std::vector<Index> anchors;
            std::vector<double> weights;
            anchors_near(
                kit, rest, kRideMm, [](const Vec3&) { return true; }, anchors, weights);
            const Similarity move = anchor_fit(kit.mesh.positions, positions, anchors, weights, true);
            for (const Index v : vertices) positions[v] = move(kit.mesh.positions[v]);
        }
    }
}

// A ball with its own seat; what rides with one besides (a cornea, an iris): with the nearer.
void follow_eyes(const BaseKit& kit, const std::vector<Similarity>& seats, Points& positions) {
    const auto nearest = [&](const Vec3& p) {
        return std::min_element(kit.eyes.begin(), kit.eyes.end(), [&](const KitEye& a, const KitEye& b) {
            return (p - a.centre).norm() < (p - b.centre).norm();
        });
    };
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin" || part.rule() != PartRule::Eye || kit.eyes.empty()) continue;
        const auto ball =
            std::find_if(kit.eyes.begin(), kit.eyes.end(), [&](const KitEye& eye) { return eye.part == part.name; });
        for (const Index v : part.vertices) {
            const auto eye = ball != kit.eyes.end() ? ball : nearest(kit.mesh.positions[v]);
            positions[v] = seats[static_cast<std::size_t>(eye - kit.eyes.begin())](kit.mesh.positions[v]);
        }
    }
}

// from: a state in which lashes and lids belong together; now: skin where it is meant to be.
void carry_lashes(const BaseKit& kit, const Points& from, Points& positions) {
    VertexMask active(positions.size(), 0);
    const FaceIndices& faces = skin_faces(kit);
    std::vector<Index> lids;
    for (const auto& [name, curve] : kit.curves) {
        if (name.find("lid") == std::string::npos) continue;
        for (const SurfacePoint& p : curve)
            lids.push_back(p.vertices[static_cast<std::size_t>(std::max_element(p.weights.begin(), p.weights.end()) -
                                                               p.weights.begin())]);
    }
    for (Index v : lids) active[v] = 1;
    const SurfaceStencil stencil = make_stencil(kit.mesh, faces, active);
    const std::vector<Mat3> local = local_similarities(stencil, from, positions);
    std::vector<Index> ring_of(positions.size(), kNone);
    for (Index r = 0; r < stencil.ring_vertex.size(); ++r) ring_of[stencil.ring_vertex[r]] = r;
    std::erase_if(lids, [&](Index v) { return ring_of[v] == kNone; });  // a kit's line may leave the skin
    if (lids.empty()) return;
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin" || part.rule() != PartRule::Edge) continue;
        for (Index v : part.vertices) {
            const Vec3 p = from[v];
            Vec3 sum = Vec3::Zero();
            double total = 0;
            for (Index lid : lids) {
                const double d2 = (from[lid] - p).squaredNorm();
                const double w = 1.0 / ((d2 + 0.25) * (d2 + 0.25));
                sum += w * (positions[lid] + local[ring_of[lid]] * (p - from[lid]));
                total += w;
            }
            positions[v] = sum / total;
        }
    }
}

}  // namespace

void lashes_along(const BaseKit& kit, const Points& before, Points& now) { carry_lashes(kit, before, now); }

std::vector<Similarity> follow_parts(const BaseKit& kit, const SourceSurface* source, Points& positions) {
    const std::vector<Triangle>& triangles = skin_triangles(kit);
    VertexMask in_socket(positions.size(), 0);
    for (const auto& [name, region] : kit.regions) {
        if (!name.starts_with("socket")) continue;
        for (Index v : region) in_socket[v] = 1;
    }
    std::vector<Similarity> out;
    for (const KitEye& eye : kit.eyes) {
        const KitPart& part = *kit.part(eye.part);
        std::vector<Index> anchors;
        std::vector<double> weights;
        for (Index v : kit.part("skin")->vertices) {
            const double d = (kit.mesh.positions[v] - eye.centre).norm();
            // the socket's inside only follows itself, so it knows nothing about the eye
            if (d > 1.6 * eye.radius || in_socket[v]) continue;
            anchors.push_back(v);
            weights.push_back(1.0);
        }
        Similarity seat = anchor_fit(kit.mesh.positions, positions, anchors, weights, true);
        if (source) {
            // what could cover the eye stands this near to it
            std::vector<Triangle> around;
            for (const Triangle& t : triangles) {
                if ((kit.mesh.positions[t[0]] - eye.centre).norm() < kCoverRadii * eye.radius) around.push_back(t);
            }
            const SurfaceQuery skin(positions, around);
            seat.translation += seat_on_scan(kit, part, eye, seat, *source, skin);
        }
        keep_outside(kit, eye, seat, positions);
        out.push_back(seat);
    }
    follow_eyes(kit, out, positions);
    follow_jaws(kit, positions);
    follow_skin(kit, positions);
    carry_lashes(kit, kit.mesh.positions, positions);
    return out;
}

}  // namespace veld
