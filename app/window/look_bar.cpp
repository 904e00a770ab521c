#include "app/window/look_bar.h"

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {

constexpr int kFlickerMs = 450;

struct ColourWords {
    Colouring colours;
    const char *name, *tip;
    double worst, step;
};
constexpr ColourWords kColours[] = {
    {Colouring::None, QT_TRANSLATE_NOOP("LookBar", "No colours"), "", 1, 0.5},
    {Colouring::Distance, QT_TRANSLATE_NOOP("LookBar", "Distance to source"), "", 1, 0.5},
    {Colouring::SignedDistance, QT_TRANSLATE_NOOP("LookBar", "Inside or outside"), "", 1, 0.5},
    {Colouring::FromSource, QT_TRANSLATE_NOOP("LookBar", "Source to fit"), "", 1, 0.5},
    {Colouring::EdgeStretch, QT_TRANSLATE_NOOP("LookBar", "Edge stretch"), "", 30, 5},
    {Colouring::AngleChange, QT_TRANSLATE_NOOP("LookBar", "Angle change"), "", 30, 5},
    {Colouring::Guessed, QT_TRANSLATE_NOOP("LookBar", "Guessed, ±"), "", 10, 1},
    {Colouring::SeenBy, QT_TRANSLATE_NOOP("LookBar", "Seen by photos"), "", 1, 0.5},
};

}  // namespace

LookBar::LookBar(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    setObjectName("look_bar");
    auto* across = new FlowRow(FlowRow::Way::Natural);
    setLayout(across);
    across->setContentsMargins(8, 1, 8, 1);
    across->setSpacing(6);
    build_colours(across);
    build_compare(across);
    build_cut(across);
    level_ = new QComboBox;
    level_->setObjectName("look_level");
    level_->addItems({tr("Base mesh"), tr("Subdivided once"), tr("Subdivided twice")});
    narrow(level_);
    level_->setToolTip(tr("Smooth display by Catmull-Clark; what is kept and measured is always the base mesh"));
    connect(level_, &QComboBox::currentIndexChanged, this, [this](int i) {
        look_.level = i;
        changed();
    });
    flicker_.setInterval(kFlickerMs);
    connect(&flicker_, &QTimer::timeout, this, [this] {
        look_.share = look_.share > 0.5 ? 0 : 1;
        changed();
    });
    connect(&s_, &Session::changed, this, &LookBar::refresh);
    refresh();
}

void LookBar::build_colours(QLayout* across) {
    colours_ = new QComboBox;
    colours_->setObjectName("look_colours");
    for (const ColourWords& w : kColours) {
        if (w.colours != Colouring::SeenBy) colours_->addItem(tr(w.name));  // comes with a head from photographs
    }
    colours_->setToolTip(tr("What the colours on the fit say (C)"));
    narrow(colours_);
    worst_ = new LengthBox("look_worst", 0.1, 500, 0.5, 1, tr("End of the colour scale"));
    worst_->setMinimumWidth(70);
    connect(colours_, &QComboBox::currentIndexChanged, this, [this](int i) {
        if (filling_) return;
        const ColourWords& w = kColours[i];
        const bool other_range = (w.colours == Colouring::Guessed) != (look_.colours == Colouring::Guessed);
        look_.colours = w.colours;
        filling_ = true;
        worst_->set_other(is_length(w.colours) ? QString() : " " + unit_of(w.colours), w.step);
        // a scale that was selected for the same unit stays
        if (other_range || is_length(w.colours) != (look_.worst <= 20)) worst_->setValue(look_.worst = w.worst);
        filling_ = false;
        changed();
    });
    worst_->setValue(1);
    connect(worst_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (filling_) return;
        look_.worst = v;
        changed();
    });
    across->addWidget(colours_);
    across->addWidget(worst_);
}

void LookBar::build_compare(QLayout* across) {
    against_ = new QComboBox;
    against_->setObjectName("look_against");
    against_->setToolTip(tr("What the fit is compared with"));
    narrow(against_);
    connect(against_, &QComboBox::currentIndexChanged, this, [this](int i) {
        if (filling_) return;
        look_.against = i;
        changed();
    });
    across->addWidget(against_);
    const std::tuple<const char*, QString, QString> ways[] = {
        {"fade", tr("Fade"), tr("One faded into the other")},
        {"wipe", tr("Split view"), tr("One beside the other, split where the slider stands")},
        {"flicker", tr("Flicker"), tr("One after the other")},
        {"beside", tr("Beside"), tr("In its own view, with the same camera and colours")}};
    int at = 0;
    for (const auto& [icon, name, tip] : ways) {
        auto* b = new QToolButton;
        b->setObjectName(QString("look_%1").arg(icon));
        b->setText(name);
        b->setToolTip(tip);
        b->setCheckable(true);
        b->setAutoExclusive(true);
        b->setProperty("role", "choice");
        connect(b, &QToolButton::clicked, this, [this, at] {
            look_.compare = static_cast<Compare>(at);
            if (look_.compare == Compare::Wipe)
                look_.share = 0.5;
            else if (look_.compare != Compare::Fade)
                look_.share = 1;
            look_.compare == Compare::Flicker ? flicker_.start() : flicker_.stop();
            changed();
        });
        across->addWidget(b);
        ways_.push_back(b);
        ++at;
    }
    share_ = new QSlider(Qt::Horizontal);
    share_->setObjectName("look_share");
    share_->setRange(0, 100);
    share_->setMinimumWidth(36);
    share_->setMaximumWidth(140);
    share_->setToolTip(tr("Left: the other, right: the fit (X swaps them)"));
    connect(share_, &QSlider::valueChanged, this, [this](int v) {
        if (filling_) return;
        look_.share = v / 100.0;
        swapped_ = false;
        changed();
    });
    across->addWidget(share_);
}

void LookBar::build_cut(QLayout* across) {
    cut_ = new QComboBox;
    cut_->setObjectName("look_cut");
    cut_->addItems({tr("No section"), tr("Section, sagittal"), tr("Section, horizontal"), tr("Section, frontal"),
                    tr("Section along the view")});
    narrow(cut_);
    cut_->setToolTip(tr("Cuts through base, source and fit: the lines show where they differ"));
    connect(cut_, &QComboBox::activated, this, [this](int i) {
        look_.cut = static_cast<Cut>(i);
        if (look_.cut == Cut::AsSeen) emit cut_taken();
        changed();
    });
    cut_at_ = new QSlider(Qt::Horizontal);
    cut_at_->setObjectName("look_cut_at");
    cut_at_->setRange(0, 1000);
    cut_at_->setValue(500);
    cut_at_->setMinimumWidth(30);
    cut_at_->setMaximumWidth(140);
    cut_at_->setToolTip(tr("Where the section lies"));
    connect(cut_at_, &QSlider::valueChanged, this, [this](int v) {
        look_.cut_at = v / 1000.0;
        changed();
    });
    across->addWidget(cut_);
    across->addWidget(cut_at_);
}

void LookBar::set_colours(Colouring colours) {
    for (std::size_t i = 0; i < std::size(kColours); ++i) {
        if (kColours[i].colours == colours) colours_->setCurrentIndex(static_cast<int>(i));
    }
}

void LookBar::next_colours() { colours_->setCurrentIndex((colours_->currentIndex() + 1) % colours_->count()); }

void LookBar::swap() {
    if (!swapped_) before_swap_ = look_.share;
    swapped_ = !swapped_;
    look_.share = swapped_ ? (before_swap_ > 0.5 ? 0 : 1) : before_swap_;
    changed();
}

void LookBar::changed() {
    refresh();
    emit look_changed();
}

void LookBar::refresh() {
    const FitRecord* fit = s_.state().fit();
    const int last = static_cast<int>(std::size(kColours)) - 1;
    if (fit && fit->photo && colours_->count() == last)
        colours_->addItem(tr(kColours[last].name));
    else if (!(fit && fit->photo) && colours_->count() > last) {
        if (colours_->currentIndex() == last) colours_->setCurrentIndex(0);
        colours_->removeItem(last);
    }
    filling_ = true;
    QStringList things{tr("With source"), tr("With base")};
    if (const Subject* subject = s_.state().current()) {
        for (const FitRecord& f : subject->fits) things << tr("With %1").arg(QString::fromStdString(f.name));
    }
    QStringList shown;
    for (int i = 0; i < against_->count(); ++i) shown << against_->itemText(i);
    if (shown != things) {
        against_->clear();
        against_->addItems(things);
        if (look_.against >= things.size()) look_.against = 0;
    }
    against_->setCurrentIndex(look_.against);
    for (std::size_t i = 0; i < ways_.size(); ++i) ways_[i]->setChecked(static_cast<std::size_t>(look_.compare) == i);
    share_->setValue(static_cast<int>(100 * look_.share));
    share_->setEnabled(look_.compare == Compare::Fade || look_.compare == Compare::Wipe);
    worst_->setVisible(look_.colours != Colouring::None);
    cut_at_->setEnabled(look_.cut != Cut::None);
    cut_->setCurrentIndex(static_cast<int>(look_.cut));
    level_->setCurrentIndex(look_.level);
    filling_ = false;
}

}  // namespace veld
