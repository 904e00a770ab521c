#include "app/stations/prove/prove_panel.h"

#include <QFormLayout>
#include <QLocale>
#include <QScrollArea>
#include <cmath>

#include "app/ask.h"
#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/stations/prove/mend_page.h"
#include "app/stations/prove/scan_page.h"
#include "core/kit/base_kit.h"

namespace veld {
namespace {

constexpr int kStep = 100;  // of the slider, per stop and per whole expression
constexpr int kMostByHand = 150, kLeastByHand = -50;
constexpr int kListHeight = 150, kRowsShown = 400;

}  // namespace

// A kit's expressions have names for files.
QString proof_name(const std::string& name) { return core_word(name).replace('_', ' '); }

ProvePanel::ProvePanel(Session& session, ProveController& prove, MendController& mender, QWidget* parent)
    : QWidget(parent), s_(session), prove_(prove) {
    auto* column = panel_column(this);
    from_ = new QComboBox;
    from_->setObjectName("prove_from");
    from_->setAccessibleName(tr("Shape"));
    from_->addItems({tr("The fit"), tr("The current mix"), tr("The base itself")});
    connect(from_, &QComboBox::activated, this,
            [this](int i) { prove_.set_from(static_cast<ProveController::From>(i)); });
    skinning_ = new QComboBox;
    skinning_->setObjectName("prove_skinning");
    skinning_->setAccessibleName(tr("Skinning"));
    skinning_->addItems({tr("Linear"), tr("Dual quaternions")});
    skinning_->setToolTip(tr("How the program that the shape goes to bends skin"));
    connect(skinning_, &QComboBox::activated, this, [this](int i) { prove_.set_skinning(static_cast<Skinning>(i)); });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Shape"), from_);
    form->addRow(tr("Skinning"), skinning_);
    column->addLayout(form);
    auto* sections = new Sections("prove_sections");
    sections->add(proofs_page(), tr("Proofs"), tr("Poses, expressions and motions to look at the shape in"));
    sections->add(hand_page(), tr("Expressions by hand"), tr("Several expressions at once, on top of the proof"));
    sections->add(figures_page(), tr("Figures"), tr("What was measured, worst first"));
    sections->add(new MendPage(session, prove, mender), tr("Mend"), tr("What does not hold, put right in the proof"));
    sections->add(new ScanPage(session, prove), tr("From a scan"), tr("A person's own expressions"));
    sections->set_current(0);
    column->addWidget(sections, 1);
    connect(&prove_, &ProveController::changed, this, &ProvePanel::refresh);
    refresh();
}

QWidget* ProvePanel::proofs_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    proofs_ = column_list("prove_list", tr("Proofs"), {tr("Proof"), tr("To look at")}, kListHeight);
    connect(proofs_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item && item->data(0, Qt::UserRole).isValid())
            prove_.select(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(proofs_, 1);
    way_ = new QSlider(Qt::Horizontal);
    way_->setObjectName("prove_way");
    way_->setAccessibleName(tr("How far"));
    way_->setToolTip(tr("From rest to the end of the proof"));
    connect(way_, &QSlider::valueChanged, this, [this](int v) {
        if (filling_) return;
        prove_.play(false);
        prove_.set_at(static_cast<double>(v) / kStep);
    });
    play_ = button(tr("Play"), "prove_play", tr("From rest to the end, again and again"));
    play_->setCheckable(true);
    connect(play_, &QPushButton::toggled, this, [this](bool on) {
        if (!filling_) prove_.play(on);
    });
    column->addLayout(row({way_, play_}));
    motion_ = button(tr("Motion…"), "prove_motion", tr("A BVH file, as a proof of your own"));
    connect(motion_, &QPushButton::clicked, this, &ProvePanel::ask_for_motion);
    remove_ = button(tr("Remove"), "prove_remove", tr("Removes this proof of your own"));
    connect(remove_, &QPushButton::clicked, this, [this] { prove_.remove(prove_.selected()); });
    column->addLayout(row({motion_, remove_}));
    return page;
}

QWidget* ProvePanel::hand_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    hand_hint_ = text_label(tr("The kit has no expressions."), "dim");
    column->addWidget(hand_hint_);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setMinimumHeight(kListHeight);
    hand_rows_ = new QWidget;
    hand_rows_->setLayout(new QFormLayout);
    area->setWidget(hand_rows_);
    column->addWidget(area, 1);
    clear_ = button(tr("All at 0"), "prove_hand_clear", tr("No expression by hand"));
    connect(clear_, &QPushButton::clicked, &prove_, &ProveController::clear_by_hand);
    name_ = new QLineEdit;
    name_->setObjectName("prove_name");
    name_->setPlaceholderText(tr("Name of the new proof"));
    keep_ = button(tr("Keep as proof"), "prove_keep",
                   tr("What is seen now, pose and expressions, as a proof of your own"));
    connect(keep_, &QPushButton::clicked, this, [this] {
        const QString name = name_->text().trimmed();
        prove_.keep(name.isEmpty() ? tr("own proof") : name);
        name_->clear();
    });
    column->addWidget(name_);
    column->addLayout(row({clear_, keep_}));
    return page;
}

QWidget* ProvePanel::figures_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    measure_ = button(tr("Measure all proofs"), "prove_measure",
                      tr("Each proof at each of its stops, beside the base"), true);
    connect(measure_, &QPushButton::clicked, &prove_, &ProveController::measure);
    column->addWidget(measure_);
    said_ = text_label({}, "dim");
    said_->setObjectName("prove_said");
    column->addWidget(said_);
    figures_ = column_list("prove_figures", tr("Figures"), {tr("Proof and figure"), tr("Value")}, kListHeight);
    connect(figures_, &QTreeWidget::itemClicked, this, [this](QTreeWidgetItem* item) {
        const auto at = static_cast<std::size_t>(item->data(0, Qt::UserRole).toInt());
        if (prove_.report() && at < prove_.report()->rows.size()) prove_.go_to(ProofRow(prove_.report()->rows[at]));
    });
    column->addWidget(figures_, 1);
    colours_ = new QComboBox;
    colours_->setObjectName("prove_colours");
    colours_->setAccessibleName(tr("Colours"));
    colours_->addItems({tr("No colours"), tr("Skin that cuts itself"), tr("Stretch against the base")});
    connect(colours_, &QComboBox::activated, this,
            [this](int i) { prove_.set_colours(static_cast<ProveController::Colours>(i)); });
    column->addWidget(colours_);
    sheet_ = button(tr("Proof sheet…"), "prove_sheet",
                    tr("A page of pictures with these figures, as PNG and PDF; kept with the morph, too"));
    connect(sheet_, &QPushButton::clicked, this, &ProvePanel::ask_for_sheet);
    column->addWidget(sheet_);
    return page;
}

void ProvePanel::ask_for_motion() {
    const QString path =
        s_.files().open(this, tr("Motion"), s_.files().last_folder(), tr("Motions (*.bvh);;All files (*)"));
    if (path.isEmpty()) return;
    s_.files().remember_folder_of(path);
    prove_.add_motion(path);
}

void ProvePanel::ask_for_sheet() {
    const QString path = s_.files().save(this, tr("Proof sheet"),
                                         s_.files().last_folder() + "/" + prove_.shape_name() + " " + tr("proofs"),
                                         tr("Pictures and pages (*.png *.pdf)"));
    if (path.isEmpty()) return;
    s_.files().remember_folder_of(path);
    prove_.write_sheet(path);
}

void ProvePanel::refresh() {
    filling_ = true;
    from_->setCurrentIndex(static_cast<int>(prove_.from()));
    skinning_->setCurrentIndex(static_cast<int>(prove_.skinning()));
    colours_->setCurrentIndex(static_cast<int>(prove_.colours()));
    list_proofs();
    list_hand();
    list_figures();
    way_->setRange(0, static_cast<int>(std::lround(prove_.last() * kStep)));
    way_->setPageStep(kStep);
    way_->setValue(static_cast<int>(std::lround(prove_.at() * kStep)));
    play_->setChecked(prove_.playing());
    remove_->setEnabled(prove_.own(prove_.selected()));
    motion_->setEnabled(s_.has_kit());
    clear_->setEnabled(prove_.any_by_hand());
    keep_->setEnabled(s_.has_kit());
    measure_->setEnabled(prove_.ready() && !prove_.measuring());
    sheet_->setEnabled(prove_.ready() && prove_.report());
    filling_ = false;
}

// The list is made anew only when what it holds changed; what it says of each follows the report.
void ProvePanel::list_proofs() {
    std::vector<std::string> names;
    for (const Proof& p : prove_.proofs()) names.push_back(p.name);
    if (names != listed_) {
        listed_ = names;
        proofs_->clear();
        const QString groups[] = {tr("Poses"), tr("Face"), tr("Shape"), tr("Motions")};
        std::array<QTreeWidgetItem*, 4> of{};
        for (const Proof& p : prove_.proofs()) {
            QTreeWidgetItem*& group = of[static_cast<std::size_t>(p.kind)];
            if (!group) {
                group = new QTreeWidgetItem({groups[static_cast<std::size_t>(p.kind)]});
                group->setFlags(Qt::ItemIsEnabled);
                proofs_->addTopLevelItem(group);
                group->setExpanded(true);
            }
            auto* item = new QTreeWidgetItem({proof_name(p.name)});
            item->setData(0, Qt::UserRole, QString::fromStdString(p.name));
            group->addChild(item);
        }
        proofs_->setRootIsDecorated(true);
        proofs_->setIndentation(12);
    }
    for (QTreeWidgetItemIterator it(proofs_); *it; ++it) {
        const std::string name = (*it)->data(0, Qt::UserRole).toString().toStdString();
        if (name.empty()) continue;
        const std::size_t bad = prove_.bad_of(name);
        (*it)->setText(1, !prove_.report() ? QString() : bad ? QString::number(bad) : tr("none"));
        if (name == prove_.selected() && proofs_->currentItem() != *it) proofs_->setCurrentItem(*it);
    }
}

void ProvePanel::list_hand() {
    std::vector<std::string> names;
    if (s_.has_kit())
        for (const auto& [name, shape] : s_.state().kit->expressions) names.push_back(name);
    hand_hint_->setVisible(names.empty());
    if (names != hand_listed_) {
        hand_listed_ = names, hand_.clear();
        auto* form = static_cast<QFormLayout*>(hand_rows_->layout());
        while (form->rowCount()) form->removeRow(0);
        form->setLabelAlignment(Qt::AlignLeft);
        for (const std::string& name : names) {
            auto* slider = new QSlider(Qt::Horizontal);
            slider->setObjectName("prove_hand_" + QString::fromStdString(name));
            slider->setAccessibleName(proof_name(name));
            slider->setRange(kLeastByHand, kMostByHand);
            connect(slider, &QSlider::valueChanged, this, [this, name](int v) {
                if (!filling_) prove_.set_by_hand(name, static_cast<double>(v) / kStep);
            });
            auto* value = new QLabel;
            value->setObjectName("prove_hand_value_" + QString::fromStdString(name));
            value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
            hold_width(value, "-0.00");
            form->addRow(proof_name(name), row({slider, value}));
            hand_[name] = {slider, value};
        }
    }
    for (const auto& [name, row] : hand_) {
        const double amount = prove_.by_hand(name);
        row.slider->setValue(static_cast<int>(std::lround(amount * kStep)));
        row.value->setText(QLocale().toString(amount, 'f', 2));
    }
}

void ProvePanel::list_figures() {
    const auto& report = prove_.report();
    said_->setText(prove_.measuring()   ? tr("Being measured…")
                   : report             ? tr("%1 stops measured. Click a figure to see it.").arg(report->stops)
                   : prove_.preparing() ? tr("The expressions are carried over to this shape first.")
                                        : tr("Nothing is measured yet."));
    if (report == shown_report_) return;
    shown_report_ = report;
    figures_->clear();
    for (std::size_t i = 0; report && i < std::min<std::size_t>(report->rows.size(), kRowsShown); ++i) {
        const ProofRow& row = report->rows[i];
        const QString what = core_word(proof_measure_plain(row.figure.measure));
        auto* item = new QTreeWidgetItem({tr("%1: %2", "proof: figure").arg(proof_name(row.proof), what),
                                          QString::fromStdString(proof_value_text(row.figure))});
        item->setToolTip(0, item->text(0));
        item->setData(0, Qt::UserRole, static_cast<int>(i));
        QFont font = item->font(1);
        font.setBold(row.figure.badness() >= 1);
        for (int c = 0; c < 2; ++c) item->setFont(c, font);
        figures_->addTopLevelItem(item);
    }
}

}  // namespace veld
