#include "app/window/figures_line.h"

#include <QHBoxLayout>
#include <cmath>

#include "app/lengths.h"
#include "app/theme.h"
#include "app/window/doubt_words.h"
#include "core/kit/base_kit.h"
#include "core/photo/head_record.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr std::size_t kUnsureShown = 2;  // regions, in the line; the table has all

// Shape as well as colour: a filled square is fine, an open triangle wants a look.
QString figure(const QString& name, const QString& value, bool good, const char* link = nullptr) {
    const QString shown =
        link ? QString("<a href='%1' style='color:%2'>%3</a>").arg(link, theme::ink().text.name(), value) : value;
    return QString(
               "<span style='color:%1'>%2</span>&nbsp;<span style='color:%3'>%4</span>&nbsp;<b>%5</b>"
               "&nbsp;&nbsp;&nbsp; ")
        .arg(good ? theme::ink().fine.name() : theme::ink().doubt.name(), good ? "■" : "△", theme::ink().dim.name(),
             QString(name).replace(' ', "&nbsp;"), shown);
}

QString mm(double x) { return length_text(x, x < 0.1 ? 3 : 2).replace(' ', "&nbsp;"); }
QString percent(double share) { return QString::number(100 * share, 'f', share < 0.995 ? 1 : 0) + "&nbsp;%"; }

QString faults(const FitFigures& f) {
    return figure(FiguresLine::tr("flipped"), QString::number(f.flipped_faces), f.flipped_faces == 0,
                  f.flipped_at.empty() ? nullptr : "flips") +
           figure(FiguresLine::tr("self-intersections"), QString::number(f.self_intersections),
                  f.self_intersections == 0, f.cut_at.empty() ? nullptr : "cuts") +
           figure(FiguresLine::tr("stretch, 95 %"), "×&nbsp;" + QString::number(f.edge_p95, 'f', 2),
                  f.edge_p95 <= 1.5);
}

}  // namespace

FiguresLine::FiguresLine(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(4, 0, 4, 0);
    across->setSpacing(6);
    fold_ = new QToolButton;
    fold_->setObjectName("figures_unfold");
    fold_->setCheckable(true);
    fold_->setProperty("role", "small");
    fold_->setFocusPolicy(Qt::TabFocus);
    fold_->setToolTip(tr("The figures' table"));
    fold_->setAccessibleName(tr("The figures' table"));
    connect(fold_, &QToolButton::clicked, this, &FiguresLine::unfold);
    across->addWidget(fold_);
    summary_ = new QLabel;
    summary_->setObjectName("figures_summary");
    summary_->setTextFormat(Qt::RichText);
    summary_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::LinksAccessibleByMouse |
                                      Qt::LinksAccessibleByKeyboard);
    summary_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    connect(summary_, &QLabel::linkActivated, this, &FiguresLine::next_fault);
    across->addWidget(summary_, 1);
    set_unfolded(false);
    connect(&s_, &Session::changed, this, &FiguresLine::refresh);
    connect(&s_, &Session::shown_anew, this, [this] {
        shown_.reset();
        refresh();
    });
    refresh();
}

void FiguresLine::set_station(bool of_fit, const QString& says) {
    if (of_fit == of_fit_ && says == says_) return;
    of_fit_ = of_fit, says_ = says;
    shown_.reset();
    refresh();
}

void FiguresLine::set_unfolded(bool on) {
    fold_->setChecked(on);
    fold_->setIcon(theme::icon(on ? "fold" : "unfold", &theme::Ink::dim));
}

void FiguresLine::next_fault(const QString& kind) {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return;
    const std::vector<Index>& at_faults = kind == "flips" ? fit->figures.flipped_at : fit->figures.cut_at;
    if (at_faults.empty()) return;
    std::size_t& at = kind == "flips" ? flip_ : cut_;
    at = at % at_faults.size();
    emit go_and_look(at_faults[at]);
    emit s_.noticed(tr("%1 of %2").arg(at + 1).arg(at_faults.size()));
    ++at;
}

QString FiguresLine::of_scan(const FitFigures& f) const {
    return figure(tr("median"), mm(f.surface.median), f.surface.median <= 0.15) +
           figure(tr("95 %"), mm(f.surface.p95), f.surface.p95 <= 0.6) +
           figure(tr("landmarks"), mm(f.landmark_rms), f.landmark_rms <= 1.5) +
           (f.curve_mm.empty() ? QString() : figure(tr("curves"), mm(f.curve_rms), f.curve_rms <= 0.3)) +
           figure(tr("matched"), percent(f.coverage), f.coverage >= 0.9) + faults(f) + regions(f);
}

// Which regions a look would send back, and which nobody saw: what distances alone cannot say.
QString FiguresLine::regions(const FitFigures& f) const {
    if (f.doubts.empty() && f.rest.empty()) return {};
    const QStringList look = regions_to_look_at(f), guessed = guessed_regions(f);
    QString out = look.isEmpty() ? figure(tr("regions"), tr("fine"), true)
                                 : figure(tr("look at"), look.join(", ").toLower(), false);
    if (!guessed.isEmpty()) out += figure(tr("guessed"), guessed.join(", ").toLower(), false);
    if (!f.rest.empty()) {
        const QStringList unsure = unsure_at_rest(f, kUnsureShown);
        out += unsure.isEmpty() ? figure(tr("at rest"), tr("sure"), true)
                                : figure(tr("at rest"), unsure.join(", ").toLower(), false);
    }
    return out;
}

QString FiguresLine::of_photos(const FitRecord& fit) const {
    double outline = 0, seen[3] = {0, 0, 0};
    int places = 0;
    for (const PhotoFigures& p : fit.photo->photos)
        outline += p.outline_rms_mm * p.outline_rms_mm * p.outline_points, places += p.outline_points;
    const auto& face = s_.state().kit->region("face");
    for (const Index v : face) {
        if (v < fit.photo->seen_by.size()) seen[fit.photo->seen_by[v]] += 1.0 / static_cast<double>(face.size());
    }
    outline = places > 0 ? std::sqrt(outline / places) : 0;
    const FitFigures& f = fit.figures;
    return figure(tr("landmarks"), mm(f.landmark_rms), f.landmark_rms <= 1.5) +
           figure(tr("outlines"), mm(outline), outline <= 1.5) +
           figure(tr("face seen twice"), percent(seen[2]), seen[2] >= 0.5) +
           figure(tr("by none"), percent(seen[0]), seen[0] <= 0.15) + faults(f);
}

void FiguresLine::refresh() {
    const FitRecord* fit = of_fit_ ? s_.state().fit() : nullptr;
    fold_->setVisible(fit != nullptr);
    summary_->setEnabled(!fit || !fit->figures_old);  // dim until they are those of the shape that is shown
    if (!fit) {
        shown_.reset();
        summary_->setToolTip({});
        summary_->setText(says_.toHtmlEscaped());
    } else if (shown_ != fit->distances) {  // new with every measuring
        shown_ = fit->distances;
        summary_->setText(fit->photo ? of_photos(*fit) : of_scan(fit->figures));
        summary_->setToolTip(
            fit->photo
                ? tr("How well the head agrees with its photographs: landmarks and outlines, root mean square; how "
                     "much of the face is seen by two photographs and by none. Click a number of faults to step "
                     "through them.")
                : tr("How well the fit agrees with the source: distance of its surface, median and 95 %; landmarks "
                     "and curves, root mean square; how much of it matched something; regions "
                     "that a look would send back, and those that follow from the rest because they were not seen "
                     "(the table says why). Click a number of faults to "
                     "step through them."));
    }
}

}  // namespace veld
