#include "app/flow_row.h"

#include <QWidget>
#include <algorithm>

namespace veld {
namespace {

int least(const QLayoutItem* item) { return std::max(item->minimumSize().width(), 1); }

}  // namespace

FlowRow::~FlowRow() {
    for (QLayoutItem* item : items_) delete item;
}

QLayoutItem* FlowRow::takeAt(int i) {
    if (i < 0 || i >= count()) return nullptr;
    QLayoutItem* out = items_[static_cast<std::size_t>(i)];
    items_.erase(items_.begin() + i);
    return out;
}

int FlowRow::gap() const { return std::max(spacing(), 0); }

FlowRow::Line FlowRow::shown() const {
    Line out;
    for (QLayoutItem* item : items_) {
        if (!item->isEmpty()) out.push_back(item);
    }
    return out;
}

std::vector<FlowRow::Line> FlowRow::lines(int width) const {
    std::vector<Line> out;
    const Line all = shown();
    if (all.empty()) return out;
    if (way_ == Way::Natural || way_ == Way::Filled) {
        int used = 0;
        for (QLayoutItem* item : all) {
            const int wants = least(item) + (used > 0 ? gap() : 0);
            if (out.empty() || used + wants > width) out.emplace_back(), used = 0;
            out.back().push_back(item);
            used += least(item) + (used > 0 ? gap() : 0);
        }
        return out;
    }
    int widest = 1;
    for (const QLayoutItem* item : all) widest = std::max(widest, least(item));
    const auto in_line = static_cast<std::size_t>(
        std::clamp((width + gap()) / (widest + gap()), 1, std::min(most_, static_cast<int>(all.size()))));
    // as even as they come: five in lines of three and two
    const std::size_t rows = (all.size() + in_line - 1) / in_line,
                      each = way_ == Way::Columns ? in_line : (all.size() + rows - 1) / rows;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (i % each == 0) out.emplace_back();
        out.back().push_back(all[i]);
    }
    return out;
}

std::vector<int> FlowRow::widths(const Line& line, int width, std::size_t columns) const {
    const int room = width - gap() * (static_cast<int>(line.size()) - 1);
    std::vector<int> out;
    if (way_ == Way::Even || way_ == Way::Columns) {
        const auto n = static_cast<int>(way_ == Way::Columns ? columns : line.size());
        const int each = (width - gap() * (n - 1)) / n;
        return std::vector<int>(line.size(), each);
    }
    int used = 0;
    for (const QLayoutItem* item : line) {
        out.push_back(least(item));
        used += out.back();
    }
    // first up to what each likes best, then what may grow
    for (const bool beyond : {false, true}) {
        for (std::size_t i = 0; i < line.size() && used < room; ++i) {
            const bool grows = line[i]->expandingDirections().testFlag(Qt::Horizontal);
            if (beyond && !grows) continue;
            const int likes = beyond ? line[i]->maximumSize().width() : line[i]->sizeHint().width();
            const int more = std::clamp(std::min(likes, line[i]->maximumSize().width()) - out[i], 0, room - used);
            out[i] += more, used += more;
        }
    }
    if (way_ != Way::Filled) return out;
    std::vector<std::size_t> can;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (line[i]->maximumSize().width() > out[i]) can.push_back(i);
    }
    for (const std::size_t i : can) out[i] += (room - used) / static_cast<int>(can.size());
    return out;
}

int FlowRow::lay(const QRect& rect, bool place) const {
    const QMargins margins = contentsMargins();
    const QRect room = rect.marginsRemoved(margins);
    const std::vector<Line> all = lines(room.width());
    int y = room.top();
    for (const Line& line : all) {
        const std::vector<int> wide = widths(line, room.width(), all.front().size());
        int x = room.left(), high = 0;
        for (const QLayoutItem* item : line) high = std::max(high, item->sizeHint().height());
        for (std::size_t i = 0; i < line.size(); ++i) {
            if (place) line[i]->setGeometry(QRect(x, y, wide[i], high));
            x += wide[i] + gap();
        }
        y += high + gap();
    }
    return (all.empty() ? 0 : y - gap() - room.top()) + margins.top() + margins.bottom();
}

void FlowRow::setGeometry(const QRect& rect) {
    QLayout::setGeometry(rect);
    lay(rect, true);
}

QSize FlowRow::sizeHint() const {
    int width = 0, high = 0;
    for (const QLayoutItem* item : shown()) {
        width += item->sizeHint().width() + gap();
        high = std::max(high, item->sizeHint().height());
    }
    const QMargins m = contentsMargins();
    return {width - gap() + m.left() + m.right(), high + m.top() + m.bottom()};
}

QSize FlowRow::minimumSize() const {
    int width = 0, high = 0;
    for (const QLayoutItem* item : shown()) {
        width = std::max(width, least(item));
        high = std::max(high, item->minimumSize().height());
    }
    const QMargins m = contentsMargins();
    return {width + m.left() + m.right(), high + m.top() + m.bottom()};
}

}  // namespace veld
