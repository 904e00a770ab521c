#include "core/rig/skin_weights.h"

#include <algorithm>
#include <cmath>

#include "core/linalg/spd_solver.h"

namespace veld {
namespace {

constexpr double kSumTolerance = 1e-5;
constexpr double kLeast = 1e-4;           // a lighter hold is none
constexpr double kLeastCotangent = 1e-3;  // what is obtuse conducts as little as this: weights stay between 0 and 1
constexpr double kLeastAreaMm2 = 1e-9;

using Holds = std::vector<std::pair<std::uint16_t, double>>;  // joint, weight; of one vertex

// How heat flows between the vertices of a shape.
class Flow {
 public:
    Flow(const Points& shape, const std::vector<Triangle>& triangles)
        : area_(shape.size(), 0), solver_(static_cast<Index>(shape.size()), pattern(triangles)) {
        for (const Triangle& t : triangles) {
            const double area = 0.5 * (shape[t[1]] - shape[t[0]]).cross(shape[t[2]] - shape[t[0]]).norm();
            for (int k = 0; k < 3; ++k) {
                const Index i = t[static_cast<std::size_t>(k)], j = t[static_cast<std::size_t>((k + 1) % 3)],
                            o = t[static_cast<std::size_t>((k + 2) % 3)];
                area_[i] += area / 3;
                const Vec3 a = shape[i] - shape[o], b = shape[j] - shape[o];
                const double across = std::max(a.cross(b).norm(), kLeastAreaMm2);
                edges_.push_back({i, j, 0.5 * std::max(kLeastCotangent, a.dot(b) / across)});
            }
        }
    }
    Status begin(double seconds) {
        auto& values = solver_.values();
        std::fill(values.begin(), values.end(), 0);
        for (Index v = 0; v < area_.size(); ++v) values[solver_.slot(v, v)] = mass(v);
        for (const auto& [i, j, conducts] : edges_) {
            values[solver_.slot(i, i)] += seconds * conducts;
            values[solver_.slot(j, j)] += seconds * conducts;
            values[solver_.slot(i, j)] -= seconds * conducts;
        }
        return solver_.factor();
    }
    // three joints' weights at once
    Points after(const Points& before) const {
        Points heat = before;
        for (Index v = 0; v < heat.size(); ++v) heat[v] *= mass(v);
        return solver_.solve(heat);
    }

 private:
    static std::vector<std::pair<Index, Index>> pattern(const std::vector<Triangle>& triangles) {
        std::vector<std::pair<Index, Index>> out;
        for (const Triangle& t : triangles)
            for (std::size_t k = 0; k < 3; ++k) out.emplace_back(t[k], t[(k + 1) % 3]);
        return out;
    }
    double mass(Index v) const { return area_[v] > 0 ? area_[v] : 1; }  // what is in no triangle keeps its heat

    struct Edge {
        Index from, to;
        double conducts;
    };
    std::vector<double> area_;
    std::vector<Edge> edges_;
    SpdSolver solver_;
};

std::vector<Holds> holds_of(const SkinWeights& weights) {
    std::vector<Holds> out(weights.weight.size());
    for (std::size_t v = 0; v < out.size(); ++v)
        for (std::size_t k = 0; k < 4; ++k)
            if (weights.weight[v][k] > 0) out[v].emplace_back(weights.joint[v][k], weights.weight[v][k]);
    return out;
}

Status smooth(const Points& shape, const std::vector<Triangle>& triangles, std::size_t joints, double mm,
              std::vector<Holds>& holds) {
    Flow flow(shape, triangles);
    if (auto ok = flow.begin(mm * mm / 2); !ok) return ok;
    std::vector<char> used(joints, 0);
    for (const Holds& all : holds)
        for (const auto& [joint, weight] : all)
            if (joint < joints) used[joint] = 1;
    std::vector<std::uint16_t> which;
    for (std::size_t j = 0; j < joints; ++j)
        if (used[j]) which.push_back(static_cast<std::uint16_t>(j));
    std::vector<Holds> out(holds.size());
    for (std::size_t first = 0; first < which.size(); first += 3) {
        Points before(holds.size(), Vec3::Zero());
        for (std::size_t v = 0; v < holds.size(); ++v)
            for (const auto& [joint, weight] : holds[v])
                for (std::size_t k = 0; k < 3 && first + k < which.size(); ++k)
                    if (which[first + k] == joint) before[v][static_cast<int>(k)] += weight;
        const Points after = flow.after(before);
        for (std::size_t v = 0; v < holds.size(); ++v)
            for (std::size_t k = 0; k < 3 && first + k < which.size(); ++k)
                if (const double w = after[v][static_cast<int>(k)]; w > kLeast)
                    out[v].emplace_back(which[first + k], w);
    }
    holds = std::move(out);
    return Done{};
}

void keep_heaviest(int most, Holds& all) {
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    if (all.empty()) all.emplace_back(0, 1);
    if (all.size() > static_cast<std::size_t>(most)) all.resize(static_cast<std::size_t>(most));
    double sum = 0;
    for (const auto& [joint, weight] : all) sum += weight;
    for (auto& [joint, weight] : all) weight /= sum;
}

}  // namespace

WeightCheck check_weights(const ShapeWeights& weights, std::size_t joints, int most) {
    WeightCheck out;
    for (std::size_t v = 0; v < weights.first.weight.size(); ++v) {
        double sum = 0;
        int count = 0;
        bool strange = false;
        for (const SkinWeights* set : {&weights.first, &weights.next}) {
            for (std::size_t k = 0; v < set->weight.size() && k < 4; ++k) {
                const double w = set->weight[v][k];
                sum += w, count += w != 0;
                strange = strange || !(w >= 0) || (w > 0 && set->joint[v][k] >= joints);
            }
        }
        const double off = std::abs(sum - 1);
        out.wrong_sum += !(off < kSumTolerance), out.too_many += count > most, out.strange += strange;
        out.most = std::max(out.most, count), out.worst_sum = std::max(out.worst_sum, off);
    }
    return out;
}

Result<ShapeWeights> shape_weights(const Points& shape, const std::vector<Triangle>& triangles,
                                   const SkinWeights& weights, std::size_t joints, const WeightSettings& settings) {
    if (settings.most != 4 && settings.most != 8)
        return Error{ErrorCode::BadInput,
                     "A vertex hangs on at most 4 or 8 joints, not " + std::to_string(settings.most) + "."};
    std::vector<Holds> holds = holds_of(weights);
    if (settings.smooth_mm > 0) {
        if (auto ok = smooth(shape, triangles, joints, settings.smooth_mm, holds); !ok) return ok.error();
    }
    ShapeWeights out;
    out.first.joint.resize(holds.size()), out.first.weight.resize(holds.size());
    bool more = false;
    for (Holds& all : holds) keep_heaviest(settings.most, all), more = more || all.size() > 4;
    if (more) out.next = out.first;
    for (std::size_t v = 0; v < holds.size(); ++v) {
        for (std::size_t k = 0; k < holds[v].size(); ++k) {
            SkinWeights& set = k < 4 ? out.first : out.next;
            set.joint[v][k % 4] = holds[v][k].first, set.weight[v][k % 4] = holds[v][k].second;
        }
    }
    return out;
}

}  // namespace veld
