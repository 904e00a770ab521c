#pragma once
// The one window: stations at the left edge, the project's things beside them, views in the middle, the station's
// panel at the right, a line of figures below.
#include <QMainWindow>
#include <functional>
#include <memory>

#include "app/session.h"
#include "app/station.h"
#include "app/window/commands.h"
#include "core/project/next_step.h"

class QLabel;
class QMenu;
class QMimeData;
class QSplitter;
class QStackedWidget;

namespace veld {

class BankController;
class BaseController;
class ExchangeController;
class FiguresLine;
class FiguresTable;
class FitScene;
class GuideWindow;
class LayoutStore;
class LookBar;
class MarkController;
class Parts;
class PhotoController;
class ProveController;
class SkinController;
class Rail;
class RegionController;
class Scene;
class StartPage;
class StationPage;
class SubjectTree;
class TidyController;
class TouchController;
class ViewSet;
struct PreferenceValues;
struct StationEntry;

class MainWindow : public QMainWindow {
    Q_OBJECT
 public:
    explicit MainWindow(QWidget* parent = nullptr);
    // With other stations than the program's own.
    explicit MainWindow(const std::vector<StationEntry>& stations, QWidget* parent = nullptr);
    ~MainWindow() override;

    Session& session() { return session_; }
    MarkController& mark() { return *mark_; }
    TidyController& tidy() { return *tidy_; }
    TouchController& touch() { return *touch_; }
    ViewSet& views() { return *views_; }
    Commands& commands() { return *commands_; }
    Parts& parts() { return *parts_; }
    void frame_selection();  // the selected landmark, else what the station looks at
    LookBar& look_bar() { return *look_bar_; }
    RegionController& regions() { return *regions_; }
    PhotoController& photos() { return *photos_; }
    BankController& bank() { return *bank_; }
    ProveController& prove() { return *prove_; }
    SkinController& skins() { return *skins_; }
    BaseController& base() { return *base_; }
    ExchangeController& exchange() { return *exchange_; }
    // the panel of a station, of its own type
    template <class Panel>
    Panel& panel() const {
        return *findChild<Panel*>();
    }
    void go_to(Station station);
    void take_up_preferences(const PreferenceValues& now);
    // escape: which button Esc and the window's cross stand for; -1: the last. It must be one that does nothing.
    int ask(const QString& text, const QStringList& buttons, int escape = -1);
    void ask_for_sources();
    Station station() const { return station_; }
    // false: the message was shown
    bool open_project(const QString& path);
    // asks when an untitled project was left behind
    void offer_recovered();
    QString last_message() const { return last_message_; }
    // tests answer for the user: called instead of a modal question; returns the button's number
    std::function<int(const QString& text, const QStringList& buttons)> answer;

 signals:
    void station_changed();

 protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

 private:
    void build_menus();
    void build_project_menu();
    void build_points_menu();
    void build_own_points_menu();
    void build_fit_menu();
    void build_help_menu();
    void show_guide();
    void show_preferences();
    void rename_own();
    void build_view_menu();
    void build_stations(const std::vector<StationEntry>& stations);
    QWidget* build_centre();
    void build_foot();
    QWidget* build_side();
    QWidget* build_start_page();
    void open_demo();
    void do_next(NextStep step);
    void remember_divider(QSplitter* split);
    void build_arrangement_menu();
    void look_at_region(const std::string& region);  // of the current fit
    void remember_views();
    void take_up_views();
    void show_figures();
    void refresh_title();
    void connect_session();
    void connect_views();
    StationPage* page() const;
    void refresh();
    void show_error(const QString& message);
    void leave_then(std::function<void()> then);
    void leave_saved_then(std::function<void()> then);
    void work_may_have_ended();
    void when_nobody_is_asked(std::function<void()> then);
    void save(bool as_new, std::function<void()> then = {});
    void new_project();
    void open_made_kit(const QString& folder);
    void new_from(const QString& folder);
    void fit_onto_screen();
    void show_opened();
    void ask_for_project();
    void ask_for_landmarks(bool read);
    void remember(const QString& path);
    void refresh_recent();
    static QString source_filter();
    // What is being dragged over the window, and what would become of it.
    struct Dragged {
        enum { Nothing, Project, Kit, Base, Sources } what = Nothing;
        QStringList files;  // the project, the folder of the kit, a base mesh, or sources
        QString says;
        QStringList landmarks = {};
    };
    Dragged look_at(const QMimeData& data) const;
    bool base_dropped(const QStringList& files) const;

    Session session_;
    std::unique_ptr<MarkController> mark_;
    std::unique_ptr<TidyController> tidy_;
    std::unique_ptr<TouchController> touch_;
    std::unique_ptr<RegionController> regions_;
    std::unique_ptr<PhotoController> photos_;
    std::unique_ptr<BankController> bank_;
    std::unique_ptr<ProveController> prove_;
    std::unique_ptr<SkinController> skins_;
    std::unique_ptr<BaseController> base_;
    std::unique_ptr<ExchangeController> exchange_;
    std::unique_ptr<Scene> scene_;
    ViewSet* views_;
    std::unique_ptr<FitScene> fits_;
    QStackedWidget* panels_;
    QWidget* side_ = nullptr;  // panels and what comes next
    // Panels that nobody looked at yet: laying all of them out would take most of the start.
    QWidget* unseen_panels_;
    LookBar* look_bar_;
    struct Room {
        Station station;
        std::unique_ptr<StationPage> page;
        const char* title = "";
    };
    std::vector<Room> rooms_;  // in the order of the registry
    Commands* commands_;
    Menus menus_;
    LayoutStore* layout_;
    Parts* parts_;
    Rail* rail_ = nullptr;
    StartPage* start_page_ = nullptr;
    GuideWindow* guide_ = nullptr;  // once it was asked for
    SubjectTree* things_ = nullptr;
    FiguresLine* figures_line_ = nullptr;
    FiguresTable* figures_table_ = nullptr;
    QLabel* drop_says_ = nullptr;  // once something was dragged here
    QMenu *recent_ = nullptr, *copy_from_ = nullptr;
    Station station_ = Station::Gather;
    std::shared_ptr<const BaseKit> framed_kit_;
    QString last_message_;
    std::function<void()> after_work_;  // what the user waits for work to end for
    bool leaving_ = false;              // every question is answered
    bool in_close_event_ = false;
};

}  // namespace veld
