#include "app/stations/fit/tries_tab.h"

#include <QHeaderView>
#include <QInputDialog>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/widgets.h"
#include "core/project/fits.h"

namespace veld {

namespace {

// The settings file's words in the panel's.
QString plain(const std::string& difference) {
    static const std::pair<const char*, QString> words[] = {{"smooth_end_mm", TriesTab::tr("smooth below, mm")},
                                                            {"neck_band_mm", TriesTab::tr("neck fades over, mm")},
                                                            {"symmetry", TriesTab::tr("symmetry")},
                                                            {"use_curves", TriesTab::tr("guide curves")},
                                                            {"use_surface", TriesTab::tr("surface")},
                                                            {"keep_true_size", TriesTab::tr("true size")},
                                                            {"region_fade_mm", TriesTab::tr("region fade, mm")}};
    QString out = QString::fromStdString(difference);
    for (const auto& [file, panel] : words) {
        if (out.startsWith(file)) out.replace(0, static_cast<int>(qstrlen(file)), panel);
    }
    return out.replace("->", "→");
}

}  // namespace

TriesTab::TriesTab(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    list_ = new QTreeWidget;
    list_->setObjectName("fit_tries");
    list_->setAccessibleName(tr("Fits"));
    list_->setRootIsDecorated(false);
    list_->setColumnCount(3);

    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    list_->header()->setStretchLastSection(false);
    list_->setMinimumHeight(84);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this] {
        if (!filling_) refresh_beside();
    });
    connect(list_, &QTreeWidget::itemDoubleClicked, this, [this] { work_on(); });
    column->addWidget(list_, 1);
    work_ = button(tr("Make current"), "try_work", tr("Makes this the current fit; the others stay (double click)"));
    settings_ = button(tr("Use these settings"), "try_settings", tr("The next fit starts with these settings"));
    rename_ = button(tr("Rename…"), "try_rename");
    remove_ = button(tr("Remove"), "fit_remove", tr("Undo brings it back"));
    connect(work_, &QPushButton::clicked, this, &TriesTab::work_on);
    connect(settings_, &QPushButton::clicked, this, &TriesTab::take_settings);
    connect(rename_, &QPushButton::clicked, this, &TriesTab::rename);
    connect(remove_, &QPushButton::clicked, this, &TriesTab::remove);
    column->addLayout(flow({work_, settings_}));
    column->addLayout(flow({rename_, remove_}));
    beside_ = new QTableWidget(0, 2);
    beside_->setObjectName("try_beside");
    beside_->setAccessibleName(tr("Fits side by side"));
    beside_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    beside_->verticalHeader()->setDefaultSectionSize(19);
    beside_->verticalHeader()->setMinimumSectionSize(19);
    beside_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    beside_->setSelectionMode(QAbstractItemView::NoSelection);
    beside_->setShowGrid(false);
    beside_->setFixedHeight(24 + 7 * 19 + 4);
    column->addWidget(beside_);
    differs_ = text_label({}, "dim");
    differs_->setObjectName("try_differs");
    column->addWidget(differs_);
    notes_ = text_label({}, "dim");
    notes_->setObjectName("fit_notes");
    column->addWidget(notes_);
    connect(&s_, &Session::changed, this, &TriesTab::refresh);
    connect(&s_, &Session::busy_changed, this, &TriesTab::refresh);
    refresh();
}

int TriesTab::row() const {
    const Subject* subject = s_.state().current();
    const int at = list_->currentItem() ? list_->indexOfTopLevelItem(list_->currentItem()) : -1;
    return subject && at < static_cast<int>(subject->fits.size()) ? at : -1;
}

void TriesTab::work_on() {
    const int at = row();
    if (at < 0 || s_.fitting()) return;
    ProjectState next = s_.state();
    Subject& subject = *next.current();
    if (subject.fit() == &subject.fits[static_cast<std::size_t>(at)]) return;
    subject.current_fit = at;
    const QString name = QString::fromStdString(subject.fit()->name);
    s_.change(tr("Make %1 current").arg(name), std::move(next));
}

void TriesTab::take_settings() {
    const int at = row();
    if (at < 0) return;
    ProjectState next = s_.state();
    next.settings = next.current()->fits[static_cast<std::size_t>(at)].settings;
    if (next.settings == s_.state().settings) return;
    const QString name = QString::fromStdString(next.current()->fits[static_cast<std::size_t>(at)].name);
    s_.change(tr("Settings of %1").arg(name), std::move(next));
}

void TriesTab::rename() {
    const int at = row();
    if (at < 0) return;
    const FitRecord& current = s_.state().current()->fits[static_cast<std::size_t>(at)];
    const FitId id = current.id;
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Rename"), tr("Name of the fit:"), QLineEdit::Normal,
                                               QString::fromStdString(current.name), &ok)
                             .trimmed();
    if (!ok || name.isEmpty()) return;
    // work may have ended while the question stood: the state of now is changed, not that of before
    ProjectState next = s_.state();
    FitRecord* fit = find_fit(next, id);
    if (!fit || name.toStdString() == fit->name) return;
    fit->name = free_name(name.toStdString(), fit_names(*subject_of(next, id)));
    s_.change(tr("Rename a fit"), std::move(next));
}

void TriesTab::remove() {
    const int at = row();
    if (at < 0 || s_.fitting()) return;
    ProjectState next = s_.state();
    const QString name = QString::fromStdString(next.current()->fits[static_cast<std::size_t>(at)].name);
    remove_fit(*next.current(), static_cast<std::size_t>(at));
    s_.change(tr("Remove %1").arg(name), std::move(next));
}

void TriesTab::refresh() {
    filling_ = true;
    const Subject* subject = s_.state().current();
    const FitRecord* current = s_.state().fit();
    const int before = row();
    const int count_before = list_->topLevelItemCount();
    list_->setHeaderLabels({tr("Fit"), tr("median, %1").arg(length_name()), tr("faults")});
    list_->clear();
    for (std::size_t i = 0; subject && i < subject->fits.size(); ++i) {
        const FitRecord& f = subject->fits[i];
        const bool is_current = &f == current;
        const int faults = static_cast<int>(f.figures.flipped_faces + f.figures.self_intersections);
        auto* item = new QTreeWidgetItem(
            list_, {(is_current ? QStringLiteral("▸ ") : QString()) + QString::fromStdString(f.name),
                    length_number(f.figures.surface.median, 3),
                    faults ? QString("△ %1").arg(faults) : QStringLiteral("none")});
        QFont font = item->font(0);
        font.setBold(is_current);
        item->setFont(0, font);
        // the mark of what was looked at stays; a new try is looked at itself
        const bool same_list = count_before == static_cast<int>(subject->fits.size()) && before >= 0;
        if (same_list ? static_cast<int>(i) == before : is_current) list_->setCurrentItem(item);
    }
    filling_ = false;
    refresh_beside();
}

void TriesTab::refresh_beside() {
    const Subject* subject = s_.state().current();
    const FitRecord* current = s_.state().fit();
    const int at = row();
    const FitRecord* other = at >= 0 ? &subject->fits[static_cast<std::size_t>(at)] : nullptr;
    for (QPushButton* b : {work_, rename_, remove_, settings_}) b->setEnabled(other && !s_.fitting());
    work_->setEnabled(other && other != current && !s_.fitting());
    settings_->setEnabled(other && !(other->settings == s_.state().settings));
    beside_->setVisible(other != nullptr);
    differs_->setVisible(other && other != current);
    notes_->setVisible(other && other == current && !other->notes.empty());
    if (!other) return;
    const bool two = other != current;
    beside_->setColumnCount(two ? 2 : 1);
    beside_->setHorizontalHeaderLabels(two ? QStringList{QString::fromStdString(other->name), tr("current")}
                                           : QStringList{QString::fromStdString(other->name)});
    const QString unit = length_name();
    const std::pair<QString, std::function<QString(const FitFigures&)>> rows[] = {
        {tr("median, %1").arg(unit), [](const FitFigures& f) { return length_number(f.surface.median, 3); }},
        {tr("95 %, %1").arg(unit), [](const FitFigures& f) { return length_number(f.surface.p95, 2); }},
        {tr("landmarks, %1").arg(unit), [](const FitFigures& f) { return length_number(f.landmark_rms, 2); }},
        {tr("matched area"), [](const FitFigures& f) { return QString::number(100 * f.coverage, 'f', 1) + " %"; }},
        {tr("flips, self-int."),
         [](const FitFigures& f) { return QString("%1, %2").arg(f.flipped_faces).arg(f.self_intersections); }},
        {tr("stretch 95 %"), [](const FitFigures& f) { return QString("× %1").arg(f.edge_p95, 0, 'f', 2); }},
        {tr("asymmetry, %1").arg(unit), [](const FitFigures& f) { return length_number(f.symmetry_mm, 2); }},
    };
    beside_->setRowCount(static_cast<int>(std::size(rows)));
    int r = 0;
    for (const auto& [name, text] : rows) {
        beside_->setVerticalHeaderItem(r, new QTableWidgetItem(name));
        int column = 0;
        for (const FitRecord* f : {other, current}) {
            if (column == (two ? 2 : 1)) break;
            auto* item = new QTableWidgetItem(text(f->figures));
            item->setTextAlignment(Qt::AlignCenter);
            beside_->setItem(r, column++, item);
        }
        ++r;
    }
    QStringList lines;
    if (two) {
        for (const std::string& d : settings_differences(other->settings, current->settings)) lines << plain(d);
    }
    differs_->setText(lines.isEmpty() ? tr("Same settings.")
                                      : tr("Settings, this fit → current: %1").arg(lines.join("; ")));
    QStringList notes;
    for (const std::string& n : other->notes) notes << QString::fromStdString(n);
    notes_->setText(notes.join("\n"));
}

}  // namespace veld
