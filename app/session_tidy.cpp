// The session's share in tidying: work on a source in the background.
#include "app/session_parts.h"
#include "core/project/pager.h"

namespace veld {
bool Session::start_tidy(const QString& label, SourceWork work, bool preview) {
    const Source* source = state().source();
    if (!source || refuse_while_busy()) return false;
    drop_preview();
    JobInfo info{JobKind::Tidy, label, subject()};
    info.memory_bytes = 6 * bytes_of(*source->mesh);
    jobs_.start<Tidied>(
        std::move(info),
        [work = std::move(work), source = *source](const Progress& progress) -> Result<Tidied> {
            auto done = work(source, progress);
            if (!done) return done.error();
            Tidied out{std::move(*done), nullptr};
            if (out.source.mesh != source.mesh) out.prepared = prepare_for_window(out.source.mesh);
            return out;
        },
        [this, label, mesh = source->mesh, preview](Result<Tidied>&& done) {
            finish_tidy(label, mesh, preview, std::move(done));
        });
    return true;
}

void Session::finish_tidy(const QString& label, const std::shared_ptr<const Mesh>& made_from, bool preview,
                          Result<Tidied>&& done) {
    if (!done) {
        say_why_not(done.error());
    } else if (!preview) {
        put_source(label, made_from, std::move(done->source), done->prepared);
    } else if (const Source* now = state().source(); now && now->id == done->source.id && now->mesh == made_from) {
        preview_ = std::make_unique<Preview>(Preview{label, made_from, std::move(done->source), done->prepared});
        source_to_view_ = preview_->source.upright;
        emit preview_changed();
    }  // else another source is looked at by now: there is nothing to preview
    emit busy_changed();
    emit tidy_finished(static_cast<bool>(done));
}

void Session::put_source(const QString& label, const std::shared_ptr<const Mesh>& made_from, Source&& source,
                         const std::shared_ptr<PreparedSource>& prepared) {
    ProjectState next = state();
    Source* old = find_source(next, source.id);
    if (!old || old->mesh != made_from)
        return emit noticed(old ? tr("The source has changed since; the result was discarded.")
                                : tr("The source has been removed; the result was discarded."));
    // landmarks may have been set, or the source renamed, while the work ran
    source.landmarks = old->landmarks, source.name = old->name;
    *old = std::move(source);
    if (prepared) prepared_cache_.push_back(prepared);
    change(label, std::move(next));
}

void Session::keep_preview() {
    if (!preview_) return;
    Preview kept = std::move(*preview_);
    preview_.reset();
    put_source(kept.label, kept.made_from, std::move(kept.source), kept.prepared);
    emit preview_changed();
}

void Session::drop_preview() {
    if (!preview_) return;
    preview_.reset();
    if (const Source* source = state().source()) source_to_view_ = source->upright;
    emit preview_changed();
}

void Session::set_upright_view(bool on) {
    if (upright_view_ == on) return;
    upright_view_ = on;
    drop_preview();
    refresh();
}

}  // namespace veld
