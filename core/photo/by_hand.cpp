#include "core/photo/by_hand.h"

#include <algorithm>
#include <cmath>

#include "core/base/smoothstep.h"
#include "core/fit/follow.h"
#include "core/photo/seen.h"
#include "core/spatial/surface_query.h"

namespace veld {

using Eigen::MatrixXd;
using Eigen::VectorXd;

const char* hand_move_name(HandMove move) {
    switch (move) {
        case HandMove::Wider:
            return "wider";
        case HandMove::Taller:
            return "taller";
        case HandMove::Forward:
            return "forward";
        case HandMove::Up:
            return "up";
        case HandMove::Tip:
            return "tip";
    }
    return "";
}

std::optional<HandMove> hand_move_from_name(const std::string& name) {
    for (const HandMove m : kHandMoves) {
        if (name == hand_move_name(m)) return m;
    }
    return {};
}

HandSliders::HandSliders(const BaseKit& kit, const ShapeSpace& space, const BaseRegions& regions)
    : kit_(kit), space_(space), regions_(regions) {
    for (std::size_t r = 0; r < regions.names.size(); ++r) {
        double most = 0;
        for (const Index v : space.vertex) most = std::max(most, static_cast<double>(regions.weight[r][v]));
        if (most > 0.5) names_.push_back(regions.names[r]);
    }
}

Points HandSliders::unit(const std::string& region, HandMove move) const {
    const auto r = static_cast<std::size_t>(std::find(regions_.names.begin(), regions_.names.end(), region) -
                                            regions_.names.begin());
    Points out(kit_.mesh.positions.size(), Vec3::Zero());
    if (r >= regions_.names.size()) return out;
    const std::vector<float>& weight = regions_.weight[r];
    // a region on both sides (eyes, ears) is mirrored, not stretched: its middle is that of one side
    Vec3 middle = Vec3::Zero();
    double total = 0, span_x = 0, span_y = 0;
    for (const Index v : space_.vertex) middle += weight[v] * kit_.mesh.positions[v], total += weight[v];
    if (total <= 0) return out;
    middle /= total;
    for (const Index v : space_.vertex) {
        const Vec3 d = kit_.mesh.positions[v] - middle;
        span_x += weight[v] * d.x() * d.x(), span_y += weight[v] * d.y() * d.y();
    }
    span_x = std::sqrt(span_x / total), span_y = std::sqrt(span_y / total);
    const auto field = [&](Index v) -> Vec3 {
        const Vec3 d = kit_.mesh.positions[v] - middle;
        switch (move) {
            case HandMove::Wider:
                return {d.x() / std::max(span_x, 1.0), 0, 0};
            case HandMove::Taller:
                return {0, d.y() / std::max(span_y, 1.0), 0};
            case HandMove::Forward:
                return {0, 0, 1};
            case HandMove::Up:
                return {0, 1, 0};
            case HandMove::Tip:
                return {0, 0, -d.y() / std::max(span_y, 1.0)};
        }
        return Vec3::Zero();
    };
    VectorXd z = VectorXd::Zero(space_.count());
    for (const Index v : space_.vertex) {
        if (weight[v] > 0.01f) z += weight[v] * (space_.rows(v).transpose() * field(v));
    }
    const Points moved = space_.shape(kit_.mesh.positions, z);
    double along = 0, size = 0;
    for (const Index v : space_.vertex) {
        out[v] = weight[v] * (moved[v] - kit_.mesh.positions[v]);
        along += weight[v] * out[v].dot(field(v)), size += weight[v] * field(v).norm();
    }
    if (!(along > 0)) return out;
    for (Vec3& d : out) d *= size / along;
    return out;
}

Points HandSliders::delta(const HandShape& hand, const Points& shape,
                          const std::vector<std::optional<PhotoCamera>>& cameras) const {
    Points out(shape.size(), Vec3::Zero());
    for (const HandSetting& s : hand.settings) {
        if (s.mm == 0) continue;
        const auto key = std::pair(s.region, s.move);
        auto at = made_.find(key);
        if (at == made_.end()) at = made_.emplace(key, unit(s.region, s.move)).first;
        for (std::size_t v = 0; v < out.size(); ++v) out[v] += s.mm * at->second[v];
    }
    for (const int photo : hand.keeps) {
        if (photo >= 0 && photo < static_cast<int>(cameras.size()) && cameras[static_cast<std::size_t>(photo)])
            keep_picture(kit_, shape, *cameras[static_cast<std::size_t>(photo)], out);
    }
    return out;
}

void keep_picture(const BaseKit& kit, const Points& shape, const PhotoCamera& camera, Points& delta) {
    const Points normals = vertex_normals(shape, kit.triangulation.triangles);
    const auto seen = visible_in(kit, shape, {camera});
    for (std::size_t v = 0; v < delta.size(); ++v) {
        if (!seen[v] || delta[v].isZero()) continue;
        const Vec3 towards = camera.towards(shape[v]);
        // full from 60 degrees on, none where visibility ends
        const double w = smoothstep((normals[v].dot(-towards) - 0.342) / 0.158);
        delta[v] = (1 - w) * delta[v] + w * delta[v].dot(towards) * towards;
    }
}

PinDrag::PinDrag(const PhotoHeadInput& input, const PhotoHead& fit)
    : space_(*input.space), base_(input.kit->mesh.positions), z_(fit.z) {
    MatrixXd h =
        input.settings.strength * input.settings.strength * MatrixXd::Identity(space_.count(), space_.count());
    const auto points = input.base_points.empty() ? input.kit->landmarks : input.base_points;
    const Points shape = space_.shape(base_, z_);
    for (std::size_t i = 0; i < input.photos.size() && i < fit.photos.size(); ++i) {
        if (!fit.photos[i].camera) continue;
        const PhotoCamera& camera = *fit.photos[i].camera;
        const auto see = [&](const SurfacePoint& place, double sigma_mm) {
            Eigen::Matrix<double, 3, Eigen::Dynamic> rows =
                Eigen::Matrix<double, 3, Eigen::Dynamic>::Zero(3, space_.count());
            for (std::size_t k = 0; k < 3; ++k) {
                if (place.weights[k] != 0) rows += place.weights[k] * space_.rows(place.vertices[k]);
            }
            const Vec3 towards = camera.towards(place.at(shape));
            const Mat3 across = Mat3::Identity() - towards * towards.transpose();
            h.noalias() += rows.transpose() * across * rows / (sigma_mm * sigma_mm);
        };
        for (const auto& [name, pixel] : input.photos[i].marks.points) {
            if (const auto at = points.find(name); at != points.end()) see(at->second, 2.0);
        }
    }
    information_.compute(h);
}

VectorXd PinDrag::pull(const SurfacePoint& place, const PhotoCamera& camera, const Vec2& pixel) const {
    Eigen::Matrix<double, 3, Eigen::Dynamic> rows = Eigen::Matrix<double, 3, Eigen::Dynamic>::Zero(3, space_.count());
    for (std::size_t k = 0; k < 3; ++k) {
        if (place.weights[k] != 0) rows += place.weights[k] * space_.rows(place.vertices[k]);
    }
    VectorXd z = z_;
    for (int round = 0; round < 3; ++round) {  // a pinhole is not linear; three steps meet the pixel
        const Vec3 at = place.at(base_) + rows * z;
        const PixelRay ray = ray_through(camera, pixel);
        const Vec3 off = at - ray.origin, want = off.dot(ray.direction) * ray.direction - off;  // to the ray
        Eigen::Matrix<double, 2, 3> across;
        across.row(0) = ray.direction.unitOrthogonal();
        across.row(1) = ray.direction.cross(Vec3(across.row(0)));
        const MatrixXd j = across * rows;
        const MatrixXd hj = information_.solve(j.transpose());
        const Eigen::Matrix2d s = j * hj + 1e-3 * Eigen::Matrix2d::Identity();
        z += hj * s.ldlt().solve(across * want);
    }
    return z;
}

Points blend_people(const BaseKit& kit, const Points& a, const Points& b, double share) {
    Points out(a.size());
    for (std::size_t v = 0; v < a.size(); ++v) out[v] = (1 - share) * a[v] + share * b[v];
    if (share > 0 && share < 1) follow_parts(kit, nullptr, out);
    return out;
}

}  // namespace veld
