#include "core/tidy/selection.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/tidy/face_colours.h"
#include "core/tidy/repair.h"
#include "core/tidy/suggest.h"

namespace veld {
namespace {

using RowMatrix4 = Eigen::Matrix<double, 4, 4, Eigen::RowMajor>;

Eigen::Matrix4d clip_from_mesh(const std::array<double, 16>& view, const Similarity& to_mm) {
    Eigen::Matrix4d model = Eigen::Matrix4d::Identity();
    model.topLeftCorner<3, 3>() = to_mm.scale * to_mm.rotation;
    model.topRightCorner<3, 1>() = to_mm.translation;
    return Eigen::Map<const RowMatrix4>(view.data()) * model;
}

// Even-odd rule, edges crossed by a ray to the right.
bool inside(const std::vector<Vec2>& outline, const Vec2& p) {
    bool in = false;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const Vec2 &a = outline[i], &b = outline[j];
        if ((a.y() > p.y()) != (b.y() > p.y()) && p.x() < (b.x() - a.x()) * (p.y() - a.y()) / (b.y() - a.y()) + a.x())
            in = !in;
    }
    return in;
}

template <class Test>
FaceMask each_face(const Mesh& mesh, Test test) {
    FaceMask out(mesh.face_count(), 0);
    tbb::parallel_for(tbb::blocked_range<Index>(0, mesh.face_count(), 8192), [&](const auto& range) {
        for (Index f = range.begin(); f < range.end(); ++f) out[f] = test(f);
    });
    return out;
}

FaceMask in_polygon(const Mesh& mesh, const Similarity& to_mm, const SelectStep& step) {
    if (step.outline.size() < 3) return FaceMask(mesh.face_count(), 0);
    const Eigen::Matrix4d clip = clip_from_mesh(step.view, to_mm);
    Vec2 low = step.outline[0], high = low;
    for (const Vec2& p : step.outline) low = low.cwiseMin(p), high = high.cwiseMax(p);
    FaceMask out = each_face(mesh, [&](Index f) -> std::uint8_t {
        const Eigen::Vector4d c = clip * face_centre(mesh, f).homogeneous();
        if (c.w() <= 0) return 0;
        const Vec2 p = c.head<2>() / c.w();
        if ((p.array() < low.array()).any() || (p.array() > high.array()).any()) return 0;
        return inside(step.outline, p);
    });
    if (!step.front_only) return out;
    const FaceMask seen = seen_faces(mesh, to_mm, step.view);
    for (std::size_t f = 0; f < out.size(); ++f) out[f] &= seen[f];
    return out;
}

double distance_to_segment(const Vec3& p, const Vec3& a, const Vec3& b) {
    const Vec3 d = b - a;
    const double length = d.squaredNorm();
    const double t = length > 0 ? std::clamp((p - a).dot(d) / length, 0.0, 1.0) : 0;
    return (a + t * d - p).norm();
}

FaceMask under_brush(const Mesh& mesh, const Similarity& to_mm, const SelectStep& step) {
    if (step.path.empty()) return FaceMask(mesh.face_count(), 0);
    // the path in mesh coordinates, so that only few faces are moved
    const Similarity back = to_mm.inverse();
    Points path;
    Box box;
    for (const Vec3& p : step.path) path.push_back(back(p)), box.add(path.back());
    const double radius = step.radius / to_mm.scale;
    box.low.array() -= radius, box.high.array() += radius;
    const Vec3 eye = to_mm.rotation.transpose() * step.towards;
    return each_face(mesh, [&](Index f) -> std::uint8_t {
        const Vec3 c = face_centre(mesh, f);
        if ((c.array() < box.low.array()).any() || (c.array() > box.high.array()).any()) return 0;
        if (step.front_only && face_normal(mesh, f).dot(eye) < 0) return 0;
        for (std::size_t i = 0; i < path.size(); ++i) {
            if (distance_to_segment(c, path[i > 0 ? i - 1 : 0], path[i]) <= radius) return 1;
        }
        return 0;
    });
}

Index nearest_face(const Mesh& mesh, const Vec3& p) {
    Index best = kNone;
    double nearest = std::numeric_limits<double>::infinity();
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const double d = (face_centre(mesh, f) - p).squaredNorm();
        if (d < nearest) nearest = d, best = f;
    }
    return best;
}

FaceMask spread_by_angle(const Mesh& mesh, Index seed, double degrees) {
    FaceMask out(mesh.face_count(), 0);
    if (seed == kNone) return out;
    const EdgeLinks links = link_edges(mesh, same_place(mesh.positions));
    const double least = std::cos(degrees * M_PI / 180);
    std::vector<Index> queue{seed};
    out[seed] = 1;
    while (!queue.empty()) {
        const Index f = queue.back();
        queue.pop_back();
        const Vec3 n = face_normal(mesh, f).normalized();
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            if (links.mate[c] >= kManyFaces) continue;
            const Index g = links.corner_face[links.mate[c]];
            if (out[g] || n.dot(face_normal(mesh, g).normalized()) < least) continue;
            out[g] = 1;
            queue.push_back(g);
        }
    }
    return out;
}

// One ring more, or (on the complement) one ring less.
void grow(const Mesh& mesh, const std::vector<Index>& place, FaceMask& faces, std::uint8_t value) {
    VertexMask touched(mesh.positions.size(), 0);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (faces[f] != value) continue;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) touched[place[mesh.corner_vertex[c]]] = 1;
    }
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1] && faces[f] != value; ++c) {
            if (touched[place[mesh.corner_vertex[c]]]) faces[f] = value;
        }
    }
}

FaceMask selected_by(const Mesh& mesh, const Similarity& to_mm, const FaceMask& before, const SelectStep& step,
                     const BaseKit* kit) {
    const auto seed = [&] { return nearest_face(mesh, to_mm.inverse()(step.place)); };
    switch (step.kind) {
        case SelectKind::All:
            return FaceMask(mesh.face_count(), 1);
        case SelectKind::None:
            return FaceMask(mesh.face_count(), 0);
        case SelectKind::Invert: {
            FaceMask out = before;
            for (std::uint8_t& b : out) b = !b;
            return out;
        }
        case SelectKind::Polygon:
            return in_polygon(mesh, to_mm, step);
        case SelectKind::Brush:
            return under_brush(mesh, to_mm, step);
        case SelectKind::Angle:
            return spread_by_angle(mesh, seed(), step.degrees);
        case SelectKind::Connected: {
            const Index f = seed();
            if (f == kNone) return FaceMask(mesh.face_count(), 0);
            const std::vector<Index> piece = face_components(mesh, same_place(mesh.positions), nullptr);
            return each_face(mesh, [&](Index g) -> std::uint8_t { return piece[g] == piece[f]; });
        }
        case SelectKind::Grow:
        case SelectKind::Shrink: {
            FaceMask out = before;
            const std::vector<Index> place = same_place(mesh.positions);
            for (int i = 0; i < step.rings; ++i) grow(mesh, place, out, step.kind == SelectKind::Grow);
            return out;
        }
        case SelectKind::Colour:
            return faces_of_colour(mesh, step.colour, step.tolerance);
        case SelectKind::Components:
            return small_components(mesh, {false, step.share, 0});
        case SelectKind::Slab:
            return each_face(mesh, [&](Index f) -> std::uint8_t {
                const double y = to_mm(face_centre(mesh, f)).y();
                return y >= step.place.y() && y <= step.place.y() + step.radius;
            });
        case SelectKind::Suggest:
            return kit ? suggest_ignored(mesh, to_mm, *kit) : FaceMask(mesh.face_count(), 0);
    }
    return before;
}

}  // namespace

FaceMask apply_select_step(const Mesh& mesh, const Similarity& to_mm, const FaceMask& before, const SelectStep& step,
                           const BaseKit* kit) {
    FaceMask start = before.size() == mesh.face_count() ? before : FaceMask(mesh.face_count(), 0);
    FaceMask now = selected_by(mesh, to_mm, start, step, kit);
    const bool whole =
        step.kind == SelectKind::Invert || step.kind == SelectKind::Grow || step.kind == SelectKind::Shrink;
    if (whole || step.combine == Combine::Replace) return now;
    for (std::size_t f = 0; f < now.size(); ++f)
        start[f] = step.combine == Combine::Add ? start[f] | now[f] : start[f] & !now[f];
    return start;
}

FaceMask select_faces(const Mesh& mesh, const Similarity& to_mm, const std::vector<SelectStep>& steps,
                      const BaseKit* kit, const Progress& progress) {
    FaceMask out(mesh.face_count(), 0);
    for (const SelectStep& step : steps) {
        if (progress.is_cancelled()) return {};
        out = apply_select_step(mesh, to_mm, out, step, kit);
    }
    return out;
}

namespace {

constexpr int kSide = 1024;  // of the depth image, pixels

// A vertex in the depth image: pixels, and how deep; -infinity: behind the camera.
struct Spot {
    float x, y, z;
};

std::vector<Spot> spots_of(const Mesh& mesh, const Eigen::Matrix4d& clip) {
    std::vector<Spot> spots(mesh.positions.size());
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, spots.size(), 8192), [&](const auto& range) {
        for (std::size_t v = range.begin(); v < range.end(); ++v) {
            const Eigen::Vector4d c = clip * mesh.positions[v].homogeneous();
            const double w = c.w() > 1e-9 ? c.w() : -1;
            spots[v] = {static_cast<float>((c.x() / w * 0.5 + 0.5) * kSide),
                        static_cast<float>((c.y() / w * 0.5 + 0.5) * kSide),
                        w < 0 ? -std::numeric_limits<float>::infinity() : static_cast<float>(c.z() / w)};
        }
    });
    return spots;
}

// Calls visit(x, y, depth) for every pixel that the triangle covers.
template <class Visit>
void rasterise(const Spot& a, const Spot& b, const Spot& c, Visit visit) {
    if (std::isinf(a.z) || std::isinf(b.z) || std::isinf(c.z)) return;
    const float area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
    const int x0 = std::max(0, static_cast<int>(std::floor(std::min({a.x, b.x, c.x})))),
              x1 = std::min(kSide - 1, static_cast<int>(std::ceil(std::max({a.x, b.x, c.x}))));
    const int y0 = std::max(0, static_cast<int>(std::floor(std::min({a.y, b.y, c.y})))),
              y1 = std::min(kSide - 1, static_cast<int>(std::ceil(std::max({a.y, b.y, c.y}))));
    for (int y = y0; y <= y1; ++y) {
        for (int x = x0; x <= x1; ++x) {
            const float px = x + 0.5f, py = y + 0.5f;
            float u = area == 0 ? 0.33f : ((b.x - px) * (c.y - py) - (c.x - px) * (b.y - py)) / area;
            float v = area == 0 ? 0.33f : ((c.x - px) * (a.y - py) - (a.x - px) * (c.y - py)) / area;
            if (u < -1e-4f || v < -1e-4f || u + v > 1.0001f) continue;
            visit(x, y, u * a.z + v * b.z + (1 - u - v) * c.z);
        }
    }
}

std::size_t pixel_at(int x, int y) { return static_cast<std::size_t>(y) * kSide + static_cast<std::size_t>(x); }

// How much deeper than the depth image a face's middle may lie and still be seen: what one pixel's step along the
// surface may change, from the mesh's own size.
double depth_slack(const Mesh& mesh, const Eigen::Matrix4d& clip) {
    const Vec3 ahead_axis = clip.row(3).head<3>();
    const Box box = bounding_box(mesh.positions);
    const Eigen::Vector4d near_point = clip * box.centre().homogeneous();
    const Vec3 ahead = box.centre() + 0.004 * box.size().norm() * ahead_axis.normalized();
    const Eigen::Vector4d far_point = clip * ahead.homogeneous();
    const double slack = std::abs(far_point.z() / far_point.w() - near_point.z() / near_point.w());
    if (std::isfinite(slack) && ahead_axis.norm() >= 1e-12) return slack;
    const Vec3 axis = clip.row(2).head<3>();
    return 0.004 * box.size().norm() * axis.norm();
}

}  // namespace

FaceMask seen_faces(const Mesh& mesh, const Similarity& to_mm, const std::array<double, 16>& view) {
    const Eigen::Matrix4d clip = clip_from_mesh(view, to_mm);
    // distance along the view, in mm where the lens is a lens; the slack covers a face's own slope
    std::vector<float> depth(kSide * kSide, std::numeric_limits<float>::infinity());
    const std::vector<Spot> spots = spots_of(mesh, clip);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index first = mesh.face_start[f];
        for (Index k = first + 1; k + 1 < mesh.face_start[f + 1]; ++k) {
            rasterise(spots[mesh.corner_vertex[first]], spots[mesh.corner_vertex[k]], spots[mesh.corner_vertex[k + 1]],
                      [&](int x, int y, float z) {
                          float& d = depth[pixel_at(x, y)];
                          d = std::min(d, z);
                      });
        }
    }
    const auto slack = static_cast<float>(depth_slack(mesh, clip));
    return each_face(mesh, [&](Index f) -> std::uint8_t {
        float x = 0, y = 0, z = 0;
        const float n = static_cast<float>(mesh.face_size(f));
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            const Spot& s = spots[mesh.corner_vertex[c]];
            x += s.x / n, y += s.y / n, z += s.z / n;
        }
        if (!std::isfinite(z) || x < 0 || y < 0 || x >= kSide || y >= kSide) return 0;
        return z <= depth[pixel_at(static_cast<int>(x), static_cast<int>(y))] + slack;
    });
}

std::vector<double> selection_weights(const Mesh& mesh, const Similarity& to_mm, const std::vector<SelectStep>& steps,
                                      const FaceMask& faces, int rings) {
    std::vector<double> weight(mesh.positions.size(), steps.empty() ? 1.0 : 0.0);
    if (steps.empty()) return weight;
    const bool brushed = std::all_of(steps.begin(), steps.end(), [](const SelectStep& s) {
        return s.kind == SelectKind::Brush && s.combine != Combine::Remove;
    });
    const VertexMask inside_of = vertices_of(mesh, faces);
    if (brushed) {
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, weight.size(), 4096), [&](const auto& range) {
            for (std::size_t v = range.begin(); v < range.end(); ++v) {
                if (!inside_of[v]) continue;
                const Vec3 p = to_mm(mesh.positions[v]);
                for (const SelectStep& s : steps) {
                    for (std::size_t i = 0; i < s.path.size(); ++i) {
                        const double t =
                            distance_to_segment(p, s.path[i > 0 ? i - 1 : 0], s.path[i]) / std::max(s.radius, 1e-9);
                        const double push = s.pressure.size() == s.path.size() ? s.pressure[i] : 1;
                        // smooth bell, flat in the middle and at the rim
                        if (t < 1) weight[v] = std::max(weight[v], push * (1 - t * t) * (1 - t * t));
                    }
                }
            }
        });
        return weight;
    }
    // rings from the rim inwards
    const std::vector<Index> place = same_place(mesh.positions);
    FaceMask core = faces;
    const double step = 1.0 / (rings + 1);
    for (int r = 0; r <= rings; ++r) {
        const VertexMask now = vertices_of(mesh, core);
        VertexMask rim(mesh.positions.size(), 0);
        for (Index f = 0; f < mesh.face_count(); ++f) {
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1] && !core[f]; ++c)
                rim[place[mesh.corner_vertex[c]]] = 1;
        }
        for (std::size_t v = 0; v < weight.size(); ++v) {
            if (now[v] && !rim[place[v]]) weight[v] = step * (r + 1);
        }
        grow(mesh, place, core, 0);
    }
    return weight;
}

VertexMask vertices_of(const Mesh& mesh, const FaceMask& faces) {
    VertexMask out(mesh.positions.size(), 0);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1] && faces[f]; ++c) out[mesh.corner_vertex[c]] = 1;
    }
    return out;
}

std::size_t count_selected(const FaceMask& mask) {
    return static_cast<std::size_t>(std::count(mask.begin(), mask.end(), 1));
}

}  // namespace veld
