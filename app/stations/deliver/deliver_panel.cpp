#include "app/stations/deliver/deliver_panel.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QSettings>

#include "app/widgets.h"
#include "core/exchange/export.h"
#include "core/io/file.h"
#include "core/io/obj.h"

namespace veld {

DeliverPanel::DeliverPanel(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Deliver"), "title"));
    column->addWidget(text_label(tr("Morphs to hand on"), "section"));
    morphs_ = new QListWidget;
    morphs_->setObjectName("deliver_morphs");
    column->addWidget(morphs_, 1);
    glb_ = button(tr("GLB with morph targets…"), "deliver_glb", tr("The base with the chosen morphs as named targets, joints and skin weights; metres"), true);
    mix_ = button(tr("Current mix as OBJ…"), "deliver_mix", tr("One shape, vertex for vertex in the base's order; mm"));
    morph_ = button(tr("Chosen morph as a file…"), "deliver_morph", tr("For another project or the command line"));
    for (QPushButton* b : {glb_, mix_, morph_}) column->addWidget(b);
    column->addWidget(text_label(tr("Latest fit"), "section"));
    fit_kit_ = button(tr("OBJ in the base's frame…"), "deliver_fit_kit");
    fit_source_ = button(tr("OBJ in the source's frame…"), "deliver_fit_source", tr("In the source's own coordinates and unit: lies on the scan"));
    report_ = button(tr("Report (JSON)…"), "deliver_report", tr("Figures and settings of the fit"));
    for (QPushButton* b : {fit_kit_, fit_source_, report_}) column->addWidget(b);
    connect(glb_, &QPushButton::clicked, this, [this] { ask(tr("GLB with morph targets"), "morphs.glb", "glTF binary (*.glb)", [this](const QString& p) { return write_glb(p); }); });
    connect(mix_, &QPushButton::clicked, this, [this] { ask(tr("Current mix"), "mix.obj", "OBJ (*.obj)", [this](const QString& p) { return write_mix(p); }); });
    connect(morph_, &QPushButton::clicked, this, [this] { ask(tr("Morph file"), "morph.json", "Morph (*.json)", [this](const QString& p) { return write_morph(p); }); });
    connect(fit_kit_, &QPushButton::clicked, this, [this] { ask(tr("Fit"), "fit.obj", "OBJ (*.obj)", [this](const QString& p) { return write_fit(p, false); }); });
    connect(fit_source_, &QPushButton::clicked, this, [this] { ask(tr("Fit on the source"), "fit_on_source.obj", "OBJ (*.obj)", [this](const QString& p) { return write_fit(p, true); }); });
    connect(report_, &QPushButton::clicked, this, [this] { ask(tr("Report"), "fit_report.json", "JSON (*.json)", [this](const QString& p) { return write_report(p); }); });
    connect(&s_, &Session::changed, this, &DeliverPanel::refresh);
    connect(morphs_, &QListWidget::itemChanged, this, [this] {
        const bool any = !chosen().empty();
        glb_->setEnabled(any);
        morph_->setEnabled(any);
    });
    refresh();
}

void DeliverPanel::refresh() {
    const auto& bank = s_.state().bank;
    QStringList names;
    for (const BankEntry& e : bank) names << QString::fromStdString(e.morph->name);
    QStringList shown;
    for (int i = 0; i < morphs_->count(); ++i) shown << morphs_->item(i)->text();
    if (names != shown) {
        morphs_->clear();
        for (const QString& name : names) {
            auto* item = new QListWidgetItem(name, morphs_);
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(Qt::Checked);
        }
    }
    const bool any = !chosen().empty(), fit = s_.state().fit() != nullptr;
    for (QPushButton* b : {glb_, morph_}) b->setEnabled(any);
    mix_->setEnabled(s_.has_kit());
    for (QPushButton* b : {fit_kit_, fit_source_, report_}) b->setEnabled(fit);
}

std::vector<MorphAmount> DeliverPanel::chosen() const {
    std::vector<MorphAmount> out;
    const auto& bank = s_.state().bank;
    for (int i = 0; i < morphs_->count() && i < static_cast<int>(bank.size()); ++i) {
        const BankEntry& e = bank[static_cast<std::size_t>(i)];
        if (morphs_->item(i)->checkState() == Qt::Checked) out.push_back({e.morph.get(), e.amount});
    }
    return out;
}

void DeliverPanel::ask(const QString& title, const QString& name, const QString& filter, const std::function<Status(const QString&)>& write) {
    QSettings settings;
    const QString folder = settings.value("last_folder").toString();
    QString path = QFileDialog::getSaveFileName(this, title, folder + "/" + name, filter);
    if (path.isEmpty()) return;
    if (QFileInfo(path).suffix().isEmpty()) path += "." + QFileInfo(name).suffix();
    settings.setValue("last_folder", QFileInfo(path).absolutePath());
    const auto ok = write(path);
    if (!ok) s_.report(ok.error());
    else emit s_.noticed(tr("Written: %1").arg(path));
}

Status DeliverPanel::write_glb(const QString& path) const { return export_glb(*s_.state().kit, chosen(), path.toStdString()); }

Status DeliverPanel::write_mix(const QString& path) const { return export_morphed_obj(*s_.state().kit, s_.state().amounts(), path.toStdString()); }

Status DeliverPanel::write_morph(const QString& path) const {
    const auto morphs = chosen();
    if (morphs.empty()) return Error{ErrorCode::BadInput, "No morph is chosen."};
    return write_file(path.toStdString(), morph_text(*morphs.front().morph));
}

Status DeliverPanel::write_fit(const QString& path, bool source_frame) const {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return Error{ErrorCode::BadInput, "There is no fit to write."};
    Mesh mesh = s_.state().kit->mesh;
    mesh.material_libraries.clear();
    const Similarity back = fit->source_to_kit.inverse();
    mesh.positions = source_frame ? *fit->positions : rest_shape(*s_.state().kit, *fit);
    if (source_frame) {
        for (Vec3& p : mesh.positions) p = back(p);
    }
    return write_obj(path.toStdString(), mesh, fit->name + " of " + fit->source + (source_frame ? "; the source's own coordinates" : "; mm, Y up, the base's frame"));
}

Status DeliverPanel::write_report(const QString& path) const {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return Error{ErrorCode::BadInput, "There is no fit to report on."};
    return write_file(path.toStdString(), "{\"figures\":" + figures_text(fit->figures) + ",\"settings\":" + fit_settings_text(fit->settings) + "}\n");
}

}  // namespace veld
