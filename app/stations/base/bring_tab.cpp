#include "app/stations/base/bring_tab.h"

#include "app/ask.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/widgets.h"

namespace veld {

BringTab::BringTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    column->addWidget(
        text_label(tr("Morphs that were made for another base, or for an older version of this one, come "
                      "into the bank: exactly where the surface is the same, else by laying the old base "
                      "onto this one."),
                   "dim"));
    project_ = button(tr("From a project…"), "bring_project", tr("All of its bank"), true);
    files_ = button(tr("Morph files…"), "bring_files", tr("Morph files, and the kit that they were made for"));
    connect(project_, &QPushButton::clicked, this, &BringTab::ask_for_project);
    connect(files_, &QPushButton::clicked, this, &BringTab::ask_for_files);
    column->addLayout(flow({project_, files_}));
    said_ = text_label({}, "plain");
    said_->setObjectName("bring_said");
    column->addWidget(said_);
    list_ = column_list("bring_list", tr("Morphs that were brought"),
                        {tr("Morph"), tr("Before"), tr("Here"), tr("Worst")}, 80);
    list_->headerItem()->setToolTip(1, tr("Its largest move on the old base"));
    list_->headerItem()->setToolTip(2, tr("Its largest move on this one"));
    list_->headerItem()->setToolTip(
        3, tr("The most that it differs anywhere from what it was there; the view shows where"));
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.show_brought(list_->indexOfTopLevelItem(item));
    });
    column->addWidget(list_, 1);
    connect(&s_, &Session::changed, this, &BringTab::refresh);
    connect(&c_, &BaseController::changed, this, &BringTab::refresh);
    refresh();
}

void BringTab::refresh() {
    for (QPushButton* b : {project_, files_}) b->setEnabled(s_.has_kit() && !c_.bringing());
    if (listed_ == c_.brought() && list_->isVisibleTo(this) == (listed_ != nullptr)) return;
    listed_ = c_.brought();
    list_->setVisible(listed_ != nullptr);
    said_->setVisible(listed_ != nullptr);
    if (!listed_) return;
    filling_ = true;
    list_->clear();
    for (const CarriedMorph& m : listed_->morphs) {
        auto* item = new QTreeWidgetItem(list_, {QString::fromStdString(m.morph.name), length_number(m.most_before, 1),
                                                 length_number(m.most_after, 1), length_number(m.worst_mm, 2)});
        for (const int c : {1, 2, 3}) item->setTextAlignment(c, Qt::AlignRight | Qt::AlignVCenter);
    }
    list_->setCurrentItem(list_->topLevelItem(0));
    filling_ = false;
    QStringList text;
    text << (listed_->exact ? tr("%1 vertices are where the old base has one: exact there.").arg(listed_->exact)
                            : tr("The old base was laid onto this one; %1 apart in the middle.")
                                  .arg(length_text(listed_->apart_mm, 2)));
    if (listed_->without) text << tr("%1 vertices have no place on the old base and stay.").arg(listed_->without);
    for (const std::string& note : listed_->notes) text << QString::fromStdString(note);
    said_->setText(text.join(" "));
}

void BringTab::ask_for_project() {
    const QString path = s_.files().open(this, tr("Project of the other base"), s_.files().last_folder(),
                                         tr("Veldstone project (*.veldstone)"));
    if (path.isEmpty()) return;
    s_.files().remember_folder_of(path);
    c_.bring_project(path);
}

void BringTab::ask_for_files() {
    const QStringList paths =
        s_.files().open_several(this, tr("Morphs"), s_.files().last_folder(), tr("Morph files (*.json)"));
    if (paths.isEmpty()) return;
    s_.files().remember_folder_of(paths.front());
    const QString kit = s_.files().folder(this, tr("The kit that they were made for"), s_.files().last_folder());
    if (!kit.isEmpty()) c_.bring_files(kit, paths);
}

}  // namespace veld
