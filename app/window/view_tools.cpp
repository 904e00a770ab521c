#include "app/window/view_tools.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QSettings>
#include <cmath>

#include "app/scene/scene.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "app/widgets.h"

namespace veld {

ViewTools::ViewTools(Commands& commands, QMenu* menu, ViewSet& views, Scene& scene, std::function<void()> frame,
                     QWidget* parent)
    : QWidget(parent), commands_(commands), menu_(menu), views_(views), scene_(scene) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 1, 0, 1);
    across->setSpacing(1);
    add_fixed_views();
    across->addSpacing(8);
    add_framing(std::move(frame));
    add_lens();
    across->addSpacing(8);
    add_surface();
    add_light();
}

QAction* ViewTools::tool(const CommandInfo& info, std::function<void()> act) {
    QAction* action = commands_.add(menu_, info, std::move(act));
    auto* b = new QToolButton;
    b->setDefaultAction(action);
    b->setFocusPolicy(Qt::TabFocus);
    layout()->addWidget(b);
    return action;
}

// A box, and a key that goes on to its next entry.
void ViewTools::add_choice(QComboBox* box, const CommandInfo& next) {
    layout()->addWidget(box);
    commands_.add(menu_, next, [box] { box->setCurrentIndex((box->currentIndex() + 1) % box->count()); });
}

void ViewTools::add_fixed_views() {
    const std::tuple<const char*, FixedView, QString> fixed[] = {
        {"front", FixedView::Front, tr("Front")},
        {"threequarter", FixedView::ThreeQuarter, tr("Three-quarter")},
        {"side", FixedView::Side, tr("Side")},
        {"back", FixedView::Back, tr("Back")},
        {"below", FixedView::Below, tr("From below")}};
    int number = 0;
    for (const auto& [icon, which, title] : fixed)
        tool({.id = QString("view_%1").arg(icon), .title = title, .key = Qt::Key_1 + number++, .icon = icon},
             [this, which] { views_.active_camera().look_from(which); });
    commands_.add(menu_, {.id = "view_other_side", .title = tr("The other side"), .key = Qt::Key_6},
                  [this] { views_.active_camera().look_from(FixedView::OtherSide); });
    menu_->addSeparator();
}

void ViewTools::add_framing(std::function<void()> frame) {
    tool({.id = "view_frame",
          .title = tr("Frame"),
          .key = Qt::Key_F,
          .icon = "frame",
          .hint = tr("Frame the selected point, or the head")},
         std::move(frame));
    commands_.add(menu_, {.id = "view_home", .title = tr("Frame everything"), .key = Qt::Key_Home},
                  [this] { views_.frame_home(); });
}

void ViewTools::add_lens() {
    QAction* flat = tool({.id = "view_lens",
                          .title = tr("Orthographic"),
                          .key = Qt::Key_O,
                          .icon = "lens",
                          .checkable = true,
                          .hint = tr("Orthographic or perspective")},
                         {});
    connect(flat, &QAction::toggled, this, [this](bool on) {
        Camera c = views_.active_camera().camera();
        if (c.orthographic == on) return;
        c.orthographic = on;
        views_.active_camera().set(c);
    });
    lens_ = new QDoubleSpinBox;
    lens_->setObjectName("view_lens_degrees");
    lens_->setRange(4, 90);
    lens_->setDecimals(0);
    lens_->setSuffix("°");
    lens_->setPrefix(tr("FOV "));
    lens_->setToolTip(tr("Vertical field of view; the subject keeps its size (Ctrl+wheel)"));
    connect(lens_, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        Camera c = views_.active_camera().camera();
        if (std::abs(c.field_of_view - degrees) < 0.5) return;
        const double before = c.height_at_target();
        c.field_of_view = degrees;
        c.distance *= before / c.height_at_target();
        views_.active_camera().set(c);
    });
    const auto told = [this, flat] {
        const Camera& now = views_.active_camera().camera();
        lens_->setValue(now.field_of_view);
        flat->setChecked(now.orthographic);
    };
    connect(&views_, &ViewSet::camera_changed, this, told);
    told();
    layout()->addWidget(lens_);
    menu_->addSeparator();
}

void ViewTools::add_surface() {
    QAction* wire = tool({.id = "view_wire",
                          .title = tr("Wireframe"),
                          .key = Qt::Key_W,
                          .icon = "wire",
                          .checkable = true,
                          .hint = tr("Wireframe over the surface")},
                         {});
    connect(wire, &QAction::toggled, this, [this](bool on) {
        scene_.wire = on;
        views_.refresh();
    });
    const QVariant kept = QSettings().value("view/hollows", true);
    QAction* hollows =
        commands_.add(menu_,
                      {.id = "view_hollows",
                       .title = tr("Darken hollows"),
                       .checkable = true,
                       .hint = tr("Nostrils, mouth, lids and ears read darker; takes a moment to make")},
                      {});
    const auto set = [this](bool on) {
        scene_.baker.set_on(on);
        views_.set_hollows(on);
    };
    hollows->setChecked(kept.toBool());
    set(kept.toBool());
    connect(hollows, &QAction::toggled, this, [set](bool on) {
        QSettings().setValue("view/hollows", on);
        set(on);
    });
    shading_ = new QComboBox;
    shading_->setObjectName("view_shading");
    shading_->addItems({tr("Clay"), tr("Textured"), tr("Flat colour")});
    shading_->setToolTip(tr("How surfaces are shown (T)"));
    connect(shading_, &QComboBox::currentIndexChanged, this, [this](int i) {
        scene_.shading = static_cast<Shading>(i);
        views_.refresh();
    });
    narrow(shading_, 6);
    add_choice(shading_, {.id = "view_next_shading", .title = tr("Next shading"), .key = Qt::Key_T});
}

void ViewTools::add_light() {
    light_ = new QComboBox;
    light_->setObjectName("view_light");
    const std::pair<StudioLight, QString> lights[] = {
        {StudioLight::Soft, tr("Soft light")},         {StudioLight::RakeLeft, tr("Raking, left")},
        {StudioLight::RakeRight, tr("Raking, right")}, {StudioLight::Below, tr("From below")},
        {StudioLight::Rim, tr("Rim light")},           {StudioLight::Silhouette, tr("Silhouette")},
        {StudioLight::ByHand, tr("At the pointer")}};
    for (const auto& [light, name] : lights) light_->addItem(name, static_cast<int>(light));
    light_->setToolTip(tr("The light that shapes are looked at in (K)"));
    connect(light_, &QComboBox::currentIndexChanged, this,
            [this](int i) { views_.set_light(static_cast<StudioLight>(light_->itemData(i).toInt())); });
    narrow(light_, 7);
    add_choice(light_, {.id = "view_next_light", .title = tr("Next light"), .key = Qt::Key_K});
    menu_->addSeparator();
}

}  // namespace veld
