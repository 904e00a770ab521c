#include "app/work/jobs_bar.h"

#include <QHBoxLayout>
#include <QMenu>
#include <cmath>

namespace veld {
namespace {
constexpr int kTickMs = 500, kStageWidth = 460, kRoundAbove = 20;
}

QString time_left_words(int seconds) {
    if (seconds < 0) return {};
    if (seconds < 2) return QObject::tr("nearly done");
    if (seconds > kRoundAbove) seconds = (seconds + 4) / 5 * 5;
    return seconds < 90 ? QObject::tr("%1 s left").arg(seconds)
                        : QObject::tr("%1 min left").arg(static_cast<int>(std::lround(seconds / 60.0)));
}

JobsBar::JobsBar(Jobs& jobs, Saver& saver, QWidget* parent) : QWidget(parent), jobs_(jobs), saver_(saver) {
    setObjectName("jobs_bar");
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(6, 0, 6, 0);
    across->setSpacing(8);
    saving_ = new QLabel(tr("Saving…"));
    saving_->setProperty("role", "dim");
    across->addWidget(saving_);
    text_ = new QLabel;
    text_->setObjectName("jobs_text");
    across->addWidget(text_);
    left_ = new QLabel;
    left_->setObjectName("jobs_left");
    left_->setProperty("role", "dim");
    across->addWidget(left_);
    bar_ = new QProgressBar;
    bar_->setObjectName("jobs_progress");
    bar_->setRange(0, 1000);
    bar_->setFixedSize(120, 16);
    bar_->setFormat("%p %");
    across->addWidget(bar_, 0, Qt::AlignVCenter);
    more_ = new QToolButton;
    more_->setObjectName("jobs_more");
    more_->setAccessibleName(tr("More work that runs"));
    more_->setPopupMode(QToolButton::InstantPopup);
    more_->setMenu(new QMenu(more_));
    connect(more_->menu(), &QMenu::aboutToShow, this, &JobsBar::fill_menu);
    across->addWidget(more_);
    cancel_ = new QToolButton;
    cancel_->setObjectName("jobs_cancel");
    cancel_->setText(tr("Cancel"));
    cancel_->setToolTip(tr("Cancel this work; nothing is changed"));
    connect(cancel_, &QToolButton::clicked, this, [this] { jobs_.cancel(shown_); });
    across->addWidget(cancel_);
    connect(&jobs_, &Jobs::changed, this, &JobsBar::refresh);
    connect(&jobs_, &Jobs::progressed, this, &JobsBar::refresh);
    connect(&saver_, &Saver::changed, this, &JobsBar::refresh);
    tick_.setInterval(kTickMs);
    connect(&tick_, &QTimer::timeout, this, &JobsBar::refresh);
    refresh();
}

void JobsBar::refresh() {
    const std::vector<JobRow> rows = jobs_.rows();
    const bool any = !rows.empty();
    saving_->setVisible(saver_.saving());
    for (QWidget* w : std::initializer_list<QWidget*>{text_, left_, bar_, cancel_}) w->setVisible(any);
    more_->setVisible(rows.size() > 1);
    setVisible(any || saver_.saving());
    any ? tick_.start() : tick_.stop();
    shown_ = any ? rows.front().id : 0;
    if (!any) return;
    const JobRow& row = rows.front();
    QStringList parts{row.title};
    if (row.cancelling)
        parts << tr("being cancelled…");
    else if (!row.running)
        parts << tr("waiting");
    else if (!row.stage.isEmpty())
        parts << row.stage;
    text_->setText(text_->fontMetrics().elidedText(parts.join(" · "), Qt::ElideRight, kStageWidth));
    text_->setToolTip(parts.join("\n"));
    left_->setText(row.running && !row.cancelling ? time_left_words(row.seconds_left) : QString());
    left_->setVisible(!left_->text().isEmpty());
    // what says nothing of how far it is moves to and fro
    bar_->setRange(0, row.running && row.fraction < 0 ? 0 : 1000);
    if (bar_->maximum() > 0) bar_->setValue(static_cast<int>(1000 * std::clamp(row.fraction, 0.0, 1.0)));
    cancel_->setEnabled(!row.cancelling);
    more_->setText(tr("+%1").arg(rows.size() - 1));
    more_->setToolTip(tr("What else runs or waits"));
}

void JobsBar::fill_menu() {
    QMenu* menu = more_->menu();
    menu->clear();
    for (const JobRow& row : jobs_.rows()) {
        const QString state = row.cancelling ? tr("being cancelled")
                              : !row.running ? tr("waiting")
                              : row.fraction < 0
                                  ? tr("running")
                                  : tr("%1 %").arg(std::lround(100 * std::clamp(row.fraction, 0.0, 1.0)));
        QAction* action = menu->addAction(tr("Cancel %1 (%2)").arg(row.title, state));
        // when the menu is gone: cancelling rebuilds it
        connect(
            action, &QAction::triggered, this, [this, id = row.id] { jobs_.cancel(id); }, Qt::QueuedConnection);
    }
}

}  // namespace veld
