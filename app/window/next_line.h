#pragma once
// One quiet line that says what comes next, and does it.
#include <QToolButton>
#include <functional>

#include "app/session.h"
#include "core/project/next_step.h"

namespace veld {

class NextLine : public QToolButton {
    Q_OBJECT
 public:
    explicit NextLine(Session& session, QWidget* parent = nullptr);

    NextStep step() const { return step_; }

 signals:
    void wanted(veld::NextStep step);

 private:
    void refresh();

    Session& s_;
    NextStep step_ = NextStep::None;
};

}  // namespace veld
