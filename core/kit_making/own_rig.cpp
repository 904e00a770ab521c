#include "core/kit_making/own_rig.h"

#include <algorithm>
#include <cctype>

#include "core/kit_making/skeleton.h"

namespace veld {
namespace {

constexpr double kJointReach = 0.06,
                 kFingerReach = 0.022;  // of the figure's size: how far a joint of that role may lie
constexpr double kNamed = 0.5;          // of the reach: what a fitting name is worth, and a name of another part costs
constexpr double kHelper = 0.6;         // of the reach: what a helper's name costs
constexpr double kNamedReach = 2.2;     // times the reach, with a fitting name
constexpr std::size_t kMostOfOne = 4;

// Words that riggers use for what we call it; the longest that is in a name counts.
const std::pair<const char*, const char*> kWords[] = {{"pelvis", "pelvis"},     {"hips", "pelvis"},
                                                      {"spine", "spine"},       {"chest", "spine"},
                                                      {"torso", "spine"},       {"abdomen", "spine"},
                                                      {"waist", "spine"},       {"back", "spine"},
                                                      {"neck", "neck"},         {"head", "head"},
                                                      {"skull", "head"},        {"clavicle", "clavicle"},
                                                      {"collar", "clavicle"},   {"upperarm", "upper_arm"},
                                                      {"uparm", "upper_arm"},   {"arm", "upper_arm"},
                                                      {"shoulder", "clavicle"}, {"forearm", "forearm"},
                                                      {"lowerarm", "forearm"},  {"elbow", "forearm"},
                                                      {"hand", "hand"},         {"wrist", "hand"},
                                                      {"thumb", "thumb"},       {"index", "index"},
                                                      {"middle", "middle"},     {"ring", "ring"},
                                                      {"little", "little"},     {"pinky", "little"},
                                                      {"thigh", "thigh"},       {"upleg", "thigh"},
                                                      {"upperleg", "thigh"},    {"shin", "shin"},
                                                      {"calf", "shin"},         {"knee", "shin"},
                                                      {"lowerleg", "shin"},     {"leg", "shin"},
                                                      {"foot", "foot"},         {"ankle", "foot"},
                                                      {"toe", "toe"},           {"ball", "toe"},
                                                      {"eye", "eye"},           {"jaw", "jaw"},
                                                      {"chin", "jaw"}};
const char* const kHelpers[] = {"twist", "roll", "helper", "end", "nub", "target", "ik", "socket", "attach"};

// Small letters without anything between them.
std::string plain(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if (std::isalpha(static_cast<unsigned char>(c)))
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    }
    return out;
}

// "upper_arm_l" -> "upper_arm", "index_2_r" -> "index"
std::string kind_of_role(const std::string& role) {
    std::string out = role;
    if (out.ends_with("_l") || out.ends_with("_r")) out.resize(out.size() - 2);
    while (!out.empty() && (std::isdigit(static_cast<unsigned char>(out.back())) || out.back() == '_')) out.pop_back();
    return out;
}

// Empty: its name says nothing.
std::string kind_of_name(const std::string& name) {
    const std::string letters = plain(name);
    std::string out;
    std::size_t longest = 0;
    for (const auto& [word, kind] : kWords) {
        const std::size_t size = std::string_view(word).size();
        if (size > longest && letters.find(word) != std::string::npos) longest = size, out = kind;
    }
    return out;
}

bool is_finger(const std::string& kind) {
    return kind == "thumb" || kind == "index" || kind == "middle" || kind == "ring" || kind == "little";
}

bool is_helper(const std::string& name) {
    const std::string letters = plain(name);
    return std::any_of(std::begin(kHelpers), std::end(kHelpers), [&](const char* word) {
        const std::string_view w = word;
        return w.size() > 3 ? letters.find(w) != std::string::npos : letters.ends_with(w);
    });
}

bool is_below(const std::vector<Joint>& joints, int joint, int above) {
    for (int j = joints[static_cast<std::size_t>(joint)].parent; j >= 0;
         j = joints[static_cast<std::size_t>(j)].parent) {
        if (j == above) return true;
    }
    return false;
}

int place_of(const std::vector<Joint>& joints, const std::string& name) {
    for (std::size_t j = 0; j < joints.size(); ++j) {
        if (joints[j].name == name) return static_cast<int>(j);
    }
    return -1;
}

double size_of(const std::vector<Joint>& joints) {
    Box box;
    for (const Joint& j : joints) box.add(j.position);
    return joints.empty() ? 0 : box.size().norm();
}

}  // namespace

std::map<std::string, std::string> recognise_roles(const std::vector<Joint>& known, const std::vector<Joint>& own) {
    std::map<std::string, std::string> out;
    const double size = size_of(known);
    std::vector<int> of(known.size(), -1);
    std::vector<char> taken(own.size(), 0);
    std::vector<std::string> kinds;
    for (const Joint& j : own) kinds.push_back(kind_of_name(j.name));
    for (std::size_t i = 0; i < known.size(); ++i) {
        const std::string kind = kind_of_role(known[i].name);
        const double reach = size * (is_finger(kind) ? kFingerReach : kJointReach);
        int above = known[i].parent;  // the nearest whose joint is known
        while (above >= 0 && of[static_cast<std::size_t>(above)] < 0)
            above = known[static_cast<std::size_t>(above)].parent;
        // where it would be from there: what was carried over may lie off as a whole
        Vec3 wanted = known[i].position;
        if (above >= 0)
            wanted += own[static_cast<std::size_t>(of[static_cast<std::size_t>(above)])].position -
                      known[static_cast<std::size_t>(above)].position;
        int best = -1;
        double least = 0;
        for (std::size_t j = 0; j < own.size(); ++j) {
            if (taken[j]) continue;
            if (above >= 0 && !is_below(own, static_cast<int>(j), of[static_cast<std::size_t>(above)])) continue;
            const double away = (own[j].position - wanted).norm();
            const bool named = kinds[j] == kind, other = !kinds[j].empty() && !named;
            if (away > (named ? kNamedReach : 1) * reach) continue;
            const double cost =
                away + reach * ((named ? -kNamed : 0) + (other ? kNamed : 0) + (is_helper(own[j].name) ? kHelper : 0));
            if (best < 0 || cost < least) best = static_cast<int>(j), least = cost;
        }
        if (best < 0) continue;
        of[i] = best, taken[static_cast<std::size_t>(best)] = 1;
        out[known[i].name] = own[static_cast<std::size_t>(best)].name;
    }
    return out;
}

SkinWeights weights_in_kit(const KitOriginal& original, const FileSkin& skin, std::size_t base_vertices) {
    SkinWeights out;
    out.joint.assign(base_vertices, {});
    out.weight.assign(base_vertices, {});
    // vertices of the file that are one here have the same weights
    for (std::size_t v = original.work_of.size(); v-- > 0;) {
        out.joint[original.work_of[v]] = skin.weights.joint[v];
        out.weight[original.work_of[v]] = skin.weights.weight[v];
    }
    return out;
}

namespace {

// Per joint of the file the kit's that it counts for; -1: none.
std::vector<int> roles_above(const BaseKit& kit) {
    const KitRig& rig = *kit.own_rig;
    std::vector<int> out(rig.joints.size(), -1);
    for (const auto& [role, name] : rig.roles) {
        const int j = place_of(rig.joints, name);
        if (j >= 0) out[static_cast<std::size_t>(j)] = place_of(kit.joints, role);
    }
    for (std::size_t j = 0; j < out.size(); ++j) {
        const int parent = rig.joints[j].parent;
        if (out[j] < 0 && parent >= 0) out[j] = out[static_cast<std::size_t>(parent)];
    }
    return out;
}

// Per joint of the kit the nearest that has a role: itself, or above it.
std::vector<int> groups(const BaseKit& kit) {
    std::vector<int> out(kit.joints.size(), -1);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const int parent = kit.joints[i].parent;
        if (kit.own_rig->roles.contains(kit.joints[i].name))
            out[i] = static_cast<int>(i);
        else if (parent >= 0)
            out[i] = out[static_cast<std::size_t>(parent)];
    }
    return out;
}

// The four strongest of what a vertex follows, adding up to 1.
void keep_strongest(std::map<int, double>& all, SkinWeights& weights, std::size_t v) {
    std::vector<std::pair<double, int>> sorted;
    for (const auto& [joint, weight] : all) {
        if (weight > 0) sorted.emplace_back(weight, joint);
    }
    std::sort(sorted.rbegin(), sorted.rend());
    sorted.resize(std::min(sorted.size(), kMostOfOne));
    double sum = 0;
    for (const auto& [weight, joint] : sorted) sum += weight;
    if (!(sum > 0)) return;
    weights.joint[v] = {}, weights.weight[v] = {};
    for (std::size_t k = 0; k < sorted.size(); ++k)
        weights.joint[v][k] = static_cast<std::uint16_t>(sorted[k].second),
        weights.weight[v][k] = sorted[k].first / sum;
}

}  // namespace

void take_own_rig(const SkinWeights& own_weights, BaseKit& kit) {
    const std::vector<int> counts_for = roles_above(kit), group = groups(kit);
    for (const auto& [role, name] : kit.own_rig->roles) {
        const int i = place_of(kit.joints, role), j = place_of(kit.own_rig->joints, name);
        kit.joints[static_cast<std::size_t>(i)].position = kit.own_rig->joints[static_cast<std::size_t>(j)].position;
    }
    for (std::size_t v = 0; v < own_weights.weight.size(); ++v) {
        std::map<int, double> own, out;
        for (std::size_t k = 0; k < kMostOfOne; ++k) {
            const double w = own_weights.weight[v][k];
            const int role = w > 0 ? counts_for[own_weights.joint[v][k]] : -1;
            if (role >= 0) own[role] += w;
        }
        for (const auto& [role, weight] : own) {
            // ours of this group, as much as each had before
            std::map<int, double> share;
            double sum = 0;
            for (std::size_t k = 0; k < kMostOfOne; ++k) {
                const int joint = kit.weights.joint[v][k];
                const double had = kit.weights.weight[v][k];
                if (had > 0 && group[static_cast<std::size_t>(joint)] == role) share[joint] += had, sum += had;
            }
            if (sum > 0) {
                for (const auto& [joint, had] : share) out[joint] += weight * had / sum;
            } else {
                out[role] += weight;
            }
        }
        keep_strongest(out, kit.weights, v);
    }
}

Status set_roles(const std::map<std::string, std::string>& roles, BaseKit& kit) {
    if (!kit.own_rig) return Error{ErrorCode::BadInput, "The file of this kit has no joints of its own."};
    std::map<std::string, std::string> next = kit.own_rig->roles;
    for (const auto& [role, name] : roles) {
        if (place_of(kit.joints, role) < 0)
            return Error{ErrorCode::BadInput, "The kit has no joint '" + role + "'. 'kit show' lists them."};
        if (!name.empty() && place_of(kit.own_rig->joints, name) < 0)
            return Error{ErrorCode::BadInput, "The kit's file has no joint '" + name + "'. 'kit show' lists them."};
        if (name.empty())
            next.erase(role);
        else
            next[role] = name;
    }
    std::map<std::string, std::string> twice;
    for (const auto& [role, name] : next) {
        const auto [at, fresh] = twice.emplace(name, role);
        if (!fresh)
            return Error{ErrorCode::BadInput,
                         "The joint '" + name + "' cannot be both " + at->second + " and " + role + "."};
    }
    if (next == kit.own_rig->roles) return Done{};
    const auto weights = own_weights(kit);
    if (!weights) return weights.error();
    kit.own_rig->roles = std::move(next);
    take_own_rig(*weights, kit);
    return Done{};
}

}  // namespace veld
