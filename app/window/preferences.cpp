#include "app/window/preferences.h"

#include <QApplication>
#include <QCheckBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QSettings>
#include <algorithm>

#include "app/colour_maps.h"
#include "app/language.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/views/habits.h"
#include "app/widgets.h"
#include "core/base/cache.h"
#include "core/base/threads.h"

namespace veld {
namespace {
constexpr int kTextPercents[] = {90, 100, 115, 130, 150, 200};
constexpr int kMostMinutes = 60;
constexpr int kMostCacheMb = 100000;

// Buttons that a hand can turn and move with, and the keys held meanwhile.
constexpr Hold kHolds[] = {{Qt::LeftButton},
                           {Qt::LeftButton, Qt::AltModifier},
                           {Qt::LeftButton, Qt::ShiftModifier},
                           {Qt::MiddleButton},
                           {Qt::MiddleButton, Qt::ShiftModifier},
                           {Qt::MiddleButton, Qt::AltModifier},
                           {Qt::MiddleButton, Qt::ControlModifier},
                           {Qt::RightButton},
                           {Qt::RightButton, Qt::ShiftModifier},
                           {Qt::RightButton, Qt::AltModifier}};
constexpr int kLastHold = static_cast<int>(std::size(kHolds)) - 1;

QString name_of(const Hold& hold) {
    const QString button = hold.button == Qt::LeftButton     ? Preferences::tr("Left button")
                           : hold.button == Qt::MiddleButton ? Preferences::tr("Middle button")
                                                             : Preferences::tr("Right button");
    return hold.key == Qt::ShiftModifier     ? Preferences::tr("Shift and %1").arg(button.toLower())
           : hold.key == Qt::AltModifier     ? Preferences::tr("Alt and %1").arg(button.toLower())
           : hold.key == Qt::ControlModifier ? Preferences::tr("Ctrl and %1").arg(button.toLower())
                                             : button;
}
}  // namespace

PreferenceValues read_preferences() {
    const QSettings kept;
    const PreferenceValues usual;
    const auto number = [&](const char* name, int standard, int low, int high) {
        return std::clamp(kept.value(QString("preferences/%1").arg(name), standard).toInt(), low, high);
    };
    return {number("theme", usual.theme, 0, 1),
            number("text_percent", usual.text_percent, 80, 200),
            number("mouse", usual.mouse, 0, 3),
            number("wheel_reversed", usual.wheel_reversed, 0, 1) == 1,
            number("mouse_turn", usual.turn, 0, kLastHold),
            number("mouse_move", usual.move, 0, kLastHold),
            number("colours", usual.colours, 0, 4),
            number("units", usual.units, 0, 2),
            kept.value("preferences/language").toString(),
            number("autosave_minutes", usual.autosave_minutes, 1, kMostMinutes),
            number("threads", usual.threads, 0, machine_threads()),
            kept.value("preferences/cache_folder").toString(),
            number("cache_mb", usual.cache_mb, 0, kMostCacheMb)};
}

void keep_preferences(const PreferenceValues& v) {
    QSettings kept;
    const std::pair<const char*, int> all[] = {{"theme", v.theme},      {"text_percent", v.text_percent},
                                               {"mouse", v.mouse},      {"wheel_reversed", v.wheel_reversed},
                                               {"mouse_turn", v.turn},  {"mouse_move", v.move},
                                               {"colours", v.colours},  {"autosave_minutes", v.autosave_minutes},
                                               {"threads", v.threads},  {"units", v.units},
                                               {"cache_mb", v.cache_mb}};
    kept.setValue("preferences/language", v.language);
    kept.setValue("preferences/cache_folder", v.cache_folder);
    for (const auto& [name, value] : all) kept.setValue(QString("preferences/%1").arg(name), value);
}

void take_up(const PreferenceValues& v, QApplication& app) {
    theme::apply(app, v.theme == 1 ? theme::Tone::Light : theme::Tone::Dark, v.text_percent / 100.0);
    habits() = {static_cast<MouseButtons>(v.mouse), v.wheel_reversed, kHolds[v.turn], kHolds[v.move]};
    set_colour_vision(static_cast<ColourVision>(v.colours));
    limit_threads(v.threads);
    length_units().set(static_cast<LengthUnit>(v.units));
    set_cache(v.cache_folder.toStdString(), static_cast<std::uint64_t>(v.cache_mb) << 20);
}

Preferences::Preferences(QWidget* parent) : QDialog(parent) {
    setObjectName("preferences");
    setWindowTitle(tr("Preferences"));
    auto* column = new QVBoxLayout(this);
    auto* form = new QFormLayout;
    column->addLayout(form);
    build_look(form);
    build_habits(form);
    build_cache(form);
    column->addWidget(text_label(tr("The language changes when the program starts the next time."), "dim"));
    auto* reset = button(tr("Reset all"), "preferences_reset");
    auto* done = button(tr("Close"), "preferences_close", {}, true);
    column->addLayout(row({reset, done}));
    connect(reset, &QPushButton::clicked, this, [this] {
        fill({});
        take();
    });
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    fill(read_preferences());
}

void Preferences::build_look(QFormLayout* form) {
    theme_ = new QComboBox;
    theme_->setObjectName("preferences_theme");
    theme_->addItems({tr("Dark"), tr("Light")});
    form->addRow(tr("Theme"), theme_);
    text_ = new QComboBox;
    text_->setObjectName("preferences_text");
    for (const int percent : kTextPercents) text_->addItem(tr("%1 %").arg(percent), percent);
    form->addRow(tr("Size of text"), text_);
    colours_ = new QComboBox;
    colours_->setObjectName("preferences_colours");
    colours_->addItems({tr("Usual"), tr("For eyes weak in red"), tr("For eyes weak in green"),
                        tr("For eyes weak in blue"), tr("Greys")});
    form->addRow(tr("Colours of figures"), colours_);
    units_ = new QComboBox;
    units_->setObjectName("preferences_units");
    units_->addItems({tr("Millimetres"), tr("Centimetres"), tr("Inches")});
    units_->setToolTip(tr("Lengths in the window. Projects, reports and messages of checks keep to millimetres."));
    form->addRow(tr("Lengths in"), units_);
    language_ = new QComboBox;
    language_->setObjectName("preferences_language");
    language_->addItem(tr("As the machine"), QString());
    for (const Language& one : languages()) language_->addItem(one.name, one.code);
    form->addRow(tr("Language"), language_);
    for (QComboBox* box : {theme_, text_, colours_, units_, language_})
        connect(box, &QComboBox::currentIndexChanged, this, &Preferences::take);
}

void Preferences::build_habits(QFormLayout* form) {
    mouse_ = new QComboBox;
    mouse_->setObjectName("preferences_mouse");
    mouse_->addItems({tr("Left turns, right and middle move"), tr("Middle turns, with Shift it moves"),
                      tr("Right turns, middle moves"), tr("My own")});
    form->addRow(tr("Mouse in the views"), mouse_);
    connect(mouse_, &QComboBox::currentIndexChanged, this, &Preferences::take);
    turn_ = new QComboBox, move_ = new QComboBox;
    turn_->setObjectName("preferences_turn"), move_->setObjectName("preferences_move");
    for (QComboBox* box : {turn_, move_}) {
        for (const Hold& hold : kHolds) box->addItem(name_of(hold));
        connect(box, &QComboBox::currentIndexChanged, this, &Preferences::take);
    }
    form->addRow(tr("Turn with"), turn_);
    form->addRow(tr("Move with"), move_);
    wheel_ = new QCheckBox(tr("Wheel the other way"));
    wheel_->setObjectName("preferences_wheel");
    form->addRow(QString(), wheel_);
    connect(wheel_, &QCheckBox::toggled, this, &Preferences::take);
    autosave_ = new QSpinBox;
    autosave_->setObjectName("preferences_autosave");
    autosave_->setRange(1, kMostMinutes);
    autosave_->setSuffix(tr(" min"));
    form->addRow(tr("Autosave every"), autosave_);
    threads_ = new QSpinBox;
    threads_->setObjectName("preferences_threads");
    threads_->setRange(0, machine_threads());
    threads_->setSpecialValueText(tr("all"));
    form->addRow(tr("Threads"), threads_);
    for (QSpinBox* box : {autosave_, threads_}) connect(box, &QSpinBox::valueChanged, this, &Preferences::take);
}

void Preferences::build_cache(QFormLayout* form) {
    cache_folder_ = new PathLabel;
    auto* choose = button(tr("Change…"), "preferences_cache_folder",
                          tr("Where the program keeps what it would have to compute again: shading, looks at bases"));
    connect(choose, &QPushButton::clicked, this, &Preferences::choose_cache_folder);
    auto* place = row({cache_folder_, choose});
    place->setStretch(0, 1);
    form->addRow(tr("Cache folder"), place);
    cache_mb_ = new QSpinBox;
    cache_mb_->setObjectName("preferences_cache_mb");
    cache_mb_->setRange(0, kMostCacheMb);
    cache_mb_->setSingleStep(100);
    cache_mb_->setSuffix(tr(" MB at most"));
    cache_mb_->setSpecialValueText(tr("none"));
    cache_mb_->setKeyboardTracking(false);
    connect(cache_mb_, &QSpinBox::valueChanged, this, &Preferences::take);
    cache_empty_ = button({}, "preferences_cache_empty", tr("Everything in it is made again when it is needed"));
    connect(cache_empty_, &QPushButton::clicked, this, [this] {
        empty_cache();
        show_cache();
    });
    form->addRow(tr("Cache"), row({cache_mb_, cache_empty_}));
}

void Preferences::choose_cache_folder() {
    const QString chosen =
        QFileDialog::getExistingDirectory(this, tr("Cache folder"), QString::fromStdString(cache_folder()));
    if (chosen.isEmpty()) return;
    cache_ = chosen;
    take();
}

void Preferences::show_cache() {
    const QString folder = QString::fromStdString(cache_folder());
    cache_folder_->setText(folder);
    cache_folder_->setToolTip(folder);
    const std::uint64_t bytes = cache_bytes();
    cache_empty_->setText(tr("Empty (%1 MB)").arg(static_cast<double>(bytes) / (1 << 20), 0, 'f', 1));
    cache_empty_->setEnabled(bytes > 0);
}

void Preferences::fill(const PreferenceValues& v) {
    filling_ = true;
    theme_->setCurrentIndex(v.theme);
    text_->setCurrentIndex(std::max(0, text_->findData(v.text_percent)));
    mouse_->setCurrentIndex(v.mouse);
    wheel_->setChecked(v.wheel_reversed);
    turn_->setCurrentIndex(v.turn);
    move_->setCurrentIndex(v.move);
    colours_->setCurrentIndex(v.colours);
    units_->setCurrentIndex(v.units);
    language_->setCurrentIndex(std::max(0, language_->findData(v.language)));
    show_holds();
    autosave_->setValue(v.autosave_minutes);
    threads_->setValue(v.threads);
    cache_ = v.cache_folder;
    cache_mb_->setValue(v.cache_mb);
    show_cache();
    filling_ = false;
}

// Only who arranges the mouse for himself is asked.
void Preferences::show_holds() {
    const bool own = mouse_->currentIndex() == static_cast<int>(MouseButtons::Own);
    turn_->setEnabled(own);
    move_->setEnabled(own);
}

void Preferences::take() {
    if (filling_) return;
    show_holds();
    // one hold cannot do both
    if (turn_->currentIndex() == move_->currentIndex()) {
        filling_ = true;
        move_->setCurrentIndex(turn_->currentIndex() == kLastHold ? 0 : kLastHold);
        filling_ = false;
    }
    const PreferenceValues now{theme_->currentIndex(),
                               text_->currentData().toInt(),
                               mouse_->currentIndex(),
                               wheel_->isChecked(),
                               turn_->currentIndex(),
                               move_->currentIndex(),
                               colours_->currentIndex(),
                               units_->currentIndex(),
                               language_->currentData().toString(),
                               autosave_->value(),
                               threads_->value(),
                               cache_,
                               cache_mb_->value()};
    keep_preferences(now);
    emit changed(now);
    show_cache();
}

}  // namespace veld
