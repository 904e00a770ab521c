#pragma once
// Prove: a shape beside the base, both in the same pose or expression.
#include "app/scene/base_shapes.h"
#include "app/stations/prove/prove_controller.h"
#include "app/stations/station_page.h"

namespace veld {

class ProvePanel;

class ProveStation : public StationPage {
    Q_OBJECT
 public:
    explicit ProveStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    void entered() override { prove_.set_awake(true); }
    void left() override { prove_.set_awake(false); }
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    Framing home() override;
    std::string framed() override;

 private:
    Pane beside(const Points& positions, ShownShape& shown, const QString& title, const std::vector<float>* values);

    ProveController& prove_;
    ProvePanel* panel_;
    ShownShape shape_, base_;
};

}  // namespace veld
