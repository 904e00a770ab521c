#pragma once
// Fit: the base takes the shape.
#include "app/scene/base_shapes.h"
#include "app/stations/station_page.h"

namespace veld {

class FitPanel;

class FitStation : public StationPage {
    Q_OBJECT
 public:
    explicit FitStation(const StationContext& context);
    QWidget* panel() override;
    void left() override;
    Looks looks() const override { return Looks::Fit; }
    void before_showing() override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    PhotoPane photo_pane() override;
    std::optional<Marks> marks(ViewId which, const Camera& camera) override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;
    void marker_pressed(ViewId which, const std::string& name, Qt::KeyboardModifiers keys) override;
    void marker_released(ViewId which) override;
    void photo_clicked(const QPointF& pixel, double zoom) override;
    void photo_marker_dragged(const std::string& name, const QPointF& pixel) override;

 private:
    Pane region();
    bool placing() const;

    ShownShape region_;  // the base in the colours of the shown region
    FitPanel* panel_;
};

// Swapping what is compared, the next colouring: in every station that shows a fit.
void add_look_keys(const StationContext& context, Station station);

}  // namespace veld
