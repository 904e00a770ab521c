#include "app/session.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <QtConcurrentRun>
#include <algorithm>

#include "core/io/file.h"

namespace veld {
namespace {
constexpr int kAutosaveMs = 60000;
constexpr int kInboxMs = 800;
constexpr int kFollowAfterMs = 250;   // of rest
constexpr std::size_t kKeptSources = 3;
}  // namespace

Session::Session(QObject* parent) : QObject(parent) {
    document_.changed = [this] { refresh(); };
    document_.lost = [this] { emit failed(tr("This earlier state cannot be read back: its temporary file is gone. Nothing was changed.")); };
    connect(&watcher_, &QFutureWatcherBase::finished, this, &Session::finish_fit);
    connect(&loader_, &QFutureWatcherBase::finished, this, &Session::finish_load);
    connect(&tidier_, &QFutureWatcherBase::finished, this, &Session::finish_tidy);
    connect(&detector_, &QFutureWatcherBase::finished, this, &Session::finish_detect);
    connect(&measurer_, &QFutureWatcherBase::finished, this, &Session::finish_measure);
    connect(&ground_maker_, &QFutureWatcherBase::finished, this, [this] {
        ground_ = *ground_maker_.result();
        emit ground_ready();
    });
    connect(&inbox_timer_, &QTimer::timeout, this, &Session::look_into_inbox);
    inbox_timer_.start(kInboxMs);
    autosave_timer_.setInterval(kAutosaveMs);
    connect(&autosave_timer_, &QTimer::timeout, this, &Session::autosave);
    autosave_timer_.start();
    follow_timer_.setSingleShot(true);
    follow_timer_.setInterval(kFollowAfterMs);
    connect(&follow_timer_, &QTimer::timeout, this, [this] {
        if (follow_changes_ && can_go_on() && outdated(state())) start_fit(FitRun::Follow);
    });
}

Session::~Session() {
    cancel_ = true;
    watcher_.waitForFinished();
    loader_.waitForFinished();
    tidier_.waitForFinished();
    detector_.waitForFinished();
    measurer_.waitForFinished();
    ground_maker_.waitForFinished();
}

void Session::change(const QString& label, ProjectState&& next, const std::string& merge_key) {
    document_.apply(label.toStdString(), std::move(next), merge_key);
}

Status Session::new_from_kit(const std::string& folder) {
    auto kit = read_base_kit(folder);
    if (!kit) return kit.error();
    ProjectState state = new_project(std::make_shared<BaseKit>(std::move(*kit)));
    state.subjects.push_back({"Subject 1", {}, {}});
    path_.clear();
    autosave_found_ = false;
    selected_.clear();
    document_.reset(std::move(state));
    return Done{};
}

Status Session::open(const QString& path, bool autosaved, const std::string& kit_folder) {
    auto loaded = load_project(path.toStdString(), autosaved ? SaveSlot::Autosave : SaveSlot::Saved, kit_folder);
    if (!loaded) return loaded.error();
    path_ = QFileInfo(path).absoluteFilePath();
    autosave_found_ = loaded->autosave_is_newer;
    selected_.clear();
    document_.reset(std::move(loaded->state));
    if (autosaved) document_.apply("Recovered from autosave", document_.state());
    return Done{};
}

QString Session::recovered_path() const {
    const QString path = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovered/untitled.veldstone";
    return QFileInfo::exists(path) ? path : QString();
}

Status Session::open_recovered() {
    if (auto ok = open(recovered_path(), true); !ok) return ok;
    path_.clear();   // it has no place of its own yet
    autosave_found_ = false;
    emit changed();
    return Done{};
}

Status Session::save(const QString& path) {
    if (auto ok = save_project(path.toStdString(), state()); !ok) return ok;
    path_ = QFileInfo(path).absoluteFilePath();
    document_.mark_saved();
    autosaved_serial_ = document_.serial();
    emit changed();
    return Done{};
}

QString Session::title() const {
    const QString name = path_.isEmpty() ? tr("untitled") : QFileInfo(path_).completeBaseName();
    return name + (document_.is_modified() ? " *" : "");
}

void Session::autosave() {
    if (!has_kit() || !document_.is_modified() || document_.serial() == autosaved_serial_ || busy()) return;
    QString path = path_;
    if (path.isEmpty()) {
        const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovered";
        QDir().mkpath(folder);
        path = folder + "/untitled.veldstone";
    }
    autosaved_serial_ = document_.serial();
    // the state is a value of shared, unchanging parts: it can be written while the user goes on
    (void)QtConcurrent::run([this, path, copy = state()] {
        const auto ok = save_project(path.toStdString(), copy, SaveSlot::Autosave);
        if (!ok) QMetaObject::invokeMethod(this, [this, e = ok.error()] { emit noticed(tr("Autosave did not work: %1").arg(QString::fromStdString(e.message))); });
    });
}

void Session::refresh() {
    const ProjectState& s = state();
    if (s.kit != shown_kit_) {
        shown_kit_ = s.kit;
        base_query_ = s.kit ? std::make_unique<SurfaceQuery>(s.kit->mesh.positions, s.kit->triangulation.triangles) : nullptr;
        base_display_ = s.kit ? std::make_shared<DisplayMesh>(s.kit->mesh) : nullptr;
    }
    const Source* source = s.source();
    if (!source) {
        prepared_.reset();
    } else if (!prepared_ || prepared_->mesh != source->mesh) {
        const auto known = std::find_if(prepared_cache_.begin(), prepared_cache_.end(), [&](const auto& p) { return p->mesh == source->mesh; });
        prepared_ = known != prepared_cache_.end() ? *known : prepare_for_window(source->mesh);
        if (known == prepared_cache_.end()) prepared_cache_.push_back(prepared_);
        // heavy ones are prepared anew rather than kept
        const auto heavy = [](const auto& p) { return p->mesh->face_count() > kHeavyFaces; };
        if (prepared_cache_.size() > (heavy(prepared_cache_.front()) ? 1 : kKeptSources)) prepared_cache_.erase(prepared_cache_.begin());
    }
    if (source && !(upright_view_ || source->landmarks.points.size() < 3)) {
        const PlaceInput input{s.kit.get(), s.base_points, source->landmarks, source->unit, s.settings.part, s.settings.keep_true_size};
        source_to_view_ = preview_placement(input, *source->mesh);
    } else if (source) {
        source_to_view_ = source->upright;
    }
    preview_.reset();
    if (photo_ && !photo_bytes()) photo_.reset();   // undone, or another subject
    if (follow_changes_) follow_timer_.start();
    emit changed();
}

void Session::select(const std::string& landmark) {
    if (landmark == selected_ && also_.empty()) return;
    selected_ = landmark;
    also_.clear();
    emit selection_changed();
}

void Session::load_sources(const QStringList& given) {
    if (busy()) {
        emit noticed(tr("Wait until the running work is done, or cancel it."));
        return;
    }
    QStringList pictures, meshes;
    for (const QString& path : given) (is_picture_name(path.toStdString()) ? pictures : meshes) << path;
    if (!pictures.isEmpty()) add_photos(pictures);
    if (meshes.isEmpty()) return;
    const QStringList& paths = meshes;
    loading_ = true;
    cancel_ = false;
    loader_.setFuture(QtConcurrent::run([paths, kit = state().kit, progress = worker_progress()]() -> std::shared_ptr<Loaded> {
        auto out = std::make_shared<Loaded>();
        for (const QString& path : paths) {
            Gathered gathered = gather(path.toStdString(), progress);
            out->errors.insert(out->errors.end(), gathered.errors.begin(), gathered.errors.end());
            for (GatheredMesh& mesh : gathered.meshes) {
                Source source = make_source(std::move(mesh), *kit);
                out->prepared.push_back(prepare_for_window(source.mesh));
                out->sources.push_back(std::move(source));
            }
        }
        return out;
    }));
    emit busy_changed();
    emit progress(-1, tr("Reading %1").arg(QFileInfo(paths.first()).fileName()));
}

bool Session::begin_work() {
    if (busy()) return false;
    cancel_ = false;
    working_ = true;
    emit busy_changed();
    return true;
}

void Session::end_work() {
    working_ = false;
    emit busy_changed();
}

void Session::finish_load() {
    const auto loaded = loader_.result();
    loading_ = false;
    for (const auto& p : loaded->prepared) prepared_cache_.push_back(p);
    if (!loaded->sources.empty()) {
        ProjectState next = state();
        if (next.subjects.empty()) next.subjects.push_back({"Subject 1", {}, {}});
        if (!next.current()) next.subject = 0;
        Subject& subject = *next.current();
        for (Source& source : loaded->sources) {
            std::vector<std::string> taken;
            for (const Source& other : subject.sources) taken.push_back(other.name);
            source.name = free_name(source.name, taken);
            subject.sources.push_back(source);
        }
        change(tr("Add %1").arg(QString::fromStdString(loaded->sources.back().name)), std::move(next));
    }
    emit busy_changed();
    emit progress(1, {});
    for (const Error& e : loaded->errors) {
        if (e.code == ErrorCode::Cancelled) emit noticed(QString::fromStdString(e.message));
        else report(e);
    }
}

void Session::cancel() { cancel_ = true; }

}  // namespace veld
