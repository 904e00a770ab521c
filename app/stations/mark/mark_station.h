#pragma once
// Mark: landmarks and guide curves.
#include "app/stations/station_page.h"

namespace veld {

class MarkPanel;

class MarkStation : public StationPage {
    Q_OBJECT
 public:
    explicit MarkStation(const StationContext& context);
    QWidget* panel() override;
    void entered() override;

 private:
    StationContext c_;
    MarkPanel* panel_;
};

}  // namespace veld
