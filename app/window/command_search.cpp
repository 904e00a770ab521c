#include "app/window/command_search.h"

#include <QApplication>
#include <QKeyEvent>
#include <QTimer>
#include <QVBoxLayout>

namespace veld {
namespace {

constexpr int kSearchWidth = 440, kSearchHeight = 360;

bool has_all(const QString& text, const QStringList& words) {
    return std::all_of(words.begin(), words.end(),
                       [&](const QString& word) { return text.contains(word, Qt::CaseInsensitive); });
}

}  // namespace

CommandSearch::CommandSearch(Commands& commands, QWidget* parent) : QDialog(parent), commands_(commands) {
    setObjectName("command_search");
    setWindowTitle(tr("Find a command"));
    resize(kSearchWidth, kSearchHeight);
    auto* column = new QVBoxLayout(this);
    words_ = new QLineEdit;
    words_->setObjectName("command_words");
    words_->setPlaceholderText(tr("What do you want to do?"));
    words_->setAccessibleName(tr("What do you want to do?"));
    words_->installEventFilter(this);
    column->addWidget(words_);
    found_ = new QListWidget;
    found_->setObjectName("commands_found");
    found_->setAccessibleName(tr("Commands"));
    column->addWidget(found_);
    connect(words_, &QLineEdit::textChanged, this, &CommandSearch::refresh);
    connect(words_, &QLineEdit::returnPressed, this, &CommandSearch::run);
    connect(found_, &QListWidget::itemClicked, this, &CommandSearch::run);
    refresh();
}

// Those that can be done now first; what cannot is shown too, dim: it exists, but not here.
void CommandSearch::refresh() {
    const QStringList words = words_->text().split(' ', Qt::SkipEmptyParts);
    found_->clear();
    for (const bool on : {true, false}) {
        for (const Commands::Entry& e : commands_.all()) {
            const QString name = e.menu + "  ›  " + QString(e.action->text()).remove('&');
            if (e.action->isEnabled() != on || e.action->objectName() == "help_find" ||
                !has_all(name + " " + e.action->property("hint").toString(), words))
                continue;
            const QString key = e.action->shortcut().toString(QKeySequence::NativeText);
            auto* item = new QListWidgetItem(key.isEmpty() ? name : name + "      " + key, found_);
            item->setData(Qt::UserRole, e.action->objectName());
            item->setToolTip(e.action->property("hint").toString());
            if (!on) item->setFlags(Qt::NoItemFlags);
        }
    }
    found_->setCurrentRow(0);
}

void CommandSearch::run() {
    const QListWidgetItem* item = found_->currentItem();
    if (!item || !(item->flags() & Qt::ItemIsEnabled)) return;
    QAction* action = commands_.find(item->data(Qt::UserRole).toString());
    accept();
    // when this dialog is gone: the command may open another
    if (action) QTimer::singleShot(0, action, &QAction::trigger);
}

bool CommandSearch::eventFilter(QObject* object, QEvent* event) {
    if (object == words_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up || key == Qt::Key_PageDown || key == Qt::Key_PageUp) {
            QApplication::sendEvent(found_, event);
            return true;
        }
    }
    return QDialog::eventFilter(object, event);
}

}  // namespace veld
