#include "app/window/guide_window.h"

#include <QAbstractTextDocumentLayout>
#include <QCoreApplication>
#include <QFile>
#include <QResource>
#include <QScrollBar>
#include <QSplitter>
#include <QTextBlock>
#include <QTimer>
#include <QVBoxLayout>

namespace veld {
namespace {

constexpr int kGuideWidth = 940, kGuideHeight = 700, kHeadingsWidth = 210, kPictureWidth = 640;

// Pictures as wide as the page.
class Pages : public QTextBrowser {
 public:
    QVariant loadResource(int type, const QUrl& name) override {
        if (type != QTextDocument::ImageResource) return QTextBrowser::loadResource(type, name);
        const QImage picture(":/guide/" + name.path());
        return picture.isNull() ? QVariant() : picture.scaledToWidth(kPictureWidth, Qt::SmoothTransformation);
    }
};

QString guide_text() {
    const bool found = load_guide();
    QFile file(":/guide/guide.md");
    if (found && file.open(QIODevice::ReadOnly)) return QString::fromUtf8(file.readAll());
    return GuideWindow::tr("The guide is missing: veldstone-guide.rcc should lie beside the program. Build it again.");
}

}  // namespace

bool load_guide() {
    static const bool found =
        QResource::registerResource(QCoreApplication::applicationDirPath() + "/veldstone-guide.rcc");
    return found;
}

GuideWindow::GuideWindow(QWidget* parent) : QDialog(parent) {
    setObjectName("guide");
    setWindowTitle(tr("Guide"));
    resize(kGuideWidth, kGuideHeight);
    auto* column = new QVBoxLayout(this);
    words_ = new QLineEdit;
    words_->setObjectName("guide_words");
    words_->setPlaceholderText(tr("Find in the guide (Return: the next place)"));
    words_->setAccessibleName(tr("Find in the guide"));
    words_->setClearButtonEnabled(true);
    column->addWidget(words_);
    auto* across = new QSplitter;
    headings_ = new QListWidget;
    headings_->setObjectName("guide_headings");
    headings_->setAccessibleName(tr("Headings"));
    pages_ = new Pages;
    pages_->setObjectName("guide_pages");
    pages_->setAccessibleName(tr("Guide"));
    pages_->setOpenLinks(false);
    pages_->document()->setDocumentMargin(16);
    pages_->setMarkdown(guide_text());
    across->addWidget(headings_);
    across->addWidget(pages_);
    across->setSizes({kHeadingsWidth, kGuideWidth - kHeadingsWidth});
    across->setStretchFactor(1, 1);
    column->addWidget(across, 1);
    list_headings();
    connect(headings_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0)
            show_block(pages_->document()->findBlockByNumber(headings_->item(row)->data(Qt::UserRole).toInt()));
    });
    connect(words_, &QLineEdit::returnPressed, this, &GuideWindow::find_next);
}

void GuideWindow::list_headings() {
    for (QTextBlock block = pages_->document()->begin(); block.isValid(); block = block.next()) {
        const int level = block.blockFormat().headingLevel();
        if (level < 2 || level > 3) continue;  // the first is the guide's own title
        auto* item = new QListWidgetItem(QString(3 * (level - 2), ' ') + block.text(), headings_);
        item->setData(Qt::UserRole, block.blockNumber());
    }
}

void GuideWindow::show_block(const QTextBlock& block) {
    pages_->setTextCursor(QTextCursor(block));
    const double top = pages_->document()->documentLayout()->blockBoundingRect(block).top();
    pages_->verticalScrollBar()->setValue(static_cast<int>(top));
}

bool GuideWindow::go_to(const QString& heading) {
    for (int i = 0; i < headings_->count(); ++i) {
        if (headings_->item(i)->text().trimmed() != heading) continue;
        headings_->setCurrentRow(-1);
        // when it is laid out at its size
        QTimer::singleShot(0, this, [this, i] { headings_->setCurrentRow(i); });
        return true;
    }
    return false;
}

// From the top again after the last place.
void GuideWindow::find_next() {
    if (pages_->find(words_->text())) return;
    pages_->moveCursor(QTextCursor::Start);
    pages_->find(words_->text());
}

}  // namespace veld
