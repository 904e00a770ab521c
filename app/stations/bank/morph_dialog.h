#pragma once
// A morph's card: group, kind, limits, tag, note; where it comes from.
#include <QComboBox>
#include <QDialog>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>

#include "app/stations/bank/bank_controller.h"

namespace veld {

class MorphDialog : public QDialog {
    Q_OBJECT
 public:
    MorphDialog(Session& session, BankController& bank, MorphId id, QWidget* parent = nullptr);
    void accept() override;

 private:
    Session& s_;
    BankController& bank_;
    MorphId id_;
    QLabel* trouble_;  // why it cannot be taken
    QLineEdit *name_, *group_;
    QComboBox *kind_, *tag_;
    QDoubleSpinBox *low_, *high_, *usual_;
    QPlainTextEdit* note_;
};

QComboBox* kind_box();

}  // namespace veld
