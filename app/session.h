#pragma once
// The open project in the window: the document, what is selected, long work in the background.
// Station controllers turn what the user did into changes of the document through this.
#include <QFutureWatcher>
#include <QObject>
#include <QTimer>
#include <atomic>
#include <functional>
#include <memory>
#include <mutex>
#include <set>

#include "app/viewport/display_mesh.h"
#include "core/detect/detect.h"
#include "core/detect/photo_face.h"
#include "core/io/surface_colour.h"
#include "core/landmark/snap.h"
#include "core/landmark/surface_pick.h"
#include "core/mesh/stand_in.h"
#include "core/project/document.h"
#include "core/project/fits.h"
#include "core/project/inbox.h"
#include "core/project/sources.h"
#include "core/project/store.h"

namespace veld {

constexpr Index kHeavyFaces = 1'500'000;   // the surface of heavier sources is not kept

// A source made ready for looking and picking; built once per mesh, off the interface thread. Of a
// heavy mesh a light version is shown and asked first; the place that is picked lies on the full one.
struct PreparedSource {
    std::shared_ptr<const Mesh> mesh;      // all of it
    LightMesh light;                       // empty: the mesh itself is shown
    Triangulation triangulation;           // of what is shown
    std::unique_ptr<SurfaceQuery> query;   // of what is shown, in the mesh's own coordinates
    std::shared_ptr<DisplayMesh> display;
    SurfaceColour colour;                  // of what is shown

    const Mesh& shown() const { return light.origin.empty() ? *mesh : light.mesh; }
    // kNone in hit.triangle: nothing there
    SurfaceHit first_hit(const Vec3& origin, const Vec3& direction) const;
    // per vertex of the mesh -> per vertex of what is shown
    VertexMask as_shown(const VertexMask& mask) const;
};
std::shared_ptr<PreparedSource> prepare_for_window(std::shared_ptr<const Mesh> mesh);

class Session : public QObject {
    Q_OBJECT
   public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    const ProjectState& state() const { return document_.state(); }
    Document& document() { return document_; }
    bool has_kit() const { return state().kit != nullptr; }
    // next by reference: callers build the label from it in the same call
    void change(const QString& label, ProjectState&& next, const std::string& merge_key = {});

    // --- project
    Status new_from_kit(const std::string& folder);
    // autosave: take the newer autosaved state instead
    Status open(const QString& path, bool autosave = false, const std::string& kit_folder = {});
    // An untitled project that autosave kept when the program ended without asking; empty: none.
    QString recovered_path() const;
    Status open_recovered();
    Status save(const QString& path);
    QString path() const { return path_; }
    bool autosave_found() const { return autosave_found_; }
    QString title() const;

    // --- sources
    void load_sources(const QStringList& paths);          // in the background; pictures become one photo set
    void add_photos(const QStringList& files);
    const PreparedSource* prepared() const { return prepared_.get(); }
    const SurfaceQuery* base_query() const { return base_query_.get(); }
    Similarity source_to_view() const { return source_to_view_; }
    std::shared_ptr<DisplayMesh> base_display() const { return base_display_; }

    // --- inbox: a folder that a phone or a rig delivers into
    void set_inbox(const QString& folder);
    const std::vector<Delivery>& deliveries() const { return deliveries_; }
    void take_delivery(std::size_t i);
    void dismiss_delivery(std::size_t i);

    // --- selection
    const std::string& selected() const { return selected_; }
    void select(const std::string& landmark);
    // besides the selected one; moved and turned together with it
    const std::set<std::string>& also_selected() const { return also_; }
    void select_also(const std::set<std::string>& names);

    // --- mark: on the source, or on a photograph of the subject
    struct PhotoPlace {
        std::size_t set = 0, photo = 0;
        bool operator==(const PhotoPlace&) const = default;
    };
    const std::optional<PhotoPlace>& photo() const { return photo_; }
    void look_at_photo(const std::optional<PhotoPlace>& place);
    const Image* photo_bytes() const;               // null when no photograph is looked at
    PhotoMarks photo_marks() const;                 // of that photograph
    // The source's surface as snapping sees it; query null when there is none.
    SnapSurface snap_surface() const;
    // Finds landmarks on the source or the photograph, in the background.
    void start_detect();
    bool detecting() const { return detecting_; }

    // --- tidy: work on a copy of the current source in the background, then put it in its place.
    // preview: only shown, until keep_preview() or drop_preview()
    using SourceWork = std::function<Result<Source>(const Source&, const Progress&)>;
    bool start_tidy(const QString& label, SourceWork work, bool preview = false);
    bool tidying() const { return tidying_; }
    bool has_preview() const { return preview_ != nullptr; }
    const Source* preview() const { return preview_ ? &preview_->source : nullptr; }
    void keep_preview();
    void drop_preview();
    // what the views show: the preview, else the source
    const PreparedSource* shown_source() const { return preview_ && preview_->prepared ? preview_->prepared.get() : prepared_.get(); }
    // in the tidy and gather stations a source stands as it was straightened, else as its landmarks say
    void set_upright_view(bool on);

    // --- fit. New: from the beginning. GoOn: a new try that goes on from the chosen one. Follow: the chosen try
    // itself takes in what changed, in the step that changed it.
    enum class FitRun { New, GoOn, Follow };
    void start_fit(FitRun run = FitRun::New);
    bool can_go_on() const;                      // there is a try, and its source
    void set_follow_changes(bool on);
    bool follows_changes() const { return follow_changes_; }
    void cancel();
    // The source's surface as the chosen fit lies on it, for brushes and colours; null: ask prepare_ground(), which
    // makes it in the background and emits ground_ready().
    std::shared_ptr<const SourceSurface> fit_surface() const;
    void prepare_ground();
    // figures of a touched fit, in the background; arrive in the step that touched it
    void start_measure();
    // true until the result has arrived in the document
    bool busy() const { return fitting_ || loading_ || tidying_ || detecting_ || working_; }
    bool fitting() const { return fitting_; }
    // Work that a station's controller does on a thread of its own; one at a time, cancel() stops it.
    bool begin_work();
    void end_work();
    Progress worker_progress();

    void report(const Error& error) { emit failed(QString::fromStdString(error.message)); }

   signals:
    void changed();                              // the document or what is derived from it
    void selection_changed();
    void busy_changed();
    void progress(double fraction, QString stage);
    void live(std::shared_ptr<veld::Points> positions);
    void fit_finished(bool ok);
    void ground_ready();
    void failed(QString message);
    void preview_changed();
    void inbox_changed();
    void tidy_finished(bool ok);
    void detect_finished(bool ok);
    void photo_changed();
    void noticed(QString message);               // worth a line in the status bar
    void swap_sides_offered(QString message);

   private:
    struct Loaded {
        std::vector<Source> sources;
        std::vector<std::shared_ptr<PreparedSource>> prepared;
        std::vector<Error> errors;
    };
    struct Tidied {
        QString label;
        bool preview = false;
        Result<Source> source;
        std::shared_ptr<PreparedSource> prepared;   // null: the mesh is as it was
    };
    struct Preview {
        QString label;
        Source source;
        std::shared_ptr<PreparedSource> prepared;
    };
    struct Detected {
        Result<Detection> scan{Error{}};
        Result<PhotoDetection> photo{Error{}};
        std::optional<PhotoPlace> on;
        std::string source;
        std::size_t subject = 0;
        std::shared_ptr<const FaceReference> reference;
        std::shared_ptr<const BaseKit> kit;
    };
    void refresh();
    void finish_detect();
    void finish_measure();
    void finish_tidy();
    void put_source(const QString& label, Source&& source, const std::shared_ptr<PreparedSource>& prepared);
    void finish_fit();
    void finish_load();
    void autosave();

    Document document_;
    QString path_;
    bool autosave_found_ = false;
    std::string selected_;
    std::shared_ptr<PreparedSource> prepared_;
    std::vector<std::shared_ptr<PreparedSource>> prepared_cache_;
    std::shared_ptr<const BaseKit> shown_kit_;
    std::unique_ptr<SurfaceQuery> base_query_;
    std::shared_ptr<DisplayMesh> base_display_;
    Similarity source_to_view_;
    // what a fit went on with, and what it came from
    struct Fitted {
        Result<FitResult> result{Error{}};
        FitRun run = FitRun::New;
        Source source;
        FitSettings settings;
        std::shared_ptr<const Points> from;   // positions of the try that it went on from
    };
    struct Ground {
        FitGround ground;
        std::shared_ptr<const Mesh> mesh;
        std::shared_ptr<const VertexMask> ignored;
        std::shared_ptr<const BaseKit> kit;
        FitPart part = FitPart::Head;
        double neck_band_mm = 0;
        Similarity to_kit;
    };
    FitGround ground_of(const FitRecord& fit, const Source& source) const;
    void keep_ground(const FitRecord& fit, const Source& source, FitGround ground);
    const Source* fitted_source() const;
    QFutureWatcher<std::shared_ptr<Fitted>> watcher_;
    QFutureWatcher<std::shared_ptr<Ground>> ground_maker_;
    Ground ground_;
    bool follow_changes_ = false;
    QTimer follow_timer_;
    QFutureWatcher<std::shared_ptr<Loaded>> loader_;
    QFutureWatcher<std::shared_ptr<Tidied>> tidier_;
    QFutureWatcher<std::shared_ptr<Detected>> detector_;
    QFutureWatcher<std::shared_ptr<Measuring>> measurer_;
    bool detecting_ = false;
    std::set<std::string> also_;
    std::optional<PhotoPlace> photo_;
    std::shared_ptr<const FaceReference> reference_;     // of reference_kit_; kept, it is the same for every source
    std::shared_ptr<const BaseKit> reference_kit_;
    std::unique_ptr<Preview> preview_;
    bool fitting_ = false, loading_ = false, tidying_ = false, upright_view_ = false, working_ = false;
    std::atomic<bool> cancel_{false};
    void look_into_inbox();
    void put_photos(PhotoSet&& photos);
    std::unique_ptr<Inbox> inbox_;
    std::vector<Delivery> deliveries_;
    QTimer inbox_timer_;
    QTimer autosave_timer_;
    std::size_t autosaved_serial_ = 0;
};

}  // namespace veld
