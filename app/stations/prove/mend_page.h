#pragma once
// What can be done about a proof that does not hold.
#include "app/lengths.h"
#include "app/stations/prove/mend_controller.h"
#include "app/widgets.h"

namespace veld {

class MendPage : public QWidget {
    Q_OBJECT
 public:
    MendPage(Session& session, ProveController& prove, MendController& mender, QWidget* parent = nullptr);

 private:
    void refresh();
    void fill_regions();

    Session& s_;
    ProveController& prove_;
    MendController& mender_;
    std::vector<QPushButton*> mends_;
    QPushButton *brushing_, *reduce_;
    QComboBox *kind_, *region_;
    LengthBox* size_;
    QDoubleSpinBox *strength_, *share_;
    QCheckBox* mirrored_;
    QLabel *said_, *kept_;
    std::shared_ptr<const BaseKit> filled_for_;
    bool filling_ = false;
};

}  // namespace veld
