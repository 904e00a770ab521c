// Kits made, shared, tried and filled from other bases, in the background.
#include <QDir>
#include <QFileInfo>
#include <algorithm>

#include "app/stations/base/base_controller.h"
#include "app/window/start_page.h"
#include "core/kit/kit_archive.h"
#include "core/kit/write_kit.h"
#include "core/project/bring.h"

namespace veld {
namespace {

// A kit that is known, to be laid onto a new base: the demo's, else the project's own.
Result<std::shared_ptr<const BaseKit>> known_kit(const std::string& demo, const std::shared_ptr<const BaseKit>& open) {
    if (!demo.empty()) {
        auto kit = read_base_kit(demo + "/kit");
        if (!kit) return kit.error();
        return std::shared_ptr<const BaseKit>(std::make_shared<BaseKit>(std::move(*kit)));
    }
    if (open) return open;
    return Error{ErrorCode::NotFound, "The demo's kit, which new bases are compared with, is not beside the program."};
}

// This one, or with a number: a kit that is there already stays, and with it every project on it.
QString free_folder(const QString& wanted) {
    QString out = wanted;
    for (int n = 2; QFileInfo::exists(out) && !QDir(out).isEmpty(); ++n) out = QString("%1 %2").arg(wanted).arg(n);
    return out;
}

}  // namespace

void BaseController::make(const KitRecipe& recipe, const QString& wanted) {
    if (making()) return;
    const QString folder = free_folder(wanted);
    const QString name = QFileInfo(QString::fromStdString(recipe.file)).fileName();
    making_ = s_.jobs().start<QStringList>(
        {JobKind::MakeKit, tr("Making a kit from %1").arg(name), {}},
        [recipe, folder = folder.toStdString(), demo = demo_folder().toStdString(),
         open = s_.state().kit](const Progress& progress) -> Result<QStringList> {
            const auto model = known_kit(demo, open);
            if (!model) return model.error();
            FaceNetwork network;
            const auto made = make_kit(network, **model, recipe, progress);
            if (!made) return made.error();
            if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was written."};
            if (auto ok = write_base_kit(made->kit, folder, recipe.files()); !ok) return ok.error();
            return report_lines(*made);
        },
        [this, folder](Result<QStringList>&& lines) {
            making_ = 0;
            if (!lines) {
                s_.say_why_not(lines.error());
                return emit changed();
            }
            report_ = *lines, report_folder_ = folder.toStdString();
            emit changed();
            emit kit_made(folder);
        });
    emit changed();
}

void BaseController::make_again() {
    if (!s_.has_kit()) return;
    auto recipe = recipe_again(*s_.state().kit, s_.state().base_points);
    if (!recipe) return s_.report(recipe.error());
    const auto& work_of = s_.state().kit->original->work_of;
    for (const auto& [vertex, part] : told_) {
        const auto at = std::find(work_of.begin(), work_of.end(), vertex);
        if (at != work_of.end()) recipe->part_at[static_cast<Index>(at - work_of.begin())] = part;
    }
    recipe->before = s_.state().kit;
    make(*recipe, QString::fromStdString(s_.state().kit->folder));
}

void BaseController::add_reduced(const QString& path) {
    if (!s_.has_kit()) return;
    const std::string name = QFileInfo(path).completeBaseName().toStdString();
    s_.jobs().start<KitReduced>(
        {JobKind::Read, tr("Reading %1").arg(QFileInfo(path).fileName()), {}},
        [kit = s_.state().kit, path = path.toStdString(), name](const Progress&) {
            return tie_reduced(*kit, path, name);
        },
        [this, path, name](Result<KitReduced>&& reduced) {
            if (!reduced) return s_.say_why_not(reduced.error());
            // asked for twice, it is there already
            const auto& there = s_.state().kit->reduced;
            if (std::any_of(there.begin(), there.end(), [&](const KitReduced& r) { return r.name == name; }))
                return select_reduced(name);
            ProjectState next = s_.state();
            auto kit = std::make_shared<BaseKit>(*next.kit);
            kit->reduced.push_back(*reduced);
            next.kit = std::move(kit);
            next.kit_edits.reduced[name] = reduced->file;
            s_.change(tr("Add the reduced version %1").arg(QString::fromStdString(name)), std::move(next));
            select_reduced(name);
        });
}

void BaseController::remove_reduced(const std::string& name) {
    if (!s_.has_kit()) return;
    ProjectState next = s_.state();
    auto kit = std::make_shared<BaseKit>(*next.kit);
    const auto entry =
        std::find_if(kit->reduced.begin(), kit->reduced.end(), [&](const KitReduced& r) { return r.name == name; });
    if (entry == kit->reduced.end()) return;
    // what the folder has not is forgotten, what it has is left out of it when the kit is saved
    const bool saved = entry->file.find('/') == std::string::npos;
    kit->reduced.erase(entry);
    next.kit = std::move(kit);
    if (saved)
        next.kit_edits.reduced[name] = "";
    else
        next.kit_edits.reduced.erase(name);
    s_.change(tr("Remove the reduced version %1").arg(QString::fromStdString(name)), std::move(next));
    select_reduced({});
}

void BaseController::select_reduced(const std::string& name) {
    reduced_ = name;
    reduced_mesh_.reset(), reduced_of_.reset();
    read_reduced();
    emit changed();
}

// The selected one, for looking.
void BaseController::read_reduced() {
    if (!s_.has_kit() || reduced_.empty() || reduced_of_ == s_.state().kit) return;
    const auto kit = s_.state().kit;
    const auto entry = std::find_if(kit->reduced.begin(), kit->reduced.end(),
                                    [&](const KitReduced& r) { return r.name == reduced_; });
    if (entry == kit->reduced.end()) return reduced_.clear();
    using Read = std::shared_ptr<const ReducedMesh>;
    s_.jobs().start<Read>(
        {JobKind::Read, tr("Reading %1").arg(QString::fromStdString(entry->name)), {}},
        [kit, entry = *entry](const Progress&) -> Result<Read> {
            auto mesh = ReducedMesh::open(*kit, entry);
            if (!mesh) return mesh.error();
            return Read(std::make_shared<ReducedMesh>(std::move(*mesh)));
        },
        [this, kit, name = reduced_](Result<Read>&& mesh) {
            if (kit != s_.state().kit || name != reduced_) return;
            if (!mesh) return s_.say_why_not(mesh.error());
            reduced_mesh_ = *mesh, reduced_of_ = kit;
            emit changed();
        });
}

void BaseController::share(const QString& zip) {
    if (!s_.has_kit()) return;
    s_.jobs().start<Done>(
        {JobKind::Export, tr("Writing %1").arg(QFileInfo(zip).fileName()), {}},
        [folder = s_.state().kit->folder, zip = zip.toStdString()](const Progress&) -> Result<Done> {
            if (auto ok = pack_kit(folder, zip); !ok) return ok.error();
            return Done{};
        },
        [this, zip](Result<Done>&& done) {
            if (!done) return s_.say_why_not(done.error());
            emit s_.noticed(tr("Written: %1").arg(zip));
        });
}

void BaseController::unpack(const QString& zip, const QString& folder) {
    s_.jobs().start<Done>(
        {JobKind::Read, tr("Unpacking %1").arg(QFileInfo(zip).fileName()), {}},
        [folder = folder.toStdString(), zip = zip.toStdString()](const Progress& progress) -> Result<Done> {
            if (auto ok = unpack_kit(zip, folder, progress); !ok) return ok.error();
            return Done{};
        },
        [this, folder](Result<Done>&& done) {
            if (!done) return s_.say_why_not(done.error());
            emit kit_made(folder);
        });
}

void BaseController::try_out() {
    if (!s_.has_kit() || trying()) return;
    auto kit = std::make_shared<BaseKit>(kit_with_changes(s_.state()));
    trying_ = s_.jobs().start<KitTrial>(
        {JobKind::MakeKit, tr("Fitting a made-up head"), {}},
        [kit, demo = demo_folder().toStdString()](const Progress& progress) -> Result<KitTrial> {
            const auto model = known_kit(demo, kit);
            if (!model) return model.error();
            return try_kit(*kit, **model, progress);
        },
        [this, of = s_.state().kit](Result<KitTrial>&& trial) {
            trying_ = 0;
            if (!trial) {
                s_.say_why_not(trial.error());
                return emit changed();
            }
            trial_ = std::make_shared<KitTrial>(std::move(*trial)), trial_of_ = of;
            emit changed();
        });
    emit changed();
}

void BaseController::start_bringing(const QString& title, std::function<Result<CarriedBank>(const Progress&)> work) {
    if (bringing() || !s_.has_kit()) return;
    bringing_ = s_.jobs().start<CarriedBank>(
        {JobKind::MakeKit, title, {}}, std::move(work), [this, kit = s_.state().kit](Result<CarriedBank>&& bank) {
            bringing_ = 0;
            if (!bank) {
                s_.say_why_not(bank.error());
                return emit changed();
            }
            if (s_.state().kit->topology_key != kit->topology_key) return emit changed();  // another base by now
            brought_ = std::make_shared<CarriedBank>(std::move(*bank));
            shown_brought_ = brought_->morphs.empty() ? -1 : 0;
            ProjectState next = s_.state();
            take_brought(next, *brought_);
            s_.change(tr("Bring %n morph(s) from another base", nullptr, static_cast<int>(brought_->morphs.size())),
                      std::move(next));
            emit changed();
        });
    emit changed();
}

void BaseController::bring_project(const QString& path) {
    start_bringing(tr("Bringing morphs from another base"),
                   [path = path.toStdString(), kit = s_.state().kit](const Progress& progress) {
                       return bring_from_project(path, *kit, progress);
                   });
}

void BaseController::bring_files(const QString& from, const QStringList& paths) {
    std::vector<std::string> all;
    for (const QString& path : paths) all.push_back(path.toStdString());
    start_bringing(tr("Bringing morphs from another base"),
                   [from = from.toStdString(), all, kit = s_.state().kit](const Progress& progress) {
                       return bring_morph_files(from, all, *kit, progress);
                   });
}

QStringList report_lines(const MadeKit& made) {
    const KitReport& r = made.report;
    QStringList out;
    const auto text = [](const std::string& s) { return QString::fromStdString(s); };
    out << BaseController::tr("Unit %1: %2. Up %3: %4.")
               .arg(unit_name(r.unit), text(r.unit_reason), up_axis_name(r.up), text(r.up_reason));
    if (r.joined)
        out << BaseController::tr(
                   "%1 of the file's %2 vertices are doubles along seams; they are one here, and go out "
                   "as they came.")
                   .arg(r.joined)
                   .arg(r.file_vertices);
    QStringList parts;
    for (const MadePart& part : r.parts)
        parts << text(part.name) + (part.pieces > 1 ? QString(" (%1)").arg(part.pieces) : QString());
    out << BaseController::tr("Parts: %1.").arg(parts.join(", "));
    out << (r.unpaired ? BaseController::tr("%1 of %2 vertices have a partner on the other side.")
                             .arg(r.paired)
                             .arg(r.paired + r.unpaired)
                       : BaseController::tr("Every vertex has a partner on the other side."));
    if (r.own_joints)
        out << BaseController::tr("The file's own %1 joints; %2 roles are open.")
                   .arg(r.own_joints)
                   .arg(r.roles_open.size());
    else
        out << BaseController::tr("Joints and skin weights are carried over from the demo's figure.");
    out << (r.own_expressions ? BaseController::tr("The base's own %1 expressions.").arg(r.own_expressions)
                              : BaseController::tr("Expressions are carried over from the demo's figure."));
    if (!r.left_out.empty()) out << BaseController::tr("%1 landmarks were not found.").arg(r.left_out.size());
    for (const std::string& note : r.notes) out << text(note);
    return out;
}

}  // namespace veld
