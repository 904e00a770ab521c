#include "app/stations/tidy/tool_form.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <cmath>

#include "app/core_words.h"
#include "app/lengths.h"

namespace veld {

ToolForm::ToolForm(QWidget* parent) : QWidget(parent), form_(new QFormLayout(this)) {
    form_->setContentsMargins(0, 0, 0, 0);
    form_->setSpacing(5);
    form_->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
}

namespace {

QDoubleSpinBox* number(const ToolParameter& p, double value) {
    const QString name = QString("tidy_%1").arg(p.name);
    // a step that fits the size of the number: 0.05 -> 0.01, 60 -> 5, 200000 -> 10000
    const double size = std::max(std::abs(value), std::pow(10.0, -p.decimals) * 10);
    const double step = std::max(std::pow(10.0, std::floor(std::log10(size))) / 2, std::pow(10.0, -p.decimals));
    QDoubleSpinBox* box;
    if (std::string(p.suffix) == " mm") {
        box = new LengthBox(qPrintable(name), p.low, p.high, step, p.decimals, {});
        box->setKeyboardTracking(true);
    } else {
        box = new QDoubleSpinBox;
        box->setObjectName(name);
        box->setDecimals(p.decimals);
        box->setRange(p.low, p.high);
        box->setSuffix(core_word(p.suffix));
        box->setSingleStep(step);
    }
    box->setValue(value);
    return box;
}

// Shares are found by sliding while one looks; the slider is finer where shares are small.
QWidget* with_slider(QDoubleSpinBox* box) {
    auto* both = new QWidget;
    auto* across = new QHBoxLayout(both);
    across->setContentsMargins(0, 0, 0, 0);
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setObjectName(box->objectName() + "_slider");
    slider->setRange(0, 1000);
    const auto place = [](double v) { return static_cast<int>(std::lround(1000 * std::cbrt(v / 100))); };
    slider->setValue(place(box->value()));
    QObject::connect(slider, &QSlider::valueChanged, box, [box, place](int at) {
        if (at != place(box->value())) box->setValue(100 * std::pow(at / 1000.0, 3));
    });
    QObject::connect(box, &QDoubleSpinBox::valueChanged, slider,
                     [slider, place](double v) { slider->setValue(place(v)); });
    box->setFixedWidth(84);
    across->addWidget(slider);
    across->addWidget(box);
    return both;
}

}  // namespace

void ToolForm::show_tool(Tool tool) {
    while (form_->rowCount() > 0) form_->removeRow(0);
    numbers_.clear(), choices_.clear();
    tool_ = tool;
    auto& known = remembered_[tool];
    for (const ToolParameter& p : tool_info(tool).parameters) {
        const double value = known.contains(p.name) ? known[p.name] : p.initial;
        const std::string name = p.name;
        QWidget* widget = nullptr;
        if (p.choices) {
            auto* box = new QComboBox;
            box->setObjectName(QString("tidy_%1").arg(p.name));
            box->addItems(core_word(p.choices).split('|'));
            box->setCurrentIndex(static_cast<int>(value));
            connect(box, &QComboBox::currentIndexChanged, this, [this, name](int i) {
                remembered_[tool_][name] = i;
                emit edited();
            });
            choices_[name] = box;
            widget = box;
        } else {
            QDoubleSpinBox* box = number(p, value);
            connect(box, &QDoubleSpinBox::valueChanged, this, [this, name](double v) {
                remembered_[tool_][name] = v;
                emit edited();
            });
            numbers_[name] = box;
            widget = box;
            if (std::string(p.suffix) == " %") widget = with_slider(box);
        }
        widget->setToolTip(*p.tip ? core_word(p.tip) : QString());
        auto* label = new QLabel(core_word(p.label));
        label->setMinimumHeight(widget->sizeHint().height());  // in line with the number
        form_->addRow(label, widget);
    }
}

TidyStep ToolForm::step() const {
    TidyStep out;
    out.tool = tool_;
    for (const auto& [name, box] : numbers_) out.numbers[name] = box->value();
    for (const auto& [name, box] : choices_) out.numbers[name] = box->currentIndex();
    return out;
}

void ToolForm::set_number(const char* name, double value) {
    if (const auto at = numbers_.find(name); at != numbers_.end()) at->second->setValue(value);
}

}  // namespace veld
