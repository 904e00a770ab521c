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

#include "app/viewport/display_mesh.h"
#include "core/landmark/surface_pick.h"
#include "core/project/document.h"
#include "core/project/store.h"

namespace veld {

// A source made ready for looking and picking; built once per mesh, off the interface thread.
struct PreparedSource {
    std::shared_ptr<const Mesh> mesh;
    Triangulation triangulation;
    std::unique_ptr<SurfaceQuery> query;   // in the mesh's own coordinates
    std::shared_ptr<DisplayMesh> display;
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
    Status save(const QString& path);
    QString path() const { return path_; }
    bool autosave_found() const { return autosave_found_; }
    QString title() const;

    // --- sources
    void load_sources(const QStringList& paths);          // in the background
    const PreparedSource* prepared() const { return prepared_.get(); }
    const SurfaceQuery* base_query() const { return base_query_.get(); }
    Similarity source_to_view() const { return source_to_view_; }
    std::shared_ptr<DisplayMesh> base_display() const { return base_display_; }

    // --- selection
    const std::string& selected() const { return selected_; }
    void select(const std::string& landmark);

    // --- fit
    void start_fit();
    void cancel();
    // true until the result has arrived in the document
    bool busy() const { return fitting_ || loading_; }
    bool fitting() const { return fitting_; }

    void report(const Error& error) { emit failed(QString::fromStdString(error.message)); }

   signals:
    void changed();                              // the document or what is derived from it
    void selection_changed();
    void busy_changed();
    void progress(double fraction, QString stage);
    void live(std::shared_ptr<veld::Points> positions);
    void fit_finished(bool ok);
    void failed(QString message);
    void noticed(QString message);               // worth a line in the status bar
    void swap_sides_offered(QString message);

   private:
    struct Loaded {
        std::vector<Source> sources;
        std::vector<std::shared_ptr<PreparedSource>> prepared;
        std::vector<Error> errors;
    };
    void refresh();
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
    QFutureWatcher<std::shared_ptr<Result<FitResult>>> watcher_;
    QFutureWatcher<std::shared_ptr<Loaded>> loader_;
    bool fitting_ = false, loading_ = false;
    std::atomic<bool> cancel_{false};
    std::string fit_source_;
    QTimer autosave_timer_;
    std::size_t autosaved_serial_ = 0;
};

}  // namespace veld
