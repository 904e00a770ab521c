#include "core/fit/rest_doubt.h"

#include <cmath>

#include "core/fit/fit.h"
#include "core/fit/jaw.h"
#include "core/linalg/fit_similarity.h"

namespace veld {
namespace {

constexpr const char* kOfBody[] = {"neck",      "torso",     "hip",        "upper_arm_l", "upper_arm_r",
                                   "forearm_l", "forearm_r", "hand_all_l", "hand_all_r",  "thigh_l",
                                   "thigh_r",   "shin_l",    "shin_r",     "foot_l",      "foot_r"};
constexpr std::size_t kLeastOfRegion = 12;

// Per vertex of the body, how far `from` lies from `to` once it is laid on it.
std::vector<double> apart(const VertexIndices& body, const Points& from, const Points& to, bool scaled) {
    std::vector<double> out(from.size(), 0);
    Points a, b;
    for (const Index v : body) a.push_back(from[v]), b.push_back(to[v]);
    SimilarityOptions options;
    options.allow_scale = scaled, options.outlier_mm = 0;
    const auto over = fit_similarity(a, b, options);
    for (const Index v : body) out[v] = ((over ? (*over)(from[v]) : from[v]) - to[v]).norm();
    return out;
}

double root_mean_square(const VertexIndices& vertices, const std::vector<double>& of) {
    double sum = 0;
    for (const Index v : vertices) sum += of[v] * of[v];
    return std::sqrt(sum / static_cast<double>(vertices.size()));
}

// Degrees that all joints from the first one down to the one that moves most of these vertices are turned by.
double turned_by(const BaseKit& kit, const VertexIndices& vertices, const Pose& pose) {
    std::vector<double> share(kit.joints.size(), 0);
    for (const Index v : vertices)
        for (std::size_t k = 0; k < 4; ++k) share[kit.weights.joint[v][k]] += kit.weights.weight[v][k];
    double out = 0;
    const auto most = std::max_element(share.begin(), share.end()) - share.begin();
    for (int j = static_cast<int>(most); j >= 0; j = kit.joints[static_cast<std::size_t>(j)].parent)
        out += Eigen::AngleAxisd(pose.turns[static_cast<std::size_t>(j)]).angle() * 180 / M_PI;
    return out;
}

// Per kind of region what each sign adds to the logarithm of the distance.
constexpr std::size_t kRestSigns = 5;
struct RestWeights {
    double start;
    std::array<double, kRestSigns> sign;
};
// Fitted on figures 21 to 40 of body_accuracy, so that two of three regions are off by no more than is said.
constexpr RestWeights kTrunk{0.08, {1.01, 0.40, 0.58, 0.01, 0.33}};
constexpr RestWeights kLimb{-0.24, {0.00, 0.00, 0.22, 0.94, 0.14}};
constexpr RestWeights kEnd{-0.16, {0.52, 0.00, 0.11, 1.49, 0.18}};

const RestWeights& rest_weights(const std::string& region) {
    if (region == "torso" || region == "hip" || region == "neck") return kTrunk;
    return region.starts_with("hand") || region.starts_with("foot") ? kEnd : kLimb;
}

std::array<double, kRestSigns> rest_features(const RestSigns& s) {
    return {s.guessed, std::log1p(s.uneven), std::log1p(s.build), std::log1p(s.left), s.turned / 90};
}

}  // namespace

double expected_at_rest(const std::string& region, const RestSigns& signs) {
    const RestWeights& w = rest_weights(region);
    double log_mm = w.start;
    const auto f = rest_features(signs);
    for (std::size_t k = 0; k < kRestSigns; ++k) log_mm += w.sign[k] * f[k];
    return std::exp(log_mm);
}

std::map<std::string, RestDoubt> rest_doubts(const BaseKit& kit, const Points& positions, const Pose& pose,
                                             const std::vector<float>& distances) {
    std::map<std::string, RestDoubt> out;
    if (pose.turns.size() != kit.joints.size() || of_head(kit, pose)) return out;
    const VertexIndices& body = kit.region("body_skin").empty() ? kit.part("skin")->vertices : kit.region("body_skin");
    const Points rest = at_rest(kit, positions, pose);
    Points mirrored = rest;
    for (const Index v : body) {
        const Vec3& other = rest[kit.mirror[v]];
        mirrored[v] = {-other.x(), other.y(), other.z()};
    }
    const std::vector<double> uneven = apart(body, mirrored, rest, false),
                              build = apart(body, kit.mesh.positions, rest, true);
    const Points explained = skin(kit.mesh.positions, kit.joints, kit.weights, pose);
    std::vector<double> left(rest.size(), 0);
    for (const Index v : body) left[v] = (explained[v] - positions[v]).norm();
    for (const char* name : kOfBody) {
        const VertexIndices& region = kit.region(name);
        if (region.size() < kLeastOfRegion) continue;
        RestDoubt& doubt = out[name];
        double missing = 0;
        for (const Index v : region) missing += v >= distances.size() || std::isnan(distances[v]);
        doubt.signs.guessed = missing / static_cast<double>(region.size());
        doubt.signs.uneven = root_mean_square(region, uneven) / 2;
        doubt.signs.build = root_mean_square(region, build);
        doubt.signs.left = root_mean_square(region, left);
        doubt.signs.turned = turned_by(kit, region, pose);
        doubt.expected_mm = expected_at_rest(name, doubt.signs);
    }
    return out;
}

}  // namespace veld
