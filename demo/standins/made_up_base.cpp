#include "demo/standins/made_up_base.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

#include "core/kit/kit_surface.h"
#include "core/mesh/edges.h"
#include "core/rig/pose.h"
#include "core/spatial/surface_query.h"
#include "core/tidy/change.h"
#include "core/tidy/resample.h"
#include "demo/standins/graded_mesh.h"
#include "demo/standins/layout_uvs.h"

namespace veld {
namespace {

using Random = std::mt19937_64;

constexpr double kHeadShare = 0.3;  // of the edges of a body
constexpr double kHandMm = 75, kWidening = 4, kStep = 1.35;

double between(Random& random, double low, double high) {
    return low + (high - low) * (static_cast<double>(random() >> 11) * 0x1.0p-53);
}

Vec3 mirrored(const Vec3& p) { return {-p.x(), p.y(), p.z()}; }

// The same on both sides: bumps at anatomical places and at their mirrored ones.
Points warped(const BaseKit& kit, double size, Random& random) {
    struct Bump {
        Vec3 centre, shift;
        double sigma;
    };
    std::vector<Bump> bumps;
    for (const auto& [name, sigma] : {std::pair{"gnathion", 38.0},
                                      {"gonion_l", 34.0},
                                      {"pronasale", 20.0},
                                      {"glabella", 30.0},
                                      {"cheek_l", 28.0},
                                      {"vertex", 60.0},
                                      {"opisthocranion", 60.0},
                                      {"tragion_l", 30.0}}) {
        const Vec3 at = kit.landmarks.at(name).at(kit.mesh.positions);
        Vec3 shift(between(random, -1, 1), between(random, -1, 1), between(random, -1, 1));
        shift *= size * between(random, 0.4, 1) / std::max(shift.norm(), 0.1);
        if (std::abs(at.x()) < 1) shift.x() = 0;
        bumps.push_back({at, shift, sigma});
        if (std::abs(at.x()) >= 1) bumps.push_back({mirrored(at), mirrored(shift), sigma});
    }
    const auto moved = [&](const Vec3& p) {
        Vec3 out = p;
        for (const Bump& b : bumps)
            out += std::exp(-0.5 * (p - b.centre).squaredNorm() / (b.sigma * b.sigma)) * b.shift;
        return out;
    };
    Points out;
    for (const Vec3& p : kit.mesh.positions) out.push_back(moved(p));
    // eyes stay round, and move as a whole
    for (const KitEye& eye : kit.eyes) {
        for (const Index v : kit.part(eye.part)->vertices)
            out[v] = kit.mesh.positions[v] + moved(eye.centre) - eye.centre;
    }
    return out;
}

// Bones longer or shorter in pairs, arms raised or lowered.
Pose another_pose(const BaseKit& kit, double arms_degrees, Random& random) {
    Pose pose = rest_pose(kit.joints);
    pose.stretch.assign(kit.joints.size(), Mat3::Identity());
    std::map<std::string, double> of_pair;
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        std::string name = kit.joints[j].name;
        const double side = name.ends_with("_l") ? 1 : name.ends_with("_r") ? -1 : 0;
        if (side != 0) name.resize(name.size() - 2);
        if (name == "upper_arm")
            pose.turns[j] = Eigen::AngleAxisd(side * arms_degrees * M_PI / 180, Vec3::UnitZ()).toRotationMatrix();
        const bool limb = name == "upper_arm" || name == "forearm" || name == "thigh" || name == "shin";
        if (!limb && !name.starts_with("spine")) continue;
        if (!of_pair.contains(name)) of_pair[name] = between(random, 0.93, 1.08);
        pose.stretch[j] *= of_pair[name];
    }
    return pose;
}

// The faces of a skin on its own left side; vertices near the middle come to lie on it.
Mesh left_half(const BaseKit& kit, const Points& shape, double lowest) {
    Mesh skin = kit.mesh;
    skin.positions = shape;
    skin.uvs.clear(), skin.corner_uv.clear(), skin.normals.clear(), skin.corner_normal.clear();
    skin.images.clear(), skin.materials.clear(), skin.face_material.clear(), skin.face_group.clear();
    FaceMask keep(skin.face_count(), 0);
    for (const Index f : skin_faces(kit)) {
        keep[f] = 1;
        for (Index c = skin.face_start[f]; c < skin.face_start[f + 1]; ++c) {
            const Index v = skin.corner_vertex[c];
            // by the kit's own middle line, which stays one in every symmetric shape
            if (kit.mesh.positions[v].x() < -1e-6 || shape[v].y() < lowest) keep[f] = 0;
        }
    }
    return keep_faces(skin, keep).mesh;
}

// Both halves as one mesh; vertices on the middle line belong to both.
Mesh whole_of(const Mesh& half, std::vector<Index>& partner) {
    constexpr double kOnMiddle = 1e-4;
    Mesh out;
    std::vector<Index> left, right;
    for (const Vec3& p : half.positions) {
        const bool middle = std::abs(p.x()) < kOnMiddle;
        left.push_back(out.vertex_count());
        out.positions.push_back(middle ? Vec3(0, p.y(), p.z()) : p);
        partner.push_back(left.back());
    }
    for (std::size_t v = 0; v < half.positions.size(); ++v) {
        if (out.positions[v].x() == 0) {
            right.push_back(left[v]);
            continue;
        }
        right.push_back(out.vertex_count());
        out.positions.push_back(mirrored(out.positions[v]));
        partner[left[v]] = right.back();
        partner.push_back(left[v]);
    }
    const auto add = [&](const std::vector<Index>& number, bool turned) {
        for (Index f = 0; f < half.face_count(); ++f) {
            const Index first = half.face_start[f], size = half.face_size(f);
            for (Index k = 0; k < size; ++k)
                out.corner_vertex.push_back(number[half.corner_vertex[first + (turned ? size - 1 - k : k)]]);
            out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
        }
    };
    add(left, false), add(right, true);
    return out;
}

// Two triangles become a quad where it is nearly flat and well formed; the best pairs first.
Mesh paired(const Mesh& triangles) {
    const EdgeLinks links = link_edges(triangles);
    std::vector<std::pair<double, Index>> edges;
    const auto previous = [&](Index c) { return 3 * (c / 3) + (c + 2) % 3; };
    const auto quad = [&](Index c) {
        const Index m = links.mate[c];
        return std::array<Index, 4>{triangles.corner_vertex[c], triangles.corner_vertex[previous(m)],
                                    triangles.corner_vertex[m], triangles.corner_vertex[previous(c)]};
    };
    for (Index c = 0; c < triangles.corner_vertex.size(); ++c) {
        if (links.mate[c] >= kManyFaces || links.mate[c] < c) continue;
        const auto q = quad(c);
        double worst = 0;
        for (std::size_t k = 0; k < 4; ++k) {
            const Vec3 a = triangles.positions[q[(k + 3) % 4]] - triangles.positions[q[k]],
                       b = triangles.positions[q[(k + 1) % 4]] - triangles.positions[q[k]];
            worst = std::max(worst, std::abs(a.normalized().dot(b.normalized())));
        }
        const double flat =
            face_normal(triangles, c / 3).normalized().dot(face_normal(triangles, links.mate[c] / 3).normalized());
        if (worst < 0.6 && flat > 0.9) edges.emplace_back(worst, c);
    }
    std::sort(edges.begin(), edges.end());
    std::vector<Index> corner(triangles.face_count(), kNone);
    for (const auto& [cost, c] : edges) {
        const Index f = c / 3, g = links.mate[c] / 3;
        if (corner[f] != kNone || corner[g] != kNone) continue;
        corner[f] = c, corner[g] = links.mate[c];
    }
    Mesh out;
    out.positions = triangles.positions;
    for (Index f = 0; f < triangles.face_count(); ++f) {
        if (corner[f] == kNone) {
            for (Index k = 0; k < 3; ++k) out.corner_vertex.push_back(triangles.corner_vertex[3 * f + k]);
        } else if (links.mate[corner[f]] / 3 > f) {
            for (const Index v : quad(corner[f])) out.corner_vertex.push_back(v);
        } else {
            continue;
        }
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

class BaseMaker {
 public:
    BaseMaker(const BaseKit& kit, const BaseOptions& options)
        : kit_(kit), o_(options), random_(7919 * options.seed + 13) {}

    MadeUpBase run() {
        shape();
        skin_mesh();
        kit_face_.assign(out_.mesh.face_count(), kNone);
        if (o_.parts) add_parts();
        if (o_.uvs) layout_uvs(kit_, shape_, kit_face_, out_.mesh);
        truth();
        shuffle();
        into_file_frame();
        return std::move(out_);
    }

 private:
    void shape() {
        const Points body = warped(kit_, 11, random_);
        if (!o_.figure) {
            shape_ = body;
            out_.joints = kit_.joints;
            return;
        }
        const Pose pose = another_pose(kit_, o_.arms_degrees, random_);
        shape_ = skin(body, kit_.joints, kit_.weights, pose);
        out_.joints = kit_.joints;
        const PosedJoints posed = pose_joints(kit_.joints, pose);
        for (std::size_t j = 0; j < out_.joints.size(); ++j) out_.joints[j].position = posed.place[j];
    }

    void skin_mesh() {
        double neck = 0;
        for (const Index v : kit_.neck_ring) neck += shape_[v].y() / static_cast<double>(kit_.neck_ring.size());
        const Mesh half = left_half(kit_, shape_, o_.figure ? -1e9 : neck - 70);
        Mesh layout = o_.graded ? graded(half) : even(half);
        if (o_.quads) layout = paired(layout);
        Mesh whole;
        if (o_.symmetric) {
            whole = whole_of(layout, out_.partner);
        } else {
            std::vector<Index> none;
            whole = whole_of(layout, none);
            auto other = remesh_evenly(whole, 1.15 * o_.edge_mm);
            if (other) whole = std::move(other->mesh);
            out_.partner.assign(whole.positions.size(), kNone);
        }
        out_.mesh.positions = whole.positions;
        out_.mesh.corner_vertex = whole.corner_vertex;
        out_.mesh.face_start = whole.face_start;
        out_.mesh.face_group.assign(whole.face_count(), 0);
        out_.mesh.group_names = {"figure_surface"};
        out_.part_of.assign(whole.positions.size(), "skin");
    }

    Mesh even(const Mesh& half) const {
        auto fresh = remesh_evenly(half, o_.edge_mm);
        return fresh ? std::move(fresh->mesh) : half;
    }

    Mesh graded(const Mesh& half) const {
        struct Feature {
            Vec3 middle;
            double reach, edge;
        };
        std::vector<Feature> features;
        for (const auto& [name, reach, edge] : {std::tuple{"pupil_l", 22.0, 2.0},
                                                {"stomion", 20.0, 2.2},
                                                {"cheilion_l", 16.0, 2.2},
                                                {"pronasale", 24.0, 2.6},
                                                {"tragion_l", 34.0, 3.6},
                                                {"otobasion_superius_l", 30.0, 3.6}}) {
            const auto at = kit_.landmarks.find(name);
            if (at != kit_.landmarks.end()) features.push_back({at->second.at(shape_), reach, edge});
        }
        double neck = 0;
        for (const Index v : kit_.neck_ring) neck += shape_[v].y() / static_cast<double>(kit_.neck_ring.size());
        return graded_mesh(half, [&](const Vec3& p) {
            double edge = p.y() > neck || hand(p) ? kHeadShare * o_.edge_mm : o_.edge_mm;
            for (const Feature& f : features) {
                const double beyond = std::max(0.0, (p - f.middle).norm() / f.reach - 1);
                edge = std::min(edge, f.edge * (1 + kWidening * beyond));
            }
            // in steps: each stretch of one length is meshed by itself
            return std::pow(kStep, std::round(std::log(edge) / std::log(kStep)));
        });
    }

    // Hands and feet have as small forms as a head.
    bool hand(const Vec3& p) const {
        for (const char* name : {"hand_l", "middle_1_l", "middle_3_l", "thumb_2_l", "foot_l", "toe_l"}) {
            for (std::size_t j = 0; j < out_.joints.size(); ++j) {
                if (out_.joints[j].name == name && (p - out_.joints[j].position).norm() < kHandMm) return true;
            }
        }
        return false;
    }

    // Balls of their own for the eyes; the rest has the kit's pieces.
    void add_parts() {
        for (const KitPart& part : kit_.parts) {
            if (part.name == "skin") continue;
            const Index first = out_.mesh.vertex_count();
            out_.mesh.group_names.push_back("piece_" + std::to_string(out_.mesh.group_names.size()));
            const Index group = static_cast<Index>(out_.mesh.group_names.size() - 1);
            std::map<Index, Index> number;
            for (const Index v : part.vertices) {
                number[v] = first + static_cast<Index>(number.size());
                out_.mesh.positions.push_back(shape_[v]);
            }
            for (const Index v : part.vertices) {
                const Index w = kit_.mirror[v];
                partner_of_kit_[number[v]] = w;
                kit_number_[v] = number[v];
            }
            for (Index f = part.first_face; f < part.first_face + part.face_count; ++f) {
                for (Index c = kit_.mesh.face_start[f]; c < kit_.mesh.face_start[f + 1]; ++c)
                    out_.mesh.corner_vertex.push_back(number[kit_.mesh.corner_vertex[c]]);
                out_.mesh.face_start.push_back(static_cast<Index>(out_.mesh.corner_vertex.size()));
                out_.mesh.face_group.push_back(group);
                kit_face_.push_back(f);
            }
            out_.part_of.resize(out_.mesh.positions.size(), part.name);
            out_.partner.resize(out_.mesh.positions.size(), kNone);
        }
        for (const auto& [v, w] : partner_of_kit_) out_.partner[v] = kit_number_.at(w);
    }

    void truth() {
        for (const auto& [name, place] : kit_.landmarks) out_.landmarks[name] = place.at(shape_);
        const std::vector<Triangle>& triangles = skin_triangles(kit_);
        const SurfaceQuery query(shape_, triangles);
        const Points normals = vertex_normals(out_.mesh.positions, triangulate(out_.mesh).triangles);
        std::vector<SurfaceHit> hits(out_.mesh.positions.size());
        for (std::size_t v = 0; v < hits.size(); ++v) {
            const FacingFilter facing{normals[v], 0.0};
            if (out_.part_of[v] == "skin") hits[v] = query.closest(out_.mesh.positions[v], 30, &facing);
        }
        weights_and_moves(triangles, hits);
        out_.on_kit.assign(hits.size(), Vec3::Constant(std::nan("")));
        for (std::size_t v = 0; v < hits.size(); ++v) {
            if (!hits[v]) continue;
            out_.on_kit[v].setZero();
            for (std::size_t k = 0; k < 3; ++k)
                out_.on_kit[v] += hits[v].barycentric[k] * kit_.mesh.positions[triangles[hits[v].triangle][k]];
        }
        for (const auto& [name, vertices] : kit_.regions) {
            std::vector<double> inside(shape_.size(), 0);
            for (const Index v : vertices) inside[v] = 1;
            VertexMask& region = out_.regions[name];
            region.assign(hits.size(), 0);
            for (std::size_t v = 0; v < hits.size(); ++v) {
                if (!hits[v]) continue;
                double share = 0;
                for (std::size_t k = 0; k < 3; ++k)
                    share += hits[v].barycentric[k] * inside[triangles[hits[v].triangle][k]];
                region[v] = share > 0.5;
            }
        }
    }

    void weights_and_moves(const std::vector<Triangle>& triangles, const std::vector<SurfaceHit>& hits) {
        std::map<Index, Index> on_kit;  // of parts
        for (const auto& [v, mine] : kit_number_) on_kit[mine] = v;
        out_.weights.joint.resize(hits.size());
        out_.weights.weight.resize(hits.size());
        for (const auto& [name, shape] : kit_.expressions) out_.moves[name].assign(hits.size(), Vec3::Zero());
        for (Index v = 0; v < hits.size(); ++v) {
            std::map<std::uint16_t, double> all;
            const auto take = [&](Index w, double share) {
                for (std::size_t k = 0; k < 4; ++k) all[kit_.weights.joint[w][k]] += share * kit_.weights.weight[w][k];
                for (const auto& [name, shape] : kit_.expressions)
                    out_.moves[name][v] += share * (shape[w] - kit_.mesh.positions[w]);
            };
            if (on_kit.contains(v)) take(on_kit[v], 1);
            for (std::size_t k = 0; hits[v] && k < 3; ++k)
                take(triangles[hits[v].triangle][k], hits[v].barycentric[k]);
            std::vector<std::pair<double, std::uint16_t>> sorted;
            for (const auto& [joint, weight] : all) sorted.emplace_back(weight, joint);
            std::sort(sorted.rbegin(), sorted.rend());
            double sum = 0;
            for (std::size_t k = 0; k < std::min<std::size_t>(4, sorted.size()); ++k) sum += sorted[k].first;
            if (!(sum > 0)) out_.weights.weight[v][0] = 1;  // inside a mouth, far from the kit's own
            for (std::size_t k = 0; sum > 0 && k < std::min<std::size_t>(4, sorted.size()); ++k)
                out_.weights.joint[v][k] = sorted[k].second, out_.weights.weight[v][k] = sorted[k].first / sum;
        }
    }

    // Another order of vertices.
    void shuffle() {
        std::vector<Index> order(out_.mesh.positions.size()), at(order.size());
        std::iota(order.begin(), order.end(), 0u);
        for (std::size_t i = order.size(); i > 1; --i) std::swap(order[i - 1], order[random_() % i]);
        for (Index i = 0; i < order.size(); ++i) at[order[i]] = i;
        const auto moved = [&](auto& values) {
            auto before = values;
            for (std::size_t i = 0; i < order.size(); ++i) values[i] = before[order[i]];
        };
        moved(out_.mesh.positions), moved(out_.part_of), moved(out_.partner), moved(out_.on_kit);
        moved(out_.weights.joint), moved(out_.weights.weight);
        for (auto& [name, deltas] : out_.moves) moved(deltas);
        for (auto& [name, region] : out_.regions) moved(region);
        for (Index& v : out_.mesh.corner_vertex) v = at[v];
        for (Index& v : out_.partner) {
            if (v != kNone) v = at[v];
        }
    }

    void into_file_frame() {
        out_.from_mm.scale = 1 / millimetres(o_.unit);
        out_.from_mm.rotation = rotation_to_y_up(o_.up).transpose();
        for (Vec3& p : out_.mesh.positions) p = out_.from_mm(p);
    }

    const BaseKit& kit_;
    const BaseOptions& o_;
    Random random_;
    Points shape_;  // of the kit's vertices: the made-up figure, mm
    std::map<Index, Index> partner_of_kit_, kit_number_;
    std::vector<Index> kit_face_;  // per face of the mesh, the kit's own that it is; kNone: none
    MadeUpBase out_;
};

}  // namespace

MadeUpBase make_base(const BaseKit& kit, const BaseOptions& options) { return BaseMaker(kit, options).run(); }

}  // namespace veld
