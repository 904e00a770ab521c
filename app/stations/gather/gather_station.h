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
    QString figures() const override;
    bool upright() const override { return true; }
    Framing home() override { return home_of_source(c_); }
    std::string framed() override { return name_of_source(c_); }

 private:
    GatherPanel* panel_;
};

}  // namespace veld
