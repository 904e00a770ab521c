#pragma once
// Views beside one another in up to two rows, with dividers, one of them alone when asked for. Each thing has a view
// of its own; what is shown more than once gets further ones.
#include <QSplitter>
#include <QWidget>
#include <array>
#include <optional>

#include "app/views/arrangement.h"
#include "app/views/photo_view.h"

class QMenu;

namespace veld {

class ViewSeats : public QWidget {
    Q_OBJECT
 public:
    explicit ViewSeats(QWidget* parent = nullptr);

    // What a view can be set to show, for the menus of their headers.
    void set_offered(const std::vector<ViewId>& things) { offered_ = things; }
    // Not empty. Returns what is shown now in a view that did not show it before.
    std::vector<ViewId> set(const Arrangement& now);
    // As they are now, their own cameras included.
    Arrangement now() const;

    struct Placed {
        ViewId shows = ViewId::Base;
        QWidget* widget = nullptr;
        Viewport* port = nullptr;  // null: of a photograph
    };
    const std::vector<Placed>& placed() const { return placed_; }
    std::vector<Viewport*> ports_of(ViewId which) const;
    bool shows(ViewId which) const;
    Viewport& view(ViewId which);  // its own view, shown or not; not of Photo
    PhotoView& photo() { return *photo_; }
    std::vector<Viewport*> all_ports() const;  // shown or not
    int lowest() const;                        // height of the lowest view that is seen, pixels
    double narrowest() const;                  // of those that are seen: width over height; none: 1

    CameraLink& shared_camera() { return shared_; }
    // of the view that had the keys last, when it has one of its own; else the shared one
    CameraLink& active_camera();
    std::vector<CameraLink*> cameras();  // that are seen through

    void set_alone(std::optional<std::size_t> seat);
    std::optional<std::size_t> alone() const { return alone_; }
    std::optional<std::size_t> active() const;

    // Shares of the dividers for so many views, for the settings.
    QString shares() const;
    void set_shares(const QString& text);

    bool eventFilter(QObject* object, QEvent* event) override;

 signals:
    void made(veld::Viewport* port);  // a further view
    void active_changed();
    void own_camera_changed();
    // somebody wants this; empty: as the client says
    void wanted(const veld::Arrangement& how);
    void divider_moved();

 private:
    Viewport* take_port(ViewId which, std::vector<Viewport*>& taken);
    void place();
    void watch(QWidget* view, QToolButton* header);
    void fill_menu(QMenu& menu, const QWidget* view);
    void add_things(QMenu& menu, std::size_t seat);
    void give_camera(std::size_t seat, const ViewSeat& wanted);

    CameraLink shared_;
    std::array<CameraLink, kMostViews> own_;
    std::array<Viewport*, 3> meshes_{};  // base, source, result
    PhotoView* photo_;
    std::vector<Viewport*> further_;
    QSplitter *rows_, *top_, *bottom_;
    std::vector<Placed> placed_;
    Arrangement shown_;
    std::vector<ViewId> offered_;
    std::optional<std::size_t> alone_;
    QWidget* focused_ = nullptr;
};

}  // namespace veld
