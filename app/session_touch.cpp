// The session's share in touching up: the figures of a fit that hands changed are measured again.
#include "app/session_parts.h"

namespace veld {

void Session::start_measure() {
    const FitRecord* fit = state().fit();
    if (!fit || !fit->figures_old || fitting() || jobs_.has(JobKind::Measure, subject())) return;
    auto what = measuring_of(state());
    if (!what) return;
    jobs_.start<Measuring>(
        {JobKind::Measure, tr("Measuring"), subject(), true},
        [what = std::move(*what)](const Progress& progress) -> Result<Measuring> {
            Measuring out = what;
            if (auto ok = measure(out, progress); !ok) return ok.error();
            return out;
        },
        [this, id = fit->id](Result<Measuring>&& done) { finish_measure(id, std::move(done)); });
}

// The figures belong to the step that changed the shape: they arrive in it and are no step of their own.
void Session::finish_measure(FitId id, Result<Measuring>&& done) {
    ProjectState next = state();
    FitRecord* fit = find_fit(next, id);
    if (!done || !fit) return;
    if (fit->positions != done->record.positions) return start_measure();  // changed meanwhile
    fit->figures = done->record.figures;
    fit->distances = done->record.distances;
    fit->figures_old = false;
    document_.amend(std::move(next));
}

}  // namespace veld
