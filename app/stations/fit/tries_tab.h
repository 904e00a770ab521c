#pragma once
// The Tries tab of the Fit station: every fit that was made, side by side with the one that is worked on.
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QTreeWidget>

#include "app/session.h"

namespace veld {

class TriesTab : public QWidget {
    Q_OBJECT
 public:
    explicit TriesTab(Session& session, QWidget* parent = nullptr);

 private:
    void refresh();
    void refresh_beside();
    int row() const;
    void work_on();
    void take_settings();
    void rename();
    void remove();

    Session& s_;
    QTreeWidget* list_;
    QTableWidget* beside_;
    QLabel *differs_, *notes_;
    QPushButton *work_, *settings_, *rename_, *remove_;
    bool filling_ = false;
};

}  // namespace veld
