#pragma once
// What people have changed in a kit and not yet written into its folder. Landmarks and curves are kept apart from
// these (ProjectState::base_points).
#include <map>
#include <set>
#include <string>

#include "core/mesh/mesh.h"
#include "core/rig/joint_ties.h"

namespace veld {

struct KitEdits {
    std::map<std::string, VertexIndices> regions;  // as they are now, ascending
    std::map<std::string, std::string> roles;    // joint of the kit -> joint of its file; empty: nobody has that role
    std::map<std::string, std::string> rules;    // part -> how it goes with the skin (part_rule_name)
    std::map<std::string, std::string> reduced;  // reduced version -> its file; empty: taken out of the kit
    std::map<std::string, JointTie> ties;        // joint -> its tie; empty: as the skin weights say
    std::set<std::string> looked_at;             // landmarks and curves that are right as they are
    bool operator==(const KitEdits&) const = default;
    bool empty() const { return *this == KitEdits{}; }
};

}  // namespace veld
