#pragma once
// Touch up: strokes on the fit.
#include "app/stations/station_page.h"

namespace veld {

class TouchPanel;

class TouchStation : public StationPage {
    Q_OBJECT
 public:
    explicit TouchStation(const StationContext& context);
    QWidget* panel() override;
    void entered() override;
    void left() override;
    Looks looks() const override { return Looks::Fit; }
    void before_showing() override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;

 private:
    void show_stroke(const VertexIndices& moved);

    TouchPanel* panel_;
};

}  // namespace veld
