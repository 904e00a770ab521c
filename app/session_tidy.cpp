// The session's share in tidying: looking at heavy sources, working on them in the background.
#include <QtConcurrentRun>

#include "app/session.h"

namespace veld {
namespace {
constexpr std::size_t kLightAbove = 1'200'000;     // triangles
constexpr std::size_t kLightTriangles = 500'000;
}  // namespace

std::shared_ptr<PreparedSource> prepare_for_window(std::shared_ptr<const Mesh> mesh) {
    auto out = std::make_shared<PreparedSource>();
    out->mesh = std::move(mesh);
    if (out->mesh->corner_vertex.size() - 2 * std::size_t{out->mesh->face_count()} > kLightAbove) out->light = light_version(*out->mesh, kLightTriangles);
    out->triangulation = triangulate(out->shown());
    out->query = std::make_unique<SurfaceQuery>(out->shown().positions, out->triangulation.triangles);
    out->display = std::make_shared<DisplayMesh>(out->shown());
    constexpr int kSnapTexture = 4096;   // finer than a hand can point
    out->colour = SurfaceColour(out->shown(), kSnapTexture);
    return out;
}

SurfaceHit PreparedSource::first_hit(const Vec3& origin, const Vec3& direction) const {
    const SurfaceHit hit = query->first_hit(origin, direction);
    if (light.origin.empty() || !hit) return hit;
    return exact_hit(*mesh, origin, direction, hit);
}

VertexMask PreparedSource::as_shown(const VertexMask& mask) const {
    if (light.origin.empty() || mask.empty()) return mask;
    VertexMask out;
    out.reserve(light.origin.size());
    for (Index v : light.origin) out.push_back(mask[v]);
    return out;
}

Progress Session::worker_progress() {
    Progress progress;
    progress.cancelled = [this] { return cancel_.load(); };
    progress.report = [this](double f, const std::string& stage) {
        QMetaObject::invokeMethod(this, [this, f, text = QString::fromStdString(stage)] { emit this->progress(f, text); });
    };
    return progress;
}

bool Session::start_tidy(const QString& label, SourceWork work, bool preview) {
    const Source* source = state().source();
    if (!source) return false;
    if (busy()) {
        emit noticed(tr("Wait until the running work is done, or cancel it."));
        return false;
    }
    drop_preview();
    cancel_ = false;
    tidying_ = true;
    tidier_.setFuture(QtConcurrent::run([work = std::move(work), source = *source, progress = worker_progress(), label, preview] {
        auto out = std::make_shared<Tidied>(Tidied{label, preview, Error{}, nullptr});
        try {
            out->source = work(source, progress);
        } catch (const std::bad_alloc&) {
            out->source = Error{ErrorCode::BadInput, "There is not enough memory for this; nothing was changed. Reduce the mesh first."};
        }
        if (out->source && out->source->mesh != source.mesh) out->prepared = prepare_for_window(out->source->mesh);
        return out;
    }));
    emit busy_changed();
    emit progress(0, label);
    return true;
}

void Session::finish_tidy() {
    const auto done = tidier_.result();
    tidying_ = false;
    emit progress(1, {});
    if (!done->source) {
        const Error e = done->source.error();
        if (e.code == ErrorCode::Cancelled) emit noticed(QString::fromStdString(e.message));
        else report(e);
    } else if (done->preview) {
        preview_ = std::make_unique<Preview>(Preview{done->label, std::move(*done->source), done->prepared});
        source_to_view_ = preview_->source.upright;
        emit preview_changed();
    } else {
        put_source(done->label, std::move(*done->source), done->prepared);
    }
    emit busy_changed();
    emit tidy_finished(static_cast<bool>(done->source));
}

void Session::put_source(const QString& label, Source&& source, const std::shared_ptr<PreparedSource>& prepared) {
    ProjectState next = state();
    Subject* subject = next.current();
    if (!subject) return;
    for (Source& old : subject->sources) {
        if (old.name != source.name) continue;
        // landmarks may have been set while the work ran
        source.landmarks = old.landmarks;
        old = std::move(source);
        if (prepared) prepared_cache_.push_back(prepared);
        return change(label, std::move(next));
    }
    emit noticed(tr("The source was removed meanwhile; the result was dropped."));
}

void Session::keep_preview() {
    if (!preview_) return;
    Preview kept = std::move(*preview_);
    preview_.reset();
    put_source(kept.label, std::move(kept.source), kept.prepared);
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
