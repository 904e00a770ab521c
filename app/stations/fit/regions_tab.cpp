#include "app/stations/fit/regions_tab.h"

#include <QHeaderView>
#include <QToolButton>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/region_names.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

QString said(const RegionSetting& r) {
    QStringList out;
    if (r.keep >= 1)
        out << RegionsTab::tr("keeps");
    else if (r.match <= 0)
        out << RegionsTab::tr("follows");
    else if (r.match < 1 || r.keep > 0)
        out << RegionsTab::tr("half");
    if (r.stiffness != 1) out << QString("× %1").arg(r.stiffness);
    if (r.smooth_mm > 0) out << length_text(r.smooth_mm, 1);
    return out.join(", ");
}

}  // namespace

RegionsTab::RegionsTab(Session& session, RegionController& regions, QWidget* parent)
    : QWidget(parent), s_(session), c_(regions) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    build_list(column);
    build_setting(column);
    build_painting(column);
    connect(&s_, &Session::changed, this, &RegionsTab::refresh);
    connect(&c_, &RegionController::changed, this, &RegionsTab::refresh);
    refresh();
}

void RegionsTab::build_list(QBoxLayout* column) {
    list_ = column_list("fit_regions", tr("Regions"), {tr("Region"), tr("In the fit")}, 110);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.show(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
}

void RegionsTab::build_setting(QBoxLayout* column) {
    setting_ = new QWidget;
    auto* inside = new QVBoxLayout(setting_);
    inside->setContentsMargins(0, 0, 0, 0);
    inside->setSpacing(6);
    use_ = new QButtonGroup(this);
    auto* ways = new QHBoxLayout;
    ways->setSpacing(4);
    const std::tuple<const char*, QString, QString> words[] = {
        {"match", tr("Match"), tr("Matched to the source")},
        {"follow", tr("Follow"),
         tr("Not matched: follows its neighbours in the base's form. For what a cap, hair or clothes hide")},
        {"keep", tr("Keep base"), tr("Stays where the base has it")}};
    int id = 0;
    for (const auto& [name, text, tip] : words) {
        auto* b = new QToolButton;
        b->setObjectName(QString("region_%1").arg(name));
        b->setText(text);
        b->setToolTip(tip);
        b->setCheckable(true);
        b->setProperty("role", "mode");
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        use_->addButton(b, id++);
        ways->addWidget(b);
    }
    connect(use_, &QButtonGroup::idClicked, this, [this](int way) {
        edit([way](RegionSetting& r) { r.match = way == 0 ? 1 : 0, r.keep = way == 2 ? 1 : 0; });
    });
    inside->addLayout(ways);
    stiffness_ = number_box("region_stiffness", 0.1, 1000, 0.5, {}, tr("Stiffer than the rest; below 1: softer"));
    stiffness_->setPrefix("× ");
    smooth_ = new LengthBox("region_smooth", 0, 100, 0.5, 1,
                            tr("Features smaller than this are ignored here; 0: as the whole"));
    smooth_->setSpecialValueText(tr("as the whole"));
    connect(stiffness_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (!filling_) edit([v](RegionSetting& r) { r.stiffness = v; });
    });
    connect(smooth_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        if (!filling_) edit([v](RegionSetting& r) { r.smooth_mm = v; });
    });
    inside->addLayout(row({text_label(tr("Stiffness"), "plain"), stiffness_}));
    inside->addLayout(row({text_label(tr("Smooth below"), "plain"), smooth_}));
    fade_ = new LengthBox("region_fade", 0, 100, 1, 0, tr("Length over which the kit's regions fade out"));
    connect(fade_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (filling_) return;
        ProjectState next = s_.state();
        next.settings.region_fade_mm = mm;
        s_.change(tr("Fade of regions"), std::move(next), "region fade");
    });
    inside->addLayout(row({text_label(tr("Edges fade over"), "plain"), fade_}));
    column->addWidget(setting_);
}

void RegionsTab::build_painting(QBoxLayout* column) {
    auto* fresh = button(tr("New painted"), "region_new", tr("An empty region of your own, for the brush"));
    copy_ = button(tr("Paint on this"), "region_copy", tr("A region of your own that starts as the selected one"));
    connect(fresh, &QPushButton::clicked, this, [this] { c_.add_painted(false); });
    connect(copy_, &QPushButton::clicked, this, [this] { c_.add_painted(true); });
    column->addLayout(flow({fresh, copy_}));
    painting_ = new QWidget;
    auto* inside = new QVBoxLayout(painting_);
    inside->setContentsMargins(0, 0, 0, 0);
    inside->setSpacing(6);
    paint_ = new QCheckBox(tr("Paint"));
    paint_->setObjectName("region_paint");
    paint_->setToolTip(tr("The left button paints on the base; Ctrl removes; the right button turns"));
    connect(paint_, &QCheckBox::clicked, &c_, &RegionController::set_painting);
    mirrored_ = new QCheckBox(tr("Both sides"));
    mirrored_->setObjectName("region_mirrored");
    connect(mirrored_, &QCheckBox::clicked, this, [this](bool on) { c_.mirrored = on; });
    size_ = new LengthBox("region_size", 1, 200, 1, 0, tr("Radius of the brush along the surface"));
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        c_.radius_mm = mm;
        if (!filling_) emit c_.changed();
    });
    inside->addLayout(row({paint_, mirrored_, size_}));
    remove_ = button(tr("Remove this region"), "region_remove", tr("Undo brings it back"));
    connect(remove_, &QPushButton::clicked, &c_, &RegionController::remove_painted);
    inside->addWidget(remove_);
    column->addWidget(painting_);
}

void RegionsTab::edit(const std::function<void(RegionSetting&)>& change) {
    RegionSetting setting = c_.setting(c_.shown());
    change(setting);
    c_.set(tr("%1 in the fit").arg(c_.shown_name()), c_.shown(), setting);
}

void RegionsTab::fill_list() {
    std::vector<std::string> names;
    if (s_.has_kit()) {
        for (const auto& [name, weights] : s_.state().settings.own_regions) names.push_back(name);
        for (const std::string& name : skin_regions(*s_.state().kit)) names.push_back(name);
    }
    if (names != names_) {
        names_ = names;
        list_->clear();
        for (const std::string& name : names) {
            auto* item =
                new QTreeWidgetItem(list_, {c_.is_painted(name) ? QString::fromStdString(name) : plain_region(name)});
            item->setData(0, Qt::UserRole, QString::fromStdString(name));
            if (c_.is_painted(name)) item->setIcon(0, theme::icon("brush"));
        }
    }
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* item = list_->topLevelItem(i);
        item->setText(1, said(c_.setting(names_[static_cast<std::size_t>(i)])));
        if (names_[static_cast<std::size_t>(i)] == c_.shown() && list_->currentItem() != item)
            list_->setCurrentItem(item);
    }
    if (c_.shown().empty()) list_->setCurrentItem(nullptr);
}

void RegionsTab::refresh() {
    filling_ = true;
    fill_list();
    const RegionSetting r = c_.setting(c_.shown());
    setting_->setEnabled(!c_.shown().empty());
    use_->button(r.keep >= 1 ? 2 : r.match <= 0 ? 1 : 0)->setChecked(true);
    stiffness_->setValue(r.stiffness);
    smooth_->setValue(r.smooth_mm);
    fade_->setValue(s_.state().settings.region_fade_mm);
    const bool painted = c_.is_painted(c_.shown());
    copy_->setEnabled(c_.shows() && !painted);
    painting_->setVisible(painted);
    paint_->setChecked(c_.painting());
    mirrored_->setChecked(c_.mirrored);
    size_->setValue(c_.radius_mm);
    filling_ = false;
}

}  // namespace veld
