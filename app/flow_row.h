#pragma once
// Widgets side by side that go on in another line where there is no room: texts of other languages and larger letters
// are not cut.
#include <QLayout>
#include <initializer_list>
#include <vector>

namespace veld {

class FlowRow : public QLayout {
 public:
    // Even: the widgets of a line are as wide as one another. Columns: those of all lines. Natural: each as it likes,
    // what is left goes to those that want to grow; Filled: then to all that can.
    enum class Way { Even, Columns, Natural, Filled };
    explicit FlowRow(Way way = Way::Even, int most_in_line = 100) : way_(way), most_(most_in_line) {}
    ~FlowRow() override;

    void addItem(QLayoutItem* item) override { items_.push_back(item); }
    int count() const override { return static_cast<int>(items_.size()); }
    QLayoutItem* itemAt(int i) const override {
        return i >= 0 && i < count() ? items_[static_cast<std::size_t>(i)] : nullptr;
    }
    QLayoutItem* takeAt(int i) override;
    Qt::Orientations expandingDirections() const override { return Qt::Horizontal; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override { return lay(QRect(0, 0, width, 0), false); }
    void setGeometry(const QRect& rect) override;
    QSize sizeHint() const override;
    QSize minimumSize() const override;

 private:
    using Line = std::vector<QLayoutItem*>;
    int lay(const QRect& rect, bool place) const;  // returns its height
    std::vector<Line> lines(int width) const;
    std::vector<int> widths(const Line& line, int width, std::size_t columns) const;
    Line shown() const;
    int gap() const;

    Way way_;
    int most_;
    std::vector<QLayoutItem*> items_;
};

// Buttons and ticks of a panel.
inline FlowRow* flow(std::initializer_list<QWidget*> widgets, FlowRow::Way way = FlowRow::Way::Filled) {
    auto* out = new FlowRow(way);
    out->setSpacing(6);
    for (QWidget* w : widgets) out->addWidget(w);
    return out;
}

}  // namespace veld
