#include "app/stations/base/reduced_tab.h"

#include "app/ask.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {

ReducedTab::ReducedTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    list_ = column_list("base_reduced", tr("Reduced versions"), {tr("Version"), tr("Vertices")}, 100);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!filling_ && item) c_.select_reduced(item->data(0, Qt::UserRole).toString().toStdString());
    });
    column->addWidget(list_, 1);
    figures_ = text_label({}, "plain");
    figures_->setObjectName("base_reduced_figures");
    column->addWidget(figures_);
    auto* add = button(tr("Add…"), "base_reduced_add", tr("A mesh of fewer vertices that lies on the base"));
    remove_ = button(tr("Remove"), "base_reduced_remove", tr("Takes the selected version out of the kit"));
    connect(add, &QPushButton::clicked, this, &ReducedTab::ask_for_file);
    connect(remove_, &QPushButton::clicked, this, [this] { c_.remove_reduced(c_.reduced()); });
    column->addLayout(flow({add, remove_}));
    connect(&s_, &Session::changed, this, &ReducedTab::refresh);
    connect(&c_, &BaseController::changed, this, &ReducedTab::refresh);
    refresh();
}

void ReducedTab::ask_for_file() {
    const QStringList paths = s_.files().open_several(this, tr("Reduced versions of the base"),
                                                      s_.files().last_folder(), tr("Meshes (*.obj *.glb *.ply)"));
    for (const QString& path : paths) c_.add_reduced(path);
}

void ReducedTab::refresh() {
    if (c_.page() != BaseController::Page::Reduced) return;
    filling_ = true;
    list_->clear();
    const bool kit = s_.has_kit(), any = kit && !s_.state().kit->reduced.empty();
    if (kit) {
        for (const KitReduced& version : s_.state().kit->reduced) {
            const QString name = QString::fromStdString(version.name);
            auto* item =
                new QTreeWidgetItem(list_, {name, QLocale().toString(static_cast<qulonglong>(version.vertices))});
            item->setData(0, Qt::UserRole, name);
            item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
            if (version.name == c_.reduced()) list_->setCurrentItem(item);
        }
    }
    list_->setVisible(any);
    hint_->setText(any ? tr("Every shape of the base is one of theirs too. Deliver writes them with the morphs.")
                       : tr("Meshes of fewer vertices (levels of detail) that lie on the base. Every morph can then "
                            "be written for each of them."));
    const auto shown = c_.shown_reduced();
    figures_->setVisible(shown != nullptr);
    if (shown)
        figures_->setText(tr("%1 from the base (median), at most %2")
                              .arg(length_text(shown->median_mm(), 2), length_text(shown->most_mm(), 2)));
    remove_->setEnabled(kit && !c_.reduced().empty());
    filling_ = false;
}

}  // namespace veld
