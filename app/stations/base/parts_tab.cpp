#include "app/stations/base/parts_tab.h"

#include "app/region_names.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {
namespace {

constexpr const char* kParts[] = {"skin",   "eye_l",  "eye_r",    "teeth_upper", "teeth_lower", "tongue",
                                  "lash_l", "lash_r", "lid_edge", "brows",       "nails",       "other"};

QString plain_rule(PartRule rule) {
    switch (rule) {
        case PartRule::Eye:
            return PartsTab::tr("the eyeball");
        case PartRule::UpperJaw:
            return PartsTab::tr("the upper jaw");
        case PartRule::LowerJaw:
            return PartsTab::tr("the lower jaw");
        case PartRule::Edge:
            return PartsTab::tr("the edge of the lids");
        case PartRule::Skin:
            return PartsTab::tr("the skin around it");
    }
    return {};
}

}  // namespace

PartsTab::PartsTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    list_ = column_list("base_parts", tr("Parts"), {tr("Part"), tr("Vertices")}, 120);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.select_part(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    is_ = new QComboBox;
    is_->setObjectName("base_piece_is");
    is_->setAccessibleName(tr("What the piece is"));
    for (const char* name : kParts) is_->addItem(plain_region(name), QString(name));
    connect(is_, &QComboBox::activated, this,
            [this](int i) { c_.tell_piece(is_->itemData(i).toString().toStdString()); });
    column->addLayout(row({text_label(tr("This piece is"), "plain"), is_}));
    goes_ = new QComboBox;
    goes_->setObjectName("base_part_goes");
    goes_->setAccessibleName(tr("What the part goes with"));
    for (const PartRule rule : kAllPartRules) goes_->addItem(plain_rule(rule), static_cast<int>(rule));
    connect(goes_, &QComboBox::activated, this,
            [this](int i) { c_.set_rule(c_.part(), static_cast<PartRule>(goes_->itemData(i).toInt())); });
    goes_text_ = text_label(tr("It goes with"), "plain");
    column->addLayout(row({goes_text_, goes_}));
    told_ = text_label({}, "plain");
    told_->setObjectName("base_told");
    column->addWidget(told_);
    again_ = button(tr("Make again"), "base_again_parts",
                    tr("Makes another kit from this one's file, with these parts. This one stays as it is"));
    connect(again_, &QPushButton::clicked, &c_, &BaseController::make_again);
    column->addWidget(again_);
    connect(&s_, &Session::changed, this, &PartsTab::refresh);
    connect(&c_, &BaseController::changed, this, &PartsTab::refresh);
    refresh();
}

void PartsTab::refresh() {
    filling_ = true;
    list_->clear();
    const bool kit = s_.has_kit();
    if (kit) {
        for (const KitPart& part : s_.state().kit->parts) {
            auto* item = new QTreeWidgetItem(
                list_, {plain_region(part.name), QLocale().toString(static_cast<qulonglong>(part.vertices.size()))});
            item->setData(0, Qt::UserRole, QString::fromStdString(part.name));
            item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
            if (part.name == c_.part()) list_->setCurrentItem(item);
        }
    }
    const bool from_file = kit && s_.state().kit->original, piece = from_file && !c_.piece().empty();
    hint_->setText(
        !from_file ? tr("Parts can be told otherwise in kits that were made from a file.")
        : piece    ? tr("The piece that you clicked has %n vertices.", nullptr, static_cast<int>(c_.piece().size()))
                   : tr("Click a piece in the view to say what it is."));
    is_->setEnabled(piece);
    if (const int at = is_->findData(QString::fromStdString(c_.part())); at >= 0 && c_.told() == 0)
        is_->setCurrentIndex(at);
    const KitPart* part = kit && c_.part() != "skin" ? s_.state().kit->part(c_.part()) : nullptr;
    for (QWidget* w : {static_cast<QWidget*>(goes_), static_cast<QWidget*>(goes_text_)})
        w->setVisible(part != nullptr);
    if (part) goes_->setCurrentIndex(goes_->findData(static_cast<int>(part->rule())));
    told_->setVisible(c_.told() > 0);
    told_->setText(tr("%n piece(s) will be another part.", nullptr, static_cast<int>(c_.told())));
    again_->setVisible(c_.told() > 0);
    again_->setEnabled(!c_.making());
    filling_ = false;
}

}  // namespace veld
