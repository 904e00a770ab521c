#pragma once
// The Base station's panel.
#include <QWidget>

#include "app/sections.h"
#include "app/stations/base/base_controller.h"

namespace veld {

class NewBaseTab;

class BasePanel : public QWidget {
    Q_OBJECT
 public:
    BasePanel(Session& session, BaseController& controller, QWidget* parent = nullptr);
    NewBaseTab& new_base() { return *new_; }

 private:
    void refresh();

    Session& s_;
    BaseController& c_;
    Sections* sections_;
    NewBaseTab* new_;
};

}  // namespace veld
