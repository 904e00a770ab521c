#pragma once
// Deliver: shapes and morph targets go out.
#include <QCheckBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QWidget>

#include "app/session.h"

namespace veld {

class DeliverPanel : public QWidget {
    Q_OBJECT
   public:
    explicit DeliverPanel(Session& session, QWidget* parent = nullptr);

    // Also behind the buttons' file dialogs.
    Status write_glb(const QString& path) const;
    Status write_mix(const QString& path) const;
    Status write_fit(const QString& path, bool source_frame) const;
    Status write_report(const QString& path) const;
    Status write_morph(const QString& path) const;   // the first chosen morph, as a morph file

   private:
    void refresh();
    void ask(const QString& title, const QString& name, const QString& filter, const std::function<Status(const QString&)>& write);
    std::vector<MorphAmount> chosen() const;

    Session& s_;
    QListWidget* morphs_;
    QPushButton *glb_, *mix_, *morph_, *fit_kit_, *fit_source_, *report_;
};

}  // namespace veld
