#pragma once
// Fit: the base takes the shape.
#include "app/stations/station_page.h"

namespace veld {

class FitPanel;

class FitStation : public StationPage {
    Q_OBJECT
 public:
    explicit FitStation(const StationContext& context);
    QWidget* panel() override;
    Looks looks() const override { return Looks::Fit; }

 private:
    FitPanel* panel_;
};

// Swapping what is compared, the next colouring: in every station that shows a fit.
void add_look_keys(const StationContext& context, Station station);

}  // namespace veld
