#include "core/project/bring.h"

#include "core/morph/morph_file.h"
#include "core/project/bank.h"
#include "core/project/store.h"

namespace veld {

Result<CarriedBank> bring_from_project(const std::string& path, const BaseKit& to, const Progress& progress) {
    progress.say(0, "Reading the project");
    const auto project = load_project(path);
    if (!project) return project.error();
    std::vector<const Morph*> morphs;
    for (const BankEntry& entry : project->state.bank) morphs.push_back(entry.morph.get());
    if (morphs.empty()) return Error{ErrorCode::BadInput, "The bank of '" + path + "' is empty."};
    return carry_morphs(*project->state.kit, to, morphs, progress);
}

Result<CarriedBank> bring_morph_files(const std::string& from, const std::vector<std::string>& paths,
                                      const BaseKit& to, const Progress& progress) {
    const auto kit = read_base_kit(from);
    if (!kit) return kit.error();
    std::vector<Morph> morphs;
    for (const std::string& path : paths) {
        auto morph = read_morph(path, *kit);
        if (!morph) return morph.error();
        morphs.push_back(std::move(*morph));
    }
    std::vector<const Morph*> all;
    for (const Morph& m : morphs) all.push_back(&m);
    return carry_morphs(*kit, to, all, progress);
}

void take_brought(ProjectState& state, const CarriedBank& brought) {
    for (const CarriedMorph& carried : brought.morphs) add_morph(state, carried.morph, 0);
}

}  // namespace veld
