#pragma once
// Touch up: strokes on the fit, and the layer that keeps them apart from it.
#include <QObject>
#include <QTimer>

#include "app/session.h"
#include "app/views/camera.h"
#include "core/touchup/brush.h"
#include "core/touchup/layer.h"

namespace veld {

class TouchController : public QObject {
    Q_OBJECT
 public:
    explicit TouchController(Session& session, QObject* parent = nullptr);

    // --- what the next stroke does
    BrushSettings brush;
    void set_brush(Brush kind);
    void set_size(double mm);
    void set_only_in(const std::set<std::string>& regions);  // of the kit; empty: everywhere
    const std::set<std::string>& only_in() const { return only_in_; }

    // Gets ready for the current fit: in the background, strokes may begin before.
    void enter();
    // Why nothing can be touched; empty: it can.
    QString why_not() const;

    // --- strokes, on the fit as the view shows it (kit frame)
    void begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray, double pressure);
    void end_stroke();
    void drop_stroke();  // as if it had not begun
    bool stroking() const { return stroking_; }
    const Points& positions() const { return now_; }  // while a stroke runs
    // mm to the source for the vertices of the last stroked(), NaN where nothing is compared
    const std::vector<float>& distances() const { return distances_; }

    // --- the layer
    void set_amount(double amount);
    void set_on(bool on);
    void wipe(const std::string& region);  // empty: all of it
    int touched_vertices() const;

 signals:
    void stroked(const veld::VertexIndices& moved);
    void changed();  // brush, regions

 private:
    void apply(double pressure);
    void edit_layer(const QString& label, TouchLayer layer, const std::string& merge_key);
    void report_moved(const std::vector<Touched>& reached);

    Session& s_;
    std::shared_ptr<const TouchBase> base_;
    std::shared_ptr<const BaseKit> base_kit_;
    std::set<std::string> only_in_;
    std::vector<float> mask_;
    bool stroking_ = false;
    std::shared_ptr<const Points> stroke_on_;  // the fit's positions when the stroke began
    BrushSettings used_;                       // in this stroke: a held key may change the brush
    Points start_, now_;
    std::vector<Touched> reached_;  // of grab: found once, when the stroke begins
    TouchPlace place_;
    Ray ray_;
    double last_pressure_ = 1;
    std::vector<float> distances_;
    QTimer measure_timer_;
};

}  // namespace veld
