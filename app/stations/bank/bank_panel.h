#pragma once
// Bank: the fit kept as a morph, sliders from below nothing to beyond everything.
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QSlider>
#include <QVBoxLayout>
#include <QPushButton>
#include <QWidget>

#include "app/session.h"

namespace veld {

class MorphRow;

class BankPanel : public QWidget {
    Q_OBJECT
   public:
    explicit BankPanel(Session& session, QWidget* parent = nullptr);

   private:
    void refresh();
    void keep();
    void set_amount(std::size_t at, double amount, bool dragging);
    void rename(std::size_t at);
    void erase(std::size_t at);
    void build_rows();

    Session& s_;
    QLineEdit* name_;
    QPushButton* keep_;
    QLabel* empty_;
    QVBoxLayout* rows_;
    std::vector<std::shared_ptr<const Morph>> shown_;
    std::vector<MorphRow*> row_widgets_;
};

// One morph: name, slider, number.
class MorphRow : public QWidget {
    Q_OBJECT
   public:
    MorphRow(const Morph& morph, std::size_t number);
    void show_amount(double amount);

   signals:
    void amount_changed(double amount, bool dragging);
    void released();
    void rename();
    void erase();

   private:
    QSlider* slider_;
    QDoubleSpinBox* spin_;
    bool filling_ = false;
    bool eventFilter(QObject* object, QEvent* event) override;
};

}  // namespace veld
