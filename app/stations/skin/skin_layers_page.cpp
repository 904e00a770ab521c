// The panel's page of layers: their list, and how the selected one is shown and baked.
#include <QFormLayout>
#include <QMenu>

#include "app/stations/skin/skin_panel.h"
#include "app/stations/skin/skin_words.h"

namespace veld {
namespace {

constexpr int kLayersHeight = 96, kMostLayersHeight = 140;

}  // namespace

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
    layers_->setMaximumHeight(kMostLayersHeight);
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
    only_in_ = button(tr("A region…"), "skin_only_in", tr("Shows the selected layer in one region, softly bordered"));
    only_in_->setMenu(new QMenu(only_in_));
    connect(only_in_->menu(), &QMenu::aboutToShow, this, &SkinPanel::fill_regions);
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
    form->addRow(tr("Only in"), only_in_);
    of_stage_ = new QCheckBox;
    of_stage_->setObjectName("skin_of_stage");
    connect(of_stage_, &QCheckBox::clicked, this, [this](bool on) {
        const std::string stage = on ? skins_.stage() : std::string();
        skins_.edit(tr("Stage of a layer"), [&](SkinLayer& l) { l.stage = stage; });
    });
    form->addRow(of_stage_);
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
    form->addRow(tr("Light out"),
                 share_row(light_, light_value_, "skin_light_out", tr("Light out"),
                           tr("How much of the light it was taken in goes out of the colours, with the shadows "
                              "that a lamp casts")));
    form->addRow(tr("Shine out"), share_row(shine_, shine_value_, "skin_shine_out", tr("Shine out"),
                                            tr("How much of the highlights goes out: what is lighter and whiter than "
                                               "the skin around it")));
    form->addRow(tr("Tone"),
                 share_row(tone_, tone_value_, "skin_tone", tr("Tone"),
                           tr("How far it is brought to another tone, region by region; at 0 what is filled, "
                              "the body too, is brought to this one's")));
    tone_like_ = new QComboBox;
    tone_like_->setObjectName("skin_tone_like");
    tone_like_->setAccessibleName(tr("Tone of"));
    narrow(tone_like_);
    connect(tone_like_, &QComboBox::activated, this, &SkinPanel::take_tone_of);
    form->addRow(tr("Tone of"), tone_like_);
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
    connect(shine_, &QSlider::valueChanged, this,
            [recipe](int v) { recipe([v](LayerRecipe& r) { r.shine_out = v / 100.0; }, "shine"); });
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
    grain_ = box(tr("Fill with the person's own grain"), "skin_own_grain",
                 tr("Pores and freckles of what is seen, in place of the base's own skin"), &LayerRecipe::own_grain);
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

}  // namespace veld
