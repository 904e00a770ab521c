#pragma once
// The bench: base, source and fit (or mix) side by side, with one camera for all.
#include <QSplitter>
#include <QWidget>

#include "app/stations/mark/mark_controller.h"
#include "app/viewport/viewport.h"

namespace veld {

enum class Station { Gather, Mark, Fit, Bank, Deliver };

class Bench : public QWidget {
    Q_OBJECT
   public:
    Bench(Session& session, MarkController& mark, QWidget* parent = nullptr);

    void set_station(Station station);
    void set_fit_look(double fade, bool distance, double worst_mm);
    void set_shading(Shading shading);
    void set_wire(bool on);
    void frame_head();
    void frame_selection();   // the selected landmark, else the head
    CameraLink& camera() { return camera_; }
    Viewport* base_view() { return base_; }
    Viewport* source_view() { return source_; }
    Viewport* result_view() { return result_; }

   private:
    void refresh();
    void refresh_markers();
    void refresh_result();
    void show_live(const std::shared_ptr<Points>& positions);
    bool visible_from_camera(const SurfaceQuery& query, const Similarity& to_view, const Vec3& p) const;

    Session& s_;
    MarkController& mark_;
    CameraLink camera_;
    QSplitter* splitter_;
    Viewport *base_, *source_, *result_;
    Station station_ = Station::Gather;
    Shading shading_ = Shading::Clay;
    bool wire_ = false, distance_ = false, live_ = false;
    double fade_ = 1, worst_mm_ = 1;
    std::shared_ptr<DisplayMesh> result_mesh_;
    const void* result_shown_ = nullptr;     // which positions result_mesh_ holds
    int shown_views_ = 0;
    const BaseKit* framed_kit_ = nullptr;
};

}  // namespace veld
