#include "app/stations/bank/bank_panel.h"

#include <QScrollArea>

#include "app/stations/bank/exchange_tab.h"
#include "app/stations/bank/make_tab.h"
#include "app/stations/bank/mix_tab.h"
#include "app/stations/bank/region_tab.h"
#include "app/widgets.h"

namespace veld {

BankPanel::BankPanel(Session& session, BankController& bank, ExchangeController& exchange, QWidget* parent)
    : QWidget(parent), bank_(bank) {
    auto* column = panel_column(this);
    tabs_ = new QTabWidget;
    tabs_->setObjectName("bank_tabs");
    tabs_->setUsesScrollButtons(false);
    const auto scrolled = [](QWidget* inner) {
        auto* area = new QScrollArea;
        area->setWidgetResizable(true);
        area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        area->setWidget(inner);
        return area;
    };
    tabs_->addTab(new MixTab(session, bank), tr("Mix"));
    tabs_->addTab(scrolled(new RegionTab(session, bank)), tr("Regions"));
    tabs_->addTab(scrolled(new MakeTab(session, bank)), tr("Make"));
    tabs_->addTab(scrolled(new ExchangeTab(session, bank, exchange)), tr("Send and return"));
    column->addWidget(tabs_, 1);
    connect(tabs_, &QTabWidget::currentChanged, this,
            [this](int i) { bank_.set_page(static_cast<BankController::Page>(i)); });
    connect(&bank_, &BankController::page_changed, this,
            [this] { tabs_->setCurrentIndex(static_cast<int>(bank_.page())); });
}

}  // namespace veld
