#include "app/stations/skin/skin_panel.h"

#include <QColorDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QMenu>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/stations/skin/skin_words.h"

namespace veld {
namespace {

constexpr int kLayersHeight = 112;

}  // namespace

SkinPanel::SkinPanel(Session& session, SkinController& skins, SkinBrushController& brushes, QWidget* parent)
    : QWidget(parent), s_(session), skins_(skins), brushes_(brushes) {
    auto* column = panel_column(this);
    column->addWidget(skin_row());
    look_ = new QComboBox;
    narrow(look_);
    look_->setObjectName("skin_look");
    look_->setAccessibleName(tr("Show"));
    look_->addItems({tr("All layers"), tr("The selected layer alone"), tr("Where it comes from"), tr("Squares")});
    look_->setToolTip(tr("Squares show how evenly the UVs lie: all should be as large and as square"));
    connect(look_, &QComboBox::activated, this, [this](int i) { skins_.set_look(static_cast<SkinLook>(i)); });
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
    auto* line = row({which_, menu_});
    line->setContentsMargins(0, 0, 0, 0);
    line->setStretch(0, 1);
    out->setLayout(line);
    return out;
}

namespace {

// A slider of 0 to 100 % with its value beside it.
QHBoxLayout* share_row(QSlider*& slider, QLabel*& value, const char* name, const QString& spoken, const QString& tip) {
    slider = new QSlider(Qt::Horizontal);
    slider->setObjectName(name);
    slider->setAccessibleName(spoken);
    slider->setRange(0, 100);
    slider->setToolTip(tip);
    value = new QLabel;
    hold_width(value, "100 %");
    QObject::connect(slider, &QSlider::valueChanged, value,
                     [value](int v) { value->setText(QString("%1 %").arg(v)); });
    return row({slider, value});
}

}  // namespace

QWidget* SkinPanel::layers_page() {
    auto* page = new QWidget;
    auto* column = panel_column(page);
    column->setContentsMargins(0, 8, 6, 0);
    layers_ = column_list("skin_layers", tr("Layers"), {tr("Layer"), tr("Seen")}, kLayersHeight);
    connect(layers_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) skins_.select({item->data(0, Qt::UserRole).toULongLong()});
    });
    connect(layers_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
        if (filling_ || column != 0) return;
        const LayerId id{item->data(0, Qt::UserRole).toULongLong()};
        const bool on = item->checkState(0) == Qt::Checked;
        const QString name = item->text(0).trimmed();
        QTimer::singleShot(0, this, [this, id, on, name] {
            const auto skin = skins_.skin();
            const SkinLayer* now = skin ? skin->layer(id) : nullptr;
            if (!now || (now->shown == on && QString::fromStdString(now->name) == name)) return;
            skins_.edit(id, tr("Layer"), [&](SkinLayer& l) {
                l.shown = on;
                if (!name.isEmpty()) l.name = name.toStdString();
            });
        });
    });
    layers_->setMaximumHeight(2 * kLayersHeight);
    layers_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    column->addWidget(layers_);
    fit_layer_ = button(tr("Bake the fit"), "skin_bake_fit",
                        tr("A layer of the current fit's scan, sculpt or photographs"), true);
    connect(fit_layer_, &QPushButton::clicked, this, [this] { skins_.add_fit_layer(); });
    paint_layer_ = button(tr("Painted layer"), "skin_paint_layer", tr("An empty layer to paint on"));
    connect(paint_layer_, &QPushButton::clicked, this, [this] { skins_.add_paint_layer(); });
    wear_ = button(tr("Wear another"), "skin_wear", tr("Another subject's skin, or another of this one, as a layer"));
    wear_->setMenu(new QMenu(wear_));
    connect(wear_->menu(), &QMenu::aboutToShow, this, &SkinPanel::fill_menu);
    up_ = button(tr("Up"), "skin_up");
    connect(up_, &QPushButton::clicked, this, [this] { skins_.move_layer(1); });
    down_ = button(tr("Down"), "skin_down");
    connect(down_, &QPushButton::clicked, this, [this] { skins_.move_layer(-1); });
    remove_ = button(tr("Remove"), "skin_layer_remove");
    connect(remove_, &QPushButton::clicked, this, [this] { skins_.remove_layer(); });
    column->addWidget(fit_layer_);
    column->addLayout(row({paint_layer_, wear_}));
    column->addLayout(row({up_, down_, remove_}));
    bake_old_ = button({}, "skin_bake_old", tr("Fits have changed since these layers were baked"));
    connect(bake_old_, &QPushButton::clicked, this, [this] { skins_.bake_old(); });
    column->addWidget(bake_old_);
    of_layer_ = new QWidget;
    auto* form = new QFormLayout(of_layer_);
    form->setContentsMargins(0, 4, 0, 0);
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Amount"), share_row(amount_, amount_value_, "skin_amount", tr("Amount"), {}));
    connect(amount_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_)
            skins_.edit(
                tr("Amount of a layer"), [v](SkinLayer& l) { l.amount = v / 100.0; }, "amount");
    });
    blend_ = new QComboBox;
    narrow(blend_);
    blend_->setObjectName("skin_blend");
    blend_->setAccessibleName(tr("Blend"));
    for (const LayerBlend b : kLayerBlends) blend_->addItem(blend_word(b));
    connect(blend_, &QComboBox::activated, this, [this](int i) {
        skins_.edit(tr("Blend of a layer"), [i](SkinLayer& l) { l.blend = static_cast<LayerBlend>(i); });
    });
    form->addRow(tr("Blend"), blend_);
    column->addWidget(of_layer_);
    column->addWidget(recipe_ = recipe_form());
    said_ = text_label({}, "dim");
    said_->setObjectName("skin_said");
    column->addWidget(said_);
    column->addStretch(1);
    return page;
}

// How a baked layer is made. Its fields change the recipe; "Bake again" follows it.
QWidget* SkinPanel::recipe_form() {
    auto* out = new QWidget;
    auto* column = new QVBoxLayout(out);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Light out"), share_row(light_, light_value_, "skin_light_out", tr("Light out"),
                                            tr("How much of the light it was taken in goes out of the colours")));
    form->addRow(tr("Base's tone"), share_row(tone_, tone_value_, "skin_tone", tr("Base's tone"),
                                              tr("How far it is brought to the tone of the base's own skin, region by "
                                                 "region; else the base's body is brought to this one's")));
    column->addLayout(form);
    const auto recipe = [this](const std::function<void(LayerRecipe&)>& change, const std::string& merge_key = {}) {
        if (filling_) return;
        skins_.edit(
            tr("How a layer is baked"),
            [&](SkinLayer& l) {
                const LayerRecipe was = l.recipe;
                change(l.recipe);
                if (l.recipe != was) l.baked_for.clear();
            },
            merge_key);
    };
    connect(light_, &QSlider::valueChanged, this,
            [recipe](int v) { recipe([v](LayerRecipe& r) { r.light_out = v / 100.0; }, "light"); });
    connect(tone_, &QSlider::valueChanged, this,
            [recipe](int v) { recipe([v](LayerRecipe& r) { r.tone = v / 100.0; }, "tone"); });
    const auto box = [&](const QString& text, const char* name, const QString& tip, bool LayerRecipe::*of) {
        auto* b = new QCheckBox(text);
        b->setObjectName(name);
        b->setToolTip(tip);
        connect(b, &QCheckBox::toggled, this, [recipe, of](bool on) { recipe([=](LayerRecipe& r) { r.*of = on; }); });
        column->addWidget(b);
        return b;
    };
    not_skin_ = box(tr("Leave out what is no skin"), "skin_leave_out",
                    tr("Hair, caps, collars: by what the source says, and by their colours"),
                    &LayerRecipe::leave_out_not_skin);
    brows_ = box(tr("Keep brows and beard"), "skin_keep_brows",
                 tr("What lies within the face stays, unless it goes on beyond it"), &LayerRecipe::keep_brows);
    mirror_fill_ = box(tr("Fill from the other side first"), "skin_fill_mirrored",
                       tr("What is missed comes from the other half where that was seen, else from the base's skin"),
                       &LayerRecipe::fill_mirrored);
    half_ = new QComboBox;
    narrow(half_);
    half_->setObjectName("skin_half");
    half_->setAccessibleName(tr("Halves"));
    half_->addItems({tr("Both, as they are"), tr("The left for both"), tr("The right for both")});
    half_->setToolTip(tr("The person's own left and right; which one shows more is said under UVs and regions"));
    connect(half_, &QComboBox::activated, this,
            [recipe](int i) { recipe([i](LayerRecipe& r) { r.half = kSkinHalves[i]; }); });
    form->addRow(tr("Halves"), half_);
    bake_ = button(tr("Bake again"), "skin_bake");
    connect(bake_, &QPushButton::clicked, this, [this] { skins_.bake(); });
    column->addWidget(bake_);
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
    write_ = button(tr("Write maps…"), "skin_write", tr("Into a folder, with a sheet that says what they are"), true);
    connect(write_, &QPushButton::clicked, this, &SkinPanel::ask_maps);
    glb_ =
        button(tr("Write GLB…"), "skin_glb", tr("The base wearing this skin, with the bank's morphs and its joints"));
    connect(glb_, &QPushButton::clicked, this, &SkinPanel::ask_glb);
    column->addLayout(row({write_, glb_}));
    column->addStretch(1);
    return page;
}

}  // namespace veld
