#include "core/kit_making/carry_shape.h"

#include <Eigen/SVD>

#include "core/fit/meeting.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/spatial/surface_ties.h"

namespace veld {
namespace {

constexpr double kRideReachMm = 80;  // of a part from the skin that it rides on

SimilarityOptions rigidly() {
    SimilarityOptions out;
    out.outlier_mm = 0;
    out.allow_scale = false;
    return out;
}

// Turn and size of the model's skin around each vertex between its own shape and how it was laid on
// [polar factor of the neighbourhood's linear map: Sorkine & Alexa 2007].
std::vector<Mat3> local_turns(const BaseKit& model, const Points& laid) {
    const Adjacency& ways = kit_neighbours(model);
    std::vector<Mat3> out(laid.size(), Mat3::Identity());
    for (Index v = 0; v < laid.size(); ++v) {
        Mat3 covariance = Mat3::Zero();
        double before = 0, after = 0;
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            const Vec3 a = model.mesh.positions[*n] - model.mesh.positions[v], b = laid[*n] - laid[v];
            covariance += b * a.transpose();
            before += a.squaredNorm(), after += b.squaredNorm();
        }
        if (!(before > 0)) continue;
        const Eigen::JacobiSVD<Mat3> svd(covariance, Eigen::ComputeFullU | Eigen::ComputeFullV);
        Mat3 sign = Mat3::Identity();
        if ((svd.matrixU() * svd.matrixV().transpose()).determinant() < 0) sign(2, 2) = -1;
        out[v] = std::sqrt(after / before) * svd.matrixU() * sign * svd.matrixV().transpose();
    }
    return out;
}

}  // namespace

ShapeCarrier::ShapeCarrier(const BaseKit& model, const LaidModel& laid, const std::vector<ModelPlace>& places,
                           const BaseKit& base)
    : model_(model), laid_(laid), places_(places), base_(base), turns_(local_turns(model, laid.positions)) {}

// The model as it lies on the base, in the shape.
Points ShapeCarrier::on_laid(const Points& shape, bool meet) const {
    Points out = laid_.positions;
    for (Index v = 0; v < out.size(); ++v) out[v] += turned(v, shape[v] - model_.mesh.positions[v]);
    if (!meet) return out;
    const std::vector<Meeting> meetings = meetings_of(model_, shape);
    Points wanted;
    for (const Meeting& m : meetings) {
        const Vec3 apart = shape[m.b] - shape[m.a];
        wanted.push_back(0.5 * (turned(m.a, apart) + turned(m.b, apart)));
    }
    const Points further = closing_ways(model_, meetings, wanted, laid_.positions, out);
    for (Index v = 0; v < out.size(); ++v) out[v] += further[v];
    return out;
}

Points ShapeCarrier::operator()(const Points& shape, bool meet) const {
    const std::vector<Triangle>& triangles = skin_triangles(model_);
    const Points moved = on_laid(shape, meet), &rest = base_.mesh.positions;
    Points out = rest;
    for (const Index v : base_.part("skin")->vertices) {
        if (!places_[v]) continue;
        const Triangle& on = triangles[places_[v].triangle];
        for (std::size_t k = 0; k < 3; ++k) out[v] += places_[v].weights[k] * (moved[on[k]] - laid_.positions[on[k]]);
    }
    for (const KitPart& part : base_.parts) {
        const KitPart* known = model_.part(part.name);
        if (part.name == "skin") continue;
        const bool rides = part.rule() == PartRule::Edge || part.rule() == PartRule::Skin;
        if (rides || !known) {
            Points own;
            for (const Index v : part.vertices) own.push_back(rest[v]);
            const SurfaceTies ties(own, nullptr, rest, skin_triangles(base_), kRideReachMm);
            const Points now = ties.moved(out);
            for (std::size_t i = 0; i < part.vertices.size(); ++i) out[part.vertices[i]] = now[i];
            continue;
        }
        Points from, to;
        for (const Index v : known->vertices) from.push_back(laid_.positions[v]), to.push_back(moved[v]);
        const auto move = fit_similarity(from, to, rigidly());
        for (const Index v : part.vertices) {
            if (move) out[v] = (*move)(rest[v]);
        }
    }
    return out;
}

}  // namespace veld
