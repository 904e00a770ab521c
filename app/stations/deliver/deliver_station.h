#pragma once
// Deliver: what is done goes out.
#include "app/scene/mix_scene.h"
#include "app/stations/station_page.h"

namespace veld {

class DeliverPanel;

class DeliverStation : public StationPage {
    Q_OBJECT
 public:
    explicit DeliverStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    Looks looks() const override { return Looks::Mix; }
    std::vector<ViewId> shown() override { return mix_.views(); }
    std::vector<ViewId> offered() override { return {ViewId::Base, ViewId::Source, ViewId::Result}; }
    Pane pane(ViewId which) override;

 private:
    MixScene mix_;
    DeliverPanel* panel_;
};

}  // namespace veld
