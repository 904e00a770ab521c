#include "app/stations/fit/photos_tab.h"
#include "app/flow_row.h"

#include <QInputDialog>
#include <cmath>

#include "app/lengths.h"
#include "app/theme.h"
#include "core/project/layered_skins.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr double kShortest = 14, kLongest = 300;  // mm of the lens slider

int steps_of(double mm) {
    return static_cast<int>(std::lround(1000 * std::log(mm / kShortest) / std::log(kLongest / kShortest)));
}
double mm_of(int steps) { return kShortest * std::pow(kLongest / kShortest, steps / 1000.0); }

// a shape for each grade, not a colour alone
QString grade_mark(PhotoGrade grade) {
    return grade == PhotoGrade::Good     ? QStringLiteral("●")
           : grade == PhotoGrade::Usable ? QStringLiteral("◐")
                                         : QStringLiteral("○");
}

}  // namespace

PhotosTab::PhotosTab(Session& session, PhotoController& photos, QWidget* parent)
    : QWidget(parent), s_(session), p_(photos) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    build_list(column);
    build_lens(column);
    build_whole(column);
    column->addStretch();
    build_run(column);
    connect(&p_, &PhotoController::changed, this, &PhotosTab::refresh);
    connect(&s_, &Session::busy_changed, this, &PhotosTab::refresh);
    connect(&p_, &PhotoController::ask_face, this, &PhotosTab::ask_face);
    refresh();
}

void PhotosTab::build_list(QBoxLayout* column) {
    list_ = new QListWidget;
    list_->setObjectName("photo_list");
    list_->setFixedHeight(84);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int i) {
        if (!filling_ && i >= 0) p_.select_photo(i);
    });
    column->addWidget(list_);
    remarks_ = text_label({}, "plain");
    remarks_->setObjectName("photo_remarks");
    column->addWidget(remarks_);
    through_ = new QCheckBox(tr("Look through its camera"));
    through_->setObjectName("photo_through");
    through_->setToolTip(
        tr("The view stands where the camera stood, the photograph around the mesh. A fixed view or F leaves it"));
    connect(through_, &QCheckBox::clicked, &p_, &PhotoController::look_through);
    column->addWidget(through_);
    behind_ = new QSlider(Qt::Horizontal), over_ = new QSlider(Qt::Horizontal);
    behind_->setObjectName("photo_behind"), over_->setObjectName("photo_over");
    behind_->setRange(0, 100), over_->setRange(0, 100);
    behind_->setToolTip(tr("How much of the photograph is seen around the mesh")),
        over_->setToolTip(tr("How much of it is laid over the mesh"));
    for (QSlider* s : {behind_, over_})
        connect(s, &QSlider::valueChanged, this, [this] {
            if (!filling_) p_.set_opacities(behind_->value() / 100.0, over_->value() / 100.0);
        });
    draw_ = new QCheckBox(tr("Draw its outline by hand"));
    draw_->setObjectName("photo_draw");
    draw_->setToolTip(
        tr("Click along the head's edge in the photograph at the left: jaw, skull, ear, neck. Drag its points, click "
           "on the line for another one, Ctrl+click takes one out. Where you draw it, nothing is looked for"));
    connect(draw_, &QCheckBox::clicked, &p_, &PhotoController::set_drawing);
    forget_ = button(tr("Remove"), "photo_forget", tr("Removes the drawn outline"));
    connect(forget_, &QPushButton::clicked, &p_, &PhotoController::forget_outlines);
    column->addLayout(row({text_label(tr("Behind"), "plain"), behind_, text_label(tr("Over"), "plain"), over_}));
    column->addLayout(flow({draw_, forget_}));
}

void PhotosTab::build_lens(QBoxLayout* column) {
    lens_from_ = new QComboBox;
    lens_from_->setObjectName("photo_lens_from");
    lens_from_->addItems(
        {tr("Focal length from EXIF"), tr("Focal length typed"), tr("Focal length estimated"), tr("Orthographic")});
    lens_from_->setToolTip(tr("35 mm equivalent. Estimated: nose, ears and eyes tell how near the camera was"));
    connect(lens_from_, &QComboBox::activated, this, [this](int i) {
        const PhotoCamera* camera = p_.camera(p_.photo());
        const double now = camera && !camera->parallel ? camera->focal_35mm() : 60;
        p_.edit(tr("Focal length"), [&](PhotoHeadSettings& f) {
            PhotoLens& lens = f.lenses[static_cast<std::size_t>(p_.photo())];
            lens.parallel = i == 3;
            if (i < 3)
                lens.from = i == 0   ? PhotoLens::From::Picture
                            : i == 1 ? PhotoLens::From::Typed
                                     : PhotoLens::From::Data;
            if (i == 1 && lens.focal_35mm <= 0) lens.focal_35mm = now;
        });
    });
    lens_ = new QSlider(Qt::Horizontal);
    lens_->setObjectName("photo_lens");
    lens_->setRange(0, 1000);
    lens_->setToolTip(
        tr("Another focal length: the face widens or narrows while its landmarks stay on the photograph. Shown while "
           "you move"));
    lens_text_ = new QLabel;
    lens_text_->setObjectName("photo_lens_text");
    hold_width(lens_text_, "200 mm");
    // while it is held another subject, try or photograph may come to be worked on, by a key or an undo: not theirs
    connect(lens_, &QSlider::sliderPressed, this, [this] { lens_held_for_ = lens_owner(); });
    connect(lens_, &QSlider::valueChanged, this, [this](int v) {
        if (filling_ || (lens_->isSliderDown() && lens_held_for_ != lens_owner())) return;
        lens_text_->setText(tr("%1 mm").arg(mm_of(v), 0, 'f', 0));
        p_.try_lens(p_.photo(), mm_of(v), !lens_->isSliderDown());
    });
    connect(lens_, &QSlider::sliderReleased, this, [this] {
        lens_held_for_ == lens_owner() ? p_.try_lens(p_.photo(), mm_of(lens_->value()), true) : refresh();
    });
    column->addWidget(lens_from_);
    column->addLayout(row({lens_, lens_text_}));
}

PhotosTab::LensOwner PhotosTab::lens_owner() const {
    return {p_.set() ? p_.set()->id : PhotoSetId{}, p_.fit() ? p_.fit()->id : FitId{}, p_.photo()};
}

void PhotosTab::build_whole(QBoxLayout* column) {
    const auto add = [&](const QString& text, const char* name, const QString& tip, bool PhotoHeadSettings::*value) {
        auto* box = new QCheckBox(text);
        box->setObjectName(name);
        box->setToolTip(tip);
        connect(box, &QCheckBox::clicked, this,
                [this, text, value](bool on) { p_.edit(text, [&](PhotoHeadSettings& f) { f.*value = on; }); });
        return box;
    };
    one_lens_ = add(tr("One lens for all"), "photo_one_lens",
                    tr("All photographs of one size were taken through the same lens"), &PhotoHeadSettings::one_lens);
    curves_ = add(tr("Guide curves"), "photo_curves",
                  tr("Lids, lips, brows and ears slide along the curves marked in the photographs"),
                  &PhotoHeadSettings::use_curves);
    outline_ = add(tr("Outlines"), "photo_outline",
                   tr("Where the head ends in front of something else: found where skin ends, or where you drew it"),
                   &PhotoHeadSettings::use_outline);
    heads_ = new QCheckBox;
    heads_->setObjectName("photo_heads");
    heads_->setToolTip(
        tr("What no photograph shows follows the rest as in the bank's heads (morphs of the kinds Head and Whole)"));
    connect(heads_, &QCheckBox::clicked, this, [this](bool on) {
        p_.edit(tr("Heads of the bank"),
                [&](PhotoHeadSettings& f) { f.heads = on ? head_morphs(s_.state()) : std::vector<std::string>(); });
    });
    auto* grid = new QGridLayout;
    grid->addWidget(one_lens_, 0, 0), grid->addWidget(curves_, 0, 1);
    grid->addWidget(outline_, 1, 0), grid->addWidget(heads_, 1, 1);
    column->addLayout(grid);
    eyes_ = new LengthBox(
        "photo_eyes", 0, 120, 1, 1,
        tr("From pupil to pupil, when it was measured: no photograph tells how large a head is. 0: near the base's "
           "size"));
    eyes_->setSpecialValueText(tr("not measured"));
    connect(eyes_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_)
            p_.edit(
                tr("Distance of the pupils"), [&](PhotoHeadSettings& f) { f.eyes_mm = mm < 20 ? 0 : mm; },
                "photo eyes");
    });
    column->addLayout(row({text_label(tr("Pupil to pupil"), "plain"), eyes_}));
}

void PhotosTab::build_run(QBoxLayout* column) {
    outcome_ = text_label({}, "plain");
    outcome_->setObjectName("photo_outcome");
    column->addWidget(outcome_);
    make_ = button(tr("Make the head"), "photo_make",
                   tr("Cameras and shape from all photographs; missing landmarks are found first"), true);
    go_on_ = button(tr("Refine"), "photo_go_on", tr("A new fit from this one"));
    cancel_ = button(tr("Cancel"), "photo_cancel", tr("Stops; nothing is changed"));
    skin_ =
        button(tr("Skin"), "photo_skin",
               tr("The photographs as a layer of the subject's skin: light and seams out, the unseen side mirrored, "
                  "the rest from the base in the same tone. Go on with it in the station Skin"));
    connect(make_, &QPushButton::clicked, this, [this] { p_.make(false); });
    connect(go_on_, &QPushButton::clicked, this, [this] { p_.make(true); });
    connect(cancel_, &QPushButton::clicked, &s_, &Session::cancel);
    connect(skin_, &QPushButton::clicked, this, [this] { emit p_.skin_wanted(); });
    column->addLayout(flow({make_, go_on_, skin_, cancel_}));
}

void PhotosTab::ask_face(PhotoSetId id, int photo, int faces) {
    const PhotoSet* set = find_photo_set(s_.state(), id);
    if (!set || photo < 0 || photo >= static_cast<int>(set->photos->size())) return;
    QStringList which;
    for (int i = 0; i < faces; ++i) which << (i == 0 ? tr("the largest") : tr("number %1 by size").arg(i + 1));
    bool ok = false;
    const QString name = QString::fromStdString((*set->photos)[static_cast<std::size_t>(photo)].name);
    const QString selected = QInputDialog::getItem(
        this, tr("Which face?"), tr("%1 shows %2 faces of nearly one size. Which one is it?").arg(name).arg(faces),
        which, 0, false, &ok);
    if (ok) p_.select_face(id, photo, static_cast<int>(which.indexOf(selected)));
}

void PhotosTab::refresh_list() {
    QStringList lines;
    for (std::size_t i = 0; p_.set() && i < p_.set()->photos->size(); ++i) {
        const LookedAt* looked = p_.looked_at(static_cast<int>(i));
        const PhotoCamera* camera = p_.camera(static_cast<int>(i));
        QString line = (looked ? grade_mark(looked->report.grade) : QStringLiteral("·")) + "  " +
                       QString::fromStdString((*p_.set()->photos)[i].name);
        if (camera) line += camera->parallel ? tr("   parallel") : tr("   %1 mm").arg(camera->focal_35mm(), 0, 'f', 0);
        lines << line;
    }
    bool same = lines.size() == list_->count();
    for (int i = 0; same && i < lines.size(); ++i) same = list_->item(i)->text() == lines[i];
    if (!same) list_->clear(), list_->addItems(lines);
    list_->setCurrentRow(p_.photo());
}

void PhotosTab::refresh_remarks() {
    const LookedAt* looked = p_.looked_at(p_.photo());
    QString text;
    if (looked) {
        QString more;
        for (const PhotoRemark& r : looked->report.remarks) {
            if (r.grade == PhotoGrade::Good) continue;
            if (!text.isEmpty()) text += "\n";
            text += grade_mark(r.grade) + " " + QString::fromStdString(r.says);
            more += QString::fromStdString(r.says + ".\nIt costs: " + r.costs + ".\nBetter: " + r.better) + "\n\n";
        }
        if (text.isEmpty()) text = tr("● A good photograph for this.");
        remarks_->setToolTip(more.trimmed());
    }
    remarks_->setText(text);
    remarks_->setVisible(!text.isEmpty());
}

void PhotosTab::refresh_lens() {
    const PhotoHeadSettings f = p_.settings();
    const bool any = p_.set() != nullptr && static_cast<std::size_t>(p_.photo()) < f.lenses.size();
    const PhotoLens lens = any ? f.lenses[static_cast<std::size_t>(p_.photo())] : PhotoLens{};
    lens_from_->setEnabled(any);
    lens_from_->setCurrentIndex(lens.parallel                         ? 3
                                : lens.from == PhotoLens::From::Typed ? 1
                                : lens.from == PhotoLens::From::Data  ? 2
                                                                      : 0);
    const PhotoCamera* camera = p_.camera(p_.photo());
    const double mm = lens.from == PhotoLens::From::Typed && lens.focal_35mm > 0 ? lens.focal_35mm
                      : camera && !camera->parallel                              ? camera->focal_35mm()
                                                                                 : 60;
    lens_->setEnabled(any && !lens.parallel && !s_.busy());
    if (!lens_->isSliderDown()) {
        lens_->setValue(steps_of(mm));
        lens_text_->setText(camera || lens.from == PhotoLens::From::Typed ? tr("%1 mm").arg(mm, 0, 'f', 0)
                                                                          : QString());
    }
    one_lens_->setChecked(f.one_lens), curves_->setChecked(f.use_curves), outline_->setChecked(f.use_outline);
    const auto heads = head_morphs(s_.state());
    heads_->setText(tr("Bank's heads (%1)").arg(heads.size()));
    heads_->setEnabled(!heads.empty());
    heads_->setChecked(!f.heads.empty());
    eyes_->setValue(f.eyes_mm);
}

void PhotosTab::refresh() {
    filling_ = true;
    const bool any = p_.set() != nullptr;
    hint_->setVisible(!any);
    hint_->setText(
        tr("This subject has no photographs yet. Drop two or three portraits on the window, or use Gather → Add a "
           "source: front, three-quarter and side."));
    for (QWidget* w : std::initializer_list<QWidget*>{list_, lens_from_, lens_, lens_text_, through_, behind_, over_,
                                                      make_, one_lens_, curves_, outline_, heads_, eyes_})
        w->setEnabled(any);
    refresh_list();
    refresh_remarks();
    refresh_lens();
    const FitRecord* fit = p_.fit();
    through_->setEnabled(p_.camera(p_.photo()) != nullptr);
    through_->setChecked(p_.looks_through());
    behind_->setEnabled(p_.looks_through()), over_->setEnabled(p_.looks_through());
    behind_->setValue(static_cast<int>(std::lround(100 * p_.behind))),
        over_->setValue(static_cast<int>(std::lround(100 * p_.over)));
    draw_->setEnabled(any), draw_->setChecked(p_.drawing());
    forget_->setVisible(p_.has_outline());
    make_->setVisible(!p_.making()), go_on_->setVisible(fit && !p_.making()), skin_->setVisible(fit && !p_.making()),
        cancel_->setVisible(p_.making());
    make_->setEnabled(any && !s_.busy()), go_on_->setEnabled(!s_.busy()), skin_->setEnabled(!s_.busy());
    QString text;
    if (fit && fit->photo->photos.size() > static_cast<std::size_t>(p_.photo())) {
        const PhotoFigures& f = fit->photo->photos[static_cast<std::size_t>(p_.photo())];
        text = !f.camera ? tr("Left out: mark at least four landmarks on it.")
                         : tr("%1 landmarks, %2 rms; outline %3 (%4 points); %5 away")
                               .arg(f.landmarks)
                               .arg(length_text(f.landmark_rms_mm, 1), length_text(f.outline_rms_mm, 1))
                               .arg(f.outline_points)
                               .arg(length_text(f.distance_mm, 0));
        for (const std::string& note : fit->notes) text += "\n▲ " + QString::fromStdString(note);
        if (const SkinLayer* skin = layer_through(*s_.state().current(), fit->id); skin && !skin->baked_for.empty())
            text += "\n" + tr("Skin: %1 % photographs, %2 % mirrored, %3 % base")
                               .arg(100 * skin->seen, 0, 'f', 0)
                               .arg(100 * skin->mirrored, 0, 'f', 0)
                               .arg(100 * (1 - skin->seen - skin->mirrored), 0, 'f', 0);
    }
    outcome_->setText(text);
    outcome_->setVisible(!text.isEmpty());
    filling_ = false;
}

}  // namespace veld
