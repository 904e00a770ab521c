// The session's share in fitting: runs in the background, tries that go on from one another, and the source's
// surface that several of them stand on.
#include <QtConcurrentRun>
#include <chrono>

#include "app/session.h"

namespace veld {
namespace {

constexpr int kLiveMs = 180;

bool same_place(const Similarity& a, const Similarity& b) { return a.scale == b.scale && a.rotation == b.rotation && a.translation == b.translation; }

}  // namespace

const Source* Session::fitted_source() const {
    const FitRecord* fit = state().fit();
    if (!fit) return nullptr;
    for (const Source& source : state().current()->sources) {
        if (source.name == fit->source && source.mesh) return &source;
    }
    return nullptr;
}

bool Session::can_go_on() const { return fitted_source() != nullptr && !busy(); }

void Session::set_follow_changes(bool on) {
    follow_changes_ = on;
    if (on) follow_timer_.start();
}

FitGround Session::ground_of(const FitRecord& fit, const Source& source) const {
    FitGround out;
    const bool same_kit = ground_.kit == state().kit && ground_.part == fit.settings.part && ground_.neck_band_mm == fit.settings.neck_band_mm && !fit.pose;
    if (same_kit) out.creases = ground_.ground.creases;
    if (ground_.mesh == source.mesh && ground_.ignored == source.ignored && ground_.part == fit.settings.part && same_place(ground_.to_kit, fit.source_to_kit)) out.surface = ground_.ground.surface;
    return out;
}

void Session::keep_ground(const FitRecord& fit, const Source& source, FitGround ground) {
    if (source.mesh->face_count() > kHeavyFaces) return;
    ground_ = {std::move(ground), source.mesh, source.ignored, state().kit, fit.settings.part, fit.settings.neck_band_mm, fit.source_to_kit};
}

std::shared_ptr<const SourceSurface> Session::fit_surface() const {
    const Source* source = fitted_source();
    return source ? ground_of(*state().fit(), *source).surface : nullptr;
}

void Session::prepare_ground() {
    const Source* source = fitted_source();
    if (!source || fit_surface() || ground_maker_.isRunning() || fitting_) return;
    ground_maker_.setFuture(QtConcurrent::run([source = *source, fit = *state().fit(), kit = state().kit] {
        auto out = std::make_shared<Ground>(Ground{{}, source.mesh, source.ignored, kit, fit.settings.part, -1, fit.source_to_kit});
        out->ground.surface = surface_under(source, fit);
        return out;
    }));
}

void Session::start_fit(FitRun run) {
    const Source* source = run == FitRun::New ? state().source() : fitted_source();
    if (!source || busy()) return;
    cancel_ = false;
    fitting_ = true;
    const FitGround ground = run == FitRun::New ? FitGround() : ground_of(*state().fit(), *source);
    watcher_.setFuture(QtConcurrent::run([this, run, ground, s = state(), source = *source] {
        Progress progress = worker_progress();
        auto last = std::make_shared<std::chrono::steady_clock::time_point>();
        progress.live = [this, last](const Points& x) {
            // a live mesh a few times a second is enough to see where the fit goes
            const auto now = std::chrono::steady_clock::now();
            if (now - *last < std::chrono::milliseconds(kLiveMs)) return;
            *last = now;
            auto copy = std::make_shared<Points>(x);
            QMetaObject::invokeMethod(this, [this, copy] { emit live(copy); });
        };
        const FitInput input{s.kit.get(), s.base_points, source.mesh.get(), source.landmarks, source.unit, s.settings, source.ignored.get(), s.base_curves};
        auto out = std::make_shared<Fitted>();
        out->run = run, out->source = source, out->settings = s.settings;
        if (run != FitRun::New) out->from = s.fit()->positions;
        const auto start = run == FitRun::New ? std::nullopt : start_from(s, ground);
        out->result = start ? refit(input, *start, progress) : run_fit(input, progress);
        return out;
    }));
    emit busy_changed();
}

void Session::finish_fit() {
    const auto done = watcher_.result();
    fitting_ = false;
    if (!done->result) {
        const Error e = done->result.error();
        if (e.code == ErrorCode::Cancelled) emit noticed(QString::fromStdString(e.message));
        else if (e.message.starts_with("Left and right")) emit swap_sides_offered(QString::fromStdString(e.message));
        else report(e);
        if (done->run == FitRun::Follow) follow_changes_ = false;   // it would only fail again
        emit busy_changed();
        emit fit_finished(false);
        return;
    }
    const FitRecord* last = state().fit();
    const Source* now = done->run == FitRun::New ? state().source() : fitted_source();
    const bool gone_on = done->run == FitRun::Follow && (!last || last->positions != done->from);
    ProjectState next = state();
    Subject* subject = next.current();
    if (subject && now && !gone_on) {
        std::vector<std::string> taken;
        for (const FitRecord& f : subject->fits) taken.push_back(f.name);
        const FitGround ground = done->result->ground;
        // what hands did goes on with the new fit of the same source
        const auto touch = last && last->source == done->source.name ? last->touch : nullptr;
        FitRecord record = make_record(*next.kit, std::move(*done->result), done->source, taken, touch);
        keep_ground(record, done->source, ground);
        if (done->run == FitRun::Follow) {
            record.name = last->name;
            *subject->fit() = std::move(record);
            document_.amend(std::move(next));
        } else {
            add_fit(*subject, std::move(record));
            change(done->run == FitRun::New ? tr("Fit") : tr("Go on with the fit"), std::move(next));
        }
    }
    emit busy_changed();
    emit fit_finished(true);
    if (follow_changes_) follow_timer_.start();   // more may have changed meanwhile
}

}  // namespace veld
