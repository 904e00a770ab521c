#include "app/window/figures_table.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QShortcut>
#include <set>

#include "app/lengths.h"
#include "app/region_names.h"
#include "app/widgets.h"
#include "app/window/doubt_words.h"
#include "core/photo/head_record.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr int kPhotoColumns = 5, kRegionColumns = 7;
constexpr double kStateMm = 20;  // a region this far off at rest is sorted like one that is surely wrong
constexpr int kRowHeight = 20, kValueRole = Qt::UserRole;

// Sorted by what it is, not by how it is written.
class NumberItem : public QTableWidgetItem {
 public:
    using QTableWidgetItem::QTableWidgetItem;
    bool operator<(const QTableWidgetItem& other) const override {
        return data(kValueRole).toDouble() < other.data(kValueRole).toDouble();
    }
};

QString as_csv(const QString& field) {
    if (!field.contains('"') && !field.contains(',') && !field.contains('\n')) return field;
    return '"' + QString(field).replace("\"", "\"\"") + '"';
}

}  // namespace

FiguresTable::FiguresTable(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(8, 4, 8, 4);
    table_ = new QTableWidget(0, kRegionColumns);
    table_->setObjectName("figures_table");
    table_->setAccessibleName(tr("Figures"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(kRowHeight);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setShowGrid(false);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->setAlternatingRowColors(true);
    across->addWidget(table_, 1);
    auto* column = new QVBoxLayout;
    for (const bool csv : {false, true}) {
        auto* b = button(csv ? tr("Copy as CSV") : tr("Copy as text"), csv ? "figures_copy_csv" : "figures_copy",
                         csv ? tr("With commas, for a table program") : tr("With tabs (Ctrl+C in the table)"));
        connect(b, &QPushButton::clicked, this, [this, csv] { copy(csv); });
        column->addWidget(b);
    }
    column->addStretch();
    across->addLayout(column);
    auto* key = new QShortcut(QKeySequence::Copy, table_);
    key->setContext(Qt::WidgetShortcut);
    connect(key, &QShortcut::activated, this, [this] { copy(false); });
    connect(table_, &QTableWidget::cellDoubleClicked, this, [this](int row) {
        const QString region = table_->item(row, 0)->data(kValueRole).toString();
        if (!region.isEmpty()) emit region_picked(region.toStdString());
    });
    connect(&s_, &Session::changed, this, &FiguresTable::refresh);
    connect(&s_, &Session::shown_anew, this, [this] {
        shown_.reset();
        refresh();
    });
    refresh();
}

void FiguresTable::copy(bool csv) {
    QApplication::clipboard()->setText(text(csv));
    emit s_.noticed(tr("The figures are on the clipboard."));
}

QString FiguresTable::text(bool csv) const {
    QStringList lines, fields;
    const auto end_line = [&] { lines << fields.join(csv ? ',' : '\t'), fields.clear(); };
    for (int c = 0; c < table_->columnCount(); ++c) {
        const QString title = table_->horizontalHeaderItem(c)->text();
        fields << (csv ? as_csv(title) : title);
    }
    end_line();
    for (int r = 0; r < table_->rowCount(); ++r) {
        for (int c = 0; c < table_->columnCount(); ++c) {
            const QString value = table_->item(r, c)->text();
            fields << (csv ? as_csv(value) : value);
        }
        end_line();
    }
    return lines.join('\n') + '\n';
}

void FiguresTable::add_row(const QString& name, const std::vector<Cell>& cells) {
    const int row = table_->rowCount();
    table_->insertRow(row);
    table_->setItem(row, 0, new QTableWidgetItem(name));
    for (std::size_t c = 0; c < cells.size(); ++c) {
        const auto& [value, decimals, length, words, tip] = cells[c];
        auto* item = new NumberItem(!words.isEmpty() ? words
                                    : !value         ? QStringLiteral("-")
                                    : length         ? length_number(*value, decimals)
                                                     : QString::number(*value, 'f', decimals));
        item->setData(kValueRole, value.value_or(-1));
        item->setTextAlignment(Qt::AlignCenter);
        item->setToolTip(tip);
        table_->setItem(row, static_cast<int>(c) + 1, item);
    }
}

// A head from photographs: one row for each.
void FiguresTable::fill_photos(const FitRecord& fit) {
    const QString unit = length_name();
    table_->setHorizontalHeaderLabels({tr("Photograph"), tr("landmarks, rms %1").arg(unit),
                                       tr("outline, rms %1").arg(unit), tr("focal length, mm"),
                                       tr("distance, %1").arg(unit)});
    for (const PhotoFigures& p : fit.photo->photos) {
        const auto known = [&](double value) { return p.camera ? std::optional(value) : std::nullopt; };
        add_row(QString::fromStdString(p.name), {{known(p.landmark_rms_mm), 2, true},
                                                 {known(p.outline_rms_mm), 2, true},
                                                 {known(p.camera ? p.camera->focal_35mm() : 0), 0},
                                                 {known(p.distance_mm), 0, true}});
    }
}

void FiguresTable::fill_regions(const FitFigures& f) {
    const QString unit = length_name();
    table_->setHorizontalHeaderLabels({tr("Region"), tr("median, %1").arg(unit), tr("95 %, %1").arg(unit),
                                       tr("worst, %1").arg(unit), tr("vertices"), tr("guessed, %"), tr("state")});
    std::set<std::string> names;
    for (const auto& [name, unused] : f.regions) names.insert(name);
    for (const auto& [name, unused] : f.doubts) names.insert(name);  // of what was not seen there is no distance
    for (const std::string& name : names) {
        const auto rest = f.rest.find(name);
        const bool whole_hand = name == "hand_all_l" || name == "hand_all_r";
        if (name == "head_skin" || name == "body_skin" || (whole_hand && rest == f.rest.end())) continue;
        const auto seen = f.regions.find(name);
        const auto doubt = f.doubts.find(name);
        const auto of = [&](double DistanceFigures::*figure) {
            return seen == f.regions.end() ? std::nullopt : std::optional(seen->second.*figure);
        };
        const bool told = doubt != f.doubts.end(), at_rest = !told && rest != f.rest.end();
        const QString rest_of_tip = rest != f.rest.end() ? "\n" + rest_reason(rest->second) : QString();
        const Cell state{told      ? std::optional(doubt->second.wrong)
                         : at_rest ? std::optional(rest->second.expected_mm / kStateMm)
                                   : std::nullopt,
                         2, false,
                         told      ? doubt_words(doubt->second)
                         : at_rest ? rest_words(rest->second)
                                   : QString(),
                         told      ? doubt_reason(doubt->second) + rest_of_tip
                         : at_rest ? rest_reason(rest->second)
                                   : QString()};
        add_row(plain_region(name), {{of(&DistanceFigures::median), 3, true},
                                     {of(&DistanceFigures::p95), 3, true},
                                     {of(&DistanceFigures::max), 2, true},
                                     {seen == f.regions.end() ? 0 : static_cast<double>(seen->second.vertices), 0},
                                     {told      ? std::optional(100 * doubt->second.signs.guessed)
                                      : at_rest ? std::optional(100 * rest->second.signs.guessed)
                                                : std::nullopt,
                                      0},
                                     state});
        QTableWidgetItem* first = table_->item(table_->rowCount() - 1, 0);
        first->setData(kValueRole, QString::fromStdString(name));
        first->setToolTip(tr("Double click: look at it"));
    }
}

void FiguresTable::refresh() {
    const FitRecord* fit = s_.state().fit();
    table_->setEnabled(!fit || !fit->figures_old);
    if (fit && shown_ == fit->distances) return;  // new with every measuring
    shown_ = fit ? fit->distances : nullptr;
    table_->setSortingEnabled(false);
    table_->setRowCount(0);
    if (!fit) return;
    table_->setColumnCount(fit->photo ? kPhotoColumns : kRegionColumns);
    // words want the room, numbers do not
    for (int c = 1; c < table_->columnCount(); ++c)
        table_->horizontalHeader()->setSectionResizeMode(
            c, !fit->photo && c + 1 < kRegionColumns ? QHeaderView::ResizeToContents : QHeaderView::Stretch);
    fit->photo ? fill_photos(*fit) : fill_regions(fit->figures);
    table_->sortByColumn(-1, Qt::AscendingOrder);
    table_->setSortingEnabled(true);
}

}  // namespace veld
