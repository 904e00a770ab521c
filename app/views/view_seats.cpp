#include "app/views/view_seats.h"

#include <QActionGroup>
#include <QMenu>
#include <QMouseEvent>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/views/header.h"

namespace veld {
namespace {

constexpr std::size_t kInRow = 2;  // of four views

QSplitter* row_of_views() {
    auto* row = new QSplitter(Qt::Horizontal);
    row->setHandleWidth(3);
    row->setChildrenCollapsible(false);
    return row;
}

QString sizes_text(const QSplitter& split) {
    QStringList out;
    for (const int size : split.sizes()) out << QString::number(size);
    return out.join(',');
}

void set_sizes(QSplitter& split, const QString& text) {
    QList<int> sizes;
    for (const QString& one : text.split(',', Qt::SkipEmptyParts)) sizes << std::max(1, one.toInt());
    if (sizes.size() == split.count()) split.setSizes(sizes);
}

}  // namespace

ViewSeats::ViewSeats(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    rows_ = new QSplitter(Qt::Vertical);
    rows_->setHandleWidth(3);
    rows_->setChildrenCollapsible(false);
    top_ = row_of_views(), bottom_ = row_of_views();
    rows_->addWidget(top_), rows_->addWidget(bottom_);
    bottom_->hide();
    column->addWidget(rows_);
    const char* const names[] = {"view_base", "view_source", "view_result"};
    for (std::size_t i = 0; i < meshes_.size(); ++i) {
        meshes_[i] = new Viewport({}, &shared_, top_);
        meshes_[i]->setObjectName(names[i]);
        meshes_[i]->hide();
        watch(meshes_[i], meshes_[i]->header());
    }
    photo_ = new PhotoView(top_);
    photo_->setObjectName("view_photo");
    photo_->hide();
    watch(photo_, photo_->header());
    for (CameraLink& camera : own_) connect(&camera, &CameraLink::changed, this, &ViewSeats::own_camera_changed);
    for (QSplitter* split : {rows_, top_, bottom_})
        connect(split, &QSplitter::splitterMoved, this, &ViewSeats::divider_moved);
}

Viewport& ViewSeats::view(ViewId which) {
    return *meshes_[which == ViewId::Base ? 0 : which == ViewId::Source ? 1 : 2];
}

std::vector<Viewport*> ViewSeats::all_ports() const {
    std::vector<Viewport*> out(meshes_.begin(), meshes_.end());
    out.insert(out.end(), further_.begin(), further_.end());
    return out;
}

std::vector<Viewport*> ViewSeats::ports_of(ViewId which) const {
    std::vector<Viewport*> out;
    for (const Placed& p : placed_) {
        if (p.shows == which && p.port) out.push_back(p.port);
    }
    return out;
}

bool ViewSeats::shows(ViewId which) const {
    return std::any_of(placed_.begin(), placed_.end(), [&](const Placed& p) { return p.shows == which; });
}

// The thing's own view for the first, further ones after that.
Viewport* ViewSeats::take_port(ViewId which, std::vector<Viewport*>& taken) {
    std::vector<Viewport*> free{&view(which)};
    free.insert(free.end(), further_.begin(), further_.end());
    for (Viewport* port : free) {
        if (std::find(taken.begin(), taken.end(), port) != taken.end()) continue;
        taken.push_back(port);
        return port;
    }
    auto* port = new Viewport({}, &shared_, top_);
    port->setObjectName(QString("view_further_%1").arg(further_.size() + 1));
    port->hide();
    watch(port, port->header());
    further_.push_back(port);
    taken.push_back(port);
    emit made(port);
    return port;
}

std::vector<ViewId> ViewSeats::set(const Arrangement& now) {
    std::vector<ViewId> came;
    if (now == shown_) return came;
    std::vector<Placed> placed;
    std::vector<Viewport*> taken;
    for (const ViewSeat& seat : now) {
        Viewport* port = seat.shows == ViewId::Photo ? nullptr : take_port(seat.shows, taken);
        placed.push_back({seat.shows, port ? static_cast<QWidget*>(port) : photo_, port});
        const bool same = std::any_of(placed_.begin(), placed_.end(), [&](const Placed& p) {
            return p.widget == placed.back().widget && p.shows == seat.shows;
        });
        if (!same) came.push_back(seat.shows);
    }
    if (alone_ && (*alone_ >= placed.size() || placed_[*alone_].widget != placed[*alone_].widget)) {
        // the same view may sit elsewhere now
        QWidget* was = placed_[*alone_].widget;
        const auto at = std::find_if(placed.begin(), placed.end(), [&](const Placed& p) { return p.widget == was; });
        alone_ = at == placed.end() ? std::nullopt : std::optional<std::size_t>(at - placed.begin());
    }
    shown_ = now;
    placed_ = std::move(placed);
    for (std::size_t i = 0; i < placed_.size(); ++i) give_camera(i, now[i]);
    place();
    return came;
}

// One that had no camera of its own before begins with the shared one, from the side that was asked for.
void ViewSeats::give_camera(std::size_t i, const ViewSeat& wanted) {
    Viewport* port = placed_[i].port;
    if (!port) return;
    if (!wanted.own_camera) return port->set_camera_link(&shared_);
    Camera camera = port->camera_link() == &own_[i] ? own_[i].camera() : shared_.camera();
    camera.photo.reset();
    camera.yaw = wanted.yaw, camera.pitch = wanted.pitch;
    port->set_camera_link(&own_[i]);
    own_[i].set(camera);
}

Arrangement ViewSeats::now() const {
    Arrangement out = shown_;
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (out[i].own_camera) out[i].yaw = own_[i].camera().yaw, out[i].pitch = own_[i].camera().pitch;
    }
    return out;
}

void ViewSeats::place() {
    const bool two_rows = placed_.size() == kMostViews;
    const auto seen = [&](const QWidget* view) {
        for (std::size_t i = 0; i < placed_.size(); ++i) {
            if (placed_[i].widget == view) return !alone_ || *alone_ == i;
        }
        return false;
    };
    std::vector<QWidget*> all{photo_};
    for (Viewport* port : all_ports()) all.push_back(port);
    for (QWidget* view : all) {
        if (!seen(view)) view->hide();
    }
    for (std::size_t i = 0; i < placed_.size(); ++i) {
        QSplitter* row = two_rows && i >= kInRow ? bottom_ : top_;
        const int at = static_cast<int>(row == bottom_ ? i - kInRow : i);
        if (row->indexOf(placed_[i].widget) != at) row->insertWidget(at, placed_[i].widget);
    }
    for (const Placed& p : placed_) p.widget->setVisible(seen(p.widget));
    top_->setVisible(!alone_ || !two_rows || *alone_ < kInRow);
    bottom_->setVisible(two_rows && (!alone_ || *alone_ >= kInRow));
    // Equal shares of what there is, at once: whoever looks next asks for the views' sizes.
    for (QSplitter* split : {rows_, top_, bottom_}) {
        split->refresh();
        split->setSizes(QList<int>(split->count(), 10000));
    }
}

void ViewSeats::set_alone(std::optional<std::size_t> seat) {
    if (seat && *seat >= placed_.size()) return;
    alone_ = seat;
    place();
}

std::optional<std::size_t> ViewSeats::active() const {
    for (std::size_t i = 0; i < placed_.size(); ++i) {
        if (placed_[i].widget == focused_) return i;
    }
    return {};
}

CameraLink& ViewSeats::active_camera() {
    const auto i = active();
    return i && shown_[*i].own_camera ? own_[*i] : shared_;
}

std::vector<CameraLink*> ViewSeats::cameras() {
    std::vector<CameraLink*> out{&shared_};
    for (std::size_t i = 0; i < shown_.size(); ++i) {
        if (shown_[i].own_camera) out.push_back(&own_[i]);
    }
    return out;
}

int ViewSeats::lowest() const {
    int out = height();
    for (const Placed& p : placed_) {
        if (p.port && p.widget->isVisible()) out = std::min(out, p.widget->height());
    }
    return out;
}

double ViewSeats::narrowest() const {
    double out = 1;
    for (const Placed& p : placed_) {
        if (p.port && p.widget->isVisible())
            out = std::min(out, static_cast<double>(p.widget->width()) / std::max(1, p.widget->height()));
    }
    return out;
}

QString ViewSeats::shares() const {
    return QStringList{sizes_text(*rows_), sizes_text(*top_), sizes_text(*bottom_)}.join(';');
}

void ViewSeats::set_shares(const QString& text) {
    const QStringList parts = text.split(';');
    if (parts.size() != 3 || alone_) return;
    set_sizes(*rows_, parts[0]), set_sizes(*top_, parts[1]), set_sizes(*bottom_, parts[2]);
}

void ViewSeats::watch(QWidget* view, QToolButton* header) {
    view->installEventFilter(this);
    auto* menu = new QMenu(header);
    menu->setObjectName("view_menu");
    connect(menu, &QMenu::aboutToShow, this, [this, menu, view] { fill_menu(*menu, view); });
    header->setMenu(menu);
    header->show();
}

bool ViewSeats::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::FocusIn && object != focused_) {
        focused_ = static_cast<QWidget*>(object);
        emit active_changed();
    }
    if (event->type() == QEvent::MouseButtonDblClick) {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        for (std::size_t i = 0; i < placed_.size(); ++i) {
            if (object != placed_[i].widget || mouse->position().y() > kHeaderHeight ||
                mouse->button() != Qt::LeftButton)
                continue;
            set_alone(alone_ ? std::nullopt : std::optional(i));
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void ViewSeats::fill_menu(QMenu& menu, const QWidget* view) {
    menu.clear();
    const auto at = std::find_if(placed_.begin(), placed_.end(), [&](const Placed& p) { return p.widget == view; });
    if (at == placed_.end()) return;
    const auto seat = static_cast<std::size_t>(at - placed_.begin());
    add_things(menu, seat);
    menu.addSeparator();
    QAction* own = menu.addAction(tr("Camera of its own"));
    own->setCheckable(true);
    own->setChecked(shown_[seat].own_camera);
    own->setEnabled(at->port);
    const auto want = [this](Arrangement how) { emit wanted(how); };
    connect(own, &QAction::triggered, this, [this, seat, want](bool on) {
        Arrangement how = now();
        const Camera& from = shared_.camera();
        how[seat] = {how[seat].shows, on, from.yaw, from.pitch};
        want(how);
    });
    menu.addSeparator();
    QAction* more = menu.addAction(tr("Another view beside it"));
    more->setEnabled(shown_.size() < kMostViews);
    connect(more, &QAction::triggered, this, [this, seat, want] {
        Arrangement how = now();
        // of a photograph there is one view
        const ViewId which = how[seat].shows == ViewId::Photo ? ViewId::Base : how[seat].shows;
        how.insert(how.begin() + static_cast<std::ptrdiff_t>(seat) + 1, {which, true, 90, 0});
        want(how);
    });
    QAction* close = menu.addAction(tr("Close this view"));
    close->setEnabled(shown_.size() > 1);
    connect(close, &QAction::triggered, this, [this, seat, want] {
        Arrangement how = now();
        how.erase(how.begin() + static_cast<std::ptrdiff_t>(seat));
        want(how);
    });
    connect(menu.addAction(alone_ ? tr("All views") : tr("This view alone")), &QAction::triggered, this,
            [this, seat] { set_alone(alone_ ? std::nullopt : std::optional(seat)); });
    menu.addSeparator();
    connect(menu.addAction(tr("As the station shows them")), &QAction::triggered, this, [want] { want({}); });
}

// What it can show. A photograph that is seen elsewhere changes places with it.
void ViewSeats::add_things(QMenu& menu, std::size_t seat) {
    const std::pair<ViewId, QString> names[] = {{ViewId::Base, tr("Base")},
                                                {ViewId::Source, tr("Source")},
                                                {ViewId::Photo, tr("Photograph")},
                                                {ViewId::Result, tr("Result")}};
    auto* group = new QActionGroup(&menu);
    for (const auto& [id, name] : names) {
        if (std::find(offered_.begin(), offered_.end(), id) == offered_.end()) continue;
        QAction* one = menu.addAction(name);
        one->setCheckable(true);
        one->setChecked(shown_[seat].shows == id);
        group->addAction(one);
        connect(one, &QAction::triggered, this, [this, seat, id = id] {
            Arrangement how = now();
            if (id == ViewId::Photo) {
                for (ViewSeat& other : how) {
                    if (other.shows == ViewId::Photo) other = how[seat];
                }
            }
            how[seat].shows = id;
            if (id == ViewId::Photo) how[seat] = {id};
            emit wanted(how);
        });
    }
}

}  // namespace veld
