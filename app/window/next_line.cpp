#include "app/window/next_line.h"

#include "app/theme.h"

namespace veld {
namespace {

QString words(NextStep step) {
    switch (step) {
        case NextStep::AddSource:
            return NextLine::tr("Next: add a scan or photographs");
        case NextStep::Repair:
            return NextLine::tr("Next: repair the scan");
        case NextStep::FindLandmarks:
            return NextLine::tr("Next: find landmarks");
        case NextStep::Fit:
            return NextLine::tr("Next: fit the base");
        case NextStep::MakeHead:
            return NextLine::tr("Next: make the head");
        case NextStep::KeepMorph:
            return NextLine::tr("Next: keep it as a morph");
        case NextStep::Deliver:
            return NextLine::tr("Next: deliver");
        case NextStep::None:
            break;
    }
    return {};
}

}  // namespace

NextLine::NextLine(Session& session, QWidget* parent) : QToolButton(parent), s_(session) {
    setObjectName("next_step");
    setProperty("role", "next");
    setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    setIcon(theme::icon("right", &theme::Ink::accent));
    setLayoutDirection(Qt::RightToLeft);  // the arrow after the words
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("What comes next for this subject; click to do it"));
    connect(this, &QToolButton::clicked, this, [this] { emit wanted(step_); });
    for (const auto again : {&Session::changed, &Session::busy_changed}) connect(&s_, again, this, &NextLine::refresh);
    refresh();
}

void NextLine::refresh() {
    step_ = s_.busy() ? NextStep::None : next_step(s_.state());
    setText(words(step_));
    setVisible(step_ != NextStep::None);
}

}  // namespace veld
