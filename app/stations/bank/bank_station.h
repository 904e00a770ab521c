#pragma once
// Bank: morphs, their mix, and the base out and back.
#include "app/stations/station_page.h"

namespace veld {

class BankPanel;

class BankStation : public StationPage {
    Q_OBJECT
 public:
    explicit BankStation(const StationContext& context);
    QWidget* panel() override;
    Looks looks() const override { return Looks::Mix; }

 private:
    BankPanel* panel_;
};

}  // namespace veld
