#include "app/stations/base/base_panel.h"

#include "app/stations/base/base_landmarks_tab.h"
#include "app/stations/base/base_regions_tab.h"
#include "app/stations/base/bring_tab.h"
#include "app/stations/base/expressions_tab.h"
#include "app/stations/base/joints_tab.h"
#include "app/stations/base/kit_tab.h"
#include "app/stations/base/new_base_tab.h"
#include "app/stations/base/parts_tab.h"
#include "app/stations/base/reduced_tab.h"
#include "app/widgets.h"

namespace veld {

BasePanel::BasePanel(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Base"), "title"));
    sections_ = new Sections("base_sections");
    sections_->add(new KitTab(s_, c_), tr("The kit"));
    sections_->add(new PartsTab(s_, c_), tr("Parts"));
    sections_->add(new BaseLandmarksTab(s_, c_), tr("Landmarks"));
    sections_->add(new BaseRegionsTab(s_, c_), tr("Regions"));
    sections_->add(new JointsTab(s_, c_), tr("Joints"));
    sections_->add(new ExpressionsTab(s_, c_), tr("Expressions"));
    sections_->add(new ReducedTab(s_, c_), tr("Reduced versions"));
    sections_->add(new BringTab(s_, c_), tr("From another base"));
    new_ = new NewBaseTab(s_, c_);
    sections_->add(new_, tr("A kit from your mesh"));
    column->addWidget(sections_, 1);
    connect(sections_, &Sections::current_changed, this, [this](int i) {
        if (i >= 0) c_.set_page(static_cast<BaseController::Page>(i));
    });
    connect(&c_, &BaseController::page_changed, this, [this] { sections_->set_current(static_cast<int>(c_.page())); });
    connect(&s_, &Session::project_changed, this, &BasePanel::refresh, Qt::QueuedConnection);
    refresh();
}

// Without a kit there is one thing to do here.
void BasePanel::refresh() {
    const bool kit = s_.has_kit();
    for (int i = 0; i < sections_->count() - 1; ++i) sections_->set_offered(i, kit);
    if (!kit) sections_->set_current(sections_->count() - 1);
    if (kit && c_.page() == BaseController::Page::New && !c_.making()) c_.set_page(BaseController::Page::Kit);
}

}  // namespace veld
