#include "app/stations/fit/fit_panel.h"

#include "app/widgets.h"

namespace veld {

FitPanel::FitPanel(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Fit"), "title"));
    build_settings(column);
    build_covered(column);
    build_run(column);
    build_looks(column);
    column->addStretch();
    connect(&s_, &Session::changed, this, &FitPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &FitPanel::refresh);
    connect(&s_, &Session::progress, this, [this](double f, const QString& stage) {
        if (!s_.fitting()) return;
        bar_->setValue(static_cast<int>(1000 * f));
        hint_->setText(stage);
    });
    refresh();
}

void FitPanel::build_settings(QBoxLayout* column) {
    part_ = new QComboBox;
    part_->setObjectName("fit_part");
    part_->addItems({tr("Head only, fading over the neck"), tr("Body only"), tr("Head and body")});
    connect(part_, &QComboBox::activated, this, [this](int i) { edit(tr("Change what is fitted"), [i](FitSettings& f) { f.part = static_cast<FitPart>(i); }); });
    column->addWidget(part_);
    true_size_ = new QCheckBox(tr("Keep the subject's true size"));
    true_size_->setObjectName("fit_true_size");
    true_size_->setToolTip(tr("Otherwise the head is brought to the base's size, so that clothes and hair still fit"));
    connect(true_size_, &QCheckBox::clicked, this, [this](bool on) { edit(tr("True size"), [on](FitSettings& f) { f.keep_true_size = on; }); });
    column->addWidget(true_size_);
    curves_ = new QCheckBox(tr("Follow guide curves"));
    curves_->setObjectName("fit_curves");
    curves_->setToolTip(tr("Lids, lips, jaw and ears slide along the source's curves"));
    connect(curves_, &QCheckBox::clicked, this, [this](bool on) { edit(tr("Guide curves"), [on](FitSettings& f) { f.use_curves = on; }); });
    column->addWidget(curves_);
    detail_ = new QDoubleSpinBox;
    detail_->setObjectName("fit_detail");
    detail_->setRange(0.4, 20);
    detail_->setSingleStep(0.2);
    detail_->setKeyboardTracking(false);
    detail_->setSuffix(tr(" mm"));
    detail_->setToolTip(tr("Features smaller than this keep the base's own form. Larger is smoother and copies less noise."));
    connect(detail_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) edit(tr("Smoothness"), [mm](FitSettings& f) { f.smooth_end_mm = mm; }, "fit detail");
    });
    column->addLayout(row({text_label(tr("Smooth below"), "plain"), detail_}));
}

void FitPanel::build_covered(QBoxLayout* column) {
    column->addWidget(text_label(tr("Covered on this source (keeps the base's form)"), "section"));
    const std::pair<const char*, QString> regions[] = {{"skull", tr("Skull")}, {"ear_l", tr("Left ear")}, {"ear_r", tr("Right ear")}, {"neck", tr("Neck")}};
    auto* grid = new QGridLayout;
    int at = 0;
    for (const auto& [name, plain] : regions) {
        auto* box = new QCheckBox(plain);
        box->setObjectName(QString("fit_covered_%1").arg(name));
        box->setToolTip(tr("Under hair, a cap or clothes: this region follows its neighbours instead of matching"));
        connect(box, &QCheckBox::clicked, this, [this, region = std::string(name)](bool on) {
            edit(tr("Covered region"), [&](FitSettings& f) {
                if (on) f.regions[region].match = 0;
                else f.regions.erase(region);
            });
        });
        covered_[name] = box;
        grid->addWidget(box, at / 2, at % 2);
        ++at;
    }
    column->addLayout(grid);
}

void FitPanel::build_run(QBoxLayout* column) {
    start_ = button(tr("Fit"), "fit_start", tr("Bend the base onto the source (Ctrl+Return)"), true);
    cancel_ = button(tr("Cancel"), "fit_cancel", tr("Stop; nothing is changed"));
    connect(start_, &QPushButton::clicked, &s_, &Session::start_fit);
    connect(cancel_, &QPushButton::clicked, &s_, &Session::cancel);
    column->addLayout(row({start_, cancel_}));
    bar_ = new QProgressBar;
    bar_->setRange(0, 1000);
    column->addWidget(bar_);
    hint_ = text_label({}, "dim");
    hint_->setObjectName("fit_hint");
    column->addWidget(hint_);
}

void FitPanel::build_looks(QBoxLayout* column) {
    looks_ = new QWidget;
    auto* looks = new QVBoxLayout(looks_);
    looks->setContentsMargins(0, 0, 0, 0);
    result_ = text_label({}, "section");
    result_->setObjectName("fit_result");
    looks->addWidget(result_);
    fade_ = new QSlider(Qt::Horizontal);
    fade_->setObjectName("fit_fade");
    fade_->setRange(0, 100);
    fade_->setValue(100);
    connect(fade_, &QSlider::valueChanged, this, [this](int v) {
        look_.fade = v / 100.0;
        emit look_changed();
    });
    looks->addLayout(row({text_label(tr("source"), "dim"), fade_, text_label(tr("fit"), "dim")}));
    distance_ = new QCheckBox(tr("Distance colours up to"));
    distance_->setObjectName("fit_distance");
    connect(distance_, &QCheckBox::toggled, this, [this](bool on) {
        look_.distance = on;
        emit look_changed();
    });
    scale_ = new QDoubleSpinBox;
    scale_->setRange(0.1, 20);
    scale_->setValue(1);
    scale_->setSingleStep(0.5);
    scale_->setDecimals(1);
    scale_->setSuffix(tr(" mm"));
    connect(scale_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        look_.worst_mm = mm;
        emit look_changed();
    });
    looks->addLayout(row({distance_, scale_}));
    notes_ = text_label({}, "dim");
    looks->addWidget(notes_);
    remove_ = button(tr("Remove this fit"), "fit_remove", tr("Undo brings it back"));
    connect(remove_, &QPushButton::clicked, this, &FitPanel::remove_fit);
    looks->addWidget(remove_);
    column->addWidget(looks_);
}

void FitPanel::edit(const QString& label, const std::function<void(FitSettings&)>& change, const std::string& merge) {
    ProjectState next = s_.state();
    change(next.settings);
    if (next.settings == s_.state().settings) return;
    s_.change(label, std::move(next), merge);
}

void FitPanel::remove_fit() {
    ProjectState next = s_.state();
    if (!next.fit()) return;
    const QString name = QString::fromStdString(next.fit()->name);
    next.current()->fits.pop_back();
    s_.change(tr("Remove %1").arg(name), std::move(next));
}

void FitPanel::refresh() {
    filling_ = true;
    const ProjectState& state = s_.state();
    const FitSettings& f = state.settings;
    part_->setCurrentIndex(static_cast<int>(f.part));
    true_size_->setChecked(f.keep_true_size);
    curves_->setChecked(f.use_curves);
    detail_->setValue(f.smooth_end_mm);
    for (const auto& [name, box] : covered_) {
        const auto at = f.regions.find(name);
        box->setChecked(at != f.regions.end() && at->second.match == 0);
    }
    const Source* source = state.source();
    const std::size_t points = source ? source->landmarks.points.size() : 0;
    start_->setEnabled(points >= 3 && !s_.busy());
    cancel_->setVisible(s_.fitting());
    bar_->setVisible(s_.fitting());
    if (!s_.fitting()) {
        hint_->setText(!source ? tr("Add a scan first (Gather).") : points < 3 ? tr("Mark at least three points; ten make a good start (Mark).") : QString());
    }
    hint_->setVisible(!hint_->text().isEmpty() || s_.fitting());
    const FitRecord* fit = state.fit();
    looks_->setVisible(fit != nullptr && !s_.fitting());
    if (fit) {
        result_->setText(tr("%1: median %2 mm").arg(QString::fromStdString(fit->name)).arg(fit->figures.surface.median, 0, 'f', 3));
        QStringList notes;
        for (const std::string& n : fit->notes) notes << QString::fromStdString(n);
        notes_->setText(notes.join("\n"));
        notes_->setVisible(!notes.isEmpty());
    }
    filling_ = false;
}

}  // namespace veld
