#pragma once
// Bank: the mix, mixing by region, making morphs, and the base out to other programs and back.
#include <QWidget>

#include "app/sections.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/stations/bank/moves_controller.h"
#include "app/stations/bank/rest_controller.h"

namespace veld {

class BankPanel : public QWidget {
    Q_OBJECT
 public:
    BankPanel(Session& session, BankController& bank, RestController& rest, MovesController& moves,
              ExchangeController& exchange, QWidget* parent = nullptr);

 private:
    BankController& bank_;
    Sections* sections_;
};

}  // namespace veld
