#include "app/stations/skin/skin_panel.h"

#include <QColorDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QMenu>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/stations/skin/skin_words.h"

namespace veld {
SkinPanel::SkinPanel(Session& session, SkinController& skins, SkinBrushController& brushes, QWidget* parent)
    : QWidget(parent), s_(session), skins_(skins), brushes_(brushes) {
    auto* column = panel_column(this);
    column->addWidget(skin_row());
    look_ = new QComboBox;
    narrow(look_);
    look_->setObjectName("skin_look");
    look_->setAccessibleName(tr("Show"));
    for (int i = 0; i < kSkinLooks; ++i) look_->addItem(look_word(static_cast<SkinLook>(i)));
    look_->insertSeparator(static_cast<int>(kFirstBakedLook));
    look_->setToolTip(
        tr("Squares show how evenly the UVs lie: all should be as large and as square. Relief is lit by the view's "
           "light: let it fall along the surface"));
    // after the line between them one entry more
    connect(look_, &QComboBox::activated, this, [this](int i) {
        skins_.set_look(static_cast<SkinLook>(i > static_cast<int>(kFirstBakedLook) ? i - 1 : i));
    });
    flat_ = new QCheckBox(tr("No light"));
    flat_->setObjectName("skin_flat");
    flat_->setToolTip(tr("The skin's colours as they are, without shading"));
    connect(flat_, &QCheckBox::toggled, this, [this] { emit skins_.changed(); });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Show"), look_);
    form->addRow(QString(), flat_);
    column->addLayout(form);
    sections_ = new Sections("skin_sections");
    sections_->add(layers_page(), tr("Layers"), tr("What the skin is made of, from below upwards"));
    sections_->add(brush_page(), tr("Brush"), tr("Paint, heal and erase on the model or on its UVs"));
    sections_->add(compare_page(), tr("Compare"), tr("What stands beside the model, and what it is held against"));
    sections_->add(uv_page(), tr("UVs and regions"), tr("How the UVs lie, and what each region shows"));
    sections_->add(out_page(), tr("Maps out"), tr("Colours, normals, heights and masks as files"));
    sections_->set_current(0);
    connect(sections_, &Sections::current_changed, this, [this](int i) {
        brushes_.set_brushing(i == kBrushSection);
        emit skins_.shown_changed();  // the views follow what is done
    });
    column->addWidget(sections_, 1);
    connect(&skins_, &SkinController::changed, this, &SkinPanel::refresh);
    connect(&skins_, &SkinController::shown_changed, this, &SkinPanel::refresh);
    connect(&brushes_, &SkinBrushController::changed, this, &SkinPanel::show_brush);
    refresh();
}

QWidget* SkinPanel::skin_row() {
    auto* out = new QWidget;
    which_ = new QComboBox;
    which_->setObjectName("skin_which");
    which_->setAccessibleName(tr("Skin"));
    narrow(which_);
    connect(which_, &QComboBox::activated, this, [this](int i) { skins_.choose_skin(i); });
    menu_ = button(tr("More"), "skin_more", tr("Another skin for the subject, a copy, another name"));
    auto* menu = new QMenu(menu_);
    menu->addAction(tr("New skin"), this, [this] { skins_.add_skin(); })->setObjectName("skin_new");
    menu->addAction(tr("Copy"), this, [this] { skins_.copy_skin(); })->setObjectName("skin_copy");
    menu->addAction(tr("Rename…"), this, &SkinPanel::ask_name)->setObjectName("skin_rename");
    menu->addAction(tr("Remove"), this, [this] { skins_.remove_skin(); })->setObjectName("skin_remove");
    menu_->setMenu(menu);
    menu->addSeparator();
    menu->addAction(tr("New stage…"), this, &SkinPanel::ask_stage)->setObjectName("skin_stage_new");
    remove_stage_ = menu->addAction(tr("Remove the stage"), this, [this] { skins_.remove_stage(); });
    remove_stage_->setObjectName("skin_stage_remove");
    stage_ = new QComboBox;
    stage_->setObjectName("skin_stage");
    stage_->setAccessibleName(tr("Stage"));
    stage_->setToolTip(
        tr("What the skin becomes in an expression or a pose: flushed, wrinkled. New layers belong to "
           "the stage that is chosen"));
    narrow(stage_);
    connect(stage_, &QComboBox::activated, this,
            [this] { skins_.choose_stage(stage_->currentData().toString().toStdString()); });
    auto* line = row({which_, stage_, menu_});
    line->setContentsMargins(0, 0, 0, 0);
    line->setStretch(0, 1);
    line->setStretch(1, 1);
    out->setLayout(line);
    return out;
}

QWidget* SkinPanel::brush_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    kind_ = new QComboBox;
    narrow(kind_);
    kind_->setObjectName("skin_brush");
    kind_->setAccessibleName(tr("Brush"));
    for (const SkinBrush b : kSkinBrushes) {
        kind_->addItem(brush_word(b));
        kind_->setItemData(kind_->count() - 1, brush_tip(b), Qt::ToolTipRole);
    }
    connect(kind_, &QComboBox::activated, this, [this](int i) { brushes_.set_brush(kSkinBrushes[i]); });
    colour_ = button({}, "skin_colour", tr("The colour to paint with; Alt and click picks one from the skin"));
    connect(colour_, &QPushButton::clicked, this, [this] {
        const Colour& c = brushes_.brush.colour;
        const QColor picked = QColorDialog::getColor(QColor(c.r, c.g, c.b), this, tr("Colour to paint with"));
        if (picked.isValid()) brushes_.set_colour(picked);
    });
    radius_ = new LengthBox("skin_radius", 0.2, 200, 1, 1, tr("Radius on the surface; [ and ] change it"));
    connect(radius_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) brushes_.set_size(mm);
    });
    hardness_ = number_box("skin_hardness", 0, 95, 5, " %", tr("How much of the radius gets all of the stroke"));
    connect(hardness_, &QDoubleSpinBox::valueChanged, this, [this](double v) { brushes_.brush.hardness = v / 100; });
    strength_ =
        number_box("skin_strength", 1, 100, 5, " %", tr("How much a stroke covers; a pen's pressure is part of it"));
    connect(strength_, &QDoubleSpinBox::valueChanged, this, [this](double v) { brushes_.brush.strength = v / 100; });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Brush"), kind_);
    form->addRow(tr("Colour"), colour_);
    form->addRow(tr("Size"), radius_);
    form->addRow(tr("Hardness"), hardness_);
    form->addRow(tr("Strength"), strength_);
    column->addLayout(form);
    brush_hint_ = text_label({}, "dim");
    brush_hint_->setObjectName("skin_brush_hint");
    column->addWidget(brush_hint_);
    column->addStretch(1);
    return page;
}

QWidget* SkinPanel::uv_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    tile_ = new QComboBox;
    narrow(tile_);
    tile_->setObjectName("skin_tile");
    tile_->setAccessibleName(tr("Tile"));
    connect(tile_, &QComboBox::activated, this, [this] { skins_.set_tile(tile_->currentText().toStdString()); });
    edges_ = new QCheckBox(tr("Edges of the UVs"));
    edges_->setObjectName("skin_edges");
    connect(edges_, &QCheckBox::toggled, this, [this](bool on) {
        if (!filling_) skins_.set_edges(on);
    });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Tile"), tile_);
    column->addLayout(form);
    column->addWidget(edges_);
    uv_said_ = text_label({}, "dim");
    uv_said_->setObjectName("skin_uv_said");
    column->addWidget(uv_said_);
    column->addWidget(text_label(tr("What each region shows"), "section"));
    regions_ = column_list("skin_regions", tr("Regions"), {tr("Region"), tr("Seen"), tr("Better"), tr("Reach")}, 150);
    column->addWidget(regions_, 1);
    return page;
}

QWidget* SkinPanel::out_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    auto* boxes = new FlowRow(FlowRow::Way::Even);
    for (const SkinMap map : kAllSkinMaps) {
        auto* box = new QCheckBox(map_word(map));
        box->setObjectName(QString("skin_map_") + skin_map_name(map));
        box->setChecked(map == SkinMap::Colour || map == SkinMap::Normal);
        boxes->addWidget(box);
        maps_[map] = box;
    }
    column->addLayout(boxes);
    size_ = new QComboBox;
    narrow(size_);
    size_->setObjectName("skin_size");
    size_->setAccessibleName(tr("Texels a side"));
    for (int n = 512; n <= 8192; n *= 2) size_->addItem(QString::number(n), n);
    size_->setToolTip(tr("Of the skin: layers are baked anew at another size"));
    connect(size_, &QComboBox::activated, this, [this] { skins_.set_size(size_->currentData().toInt()); });
    format_ = new QComboBox;
    narrow(format_);
    format_->setObjectName("skin_format");
    format_->setAccessibleName(tr("Format"));
    heights_ = new QComboBox;
    narrow(heights_);
    heights_->setObjectName("skin_heights");
    heights_->setAccessibleName(tr("Format of displacement"));
    for (const MapFormat f : {MapFormat::Png8, MapFormat::Png16, MapFormat::Tiff8, MapFormat::Tiff16,
                              MapFormat::Tiff32, MapFormat::Exr16, MapFormat::Exr32}) {
        if (f != MapFormat::Tiff32) format_->addItem(format_word(f), static_cast<int>(f));
        if (f != MapFormat::Png8 && f != MapFormat::Tiff8) heights_->addItem(format_word(f), static_cast<int>(f));
    }
    heights_->setCurrentIndex(heights_->findData(static_cast<int>(MapFormat::Tiff32)));
    level_ = new QSpinBox;
    level_->setObjectName("skin_level");
    level_->setRange(0, 3);
    level_->setToolTip(tr("How often the base is subdivided where normals and displacement are used"));
    pattern_ = new QLineEdit(kMapPattern);
    pattern_->setObjectName("skin_pattern");
    pattern_->setToolTip(tr("{name}, {map}, {tile} and {udim} are filled in"));
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Size"), size_);
    form->addRow(tr("Format"), format_);
    form->addRow(tr("Displacement"), heights_);
    form->addRow(tr("Subdivided"), level_);
    form->addRow(tr("Names"), pattern_);
    column->addLayout(form);
    together_ = new QComboBox;
    narrow(together_);
    together_->setObjectName("skin_together");
    together_->setAccessibleName(tr("What is written together"));
    together_->addItems({tr("This skin"), tr("With its stages"), tr("All skins and stages")});
    together_->setCurrentIndex(1);
    together_->setToolTip(
        tr("Each under its own name; a stage with the relief of its expression's scan. In a GLB they "
           "are variants of its materials"));
    form->addRow(tr("Together"), together_);
    write_ = button(tr("Write maps…"), "skin_write", tr("Into a folder, with a sheet that says what they are"), true);
    connect(write_, &QPushButton::clicked, this, &SkinPanel::ask_maps);
    glb_ = button(
        tr("Write GLB…"), "skin_glb",
        tr("The base wearing this skin, with the bank's morphs and its joints; normals and occlusion where ticked"));
    connect(glb_, &QPushButton::clicked, this, &SkinPanel::ask_glb);
    column->addLayout(row({write_, glb_}));
    kit_ =
        button(tr("Write kit…"), "skin_kit", tr("The kit with this skin in place of its own pictures, as a folder"));
    connect(kit_, &QPushButton::clicked, this, &SkinPanel::ask_kit);
    column->addWidget(kit_);
    column->addStretch(1);
    return page;
}

}  // namespace veld
