#pragma once
// Tidy: what strokes, outlines, clicks and buttons on a raw source do to the document.
#include <QObject>

#include "app/session.h"
#include "app/views/viewport.h"
#include "core/base/similarity.h"
#include "core/spatial/surface_query.h"

namespace veld {

// What the left button does in the view.
enum class TidyMode {
    Turn,
    Rectangle,
    Lasso,
    Brush,
    Joined,
    Even,
    Colour,
    IgnoreBrush,
    MatchBrush,
    SmoothBrush,
    CutLine,
    FacePoints,
    FloorPoints
};

class TidyController : public QObject {
    Q_OBJECT
 public:
    explicit TidyController(Session& session, QObject* parent = nullptr);

    void set_mode(TidyMode mode);
    TidyMode mode() const { return mode_; }
    Gesture gesture() const;
    // how the modes work
    double brush_mm = 12, brush_strength = 60, even_degrees = 25, colour_tolerance = 12;
    bool front_only = true;
    void set_brush_size(double mm);

    // --- selection
    const FaceMask& selected();  // faces of the current source; empty: nothing
    std::size_t selected_count();
    void select(const SelectStep& step, const QString& label);
    void select_simple(SelectKind kind, const QString& label);
    void clear_selection();

    // --- what happens in the view
    void begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray, double pressure);
    void end_stroke();
    void outline(const std::vector<Vec2>& clip, const std::array<double, 16>& view, Qt::KeyboardModifiers keys);
    void click(const Ray& ray, Qt::KeyboardModifiers keys);
    void cut_line(const Ray& from, const Ray& to);
    const Points& picked() const { return picked_; }  // places picked so far, view frame
    QString prompt() const;                           // what to click next; empty: nothing

    // --- steps
    void ask_for_tool(Tool tool) { emit tool_asked_for(tool); }
    void run(TidyStep step, bool preview);  // the selection is taken along
    void redo_from_file();
    void run_recipe_file(const QString& path);
    Status write_recipe(const QString& path) const;
    Status write_source(const QString& path, bool upright) const;
    // faces that a tool would take away with these numbers, for the live highlight; empty: not that kind
    const FaceMask& would_remove(const TidyStep& step);

 signals:
    void cut_drawn(veld::Vec3 point, veld::Vec3 normal);  // upright mm; what lies along the normal stays
    void changed();                                       // mode, picked points, selection
    void tool_asked_for(veld::Tool tool);                 // by another station

 private:
    Combine combine_of(Qt::KeyboardModifiers keys, Combine plain) const;
    bool hit(const Ray& ray, Vec3& upright_mm, SurfaceHit* on_shown = nullptr) const;
    void take_point(const Vec3& p);
    void pick_colour(const SurfaceHit& hit, Qt::KeyboardModifiers keys);

    Session& s_;
    TidyMode mode_ = TidyMode::Turn;
    SelectStep stroke_;
    bool stroking_ = false;
    Points picked_;
    SourceId gesture_on_;  // what is picked or painted on
    FaceMask mask_;
    std::shared_ptr<const Mesh> mask_mesh_;
    Similarity mask_frame_;
    std::vector<SelectStep> mask_steps_;
    // what would_remove() found last, and for what
    FaceMask lit_;
    std::shared_ptr<const Mesh> lit_mesh_;
    Similarity lit_frame_;
    TidyStep lit_step_;
};

}  // namespace veld
