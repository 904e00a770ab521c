#include "core/project/next_step.h"

#include <algorithm>

#include "core/mesh/mesh.h"
#include "core/morph/morph.h"

namespace veld {
namespace {

// A morph keeps the figures of the fit that it came from.
bool is_kept(const ProjectState& state, const FitRecord& fit) {
    const std::string figures = figures_text(fit.figures);
    return std::any_of(state.bank.begin(), state.bank.end(),
                       [&](const BankEntry& e) { return e.morph->figures == figures; });
}

NextStep after_fit(const ProjectState& state, const FitRecord& fit) {
    if (fit.figures_old) return NextStep::None;  // being touched up
    return is_kept(state, fit) ? NextStep::Deliver : NextStep::KeepMorph;
}

}  // namespace

NextStep next_step(const ProjectState& state) {
    const Subject* subject = state.current();
    if (!state.kit || !subject) return NextStep::None;
    const FitRecord* fit = subject->fit();
    const Source* source = state.source();
    if (!source) {
        if (subject->photo_sets.empty()) return fit ? after_fit(state, *fit) : NextStep::AddSource;
        const bool made = fit && fit->photo_set_id == subject->photo_sets.back().id;
        return made ? after_fit(state, *fit) : NextStep::MakeHead;
    }
    if (fit && fit->source_id == source->id) return after_fit(state, *fit);
    if (source->landmarks.points.size() >= kLeastFitLandmarks) return NextStep::Fit;
    return source->recipe.empty() ? NextStep::Repair : NextStep::FindLandmarks;
}

}  // namespace veld
