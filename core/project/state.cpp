#include "core/project/state.h"

#include <algorithm>

namespace veld {

std::vector<MorphAmount> ProjectState::amounts() const {
    std::vector<MorphAmount> out;
    const bool alone = std::any_of(bank.begin(), bank.end(), [](const BankEntry& e) { return e.solo; });
    for (const BankEntry& e : bank) out.push_back({e.morph.get(), e.muted || (alone && !e.solo) ? 0 : e.amount});
    return out;
}

ProjectState new_project(std::shared_ptr<const BaseKit> kit) {
    ProjectState out;
    out.base_points = kit->landmarks;
    out.base_curves = kit->curves;
    out.head_share = kit->head_share;
    out.kit = std::move(kit);
    return out;
}

std::string free_name(const std::string& wanted, const std::vector<std::string>& taken) {
    std::string out = wanted;
    for (int i = 2; std::find(taken.begin(), taken.end(), out) != taken.end(); ++i) out = wanted + " " + std::to_string(i);
    return out;
}

}  // namespace veld
