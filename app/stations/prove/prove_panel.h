#pragma once
// What is looked at in Prove, and what was measured.
#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>

#include "app/sections.h"
#include "app/stations/prove/prove_controller.h"
#include "app/widgets.h"

namespace veld {

// As it is shown.
QString proof_name(const std::string& name);

class MendController;

class ProvePanel : public QWidget {
    Q_OBJECT
 public:
    ProvePanel(Session& session, ProveController& prove, MendController& mender, QWidget* parent = nullptr);

 private:
    QWidget* proofs_page();
    QWidget* hand_page();
    QWidget* figures_page();
    void refresh();
    void list_proofs();
    void list_hand();
    void list_figures();
    void ask_for_motion();
    void ask_for_sheet();

    Session& s_;
    ProveController& prove_;
    QComboBox *from_, *skinning_, *colours_;
    QTreeWidget *proofs_, *figures_;
    QSlider* way_;
    QPushButton *play_, *motion_, *remove_, *clear_, *keep_, *measure_, *sheet_;
    QLabel *said_, *hand_hint_;
    QLineEdit* name_;
    QWidget* hand_rows_;
    struct ByHand {
        QSlider* slider = nullptr;
        QLabel* value = nullptr;
    };
    std::map<std::string, ByHand> hand_;
    std::vector<std::string> listed_, hand_listed_;
    std::shared_ptr<const ProofReport> shown_report_;
    bool filling_ = false;
};

}  // namespace veld
