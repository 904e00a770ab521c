#include "app/subject_tree.h"

#include <QHeaderView>
#include <QInputDialog>
#include <QPoint>
#include <QSignalBlocker>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {
constexpr int kSubjectRole = Qt::UserRole, kStationRole = Qt::UserRole + 1, kPhotoRole = Qt::UserRole + 2;
constexpr std::size_t kShownMorphs = 20;
}

SubjectTree::SubjectTree(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->setContentsMargins(10, 10, 6, 10);
    column->addWidget(text_label(tr("Subjects"), "section"));
    tree_ = new QTreeWidget;
    tree_->setObjectName("subjects");
    tree_->setHeaderHidden(true);
    tree_->setIndentation(12);
    tree_->setRootIsDecorated(false);
    connect(tree_, &QTreeWidget::itemClicked, this, &SubjectTree::activated);
    column->addWidget(tree_, 1);
    auto* add = button(tr("New subject…"), "subject_add");
    connect(add, &QPushButton::clicked, this, &SubjectTree::add_subject);
    column->addWidget(add);
    connect(&s_, &Session::changed, this, &SubjectTree::refresh);
    refresh();
}

void SubjectTree::refresh() {
    const QSignalBlocker quiet(tree_);
    tree_->clear();
    const ProjectState& state = s_.state();
    const auto line = [&](QTreeWidgetItem* parent, const QString& text, int subject, Station station, bool dim) {
        auto* item = parent ? new QTreeWidgetItem(parent) : new QTreeWidgetItem(tree_);
        item->setText(0, text);
        item->setToolTip(0, text);
        item->setData(0, kSubjectRole, subject);
        item->setData(0, kStationRole, static_cast<int>(station));
        if (dim) item->setForeground(0, theme::kDim);
        return item;
    };
    for (int i = 0; i < static_cast<int>(state.subjects.size()); ++i) {
        const Subject& subject = state.subjects[static_cast<std::size_t>(i)];
        auto* top = line(nullptr, QString::fromStdString(subject.name), i, Station::Gather, false);
        QFont bold = top->font(0);
        bold.setBold(i == state.subject);
        top->setFont(0, bold);
        if (subject.sources.empty() && subject.photo_sets.empty()) line(top, tr("no source yet"), i, Station::Gather, true);
        for (const Source& s : subject.sources) {
            auto* source = line(top, QString::fromStdString(s.name), i, Station::Gather, false);
            source->setForeground(0, theme::kTeal.lighter(130));
            const std::size_t n = s.landmarks.points.size();
            line(source, n ? tr("%1 points, %2 curves").arg(n).arg(s.landmarks.curves.size()) : tr("no landmarks yet"), i, Station::Mark, n == 0);
        }
        for (std::size_t k = 0; k < subject.photo_sets.size(); ++k) {
            const PhotoSet& set = subject.photo_sets[k];
            auto* photos = line(top, tr("%1, %2 photographs").arg(QString::fromStdString(set.name)).arg(set.photos->size()), i, Station::Gather, false);
            for (std::size_t p = 0; p < set.photos->size(); ++p) {
                const std::size_t n = p < set.marks.size() ? set.marks[p].points.size() : 0;
                auto* photo = line(photos, n ? tr("%1, %2 points").arg(QString::fromStdString((*set.photos)[p].name)).arg(n) : QString::fromStdString((*set.photos)[p].name), i, Station::Mark, n == 0);
                photo->setData(0, kPhotoRole, QPoint(static_cast<int>(k), static_cast<int>(p)));
            }
        }
        for (const FitRecord& f : subject.fits) {
            const bool of_surface = f.figures.surface.vertices > 0;
            line(top, of_surface ? tr("%1  %2 mm").arg(QString::fromStdString(f.name)).arg(f.figures.surface.median, 0, 'f', 3) : QString::fromStdString(f.name), i, Station::Fit, false);
        }
    }
    if (!state.bank.empty()) {
        auto* bank = line(nullptr, tr("Bank, %1 morphs").arg(state.bank.size()), -1, Station::Bank, false);
        // a few, or what is in use: hundreds are looked through in the Bank itself
        for (const BankEntry& e : state.bank) {
            if (state.bank.size() <= kShownMorphs || e.amount != 0) line(bank, QString::fromStdString(e.morph->name) + "  " + QString::number(e.amount, 'f', 2), -1, Station::Bank, e.amount == 0);
        }
    }
    tree_->expandAll();
}

// The document's change rebuilds the tree and deletes the item: all that is asked of it is asked before.
void SubjectTree::activated(QTreeWidgetItem* item) {
    const int subject = item->data(0, kSubjectRole).toInt();
    const auto station = static_cast<Station>(item->data(0, kStationRole).toInt());
    const QVariant photo = item->data(0, kPhotoRole);
    if (subject >= 0 && subject != s_.state().subject) {
        ProjectState next = s_.state();
        next.subject = subject;
        s_.change(tr("Work on %1").arg(QString::fromStdString(next.subjects[static_cast<std::size_t>(subject)].name)), std::move(next));
    }
    s_.look_at_photo(photo.isValid() ? std::optional(Session::PhotoPlace{static_cast<std::size_t>(photo.toPoint().x()), static_cast<std::size_t>(photo.toPoint().y())}) : std::nullopt);
    emit go_to(station);
}

void SubjectTree::add_subject() {
    if (!s_.has_kit()) return;
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("New subject"), tr("Name:"), QLineEdit::Normal, {}, &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    ProjectState next = s_.state();
    next.subjects.push_back({name.toStdString(), {}, {}});
    next.subject = static_cast<int>(next.subjects.size()) - 1;
    s_.change(tr("Add %1").arg(name), std::move(next));
}

}  // namespace veld
