#pragma once
// Heads from photographs: what the user did becomes looks at the pictures, solves in the background, and changes of
// the document.
#include <QImage>
#include <QObject>
#include <QTimer>
#include <memory>

#include "app/session.h"
#include "app/stations/fit/photo_work.h"
#include "app/views/camera.h"
#include "core/photo/by_hand.h"

namespace veld {

class PhotoController : public QObject {
    Q_OBJECT
 public:
    explicit PhotoController(Session& session, QObject* parent = nullptr);

    // The subject's photo set that is worked on: the current fit's own, else the last; null: it has none.
    const PhotoSet* set() const;
    // The current fit, when it was made from that set.
    const FitRecord* fit() const;
    // The station shows photographs instead of a scan.
    bool shows_photos() const { return set() && (fit() || !s_.state().source()); }

    // --- which photograph is looked at, and through
    int photo() const { return photo_; }
    void select_photo(int i);
    QImage picture(int i);  // upright; null when it cannot be read
    bool looks_through() const { return through_; }
    void look_through(bool on);
    double behind = 1, over = 0.5;  // opacities of the photograph around and before the mesh
    void set_opacities(double now_behind, double now_over);
    const PhotoCamera* camera(int i) const;  // of the current fit, or while it is being solved; null: none yet

    // --- reports
    const LookedAt* looked_at(int i) const;  // null: not yet
    void look();                             // in the background; finds marks as well where there are none

    // --- an outline drawn by hand: clicks on the current photograph lay it, or put a point into a line within `reach`
    bool drawing() const { return !drawn_.empty(); }
    void set_drawing(bool on);
    void click(const QPointF& pixel, double reach);
    bool has_outline() const;
    void forget_outlines();
    // the drawn points by the names of their handles; empty while nothing is drawn
    std::vector<std::pair<std::string, QPointF>> outline_handles() const;
    void drag_outline(const std::string& handle, const QPointF& pixel);  // one step back for the whole drag
    void end_drag_outline() { ++outline_drag_; }
    void remove_outline_point(const std::string& handle);

    // --- making
    PhotoHeadSettings settings() const;
    void edit(const QString& label, const std::function<void(PhotoHeadSettings&)>& change,
              const std::string& merge = {});
    void make(bool go_on);
    bool making() const { return s_.jobs().has(JobKind::Photos, s_.subject()); }
    // The head as it would be with that lens; shown at once, kept when done. mm 0: as the settings have it.
    void try_lens(int photo, double mm, bool done);
    void select_face(PhotoSetId set, int photo, int which);

    // --- by hand
    std::vector<std::string> slider_regions() const;
    double slider(const std::string& region, HandMove move) const;
    void set_slider(const std::string& region, HandMove move, double mm);
    bool keeps(int photo) const;
    void set_keeps(int photo, bool on);
    // dragging places in the view through a photograph
    bool placing() const { return placing_; }
    void set_placing(bool on);
    void begin_place(const Ray& ray);
    void move_place(const Ray& ray);
    void end_place();
    void drop_pins();

    // --- two people
    struct Person {
        SubjectId subject;
        QString name;
        bool has_fit = false;
    };
    std::vector<Person> others() const;  // subjects besides this one that have a fit or photographs
    // The current fit and the other's; shown while the slider moves, a new try when kept. A person who has only
    // photographs is made first.
    void show_blend(SubjectId subject, double share);
    void keep_blend(SubjectId subject, double share, bool skins);

 signals:
    void changed();
    void live(std::shared_ptr<veld::Points> positions);
    void live_ended();
    void skin_wanted();                                         // the photographs as a layer of the subject's skin
    void ask_face(veld::PhotoSetId set, int photo, int faces);  // several faces of nearly one size

 private:
    std::shared_ptr<KnownPhotos> known() const;
    PhotoMarks* edited_marks(ProjectState& next);
    const PhotoMarks* marks() const;  // the current photograph's; null: none yet
    std::shared_ptr<const HeadSpace> space_for(const PhotoHeadSettings& settings) const;
    void start(PhotoTask task);
    void finish(const PhotoTask& task, Result<PhotoOutcome>&& outcome);
    bool asked_for_a_face(const PhotoTask& task, const KnownPhotos& known);
    void finish_make(const PhotoTask& task, PhotoOutcome& outcome);
    void finish_blend(const PhotoTask& task, PhotoOutcome& outcome);
    void run_lens();
    void let_lens_go();
    bool lens_is_for_this() const;  // the fit that the lens is tried on is still the one worked on

    Session& s_;
    int photo_ = 0;
    bool through_ = false, placing_ = false;
    std::string drawn_;  // the curve that clicks go on with; empty: none
    int outline_drag_ = 0;
    std::vector<std::shared_ptr<KnownPhotos>> known_;
    std::shared_ptr<const HeadSpace> space_;
    struct Picture {
        std::shared_ptr<const std::vector<Image>> of;  // held: another set never has the same address
        std::size_t photo = 0;
        QImage image;
    };
    std::vector<Picture> pictures_;
    std::map<PhotoSetId, std::vector<int>> faces_;  // selected faces per set
    // a lens that is being tried on a fit
    struct Lens {
        FitId fit;
        int photo = 0;
        double mm = 0;
        bool operator==(const Lens&) const = default;
    };
    std::optional<Lens> wanted_lens_, running_lens_, shown_lens_;
    std::vector<PhotoCamera> lens_cameras_;
    // a place that is being dragged
    std::unique_ptr<PinDrag> drag_;
    std::optional<PhotoPlace> place_;
    std::shared_ptr<Points> dragged_;
    FitId drag_on_;  // the fit and its shape that the hand took hold of
    std::shared_ptr<const Points> drag_shape_;
    std::shared_ptr<const HeadSpace> drag_space_;
};

}  // namespace veld
