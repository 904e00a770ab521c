#include "core/kit_making/carry_shape.h"

#include <Eigen/SVD>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"

namespace veld {
namespace {

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

std::vector<std::string> part_names(const BaseKit& kit) {
    std::vector<std::string> out(kit.mesh.positions.size());
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin") continue;
        for (const Index v : part.vertices) out[v] = part.name;
    }
    return out;
}

ShapeCarrier::ShapeCarrier(const BaseKit& model, const LaidModel& laid, const std::vector<ModelPlace>& places,
                           const Mesh& base, const std::vector<std::string>& part_of)
    : model_(model),
      laid_(laid),
      places_(places),
      base_(base),
      part_of_(part_of),
      turns_(local_turns(model, laid.positions)) {}

Points ShapeCarrier::operator()(const Points& shape) const {
    const std::vector<Triangle>& triangles = skin_triangles(model_);
    Points out = base_.positions;
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (!part_of_[v].empty() || !places_[v]) continue;
        const Triangle& on = triangles[places_[v].triangle];
        for (std::size_t k = 0; k < 3; ++k)
            out[v] += places_[v].weights[k] * turned(on[k], shape[on[k]] - model_.mesh.positions[on[k]]);
    }
    for (const KitPart& part : model_.parts) {
        if (part.name == "skin") continue;
        Points from, to;
        for (const Index v : part.vertices) {
            from.push_back(laid_.positions[v]);
            to.push_back(laid_.positions[v] + turned(v, shape[v] - model_.mesh.positions[v]));
        }
        const auto move = fit_similarity(from, to, rigidly());
        if (!move) continue;
        for (std::size_t v = 0; v < out.size(); ++v) {
            if (part_of_[v] == part.name) out[v] = (*move)(base_.positions[v]);
        }
    }
    return out;
}

}  // namespace veld
