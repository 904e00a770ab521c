#pragma once
// The views beside one another. They show what their client says and know no station; which of its things they show
// can be arranged otherwise.
#include <QVariantAnimation>
#include <QWidget>
#include <initializer_list>
#include <optional>
#include <set>
#include <utility>

#include "app/views/view_seats.h"

namespace veld {

class ViewSet : public QWidget {
    Q_OBJECT
 public:
    explicit ViewSet(QWidget* parent = nullptr);

    // Null: what is shown stays. A stroke or drag that is under way ends at the old client; a flight ends where it is.
    void set_client(ViewClient* client, const Arrangement& how = {});
    const ViewClient* client() const { return client_; }
    void refresh();  // all
    void refresh(std::initializer_list<ViewId> which);
    void refresh_marks();
    // Empty: as the client says.
    void arrange_as(const Arrangement& how);
    const Arrangement& arrangement() const { return chosen_; }
    // So many views of what the client offers.
    void arrange_count(std::size_t count);
    // One alone, or all again. A double click on a view's title does it too.
    void maximise(std::optional<ViewId> which);
    void toggle_alone();  // the one that has the keys, else what is being made
    std::optional<ViewId> maximised() const;
    ViewSeats& seats() { return *seats_; }

    CameraLink& camera() { return seats_->shared_camera(); }
    // of the view that has the keys, when it has one of its own
    CameraLink& active_camera() { return seats_->active_camera(); }
    void frame(const Framing& what);
    void frame_home();
    Camera framed(Camera camera, const Framing& what) const;  // where frame() takes it
    void fly_to(const Camera& to);
    void stop_flight() { flight_.stop(); }
    void frame_photo(const QPointF& middle, double pixels) { photo_view()->frame(middle, pixels); }

    void set_light(StudioLight light);
    void set_hollows(bool dark);     // as openness says, or lit like the rest
    void set_smooth_edges(bool on);  // off: for machines without a graphics card
    // These change and will change again at once (a stroke): drawn without smoothing until they rest.
    void redraw_quickly(ViewId which);
    void set_layers(ViewId which, const std::vector<Layer>& layers);

    Viewport& view(ViewId which) { return seats_->view(which); }  // not of Photo
    Viewport* base_view() { return &view(ViewId::Base); }
    Viewport* source_view() { return &view(ViewId::Source); }
    Viewport* result_view() { return &view(ViewId::Result); }
    PhotoView* photo_view() { return &seats_->photo(); }

 signals:
    // Somebody arranged the views, or moved a divider.
    void arranged(const veld::Arrangement& how);
    void unusable(const QString& reason);
    void camera_changed();  // the active one is another, or looks elsewhere

 private:
    void connect_view(Viewport* view);
    ViewId shown_by(const Viewport* view) const;
    void turn(CameraLink& link, int right, int up, Qt::KeyboardModifiers keys);
    void connect_photo();
    std::vector<ViewId> update_shown();  // those that came
    void refresh_now(const std::set<ViewId>& which);
    void show_pane(ViewId which);
    void show_photo();
    void show_photo_marks();
    void fill(Viewport& view, const Pane& pane);

    ViewClient* client_ = nullptr;
    ViewSeats* seats_;
    Arrangement chosen_;  // empty: as the client says
    bool smooth_ = true, hollows_ = true;
    StudioLight light_ = StudioLight::Soft;
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
