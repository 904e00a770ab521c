#include "app/session_parts.h"

#include <QFileInfo>
#include <algorithm>

#include "core/base/file.h"
#include "core/io/gather.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {
constexpr int kInboxMs = 800;
constexpr int kFollowAfterMs = 250;  // of rest
constexpr std::size_t kKeptSources = 3;
constexpr Index kPreparedAtOnce = 20'000;  // faces
}  // namespace

Session::Session(QObject* parent)
    : QObject(parent),
      fit_cache_(std::make_unique<KeptFitCache>()),
      files_(std::make_unique<FileDialogs>()),
      saver_(std::make_unique<Saver>()) {
    document_.changed = [this] { refresh(); };
    document_.lost = [this] {
        emit failed(tr("This earlier state cannot be read back: its temporary file is gone. Nothing was changed."));
    };
    connect(&jobs_, &Jobs::changed, this, &Session::busy_changed);
    connect(&inbox_timer_, &QTimer::timeout, this, &Session::look_into_inbox);
    inbox_timer_.start(kInboxMs);
    autosave_timer_.setInterval(autosave_ms_);
    connect(&autosave_timer_, &QTimer::timeout, this, &Session::autosave);
    autosave_timer_.start();
    follow_timer_.setSingleShot(true);
    follow_timer_.setInterval(kFollowAfterMs);
    connect(&follow_timer_, &QTimer::timeout, this, [this] {
        if (follow_changes_ && can_go_on() && outdated(state())) start_fit(FitRun::Follow);
    });
}

Session::~Session() { end(); }

// Whoever listens may be half gone by now: nothing is said any more. What was asked to be written is.
void Session::end() {
    if (ended_) return;
    ended_ = true;
    blockSignals(true), jobs_.blockSignals(true), saver_->blockSignals(true);
    jobs_.drop_all();
    jobs_.wait_all();
    saver_->wait();
    let_recovery_go();
}

void Session::change(const QString& label, ProjectState&& next, const std::string& merge_key) {
    document_.apply(label.toStdString(), std::move(next), merge_key);
}

// Nothing of the old project may reach the new one: neither its jobs nor what is selected, shown or half done.
void Session::begin_project(ProjectState&& state, const QString& path) {
    jobs_.drop_all();
    let_recovery_go();
    project_ = ProjectId::make();
    path_ = path;
    autosave_found_ = false;
    autosave_trouble_.clear();
    selected_.clear(), also_.clear();
    photo_.reset(), preview_.reset(), preparing_.reset();
    *fit_cache_ = {};
    follow_changes_ = false;
    follow_timer_.stop();
    deliveries_.clear(), inbox_.reset();
    autosaved_serial_ = 0;
    emit project_changed();
    document_.reset(std::move(state));
    emit inbox_changed();
}

Status Session::new_from_kit(const std::string& folder) {
    auto kit = read_base_kit(folder);
    if (!kit) return kit.error();
    ProjectState state = new_project(std::make_shared<BaseKit>(std::move(*kit)));
    state.subjects.push_back({"Subject 1", {}, {}});
    begin_project(std::move(state), {});
    return Done{};
}

Status Session::open(const QString& path, bool autosaved, const std::string& kit_folder) {
    saver_->wait();  // it may be this very file
    auto loaded = load_project(path.toStdString(), autosaved ? SaveSlot::Autosave : SaveSlot::Saved, kit_folder);
    if (!loaded) return loaded.error();
    const bool newer = loaded->autosave_is_newer;
    begin_project(std::move(loaded->state), QFileInfo(path).absoluteFilePath());
    autosave_found_ = newer;
    if (autosaved) document_.apply("Recovered from autosave", document_.state());
    return Done{};
}

Status Session::open_untitled(const QString& path) {
    auto loaded = load_project(path.toStdString());
    if (!loaded) return loaded.error();
    begin_project(std::move(loaded->state), {});
    return Done{};
}

QString Session::title() const {
    const QString name = path_.isEmpty() ? tr("untitled") : QFileInfo(path_).completeBaseName();
    return name + (document_.is_modified() ? " *" : "");
}

QString Session::subject_name(SubjectId id) const {
    const Subject* subject = find_subject(state(), id);
    return subject ? QString::fromStdString(subject->name) : QString();
}

void Session::refresh() {
    const ProjectState& s = state();
    if (s.kit != shown_kit_) {
        shown_kit_ = s.kit;
        base_query_ =
            s.kit ? std::make_unique<SurfaceQuery>(s.kit->mesh.positions, s.kit->triangulation.triangles) : nullptr;
        base_display_ = s.kit ? std::make_shared<DisplayMesh>(s.kit->mesh) : nullptr;
        if (s.kit) base_display_->set_kinds(surface_kinds(*s.kit));
    }
    const Source* source = s.source();
    if (!source)
        prepared_.reset();
    else if (!prepared_ || prepared_->mesh != source->mesh)
        prepare(*source);
    if (source && !(upright_view_ || source->landmarks.points.size() < 3)) {
        const PlaceInput input{s.kit.get(),  s.base_points,   source->landmarks,
                               source->unit, s.settings.part, s.settings.keep_true_size};
        source_to_view_ = preview_placement(input, *source->mesh);
    } else if (source) {
        source_to_view_ = source->upright;
    }
    preview_.reset();
    if (photo_ && !photo_bytes()) photo_.reset();  // undone, or another subject
    if (follow_changes_) follow_timer_.start();
    emit changed();
}

// What would be felt is made in the background: until then there is no surface to look at or to pick on.
void Session::prepare(const Source& source) {
    const auto known = std::find_if(prepared_cache_.begin(), prepared_cache_.end(),
                                    [&](const auto& p) { return p->mesh == source.mesh; });
    if (known != prepared_cache_.end()) {
        prepared_ = *known;
    } else if (source.mesh->face_count() <= kPreparedAtOnce) {
        keep_prepared(prepared_ = prepare_for_window(source.mesh));
    } else {
        prepared_.reset();
        if (preparing_ == source.mesh) return;
        preparing_ = source.mesh;
        jobs_.start<std::shared_ptr<PreparedSource>>(
            {JobKind::Prepare, tr("Preparing %1").arg(QString::fromStdString(source.name)), subject(), true},
            [mesh = source.mesh](const Progress&) -> Result<std::shared_ptr<PreparedSource>> {
                return prepare_for_window(mesh);
            },
            [this, mesh = source.mesh](Result<std::shared_ptr<PreparedSource>>&& made) {
                if (preparing_ == mesh) preparing_.reset();
                if (!made) return say_why_not(made.error());
                keep_prepared(*made);
                const Source* now = state().source();
                if (!now || now->mesh != mesh || prepared_ == *made) return;  // another one is looked at by now
                prepared_ = std::move(*made);
                emit changed();
            });
    }
}

void Session::keep_prepared(const std::shared_ptr<PreparedSource>& prepared) {
    prepared_cache_.push_back(prepared);
    // heavy ones are prepared anew rather than kept
    const auto heavy = [](const auto& p) { return p->mesh->face_count() > kHeavyFaces; };
    if (prepared_cache_.size() > (heavy(prepared_cache_.front()) ? 1 : kKeptSources))
        prepared_cache_.erase(prepared_cache_.begin());
}

const Source* Session::preview() const { return preview_ ? &preview_->source : nullptr; }

std::shared_ptr<const PreparedSource> Session::shown_source() const {
    return preview_ && preview_->prepared ? preview_->prepared : prepared_;
}

void Session::select(const std::string& landmark) {
    if (landmark == selected_ && also_.empty()) return;
    selected_ = landmark;
    also_.clear();
    emit selection_changed();
}

void Session::load_sources(const QStringList& given) {
    if (!has_kit() || refuse_while_busy()) return;
    QStringList pictures, meshes;
    for (const QString& path : given) (is_picture_name(path.toStdString()) ? pictures : meshes) << path;
    if (!pictures.isEmpty()) add_photos(pictures);
    if (meshes.isEmpty()) return;
    JobInfo info{JobKind::Read, tr("Reading %1").arg(QFileInfo(meshes.first()).fileName()), subject()};
    for (const QString& path : meshes) info.memory_bytes += 12 * static_cast<std::size_t>(QFileInfo(path).size());
    jobs_.start<Loaded>(
        std::move(info),
        [meshes, kit = state().kit](const Progress& progress) -> Result<Loaded> {
            Loaded out;
            for (const QString& path : meshes) {
                Gathered gathered = gather(path.toStdString(), progress);
                out.errors.insert(out.errors.end(), gathered.errors.begin(), gathered.errors.end());
                for (GatheredMesh& mesh : gathered.meshes) {
                    Source source = make_source(std::move(mesh), *kit);
                    out.prepared.push_back(prepare_for_window(source.mesh));
                    out.sources.push_back(std::move(source));
                }
            }
            return out;
        },
        [this, to = subject()](Result<Loaded>&& loaded) { finish_load(to, std::move(loaded)); });
}

// Where something that was read for `wanted` goes; null: that subject is gone.
Subject* Session::subject_to_fill(ProjectState& next, SubjectId wanted) {
    if (wanted) return find_subject(next, wanted);
    if (next.subjects.empty()) next.subjects.push_back({"Subject 1", {}, {}});
    if (!next.current()) next.subject = 0;
    return next.current();
}

void Session::finish_load(SubjectId to, Result<Loaded>&& loaded) {
    if (!loaded) return say_why_not(loaded.error());
    for (const auto& p : loaded->prepared) prepared_cache_.push_back(p);
    if (!loaded->sources.empty()) {
        ProjectState next = state();
        Subject* subject = subject_to_fill(next, to);
        if (!subject) return emit noticed(tr("The subject has been removed; nothing was added."));
        for (Source& source : loaded->sources) {
            source.name = free_name(source.name, source_names(*subject));
            subject->sources.push_back(source);
        }
        change(tr("Add %1").arg(QString::fromStdString(loaded->sources.back().name)), std::move(next));
    }
    for (const Error& e : loaded->errors) say_why_not(e);
}

bool Session::refuse_while_busy() {
    if (busy()) emit noticed(tr("Wait until the work on this subject is done, or cancel it."));
    return busy();
}

void Session::say_why_not(const Error& error) {
    if (error.code == ErrorCode::Cancelled || error.code == ErrorCode::Gone)
        emit noticed(QString::fromStdString(error.message));
    else
        report(error);
}

void Session::cancel() {
    jobs_.cancel_of(subject());
    if (subject()) jobs_.cancel_of({});
}

}  // namespace veld
