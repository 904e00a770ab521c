#include "app/stations/bank/rest_tab.h"

#include <QFormLayout>
#include <QGridLayout>
#include <algorithm>

#include "app/core_words.h"
#include "app/lengths.h"
#include "app/scene/joint_marks.h"
#include "app/widgets.h"
#include "app/window/doubt_words.h"

namespace veld {
namespace {

constexpr int kJoint = Qt::UserRole;
constexpr double kShownDegrees = 0.05;
constexpr std::size_t kUnsureShown = 3;

}  // namespace

QString stock_pose_name(const RestController& rest, int pose) {
    if (pose == -2) return RestTab::tr("as it stands");
    if (pose < 0 || pose >= static_cast<int>(rest.stock().size())) return RestTab::tr("at rest");
    return core_word(rest.stock()[static_cast<std::size_t>(pose)].name);
}

RestTab::RestTab(Session& session, RestController& rest, QWidget* parent) : QWidget(parent), s_(session), rest_(rest) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    build_top(column);
    build_joints(column);
    build_turns(column);
    build_views(column);
    connect(&rest_, &RestController::changed, this, &RestTab::refresh);
    refresh();
}

void RestTab::build_top(QVBoxLayout* column) {
    from_ = new QComboBox;
    from_->setObjectName("rest_from");
    from_->addItems({tr("The fit"), tr("The current mix")});
    from_->setCurrentIndex(rest_.from() == RestController::From::Fit ? 0 : 1);
    connect(from_, &QComboBox::activated, this,
            [this](int i) { rest_.set_from(i == 0 ? RestController::From::Fit : RestController::From::Mix); });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Shape"), from_);
    column->addLayout(form);
    find_ = button(tr("Take a pose out"), "rest_find",
                   tr("Finds how the joints of this shape are turned against the base"));
    connect(find_, &QPushButton::clicked, &rest_, &RestController::find);
    clear_ = button(tr("None"), "rest_clear", tr("Takes nothing out"));
    connect(clear_, &QPushButton::clicked, &rest_, &RestController::clear);
    column->addLayout(row({find_, clear_}));
    said_ = text_label({}, "dim");
    said_->setObjectName("rest_said");
    column->addWidget(said_);
}

void RestTab::build_joints(QVBoxLayout* column) {
    joints_ = new QTreeWidget;
    joints_->setObjectName("rest_joints");
    joints_->setAccessibleName(tr("Joints"));
    joints_->setRootIsDecorated(false);
    joints_->setHeaderLabels({tr("Joint"), tr("Turned by")});
    joints_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    joints_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    joints_->header()->setStretchLastSection(false);
    joints_->setMinimumHeight(96);
    connect(joints_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) rest_.select(item->data(0, kJoint).toInt());
    });
    column->addWidget(joints_, 1);
    to_a_ = button(tr("Arms from A"), "rest_from_a", tr("The arms stand 45 degrees down in this shape"));
    to_t_ = button(tr("Arms from T"), "rest_from_t", tr("The arms stand level in this shape"));
    connect(to_a_, &QPushButton::clicked, this, [this] { rest_.set_arms("A"); });
    connect(to_t_, &QPushButton::clicked, this, [this] { rest_.set_arms("T"); });
    column->addLayout(row({to_a_, to_t_}));
}

void RestTab::build_turns(QVBoxLayout* column) {
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(2);
    const QString names[] = {tr("About X"), tr("About Y"), tr("About Z")};
    const QString tips[] = {tr("About the base's axis from side to side"), tr("About the base's upright axis"),
                            tr("About the base's axis from back to front")};
    for (int a = 0; a < 3; ++a) {
        const auto k = static_cast<std::size_t>(a);
        slider_[k] = new QSlider(Qt::Horizontal);
        slider_[k]->setObjectName(QString("rest_slider_%1").arg(a));
        slider_[k]->setRange(-180, 180);
        slider_[k]->setMinimumWidth(40);
        slider_[k]->setToolTip(tips[a]);
        spin_[k] = new QDoubleSpinBox;
        spin_[k]->setObjectName(QString("rest_spin_%1").arg(a));
        spin_[k]->setRange(-180, 180);
        spin_[k]->setDecimals(1);
        spin_[k]->setSuffix("°");
        spin_[k]->setToolTip(tips[a]);
        hold_width(spin_[k], "-180.0°00000");
        connect(slider_[k], &QSlider::valueChanged, this, [this, k](int v) {
            if (filling_) return;
            spin_[k]->setValue(v);
        });
        connect(spin_[k], &QDoubleSpinBox::valueChanged, this, &RestTab::turned);
        connect(slider_[k], &QSlider::sliderReleased, &rest_, &RestController::end_turn);
        connect(spin_[k], &QDoubleSpinBox::editingFinished, &rest_, &RestController::end_turn);
        auto* label = new QLabel(names[a]);
        label->setBuddy(spin_[k]);
        grid->addWidget(label, a, 0);
        grid->addWidget(slider_[k], a, 1);
        grid->addWidget(spin_[k], a, 2);
    }
    column->addLayout(grid);
    alike_ = new QCheckBox(tr("Left and right alike"));
    alike_->setObjectName("rest_alike");
    alike_->setChecked(rest_.alike());
    connect(alike_, &QCheckBox::toggled, &rest_, &RestController::set_alike);
    column->addWidget(alike_);
}

void RestTab::build_views(QVBoxLayout* column) {
    for (std::size_t k = 0; k < view_.size(); ++k) {
        view_[k] = new QComboBox;
        view_[k]->setObjectName(QString("rest_view_%1").arg(k));
        connect(view_[k], &QComboBox::activated, this,
                [this, k](int i) { rest_.set_view(k, view_[k]->itemData(i).toInt()); });
    }
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setVerticalSpacing(3);
    form->addRow(tr("First view"), view_[0]);
    form->addRow(tr("Second view"), view_[1]);
    form->addRow(tr("Third view"), view_[2]);
    column->addLayout(form);
    name_ = new QLineEdit;
    name_->setObjectName("rest_name");
    name_->setPlaceholderText(tr("Name of the new morph"));
    use_ = button(tr("Use as rest pose"), "rest_use", tr("Keeps the shape without the pose as a morph"), true);
    connect(use_, &QPushButton::clicked, this, [this] {
        const QString name = name_->text().trimmed();
        rest_.use_as_rest(name.isEmpty() ? tr("At rest") : name);
    });
    connect(name_, &QLineEdit::returnPressed, use_, &QPushButton::click);
    column->addWidget(name_);
    column->addWidget(use_);
}

void RestTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void RestTab::turned() {
    if (filling_) return;
    rest_.turn(rest_.joint(), {spin_[0]->value(), spin_[1]->value(), spin_[2]->value()});
}

// Those that are turned come first.
void RestTab::list_joints() {
    const auto& joints = s_.state().kit->joints;
    std::vector<std::size_t> order;
    if (rest_.found()) order = rest_.found()->turned;
    for (std::size_t j = 0; j < joints.size(); ++j)
        if (std::find(order.begin(), order.end(), j) == order.end()) order.push_back(j);
    if (order != listed_) {
        joints_->clear();
        for (const std::size_t j : order) {
            auto* item = new QTreeWidgetItem({joint_text(joints[j].name), ""});
            item->setData(0, kJoint, static_cast<int>(j));
            item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
            joints_->addTopLevelItem(item);
        }
        listed_ = order;
    }
    for (std::size_t i = 0; i < order.size(); ++i) {
        const double angle = Eigen::AngleAxisd(rest_.pose().turns[order[i]]).angle() * 180 / M_PI;
        QTreeWidgetItem* item = joints_->topLevelItem(static_cast<int>(i));
        item->setText(1, angle > kShownDegrees ? QString::number(angle, 'f', 1) + "°" : QString());
        if (static_cast<int>(order[i]) == rest_.joint()) joints_->setCurrentItem(item);
    }
}

void RestTab::refresh() {
    if (!isVisible()) return;
    filling_ = true;
    const bool can = rest_.can_pose();
    for (QWidget* w : {static_cast<QWidget*>(find_), static_cast<QWidget*>(joints_), static_cast<QWidget*>(to_a_),
                       static_cast<QWidget*>(to_t_), static_cast<QWidget*>(alike_)})
        w->setEnabled(can);
    if (can) list_joints();
    const Vec3 degrees = rest_.degrees(rest_.joint());
    for (int a = 0; a < 3; ++a) {
        const auto k = static_cast<std::size_t>(a);
        slider_[k]->setEnabled(can && rest_.joint() >= 0);
        spin_[k]->setEnabled(can && rest_.joint() >= 0);
        if (!spin_[k]->hasFocus() || std::abs(spin_[k]->value() - degrees[a]) > 0.1) spin_[k]->setValue(degrees[a]);
        slider_[k]->setValue(static_cast<int>(std::lround(degrees[a])));
    }
    for (std::size_t k = 0; k < view_.size(); ++k) {
        view_[k]->clear();
        for (int pose = -2; pose < static_cast<int>(rest_.stock().size()); ++pose)
            view_[k]->addItem(stock_pose_name(rest_, pose), pose);
        view_[k]->setCurrentIndex(rest_.view(k) + 2);
        view_[k]->setEnabled(can);
    }
    clear_->setEnabled(can && rest_.any_turn());
    use_->setEnabled(can && rest_.any_turn());
    name_->setEnabled(can);
    if (!can)
        said_->setText(rest_.from() == RestController::From::Fit ? tr("There is no fit yet.")
                                                                 : tr("The base has no joints: it knows no poses."));
    else if (!rest_.found())
        said_->setText(
            tr("A pose that is still in the shape is found, or turned by hand: select a joint in the list "
               "or on the figure."));
    else if (rest_.found()->turned.empty())
        said_->setText(tr("No joint is turned: the shape stands as the base."));
    else
        said_->setText(tr("%n joint(s) are turned. What no turn explains, median: %1.", nullptr,
                          static_cast<int>(rest_.found()->turned.size()))
                           .arg(length_text(rest_.found()->left_mm, 1)));
    const FitRecord* fit = s_.state().fit();
    if (can && fit && rest_.from() == RestController::From::Fit) {
        const QStringList unsure = unsure_at_rest(fit->figures, kUnsureShown);
        if (!unsure.isEmpty()) said_->setText(said_->text() + ' ' + tr("Least sure: %1.").arg(unsure.join(", ")));
    }
    filling_ = false;
}

}  // namespace veld
