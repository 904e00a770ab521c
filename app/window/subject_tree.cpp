#include "app/window/subject_tree.h"

#include <QHeaderView>
#include <QInputDialog>
#include <QSignalBlocker>

#include "app/theme.h"
#include "app/widgets.h"
#include "core/morph/morph.h"

namespace veld {
namespace {
constexpr int kSubjectRole = Qt::UserRole, kStationRole = Qt::UserRole + 1, kPhotoRole = Qt::UserRole + 2;
constexpr std::size_t kShownMorphs = 20;
}  // namespace

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
    stations_.clear();
    const ProjectState& state = s_.state();
    const auto line = [&](QTreeWidgetItem* parent, const QString& text, SubjectId subject, Station station, bool dim) {
        auto* item = parent ? new QTreeWidgetItem(parent) : new QTreeWidgetItem(tree_);
        item->setText(0, text);
        item->setToolTip(0, text);
        item->setData(0, kSubjectRole, qulonglong{subject.value});
        item->setData(0, kStationRole, static_cast<int>(stations_.size()));
        stations_.push_back(station);
        if (dim) item->setForeground(0, theme::kDim);
        return item;
    };
    for (int i = 0; i < static_cast<int>(state.subjects.size()); ++i) {
        const Subject& subject = state.subjects[static_cast<std::size_t>(i)];
        const SubjectId id = subject.id;
        auto* top = line(nullptr, QString::fromStdString(subject.name), id, Station::Gather, false);
        QFont bold = top->font(0);
        bold.setBold(i == state.subject);
        top->setFont(0, bold);
        if (subject.sources.empty() && subject.photo_sets.empty())
            line(top, tr("no source yet"), id, Station::Gather, true);
        for (const Source& s : subject.sources) {
            auto* source = line(top, QString::fromStdString(s.name), id, Station::Gather, false);
            source->setForeground(0, theme::kTeal.lighter(130));
            const std::size_t n = s.landmarks.points.size();
            line(source,
                 n ? tr("%1 landmarks, %2 curves").arg(n).arg(s.landmarks.curves.size()) : tr("no landmarks yet"), id,
                 Station::Mark, n == 0);
        }
        for (const PhotoSet& set : subject.photo_sets) {
            auto* photos =
                line(top, tr("%1, %2 photographs").arg(QString::fromStdString(set.name)).arg(set.photos->size()), id,
                     Station::Gather, false);
            for (std::size_t p = 0; p < set.photos->size(); ++p) {
                const std::size_t n = p < set.marks.size() ? set.marks[p].points.size() : 0;
                auto* photo = line(photos,
                                   n ? tr("%1, %2 landmarks").arg(QString::fromStdString((*set.photos)[p].name)).arg(n)
                                     : QString::fromStdString((*set.photos)[p].name),
                                   id, Station::Mark, n == 0);
                photo->setData(0, kPhotoRole, QVariantList{qulonglong{set.id.value}, qulonglong{p}});
            }
        }
        for (const FitRecord& f : subject.fits) {
            const bool of_surface = f.figures.surface.vertices > 0;
            line(top,
                 of_surface
                     ? tr("%1  %2 mm").arg(QString::fromStdString(f.name)).arg(f.figures.surface.median, 0, 'f', 3)
                     : QString::fromStdString(f.name),
                 id, Station::Fit, false);
        }
    }
    if (!state.bank.empty()) {
        auto* bank = line(nullptr, tr("Bank, %1 morphs").arg(state.bank.size()), {}, Station::Bank, false);
        // a few, or what is in use: hundreds are looked through in the Bank itself
        for (const BankEntry& e : state.bank) {
            if (state.bank.size() <= kShownMorphs || e.amount != 0)
                line(bank, QString::fromStdString(e.morph->name) + "  " + QString::number(e.amount, 'f', 2), {},
                     Station::Bank, e.amount == 0);
        }
    }
    tree_->expandAll();
}

// The document's change rebuilds the tree and deletes the item: all that is asked of it is asked before.
void SubjectTree::activated(QTreeWidgetItem* item) {
    const SubjectId subject{item->data(0, kSubjectRole).toULongLong()};
    const Station station = stations_.at(static_cast<std::size_t>(item->data(0, kStationRole).toInt()));
    const QVariantList photo = item->data(0, kPhotoRole).toList();
    if (subject && subject != s_.subject()) {
        ProjectState next = s_.state();
        const Subject* wanted = find_subject(next, subject);
        if (!wanted) return;
        next.subject = static_cast<int>(wanted - next.subjects.data());
        const QString name = QString::fromStdString(wanted->name);
        s_.change(tr("Make %1 current").arg(name), std::move(next));
    }
    std::optional<Session::PhotoPlace> place;
    if (photo.size() == 2)
        place = Session::PhotoPlace{{photo[0].toULongLong()}, static_cast<std::size_t>(photo[1].toULongLong())};
    s_.look_at_photo(place);
    emit go_to(station);
}

void SubjectTree::add_subject() {
    if (!s_.has_kit()) return;
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("New subject"), tr("Name:"), QLineEdit::Normal, {}, &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    ProjectState next = s_.state();
    next.subjects.push_back({name.toStdString(), {}, {}});
    next.subject = static_cast<int>(next.subjects.size()) - 1;
    s_.change(tr("Add %1").arg(name), std::move(next));
}

}  // namespace veld
