#pragma once
// What a person sets once: look, size of text, mouse, autosave, threads. Kept on this machine, taken up at once.
#include <QComboBox>
#include <QDialog>
#include <QSpinBox>
#include <functional>

class QApplication;
class QCheckBox;
class QFormLayout;
class QPushButton;

namespace veld {

class PathLabel;

constexpr int kMinuteMs = 60000;

// As they are kept; ranges are held.
struct PreferenceValues {
    int theme = 0;           // 0 dark, 1 light
    int text_percent = 100;  // of the usual size
    int mouse = 0;           // MouseButtons
    bool wheel_reversed = false;
    int turn = 0, move = 7;  // of the mouse's own arrangement: which of holds()
    int colours = 0;         // ColourVision
    int units = 0;           // LengthUnit
    QString language = {};   // empty: the machine's
    int autosave_minutes = 1;
    int threads = 0;            // 0: all
    QString cache_folder = {};  // empty: the usual one
    int cache_mb = 500;
};
PreferenceValues read_preferences();
void keep_preferences(const PreferenceValues& values);
// Look, size of text, mouse and threads of the whole program.
void take_up(const PreferenceValues& values, QApplication& app);

class Preferences : public QDialog {
    Q_OBJECT
 public:
    explicit Preferences(QWidget* parent);

 signals:
    void changed(const veld::PreferenceValues& values);

 private:
    void fill(const PreferenceValues& values);
    void build_look(QFormLayout* form);
    void build_habits(QFormLayout* form);
    void take();
    void show_holds();
    void build_cache(QFormLayout* form);
    void show_cache();
    void choose_cache_folder();

    QComboBox *theme_, *text_, *colours_, *units_, *language_, *mouse_, *turn_, *move_;
    QCheckBox* wheel_;
    QSpinBox *autosave_, *threads_, *cache_mb_;
    PathLabel* cache_folder_;
    QPushButton* cache_empty_;
    QString cache_;  // the folder of one's own
    bool filling_ = false;
};

}  // namespace veld
