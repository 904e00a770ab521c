#pragma once
// The numbers of one tidy tool as widgets, built from its table entry.
#include <QWidget>

#include "core/tidy/tools.h"

class QFormLayout;
class QComboBox;
class QDoubleSpinBox;

namespace veld {

class ToolForm : public QWidget {
    Q_OBJECT
 public:
    explicit ToolForm(QWidget* parent = nullptr);

    void show_tool(Tool tool);
    TidyStep step() const;  // with the numbers as they stand
    void set_number(const char* name, double value);

 signals:
    void edited();

 private:
    Tool tool_ = Tool::Repair;
    QFormLayout* form_;
    std::map<std::string, QDoubleSpinBox*> numbers_;
    std::map<std::string, QComboBox*> choices_;
    std::map<Tool, std::map<std::string, double>> remembered_;  // what the user set, per tool
};

}  // namespace veld
