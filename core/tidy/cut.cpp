#include "core/tidy/cut.h"

#include <cmath>
#include <unordered_map>

namespace veld {
namespace {

class Cutter {
 public:
    Cutter(const Mesh& mesh, std::vector<double> height) : in_(mesh), height_(std::move(height)) {}

    Changed run() {
        Mesh& m = out_.mesh;
        m = in_;
        m.face_start.assign(1, 0);
        m.corner_vertex.clear(), m.corner_uv.clear(), m.corner_normal.clear(), m.face_group.clear(),
            m.face_material.clear();
        m.normals.clear();  // of the old corners; viewers compute them
        for (Index v = 0; v < in_.positions.size(); ++v) out_.origin.push_back(v);
        for (Index f = 0; f < in_.face_count(); ++f) face(f);
        Changed kept = keep_faces(m, FaceMask(m.face_count(), 1));
        for (Index& v : kept.origin) v = out_.origin[v];
        kept.count = in_.face_count() - m.face_count() + cut_;
        return kept;
    }
    std::size_t cut() const { return cut_; }

 private:
    struct Corner {
        Index vertex, uv;
    };
    Corner old_corner(Index c) const {
        return {in_.corner_vertex[c], in_.corner_uv.empty() ? kNone : in_.corner_uv[c]};
    }

    Corner between(Index c, Index d) {
        Index a = in_.corner_vertex[c], b = in_.corner_vertex[d];
        Index s = in_.corner_uv.empty() ? kNone : in_.corner_uv[c],
              t = in_.corner_uv.empty() ? kNone : in_.corner_uv[d];
        if (a > b) std::swap(a, b), std::swap(s, t);  // both faces at an edge compute the same numbers
        const double w = height_[a] / (height_[a] - height_[b]);
        Mesh& m = out_.mesh;
        auto [at, fresh] =
            edge_vertex_.try_emplace(std::uint64_t{a} << 32 | b, static_cast<Index>(m.positions.size()));
        if (fresh) {
            m.positions.push_back((1 - w) * in_.positions[a] + w * in_.positions[b]);
            out_.origin.push_back(w < 0.5 ? a : b);
            if (!m.colours.empty()) {
                const Colour &p = in_.colours[a], &q = in_.colours[b];
                const auto mix = [&](std::uint8_t x, std::uint8_t y) {
                    return static_cast<std::uint8_t>(std::lround((1 - w) * x + w * y));
                };
                m.colours.push_back({mix(p.r, q.r), mix(p.g, q.g), mix(p.b, q.b), mix(p.a, q.a)});
            }
        }
        Corner out{at->second, kNone};
        if (s != kNone && t != kNone) {
            auto [uv, fresh_uv] = edge_uv_.try_emplace(std::uint64_t{s} << 32 | t, static_cast<Index>(m.uvs.size()));
            if (fresh_uv) m.uvs.push_back((1 - w) * in_.uvs[s] + w * in_.uvs[t]);
            out.uv = uv->second;
        }
        return out;
    }

    void face(Index f) {
        const Index first = in_.face_start[f], last = in_.face_start[f + 1];
        bool above = false, below = false;
        for (Index c = first; c < last; ++c) {
            const double h = height_[in_.corner_vertex[c]];
            above |= h > 0, below |= h < 0;
        }
        if (!above) return;
        ring_.clear();
        for (Index c = first; c < last; ++c) {
            const Index d = c + 1 < last ? c + 1 : first;
            const double h = height_[in_.corner_vertex[c]], k = height_[in_.corner_vertex[d]];
            if (h >= 0) ring_.push_back(old_corner(c));
            if ((h > 0 && k < 0) || (h < 0 && k > 0)) ring_.push_back(between(c, d));
        }
        cut_ += below;
        if (ring_.size() < 3) return;
        Mesh& m = out_.mesh;
        for (const Corner& corner : ring_) {
            m.corner_vertex.push_back(corner.vertex);
            if (!in_.corner_uv.empty()) m.corner_uv.push_back(corner.uv);
        }
        m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
        if (!in_.face_group.empty()) m.face_group.push_back(in_.face_group[f]);
        if (!in_.face_material.empty()) m.face_material.push_back(in_.face_material[f]);
    }

    const Mesh& in_;
    std::vector<double> height_;
    std::vector<Corner> ring_;
    Changed out_;
    std::unordered_map<std::uint64_t, Index> edge_vertex_, edge_uv_;
    std::size_t cut_ = 0;
};

}  // namespace

Result<Changed> cut_by_plane(const Mesh& mesh, const Plane& plane, const Progress& progress) {
    progress.say(0, "Cutting");
    if (!(plane.normal.norm() > 0) || !plane.normal.allFinite() || !std::isfinite(plane.offset)) {
        return Error{ErrorCode::DegenerateInput, "The cutting plane has no direction. Turn it or select an axis."};
    }
    const double on = 1e-6 * bounding_box(mesh.positions).size().norm();
    std::vector<double> height;
    height.reserve(mesh.positions.size());
    bool above = false, below = false;
    for (const Vec3& p : mesh.positions) {
        const double h = plane.side(p);
        height.push_back(std::abs(h) <= on ? 0 : h);
        above |= height.back() > 0, below |= height.back() < 0;
    }
    if (!above)
        return Error{ErrorCode::DegenerateInput,
                     "The whole mesh lies behind the cutting plane; nothing would be left. Turn the plane around."};
    if (!below) {
        Changed out;
        out.mesh = mesh;
        out.said = "The plane does not touch the mesh.";
        return out;
    }
    Cutter cutter(mesh, std::move(height));
    Changed out = cutter.run();
    if (out.mesh.face_count() == 0)
        return Error{ErrorCode::DegenerateInput, "Nothing would be left in front of the cutting plane."};
    out.said =
        "Cut: " + counted(out.mesh.face_count(), "face") + " stay, " + counted(cutter.cut(), "face") + " cut through.";
    return out;
}

FaceMask faces_behind(const Mesh& mesh, const Plane& plane) {
    FaceMask out(mesh.face_count(), 1);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1] && out[f]; ++c)
            out[f] = plane.side(mesh.positions[mesh.corner_vertex[c]]) < 0;
    }
    return out;
}

}  // namespace veld
