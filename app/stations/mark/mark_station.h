#pragma once
// Mark: landmarks and guide curves, on the base, the source and photographs.
#include "app/stations/station_page.h"

namespace veld {

class MarkPanel;
class SurfaceQuery;

class MarkStation : public StationPage {
    Q_OBJECT
 public:
    explicit MarkStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    void entered() override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    Framing home() override;
    PhotoPane photo_pane() override;
    std::optional<Marks> marks(ViewId which, const Camera& camera) override;
    void clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers keys) override;
    void marker_pressed(ViewId which, const std::string& name, Qt::KeyboardModifiers keys) override;
    void marker_dragged(ViewId which, const std::string& name, const Ray& ray) override;
    void marker_released(ViewId which) override;
    bool arrow_pressed(int right, int up, Qt::KeyboardModifiers keys) override;
    void photo_clicked(const QPointF& pixel, double zoom) override;
    void photo_marker_dragged(const std::string& name, const QPointF& pixel) override;

 private:
    Marks on_base(const Camera& camera) const;
    Marks on_source(const Camera& camera) const;
    Marks on_photo() const;
    Marker marker_of(const std::string& name) const;
    QString prompt() const;
    void fly_to_selected();
    void frame_on_photo();

    // The camera stays where it is when another point is asked for; a round glass at the pointer.
    bool hold_camera_ = false, loupe_ = false;
    bool pressed_marker_ = false;  // what is under the hand must not fly away
    MarkPanel* panel_;
};

}  // namespace veld
