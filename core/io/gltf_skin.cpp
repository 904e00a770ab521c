#include "core/io/gltf_skin.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace veld {
namespace {

constexpr int kDeepest = 256;           // nodes below one another
constexpr double kUneven = 0.02;        // a sum of weights that is farther from 1 is said
constexpr std::size_t kMostJoints = 4;  // that a vertex follows here

}  // namespace

GltfSkins::GltfSkins(const tinygltf::Model& model) : model_(model), access_(model) {
    world_.assign(model.nodes.size(), Eigen::Affine3d::Identity());
    parent_.assign(model.nodes.size(), -1);
    is_joint_.assign(model.nodes.size(), 0);
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        for (const int child : model.nodes[n].children) {
            if (child >= 0 && child < static_cast<int>(model.nodes.size()))
                parent_[static_cast<std::size_t>(child)] = static_cast<int>(n);
        }
    }
    for (std::size_t n = 0; n < model.nodes.size(); ++n) {
        if (parent_[n] < 0) find_worlds(static_cast<int>(n), Eigen::Affine3d::Identity(), 0);
    }
    for (const tinygltf::Skin& skin : model.skins) {
        for (const int joint : skin.joints) {
            if (joint >= 0 && joint < static_cast<int>(is_joint_.size()))
                is_joint_[static_cast<std::size_t>(joint)] = 1, any_skin_ = true;
        }
    }
}

// A circle of nodes has no root, and one that is entered from outside ends by its depth: the reader says so.
void GltfSkins::find_worlds(int node, const Eigen::Affine3d& parent, int depth) {
    if (node < 0 || node >= static_cast<int>(model_.nodes.size()) || depth > kDeepest) return;
    const tinygltf::Node& n = model_.nodes[static_cast<std::size_t>(node)];
    world_[static_cast<std::size_t>(node)] = parent * node_transform(n);
    for (const int child : n.children) {
        if (child >= 0 && child < static_cast<int>(model_.nodes.size()) &&
            parent_[static_cast<std::size_t>(child)] == node)
            find_worlds(child, world_[static_cast<std::size_t>(node)], depth + 1);
    }
}

// By node, adding up to 1; empty where nothing is said.
std::vector<std::vector<GltfSkins::Influence>> GltfSkins::influences(const tinygltf::Primitive& p,
                                                                     const tinygltf::Skin& skin, Index count) {
    std::vector<std::vector<Influence>> out(count);
    for (const char* set : {"0", "1"}) {
        const auto joints = p.attributes.find(std::string("JOINTS_") + set),
                   weights = p.attributes.find(std::string("WEIGHTS_") + set);
        if (joints == p.attributes.end() || weights == p.attributes.end()) continue;
        const auto j = access_.view(joints->second), w = access_.view(weights->second);
        if (!j || !w || !j->is_vector(4) || !w->is_vector(4) || j->count != count || w->count != count) {
            unreadable_ += count;
            continue;
        }
        for (Index v = 0; v < count; ++v) {
            for (int k = 0; k < 4; ++k) {
                const double weight = w->value(v, k), joint = j->value(v, k);
                if (!(weight > 0) || !std::isfinite(weight)) continue;
                if (!(joint >= 0 && joint < static_cast<double>(skin.joints.size()))) {
                    ++unreadable_;
                    continue;
                }
                out[v].emplace_back(skin.joints[static_cast<std::size_t>(joint)], weight);
            }
        }
    }
    for (auto& all : out) {
        double sum = 0;
        for (const auto& [joint, weight] : all) sum += weight;
        if (!all.empty() && std::abs(sum - 1) > kUneven) ++uneven_;
        for (auto& [joint, weight] : all) weight /= sum;
    }
    return out;
}

std::vector<Eigen::Affine3d> GltfSkins::add(const tinygltf::Primitive& p, int skin, Index first, Index count) {
    if (skin < 0 || skin >= static_cast<int>(model_.skins.size())) return {};
    const tinygltf::Skin& s = model_.skins[static_cast<std::size_t>(skin)];
    for (const int joint : s.joints) {
        if (joint < 0 || joint >= static_cast<int>(model_.nodes.size())) return {};
    }
    auto all = influences(p, s, count);
    // from the mesh to each joint, in the pose the skin was bound in
    std::map<int, Eigen::Affine3d> bound;
    const auto inverse = access_.view(s.inverseBindMatrices);
    for (std::size_t j = 0; j < s.joints.size(); ++j) {
        Eigen::Affine3d bind = Eigen::Affine3d::Identity();
        if (inverse && inverse->width == 16 && inverse->count > j) {
            for (int k = 0; k < 16; ++k) bind.matrix()(k % 4, k / 4) = inverse->value(j, k);
        }
        bound[s.joints[j]] = world(s.joints[j]) * bind;
    }
    of_.resize(first);
    std::vector<Eigen::Affine3d> out;
    bool any = false;
    for (Index v = 0; v < count; ++v) {
        Eigen::Affine3d to = Eigen::Affine3d::Identity();
        if (!all[v].empty()) {
            to.matrix().setZero();
            for (const auto& [joint, weight] : all[v]) to.matrix() += weight * bound[joint].matrix();
            any = true;
        }
        // what is bound to nothing, or flattened, is not moved
        if (!to.matrix().allFinite() || std::abs(to.linear().determinant()) < 1e-18) to.setIdentity();
        out.push_back(to);
        of_.push_back(std::move(all[v]));
    }
    any_weights_ |= any;
    return any ? out : std::vector<Eigen::Affine3d>();
}

std::optional<FileSkin> GltfSkins::take(std::size_t vertices, std::vector<std::string>& notes) {
    if (!any_skin_) return {};
    FileSkin out;
    std::vector<int> joint_of(is_joint_.size(), -1);
    std::set<std::string> taken;
    const auto place = [&](auto&& self, int node, int depth) -> void {
        auto& own = joint_of[static_cast<std::size_t>(node)];
        if (own >= 0) return;
        int above = parent_[static_cast<std::size_t>(node)], steps = 0;
        while (above >= 0 && !is_joint_[static_cast<std::size_t>(above)] && ++steps < kDeepest)
            above = parent_[static_cast<std::size_t>(above)];
        // joints in a circle end by their depth
        if (above >= 0 && is_joint_[static_cast<std::size_t>(above)] && depth < kDeepest) self(self, above, depth + 1);
        if (own >= 0) return;
        const bool has_parent = above >= 0 && joint_of[static_cast<std::size_t>(above)] >= 0;
        Joint joint;
        joint.name = model_.nodes[static_cast<std::size_t>(node)].name;
        if (joint.name.empty()) joint.name = "joint";
        for (int n = 2; taken.contains(joint.name); ++n)
            joint.name = model_.nodes[static_cast<std::size_t>(node)].name + " " + std::to_string(n);
        taken.insert(joint.name);
        joint.parent = has_parent ? joint_of[static_cast<std::size_t>(above)] : -1;
        joint.position = world(node).translation();
        own = static_cast<int>(out.joints.size());
        out.joints.push_back(std::move(joint));
    };
    for (std::size_t n = 0; n < is_joint_.size(); ++n) {
        if (is_joint_[n]) place(place, static_cast<int>(n), 0);
    }
    of_.resize(vertices);
    out.has_weights = any_weights_;
    out.weights.joint.assign(vertices, {});
    out.weights.weight.assign(vertices, {});
    for (std::size_t v = 0; v < vertices; ++v) {
        auto& all = of_[v];
        std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
        all.resize(std::min(all.size(), kMostJoints));
        double sum = 0;
        for (const auto& [node, weight] : all) sum += weight;
        for (std::size_t k = 0; k < all.size(); ++k) {
            out.weights.joint[v][k] = static_cast<std::uint16_t>(joint_of[static_cast<std::size_t>(all[k].first)]);
            out.weights.weight[v][k] = all[k].second / sum;
        }
    }
    if (uneven_)
        notes.push_back("The skin weights of " + std::to_string(uneven_) +
                        " vertices do not add up to 1; they are taken by their shares.");
    if (unreadable_)
        notes.push_back("Some skin weights are damaged or name joints that are not there; those were left out.");
    return out;
}

}  // namespace veld
