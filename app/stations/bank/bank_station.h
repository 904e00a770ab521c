#pragma once
// Bank: morphs, their mix, and the base out and back.
#include "app/scene/mix_scene.h"
#include "app/stations/bank/moves_controller.h"
#include "app/stations/bank/rest_controller.h"
#include "app/stations/station_page.h"

namespace veld {

class BankPanel;

class BankStation : public StationPage {
    Q_OBJECT
 public:
    explicit BankStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    Looks looks() const override { return Looks::Mix; }
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override { return {ViewId::Base, ViewId::Source, ViewId::Result}; }
    Pane pane(ViewId which) override;
    Framing home() override;
    std::string framed() override { return resting() ? "rest pose" : moving() ? "joints" : std::string(); }
    std::optional<Marks> marks(ViewId which, const Camera& camera) override;
    void marker_pressed(ViewId which, const std::string& name, Qt::KeyboardModifiers keys) override;
    void marker_dragged(ViewId which, const std::string& name, const Ray& ray) override;
    void marker_released(ViewId which) override;
    void clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers keys) override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;

 private:
    Pane base();
    Pane preview();
    Pane mix_with_region();
    bool resting() const { return c_.bank.page() == BankController::Page::Rest && rest_.can_pose(); }
    bool moving() const { return c_.bank.page() == BankController::Page::Joints && moves_.has_joints(); }
    Pane at_rest(std::size_t which);

    RestController rest_;
    MovesController moves_;
    MixScene mix_;
    ShownShape share_;  // the base in the colours of the head's share
    std::array<ShownShape, RestController::kViews> posed_;
    BankPanel* panel_;
};

}  // namespace veld
