#include "app/stations/prove/scan_page.h"

#include <QFormLayout>

#include "app/flow_row.h"
#include "core/detect/detect.h"
#include "core/project/bank.h"
#include "core/project/fits.h"
#include "core/proof/scanned_expression.h"

namespace veld {
namespace {

// The expression and its parts, from a scan with a face that somebody marked, or else is found.
Result<std::vector<Morph>> morphs_from(const ProjectState& s, const Points& neutral, const Source& source,
                                       const std::string& name, const ExpressionParts& parts,
                                       const Progress& progress) {
    FitInput input{s.kit.get(), s.base_points, source.mesh.get(),    source.landmarks,
                   source.unit, s.settings,    source.ignored.get(), s.base_curves};
    input.not_skin = source.not_skin.get();
    if (source.landmarks.points.empty()) {
        FaceNetwork network;
        const DetectInput look{s.kit.get(),    s.base_points,        s.base_curves, source.mesh.get(),
                               source.upright, source.ignored.get(), nullptr};
        auto found = detect_landmarks(network, look, progress);
        if (!found) return found.error();
        input.landmarks = std::move(found->set);
    }
    const auto made = expression_from_scan(*s.kit, neutral, input, progress);
    if (!made) return made.error();
    return expression_parts(*s.kit, neutral, made->shape, name, parts);
}

}  // namespace

ScanPage::ScanPage(Session& session, ProveController& prove, QWidget* parent)
    : QWidget(parent), s_(session), prove_(prove) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    column->addWidget(
        text_label(tr("A further scan of the same person with an expression. The fit is the neutral face; "
                      "how the head was held goes out."),
                   "dim"));
    source_ = new QComboBox;
    source_->setObjectName("prove_scan_source");
    source_->setAccessibleName(tr("Scan"));
    narrow(source_);
    name_ = new QComboBox;
    name_->setObjectName("prove_scan_name");
    name_->setAccessibleName(tr("Expression"));
    name_->setEditable(true);
    narrow(name_);
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Scan"), source_);
    form->addRow(tr("Expression"), name_);
    column->addLayout(form);
    halves_ = new QCheckBox(tr("Left and right"));
    halves_->setObjectName("prove_scan_halves");
    halves_->setToolTip(tr("Each half as a morph, too"));
    regions_ = new QCheckBox(tr("Regions"));
    regions_->setObjectName("prove_scan_regions");
    regions_->setToolTip(tr("What each region of the face has of it as a morph, too"));
    halves_->setChecked(true), regions_->setChecked(true);
    column->addLayout(flow({halves_, regions_}));
    make_ =
        button(tr("Make the expression"), "prove_scan_make", tr("Fits the scan; the morphs come into the bank"), true);
    connect(make_, &QPushButton::clicked, this, &ScanPage::make);
    column->addWidget(make_);
    said_ = text_label({}, "dim");
    said_->setObjectName("prove_scan_said");
    column->addWidget(said_);
    column->addStretch(1);
    connect(&prove_, &ProveController::changed, this, &ScanPage::refresh);
    connect(&s_, &Session::project_changed, this, [this] { making_ = 0, last_.clear(), refresh(); });
    refresh();
}

QString ScanPage::why_not() const {
    const Subject* subject = s_.state().current();
    if (!s_.has_kit() || !subject || !s_.state().fit()) return tr("Make a fit of the neutral face first.");
    if (source_->count() == 0)
        return tr("Gather a further scan of %1 first.").arg(QString::fromStdString(subject->name));
    return {};
}

void ScanPage::make() {
    const ProjectState& state = s_.state();
    const Source* source = source_->currentIndex() < 0
                               ? nullptr
                               : find_source(state, listed_[static_cast<std::size_t>(source_->currentIndex())]);
    const QString name = name_->currentText().trimmed().replace(' ', '_');
    if (!source || making_ || name.isEmpty() || !state.fit()) return;
    JobInfo info{JobKind::Fit, tr("Expression %1").arg(name), s_.subject()};
    last_.clear();
    making_ = s_.jobs().start<std::vector<Morph>>(
        std::move(info),
        [s = state, source = *source, neutral = rest_shape(*state.kit, *state.fit()), name = name.toStdString(),
         parts = ExpressionParts{halves_->isChecked(), regions_->isChecked()}](const Progress& progress) {
            return morphs_from(s, neutral, source, name, parts, progress);
        },
        [this, kit = state.kit, subject = s_.subject(), name,
         head = prove_.fit_name().toStdString()](Result<std::vector<Morph>>&& morphs) {
            making_ = 0;
            if (!morphs && morphs.error().code != ErrorCode::Cancelled) s_.say_why_not(morphs.error());
            if (morphs && kit == s_.state().kit) put(subject, head, name, std::move(*morphs));
            refresh();
        });
    refresh();
}

// A newer one of the same name takes the older one's place.
void ScanPage::put(SubjectId subject, const std::string& head, const QString& name, std::vector<Morph> morphs) {
    const Subject* of = find_subject(s_.state(), subject);
    if (!of) return;
    ProjectState next = s_.state();
    for (Morph& morph : morphs) {
        morph.group = "expressions/" + of->name;
        morph.name += ", " + head;
        if (const int at = find_morph(next, morph.name); at >= 0)
            replace_morph(next, static_cast<std::size_t>(at), std::move(morph));
        else
            add_morph(next, std::move(morph), 0);
    }
    last_ = tr("%1 is in the bank, with %2 parts.").arg(name).arg(morphs.size() - 1);
    s_.change(tr("Expression %1").arg(name), std::move(next));
}

void ScanPage::refresh() {
    std::vector<SourceId> sources;
    const Subject* subject = s_.state().current();
    const FitRecord* fit = s_.state().fit();
    if (subject && fit)
        for (const Source& source : subject->sources)
            if (source.id != fit->source_id && source.mesh) sources.push_back(source.id);
    if (sources != listed_ || source_->count() != static_cast<int>(sources.size())) {
        listed_ = sources;
        source_->clear();
        for (const SourceId id : listed_) source_->addItem(QString::fromStdString(find_source(s_.state(), id)->name));
    }
    if (s_.has_kit() && named_for_ != s_.state().kit) {
        named_for_ = s_.state().kit;
        name_->clear();
        for (const auto& [name, shape] : named_for_->expressions) name_->addItem(QString::fromStdString(name));
    }
    const QString why = why_not();
    make_->setEnabled(why.isEmpty() && !making_);
    said_->setText(making_ ? tr("The scan is being fitted…") : !why.isEmpty() ? why : last_);
}

}  // namespace veld
