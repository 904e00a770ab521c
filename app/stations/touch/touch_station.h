#pragma once
// Touch up: strokes on the fit.
#include "app/stations/station_page.h"

namespace veld {

class TouchPanel;

class TouchStation : public StationPage {
    Q_OBJECT
 public:
    explicit TouchStation(const StationContext& context);
    QWidget* panel() override;
    Looks looks() const override { return Looks::Fit; }

 private:
    TouchPanel* panel_;
};

}  // namespace veld
