#pragma once
// Deliver: shapes and morph targets go out, and come in from other projects.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QWidget>

#include "app/lengths.h"
#include "app/session.h"
#include "core/exchange/export.h"
#include "core/exchange/reduced_out.h"

namespace veld {

class SkinController;

class DeliverPanel : public QWidget {
    Q_OBJECT
 public:
    DeliverPanel(Session& session, SkinController& skins, QWidget* parent = nullptr);

    // Also behind the buttons' file dialogs.
    Status write_glb(const QString& path) const;
    Status write_mix(const QString& path) const;
    Status write_fit(const QString& path, bool source_frame) const;
    Status write_report(const QString& path) const;
    // In the background; says what was written, or why not.
    void write_each(const QString& folder);
    void write_skin(const QString& folder);  // the current skin's colours, a PNG for each tile
    void read_morphs(const QStringList& paths);
    bool working() const { return s_.jobs().has(JobKind::Export); }
    void stop() { s_.jobs().cancel(job_); }

 private:
    void build_morphs(QVBoxLayout* column);
    void build_skeleton(QVBoxLayout* column);
    void refresh_weights();
    Status write_reduced(const std::function<Result<std::vector<std::string>>(const ReducedOut&)>& write) const;
    void refresh();
    void ask(const QString& title, const QString& name, const QString& filter,
             const std::function<Status(const QString&)>& write);
    std::vector<Joint> joints_now() const;  // where the current mix takes them
    std::vector<std::size_t> selected() const;
    std::vector<MorphAmount> selected_amounts() const;

    Session& s_;
    SkinController& skins_;
    QListWidget* morphs_;
    QLineEdit *search_, *pattern_;
    QComboBox* format_;
    QCheckBox* reduced_;
    LengthBox* smooth_;
    QComboBox* most_;
    bool filling_ = false;
    QPushButton *all_, *glb_, *mix_, *posable_, *joints_, *each_, *in_, *fit_kit_, *fit_source_, *report_, *skin_;
    JobId job_ = 0;
};

}  // namespace veld
