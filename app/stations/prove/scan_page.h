#pragma once
// Further scans of a person, with expressions: their own expressions, as morphs.
#include <QCheckBox>

#include "app/stations/prove/prove_controller.h"
#include "app/widgets.h"

namespace veld {

class ScanPage : public QWidget {
    Q_OBJECT
 public:
    ScanPage(Session& session, ProveController& prove, QWidget* parent = nullptr);

 private:
    void make();
    void put(SubjectId subject, const std::string& head, const QString& name, std::vector<Morph> morphs);
    void refresh();
    QString why_not() const;  // nothing can be made now; empty: it can

    Session& s_;
    ProveController& prove_;
    QComboBox *source_, *name_;
    QCheckBox *halves_, *regions_;
    QPushButton* make_;
    QLabel* said_;
    QString last_;  // what came of the last one
    JobId making_ = 0;
    std::vector<SourceId> listed_;
    std::shared_ptr<const BaseKit> named_for_;
};

}  // namespace veld
