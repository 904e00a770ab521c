#include "core/kit_making/carry_rig.h"

#include <algorithm>
#include <deque>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kShared = 0.15;       // of a weight: the skin belongs to both bones
constexpr std::size_t kLeastRing = 8;  // vertices
constexpr std::size_t kMostOfOne = 4;  // joints a vertex may follow

SimilarityOptions exactly() {
    SimilarityOptions out;
    out.outlier_mm = 0;
    return out;
}

double weight_of(const SkinWeights& weights, std::size_t v, int joint) {
    for (std::size_t k = 0; k < kMostOfOne; ++k) {
        if (weights.weight[v][k] > 0 && weights.joint[v][k] == joint) return weights.weight[v][k];
    }
    return 0;
}

// Skin that follows both a joint and its parent; where there is hardly any, all that follows the joint.
VertexIndices ring_of(const BaseKit& model, int joint) {
    VertexIndices shared, own;
    const int parent = model.joints[static_cast<std::size_t>(joint)].parent;
    for (const Index v : model.part("skin")->vertices) {
        const double w = weight_of(model.weights, v, joint);
        if (w < kShared) continue;
        own.push_back(v);
        if (parent >= 0 && weight_of(model.weights, v, parent) >= kShared) shared.push_back(v);
    }
    return shared.size() >= kLeastRing ? shared : own;
}

Adjacency ways_over(const Mesh& base) { return vertex_neighbours(triangulate(base).triangles, base.vertex_count()); }

// The nearest vertex along the edges that has a place, per vertex; kNone: none is connected.
std::vector<Index> nearest_with_place(const std::vector<ModelPlace>& places, const Adjacency& ways) {
    std::vector<Index> out(places.size(), kNone);
    std::deque<Index> todo;
    for (Index v = 0; v < places.size(); ++v) {
        if (places[v]) out[v] = v, todo.push_back(v);
    }
    while (!todo.empty()) {
        const Index v = todo.front();
        todo.pop_front();
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            if (out[*n] == kNone) out[*n] = out[v], todo.push_back(*n);
        }
    }
    return out;
}

using Influences = std::vector<std::pair<std::uint16_t, double>>;

void add(Influences& to, std::uint16_t joint, double weight) {
    if (weight <= 0) return;
    for (auto& [j, w] : to) {
        if (j == joint) {
            w += weight;
            return;
        }
    }
    to.emplace_back(joint, weight);
}

Influences averaged(const std::vector<Influences>& all, const Adjacency& ways, Index v) {
    Influences out;
    const auto count = static_cast<double>(ways.end(v) - ways.begin(v));
    for (const auto& [j, w] : all[v]) add(out, j, count > 0 ? 0.5 * w : w);
    for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
        for (const auto& [j, w] : all[*n]) add(out, j, 0.5 * w / count);
    }
    return out;
}

}  // namespace

std::vector<Joint> carried_joints(const BaseKit& model, const LaidModel& laid) {
    std::vector<Joint> out = model.joints;
    for (std::size_t j = 0; j < out.size(); ++j) {
        const VertexIndices ring = ring_of(model, static_cast<int>(j));
        Points from, to;
        for (const Index v : ring) {
            from.push_back(model.mesh.positions[v]);
            to.push_back(laid.positions[v]);
        }
        // a joint that moves nothing (a leaf without skin) goes along with its parent
        const int parent = out[j].parent;
        const auto moved = fit_similarity(from, to, exactly());
        if (moved)
            out[j].position = (*moved)(model.joints[j].position);
        else if (parent >= 0)
            out[j].position = out[static_cast<std::size_t>(parent)].position +
                              laid.to_base.scale *
                                  (model.joints[j].position - model.joints[static_cast<std::size_t>(parent)].position);
        else
            out[j].position = laid.to_base(model.joints[j].position);
    }
    return out;
}

std::vector<float> carried_values(const BaseKit& model, const std::vector<ModelPlace>& places, const Mesh& base,
                                  const std::vector<float>& values) {
    const std::vector<Triangle>& triangles = skin_triangles(model);
    const std::vector<Index> nearest = nearest_with_place(places, ways_over(base));
    std::vector<float> out(places.size(), 0);
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (nearest[v] == kNone) continue;
        const ModelPlace& at = places[nearest[v]];
        for (std::size_t k = 0; k < 3; ++k)
            out[v] += static_cast<float>(at.weights[k]) * values[triangles[at.triangle][k]];
    }
    return out;
}

SkinWeights carried_weights(const BaseKit& model, const std::vector<ModelPlace>& places, const Mesh& base,
                            int rounds) {
    const std::vector<Triangle>& triangles = skin_triangles(model);
    const Adjacency ways = ways_over(base);
    const std::vector<Index> nearest = nearest_with_place(places, ways);
    std::vector<Influences> all(places.size());
    for (std::size_t v = 0; v < all.size(); ++v) {
        if (nearest[v] == kNone) continue;
        const ModelPlace& at = places[nearest[v]];
        for (std::size_t k = 0; k < 3; ++k) {
            const Index on = triangles[at.triangle][k];
            for (std::size_t i = 0; i < kMostOfOne; ++i)
                add(all[v], model.weights.joint[on][i], at.weights[k] * model.weights.weight[on][i]);
        }
    }
    for (int round = 0; round < rounds; ++round) {
        std::vector<Influences> next(all.size());
        for (Index v = 0; v < all.size(); ++v) next[v] = averaged(all, ways, v);
        all = std::move(next);
    }
    SkinWeights out;
    out.joint.assign(all.size(), {});
    out.weight.assign(all.size(), {});
    for (std::size_t v = 0; v < all.size(); ++v) {
        Influences& own = all[v];
        std::sort(own.begin(), own.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
        own.resize(std::min(own.size(), kMostOfOne));
        double sum = 0;
        for (const auto& [j, w] : own) sum += w;
        if (!(sum > 0)) {
            out.weight[v][0] = 1;  // connected to nothing that has a place: with the first joint
            continue;
        }
        for (std::size_t i = 0; i < own.size(); ++i)
            out.joint[v][i] = own[i].first, out.weight[v][i] = own[i].second / sum;
    }
    return out;
}

}  // namespace veld
