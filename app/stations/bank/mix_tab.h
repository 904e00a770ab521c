#pragma once
// Bank, the mix: sliders, two settings to compare and blend, bake.
#include <QCheckBox>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>
#include <QWidget>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/morph_list.h"

namespace veld {

class MixTab : public QWidget {
    Q_OBJECT
 public:
    MixTab(Session& session, BankController& bank, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void refresh();
    void menu(std::size_t number, const QPoint& at);
    void bake();
    MorphId ask_for_other(MorphId id, const QString& title);  // none: cancelled
    void rename(MorphId id);
    QPushButton* setting_button(bool b);

    Session& s_;
    BankController& bank_;
    QLineEdit* search_;
    QToolButton *favourites_, *active_;
    QCheckBox* beyond_;
    QLabel *empty_, *none_found_;
    QPushButton *make_, *a_, *b_, *bake_, *reset_;
    QSlider* between_;
    MorphList* list_;
    bool filling_ = false;
};

}  // namespace veld
