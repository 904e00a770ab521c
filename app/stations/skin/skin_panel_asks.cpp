// What the skin's panel asks for: names, files, other skins, tones.
#include <QColorDialog>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>

#include "app/ask.h"
#include "app/fill_box.h"
#include "app/region_names.h"
#include "app/stations/skin/skin_panel.h"
#include "core/kit/base_kit.h"
#include "core/morph/face_region_names.h"
#include "core/project/carried_skin.h"

namespace veld {
namespace {

// Entries of "Tone of" that are no skins.
constexpr int kBaseTone = 0, kColourTone = 1, kPictureTone = 2, kOtherTone = 3;

}  // namespace

void SkinPanel::fill_menu() {
    QMenu* menu = wear_->menu();
    menu->clear();
    for (const auto& [name, id] : skins_.other_skins())
        menu->addAction(name, this, [this, id = id] { skins_.wear(id); });
    if (menu->isEmpty()) menu->addAction(tr("The project has no other skin"))->setEnabled(false);
    menu->addSeparator();
    auto* mix = menu->addAction(tr("As the bank is mixed"), this, [this] { skins_.wear_mix(); });
    mix->setObjectName("skin_wear_mix");
    mix->setEnabled(skins_.can_wear_mix());
    menu->addAction(tr("From another project…"), this, &SkinPanel::ask_other_project)
        ->setObjectName("skin_wear_project");
    menu->addAction(tr("What another kit wears…"), this,
                    [this] {
                        const QString folder = s_.files().folder(this, tr("A kit's folder"), s_.files().last_folder());
                        if (!folder.isEmpty()) skins_.wear_of_kit(folder);
                    })
        ->setObjectName("skin_wear_kit");
}

void SkinPanel::fill_regions() {
    QMenu* menu = only_in_->menu();
    menu->clear();
    menu->addAction(tr("Everywhere"), this, [this] { skins_.show_only_in({}); });
    menu->addSeparator();
    if (!s_.has_kit()) return;
    for (const std::string& name : face_region_names())
        menu->addAction(plain_region(name), this, [this, name] { skins_.show_only_in(name); });
}

void SkinPanel::ask_other_project() {
    const QString path =
        s_.files().open(this, tr("A project with skins"), s_.files().last_folder(), tr("Projects (*.veldstone)"));
    if (path.isEmpty()) return;
    const auto there = skins_in_project(path.toStdString());
    if (!there) return s_.report(there.error());
    if (there->empty()) return s_.report({ErrorCode::BadInput, tr("That project has no skin.").toStdString()});
    QStringList names;
    for (const auto& [subject, skin] : *there) names << QString::fromStdString(subject + ", " + skin);
    int which = 0;
    if (names.size() > 1) {
        bool ok = false;
        which = static_cast<int>(
            names.indexOf(QInputDialog::getItem(this, tr("Which skin?"), tr("Skin"), names, 0, false, &ok)));
        if (!ok || which < 0) return;
    }
    const auto& [subject, skin] = (*there)[static_cast<std::size_t>(which)];
    skins_.wear_from_project(path, subject, skin);
}

// The base's own, a colour, a picture's, those of the project's other skins.
void SkinPanel::list_tones(const SkinLayer& layer) {
    const ToneLike& like = layer.recipe.tone_like;
    QPixmap swatch(16, 12);
    if (like.colour) swatch.fill(QColor(like.colour->r, like.colour->g, like.colour->b));
    QList<BoxEntry> entries{{tr("The base's own skin")},
                            {tr("A colour…"), {}, like.colour ? QIcon(swatch) : QIcon()},
                            {tr("A picture's face…")}};
    int now = like.colour ? kColourTone : kBaseTone;
    for (const auto& [name, id] : skins_.other_skins()) {
        if (!like.colour && like.skin == id) now = static_cast<int>(entries.size());
        entries.append({name, QVariant::fromValue<qulonglong>(id.value)});
    }
    if (!like.colour && like.skin && now == kBaseTone) {
        now = static_cast<int>(entries.size());
        entries.append({tr("A skin that is no longer there"), QVariant::fromValue<qulonglong>(like.skin.value)});
    }
    fill_box(tone_like_, entries, now);
}

void SkinPanel::take_tone_of(int i) {
    const SkinLayer* layer = skins_.layer();
    if (!layer) return;
    ToneLike like;
    if (i == kColourTone) {
        const Colour was = layer->recipe.tone_like.colour.value_or(brushes_.brush.colour);
        const QColor picked =
            QColorDialog::getColor(QColor(was.r, was.g, was.b), this, tr("What the face is to look like"));
        if (!picked.isValid()) return refresh();
        like.colour = Colour{static_cast<std::uint8_t>(picked.red()), static_cast<std::uint8_t>(picked.green()),
                             static_cast<std::uint8_t>(picked.blue()), 255};
    } else if (i == kPictureTone) {
        const QString path = s_.files().open(this, tr("A picture of a face"), s_.files().last_folder(),
                                             tr("Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.heic)"));
        if (path.isEmpty()) return refresh();
        return skins_.tone_like_picture(path);
    } else if (i >= kOtherTone) {
        like.skin = {tone_like_->itemData(i).toULongLong()};
    }
    skins_.edit(tr("Tone of a layer"), [&](SkinLayer& l) {
        if (l.recipe.tone_like == like) return;
        l.recipe.tone_like = like;
        if (l.recipe.tone == 0) l.recipe.tone = 1;
        l.baked_for.clear();
    });
}

void SkinPanel::list_stages() {
    QList<BoxEntry> entries{{tr("No stage"), QString()}};
    const auto skin = skins_.skin();
    int now = 0;
    for (std::size_t i = 0; skin && i < skin->stages.size(); ++i) {
        const SkinStage& stage = skin->stages[i];
        if (stage.name == skins_.stage()) now = static_cast<int>(entries.size());
        const QString name = QString::fromStdString(stage.name);
        entries.append({name, name});
    }
    fill_box(stage_, entries, now);
    stage_->setEnabled(stage_->count() > 1);
    remove_stage_->setEnabled(!skins_.stage().empty());
    const Subject* subject = s_.state().current();
    together_->setEnabled(stage_->count() > 1 || (subject && subject->skins.size() > 1));
}

void SkinPanel::ask_stage() {
    QDialog dialog(this);
    dialog.setObjectName("stage_card");
    dialog.setWindowTitle(tr("New stage"));
    auto* form = new QFormLayout(&dialog);
    auto* name = new QLineEdit;
    name->setObjectName("stage_name");
    auto* expression = new QComboBox;
    expression->setObjectName("stage_expression");
    expression->addItem(tr("None"), QString());
    for (const auto& [key, shape] : s_.state().kit->expressions)
        expression->addItem(QString::fromStdString(key), QString::fromStdString(key));
    auto* fit = new QComboBox;
    fit->setObjectName("stage_fit");
    fit->setToolTip(tr("Of a scan of that expression: its wrinkles go out as this stage's normals"));
    fit->addItem(tr("The skin's own"), QVariant::fromValue<qulonglong>(0));
    const Subject* subject = s_.state().current();
    for (std::size_t i = 0; subject && i < subject->fits.size(); ++i) {
        const FitRecord& one = subject->fits[i];
        if (one.source_id)
            fit->addItem(QString::fromStdString(one.name + ", " + one.source),
                         QVariant::fromValue<qulonglong>(one.id.value));
    }
    connect(expression, &QComboBox::activated, name, [name, expression] {
        if (name->text().isEmpty()) name->setText(expression->currentText());
    });
    form->addRow(tr("Name"), name);
    form->addRow(tr("Expression"), expression);
    form->addRow(tr("Relief of"), fit);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    form->addRow(buttons);
    if (dialog.exec() != QDialog::Accepted || name->text().trimmed().isEmpty()) return;
    skins_.add_stage({name->text().trimmed().toStdString(), expression->currentData().toString().toStdString(),
                      FitId{fit->currentData().toULongLong()}});
}

void SkinPanel::ask_name() {
    const auto skin = skins_.skin();
    if (!skin) return;
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Rename skin"), tr("Name"), QLineEdit::Normal,
                                               QString::fromStdString(skin->name), &ok);
    if (ok) skins_.rename_skin(name);
}

SkinOut SkinPanel::what_goes_out() const {
    SkinOut what;
    what.maps.clear();
    for (const auto& [map, box] : maps_) {
        if (box->isChecked()) what.maps.push_back(map);
    }
    what.level = level_->value();
    what.stages = together_->currentIndex() > 0, what.all_skins = together_->currentIndex() > 1;
    return what;
}

void SkinPanel::ask_maps() {
    if (!skins_.skin()) return;
    SkinOut what = what_goes_out();
    if (what.maps.empty())
        return s_.report({ErrorCode::BadInput, tr("Tick at least one map to write.").toStdString()});
    const QString folder = s_.files().folder(this, tr("Folder for the maps"), s_.files().last_folder());
    if (folder.isEmpty()) return;
    what.files = {folder.toStdString(),
                  {},
                  pattern_->text().trimmed().toStdString(),
                  static_cast<MapFormat>(format_->currentData().toInt()),
                  static_cast<MapFormat>(heights_->currentData().toInt())};
    skins_.write_maps(what);
}

void SkinPanel::ask_glb() {
    const auto skin = skins_.skin();
    if (!skin) return;
    const QString path = s_.files().save(this, tr("Base wearing this skin"),
                                         s_.files().last_folder() + "/" + QString::fromStdString(skin->name) + ".glb",
                                         tr("glTF binary (*.glb)"));
    if (!path.isEmpty()) skins_.write_glb(what_goes_out(), path.endsWith(".glb") ? path : path + ".glb");
}

void SkinPanel::ask_kit() {
    const QString folder = s_.files().folder(this, tr("New folder for the kit"), s_.files().last_folder());
    if (!folder.isEmpty()) skins_.write_kit(folder);
}

}  // namespace veld
