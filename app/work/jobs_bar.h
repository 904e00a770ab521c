#pragma once
// What runs in the background, in one place at the foot of the window: title, stage, how far, how much longer, cancel.
#include <QLabel>
#include <QProgressBar>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/work/jobs.h"
#include "app/work/saver.h"

namespace veld {

class JobsBar : public QWidget {
    Q_OBJECT
 public:
    JobsBar(Jobs& jobs, Saver& saver, QWidget* parent = nullptr);

 private:
    void refresh();
    void fill_menu();

    Jobs& jobs_;
    Saver& saver_;
    QLabel *text_, *left_, *saving_;
    QProgressBar* bar_;
    QToolButton *more_, *cancel_;
    QTimer tick_;  // seconds left go on counting between reports
    JobId shown_ = 0;
};

// "2 min 10 s left", "40 s left"; empty: not known.
QString time_left_words(int seconds);

}  // namespace veld
