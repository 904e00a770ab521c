#pragma once
// Heads from photographs: what the user did becomes looks at the pictures, solves in the background, and changes of
// the document.
#include <QFutureWatcher>
#include <QObject>
#include <QTimer>
#include <memory>

#include "app/session.h"
#include "app/viewport/camera.h"
#include "core/photo/look_at_photos.h"
#include "core/project/photo_fits.h"

namespace veld {

class PhotoController : public QObject {
    Q_OBJECT
   public:
    explicit PhotoController(Session& session, QObject* parent = nullptr);
    ~PhotoController() override;

    // The subject's photo set that is worked on: the chosen fit's own, else the last; null: it has none.
    const PhotoSet* set() const;
    // The chosen fit, when it was made from that set.
    const FitRecord* fit() const;
    // The station shows photographs instead of a scan.
    bool shows_photos() const { return set() && (fit() || !s_.state().source()); }

    // --- which photograph is looked at, and through
    int photo() const { return photo_; }
    void choose_photo(int i);
    QImage picture(int i);                    // upright; null when it cannot be read
    bool looks_through() const { return through_; }
    void look_through(bool on);
    double behind = 1, over = 0;              // opacities of the photograph around and before the mesh
    void set_opacities(double now_behind, double now_over);
    const PhotoCamera* camera(int i) const;   // of the chosen fit, or while it is being solved; null: none yet

    // --- reports
    const LookedAt* looked_at(int i) const;   // null: not yet
    void look();                              // in the background; finds marks as well where there are none

    // --- an outline drawn by hand: clicks on the chosen photograph lay it, or put a point into a line within `reach`
    bool drawing() const { return !drawn_.empty(); }
    void set_drawing(bool on);
    void click(const QPointF& pixel, double reach);
    bool has_outline() const;
    void forget_outlines();
    // the drawn points by the names of their handles; empty while nothing is drawn
    std::vector<std::pair<std::string, QPointF>> outline_handles() const;
    void drag_outline(const std::string& handle, const QPointF& pixel);   // one step back for the whole drag
    void end_drag_outline() { ++outline_drag_; }
    void remove_outline_point(const std::string& handle);

    // --- making
    PhotoFitSettings settings() const;
    void edit(const QString& label, const std::function<void(PhotoFitSettings&)>& change, const std::string& merge = {});
    void make(bool go_on);
    bool making() const { return job_.isRunning(); }
    // The head as it would be with that lens; shown at once, kept when done. mm 0: as the settings have it.
    void try_lens(int photo, double mm, bool done);
    void make_skin(int size);
    void choose_face(int photo, int which);

    // --- by hand
    std::vector<std::string> slider_regions() const;
    double slider(const std::string& region, HandMove move) const;
    void set_slider(const std::string& region, HandMove move, double mm);
    bool keeps(int photo) const;
    void set_keeps(int photo, bool on);
    // dragging places in the view through a photograph
    bool pinning() const { return pinning_; }
    void set_pinning(bool on);
    void begin_pin(const Ray& ray);
    void move_pin(const Ray& ray);
    void end_pin();
    void drop_pins();

    // --- two people
    struct Person {
        std::size_t subject = 0;
        QString name;
        bool has_fit = false;
    };
    std::vector<Person> others() const;       // subjects besides this one that have a fit or photographs
    // The chosen fit and the other's; shown while the slider moves, a new try when kept. A person who has only
    // photographs is made first.
    void show_blend(std::size_t subject, double share);
    void keep_blend(std::size_t subject, double share, bool skins);

   signals:
    void changed();
    void live(std::shared_ptr<veld::Points> positions);
    void live_ended();
    void ask_face(int photo, int faces);      // several faces of nearly one size

   private:
    struct Known {                            // what a set's photographs showed, kept while the program runs
        std::shared_ptr<const std::vector<Image>> photos;
        std::vector<LookedAt> looked;
    };
    struct Space {
        std::shared_ptr<const BaseKit> kit;
        std::vector<std::shared_ptr<const Morph>> heads;   // held, so that another morph of the same name is another one
        double neck_band_mm = 0;
        ShapeSpace space;
        BaseRegions regions;
        std::unique_ptr<HandSliders> sliders;
    };
    struct Job {
        enum class Kind { Look, Make, Skin, Blend } kind = Kind::Look;
        ProjectState state;                       // when it began
        std::string set;
        std::shared_ptr<Known> known;             // null in: looked at by the job
        std::shared_ptr<const Space> space;       // null in: made by the job
        PhotoFitSettings settings;
        std::vector<int> faces;
        bool go_on = false, skins = false;
        int skin_size = 2048;
        std::size_t other = 0;                    // subject, of a blend
        double share = 0.5;
        Result<PhotoFit> fit{Error{}};
        Result<FirstSkin> skin{Error{}};
        std::shared_ptr<FitRecord> other_fit;     // made for a blend
        Error error;                              // code None: none
        bool failed = false;
    };
    std::shared_ptr<Known> known() const;
    PhotoMarks* edited_marks(ProjectState& next);
    const PhotoMarks* marks() const;          // the chosen photograph's; null: none yet
    std::shared_ptr<const Space> space_for(const PhotoFitSettings& settings) const;
    void start(std::shared_ptr<Job> job);
    void finish();
    void finish_look(Job& job);
    void finish_make(Job& job);
    void finish_skin(Job& job);
    void finish_blend(Job& job);
    void run_lens();
    PhotoFitInput input_of(const PhotoFitSettings& settings, const Known& known, const Space& space) const;

    Session& s_;
    int photo_ = 0;
    bool through_ = false, pinning_ = false;
    std::string drawn_;                       // the curve that clicks go on with; empty: none
    int outline_drag_ = 0;
    std::vector<std::shared_ptr<Known>> known_;
    std::shared_ptr<const Space> space_;
    std::map<const Image*, QImage> pictures_;
    std::map<std::string, std::vector<int>> faces_;   // chosen faces per set
    QFutureWatcher<void> job_;
    std::shared_ptr<Job> now_;
    // a lens that is being tried
    QFutureWatcher<std::shared_ptr<Result<PhotoFit>>> lens_job_;
    struct Lens {
        int photo = 0;
        double mm = 0;
        bool done = false;
    };
    std::optional<Lens> wanted_lens_, running_lens_;
    std::vector<PhotoCamera> lens_cameras_;
    // a place that is being dragged
    std::unique_ptr<PinDrag> drag_;
    std::optional<PhotoPin> pin_;
    std::shared_ptr<Points> dragged_;
};

}  // namespace veld
