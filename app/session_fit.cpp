// The session's share in fitting: runs in the background, tries that go on from one another, and the source's
// surface that several of them stand on.
#include "app/session_parts.h"
#include "core/project/pager.h"

namespace veld {
namespace {

constexpr std::size_t kFitBytesPerVertex = 30000;  // of the base: factor, matrix and copies

}  // namespace

const Source* Session::fitted_source() const {
    const FitRecord* fit = state().fit();
    const Source* source = fit ? find_source(state(), fit->source_id) : nullptr;
    return source && source->mesh ? source : nullptr;
}

bool Session::can_go_on() const { return fitted_source() != nullptr && !busy(); }

void Session::set_follow_changes(bool on) {
    follow_changes_ = on;
    if (on) follow_timer_.start();
}

FitCache Session::fit_cache_of(const FitRecord& fit, const Source& source) const {
    FitCache out;
    const bool same_kit = fit_cache_->kit == state().kit && fit_cache_->part == fit.settings.part &&
                          fit_cache_->neck_band_mm == fit.settings.neck_band_mm && !fit.pose;
    if (same_kit) out.creases = fit_cache_->cache.creases;
    if (fit_cache_->mesh == source.mesh && fit_cache_->ignored == source.ignored &&
        fit_cache_->part == fit.settings.part && fit_cache_->to_kit == fit.source_to_kit)
        out.surface = fit_cache_->cache.surface;
    return out;
}

void Session::keep_fit_cache(const FitRecord& fit, const Source& source, FitCache cache) {
    if (source.mesh->face_count() > kHeavyFaces) return;
    *fit_cache_ = {std::move(cache),          source.mesh,      source.ignored, state().kit, fit.settings.part,
                   fit.settings.neck_band_mm, fit.source_to_kit};
}

std::shared_ptr<const SourceSurface> Session::fit_surface() const {
    const Source* source = fitted_source();
    return source ? fit_cache_of(*state().fit(), *source).surface : nullptr;
}

void Session::prepare_fit_cache() {
    const Source* source = fitted_source();
    if (!source || fit_surface() || jobs_.has(JobKind::FitCache) || fitting()) return;
    jobs_.start<KeptFitCache>(
        {JobKind::FitCache, tr("Preparing the source"), subject(), true},
        [source = *source, fit = *state().fit(), kit = state().kit](const Progress&) -> Result<KeptFitCache> {
            KeptFitCache out{{}, source.mesh, source.ignored, kit, fit.settings.part, -1, fit.source_to_kit};
            out.cache.surface = surface_under(source, fit);
            return out;
        },
        [this](Result<KeptFitCache>&& made) {
            if (!made) return say_why_not(made.error());
            *fit_cache_ = std::move(*made);
            emit fit_cache_ready();
        });
}

void Session::start_fit(FitRun run) {
    const Source* source = run == FitRun::New ? state().source() : fitted_source();
    if (!source || busy()) return;
    FitJob job;
    job.run = run, job.subject = subject(), job.source = *source;
    if (run != FitRun::New) job.from = state().fit()->id, job.from_shape = state().fit()->positions;
    const FitCache cache = run == FitRun::New ? FitCache() : fit_cache_of(*state().fit(), *source);
    JobInfo info{JobKind::Fit, tr("Fit of %1").arg(subject_name(job.subject)), job.subject};
    info.memory_bytes = 4 * bytes_of(*source->mesh) + kFitBytesPerVertex * state().kit->mesh.positions.size();
    info.live = [this, of = job.subject](const std::shared_ptr<Points>& x) {
        if (of == subject()) emit live(x);
    };
    jobs_.start<FitResult>(
        std::move(info),
        [run, cache, s = state(), source = *source](const Progress& progress) -> Result<FitResult> {
            FitInput input{s.kit.get(), s.base_points, source.mesh.get(),    source.landmarks,
                           source.unit, s.settings,    source.ignored.get(), s.base_curves};
            input.not_skin = source.not_skin.get();
            const auto start = run == FitRun::New ? std::nullopt : start_from(s, cache);
            return start ? refit(input, *start, progress) : run_fit(input, progress);
        },
        [this, job](Result<FitResult>&& result) { finish_fit(job, std::move(result)); });
}

void Session::finish_fit(const FitJob& job, Result<FitResult>&& result) {
    const auto ended = [&](bool ok) {
        emit busy_changed();
        emit fit_finished(ok);
    };
    if (!result) {
        if (result.error().code == ErrorCode::SidesSwapped)
            emit swap_sides_offered(QString::fromStdString(result.error().message), job.source.id);
        else
            say_why_not(result.error());
        if (job.run == FitRun::Follow) follow_changes_ = false;  // it would only fail again
        return ended(false);
    }
    ProjectState next = state();
    Subject* subject = find_subject(next, job.subject);
    if (!subject || subject_of(next, job.source.id) != subject) {
        emit noticed(tr("What was being fitted has been removed; the fit was discarded."));
        return ended(false);
    }
    FitRecord* from = find_fit(next, job.from);
    if (job.run == FitRun::Follow &&
        (!from || from->positions != job.from_shape)) {  // another change came first: it is followed next
        ended(false);
        if (follow_changes_) follow_timer_.start();
        return;
    }
    const FitCache cache = result->cache;
    // what hands did goes on with the new fit of the same source
    const FitRecord* last = subject->fit();
    const auto touch = last && last->source_id == job.source.id ? last->touch : nullptr;
    FitRecord record = make_record(*next.kit, std::move(*result), job.source, fit_names(*subject), touch);
    keep_fit_cache(record, job.source, cache);
    if (job.run == FitRun::Follow) {
        record.name = from->name, record.id = from->id;
        *from = std::move(record);
        document_.amend(std::move(next));
    } else {
        const bool here = job.subject == this->subject();
        const QString name = QString::fromStdString(subject->name);
        add_fit(*subject, std::move(record));
        const QString label = job.run == FitRun::New ? tr("Fit") : tr("Refine the fit");
        change(here ? label : tr("%1 of %2").arg(label, name), std::move(next));
        if (!here) emit noticed(tr("The fit of %1 is done.").arg(name));
    }
    ended(true);
    if (follow_changes_) follow_timer_.start();  // more may have changed meanwhile
}

}  // namespace veld
