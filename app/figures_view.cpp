#include "app/figures_view.h"

#include <cmath>

#include <QHBoxLayout>
#include <QHeaderView>
#include <QScrollBar>

#include "app/region_names.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"
#include "core/photo/head_record.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

QString chip(const QString& name, const QString& value, bool good, const char* link = nullptr) {
    if (link) return chip(name, QString("<a href='%1' style='color:#ece5d8'>%2</a>").arg(link, value), good);
    // shape as well as colour: a filled square is fine, an open triangle wants a look
    return QString(
               "<td style='padding-right:22px'><span style='color:#aba193'>%1</span><br><span "
               "style='color:%2'>%3</span>&nbsp;<b>%4</b></td>")
        .arg(name, good ? "#8fc4bd" : "#e0ae55", good ? "■" : "△", value);
}

}  // namespace

FiguresView::FiguresView(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(10, 6, 10, 6);
    auto* left = new QVBoxLayout;
    summary_ = new QLabel;
    summary_->setObjectName("figures_summary");
    summary_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::LinksAccessibleByMouse);
    summary_->setToolTip(tr("Click the number of flipped faces or new self-intersections to step through them"));
    connect(summary_, &QLabel::linkActivated, this, &FiguresView::next_fault);
    left->addWidget(summary_);
    table_ = new QTableWidget(0, 5);
    table_->setObjectName("figures_table");
    table_->setHorizontalHeaderLabels({tr("Region"), tr("median"), tr("95 %"), tr("worst, mm"), tr("vertices")});
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(20);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionMode(QAbstractItemView::NoSelection);
    table_->setShowGrid(false);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->setAlternatingRowColors(true);
    left->addWidget(table_, 1);
    left->addStretch();
    across->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->addWidget(text_label(tr("History"), "section"));
    history_ = new QListWidget;
    history_->setObjectName("history");
    history_->setFixedWidth(250);
    history_->setToolTip(tr("Click a step to return to it"));
    connect(history_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (!filling_ && row >= 0) s_.document().go_to(static_cast<std::size_t>(row));
    });
    right->addWidget(history_, 1);
    across->addLayout(right);
    connect(&s_, &Session::changed, this, &FiguresView::refresh);
    refresh();
}

void FiguresView::next_fault(const QString& kind) {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return;
    const std::vector<Index>& faults = kind == "flips" ? fit->figures.flipped_at : fit->figures.cut_at;
    if (faults.empty()) return;
    std::size_t& at = kind == "flips" ? flip_ : cut_;
    at = at % faults.size();
    emit go_and_look(faults[at]);
    emit s_.noticed(tr("%1 of %2").arg(at + 1).arg(faults.size()));
    ++at;
}

// A head from photographs: one row for each, and what all of them saw.
void FiguresView::fill_photos(const FitRecord& fit) {
    const FitFigures& f = fit.figures;
    table_->setHorizontalHeaderLabels({tr("Photograph"), tr("landmarks, rms mm"), tr("outline, rms mm"),
                                       tr("focal length, mm"), tr("distance, cm")});
    table_->setRowCount(0);
    double outline = 0;
    int places = 0;
    for (const PhotoFigures& p : fit.photo->photos) {
        const int row = table_->rowCount();
        table_->insertRow(row);
        table_->setItem(row, 0, new QTableWidgetItem(QString::fromStdString(p.name)));
        outline += p.outline_rms_mm * p.outline_rms_mm * p.outline_points, places += p.outline_points;
        const double values[] = {p.landmark_rms_mm, p.outline_rms_mm, p.camera ? p.camera->focal_35mm() : 0,
                                 p.distance_mm / 10};
        for (int c = 0; c < 4; ++c) {
            auto* item =
                new QTableWidgetItem(p.camera ? QString::number(values[c], 'f', c < 2 ? 2 : 0) : QStringLiteral("-"));
            item->setTextAlignment(Qt::AlignCenter);
            table_->setItem(row, c + 1, item);
        }
    }
    double seen[3] = {0, 0, 0};
    const auto& face = s_.state().kit->region("face");
    for (const Index v : face) {
        if (v < fit.photo->seen_by.size()) seen[fit.photo->seen_by[v]] += 100.0 / static_cast<double>(face.size());
    }
    outline = places > 0 ? std::sqrt(outline / places) : 0;
    const auto mm = [](double x) { return QString::number(x, 'f', 2) + " mm"; };
    summary_->setText("<table><tr>" + chip(tr("landmarks, rms"), mm(f.landmark_rms), f.landmark_rms <= 1.5) +
                      chip(tr("outlines, rms"), mm(outline), outline <= 1.5) +
                      chip(tr("face seen twice"), QString::number(seen[2], 'f', 0) + " %", seen[2] >= 50) +
                      chip(tr("seen once"), QString::number(seen[1], 'f', 0) + " %", true) +
                      chip(tr("by none"), QString::number(seen[0], 'f', 0) + " %", seen[0] <= 15) +
                      chip(tr("flipped faces"), QString::number(f.flipped_faces), f.flipped_faces == 0,
                           f.flipped_at.empty() ? nullptr : "flips") +
                      chip(tr("new self-intersections"), QString::number(f.self_intersections),
                           f.self_intersections == 0, f.cut_at.empty() ? nullptr : "cuts") +
                      chip(tr("edge stretch, 95 %"), "× " + QString::number(f.edge_p95, 'f', 2), f.edge_p95 <= 1.5) +
                      "</tr></table>");
}

void FiguresView::fill_table(const FitFigures& f) {
    table_->setHorizontalHeaderLabels({tr("Region"), tr("median"), tr("95 %"), tr("worst, mm"), tr("vertices")});
    table_->setRowCount(0);
    for (const auto& [name, d] : f.regions) {
        if (name == "head_skin" || name == "body_skin" || name == "hand_all_l" || name == "hand_all_r") continue;
        const int row = table_->rowCount();
        table_->insertRow(row);
        table_->setItem(row, 0, new QTableWidgetItem(plain_region(name)));
        int column = 1;
        for (double value : {d.median, d.p95, d.max}) {
            auto* item = new QTableWidgetItem(QString::number(value, 'f', value < 0.1 ? 3 : 2));
            item->setTextAlignment(Qt::AlignCenter);
            table_->setItem(row, column++, item);
        }
        auto* count = new QTableWidgetItem(QString::number(d.vertices));
        count->setTextAlignment(Qt::AlignCenter);
        table_->setItem(row, 4, count);
    }
}

void FiguresView::refresh() {
    const FitRecord* fit = s_.state().fit();
    summary_->setEnabled(!fit || !fit->figures_old);  // dim until they are those of the shape that is shown
    table_->setVisible(fit != nullptr);
    if (!fit) {
        shown_.reset();
        summary_->setText(
            tr("<span style='color:#aba193'>The figures of a fit appear here: distance to the source, landmark "
               "residuals, distortion, flips.</span>"));
    } else if (shown_ != fit->distances) {  // new with every measuring
        shown_ = fit->distances;
        const FitFigures& f = fit->figures;
        const auto mm = [](double x) { return QString::number(x, 'f', x < 0.1 ? 3 : 2) + " mm"; };
        if (fit->photo)
            fill_photos(*fit);
        else
            summary_->setText(
                "<table><tr>" + chip(tr("to the source, median"), mm(f.surface.median), f.surface.median <= 0.15) +
                chip(tr("95 % within"), mm(f.surface.p95), f.surface.p95 <= 0.6) +
                chip(tr("landmarks, rms"), mm(f.landmark_rms), f.landmark_rms <= 1.5) +
                (f.curve_mm.empty() ? QString() : chip(tr("curves, rms"), mm(f.curve_rms), f.curve_rms <= 0.3)) +
                chip(tr("matched area"), QString::number(100 * f.coverage, 'f', 1) + " %", f.coverage >= 0.9) +
                chip(tr("flipped faces"), QString::number(f.flipped_faces), f.flipped_faces == 0,
                     f.flipped_at.empty() ? nullptr : "flips") +
                chip(tr("new self-intersections"), QString::number(f.self_intersections), f.self_intersections == 0,
                     f.cut_at.empty() ? nullptr : "cuts") +
                chip(tr("edge stretch, 95 %"), "× " + QString::number(f.edge_p95, 'f', 2), f.edge_p95 <= 1.5) +
                "</tr></table>");
        if (!fit->photo) fill_table(f);
    }
    refresh_history();
}

// Lines are changed where they stand: a click on one of them is what most often brings us here.
void FiguresView::refresh_history() {
    filling_ = true;
    const std::vector<std::string> labels = s_.document().labels();
    const int now = static_cast<int>(s_.document().position()), count = static_cast<int>(labels.size());
    while (history_->count() > count) delete history_->takeItem(history_->count() - 1);
    while (history_->count() < count) history_->addItem(QString());
    for (int i = 0; i < count; ++i) {
        const std::string& label = labels[static_cast<std::size_t>(i)];
        history_->item(i)->setText(label.empty() ? tr("Opened") : QString::fromStdString(label));
        history_->item(i)->setForeground(i > now ? theme::kDim : theme::kText);
    }
    history_->setCurrentRow(now);
    filling_ = false;
}

}  // namespace veld
