#include "app/stations/bank/moves_tab.h"

#include <QFormLayout>
#include <QHeaderView>
#include <cmath>

#include "app/scene/joint_marks.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"
#include "core/morph/morph.h"

namespace veld {
namespace {

constexpr int kJoint = Qt::UserRole;
constexpr double kFarMm = 500, kShownMm = 0.05;

}  // namespace

MovesTab::MovesTab(Session& session, MovesController& moves, QWidget* parent)
    : QWidget(parent), s_(session), moves_(moves) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    morph_ = new QComboBox;
    morph_->setObjectName("moves_morph");
    connect(morph_, &QComboBox::activated, this, [this](int i) {
        const std::vector<BankEntry>& bank = s_.state().bank;
        if (i >= 0 && static_cast<std::size_t>(i) < bank.size()) moves_.choose(bank[static_cast<std::size_t>(i)].id);
    });
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->addRow(tr("Morph"), morph_);
    column->addLayout(form);
    said_ = text_label({}, "dim");
    said_->setObjectName("moves_said");
    column->addWidget(said_);
    build_list(column);
    build_moves(column);
    connect(&moves_, &MovesController::changed, this, &MovesTab::refresh);
    refresh();
}

void MovesTab::build_list(QVBoxLayout* column) {
    joints_ = new QTreeWidget;
    joints_->setObjectName("moves_joints");
    joints_->setAccessibleName(tr("Joints"));
    joints_->setRootIsDecorated(false);
    joints_->setHeaderLabels({tr("Joint"), tr("Moves by"), tr("Fixed")});
    joints_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (const int c : {1, 2}) joints_->header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    joints_->header()->setStretchLastSection(false);
    joints_->setMinimumHeight(96);
    connect(joints_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) moves_.select(item->data(0, kJoint).toString().toStdString());
    });
    column->addWidget(joints_, 1);
}

void MovesTab::build_moves(QVBoxLayout* column) {
    const QString names[] = {tr("To its left"), tr("Up"), tr("To the front")};
    const QString tip = tr("The joint's move when the slider is at 1; typing one fixes it to the morph");
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setVerticalSpacing(3);
    const char* boxes[] = {"moves_x", "moves_y", "moves_z"};
    for (std::size_t k = 0; k < 3; ++k) {
        move_[k] = new LengthBox(boxes[k], -kFarMm, kFarMm, 1, 1, tip);
        connect(move_[k], &QDoubleSpinBox::valueChanged, this, [this] {
            if (!filling_)
                moves_.set_move(moves_.selected(), {move_[0]->value(), move_[1]->value(), move_[2]->value()}, true);
        });
        connect(move_[k], &QDoubleSpinBox::editingFinished, &moves_, &MovesController::end_drag);
        form->addRow(names[k], move_[k]);
    }
    column->addLayout(form);
    alike_ = new QCheckBox(tr("Left and right alike"));
    alike_->setObjectName("moves_alike");
    alike_->setChecked(moves_.alike());
    connect(alike_, &QCheckBox::toggled, &moves_, &MovesController::set_alike);
    column->addWidget(alike_);
    fix_all_ =
        button(tr("Fix all"), "moves_fix", tr("Keeps every joint's move with the morph, as its shape tells it now"));
    release_ = button(tr("Release"), "moves_release", tr("The shape tells the selected joint's move again"));
    release_all_ = button(tr("Release all"), "moves_release_all", tr("The shape tells every joint's move again"));
    connect(fix_all_, &QPushButton::clicked, &moves_, &MovesController::fix_all);
    connect(release_, &QPushButton::clicked, this, [this] { moves_.release(moves_.selected()); });
    connect(release_all_, &QPushButton::clicked, &moves_, &MovesController::release_all);
    column->addLayout(row({fix_all_, release_, release_all_}));
}

void MovesTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void MovesTab::list_joints() {
    const std::vector<Joint>& joints = s_.state().kit->joints;
    if (joints_->topLevelItemCount() != static_cast<int>(joints.size())) {
        joints_->clear();
        for (const Joint& joint : joints) {
            auto* item = new QTreeWidgetItem({joint_text(joint.name), {}, {}});
            item->setData(0, kJoint, QString::fromStdString(joint.name));
            item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
            joints_->addTopLevelItem(item);
        }
    }
    for (std::size_t j = 0; j < joints.size(); ++j) {
        QTreeWidgetItem* item = joints_->topLevelItem(static_cast<int>(j));
        const double mm = moves_.move(joints[j].name).norm();
        item->setText(1, mm > kShownMm ? length_text(mm, 1) : QString());
        item->setText(2, moves_.fixed(joints[j].name) ? "◆" : QString());
        if (joints[j].name == moves_.selected() && joints_->currentItem() != item) {
            joints_->setCurrentItem(item);
            joints_->scrollToItem(item);
        }
    }
}

QString MovesTab::told() const {
    const BankEntry* of = moves_.entry();
    if (!moves_.has_joints()) return tr("The base has no joints.");
    if (!of) return tr("The bank has no morphs yet.");
    if (moves_.in_mix() == 0) return tr("It is not on in the mix: what you move here is not seen there.");
    const auto count = static_cast<int>(of->morph->joints.size());
    return count ? tr("%n joint(s) are fixed (◆); the shape tells the others.", nullptr, count)
                 : tr("The shape tells where the joints go. Drag one on the mix, or type its move: it is fixed then.");
}

void MovesTab::refresh() {
    if (!isVisible()) return;
    filling_ = true;
    const BankEntry* of = moves_.entry();
    morph_->clear();
    for (const BankEntry& e : s_.state().bank) {
        morph_->addItem(QString::fromStdString(e.morph->name));
        if (of && e.id == of->id) morph_->setCurrentIndex(morph_->count() - 1);
    }
    const bool can = of && moves_.has_joints(), one = can && !moves_.selected().empty();
    for (QWidget* w : {static_cast<QWidget*>(morph_), static_cast<QWidget*>(joints_), static_cast<QWidget*>(alike_),
                       static_cast<QWidget*>(fix_all_)})
        w->setEnabled(can);
    if (can) list_joints();
    const Vec3 move = one ? moves_.move(moves_.selected()) : Vec3(Vec3::Zero());
    for (std::size_t k = 0; k < 3; ++k) {
        move_[k]->setEnabled(one);
        const double mm = move[static_cast<int>(k)];
        if (!move_[k]->hasFocus() || std::abs(move_[k]->value() - mm) > kShownMm) move_[k]->setValue(mm);
    }
    release_->setEnabled(one && moves_.fixed(moves_.selected()));
    release_all_->setEnabled(moves_.any_fixed());
    said_->setText(told());
    filling_ = false;
}

}  // namespace veld
