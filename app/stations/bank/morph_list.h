#pragma once
// The bank's morphs with their sliders, by group. Only what is in sight has widgets, so hundreds cost no more than
// ten.
#include <QAbstractScrollArea>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QSlider>
#include <QToolButton>
#include <set>

#include "app/session.h"
#include "core/morph/morph.h"

namespace veld {

// One morph: marks, name, slider, number.
class MorphRow : public QWidget {
    Q_OBJECT
 public:
    MorphRow();
    void show_entry(const BankEntry& entry, std::size_t number, bool beyond);
    std::size_t number() const { return number_; }

 signals:
    void amount_changed(std::size_t number, double amount, bool dragging);
    void released();
    void flag_changed(std::size_t number, int flag, bool on);  // 0 favourite, 1 solo, 2 muted
    void menu_wanted(std::size_t number, QPoint at);

 protected:
    bool eventFilter(QObject* object, QEvent* event) override;

 private:
    QToolButton* flag(const char* name, const QString& text, const QString& tip, int which);

    std::size_t number_ = 0;
    double usual_ = 0;
    std::shared_ptr<const Morph> shown_;
    QLabel *tag_, *name_;
    QSlider* slider_;
    QDoubleSpinBox* spin_;
    QToolButton *favourite_, *solo_, *mute_, *menu_;
    bool filling_ = false;
};

class MorphList : public QAbstractScrollArea {
    Q_OBJECT
 public:
    explicit MorphList(QWidget* parent = nullptr);

    struct Filter {
        QString words;
        bool favourites = false, active = false;
        bool operator==(const Filter&) const = default;
    };
    void show_bank(const std::vector<BankEntry>& bank, const Filter& filter, bool beyond);
    std::size_t shown_count() const { return shown_count_; }
    // brings a morph into sight
    void reveal(std::size_t number);

 signals:
    void amount_changed(std::size_t number, double amount, bool dragging);
    void released();
    void flag_changed(std::size_t number, int flag, bool on);
    void menu_wanted(std::size_t number, QPoint at);

 protected:
    void resizeEvent(QResizeEvent* event) override;
    void scrollContentsBy(int dx, int dy) override;
    bool viewportEvent(QEvent* event) override;

 private:
    struct Line {
        int top = 0;
        bool group = false;
        std::string name;        // of a group
        std::size_t count = 0;   // in it
        std::size_t number = 0;  // of a morph
    };
    void lay_out();
    void place();
    MorphRow* free_row();

    std::vector<BankEntry> bank_;
    Filter filter_;
    bool beyond_ = false;
    std::vector<Line> lines_;
    std::size_t shown_count_ = 0;
    int height_ = 0;
    std::set<std::string> closed_;
    std::vector<MorphRow*> rows_;
};

// The colour of a morph's tag; each has a shape of its own as well.
QPixmap tag_picture(int tag, int size);
QString tag_name(int tag);

}  // namespace veld
