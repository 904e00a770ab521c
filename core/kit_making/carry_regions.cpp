#include "core/kit_making/carry_regions.h"

#include <Eigen/SVD>
#include <algorithm>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/kit_making/carry_rig.h"
#include "core/linalg/fit_similarity.h"
#include "core/mesh/edges.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

SimilarityOptions rigidly() {
    SimilarityOptions out;
    out.outlier_mm = 0;
    out.allow_scale = false;
    return out;
}

// Loops of directed edges, each from where the one before ends; a vertex where several begin takes the first.
std::vector<VertexIndices> loops_of(std::multimap<Index, Index> edges) {
    std::vector<VertexIndices> out;
    while (!edges.empty()) {
        VertexIndices loop;
        const Index begin = edges.begin()->first;
        Index at = begin;
        for (auto next = edges.find(at); next != edges.end(); next = edges.find(at)) {
            loop.push_back(at);
            at = next->second;
            edges.erase(next);
            if (at == begin) break;
        }
        if (at == begin && loop.size() >= 3) out.push_back(std::move(loop));
    }
    return out;
}

double length_of(const Mesh& base, const VertexIndices& loop) {
    double out = 0;
    for (std::size_t i = 0; i < loop.size(); ++i)
        out += (base.positions[loop[(i + 1) % loop.size()]] - base.positions[loop[i]]).norm();
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

std::map<std::string, VertexIndices> carried_regions(const BaseKit& model, const std::vector<ModelPlace>& places,
                                                     const Mesh& base, const VertexMask& skin) {
    VertexMask of_skin(model.mesh.positions.size(), 0);
    for (const Index v : model.part("skin")->vertices) of_skin[v] = 1;
    std::map<std::string, VertexIndices> out;
    for (const auto& [name, vertices] : model.regions) {
        std::vector<float> inside(of_skin.size(), 0);
        std::size_t count = 0;
        for (const Index v : vertices) {
            if (of_skin[v]) inside[v] = 1, ++count;
        }
        if (2 * count < vertices.size()) continue;  // a part's own
        const std::vector<float> values = carried_values(model, places, base, inside);
        VertexIndices region;
        for (Index v = 0; v < values.size(); ++v) {
            if (skin[v] && values[v] > 0.5f) region.push_back(v);
        }
        if (!region.empty()) out[name] = std::move(region);
    }
    return out;
}

VertexIndices loop_around_head(const Mesh& base, const FaceIndices& faces, const std::vector<float>& head) {
    std::set<Index> of_head;
    for (const Index f : faces) {
        float sum = 0;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) sum += head[base.corner_vertex[c]];
        if (sum > 0.5f * static_cast<float>(base.face_size(f))) of_head.insert(f);
    }
    const EdgeLinks links = link_edges(base);
    std::multimap<Index, Index> edges;
    for (const Index f : faces) {
        if (!of_head.contains(f)) continue;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) {
            const Index mate = links.mate[c];
            if (mate < kManyFaces && !of_head.contains(links.corner_face[mate]))
                edges.emplace(base.corner_vertex[c], base.corner_vertex[next_corner(base, links, c)]);
        }
    }
    VertexIndices best;
    double longest = 0;
    for (VertexIndices& loop : loops_of(std::move(edges))) {
        if (const double length = length_of(base, loop); length > longest) longest = length, best = std::move(loop);
    }
    return best;
}

VertexIndices lowest_border(const Mesh& base, const FaceIndices& faces) {
    const EdgeLinks links = link_edges(base);
    std::multimap<Index, Index> edges;
    for (const Index f : faces) {
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) {
            if (links.mate[c] == kNone)
                edges.emplace(base.corner_vertex[c], base.corner_vertex[next_corner(base, links, c)]);
        }
    }
    VertexIndices best;
    double lowest = 1e300;
    for (VertexIndices& loop : loops_of(std::move(edges))) {
        double y = 0;
        for (const Index v : loop) y += base.positions[v].y();
        y /= static_cast<double>(loop.size());
        if (y < lowest) lowest = y, best = std::move(loop);
    }
    return best;
}

std::map<std::string, Points> carried_expressions(const BaseKit& model, const LaidModel& laid,
                                                  const std::vector<ModelPlace>& places, const Mesh& base,
                                                  const std::vector<std::string>& part_of) {
    const std::vector<Triangle>& triangles = skin_triangles(model);
    const std::vector<Mat3> turns = local_turns(model, laid.positions);
    std::map<std::string, Points> out;
    for (const auto& [name, shape] : model.expressions) {
        Points moved = base.positions;
        for (std::size_t v = 0; v < moved.size(); ++v) {
            if (!part_of[v].empty() || !places[v]) continue;
            const Triangle& on = triangles[places[v].triangle];
            for (std::size_t k = 0; k < 3; ++k)
                moved[v] += places[v].weights[k] * (turns[on[k]] * (shape[on[k]] - model.mesh.positions[on[k]]));
        }
        // a part as a whole: how the model's part moves, seen where the model was laid
        for (const KitPart& part : model.parts) {
            if (part.name == "skin") continue;
            Points from, to;
            for (const Index v : part.vertices) {
                from.push_back(laid.positions[v]);
                to.push_back(laid.positions[v] + turns[v] * (shape[v] - model.mesh.positions[v]));
            }
            const auto move = fit_similarity(from, to, rigidly());
            if (!move) continue;
            for (std::size_t v = 0; v < moved.size(); ++v) {
                if (part_of[v] == part.name) moved[v] = (*move)(base.positions[v]);
            }
        }
        out[name] = std::move(moved);
    }
    return out;
}

}  // namespace veld
