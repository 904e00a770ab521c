#include "app/stations/bank/bank_panel.h"

#include "app/stations/bank/exchange_tab.h"
#include "app/stations/bank/make_tab.h"
#include "app/stations/bank/mix_tab.h"
#include "app/stations/bank/moves_tab.h"
#include "app/stations/bank/region_tab.h"
#include "app/stations/bank/rest_tab.h"
#include "app/widgets.h"

namespace veld {

BankPanel::BankPanel(Session& session, BankController& bank, RestController& rest, MovesController& moves,
                     ExchangeController& exchange, QWidget* parent)
    : QWidget(parent), bank_(bank) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Bank"), "title"));
    sections_ = new Sections("bank_sections");
    sections_->add(new MixTab(session, bank), tr("Mix"));
    sections_->add(new RegionTab(session, bank), tr("Regions"));
    sections_->add(new MakeTab(session, bank), tr("Make"));
    sections_->add(new RestTab(session, rest), tr("Rest pose"));
    sections_->add(new MovesTab(session, moves), tr("Joints"));
    sections_->add(new ExchangeTab(session, bank, exchange), tr("Send and return"));
    column->addWidget(sections_, 1);
    connect(sections_, &Sections::current_changed, this, [this](int i) {
        if (i >= 0) bank_.set_page(static_cast<BankController::Page>(i));  // all folded: what was on goes on
    });
    connect(&bank_, &BankController::page_changed, this,
            [this] { sections_->set_current(static_cast<int>(bank_.page())); });
}

}  // namespace veld
