#pragma once
// A kit from a base mesh: which files, what is known of them, where the kit is kept.
#include <QBoxLayout>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>

#include "app/stations/base/base_controller.h"

namespace veld {

class PathLabel;

class NewBaseTab : public QWidget {
    Q_OBJECT
 public:
    NewBaseTab(Session& session, BaseController& controller, QWidget* parent = nullptr);
    void set_mesh(const QString& path);

 private:
    void build_files(QBoxLayout* column);
    void build_known(QBoxLayout* column);
    void refresh();
    void ask_for_mesh();
    void ask_for_more();
    void ask_for_expressions();
    void ask_for_skeleton();
    void ask_for_folder();
    void start();
    void ask_for_zip();
    const Source* marked_source() const;  // of the project: the same file, with landmarks on it

    Session& s_;
    BaseController& c_;
    PathLabel *mesh_, *expressions_, *skeleton_, *folder_;
    QListWidget* more_;
    QPushButton *remove_, *no_expressions_, *no_skeleton_, *make_, *cancel_;
    QComboBox *unit_, *up_, *landmarks_;
    QLabel* state_;
    QString mesh_path_, expressions_path_, skeleton_path_, folder_path_;
    bool folder_told_ = false;
};

}  // namespace veld
