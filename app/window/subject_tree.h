#pragma once
// The project's things: subjects, what each has, and in which state it is. Renamed, removed, put in order and
// duplicated by a menu of their own and by keys; files are dropped on the subject that they belong to.
#include <QIcon>
#include <QTreeWidget>
#include <QWidget>
#include <functional>
#include <map>
#include <optional>
#include <tuple>

#include "app/session.h"
#include "app/station.h"
#include "core/project/things.h"

class QDropEvent;
class QKeyEvent;

namespace veld {

class SubjectTree : public QWidget {
    Q_OBJECT
 public:
    explicit SubjectTree(Session& session, QWidget* parent = nullptr);

 signals:
    void go_to(veld::Station station);

 private:
    // What a line stands for: where a click on it leads, whose it is, and what it can be called, moved and removed as.
    struct Line {
        Station station;
        SubjectId subject;
        std::optional<Thing> thing;
        std::optional<Session::PhotoPlace> photo;
    };
    bool eventFilter(QObject* object, QEvent* event) override;
    void refresh();
    QTreeWidgetItem* add_line(QTreeWidgetItem* parent, const QString& text, Line line, bool dim = false);
    void add_subject_lines(const Subject& subject, bool current);
    void add_photo_lines(QTreeWidgetItem* top, const Subject& subject);
    void add_bank_lines();
    QIcon photo_icon(const PhotoSet& set, std::size_t photo);
    QIcon fit_icon(const FitRecord& fit);
    void add_subject();
    void activated(QTreeWidgetItem* item);
    const Line* line_of(const QTreeWidgetItem* item) const;
    void make_current(SubjectId subject);
    void show_menu(const QPoint& at);
    void show_photo_menu(const Session::PhotoPlace& place, const QPoint& at);
    void remove_one(const Session::PhotoPlace& place);
    bool key_pressed(const QKeyEvent& event);
    void ask_name(const Thing& thing);
    void change(const QString& label, const std::function<bool(ProjectState&)>& edit);
    bool dropped(QDropEvent& event, bool now);

    Session& s_;
    std::vector<Line> lines_;                                                     // by the number in the items' data
    std::map<std::tuple<std::uint64_t, std::size_t, std::size_t>, QIcon> icons_;  // by set, place and size in bytes
    struct Face {
        std::weak_ptr<const Points> of;
        QIcon icon;
    };
    std::map<std::uint64_t, Face> faces_;  // of fits
    QTreeWidget* tree_;
};

}  // namespace veld
