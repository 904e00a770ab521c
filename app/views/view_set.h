#pragma once
// The views side by side, with one camera for all. They show what their client says and know no station.
#include <QSplitter>
#include <QVariantAnimation>
#include <QWidget>
#include <initializer_list>
#include <optional>
#include <set>
#include <utility>

#include "app/views/pane.h"
#include "app/views/photo_view.h"

namespace veld {

class ViewSet : public QWidget {
    Q_OBJECT
 public:
    explicit ViewSet(QWidget* parent = nullptr);

    // Null: what is shown stays. A stroke or drag that is under way ends at the old client; a flight ends where it is.
    void set_client(ViewClient* client);
    const ViewClient* client() const { return client_; }
    void refresh();  // all
    void refresh(std::initializer_list<ViewId> which);
    void refresh_marks();
    // One alone, or all again. A double click on a view's title does it too.
    void maximise(std::optional<ViewId> which);
    std::optional<ViewId> maximised() const { return maximised_; }
    bool eventFilter(QObject* object, QEvent* event) override;

    CameraLink& camera() { return camera_; }
    void frame(const Framing& what);
    void frame_home();
    Camera framed(Camera camera, const Framing& what) const;  // where frame() takes it
    void fly_to(const Camera& to);
    void stop_flight() { flight_.stop(); }
    void frame_photo(const QPointF& middle, double pixels) { photo_->frame(middle, pixels); }

    void set_light(StudioLight light);
    void set_hollows(bool dark);     // as openness says, or lit like the rest
    void set_smooth_edges(bool on);  // off: for machines without a graphics card
    // These change and will change again at once (a stroke): drawn without smoothing until they rest.
    void redraw_quickly(ViewId which) { view(which).redraw_quickly(); }

    Viewport& view(ViewId which);  // not of Photo
    Viewport* base_view() { return base_; }
    Viewport* source_view() { return source_; }
    Viewport* result_view() { return result_; }
    PhotoView* photo_view() { return photo_; }

 private:
    void connect_view(ViewId which);
    void turn(int right, int up, Qt::KeyboardModifiers keys);
    void connect_photo();
    std::vector<ViewId> update_shown();  // those that came
    void refresh_now(const std::set<ViewId>& which);
    void show_pane(ViewId which);
    void show_photo();
    void show_marks(ViewId which, Marks&& marks);
    QWidget* widget(ViewId which);

    ViewClient* client_ = nullptr;
    CameraLink camera_;
    QSplitter* splitter_;
    Viewport *base_, *source_, *result_;
    PhotoView* photo_;
    std::vector<ViewId> shown_;
    std::optional<ViewId> maximised_;  // one of those
    void place_views();
    std::set<ViewId> wanted_;  // to be refreshed
    bool refreshing_ = false;
    PhotoPane photo_shown_;
    std::string framed_;
    QVariantAnimation flight_;
    // Whose stroke or drag is under way, and where.
    struct Held {
        ViewClient* client = nullptr;
        ViewId view = ViewId::Base;
    };
    Held stroke_, marker_;
};

}  // namespace veld
