// The session's share in touching up: the figures of a fit that hands changed are measured again.
#include <QtConcurrentRun>

#include "app/session.h"

namespace veld {

void Session::start_measure() {
    const FitRecord* fit = state().fit();
    if (!fit || !fit->figures_old || fitting_ || measurer_.isRunning()) return;
    auto what = measuring_of(state());
    if (!what) return;
    measurer_.setFuture(QtConcurrent::run([job = std::make_shared<Measuring>(std::move(*what))]() -> std::shared_ptr<Measuring> {
        const auto ok = measure(*job, {});
        return ok ? job : nullptr;
    }));
}

// The figures belong to the step that changed the shape: they arrive in it and are no step of their own.
void Session::finish_measure() {
    const auto done = measurer_.result();
    const FitRecord* fit = state().fit();
    if (!done || !fit) return;
    if (fit->positions != done->record.positions) return start_measure();   // changed meanwhile
    ProjectState next = state();
    FitRecord& record = *next.current()->fit();
    record.figures = done->record.figures;
    record.distances = done->record.distances;
    record.figures_old = false;
    document_.amend(std::move(next));
}

}  // namespace veld
