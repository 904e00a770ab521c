#pragma once
// Base: the kit that the project works on, and kits made from base meshes.
#include "app/scene/mix_scene.h"
#include "app/stations/base/base_controller.h"
#include "app/stations/station_page.h"

namespace veld {

class BasePanel;

class BaseStation : public StationPage {
    Q_OBJECT
 public:
    explicit BaseStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    std::optional<Marks> marks(ViewId which, const Camera& camera) override;
    Framing home() override;
    std::string framed() override;
    void clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers keys) override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;
    void marker_pressed(ViewId which, const std::string& name, Qt::KeyboardModifiers keys) override;
    void marker_dragged(ViewId which, const std::string& name, const Ray& ray) override;
    void marker_released(ViewId which) override;

 private:
    using Page = BaseController::Page;
    Pane base();
    Pane result();
    Pane reduced();
    // What is coloured on the base, per vertex 0..1; empty: nothing.
    std::vector<float> shown_values() const;
    Marks skeleton(const Camera& camera) const;
    bool shows_result() const;
    bool shows_pose() const;
    void fly_to_selected();

    MixScene beside_;
    ShownShape coloured_;
    std::shared_ptr<DisplayMesh> reduced_;
    std::shared_ptr<const ReducedMesh> reduced_of_;  // which one that is
    BasePanel* panel_;
    bool pressed_marker_ = false;  // what is under the hand must not fly away
};

}  // namespace veld
