#pragma once
// Names for those who do not see the window: every control has one.
class QWidget;

namespace veld {

// Controls below root that say nothing by themselves (fields, lists, sliders, icons) take their tool tip's first
// words, what a field asks for, or the label beside it as their name. One that has a name keeps it.
void name_controls(QWidget* root);

}  // namespace veld
