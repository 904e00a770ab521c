#include "app/stations/gather/gather_panel.h"

#include <QLocale>

#include "app/widgets.h"
#include "core/mesh/topology.h"

namespace veld {

GatherPanel::GatherPanel(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Gather"), "title"));
    column->addWidget(text_label(tr("Drop a scan or sculpt on the window, or choose a file: OBJ, PLY, STL, GLB, glTF."), "dim"));
    auto* load = button(tr("Add a source…"), "gather_load", tr("Read a scan or sculpt into this subject"), true);
    connect(load, &QPushButton::clicked, this, &GatherPanel::choose_sources);
    column->addWidget(load);
    title_ = text_label({}, "section");
    column->addWidget(title_);
    unit_ = new QComboBox;
    unit_->setObjectName("gather_unit");
    unit_->addItem(tr("Unit: found from the landmarks"));
    for (Unit u : {Unit::Millimetre, Unit::Centimetre, Unit::Metre, Unit::Inch}) unit_->addItem(tr("Unit: %1").arg(unit_name(u)));
    connect(unit_, &QComboBox::activated, this, &GatherPanel::set_unit);
    column->addWidget(unit_);
    facts_ = text_label({}, "plain");
    facts_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(facts_);
    notes_ = text_label({}, "dim");
    column->addWidget(notes_);
    remove_ = button(tr("Remove this source"), "gather_remove", tr("Takes the source out of the subject; undo brings it back"));
    connect(remove_, &QPushButton::clicked, this, &GatherPanel::remove);
    column->addWidget(remove_);
    column->addStretch();
    connect(&s_, &Session::changed, this, &GatherPanel::refresh);
    refresh();
}

void GatherPanel::refresh() {
    const Source* source = s_.state().source();
    for (QWidget* w : std::initializer_list<QWidget*>{title_, unit_, facts_, notes_, remove_}) w->setVisible(source != nullptr);
    if (!source) {
        shown_ = nullptr;
        return;
    }
    title_->setText(QString::fromStdString(source->name));
    unit_->setCurrentIndex(source->unit ? 1 + static_cast<int>(*source->unit) : 0);
    if (shown_ == source->mesh.get()) return;
    shown_ = source->mesh.get();
    const Mesh& mesh = *source->mesh;
    const TopologyReport t = inspect_topology(mesh);
    const Vec3 size = bounding_box(mesh.positions).size();
    const QLocale n = QLocale::c();
    const auto line = [&](const QString& what, const QString& value) { return tr("<tr><td style='color:#aba193; padding-right:10px'>%1</td><td align='right'>%2</td></tr>").arg(what, value); };
    const auto count = [&](std::size_t x) { return QString::number(static_cast<qulonglong>(x)); };
    QString text = "<table>";
    text += line(tr("vertices"), count(mesh.vertex_count()));
    text += line(tr("triangles"), count(mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()}));
    text += line(tr("size, in its unit"), QString("%1 × %2 × %3").arg(size.x(), 0, 'g', 3).arg(size.y(), 0, 'g', 3).arg(size.z(), 0, 'g', 3));
    text += line(tr("textures"), count(mesh.images.size()));
    text += line(tr("loose pieces"), count(t.components));
    text += line(tr("holes"), count(t.holes));
    text += line(tr("non-manifold edges"), count(t.non_manifold_edges));
    text += line(tr("degenerate faces"), count(t.degenerate_faces));
    text += line(tr("seam duplicates"), count(t.doubled_vertices));
    facts_->setText(text + "</table>");
    QStringList notes;
    for (const std::string& note : source->notes) notes << QString::fromStdString(note);
    if (t.components > 1) notes << tr("Small loose pieces that touch nothing are left out of the fit.");
    if (t.holes > 0) notes << tr("Holes are bridged by the base's own shape.");
    notes_->setText(notes.join("\n"));
}

void GatherPanel::set_unit(int index) {
    ProjectState next = s_.state();
    if (!next.source()) return;
    Source& source = next.current()->sources.back();
    source.unit = index == 0 ? std::optional<Unit>() : static_cast<Unit>(index - 1);
    s_.change(tr("Change the unit"), std::move(next));
}

void GatherPanel::remove() {
    ProjectState next = s_.state();
    if (!next.source()) return;
    const QString name = QString::fromStdString(next.source()->name);
    next.current()->sources.pop_back();
    s_.change(tr("Remove %1").arg(name), std::move(next));
}

}  // namespace veld
