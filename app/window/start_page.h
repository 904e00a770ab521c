#pragma once
// In place of the views while nothing is open: how to begin, and what happens then.
#include <QVBoxLayout>
#include <QWidget>

namespace veld {

class StartPage : public QWidget {
    Q_OBJECT
 public:
    explicit StartPage(QWidget* parent = nullptr);
    // Projects that were open lately and are still there.
    void set_recent(const QStringList& paths);

 signals:
    void demo_wanted();
    void new_wanted();
    void make_kit_wanted();
    void open_wanted();
    void recent_wanted(const QString& path);

 private:
    QWidget* build_ways();
    QWidget* build_pictures();

    QVBoxLayout* recent_;
};

// The demo's folder beside the program or above it; empty: it is not there.
QString demo_folder();

}  // namespace veld
