#include "app/stations/base/kit_tab.h"

#include <QFileInfo>
#include <QHeaderView>

#include "app/ask.h"
#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/base_kit.h"

namespace veld {
namespace {

// Where what is missing is mended.
BaseController::Page page_for(const QString& missing, const std::string& ability) {
    using Page = BaseController::Page;
    if (missing.startsWith("region") || ability == "mirrored work" || ability == "head and body shares")
        return Page::Regions;
    if (missing.startsWith("part") || missing.startsWith("the ball")) return Page::Parts;
    if (missing.contains("landmark") || missing.startsWith("guide")) return Page::Landmarks;
    if (missing.startsWith("joints")) return Page::Joints;
    if (ability == "expressions") return Page::Expressions;
    return Page::New;
}

}  // namespace

KitTab::KitTab(Session& session, BaseController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    folder_ = new PathLabel;
    folder_->setObjectName("base_folder");
    column->addWidget(folder_);
    counts_ = text_label({}, "dim");
    counts_->setObjectName("base_counts");
    column->addWidget(counts_);
    list_ = new QTreeWidget;
    list_->setObjectName("base_abilities");
    list_->setAccessibleName(tr("What this kit can do"));
    list_->setHeaderLabels({tr("What this kit can do")});
    list_->setIndentation(18);
    list_->setWordWrap(true);
    list_->setMinimumHeight(150);
    list_->setToolTip(tr("A double click on what is missing goes to where it is mended"));
    connect(list_, &QTreeWidget::itemActivated, this, &KitTab::mend);
    column->addWidget(list_, 1);
    save_ = button(tr("Save the kit"), "base_save",
                   tr("Writes what was corrected into the kit's folder, for every project on it"), true);
    save_as_ = button(tr("Save elsewhere…"), "base_save_as", tr("A copy of the kit in a new folder"));
    again_ = button(tr("Make again"), "base_again",
                    tr("Makes another kit from this one's file, with the landmarks and parts that you corrected; "
                       "regions and roles are "
                       "found anew. This one stays as it is"));
    connect(save_, &QPushButton::clicked, this, &KitTab::save);
    connect(save_as_, &QPushButton::clicked, this, &KitTab::save_as);
    connect(again_, &QPushButton::clicked, &c_, &BaseController::make_again);
    share_ = button(tr("Share as zip…"), "base_share", tr("The kit's folder as one file"));
    try_ = button(tr("Try a head"), "base_try", tr("Fits a made-up head onto this kit, and says how well it went"));
    connect(share_, &QPushButton::clicked, this, &KitTab::share);
    connect(try_, &QPushButton::clicked, &c_, &BaseController::try_out);
    column->addLayout(flow({save_, save_as_, again_, share_, try_}));
    trial_ = text_label({}, "plain");
    trial_->setObjectName("base_trial");
    column->addWidget(trial_);
    report_ = text_label({}, "dim");
    report_->setObjectName("base_report");
    report_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(report_);
    connect(&s_, &Session::changed, this, &KitTab::refresh);
    connect(&s_, &Session::busy_changed, this, &KitTab::refresh);
    connect(&c_, &BaseController::changed, this, &KitTab::refresh);
    refresh();
}

void KitTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void KitTab::refresh() {
    const bool kit = s_.has_kit();
    save_->setEnabled(kit && c_.is_changed());
    save_as_->setEnabled(kit);
    share_->setEnabled(kit);
    try_->setEnabled(kit && !c_.trying());
    const KitTrial* trial = kit ? c_.trial() : nullptr;
    trial_->setVisible(trial != nullptr);
    if (trial)
        trial_->setText(
            tr("A made-up head on this kit: %1 (median), %2 (95 %) apart; %3 faces turned over, %4 new "
               "cuts through itself.")
                .arg(length_text(trial->figures.surface.median, 2), length_text(trial->figures.surface.p95, 2))
                .arg(trial->figures.flipped_faces)
                .arg(trial->figures.self_intersections));
    again_->setVisible(kit && s_.state().kit->original.has_value());
    again_->setEnabled(!c_.making() && (c_.is_changed() || c_.told() > 0));
    if (!isVisible()) return;
    folder_->setText(kit ? QString::fromStdString(s_.state().kit->folder) : tr("No kit is open."));
    folder_->setToolTip(folder_->text());
    counts_->setVisible(kit);
    if (kit) {
        const BaseKit& k = *s_.state().kit;
        const QLocale number;
        QString text = tr("%1 vertices, %2 faces")
                           .arg(number.toString(k.mesh.vertex_count()), number.toString(k.mesh.face_count()));
        if (k.original) text += tr("; made from a file, in whose order and unit everything goes out");
        if (c_.is_changed()) text += tr("; corrected, not saved in its folder yet");
        counts_->setText(text + ".");
    }
    fill();
    const bool of_this = kit && c_.report_folder() == s_.state().kit->folder;
    report_->setVisible(of_this && !c_.report().isEmpty());
    if (of_this) report_->setText(c_.report().join("\n"));
}

void KitTab::fill() {
    list_->clear();
    const auto add = [&](QTreeWidgetItem* to, const QString& text, const std::string& ability,
                         const std::string& missing) {
        auto* item = new QTreeWidgetItem(to, {text});
        item->setData(0, Qt::UserRole, QString::fromStdString(missing));
        item->setData(0, Qt::UserRole + 1, QString::fromStdString(ability));
        item->setForeground(0, theme::ink().dim);
        item->setToolTip(0, text);
    };
    for (const KitAbility& a : c_.abilities()) {
        auto* item = new QTreeWidgetItem(list_, {core_word(a.name)});
        item->setIcon(0, a.ready() ? theme::icon("done", &theme::Ink::fine) : theme::icon("warn", &theme::Ink::doubt));
        item->setData(0, Qt::UserRole + 1, QString::fromStdString(a.name));
        for (const std::string& m : a.missing) add(item, tr("needs %1").arg(QString::fromStdString(m)), a.name, m);
        for (const std::string& w : a.weak) add(item, tr("better with %1").arg(QString::fromStdString(w)), a.name, w);
        item->setExpanded(!a.ready());
        item->setToolTip(0, a.ready() ? tr("It can do that.") : tr("It cannot do that yet."));
    }
}

void KitTab::mend(QTreeWidgetItem* item) {
    const QString missing = item->data(0, Qt::UserRole).toString();
    const std::string ability = item->data(0, Qt::UserRole + 1).toString().toStdString();
    if (missing.isEmpty()) return;
    const auto page = page_for(missing, ability);
    if (missing.startsWith("region ")) c_.select_region(missing.mid(7).toStdString());
    if (ability == "mirrored work") c_.select_region(BaseController::kUnpaired);
    if (missing.startsWith("the neck")) c_.select_region(BaseController::kNeckRing);
    c_.set_page(page);
}

void KitTab::save() {
    if (auto ok = c_.save(); !ok) return s_.report(ok.error());
    emit s_.noticed(tr("The kit is saved in %1").arg(QString::fromStdString(s_.state().kit->folder)));
}

void KitTab::share() {
    const QString name = QFileInfo(QString::fromStdString(s_.state().kit->folder)).fileName();
    QString path = s_.files().save(this, tr("Share the kit"), s_.files().last_folder() + "/" + name + ".zip",
                                   tr("Zip archive (*.zip)"));
    if (path.isEmpty()) return;
    if (!path.endsWith(".zip")) path += ".zip";
    if (c_.is_changed()) emit s_.noticed(tr("What was corrected and is not saved is not in it."));
    c_.share(path);
}

void KitTab::save_as() {
    const QString folder = s_.files().folder(this, tr("A new folder for the kit"), s_.files().last_folder());
    if (folder.isEmpty()) return;
    if (auto ok = c_.save_as(folder); !ok) return s_.report(ok.error());
    emit s_.noticed(tr("The kit is saved in %1").arg(folder));
}

}  // namespace veld
