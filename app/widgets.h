#pragma once
// Small pieces that every panel is built from.
#include <QBoxLayout>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QString>
#include <QWidget>

namespace veld {

inline QLabel* text_label(const QString& text, const char* role, QWidget* parent = nullptr) {
    auto* label = new QLabel(text, parent);
    label->setProperty("role", role);
    label->setWordWrap(true);
    return label;
}

inline QPushButton* button(const QString& text, const char* name, const QString& tip = {}, bool primary = false) {
    auto* b = new QPushButton(text);
    b->setObjectName(name);
    b->setToolTip(tip);
    if (primary) b->setProperty("role", "primary");
    return b;
}

// As wide as there is room, however long its entries are: it widens neither a bar nor a panel.
inline void narrow(QComboBox* box, int least_letters = 8) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(least_letters);
    box->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

// Says its value when it is done, not at each key.
inline QDoubleSpinBox* number_box(const char* name, double low, double high, double step, const QString& suffix,
                                  const QString& tip) {
    auto* box = new QDoubleSpinBox;
    box->setObjectName(name);
    box->setRange(low, high);
    box->setSingleStep(step);
    box->setDecimals(step < 1 ? 1 : 0);
    box->setSuffix(suffix);
    box->setToolTip(tip);
    box->setKeyboardTracking(false);
    return box;
}

inline QHBoxLayout* row(std::initializer_list<QWidget*> widgets) {
    auto* layout = new QHBoxLayout;
    layout->setSpacing(6);
    for (QWidget* w : widgets) layout->addWidget(w);
    return layout;
}

// A column that stations' panels share: margins, spacing.
inline QVBoxLayout* panel_column(QWidget* panel) {
    auto* layout = new QVBoxLayout(panel);
    layout->setContentsMargins(12, 10, 12, 10);
    layout->setSpacing(7);
    return layout;
}

}  // namespace veld
