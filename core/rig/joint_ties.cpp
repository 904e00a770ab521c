#include "core/rig/joint_ties.h"

#include <Eigen/Dense>
#include <cmath>

#include "core/landmark/landmarks.h"

namespace veld {
namespace {

constexpr std::size_t kFewest = 8;
constexpr double kLeastShare = 1e-4;  // of the greatest: what counts less is no part of a tie
constexpr double kExact = 1e-6;       // a tie that gives its joint's own place less exactly is none
constexpr double kReach = 1.0;        // of the nearest skin's distance: one deviation
constexpr double kFront = 0.3;        // of a trunk: what lies farther in front of the joint than this says less

std::size_t number_of(const std::vector<Joint>& joints, const std::string& name) {
    for (std::size_t j = 0; j < joints.size(); ++j)
        if (joints[j].name == name) return j;
    return joints.size();
}

// Per vertex: how much of it moves with the joint or one below it.
std::vector<double> moved_with(const TieInput& in, std::size_t joint) {
    std::vector<char> below(in.joints.size(), 0);
    below[joint] = 1;
    for (std::size_t k = joint + 1; k < in.joints.size(); ++k)
        below[k] = in.joints[k].parent >= 0 && below[static_cast<std::size_t>(in.joints[k].parent)];
    std::vector<double> out(in.positions.size(), 0);
    for (std::size_t v = 0; v < out.size(); ++v)
        for (std::size_t k = 0; k < 4; ++k) out[v] += below[in.weights.joint[v][k]] ? in.weights.weight[v][k] : 0;
    return out;
}

// How much each vertex may say: where the skin bends about the joint, and near it.
std::vector<double> says(const TieInput& in, std::size_t joint) {
    const std::vector<double> moved = moved_with(in, joint);
    std::vector<double> out(in.positions.size(), 0);
    const bool root = in.joints[joint].parent < 0;
    const std::string& name = in.joints[joint].name;
    const bool trunk = root || name.starts_with("spine");
    double nearest = std::numeric_limits<double>::infinity();
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (!in.skin[v]) continue;
        double own = 0;
        for (std::size_t k = 0; k < 4; ++k) own += in.weights.joint[v][k] == joint ? in.weights.weight[v][k] : 0;
        out[v] = root ? own : 4 * moved[v] * (1 - moved[v]);
        if (out[v] > 0.2) nearest = std::min(nearest, (in.positions[v] - in.joints[joint].position).norm());
    }
    for (std::size_t v = 0; v < out.size(); ++v) {
        const double far = (in.positions[v] - in.joints[joint].position).norm() / (kReach * nearest);
        out[v] *= std::exp(-0.5 * far * far);
        if (!trunk) continue;
        const double front = std::max(0.0, in.positions[v].z() - in.joints[joint].position.z()) / (kFront * nearest);
        out[v] *= std::exp(-0.5 * front * front);
    }
    return out;
}

}  // namespace

JointTie tie_by_shares(const Points& positions, const Vec3& place, const std::vector<double>& say) {
    JointTie out;
    double most = 0;
    for (const double s : say) most = std::max(most, s);
    std::vector<double> share;
    for (Index v = 0; v < say.size(); ++v) {
        if (say[v] > kLeastShare * most) out.vertex.push_back(v), share.push_back(say[v]);
    }
    if (out.vertex.size() < kFewest) return {};
    // least squares of weight over share, subject to sum 1 and the joint's own place
    Eigen::Matrix4d normal = Eigen::Matrix4d::Zero();
    const auto row = [&](std::size_t i) {
        Eigen::Vector4d out_row;
        out_row << positions[out.vertex[i]] - place, 1;
        return out_row;
    };
    for (std::size_t i = 0; i < share.size(); ++i) normal += share[i] * row(i) * row(i).transpose();
    const Eigen::Vector4d wanted(0, 0, 0, 1), by = normal.fullPivHouseholderQr().solve(wanted);
    if (!((normal * by - wanted).norm() < kExact)) return {};
    for (std::size_t i = 0; i < share.size(); ++i) out.weight.push_back(share[i] * row(i).dot(by));
    return out;
}

std::vector<double> shares_of(const JointTie& tie, std::size_t vertices) {
    std::vector<double> out(vertices, 0);
    double most = 0;
    for (const double w : tie.weight) most = std::max(most, std::abs(w));
    for (std::size_t i = 0; i < tie.vertex.size() && most > 0; ++i)
        out[tie.vertex[i]] = std::abs(tie.weight[i]) / most;
    return out;
}

namespace {

JointTie mirrored(const JointTie& tie, const std::vector<Index>& mirror) {
    JointTie out = tie;
    for (Index& v : out.vertex) v = mirror[v];
    return out;
}

}  // namespace

std::vector<JointTie> tie_joints(const TieInput& in) {
    std::vector<JointTie> out(in.joints.size());
    const bool both = in.mirror.size() == in.positions.size();
    for (std::size_t j = 0; j < in.joints.size(); ++j) {
        const Joint& joint = in.joints[j];
        const std::string opposite = other_side(joint.name);
        const std::size_t other = opposite.empty() ? j : number_of(in.joints, opposite);
        if (both && joint.name.ends_with("_r") && other < in.joints.size()) continue;
        std::vector<double> say(in.positions.size(), 0);
        const auto given = std::find_if(in.given.begin(), in.given.end(), [&](const auto& g) { return g.first == j; });
        if (given != in.given.end())
            for (const Index v : given->second) say[v] = 1;
        else
            say = says(in, j);
        if (both && other == j)
            for (std::size_t v = 0; v < say.size(); ++v) {  // in the middle: both sides say alike
                const Index m = in.mirror[v];
                say[v] = say[m] = 0.5 * (say[v] + say[m]);
            }
        out[j] = tie_by_shares(in.positions, joint.position, say);
        if (both && joint.name.ends_with("_l") && other < in.joints.size()) out[other] = mirrored(out[j], in.mirror);
    }
    return out;
}

Points tied_places(const std::vector<JointTie>& ties, const std::vector<Joint>& joints, const Points& shape) {
    Points out(joints.size(), Vec3::Zero());
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const JointTie& tie = ties[j];
        for (std::size_t i = 0; i < tie.vertex.size(); ++i) out[j] += tie.weight[i] * shape[tie.vertex[i]];
        if (!tie.vertex.empty()) continue;
        const auto up = static_cast<std::size_t>(std::max(joints[j].parent, 0));
        out[j] = joints[j].parent < 0 ? joints[j].position : Vec3(out[up] + joints[j].position - joints[up].position);
    }
    return out;
}

}  // namespace veld
