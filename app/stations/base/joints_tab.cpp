#include "app/stations/base/joints_tab.h"

#include "app/flow_row.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {

JointsTab::JointsTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    hint_ = text_label({}, "dim");
    hint_->setObjectName("base_joints_hint");
    column->addWidget(hint_);
    list_ = column_list("base_joints", tr("Joints"), {tr("Joint"), tr("In the file")}, 160);
    list_->setRootIsDecorated(true);
    list_->setIndentation(8);
    list_->setTextElideMode(Qt::ElideNone);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.select_joint(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    own_ = new QComboBox;
    own_->setObjectName("base_role");
    own_->setAccessibleName(tr("The file's joint that does the work of the selected one"));
    connect(own_, &QComboBox::activated, this,
            [this](int i) { c_.set_role(c_.joint(), own_->itemData(i).toString().toStdString()); });
    of_file_ = text_label(tr("In the file"), "plain");
    column->addLayout(row({of_file_, own_}));
    pose_ = new QComboBox;
    pose_->setObjectName("base_pose");
    pose_->setAccessibleName(tr("The pose to look at"));
    connect(pose_, &QComboBox::activated, this,
            [this](int i) { c_.select_pose(pose_->itemData(i).toString().toStdString()); });
    pose_text_ = text_label(tr("Look at"), "plain");
    column->addLayout(row({pose_text_, pose_}));
    build_tie(column);
    connect(&s_, &Session::changed, this, &JointsTab::refresh);
    connect(&c_, &BaseController::changed, this, &JointsTab::refresh);
    refresh();
}

// The skin that a joint is tied to: every shape tells by it where the joint is.
void JointsTab::build_tie(QVBoxLayout* column) {
    shown_ = new QComboBox;
    shown_->setObjectName("base_joint_shown");
    shown_->setAccessibleName(tr("What is coloured"));
    shown_->addItems({tr("Skin that follows it"), tr("Skin that tells where it is")});
    connect(shown_, &QComboBox::activated, this, [this](int i) { c_.show_tie(i == 1); });
    column->addWidget(shown_);
    tie_ = new QWidget;
    auto* inside = new QVBoxLayout(tie_);
    inside->setContentsMargins(0, 0, 0, 0);
    paint_ = new QCheckBox(tr("Paint"));
    paint_->setObjectName("base_tie_paint");
    paint_->setToolTip(
        tr("The left button adds skin that the joint is tied to; Ctrl takes away; the right button "
           "turns"));
    connect(paint_, &QCheckBox::clicked, &c_, &BaseController::set_painting);
    mirrored_ = new QCheckBox(tr("Both sides"));
    mirrored_->setObjectName("base_tie_mirrored");
    connect(mirrored_, &QCheckBox::clicked, this, [this](bool on) { c_.mirrored = on; });
    size_ = new LengthBox("base_tie_size", 1, 200, 1, 0, tr("Radius of the brush along the surface"));
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (!filling_) c_.radius_mm = mm, emit c_.changed();
    });
    untie_ = button(tr("As the weights say"), "base_untie",
                    tr("Takes back what was painted: where its skin bends tells where the joint is"));
    connect(untie_, &QPushButton::clicked, &c_, &BaseController::untie);
    inside->addLayout(flow({paint_, mirrored_, size_}));
    inside->addWidget(untie_);
    column->addWidget(tie_);
}

void JointsTab::refresh_tie() {
    const bool can = filled_with_ && !c_.joint().empty();
    shown_->setEnabled(can);
    shown_->setCurrentIndex(c_.shows_tie() ? 1 : 0);
    tie_->setVisible(c_.shows_tie());
    for (QWidget* w : {static_cast<QWidget*>(paint_), static_cast<QWidget*>(mirrored_), static_cast<QWidget*>(size_)})
        w->setEnabled(can);
    paint_->setChecked(c_.painting());
    mirrored_->setChecked(c_.mirrored);
    size_->setValue(c_.radius_mm);
    untie_->setEnabled(c_.tied_by_hand());
}

void JointsTab::fill() {
    filled_with_ = s_.state().kit;
    list_->clear();
    own_->clear(), pose_->clear();
    if (!filled_with_) return;
    const BaseKit& kit = *filled_with_;
    pose_->addItem(tr("the rest pose"), QString());
    for (const auto& [name, pose] : kit.rest_poses)
        pose_->addItem(tr("%1 pose").arg(QString::fromStdString(name)), QString::fromStdString(name));
    std::vector<QTreeWidgetItem*> items;
    for (const Joint& joint : kit.joints) {
        const QString name = QString::fromStdString(joint.name);
        auto* item = joint.parent < 0 ? new QTreeWidgetItem(list_)
                                      : new QTreeWidgetItem(items[static_cast<std::size_t>(joint.parent)]);
        item->setText(0, QString(name).replace('_', ' '));
        item->setData(0, Qt::UserRole, name);
        if (kit.own_rig) {
            const auto role = kit.own_rig->roles.find(joint.name);
            item->setText(1, role == kit.own_rig->roles.end() ? tr("nobody") : QString::fromStdString(role->second));
            if (role == kit.own_rig->roles.end()) item->setForeground(1, theme::ink().dim);
        }
        items.push_back(item);
    }
    list_->expandAll();
    if (!kit.own_rig) return;
    own_->addItem(tr("nobody"), QString());
    for (const Joint& joint : kit.own_rig->joints)
        own_->addItem(QString::fromStdString(joint.name), QString::fromStdString(joint.name));
}

void JointsTab::refresh() {
    if (c_.page() != BaseController::Page::Joints) return;
    filling_ = true;
    if (filled_with_ != s_.state().kit) fill();
    const bool own = filled_with_ && filled_with_->own_rig;
    list_->setColumnHidden(1, !own);
    own_->setVisible(own);
    const bool poses = filled_with_ && !filled_with_->rest_poses.empty();
    for (QWidget* w : {static_cast<QWidget*>(pose_), static_cast<QWidget*>(pose_text_)}) w->setVisible(poses);
    pose_->setCurrentIndex(std::max(0, pose_->findData(QString::fromStdString(c_.pose()))));
    of_file_->setVisible(own);
    if (!filled_with_ || filled_with_->joints.empty())
        hint_->setText(tr("This kit has no joints: poses cannot be taken out."));
    else if (own)
        hint_->setText(tr("The file has %1 joints of its own; %2 of ours are theirs. They go out as they came.")
                           .arg(filled_with_->own_rig->joints.size())
                           .arg(filled_with_->own_rig->roles.size()));
    else if (c_.joint().empty())
        hint_->setText(tr("Select a joint to see the skin that follows it."));
    else if (c_.shows_tie())
        hint_->setText(c_.tied_by_hand() ? tr("Tied by hand: in every shape this skin tells where the joint is.")
                                         : tr("In every shape this skin tells where the joint is."));
    else
        hint_->setText(tr("The more colour, the more the skin follows the joint."));
    QList<QTreeWidgetItem*> all = list_->findItems("*", Qt::MatchWildcard | Qt::MatchRecursive);
    for (QTreeWidgetItem* item : all) {
        if (item->data(0, Qt::UserRole).toString().toStdString() == c_.joint() && list_->currentItem() != item)
            list_->setCurrentItem(item);
    }
    refresh_tie();
    own_->setEnabled(own && !c_.joint().empty());
    if (own) {
        const auto role = filled_with_->own_rig->roles.find(c_.joint());
        const std::string name = role == filled_with_->own_rig->roles.end() ? std::string() : role->second;
        own_->setCurrentIndex(std::max(0, own_->findData(QString::fromStdString(name))));
    }
    filling_ = false;
}

}  // namespace veld
