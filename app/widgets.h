#pragma once
// Small pieces that every panel is built from.
#include <QBoxLayout>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QString>
#include <QTreeWidget>
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

// As wide as this text is in whatever size of letters.
inline void hold_width(QWidget* widget, const QString& text) {
    constexpr int kAround = 6;  // pixels
    widget->setFixedWidth(widget->fontMetrics().horizontalAdvance(text) + kAround);
}

// The end of a path, as much of it as there is room for.
class PathLabel : public QLabel {
 public:
    PathLabel() {
        setProperty("role", "dim");
        setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    }
    QSize minimumSizeHint() const override { return {0, QLabel::minimumSizeHint().height()}; }

 protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setPen(palette().color(foregroundRole()));
        painter.drawText(rect(), Qt::AlignLeft | Qt::AlignVCenter,
                         fontMetrics().elidedText(text(), Qt::ElideLeft, width()));
    }
};

// As wide as there is room, however long its entries are: it widens neither a bar nor a panel.
inline void narrow(QComboBox* box, int least_letters = 8) {
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(least_letters);
    box->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

// Lines with columns: the first has the room that the others leave.
inline QTreeWidget* column_list(const char* name, const QString& spoken_name, const QStringList& headers,
                                int least_height) {
    auto* list = new QTreeWidget;
    list->setObjectName(name);
    list->setAccessibleName(spoken_name);
    list->setRootIsDecorated(false);
    list->setHeaderLabels(headers);
    list->header()->setStretchLastSection(false);
    list->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int c = 1; c < headers.size(); ++c) list->header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    list->setMinimumHeight(least_height);
    return list;
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
