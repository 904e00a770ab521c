#pragma once
// Gather: scans and sculpts come in; what they are, how they stand, what is wrong with them.
#include <QBoxLayout>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

#include "app/session.h"
#include "app/stations/tidy/tidy_controller.h"
#include "core/tidy/survey.h"

namespace veld {

class GatherPanel : public QWidget {
    Q_OBJECT
 public:
    GatherPanel(Session& session, TidyController& tidy, QWidget* parent = nullptr);

 signals:
    void ask_for_sources();
    void repair_with(veld::Tool tool);

 private:
    void build_inbox(QBoxLayout* column);
    void build_about(QBoxLayout* inner);
    void refresh();
    void start_survey();
    void show_survey(const Survey& survey);
    void set_frame();
    void remove();
    void ask_for_inbox();
    void refresh_inbox();
    void show_photos();

    Session& s_;
    TidyController& tidy_;
    QWidget* about_;
    QLabel *title_, *unit_reason_, *up_reason_, *facts_, *notes_, *changed_;
    QComboBox *unit_, *up_;
    QPushButton *repair_, *redo_;
    QLayout *findings_, *deliveries_;
    QLabel *inbox_, *photos_;
    std::shared_ptr<const Mesh> surveyed_;
    JobId survey_ = 0;
    std::vector<std::shared_ptr<const std::vector<Image>>> shown_photos_;
    bool filling_ = false;
};

}  // namespace veld
