#pragma once
// Bank, out and back: what is sent, what came back, what was repaired on it.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/stations/bank/exchange_controller.h"

namespace veld {

class ExchangeTab : public QWidget {
    Q_OBJECT
 public:
    ExchangeTab(Session& session, BankController& bank, ExchangeController& exchange, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    QWidget* build_out();
    QWidget* build_back();
    void refresh();
    void refresh_out();
    void refresh_back();
    void show_steps(const ReturnCheck* result);
    void send();
    void keep(bool update);
    SendOptions send_options() const;

    Session& s_;
    BankController& bank_;
    ExchangeController& exchange_;
    QLabel* folder_;
    QComboBox *scope_, *of_, *level_, *unit_, *up_, *kind_, *pose_, *for_;
    QLineEdit *file_, *name_;
    QToolButton* without_;
    QCheckBox *mix_, *keep_sent_;
    QListWidget* came_;
    QTreeWidget* steps_;
    QLabel *state_, *empty_, *why_;
    QComboBox *seat_, *parts_;
    QDoubleSpinBox *fade_, *noise_;
    QWidget *out_, *back_, *seat_row_, *question_, *filler_;
    QLabel* question_text_;
    std::shared_ptr<const BaseKit> parts_of_;  // whose parts the menu lists
    QPushButton *answer_take_, *keep_, *update_, *source_, *drop_;
    bool filling_ = false;
};

}  // namespace veld
