#include "app/stations/base/new_base_tab.h"

#include <QDir>
#include <QFileInfo>
#include <QGridLayout>

#include "app/ask.h"
#include "app/flow_row.h"
#include "app/stations/gather/gather_panel.h"
#include "app/widgets.h"
#include "core/base/units.h"

namespace veld {
namespace {

QString base_filter() { return NewBaseTab::tr("Meshes (*.obj *.glb *.gltf *.ply *.stl *.fbx *.dae);;All files (*)"); }

QLabel* named(const QString& text, QWidget* of) {
    auto* label = text_label(text, "plain");
    label->setBuddy(of);
    return label;
}

}  // namespace

NewBaseTab::NewBaseTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    column->addWidget(
        text_label(tr("Your base mesh becomes a kit. What is not found right you correct afterwards."), "dim"));
    build_files(column);
    build_known(column);
    auto* folder = button(tr("Keep the kit in…"), "new_base_folder",
                          tr("A new or empty folder; beside one that is taken a number is added"));
    connect(folder, &QPushButton::clicked, this, &NewBaseTab::ask_for_folder);
    folder_ = new PathLabel;
    folder_->setObjectName("new_base_folder_path");
    column->addWidget(folder);
    column->addWidget(folder_);
    make_ = button(tr("Make the kit"), "new_base_make", {}, true);
    cancel_ = button(tr("Cancel"), "new_base_cancel");
    connect(make_, &QPushButton::clicked, this, &NewBaseTab::start);
    connect(cancel_, &QPushButton::clicked, this, [this] { s_.jobs().cancel_kind(JobKind::MakeKit); });
    column->addLayout(flow({make_, cancel_}));
    state_ = text_label({}, "dim");
    state_->setObjectName("new_base_state");
    column->addWidget(state_);
    auto* shared = button(tr("Unpack a shared kit…"), "new_base_zip", tr("A kit that somebody shared as a zip file"));
    connect(shared, &QPushButton::clicked, this, &NewBaseTab::ask_for_zip);
    column->addWidget(shared);
    column->addStretch();
    connect(&s_, &Session::changed, this, &NewBaseTab::refresh);
    connect(&c_, &BaseController::changed, this, &NewBaseTab::refresh);
    refresh();
}

void NewBaseTab::build_files(QBoxLayout* column) {
    auto* mesh = button(tr("Base mesh…"), "new_base_mesh", tr("OBJ, GLB, PLY and others; nothing in it is changed"));
    connect(mesh, &QPushButton::clicked, this, &NewBaseTab::ask_for_mesh);
    mesh_ = new PathLabel;
    mesh_->setObjectName("new_base_mesh_path");
    column->addWidget(mesh);
    column->addWidget(mesh_);
    auto* more =
        button(tr("Further files…"), "new_base_more",
               tr("A head or a body of its own, eyes, teeth: what belongs to the base and is in other files"));
    remove_ = button(tr("Remove"), "new_base_remove", tr("Takes the selected file off the list"));
    auto* expressions =
        button(tr("Expressions…"), "new_base_expressions",
               tr("A folder of meshes in the base's vertex order. Morph targets in the file itself are "
                  "taken without asking"));
    no_expressions_ = button(tr("None"), "new_base_no_expressions", tr("Without that folder"));
    connect(more, &QPushButton::clicked, this, &NewBaseTab::ask_for_more);
    connect(remove_, &QPushButton::clicked, this, [this] { delete more_->currentItem(), refresh(); });
    connect(expressions, &QPushButton::clicked, this, &NewBaseTab::ask_for_expressions);
    connect(no_expressions_, &QPushButton::clicked, this, [this] { expressions_path_.clear(), refresh(); });
    auto* skeleton =
        button(tr("Joints…"), "new_base_skeleton",
               tr("A GLB of the rigged base, where the mesh itself has no joints: their names, places and "
                  "weights are taken from it"));
    no_skeleton_ = button(tr("None"), "new_base_no_skeleton", tr("Without that file"));
    connect(skeleton, &QPushButton::clicked, this, &NewBaseTab::ask_for_skeleton);
    connect(no_skeleton_, &QPushButton::clicked, this, [this] { skeleton_path_.clear(), refresh(); });
    column->addLayout(flow({more, remove_}));
    more_ = new QListWidget;
    more_->setObjectName("new_base_more_list");
    more_->setAccessibleName(tr("Further files"));
    more_->setFixedHeight(58);
    connect(more_, &QListWidget::currentRowChanged, this, [this] { refresh(); });
    column->addWidget(more_);
    column->addLayout(flow({expressions, skeleton}));
    expressions_ = new PathLabel;
    skeleton_ = new PathLabel;
    const auto beside = [column](PathLabel* path, QPushButton* none) {
        auto* line = row({path, none});
        line->setStretch(0, 1);
        column->addLayout(line);
    };
    beside(expressions_, no_expressions_);
    beside(skeleton_, no_skeleton_);
}

void NewBaseTab::build_known(QBoxLayout* column) {
    unit_ = new QComboBox;
    unit_->setObjectName("new_base_unit");
    unit_->addItem(tr("found"), -1);
    for (const Unit unit : kAllUnits) unit_->addItem(unit_name(unit), static_cast<int>(unit));
    up_ = new QComboBox;
    up_->setObjectName("new_base_up");
    up_->addItem(tr("found"), -1);
    for (int axis = 0; axis < 6; ++axis) up_->addItem(up_axis_name(static_cast<UpAxis>(axis)), axis);
    landmarks_ = new QComboBox;
    landmarks_->setObjectName("new_base_landmarks");
    landmarks_->addItem(tr("found"));
    for (QComboBox* box : {unit_, up_, landmarks_}) narrow(box, 6);
    // shares of the width that there is: a row never widens the panel
    auto* form = new QGridLayout;
    form->setHorizontalSpacing(6);
    form->setVerticalSpacing(6);
    int line = 0;
    for (const auto& [text, box] : {std::pair{tr("Unit"), unit_}, {tr("Up"), up_}, {tr("Landmarks"), landmarks_}}) {
        form->addWidget(named(text, box), line, 0);
        form->addWidget(box, line++, 1);
    }
    form->setColumnStretch(1, 1);
    column->addLayout(form);
}

void NewBaseTab::set_mesh(const QString& path) {
    mesh_path_ = path;
    const QFileInfo info(path);
    if (!folder_told_) folder_path_ = info.dir().filePath(tr("%1 kit").arg(info.completeBaseName()));
    refresh();
}

const Source* NewBaseTab::marked_source() const {
    const QFileInfo wanted(mesh_path_);
    for (const Subject& subject : s_.state().subjects) {
        for (const Source& source : subject.sources) {
            if (source.landmarks.points.size() >= 3 && QFileInfo(QString::fromStdString(source.path)) == wanted)
                return &source;
        }
    }
    return nullptr;
}

void NewBaseTab::refresh() {
    mesh_->setText(mesh_path_);
    mesh_->setVisible(!mesh_path_.isEmpty());
    expressions_->setText(expressions_path_);
    expressions_->setVisible(!expressions_path_.isEmpty());
    no_expressions_->setVisible(!expressions_path_.isEmpty());
    skeleton_->setText(skeleton_path_);
    skeleton_->setVisible(!skeleton_path_.isEmpty());
    no_skeleton_->setVisible(!skeleton_path_.isEmpty());
    folder_->setText(folder_path_);
    folder_->setVisible(!folder_path_.isEmpty());
    remove_->setEnabled(more_->currentItem() != nullptr);
    more_->setVisible(more_->count() > 0);
    // where no face is found, people mark the mesh as a source, and the kit starts from that
    const Source* marked = mesh_path_.isEmpty() ? nullptr : marked_source();
    if (marked && landmarks_->count() == 1) landmarks_->addItem(QString());
    if (!marked && landmarks_->count() == 2) landmarks_->removeItem(1);
    if (marked) landmarks_->setItemText(1, tr("those set on %1").arg(QString::fromStdString(marked->name)));
    make_->setEnabled(!mesh_path_.isEmpty() && !folder_path_.isEmpty() && !c_.making());
    cancel_->setVisible(c_.making());
    state_->setText(c_.making() ? tr("The kit is being made; that takes up to a minute or two for a whole figure.")
                    : mesh_path_.isEmpty()
                        ? tr("Select your base mesh first.")
                        : tr("If no face is found: add the mesh as a source in Gather, set three or more landmarks in "
                             "Mark, and choose them here under Landmarks."));
}

void NewBaseTab::ask_for_mesh() {
    const QString path = s_.files().open(this, tr("Base mesh"), s_.files().last_folder(), base_filter());
    if (path.isEmpty()) return;
    s_.files().remember_folder_of(path);
    set_mesh(path);
}

void NewBaseTab::ask_for_more() {
    const QStringList paths =
        s_.files().open_several(this, tr("Further files of the base"), s_.files().last_folder(), base_filter());
    more_->addItems(paths);
    refresh();
}

void NewBaseTab::ask_for_expressions() {
    const QString folder = s_.files().folder(this, tr("Folder of expressions"), s_.files().last_folder());
    if (folder.isEmpty()) return;
    expressions_path_ = folder;
    refresh();
}

void NewBaseTab::ask_for_skeleton() {
    const QString path =
        s_.files().open(this, tr("The rigged base"), s_.files().last_folder(), tr("glTF (*.glb *.gltf)"));
    if (path.isEmpty()) return;
    skeleton_path_ = path;
    refresh();
}

void NewBaseTab::ask_for_folder() {
    const QString folder = s_.files().folder(this, tr("Folder for the kit"), s_.files().last_folder());
    if (folder.isEmpty()) return;
    folder_path_ = folder, folder_told_ = true;
    refresh();
}

void NewBaseTab::ask_for_zip() {
    const QString zip = s_.files().open(this, tr("Shared kit"), s_.files().last_folder(), tr("Zip archive (*.zip)"));
    if (zip.isEmpty()) return;
    s_.files().remember_folder_of(zip);
    const QString folder = s_.files().folder(this, tr("A new or empty folder for it"), s_.files().last_folder());
    if (!folder.isEmpty()) c_.unpack(zip, folder);
}

void NewBaseTab::start() {
    KitRecipe recipe;
    recipe.file = mesh_path_.toStdString();
    for (int i = 0; i < more_->count(); ++i) recipe.more.push_back({more_->item(i)->text().toStdString(), {}});
    recipe.expressions = expressions_path_.toStdString();
    recipe.skeleton = skeleton_path_.toStdString();
    if (const int unit = unit_->currentData().toInt(); unit >= 0) recipe.unit = static_cast<Unit>(unit);
    if (const int up = up_->currentData().toInt(); up >= 0) recipe.up = static_cast<UpAxis>(up);
    const Source* marked = marked_source();
    if (marked && landmarks_->currentIndex() == 1) recipe.landmarks = marked->landmarks;
    c_.make(recipe, folder_path_);
}

}  // namespace veld
