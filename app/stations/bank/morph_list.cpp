#include "app/stations/bank/morph_list.h"

#include <QEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <cmath>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {

constexpr int kSteps = 200;  // slider steps per unit
constexpr int kRowHeight = 46, kGroupHeight = 26;

}  // namespace

QString tag_name(int tag) {
    static const char* names[] = {"none",          "slate disc", "moss square", "rust diamond",
                                  "plum triangle", "sand bar",   "ink ring"};
    return QObject::tr(names[std::clamp(tag, 0, kMorphTags)]);
}

QPixmap tag_picture(int tag, int size) {
    QPixmap out(size, size);
    out.fill(Qt::transparent);
    if (tag <= 0) return out;
    static const QColor colours[] = {{0x7d, 0x9a, 0xb8}, {0x8a, 0xa0, 0x62}, {0xc0, 0x6a, 0x45},
                                     {0xa2, 0x7b, 0xa8}, {0xd8, 0xc3, 0x8c}, {0x6a, 0x86, 0x9c}};
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    const QColor c = colours[std::min(tag, kMorphTags) - 1];
    p.setPen(Qt::NoPen);
    p.setBrush(c);
    const double s = size;
    const QRectF box(0.15 * s, 0.15 * s, 0.7 * s, 0.7 * s);
    switch (tag) {
        case 1:
            p.drawEllipse(box);
            break;
        case 2:
            p.drawRect(box);
            break;
        case 3:
            p.drawPolygon(
                QPolygonF({{0.5 * s, 0.05 * s}, {0.95 * s, 0.5 * s}, {0.5 * s, 0.95 * s}, {0.05 * s, 0.5 * s}}));
            break;
        case 4:
            p.drawPolygon(QPolygonF({{0.5 * s, 0.1 * s}, {0.95 * s, 0.9 * s}, {0.05 * s, 0.9 * s}}));
            break;
        case 5:
            p.drawRect(QRectF(0.05 * s, 0.35 * s, 0.9 * s, 0.3 * s));
            break;
        default:
            p.setPen(QPen(c, 0.18 * s));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(box.adjusted(1, 1, -1, -1));
    }
    return out;
}

MorphRow::MorphRow() {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(2, 2, 2, 2);
    column->setSpacing(0);
    favourite_ = flag("bank_favourite", "☆", tr("Favourite"), 0);
    tag_ = new QLabel;
    tag_->setFixedSize(11, 20);
    name_ = new QLabel;
    solo_ = flag("bank_solo", tr("S"), tr("Solo: only this one, and others that are solo"), 1);
    mute_ = flag("bank_mute", tr("M"), tr("Mute: as if it stood at 0"), 2);
    menu_ = new QToolButton;
    menu_->setText("⋯");
    menu_->setToolTip(tr("Rename, properties, make others of it, delete"));
    menu_->setFixedSize(20, 20);
    connect(menu_, &QToolButton::clicked, this,
            [this] { emit menu_wanted(number_, menu_->mapToGlobal(QPoint(0, menu_->height()))); });
    auto* top = row({favourite_, tag_, name_, solo_, mute_, menu_});
    top->setSpacing(2);
    top->setStretch(2, 1);
    column->addLayout(top);
    slider_ = new QSlider(Qt::Horizontal);
    slider_->installEventFilter(this);
    slider_->setFixedHeight(20);
    spin_ = new QDoubleSpinBox;
    spin_->setRange(-10, 10);
    spin_->setDecimals(3);
    spin_->setSingleStep(0.05);
    spin_->setKeyboardTracking(false);  // one step of undo for a typed number
    spin_->setFixedSize(76, 22);
    spin_->setStyleSheet("min-height: 14px; padding: 1px 16px 1px 4px;");
    spin_->installEventFilter(this);
    column->addLayout(row({slider_, spin_}));
    connect(slider_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_) emit amount_changed(number_, static_cast<double>(v) / kSteps, slider_->isSliderDown());
    });
    connect(slider_, &QSlider::sliderReleased, this, &MorphRow::released);
    connect(spin_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (!filling_) emit amount_changed(number_, v, false);
    });
}

QToolButton* MorphRow::flag(const char* name, const QString& text, const QString& tip, int which) {
    auto* b = new QToolButton;
    b->setObjectName(name);
    b->setText(text);
    b->setToolTip(tip);
    b->setCheckable(true);
    b->setFixedSize(20, 20);
    b->setStyleSheet("padding: 0;");
    connect(b, &QToolButton::clicked, this, [this, which](bool on) { emit flag_changed(number_, which, on); });
    return b;
}

void MorphRow::show_entry(const BankEntry& e, std::size_t number, bool beyond) {
    filling_ = true;
    const Morph& m = *e.morph;
    if (number != number_ || shown_ != e.morph || slider_->objectName().isEmpty()) {
        number_ = number;
        shown_ = e.morph;
        for (const auto& [widget, what] :
             {std::pair<QWidget*, const char*>{slider_, "slider"}, {spin_, "spin"}, {menu_, "menu"}})
            widget->setObjectName(QString("bank_%1_%2").arg(what).arg(number));
        QString tip = tr("%1. %2 of the base's vertices move. %3 %4")
                          .arg(QString::fromStdString(m.name))
                          .arg(m.index.size())
                          .arg(QString::fromStdString(m.note), QString::fromStdString(m.origin));
        if (!m.drivers.empty())
            tip += "\n" + tr("Mixed in by itself with %1; its slider says how much of that.")
                              .arg(QString::fromStdString(driver_names(m.drivers)));
        name_->setToolTip(tip);
        tag_->setPixmap(tag_picture(m.tag, 11));
        tag_->setVisible(m.tag > 0);
    }
    name_->setText(
        name_->fontMetrics().elidedText(QString::fromStdString(m.name), Qt::ElideRight, std::max(name_->width(), 90)));
    usual_ = m.usual;
    const double span = m.high - m.low, low = m.low - (beyond ? span : 0), high = m.high + (beyond ? span : 0);
    // an amount that was typed beyond the range is not pulled back by the slider
    slider_->setRange(static_cast<int>(std::lround(kSteps * std::min(low, e.amount))),
                      static_cast<int>(std::lround(kSteps * std::max(high, e.amount))));
    slider_->setToolTip(tr("From %1 to %2; numbers can be typed beyond. Double click: back to %3.")
                            .arg(m.low)
                            .arg(m.high)
                            .arg(m.usual));
    slider_->setValue(static_cast<int>(std::lround(e.amount * kSteps)));
    spin_->setValue(e.amount);
    favourite_->setChecked(e.favourite);
    favourite_->setText(e.favourite ? "★" : "☆");
    solo_->setChecked(e.solo);
    mute_->setChecked(e.muted);
    name_->setEnabled(!e.muted);
    filling_ = false;
}

bool MorphRow::eventFilter(QObject* object, QEvent* event) {
    if (object == slider_ && event->type() == QEvent::MouseButtonDblClick) {
        emit amount_changed(number_, usual_, false);
        return true;
    }
    // the wheel scrolls the list unless the field is being edited
    if (event->type() == QEvent::Wheel && !static_cast<QWidget*>(object)->hasFocus()) {
        event->ignore();
        return true;
    }
    return QWidget::eventFilter(object, event);
}

MorphList::MorphList(QWidget* parent) : QAbstractScrollArea(parent) {
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFrameShape(QFrame::NoFrame);
    verticalScrollBar()->setSingleStep(kRowHeight / 2);
}

void MorphList::show_bank(const std::vector<BankEntry>& bank, const Filter& filter, bool beyond) {
    const bool same = filter == filter_ && beyond == beyond_ && bank.size() == bank_.size() &&
                      std::equal(bank.begin(), bank.end(), bank_.begin(), [&](const BankEntry& a, const BankEntry& b) {
                          return a.morph == b.morph && a.favourite == b.favourite;
                      });
    bank_ = bank, filter_ = filter, beyond_ = beyond;
    if (!same || filter.active) lay_out();
    place();
}

void MorphList::lay_out() {
    std::map<std::string, std::vector<std::size_t>> groups;
    shown_count_ = 0;
    for (std::size_t i = 0; i < bank_.size(); ++i) {
        const Morph& m = *bank_[i].morph;
        if ((filter_.favourites && !bank_[i].favourite) || (filter_.active && bank_[i].amount == 0)) continue;
        const QString all = QString::fromStdString(m.name + " " + m.group + " " + m.note);
        bool found = true;
        for (const QString& word : filter_.words.split(' ', Qt::SkipEmptyParts))
            found &= all.contains(word, Qt::CaseInsensitive);
        if (!found) continue;
        groups[m.group].push_back(i);
        ++shown_count_;
    }
    lines_.clear();
    int y = 0;
    for (const auto& [name, members] : groups) {
        if (!name.empty()) {
            lines_.push_back({y, true, name, members.size(), 0});
            y += kGroupHeight;
            if (closed_.contains(name) && filter_.words.isEmpty()) continue;
        }
        for (const std::size_t i : members) {
            lines_.push_back({y, false, {}, 0, i});
            y += kRowHeight;
        }
    }
    height_ = y;
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setRange(0, std::max(0, height_ - viewport()->height()));
}

MorphRow* MorphList::free_row() {
    auto* made = new MorphRow;
    made->setParent(viewport());
    connect(made, &MorphRow::amount_changed, this, &MorphList::amount_changed);
    connect(made, &MorphRow::released, this, &MorphList::released);
    connect(made, &MorphRow::flag_changed, this, &MorphList::flag_changed);
    connect(made, &MorphRow::menu_wanted, this, &MorphList::menu_wanted);
    rows_.push_back(made);
    return made;
}

// Rows keep their morph while it stays in sight, so that a slider under the hand is not exchanged.
void MorphList::place() {
    const int from = verticalScrollBar()->value(), to = from + viewport()->height();
    std::vector<const Line*> wanted;
    for (const Line& line : lines_) {
        if (!line.group && line.top + kRowHeight > from && line.top < to) wanted.push_back(&line);
    }
    std::vector<MorphRow*> spare = rows_;
    std::vector<MorphRow*> of(wanted.size(), nullptr);
    for (std::size_t k = 0; k < wanted.size(); ++k) {
        const auto at = std::find_if(spare.begin(), spare.end(), [&](MorphRow* r) {
            return r->isVisibleTo(viewport()) && r->number() == wanted[k]->number;
        });
        if (at == spare.end()) continue;
        of[k] = *at;
        spare.erase(at);
    }
    for (std::size_t k = 0; k < wanted.size(); ++k) {
        if (!of[k] && !spare.empty()) of[k] = spare.back(), spare.pop_back();
        if (!of[k]) of[k] = free_row();
        of[k]->setGeometry(0, wanted[k]->top - from, viewport()->width(), kRowHeight);
        of[k]->show();
        of[k]->show_entry(bank_[wanted[k]->number], wanted[k]->number, beyond_);
    }
    for (MorphRow* r : spare) r->hide();
    viewport()->update();
}

void MorphList::reveal(std::size_t number) {
    for (const Line& line : lines_) {
        if (line.group || line.number != number) continue;
        if (line.top < verticalScrollBar()->value()) verticalScrollBar()->setValue(line.top);
        if (line.top + kRowHeight > verticalScrollBar()->value() + viewport()->height())
            verticalScrollBar()->setValue(line.top + kRowHeight - viewport()->height());
    }
    place();
}

void MorphList::resizeEvent(QResizeEvent*) {
    lay_out();
    place();
}

void MorphList::scrollContentsBy(int, int) { place(); }

bool MorphList::viewportEvent(QEvent* event) {
    const int from = verticalScrollBar()->value();
    if (event->type() == QEvent::Paint) {
        QPainter p(viewport());
        QFont bold = font();
        bold.setBold(true);
        p.setFont(bold);
        for (const Line& line : lines_) {
            const QRect box(0, line.top - from, viewport()->width(), kGroupHeight);
            if (!line.group || !box.intersects(viewport()->rect())) continue;
            const bool closed = closed_.contains(line.name) && filter_.words.isEmpty();
            p.setPen(theme::kLine);
            p.drawLine(box.bottomLeft(), box.bottomRight());
            p.setPen(theme::ink().dim);
            p.drawText(box.adjusted(4, 0, -4, 0), Qt::AlignVCenter,
                       (closed ? "▸  " : "▾  ") + QString::fromStdString(line.name).replace("/", " / "));
            p.drawText(box.adjusted(4, 0, -6, 0), Qt::AlignVCenter | Qt::AlignRight, QString::number(line.count));
        }
        return true;
    }
    if (event->type() == QEvent::MouseButtonPress) {
        const int y = static_cast<int>(static_cast<QMouseEvent*>(event)->position().y()) + from;
        for (const Line& line : lines_) {
            if (!line.group || y < line.top || y >= line.top + kGroupHeight) continue;
            if (!closed_.erase(line.name)) closed_.insert(line.name);
            lay_out();
            place();
            return true;
        }
    }
    return QAbstractScrollArea::viewportEvent(event);
}

}  // namespace veld
