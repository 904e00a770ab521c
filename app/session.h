#pragma once
// The open project in the window: the document, what is selected, long work in the background.
// Station controllers turn what the user did into changes of the document through this.
#include <QObject>
#include <QTimer>
#include <functional>
#include <memory>
#include <set>

#include "app/work/jobs.h"
#include "core/project/document.h"

class QLockFile;

namespace veld {

struct Detection;

class DisplayMesh;
class FileDialogs;
class Inbox;
class Saver;
class SurfaceQuery;
struct Delivery;
struct FaceReference;
struct FitCache;
struct FitResult;
struct Measuring;
struct PreparedSource;
struct SnapSurface;
struct SourceSurface;

class Session : public QObject {
    Q_OBJECT
 public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;
    // Drops what runs, writes what was asked for, and is silent from then on. For who takes the window down.
    void end();

    const ProjectState& state() const { return document_.state(); }
    Document& document() { return document_; }
    bool has_kit() const { return state().kit != nullptr; }
    // next by reference: callers build the label from it in the same call
    void change(const QString& label, ProjectState&& next, const std::string& merge_key = {});

    // --- project
    Status new_from_kit(const std::string& folder);
    // autosave: take the newer autosaved state instead
    Status open(const QString& path, bool autosave = false, const std::string& kit_folder = {});
    // Untitled projects that autosave kept when a program ended without asking, the newest first.
    QStringList recovered() const;
    Status open_recovered(const QString& path);
    static void remove_recovered(const QString& path);
    // In the background; done is told how it went. What is changed meanwhile stays unsaved.
    void save(const QString& path, std::function<void(const Status&)> done);
    // How often what is not saved is kept beside the project; also at once.
    void set_autosave_ms(int ms);
    void autosave();
    // What autosave kept of this state is not wanted.
    void discard_autosave();
    QString path() const { return path_; }
    ProjectId project() const { return project_; }
    Jobs& jobs() { return jobs_; }
    const Jobs& jobs() const { return jobs_; }
    Saver& saver() { return *saver_; }
    FileDialogs& files() { return *files_; }  // asks for them
    // the current subject's; none: there is no subject
    SubjectId subject() const { return state().current() ? state().current()->id : SubjectId{}; }
    QString subject_name(SubjectId id) const;
    // What is in the file as a new project without a name: the file stays as it is.
    Status open_untitled(const QString& path);
    bool autosave_found() const { return autosave_found_; }
    QString title() const;

    // --- sources
    void load_sources(const QStringList& paths);  // in the background; pictures become one photo set
    void add_photos(const QStringList& files);
    // null: there is no source, or it is still being prepared
    const PreparedSource* prepared() const { return prepared_.get(); }
    // for work in the background, which keeps it
    std::shared_ptr<const PreparedSource> shared_prepared() const { return prepared_; }
    const SurfaceQuery* base_query() const { return base_query_.get(); }
    Similarity source_to_view() const { return source_to_view_; }
    std::shared_ptr<DisplayMesh> base_display() const { return base_display_; }

    // --- inbox: a folder that a phone or a rig delivers into
    void set_inbox(const QString& folder);
    const std::vector<Delivery>& deliveries() const { return deliveries_; }
    void take_delivery(const std::string& path);
    void dismiss_delivery(const std::string& path);

    // --- selection
    const std::string& selected() const { return selected_; }
    void select(const std::string& landmark);
    // besides the selected one; moved and turned together with it
    const std::set<std::string>& also_selected() const { return also_; }
    void select_also(const std::set<std::string>& names);

    // --- mark: on the source, or on a photograph of the subject
    struct PhotoPlace {
        PhotoSetId set;
        std::size_t photo = 0;
        bool operator==(const PhotoPlace&) const = default;
    };
    const std::optional<PhotoPlace>& photo() const { return photo_; }
    void look_at_photo(const std::optional<PhotoPlace>& place);
    const Image* photo_bytes() const;  // null when no photograph is looked at
    PhotoMarks photo_marks() const;    // of that photograph
    // The source's surface as snapping sees it; query null when there is none.
    SnapSurface snap_surface() const;
    // Finds landmarks on the source or the photograph, in the background.
    void start_detect();
    void match_all();  // nothing of the active source is ignored any more
    // Joints of the active source, in the background. from_marks: from where they are marked, those placed by hand
    // held; else from nothing. label: of the step; empty: it belongs to the present one.
    void follow_joints(bool from_marks, const QString& label);
    bool detecting() const { return jobs_.has(JobKind::Detect, subject()); }

    // --- tidy: work on a copy of the current source in the background, then put it in its place.
    // preview: only shown, until keep_preview() or drop_preview()
    using SourceWork = std::function<Result<Source>(const Source&, const Progress&)>;
    bool start_tidy(const QString& label, SourceWork work, bool preview = false);
    bool tidying() const { return jobs_.has(JobKind::Tidy, subject()); }
    bool has_preview() const { return preview_ != nullptr; }
    const Source* preview() const;
    void keep_preview();
    void drop_preview();
    // what the views show: the preview, else the source
    std::shared_ptr<const PreparedSource> shown_source() const;
    // in the tidy and gather stations a source stands as it was straightened, else as its landmarks say
    void set_upright_view(bool on);

    // --- fit. New: from the beginning. GoOn: a new try that goes on from the current one. Follow: the current try
    // itself takes in what changed, in the step that changed it.
    enum class FitRun { New, GoOn, Follow };
    void start_fit(FitRun run = FitRun::New);
    bool can_go_on() const;  // there is a try, and its source
    void set_follow_changes(bool on);
    bool follows_changes() const { return follow_changes_; }
    // what works on the current subject, or on the project as a whole
    void cancel();
    // The source's surface as the current fit lies on it, for brushes and colours; null: ask prepare_fit_cache(),
    // which makes it in the background and emits fit_cache_ready().
    std::shared_ptr<const SourceSurface> fit_surface() const;
    void prepare_fit_cache();
    // figures of a touched fit, in the background; arrive in the step that touched it
    void start_measure();
    // heavy work on the current subject; true until its result has arrived in the document
    bool busy() const { return jobs_.busy(subject()); }
    bool fitting() const { return jobs_.has(JobKind::Fit, subject()); }
    // Says so and returns true when the current subject is being worked on.
    bool refuse_while_busy();
    // What came of a job that brought no result: a word for what was cancelled, else the error.
    void say_why_not(const Error& error);

    void report(const Error& error) { emit failed(QString::fromStdString(error.message)); }

 signals:
    void shown_anew();       // other units, colours or another look: what is kept as text is made again
    void changed();          // the document or what is derived from it
    void project_changed();  // another one was opened; comes before changed()
    void selection_changed();
    void busy_changed();
    void live(std::shared_ptr<veld::Points> positions);
    void fit_finished(bool ok);
    void fit_cache_ready();
    void failed(QString message);
    void preview_changed();
    void inbox_changed();
    void tidy_finished(bool ok);
    void detect_finished(bool ok);
    void photo_changed();
    void noticed(QString message);  // worth a line in the status bar
    void swap_sides_offered(QString message, veld::SourceId source);

 private:
    struct Loaded;
    struct Tidied;
    struct Preview;
    struct Detected;
    struct FitJob;
    struct KeptFitCache;
    void begin_project(ProjectState&& state, const QString& path);
    void refresh();
    void prepare(const Source& source);
    void keep_prepared(const std::shared_ptr<PreparedSource>& prepared);
    bool leave_out_not_skin(const SourceId& id, const Detection& found);
    void finish_detect(SourceId source, const std::optional<PhotoPlace>& on, Result<Detected>&& done);
    using JointMarks = std::map<std::string, JointMark>;
    void finish_joints(SourceId source, const JointMarks& from, const QString& label, Result<JointMarks>&& found);
    void finish_measure(FitId fit, Result<Measuring>&& done);
    void finish_tidy(const QString& label, const std::shared_ptr<const Mesh>& made_from, bool preview,
                     Result<Tidied>&& done);
    void put_source(const QString& label, const std::shared_ptr<const Mesh>& made_from, Source&& source,
                    const std::shared_ptr<PreparedSource>& prepared);
    void finish_fit(const FitJob& job, Result<FitResult>&& result);
    void finish_load(SubjectId subject, Result<Loaded>&& loaded);
    Subject* subject_to_fill(ProjectState& next, SubjectId wanted);
    void autosave_ended(std::size_t serial, const Status& ok);

    Document document_;
    QString path_;
    bool autosave_found_ = false;
    std::string selected_;
    std::shared_ptr<PreparedSource> prepared_;
    std::vector<std::shared_ptr<PreparedSource>> prepared_cache_;
    std::shared_ptr<const Mesh> preparing_;  // being prepared in the background
    std::shared_ptr<const BaseKit> shown_kit_;
    std::unique_ptr<SurfaceQuery> base_query_;
    std::shared_ptr<DisplayMesh> base_display_;
    Similarity source_to_view_;
    FitCache fit_cache_of(const FitRecord& fit, const Source& source) const;
    void keep_fit_cache(const FitRecord& fit, const Source& source, FitCache cache);
    const Source* fitted_source() const;
    std::unique_ptr<KeptFitCache> fit_cache_;
    bool follow_changes_ = false, upright_view_ = false;
    QTimer follow_timer_;
    std::set<std::string> also_;
    std::optional<PhotoPlace> photo_;
    std::shared_ptr<const FaceReference> reference_;  // of reference_kit_; kept, it is the same for every source
    std::shared_ptr<const BaseKit> reference_kit_;
    std::unique_ptr<Preview> preview_;
    void look_into_inbox();
    void put_photos(SubjectId subject, PhotoSet&& photos);
    void read_photos_for(const std::string& name, const std::vector<std::string>& files, const std::string& delivery);
    std::unique_ptr<Inbox> inbox_;
    std::vector<Delivery> deliveries_;
    std::unique_ptr<FileDialogs> files_;
    QTimer inbox_timer_;
    // --- keeping what is there
    QTimer autosave_timer_;
    int autosave_ms_ = 60000;
    bool ended_ = false;
    ProjectId project_ = ProjectId::make();
    std::uint64_t requests_ = 0;  // of saving, in the order in which they were asked for
    std::size_t autosaved_serial_ = 0;
    QString recovery_path_, autosave_trouble_;  // of an untitled project; what was last said
    std::unique_ptr<QLockFile> recovery_lock_;
    QString own_recovery_path();
    void let_recovery_go();
    // last, so that they end first: what runs may still ask for the rest
    std::unique_ptr<Saver> saver_;
    Jobs jobs_;
};

}  // namespace veld
