#include "app/stations/fit/fit_panel.h"

#include <cmath>

#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/widgets.h"
#include "core/fit/presets.h"
#include "core/project/fits.h"

namespace veld {
namespace {

LengthBox* millimetres(const char* name, double low, double high, double step, const QString& tip) {
    return new LengthBox(name, low, high, step, step < 1 ? 1 : 0, tip);
}

}  // namespace

FitPanel::FitPanel(Session& session, RegionController& regions, PhotoController& photos, QWidget* parent)
    : QWidget(parent), s_(session), photos_(photos) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Fit"), "title"));
    sections_ = new Sections("fit_sections");
    sections_->add(build_whole(), tr("Whole"));
    sections_->add(new RegionsTab(session, regions), tr("Regions"));
    sections_->add(new TriesTab(session), tr("Fits"));
    sections_->add(new PhotosTab(session, photos), tr("Photos"));
    sections_->add(new HandTab(session, photos), tr("By hand"));
    // weights are only shown while regions are worked on
    connect(sections_, &Sections::current_changed, this, [this, &regions](int tab) {
        if (tab != 1) regions.show({});
        run_->setVisible(tab < 3);
        if (tab >= 3 && isVisible()) photos_.look();  // the photographs' grades, and what the sliders need
    });
    column->addWidget(sections_, 1);
    run_ = new QWidget;
    auto* run = new QVBoxLayout(run_);
    run->setContentsMargins(0, 0, 0, 0);
    build_run(run);
    column->addWidget(run_);
    connect(&s_, &Session::changed, this, &FitPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &FitPanel::refresh);
    refresh();
}

void FitPanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (sections_->current() >= 3) photos_.look();
}

QWidget* FitPanel::build_whole() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    build_preset(column);
    build_switches(column);
    build_numbers(column);
    column->addStretch();
    return page;
}

void FitPanel::build_preset(QBoxLayout* column) {
    preset_ = new QComboBox;
    preset_->setObjectName("fit_preset");
    preset_->addItem(tr("Start from settings for…"));
    for (const FitPreset& p : fit_presets()) {
        preset_->addItem(core_word(p.plain));
        preset_->setItemData(preset_->count() - 1, core_word(p.why), Qt::ToolTipRole);
    }
    connect(preset_, &QComboBox::activated, this, [this](int i) {
        if (i < 1) return;
        const FitPreset& p = fit_presets()[static_cast<std::size_t>(i) - 1];
        edit(tr("Settings for %1").arg(core_word(p.plain)), [&](FitSettings& f) {
            const auto painted = f.own_regions;  // hours of a hand's work
            f = p.settings;
            f.own_regions = painted;
        });
        preset_->setCurrentIndex(0);
    });
    column->addWidget(preset_);
    part_ = new QComboBox;
    part_->setObjectName("fit_part");
    part_->addItems({tr("Head only, fading over the neck"), tr("Body only"), tr("Head and body")});
    connect(part_, &QComboBox::activated, this, [this](int i) {
        edit(tr("Change what is fitted"), [i](FitSettings& f) { f.part = static_cast<FitPart>(i); });
    });
    column->addWidget(part_);
}

void FitPanel::build_switches(QBoxLayout* column) {
    const auto add = [&](const QString& text, const char* name, const QString& tip, const QString& label,
                         bool FitSettings::*value) {
        auto* box = new QCheckBox(text);
        box->setObjectName(name);
        box->setToolTip(tip);
        connect(box, &QCheckBox::clicked, this,
                [this, label, value](bool on) { edit(label, [&](FitSettings& f) { f.*value = on; }); });
        column->addWidget(box);
        return box;
    };
    true_size_ = add(tr("Keep the subject's true size"), "fit_true_size",
                     tr("Otherwise the head is brought to the base's size, so that clothes and hair still fit"),
                     tr("True size"), &FitSettings::keep_true_size);
    surface_ = add(tr("Match the surface"), "fit_surface", tr("Off: landmarks and guide curves alone shape the base"),
                   tr("Match the surface"), &FitSettings::use_surface);
    curves_ =
        add(tr("Follow guide curves"), "fit_curves", tr("Lids, lips, jaw and ears slide along the source's curves"),
            tr("Guide curves"), &FitSettings::use_curves);
    pose_ = add(tr("Take the pose out"), "fit_pose",
                tr("Of a whole figure: the skeleton is bent first, and the shape is kept as it stands at rest"),
                tr("Take the pose out"), &FitSettings::take_pose_out);
    known_heads_ = add(tr("Begin with a likely head"), "fit_known_heads",
                       tr("Of the heads that the kit knows the most likely one is the start, and what is not seen "
                          "stays as that has it. Off: as the base has it."),
                       tr("Begin with a likely head"), &FitSettings::known_heads);
    shut_mouth_ = add(tr("Shut the mouth, open the eyes"), "fit_shut_mouth",
                      tr("Of a head whose mouth is open or whose eyes are not: the base's jaw and lids go down first, "
                         "and the shape is handed out with the mouth shut and the eyes open. Off: as they are."),
                      tr("Mouth shut, eyes open"), &FitSettings::shut_mouth);
}

void FitPanel::build_numbers(QBoxLayout* column) {
    detail_ = millimetres(
        "fit_detail", 0.4, 20, 0.2,
        tr("Features smaller than this keep the base's own form. Larger is smoother and copies less noise."));
    connect(detail_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_)
            edit(
                tr("Smoothness"), [mm](FitSettings& f) { f.smooth_end_mm = std::min(mm, f.smooth_start_mm); },
                "fit detail");
    });
    column->addLayout(row({text_label(tr("Smooth below"), "plain"), detail_}));
    band_ = millimetres("fit_band", 5, 300, 5,
                        tr("Over this length above the neck's ring a head fades into the untouched body"));
    connect(band_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_)
            edit(
                tr("Neck band"), [mm](FitSettings& f) { f.neck_band_mm = mm; }, "fit band");
    });
    column->addLayout(row({text_label(tr("Neck fades over"), "plain"), band_}));
    symmetry_ = new QSlider(Qt::Horizontal);
    symmetry_->setObjectName("fit_symmetry");
    symmetry_->setRange(0, 100);
    symmetry_->setToolTip(tr("0 %: as asymmetric as the subject. 100 %: both sides become their mean"));
    symmetry_text_ = new QLabel;
    hold_width(symmetry_text_, "100 %");
    connect(symmetry_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_)
            edit(
                tr("Symmetry"), [v](FitSettings& f) { f.symmetry = v / 100.0; }, "fit symmetry");
    });
    column->addLayout(row({text_label(tr("Symmetry"), "plain"), symmetry_, symmetry_text_}));
}

void FitPanel::build_run(QBoxLayout* column) {
    left_out_ = text_label({}, "plain");
    left_out_->setObjectName("fit_left_out");
    column->addWidget(left_out_);
    match_all_ = button(tr("Match all of it"), "fit_match_all",
                        tr("Nothing is left out any more. Tidy, Ignore paints what the fit must not match."));
    connect(match_all_, &QPushButton::clicked, &s_, &Session::match_all);
    column->addWidget(match_all_);
    changed_ = text_label(tr("Landmarks or settings changed since this fit."), "warning");
    changed_->setObjectName("fit_changed");
    column->addWidget(changed_);
    start_ = button(tr("Fit"), "fit_start", tr("Fits the base to the source from scratch (Ctrl+Return)"), true);
    go_on_ = button(tr("Refine"), "fit_go_on",
                    tr("A new fit from this one: only what a change reaches is solved again (Ctrl+G)"));
    cancel_ = button(tr("Cancel"), "fit_cancel", tr("Stops; nothing is changed"));
    connect(start_, &QPushButton::clicked, this, [this] { s_.start_fit(); });
    connect(go_on_, &QPushButton::clicked, this, [this] { s_.start_fit(Session::FitRun::GoOn); });
    connect(cancel_, &QPushButton::clicked, &s_, &Session::cancel);
    column->addLayout(flow({start_, go_on_, cancel_}));
    follow_ = new QCheckBox(tr("Refit automatically"));
    follow_->setObjectName("fit_follow");
    follow_->setToolTip(
        tr("Moving a landmark, ignoring an area or changing a region refits at once; undo takes both back"));
    connect(follow_, &QCheckBox::clicked, &s_, &Session::set_follow_changes);
    column->addWidget(follow_);
    hint_ = text_label({}, "dim");
    hint_->setObjectName("fit_hint");
    column->addWidget(hint_);
}

void FitPanel::refresh_left_out() {
    const Source* source = s_.state().source();
    const VertexMask* ignored = source ? source->ignored.get() : nullptr;
    const auto count = ignored ? std::count(ignored->begin(), ignored->end(), 1) : 0;
    left_out_->setVisible(count > 0), match_all_->setVisible(count > 0);
    if (count == 0) return;
    const double share = 100.0 * static_cast<double>(count) / static_cast<double>(ignored->size());
    left_out_->setText(tr("%1 % of the source is left out (striped): hair, caps, what is ignored.")
                           .arg(std::max(1L, std::lround(share))));
}

void FitPanel::edit(const QString& label, const std::function<void(FitSettings&)>& change, const std::string& merge) {
    ProjectState next = s_.state();
    change(next.settings);
    if (next.settings == s_.state().settings) return;
    s_.change(label, std::move(next), merge);
}

void FitPanel::refresh_settings() {
    const FitSettings& f = s_.state().settings;
    part_->setCurrentIndex(static_cast<int>(f.part));
    true_size_->setChecked(f.keep_true_size);
    surface_->setChecked(f.use_surface);
    curves_->setChecked(f.use_curves);
    pose_->setChecked(f.take_pose_out);
    pose_->setVisible(f.part == FitPart::All);
    known_heads_->setChecked(f.known_heads);
    known_heads_->setVisible(f.part == FitPart::Head && s_.state().kit && s_.state().kit->known_heads);
    shut_mouth_->setChecked(f.shut_mouth);
    shut_mouth_->setVisible(f.part == FitPart::Head);
    detail_->setValue(f.smooth_end_mm);
    band_->setValue(f.neck_band_mm);
    band_->setEnabled(f.part == FitPart::Head);
    symmetry_->setValue(static_cast<int>(std::lround(100 * f.symmetry)));
    symmetry_text_->setText(QString("%1 %").arg(std::lround(100 * f.symmetry)));
}

void FitPanel::refresh() {
    filling_ = true;
    refresh_settings();
    refresh_left_out();
    const ProjectState& state = s_.state();
    // photographs bring their own tab up once, where there is no scan
    const std::shared_ptr<const void> now = photos_.shows_photos() ? photos_.set()->photos : nullptr;
    // what a subject has no use for is not shown: regions match a scan's surface, photographs have tabs of their own
    const bool photos = photos_.set() != nullptr, scan = !photos_.shows_photos();
    for (const int i : {0, 1}) sections_->set_offered(i, scan);
    for (const int i : {3, 4}) sections_->set_offered(i, photos);
    if (now != tab_for_) {
        tab_for_ = now;
        if (now && sections_->current() < 3) sections_->set_current(3);
        if (!now && sections_->current() >= 3) sections_->set_current(0);
    }
    const Source* source = state.source();
    const std::size_t points = source ? source->landmarks.points.size() : 0;
    start_->setEnabled(points >= 3 && !s_.busy());
    start_->setVisible(!s_.fitting());
    go_on_->setVisible(state.fit() && !s_.fitting());
    go_on_->setEnabled(s_.can_go_on());
    follow_->setVisible(state.fit());
    follow_->setChecked(s_.follows_changes());
    cancel_->setVisible(s_.fitting());
    changed_->setVisible(!s_.fitting() && !s_.follows_changes() && outdated(state));
    hint_->setText(!source      ? tr("Add a scan first (Gather).")
                   : points < 3 ? tr("Mark at least three landmarks; ten make a good start (Mark).")
                                : QString());
    hint_->setVisible(!hint_->text().isEmpty() && !s_.fitting());
    filling_ = false;
}

}  // namespace veld
