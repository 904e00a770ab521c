#pragma once
// Left: the subjects, what each has, and in which state it is.
#include <QTreeWidget>
#include <QWidget>

#include "app/session.h"
#include "app/station.h"

namespace veld {

class SubjectTree : public QWidget {
    Q_OBJECT
 public:
    explicit SubjectTree(Session& session, QWidget* parent = nullptr);

 signals:
    void go_to(veld::Station station);

 private:
    void refresh();
    void add_subject();
    void activated(QTreeWidgetItem* item);

    Session& s_;
    std::vector<Station> stations_;  // that the lines lead to, by the number in their data
    QTreeWidget* tree_;
};

}  // namespace veld
