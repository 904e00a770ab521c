#pragma once
// Pages of a panel one below the other, each under a bar that unfolds it. One is open at a time: what it holds has the
// room that is left, and what the views do follows it.
#include <QScrollArea>
#include <QToolButton>
#include <QWidget>
#include <vector>

class QVBoxLayout;

namespace veld {

class Sections : public QWidget {
    Q_OBJECT
 public:
    // name: object name, and what its bars' names begin with
    explicit Sections(const char* name, QWidget* parent = nullptr);
    void add(QWidget* page, const QString& title, const QString& hint = {});

    int count() const { return static_cast<int>(all_.size()); }
    int current() const { return current_; }  // -1: all are folded
    void set_offered(int i, bool on);         // off: its bar is not shown
    QWidget* page(int i) const;
    QString title(int i) const;

 public slots:
    void set_current(int i);

 signals:
    void current_changed(int i);

 private:
    struct One {
        QToolButton* bar = nullptr;
        QScrollArea* area = nullptr;
        QWidget* page = nullptr;
    };
    std::vector<One> all_;
    QVBoxLayout* column_;
    int current_ = -1;
};

}  // namespace veld
