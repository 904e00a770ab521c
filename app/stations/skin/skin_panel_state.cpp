// What the skin's panel shows of a skin, its layers and its UVs, and what it asks for.
#include <QFormLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>

#include "app/ask.h"
#include "app/lengths.h"
#include "app/region_names.h"
#include "app/stations/skin/skin_panel.h"
#include "app/stations/skin/skin_words.h"
#include "app/theme.h"
#include "core/project/layered_skins.h"

namespace veld {

void SkinPanel::refresh() {
    filling_ = true;
    const auto skin = skins_.skin();
    const bool can = skins_.why_not().isEmpty(), busy = s_.busy();
    list_skins();
    list_layers();
    show_layer();
    show_uv();
    const int look = static_cast<int>(skins_.look());
    look_->setCurrentIndex(skins_.look() >= kFirstBakedLook ? look + 1 : look);
    list_stages();
    show_compare();
    for (QWidget* w : std::initializer_list<QWidget*>{menu_, paint_layer_}) w->setEnabled(can);
    const bool fit = can && skins_.can_bake_fit();
    fit_layer_->setEnabled(fit && !busy);
    wear_->setEnabled(can && !busy);
    which_->setEnabled(can && which_->count() > 0);
    look_->setEnabled(can);
    const int old = skins_.old_layers();
    bake_old_->setVisible(old > 0 && !skins_.baking());
    bake_old_->setText(tr("Bake %n layer(s) again", nullptr, old));
    bake_old_->setEnabled(!busy);
    for (QWidget* w : std::initializer_list<QWidget*>{size_, write_, glb_, kit_}) w->setEnabled(skin && !busy);
    if (skin) size_->setCurrentIndex(size_->findData(skin->size));
    filling_ = false;
    show_brush();
}

void SkinPanel::list_skins() {
    QStringList names;
    const Subject* subject = s_.state().current();
    for (std::size_t i = 0; subject && i < subject->skins.size(); ++i)
        names << QString::fromStdString(subject->skins[i]->name);
    QStringList shown;
    for (int i = 0; i < which_->count(); ++i) shown << which_->itemText(i);
    if (names != shown) {
        which_->clear();
        which_->addItems(names);
    }
    if (subject) which_->setCurrentIndex(subject->current_skin);
}

// The topmost first, as they lie.
void SkinPanel::list_layers() {
    const auto skin = skins_.skin();
    const int count = skin ? static_cast<int>(skin->layers.size()) : 0;
    while (layers_->topLevelItemCount() > count) delete layers_->takeTopLevelItem(layers_->topLevelItemCount() - 1);
    while (layers_->topLevelItemCount() < count) {
        auto* item = new QTreeWidgetItem(layers_);
        item->setFlags(item->flags() | Qt::ItemIsUserCheckable | Qt::ItemIsEditable);
    }
    for (int i = 0; i < count; ++i) {
        const SkinLayer& layer = skin->layers[static_cast<std::size_t>(count - 1 - i)];
        QTreeWidgetItem* item = layers_->topLevelItem(i);
        item->setText(0, QString::fromStdString(layer.name));
        const bool elsewhere = !layer.stage.empty() && layer.stage != skins_.stage();
        item->setForeground(0, elsewhere ? QBrush(theme::kDim) : QBrush());
        item->setToolTip(
            0, layer.stage.empty() ? QString() : tr("Of the stage %1").arg(QString::fromStdString(layer.stage)));
        item->setCheckState(0, layer.shown ? Qt::Checked : Qt::Unchecked);
        item->setData(0, Qt::UserRole, QVariant::fromValue<qulonglong>(layer.id.value));
        const bool baked = is_baked(layer.from);
        item->setText(1, !baked              ? QString()
                         : skins_.old(layer) ? tr("to bake")
                                             : QString("%1 %").arg(100 * layer.seen, 0, 'f', 0));
        if (skins_.layer() && layer.id == skins_.layer()->id) layers_->setCurrentItem(item);
    }
}

QString SkinPanel::said_of(const SkinLayer& layer) const {
    QStringList out;
    if (layer.from == LayerFrom::Painted) return tr("Painted; it lies on the base's own surface and stays.");
    if (layer.from == LayerFrom::Worn) return tr("Another skin, as it was when it was put on.");
    if (skins_.baking()) return tr("Baking…");
    if (layer.tiles.empty()) return tr("Not baked yet.");
    if (skins_.old(layer)) out << tr("Its fit or how it is baked has changed since.");
    out << tr("Seen %1 %, from the other side %2 %, filled %3 %.")
               .arg(100 * layer.seen, 0, 'f', 1)
               .arg(100 * layer.mirrored, 0, 'f', 1)
               .arg(100 * (1 - layer.seen - layer.mirrored), 0, 'f', 1);
    if (const BakeReport* report = skins_.report(layer.id)) {
        if (report->darkest > 0)
            out << tr("Light: from %1 to %2 times a well lit place.")
                       .arg(report->darkest, 0, 'f', 2)
                       .arg(report->lightest, 0, 'f', 2);
        if (report->shadow > 0)
            out << tr("A lamp's shadow on %1 % of what is seen.").arg(100 * report->shadow, 0, 'f', 1);
        if (report->shine > 0) out << tr("Shine on %1 % of it.").arg(100 * report->shine, 0, 'f', 1);
        if (report->other_colour > 0)
            out << tr("No skin by its colour: %1 % of what is seen.").arg(100 * report->other_colour, 0, 'f', 1);
    }
    for (const std::string& note : layer.notes) out << QString::fromStdString(note);
    return out.join(' ');
}

void SkinPanel::show_layer() {
    const SkinLayer* layer = skins_.layer();
    const bool baked = layer && is_baked(layer->from);
    of_layer_->setVisible(layer != nullptr);
    recipe_->setVisible(baked);
    for (QPushButton* b : {up_, down_, remove_, only_in_}) b->setEnabled(layer != nullptr);
    if (!layer) {
        QString text = tr("The skin is the base's own until a layer is baked, worn or painted.");
        if (!skins_.can_bake_fit()) text += " " + tr("To bake one, fit the base to a scan or photographs first.");
        said_->setText(skins_.why_not().isEmpty() ? text : skins_.why_not());
        return;
    }
    amount_->setValue(static_cast<int>(std::lround(100 * layer->amount)));
    amount_value_->setText(QString("%1 %").arg(amount_->value()));
    blend_->setCurrentIndex(static_cast<int>(layer->blend));
    const std::string& stage = layer->stage.empty() ? skins_.stage() : layer->stage;
    of_stage_->setVisible(!stage.empty());
    of_stage_->setText(tr("Only in the stage %1").arg(QString::fromStdString(stage)));
    of_stage_->setChecked(!layer->stage.empty());
    of_stage_->setEnabled(layer->stage.empty() || layer->stage == skins_.stage());
    light_->setValue(static_cast<int>(std::lround(100 * layer->recipe.light_out)));
    shine_->setValue(static_cast<int>(std::lround(100 * layer->recipe.shine_out)));
    shine_value_->setText(QString("%1 %").arg(shine_->value()));
    tone_->setValue(static_cast<int>(std::lround(100 * layer->recipe.tone)));
    light_value_->setText(QString("%1 %").arg(light_->value()));
    tone_value_->setText(QString("%1 %").arg(tone_->value()));
    not_skin_->setChecked(layer->recipe.leave_out_not_skin);
    brows_->setChecked(layer->recipe.keep_brows);
    brows_->setEnabled(layer->recipe.leave_out_not_skin);
    mirror_fill_->setChecked(layer->recipe.fill_mirrored);
    grain_->setChecked(layer->recipe.own_grain);
    half_->setCurrentIndex(static_cast<int>(layer->recipe.half));
    list_tones(*layer);
    bake_->setEnabled(!s_.busy());
    said_->setText(said_of(*layer));
}

void SkinPanel::show_brush() {
    filling_ = true;
    const SkinBrushSettings& b = brushes_.brush;
    kind_->setCurrentIndex(static_cast<int>(b.brush));
    QPixmap swatch(48, 14);
    swatch.fill(QColor(b.colour.r, b.colour.g, b.colour.b));
    colour_->setIcon(swatch);
    colour_->setIconSize(swatch.size());
    colour_->setText(QColor(b.colour.r, b.colour.g, b.colour.b).name());
    colour_->setEnabled(b.brush == SkinBrush::Paint);
    radius_->setValue(b.radius_mm);
    hardness_->setValue(100 * b.hardness);
    strength_->setValue(100 * b.strength);
    brush_hint_->setText(brush_tip(b.brush));
    filling_ = false;
}

void SkinPanel::show_uv() {
    const auto& shown = skins_.shown();
    QStringList names, listed;
    if (shown) {
        for (const UvTile& tile : shown->surface->surface().tiles) names << QString::fromStdString(tile.name);
    }
    for (int i = 0; i < tile_->count(); ++i) listed << tile_->itemText(i);
    if (names != listed) {
        tile_->clear();
        tile_->addItems(names);
    }
    tile_->setCurrentText(QString::fromStdString(skins_.tile()));
    edges_->setChecked(skins_.edges());
    regions_->clear();
    const UvTile* tile = shown ? shown->tile(skins_.tile()) : nullptr;
    if (!tile) {
        uv_said_->clear();
        return;
    }
    const UvFigures f = skins_.uv_figures_of(*tile);
    const int size = skins_.skin() ? skins_.skin()->size : 1024;
    uv_said_->setText(tr("Islands: %1. Used: %2 %. Texels per mm: %3. Overlapping: %4 %. Mirrored faces: %5, without "
                         "area: %6.")
                          .arg(f.islands)
                          .arg(100 * f.used, 0, 'f', 0)
                          .arg(f.density * size / 1024, 0, 'f', 1)
                          .arg(100 * f.overlap, 0, 'f', 1)
                          .arg(f.mirrored)
                          .arg(f.flat));
    const SkinLayer* layer = skins_.layer();
    for (std::size_t i = 0; layer && i < layer->regions.size(); ++i) {
        const LayerRegion& r = layer->regions[i];
        auto* item =
            new QTreeWidgetItem(regions_, {plain_region(r.region), QString("%1 %").arg(100 * r.seen, 0, 'f', 0),
                                           r.better == SkinHalf::Left    ? tr("left")
                                           : r.better == SkinHalf::Right ? tr("right")
                                                                         : QString(),
                                           r.reach_mm > 0 ? length_text(r.reach_mm, 1) : QString()});
        item->setToolTip(0, tr("From the other side %1 %, on another sheet %2 %")
                                .arg(100 * r.mirrored, 0, 'f', 1)
                                .arg(100 * r.wrong, 0, 'f', 2));
    }
}

}  // namespace veld
