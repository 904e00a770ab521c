#pragma once
// Mark: what clicks, drags and keys on landmarks and guide curves do to the document. On the source by
// default; on a photograph when the session looks at one.
#include <QObject>
#include <QPointF>

#include "app/session.h"
#include "app/stations/mark/joint_controller.h"
#include "app/views/camera.h"
#include "core/landmark/plausible.h"

namespace veld {

class MarkController : public QObject {
    Q_OBJECT
 public:
    explicit MarkController(Session& session, QObject* parent = nullptr);

    JointController& joints() { return *joints_; }
    const JointController& joints() const { return *joints_; }

    // The order in which points are asked for: ten that make a good start, then the core, then the rest.
    const std::vector<std::string>& order() const;
    std::vector<std::string> known_points() const;  // of the set that is asked for, then the project's own
    std::vector<std::string> known_curves() const;
    bool is_curve(const std::string& name) const { return s_.state().base_curves.contains(name); }
    bool marked(const std::string& name) const;  // on the source or the photograph
    Trust trust_of(const std::string& name) const;
    bool doubted(const std::string& name) const;
    void ask_for(PointSet set);

    // --- points on surfaces
    void click_source(const Ray& ray);  // sets the selected point, or adds a handle to the selected curve
    void click_base(const Ray& ray);    // a new point of the project's own
    void drag_source(const std::string& name, const Ray& ray);
    void drag_base(const std::string& name, const Ray& ray);
    void end_drag();
    void select_next(int step);  // along points and curves
    void select_next_missing();
    // pixels to the right and upwards on the screen; mm_per_pixel at the point
    void nudge_selected(const Camera& camera, double right_mm, double up_mm);
    void turn_selected(const Camera& camera, double degrees);  // several: about their middle, in the screen's plane
    void size_selected(double factor);
    void erase_selected();
    void mirror_selected();
    void mirror_all_missing();
    void swap_sides();  // of the source that is worked on
    void swap_sides_of(SourceId source);
    void snap_selected();  // to what the definition names
    void toggle_locked();
    void toggle_hidden();
    void show_all();
    void copy_from(SourceId source);  // another source of the subject: its marks, laid over by the kit
    Status read(const QString& path);
    Status write(const QString& path) const;

    // --- what was found by the program
    void accept_selected();
    void accept_within(double mm);
    std::vector<Suspicion> suspicions() const;  // what looks wrong, worst first
    void repair(const Suspicion& finding);
    QString describe(const Suspicion& finding) const;

    // --- curves
    Points handles() const;  // of the selected curve, source coordinates
    std::vector<QPointF> photo_handles() const;
    void begin_own_curve();  // the next clicks on the base lay a new curve
    bool laying_own_curve() const { return own_curve_.has_value(); }
    void finish_own_curve();
    Status rename_own(const std::string& from, const std::string& to);  // an own point or curve, everywhere
    Status keep_own_in_kit();

    // --- on a photograph; pixels of the upright picture
    void click_photo(const QPointF& at);
    void drag_photo(const std::string& name, const QPointF& at);
    void nudge_photo(double right_px, double down_px);

    // Residual of each marked point after placing by all of them, mm; empty below three points.
    std::map<std::string, double> residuals() const;
    QString plain(const std::string& name) const;

    bool snapping = true;  // clicks and drags snap to what the definition names

 private:
    bool possible(const std::string& name) const;  // here, beside what is marked
    bool source_hit(const Ray& ray, Vec3& out) const;
    Vec3 snapped(const std::string& name, const Vec3& p) const;
    Source* edited(ProjectState& next) const;
    PhotoMarks* edited_photo(ProjectState& next) const;
    void set_point(const std::string& name, const Vec3& p, const QString& label, const std::string& merge,
                   Origin origin = Origin::Hand);
    void set_curve(const std::string& name, const Points& handles, const QString& label, const std::string& merge);
    void set_photo(const std::string& name, const std::function<void(PhotoMarks&)>& edit, const QString& label,
                   const std::string& merge);
    void change_trust(const QString& label, const std::function<void(const std::string&, Trust&)>& edit,
                      const std::vector<std::string>& names);
    std::vector<std::string> selection() const;  // the selected one and those besides
    void move_selection(const QString& label, const std::string& merge, const std::function<Vec3(const Vec3&)>& move);
    std::optional<Vec3> middle_of_selection() const;

    Session& s_;
    JointController* joints_;
    Points draft_;  // the first handle of a curve that is not there yet
    std::string draft_of_;
    std::optional<Points> dragged_handles_;  // while a handle is dragged
    std::optional<std::vector<SurfacePoint>> own_curve_;
    // of these places, so that a change of anything else judges nothing again
    mutable std::map<std::string, Vec3> judged_base_, judged_points_;
    mutable std::vector<Suspicion> suspicions_;
};

// Markers of a curve's handles are named so.
std::string handle_name(const std::string& curve, std::size_t handle);
// The handle's number, and the curve's name in `curve`; nothing for other names.
std::optional<std::size_t> handle_of(const std::string& marker, std::string& curve);

}  // namespace veld
