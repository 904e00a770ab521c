#include "app/window/shortcut_sheet.h"

#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QTimer>
#include <map>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {
constexpr int kSheetWidth = 520, kSheetHeight = 600;
}

ShortcutSheet::ShortcutSheet(Commands& commands, QWidget* parent) : QDialog(parent), commands_(commands) {
    setObjectName("shortcut_sheet");
    setWindowTitle(tr("Shortcuts"));
    resize(kSheetWidth, kSheetHeight);
    auto* column = new QVBoxLayout(this);
    list_ = new QTreeWidget;
    list_->setObjectName("shortcuts");
    list_->setAccessibleName(tr("Shortcuts"));
    list_->setColumnCount(2);
    list_->setHeaderLabels({tr("Command"), tr("Key")});
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    column->addWidget(list_);
    said_ = text_label(tr("Click a key and press another. Backspace removes it."), "dim");
    said_->setObjectName("shortcuts_said");
    column->addWidget(said_);
    auto* standard = button(tr("Reset all keys"), "shortcuts_reset");
    auto* done = button(tr("Close"), "shortcuts_close", {}, true);
    column->addLayout(row({standard, done}));
    connect(standard, &QPushButton::clicked, this, [this] {
        commands_.standard_keys();
        refresh();
    });
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    refresh();
}

void ShortcutSheet::refresh() {
    list_->clear();
    std::map<QString, QTreeWidgetItem*> menus;
    for (const Commands::Entry& e : commands_.all()) {
        QTreeWidgetItem*& menu = menus[e.menu];
        if (!menu) {
            menu = new QTreeWidgetItem(list_, {e.menu});
            menu->setFirstColumnSpanned(true);
            menu->setForeground(0, theme::ink().dim);
        }
        auto* line = new QTreeWidgetItem(menu, {QString(e.action->text()).remove('&')});
        line->setToolTip(0, e.action->property("hint").toString());
        auto* key = new QKeySequenceEdit(e.action->shortcut());
        const QString id = e.action->objectName();
        key->setObjectName("key_" + id);
        key->setAccessibleName(line->text(0));
        list_->setItemWidget(line, 1, key);
        connect(key, &QKeySequenceEdit::editingFinished, this, [this, id, key] {
            // after its event: the list is made anew
            QTimer::singleShot(0, this, [this, id, typed = key->keySequence()] { take(id, typed); });
        });
    }
    list_->expandAll();
}

void ShortcutSheet::take(const QString& id, const QKeySequence& typed) {
    const QAction* action = commands_.find(id);
    // one key at a time: a sequence of several is nothing that a hand does all day
    const QKeySequence key =
        typed.isEmpty() || typed[0].key() == Qt::Key_Backspace ? QKeySequence() : QKeySequence(typed[0]);
    if (!action || action->shortcut() == key) return;
    const QString other = commands_.set_key(id, key);
    said_->setText(
        other.isEmpty()
            ? tr("Kept.")
            : tr("%1 belongs to “%2”: change that one first.").arg(key.toString(QKeySequence::NativeText), other));
    refresh();
}

}  // namespace veld
