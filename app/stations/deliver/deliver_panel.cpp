#include "app/stations/deliver/deliver_panel.h"

#include <QFileInfo>
#include <QSignalBlocker>

#include "app/ask.h"
#include "app/flow_row.h"
#include "app/stations/skin/skin_controller.h"
#include "app/widgets.h"
#include "core/base/file.h"
#include "core/exchange/joints_out.h"
#include "core/fit/settings_text.h"
#include "core/morph/joint_moves.h"
#include "core/project/bank.h"
#include "core/project/fits.h"

namespace veld {

DeliverPanel::DeliverPanel(Session& session, SkinController& skins, QWidget* parent)
    : QWidget(parent), s_(session), skins_(skins) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Deliver"), "title"));
    build_morphs(column);
    column->addWidget(text_label(tr("Current fit"), "section"));
    fit_kit_ = button(tr("Base's frame…"), "deliver_fit_kit", tr("OBJ: at rest, mm, Y up"));
    fit_source_ = button(tr("Source's frame…"), "deliver_fit_source",
                         tr("OBJ in the source's own coordinates and unit: matches the scan"));
    report_ = button(tr("Report (JSON)…"), "deliver_report", tr("Figures and settings of the fit"));
    column->addLayout(flow({fit_kit_, fit_source_}));
    skin_ = button(tr("Skin (PNG)…"), "deliver_skin",
                   tr("The subject's skin: a picture for each tile. Other maps: station Skin"));
    connect(skin_, &QPushButton::clicked, this, [this] {
        const QString folder = s_.files().folder(this, tr("Folder for the skin"), s_.files().last_folder());
        if (!folder.isEmpty()) write_skin(folder);
    });
    column->addLayout(flow({report_, skin_}));
    connect(fit_kit_, &QPushButton::clicked, this, [this] {
        ask(tr("Fit"), "fit.obj", "OBJ (*.obj)", [this](const QString& p) { return write_fit(p, false); });
    });
    connect(fit_source_, &QPushButton::clicked, this, [this] {
        ask(tr("Fit on the source"), "fit_on_source.obj", "OBJ (*.obj)",
            [this](const QString& p) { return write_fit(p, true); });
    });
    connect(report_, &QPushButton::clicked, this, [this] {
        ask(tr("Report"), "fit_report.json", "JSON (*.json)", [this](const QString& p) { return write_report(p); });
    });
    connect(&s_, &Session::changed, this, &DeliverPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &DeliverPanel::refresh);
    refresh();
}

void DeliverPanel::build_morphs(QVBoxLayout* column) {
    column->addWidget(text_label(tr("Morphs to export"), "section"));
    search_ = new QLineEdit;
    search_->setObjectName("deliver_search");
    search_->setPlaceholderText(tr("Search"));
    search_->setClearButtonEnabled(true);
    connect(search_, &QLineEdit::textChanged, this, &DeliverPanel::refresh);
    all_ = button(tr("All or none"), "deliver_all", tr("Of those that are listed"));
    auto* top = row({search_, all_});
    top->setStretch(0, 1);
    column->addLayout(top);
    morphs_ = new QListWidget;
    morphs_->setObjectName("deliver_morphs");
    column->addWidget(morphs_, 1);
    connect(all_, &QPushButton::clicked, this, [this] {
        bool any_off = false;
        for (int i = 0; i < morphs_->count(); ++i)
            any_off |= !morphs_->item(i)->isHidden() && morphs_->item(i)->checkState() != Qt::Checked;
        for (int i = 0; i < morphs_->count(); ++i) {
            if (!morphs_->item(i)->isHidden()) morphs_->item(i)->setCheckState(any_off ? Qt::Checked : Qt::Unchecked);
        }
    });
    connect(morphs_, &QListWidget::itemChanged, this, [this] {
        const bool any = !selected().empty();
        glb_->setEnabled(any);
        each_->setEnabled(any && !working());
    });
    glb_ = button(tr("GLB with morph targets…"), "deliver_glb",
                  tr("The base with the selected morphs as named targets, joints and skin weights; metres"), true);
    mix_ =
        button(tr("Current mix as OBJ…"), "deliver_mix", tr("One shape, vertex for vertex in the base's order; mm"));
    connect(glb_, &QPushButton::clicked, this, [this] {
        ask(tr("GLB with morph targets"), "morphs.glb", "glTF binary (*.glb)",
            [this](const QString& p) { return write_glb(p); });
    });
    connect(mix_, &QPushButton::clicked, this, [this] {
        ask(tr("Current mix"), "mix.obj", "OBJ (*.obj)", [this](const QString& p) { return write_mix(p); });
    });
    column->addWidget(glb_);
    column->addWidget(mix_);
    build_skeleton(column);
    format_ = new QComboBox;
    format_->setObjectName("deliver_format");
    format_->addItems({tr("morph files"), tr("OBJ"), tr("delta lists (CSV)"), tr("GLB")});
    pattern_ = new QLineEdit("{name}");
    pattern_->setObjectName("deliver_pattern");
    pattern_->setToolTip(tr("File names: {name}, {group} (makes folders), {kind}, {number}"));
    column->addLayout(row({format_, pattern_}));
    reduced_ = new QCheckBox(tr("Reduced versions too"));
    reduced_->setObjectName("deliver_reduced");
    reduced_->setToolTip(tr("The same for each reduced version of the base, beside it"));
    column->addWidget(reduced_);
    each_ = button(tr("Export separately…"), "deliver_each",
                   tr("One file for each selected morph, with its figures and origin"));
    connect(each_, &QPushButton::clicked, this, [this] {
        if (working()) return stop();
        const QString folder = s_.files().folder(this, tr("Folder for the morphs"), s_.files().last_folder());
        if (!folder.isEmpty()) write_each(folder);
    });
    in_ = button(tr("Import morphs…"), "deliver_in",
                 tr("Morph files, delta lists, OBJ in the base's order, GLB with targets, of the same base"));
    connect(in_, &QPushButton::clicked, this, [this] {
        const QStringList paths = s_.files().open_several(this, tr("Import morphs"), s_.files().last_folder(),
                                                          tr("Morphs (*.json *.csv *.obj *.ply *.glb)"));
        if (!paths.isEmpty()) read_morphs(paths);
    });
    column->addLayout(flow({each_, in_}));
}

void DeliverPanel::build_skeleton(QVBoxLayout* column) {
    posable_ =
        button(tr("Mix with skeleton…"), "deliver_posable",
               tr("The current mix, its joints where its shape takes them, skin weights; ready to be posed; GLB"));
    joints_ = button(tr("Joints…"), "deliver_joints",
                     tr("Where the current mix takes each joint, for rigs elsewhere; JSON, mm"));
    connect(posable_, &QPushButton::clicked, this, [this] {
        ask(tr("Mix with skeleton"), "mix_posable.glb", "glTF binary (*.glb)", [this](const QString& p) {
            const auto check = export_posable_glb(*s_.state().kit, mixed_shape(s_.state()), joints_now(),
                                                  p.toStdString(), s_.state().weights);
            return check ? Status(Done{}) : Status(check.error());
        });
    });
    connect(joints_, &QPushButton::clicked, this, [this] {
        ask(tr("Joints"), "mix_joints.json", "JSON (*.json)", [this](const QString& p) {
            return write_file(p.toStdString(), joints_text(*s_.state().kit, joints_now()));
        });
    });
    column->addLayout(flow({posable_, joints_}));
    smooth_ = new LengthBox("deliver_smooth_weights", 0, 100, 1, 0,
                            tr("How far each joint's hold on the skin fades in Mix with skeleton, beyond what the kit "
                               "says"));
    connect(smooth_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (filling_) return;
        ProjectState next = s_.state();
        next.weights.smooth_mm = mm;
        s_.change(tr("Smooth skin weights"), std::move(next), "smooth weights");
    });
    most_ = new QComboBox;
    most_->setObjectName("deliver_most_joints");
    most_->setToolTip(tr("How many joints one vertex may hang on in Mix with skeleton"));
    for (const int most : {4, 8}) most_->addItem(tr("up to %1 joints a vertex").arg(most), most);
    connect(most_, &QComboBox::activated, this, [this](int i) {
        ProjectState next = s_.state();
        next.weights.most = most_->itemData(i).toInt();
        s_.change(tr("Joints per vertex"), std::move(next));
    });
    auto* label = text_label(tr("Smooth weights"), "plain");
    label->setBuddy(smooth_);
    column->addLayout(row({label, smooth_}));
    column->addWidget(most_);
}

void DeliverPanel::refresh_weights() {
    filling_ = true;
    smooth_->setValue(s_.state().weights.smooth_mm);
    most_->setCurrentIndex(std::max(0, most_->findData(s_.state().weights.most)));
    filling_ = false;
    const bool joints = s_.has_kit() && !s_.state().kit->joints.empty();
    for (QWidget* w : {static_cast<QWidget*>(posable_), static_cast<QWidget*>(joints_), static_cast<QWidget*>(smooth_),
                       static_cast<QWidget*>(most_)})
        w->setEnabled(joints);
}

void DeliverPanel::refresh() {
    const auto& bank = s_.state().bank;
    QStringList names, shown;
    for (const BankEntry& e : bank) names << QString::fromStdString(e.morph->name);
    for (int i = 0; i < morphs_->count(); ++i) shown << morphs_->item(i)->text();
    if (names != shown) {
        std::map<QString, Qt::CheckState> were;
        for (int i = 0; i < morphs_->count(); ++i) were[morphs_->item(i)->text()] = morphs_->item(i)->checkState();
        const QSignalBlocker quiet(morphs_);
        morphs_->clear();
        for (const QString& name : names) {
            auto* item = new QListWidgetItem(name, morphs_);
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(were.contains(name) ? were[name] : Qt::Checked);
        }
    }
    for (int i = 0; i < morphs_->count(); ++i)
        morphs_->item(i)->setHidden(!morphs_->item(i)->text().contains(search_->text(), Qt::CaseInsensitive));
    const bool any = !selected().empty(), fit = s_.state().fit() != nullptr;
    glb_->setEnabled(any);
    each_->setEnabled(any || working());
    each_->setText(working() ? tr("Stop") : tr("Export separately…"));
    in_->setEnabled(s_.has_kit() && !working());
    mix_->setEnabled(s_.has_kit());
    refresh_weights();
    reduced_->setVisible(s_.has_kit() && !s_.state().kit->reduced.empty());
    for (QPushButton* b : {fit_kit_, report_}) b->setEnabled(fit);
    const FitRecord* record = s_.state().fit();
    fit_source_->setEnabled(record && record->source_id);  // photographs have no frame of their own
    skin_->setEnabled(s_.state().current() && s_.state().current()->skin() && !s_.busy());
}

std::vector<std::size_t> DeliverPanel::selected() const {
    std::vector<std::size_t> out;
    for (int i = 0; i < morphs_->count() && i < static_cast<int>(s_.state().bank.size()); ++i) {
        if (morphs_->item(i)->checkState() == Qt::Checked) out.push_back(static_cast<std::size_t>(i));
    }
    return out;
}

std::vector<MorphAmount> DeliverPanel::selected_amounts() const {
    std::vector<MorphAmount> out;
    for (const std::size_t i : selected()) out.push_back({s_.state().bank[i].morph.get(), s_.state().bank[i].amount});
    return out;
}

void DeliverPanel::write_each(const QString& folder) {
    if (working()) return;
    std::vector<std::shared_ptr<const Morph>> morphs;
    for (const std::size_t i : selected()) morphs.push_back(s_.state().bank[i].morph);
    job_ = s_.jobs().start<std::vector<std::string>>(
        {JobKind::Export, tr("Writing %n morph(s)", nullptr, static_cast<int>(morphs.size())), {}},
        [morphs, kit = s_.state().kit, format = static_cast<MorphFormat>(format_->currentIndex()),
         reduced = reduced_->isChecked() && !s_.state().kit->reduced.empty(), folder = folder.toStdString(),
         pattern = pattern_->text().trimmed().toStdString()](const Progress& progress) {
            std::vector<const Morph*> list;
            for (const auto& m : morphs) list.push_back(m.get());
            return export_each(*kit, list, {format, folder, pattern, reduced}, progress);
        },
        [this](Result<std::vector<std::string>>&& written) {
            if (!written) return s_.say_why_not(written.error());
            emit s_.noticed(tr("Written: %n file(s)", nullptr, static_cast<int>(written->size())));
        });
}

void DeliverPanel::read_morphs(const QStringList& paths) {
    if (working() || !s_.has_kit()) return;
    job_ = s_.jobs().start<std::vector<Morph>>(
        {JobKind::Export, tr("Reading morphs"), {}},
        [paths, kit = s_.state().kit](const Progress& progress) -> Result<std::vector<Morph>> {
            std::vector<Morph> all;
            for (const QString& path : paths) {
                auto some = import_morphs(*kit, path.toStdString(), progress);
                if (!some) return some.error();
                for (Morph& m : *some) all.push_back(std::move(m));
            }
            return all;
        },
        [this](Result<std::vector<Morph>>&& morphs) {
            if (!morphs) return s_.say_why_not(morphs.error());
            ProjectState next = s_.state();
            const auto count = morphs->size();
            for (Morph& m : *morphs) add_morph(next, std::move(m), 0);
            s_.change(tr("Import %n morph(s)", nullptr, static_cast<int>(count)), std::move(next));
        });
}

void DeliverPanel::ask(const QString& title, const QString& name, const QString& filter,
                       const std::function<Status(const QString&)>& write) {
    const QString folder = s_.files().last_folder();
    QString path = s_.files().save(this, title, folder + "/" + name, filter);
    if (path.isEmpty()) return;
    if (QFileInfo(path).suffix().isEmpty()) path += "." + QFileInfo(name).suffix();
    s_.files().remember_folder_of(path);
    const auto ok = write(path);
    if (!ok)
        s_.report(ok.error());
    else
        emit s_.noticed(tr("Written: %1").arg(path));
}

Status DeliverPanel::write_reduced(
    const std::function<Result<std::vector<std::string>>(const ReducedOut&)>& write) const {
    if (!reduced_->isChecked() || s_.state().kit->reduced.empty()) return Done{};
    const auto versions = ReducedOut::open(*s_.state().kit);
    if (!versions) return versions.error();
    const auto written = write(*versions);
    return written ? Status(Done{}) : Status(written.error());
}

Status DeliverPanel::write_glb(const QString& path) const {
    const auto amounts = selected_amounts();
    if (auto ok = export_glb(*s_.state().kit, amounts, path.toStdString()); !ok) return ok;
    return write_reduced([&](const ReducedOut& all) { return all.write(amounts, path.toStdString()); });
}

Status DeliverPanel::write_mix(const QString& path) const {
    std::string comment = "The current mix";
    for (const MorphAmount& a : s_.state().amounts()) {
        if (a.amount != 0) comment += "\n" + a.morph->name + " x " + std::to_string(a.amount);
    }
    for (const RegionAmount& a : s_.state().region_mix)
        comment += "\n" + a.region + " of " + a.morph + " x " + std::to_string(a.amount);
    const Points shape = mixed_shape(s_.state());
    if (auto ok = export_shape_obj(*s_.state().kit, shape, comment, path.toStdString()); !ok) return ok;
    return write_reduced([&](const ReducedOut& all) { return all.write_shape(shape, comment, path.toStdString()); });
}

std::vector<Joint> DeliverPanel::joints_now() const {
    return joints_with_fixed(*s_.state().kit, mixed_shape(s_.state()), s_.state().amounts());
}

Status DeliverPanel::write_fit(const QString& path, bool source_frame) const {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return Error{ErrorCode::BadInput, "There is no fit to write."};
    Points shape = source_frame ? *fit->positions : rest_shape(*s_.state().kit, *fit);
    const Similarity back = fit->source_to_kit.inverse();
    if (source_frame) {
        for (Vec3& p : shape) p = back(p);
    }
    const std::string comment = fit->name + " of " + fit->source;
    if (source_frame)
        return export_placed_obj(*s_.state().kit, shape, comment + "; the source's own coordinates",
                                 path.toStdString());
    return export_shape_obj(*s_.state().kit, shape, comment + "; the base's frame", path.toStdString());
}

void DeliverPanel::write_skin(const QString& folder) {
    SkinOut what;
    what.files.folder = folder.toStdString();
    skins_.write_maps(what);
}

Status DeliverPanel::write_report(const QString& path) const {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return Error{ErrorCode::BadInput, "There is no fit to report on."};
    return write_file(path.toStdString(), "{\"figures\":" + figures_text(fit->figures) +
                                              ",\"settings\":" + fit_settings_text(fit->settings) + "}\n");
}

}  // namespace veld
