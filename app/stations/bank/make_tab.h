#pragma once
// Bank, make: a morph out of a fit or of the mix; a whole shape split into head share and body share.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/neck_view.h"

namespace veld {

class MakeTab : public QWidget {
    Q_OBJECT
 public:
    MakeTab(Session& session, BankController& bank, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void build_card(QVBoxLayout* column);
    void build_shares(QVBoxLayout* column);
    void refresh();
    void refresh_neck();
    void keep();
    void split();
    BankController::From from() const;
    BankController::Card card() const;

    Session& s_;
    BankController& bank_;
    QComboBox *from_, *parts_, *kind_, *into_;
    QLineEdit *name_, *group_;
    QPushButton *keep_, *expressions_, *corrections_, *split_, *paint_, *band_again_, *with_kit_;
    QLabel *why_, *share_note_;
    NeckView* neck_;
    QDoubleSpinBox *neck_mm_, *band_mm_, *radius_;
    QCheckBox* floor_;
    bool filling_ = false, neck_typed_ = false;
    QString suggested_;
    std::shared_ptr<const void> neck_of_;  // which shape's neck was looked for
};

}  // namespace veld
