#pragma once
// Gather: what a subject is made from comes in.
#include "app/stations/station_page.h"

namespace veld {

class GatherPanel;

class GatherStation : public StationPage {
    Q_OBJECT
 public:
    explicit GatherStation(const StationContext& context);
    QWidget* panel() override;

 private:
    GatherPanel* panel_;
};

}  // namespace veld
