#pragma once
// Gather: scans and sculpts come in; what they are and in which unit.
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

#include "app/session.h"

namespace veld {

class GatherPanel : public QWidget {
    Q_OBJECT
   public:
    explicit GatherPanel(Session& session, QWidget* parent = nullptr);

   signals:
    void choose_sources();

   private:
    void refresh();
    void set_unit(int index);
    void remove();

    Session& s_;
    QLabel *title_, *facts_, *notes_;
    QComboBox* unit_;
    QPushButton* remove_;
    const Mesh* shown_ = nullptr;
};

}  // namespace veld
