#pragma once
// Prove: a shape beside the base, both in the same pose or expression.
#include "app/scene/base_shapes.h"
#include "app/stations/prove/mend_controller.h"
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
    void left() override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    Framing home() override;
    std::string framed() override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;

 private:
    Pane beside(const Points& positions, ShownShape& shown, const QString& title, const std::vector<float>* values);

    void show_plain(const Points& positions, ShownShape& shown);
    void show_stroke(const VertexIndices& moved);

    ProveController& prove_;
    MendController mender_;
    ProvePanel* panel_;
    ShownShape shape_, base_;
    std::map<const ShownShape*, Points> last_;  // as they were packed without colours
};

}  // namespace veld
