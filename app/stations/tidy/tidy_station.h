#pragma once
// Tidy: a raw source is cleaned.
#include "app/stations/station_page.h"

namespace veld {

class TidyPanel;

class TidyStation : public StationPage {
    Q_OBJECT
 public:
    explicit TidyStation(const StationContext& context);
    QWidget* panel() override;

 private:
    void ask_for_steps(bool read);
    void ask_for_source_file();

    StationContext c_;
    TidyPanel* panel_;
};

}  // namespace veld
