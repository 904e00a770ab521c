#pragma once
// The guide inside the program: its headings at the left, a search above, pictures and all.
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QTextBrowser>

namespace veld {

class GuideWindow : public QDialog {
    Q_OBJECT
 public:
    explicit GuideWindow(QWidget* parent);

    // At the heading with this text; another one: where it stands. False: there is none.
    bool go_to(const QString& heading);
    QTextBrowser* pages() const { return pages_; }

 private:
    void list_headings();
    void find_next();
    void show_block(const QTextBlock& block);

    QLineEdit* words_;
    QListWidget* headings_;
    QTextBrowser* pages_;
};

// Guide and pictures lie beside the program, under :/guide once they are loaded; false: they are not there.
bool load_guide();

}  // namespace veld
