#pragma once
// A user who clicks about at random: every action is selected by a seed, recorded before it is done, and can be
// replayed.
#include <QPoint>
#include <QSize>
#include <QString>
#include <fstream>
#include <memory>
#include <random>

#include "app/ask.h"
#include "app/window/main_window.h"

namespace veld {

// One thing that a user does, as a line of text. Places are in the window that takes the event: the popup, else the
// dialog, else the main window.
struct UserAction {
    enum class Kind {
        Click,
        DoubleClick,
        Drag,
        Wheel,
        Key,
        Type,
        Resize,
        Drop,
        Wait,
        Undo,
        Redo,
        Close
    } kind = Kind::Wait;
    int pause_ms = 20;              // before it
    int button = 1, modifiers = 0;  // Qt's numbers
    QPoint from, to;
    int number = 0;  // key, wheel delta, file, times, milliseconds
    QString text;

    QString line() const;
    static UserAction read(const QString& line);
};

struct RandomUserOptions {
    std::uint64_t seed = 1;
    double seconds = 60;
    int actions = 1 << 30;
    QString project;         // opened at the start, and now and then again; empty: none
    QString kit, folder;     // a kit that may be written to; where files may be
    QStringList drops;       // what may be dropped or selected
    QString record, replay;  // files; replay: those actions instead of random ones
};

class RandomUser {
 public:
    explicit RandomUser(RandomUserOptions options);
    ~RandomUser();
    // Runs the application's events until time or actions are over. Empty: all is well; else what is not.
    QString run();
    int actions_done() const { return done_; }
    int changes() const { return changes_; }  // of the documents, undo included

 private:
    void tick();
    void schedule(int ms);
    UserAction next_action();
    UserAction in_menu(QWidget* popup);
    UserAction on_widget(QWidget* target);
    void act(const UserAction& action);
    void mouse(const UserAction& action);
    void open_window(bool with_project);
    void finish();
    QString undone_to_the_beginning();
    QStringList answer_file(const FileAsked& asked);
    int pick(int n) { return static_cast<int>(random_() % static_cast<std::uint64_t>(std::max(n, 1))); }
    bool chance(double p) { return static_cast<double>(random_() % 100000) < 100000 * p; }

    RandomUserOptions o_;
    std::mt19937_64 random_, files_;
    std::unique_ptr<MainWindow> window_;
    std::ofstream record_;
    std::vector<UserAction> replayed_;
    std::string opened_;  // the opened project's state, as text
    ProjectId opened_project_;
    QString trouble_;
    int done_ = 0, changes_ = 0, level_ = 0, windows_ = 0;
    bool acting_ = false, over_ = false;
    qint64 ends_at_ = 0;
};

// The action that is being done, for who watches from outside; and a sign of life of the interface thread.
extern std::atomic<int> g_user_action;
extern std::atomic<long long> g_alive_ms;
long long now_ms();

}  // namespace veld
