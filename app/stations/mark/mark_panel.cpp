#include "app/stations/mark/mark_panel.h"

#include <QHeaderView>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/scene/joint_marks.h"
#include "app/theme.h"
#include "app/views/markers.h"
#include "app/widgets.h"
#include "core/detect/face_views.h"

namespace veld {
namespace {

constexpr int kPicture = 96;

// The shapes of the views, small: the list speaks their language.
QIcon state_icon(const Trust& trust, bool there, bool doubted) {
    QPixmap pixmap(18, 18);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    Marker m;
    m.shape = !there         ? MarkerShape::Handle
              : trust.locked ? MarkerShape::Square
              : doubted      ? MarkerShape::Unsure
                             : MarkerShape::Ring;
    m.colour = !there ? theme::kLine : doubted ? QColor(0xe8, 0xd8, 0xa0) : theme::kTeal.lighter(135);
    if (there) draw_marker(painter, m, {9, 9}, 18);
    painter.end();
    return QIcon(pixmap);
}

}  // namespace

MarkPanel::MarkPanel(Session& session, MarkController& controller, QWidget* parent)
    : QWidget(parent), s_(session), c_(controller) {
    panel_column(this)->setSpacing(5);
    build_top();
    build_list();
    build_bottom();
    connect(&s_, &Session::changed, this, &MarkPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &MarkPanel::refresh);
    connect(&s_, &Session::selection_changed, this, &MarkPanel::show_selection);
    connect(&c_.joints(), &JointController::changed, this, &MarkPanel::show_selection);
    refresh();
}

void MarkPanel::build_top() {
    auto* column = static_cast<QVBoxLayout*>(layout());
    set_ = new QComboBox;
    set_->setObjectName("mark_set");
    set_->setToolTip(tr("How many landmarks to mark"));
    for (const PointSet set : kPointSets)
        set_->addItem(tr(set == PointSet::Minimal ? "Ten points"
                         : set == PointSet::Face  ? "Face"
                         : set == PointSet::Head  ? "Whole head"
                                                  : "Whole body"));
    connect(set_, &QComboBox::activated, this, [this](int i) { c_.ask_for(kPointSets[static_cast<std::size_t>(i)]); });
    auto* top = row({text_label(tr("Mark"), "title")});
    top->addStretch();
    top->addWidget(set_);
    column->addLayout(top);
    picture_ = new QLabel;
    picture_->setObjectName("mark_picture");
    picture_->setFixedSize(kPicture, kPicture);
    picture_->setToolTip(tr("Where the landmark is on the base"));
    ask_ = text_label({}, "plain");
    ask_->setObjectName("mark_ask");
    ask_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    ask_->setFixedHeight(kPicture);
    auto* asked = row({picture_, ask_});
    asked->setStretch(1, 1);
    column->addLayout(asked);
    find_ = button(
        tr("Find landmarks"), "mark_find",
        tr("Finds landmarks and guide curves on the scan or photograph (Ctrl+D). What you set or accepted stays."),
        true);
    connect(find_, &QPushButton::clicked, this, [this] { s_.detecting() ? s_.cancel() : s_.start_detect(); });
    column->addWidget(find_);
    finding_row_ = new QWidget;
    auto* across = new QHBoxLayout(finding_row_);
    across->setContentsMargins(0, 0, 0, 0);
    finding_text_ = text_label({}, "plain");
    finding_text_->setObjectName("mark_finding");
    auto* repair = button(tr("Repair"), "mark_repair", tr("Repairs what is said here"));
    across->addWidget(finding_text_, 1);
    across->addWidget(repair);
    connect(repair, &QPushButton::clicked, this, [this] {
        if (!suspicions_.empty()) c_.repair(suspicions_.front());
    });
    column->addWidget(finding_row_);
}

void MarkPanel::build_list() {
    list_ = new QTreeWidget;
    list_->setObjectName("mark_list");
    list_->setRootIsDecorated(false);
    list_->setIconSize(QSize(18, 18));
    list_->setAlternatingRowColors(true);
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setHeaderLabels({tr("Landmark"), tr("±"), tr("residual")});
    list_->headerItem()->setToolTip(1,
                                    tr("Expected error (on photographs: in pixels); empty for what you set yourself"));
    list_->headerItem()->setToolTip(
        2, tr("Distance to the current fit; before a fit: to the base's own landmark after placing"));
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setMinimumSectionSize(30);
    for (int c : {1, 2}) {
        list_->header()->setSectionResizeMode(c, QHeaderView::Fixed);
        list_->setColumnWidth(c, c == 2 ? 58 : 42);
    }
    connect(list_, &QTreeWidget::itemSelectionChanged, this, &MarkPanel::selection_by_hand);
    // what wants a look first is on top
    connect(&s_, &Session::detect_finished, list_, [this] { list_->scrollToTop(); });
    static_cast<QVBoxLayout*>(layout())->addWidget(list_, 1);
}

void MarkPanel::build_bottom() {
    auto* column = static_cast<QVBoxLayout*>(layout());
    accept_ = button(tr("Accept"), "mark_accept", tr("Mark it as checked (A)"));
    accept_within_ = button(tr("All within"), "mark_accept_within",
                            tr("Accepts everything found whose expected error is below this"));
    within_ = new LengthBox("mark_within_mm", 0.2, 50, 0.5, 1, tr("What counts as good enough"));
    within_->setValue(1.5);
    within_->setMinimumWidth(fontMetrics().horizontalAdvance("50.0 mm") + 34);
    connect(accept_, &QPushButton::clicked, &c_, &MarkController::accept_selected);
    connect(accept_within_, &QPushButton::clicked, this, [this] { c_.accept_within(within_->value()); });
    column->addLayout(flow({accept_, accept_within_, within_}));
    auto* mirror = button(tr("Mirror"), "mark_mirror", tr("Sets the missing side from the other one (M)"));
    auto* mirror_all = button(tr("Mirror all"), "mark_mirror_all", tr("Sets every missing side from the marked one"));
    auto* erase = button(tr("Delete"), "mark_delete", tr("Deletes the landmark (Del)"));
    connect(mirror, &QPushButton::clicked, &c_, &MarkController::mirror_selected);
    connect(mirror_all, &QPushButton::clicked, &c_, &MarkController::mirror_all_missing);
    connect(erase, &QPushButton::clicked, &c_, &MarkController::erase_selected);
    column->addLayout(flow({mirror, mirror_all, erase}));
    snap_ = new QCheckBox(tr("Snap"));
    snap_->setObjectName("mark_snap");
    snap_->setChecked(true);
    snap_->setToolTip(
        tr("A landmark set or moved by hand snaps to the feature that its definition names, if that is near; a curve "
           "follows its ridge, crease or colour edge (S)"));
    loupe_ = new QCheckBox(tr("Magnifier"));
    loupe_->setObjectName("mark_loupe");
    loupe_->setToolTip(tr("Six times larger around the pointer (L)"));
    hold_ = new QCheckBox(tr("Hold camera"));
    hold_->setObjectName("mark_hold");
    hold_->setToolTip(tr("The views stay where they are when the next landmark comes up (H)"));
    connect(snap_, &QCheckBox::toggled, this, [this](bool on) { c_.snapping = on; });
    connect(loupe_, &QCheckBox::toggled, this, &MarkPanel::loupe_toggled);
    connect(hold_, &QCheckBox::toggled, this, &MarkPanel::hold_toggled);
    column->addLayout(flow({snap_, loupe_, hold_}));
    joints_ = new QCheckBox(tr("Joints"));
    joints_->setObjectName("mark_joints");
    joints_->setChecked(c_.joints().wanted());
    joints_->setToolTip(
        tr("Shows the figure's joints on the scan. Drag one that is wrong: the others follow, and the fit begins "
           "there. Fingers show when you are near."));
    find_joints_ = button(tr("Find joints"), "mark_find_joints",
                          tr("Looks for all joints of the figure again, also for those that you moved"));
    connect(joints_, &QCheckBox::toggled, this, [this](bool on) { c_.joints().show(on); });
    connect(find_joints_, &QPushButton::clicked, this, [this] { c_.joints().find_anew(); });
    joints_row_ = new QWidget;
    auto* across = new QHBoxLayout(joints_row_);
    across->setContentsMargins(0, 0, 0, 0);
    across->addWidget(joints_);
    across->addStretch();
    across->addWidget(find_joints_);
    column->addWidget(joints_row_);
}

void MarkPanel::selection_by_hand() {
    if (filling_) return;
    const QList<QTreeWidgetItem*> items = list_->selectedItems();
    if (items.isEmpty()) return;
    QTreeWidgetItem* first =
        list_->currentItem() && list_->currentItem()->isSelected() ? list_->currentItem() : items.front();
    const std::string name = first->data(0, Qt::UserRole).toString().toStdString();
    std::set<std::string> also;
    for (QTreeWidgetItem* item : items) also.insert(item->data(0, Qt::UserRole).toString().toStdString());
    also.erase(name);
    s_.select(name);
    if (!also.empty()) s_.select_also(also);
}

void MarkPanel::add_line(const std::string& name, double off) {
    const Trust t = c_.trust_of(name);
    const bool there = c_.marked(name), doubted = c_.doubted(name);
    auto* item = new QTreeWidgetItem(list_);
    item->setText(0, c_.plain(name));
    item->setIcon(0, state_icon(t, there, doubted));
    item->setData(0, Qt::UserRole, QString::fromStdString(name));
    const SchemePoint* p = landmark_scheme().point(name);
    const SchemeCurve* c = landmark_scheme().curve(name);
    const QString definition = QString::fromStdString(p ? p->definition : c ? c->definition : std::string());
    const char* origins[] = {"set by hand", "read from a file", "found by the program", "mirrored",
                             "copied from another scan"};
    QString state = there ? tr(origins[static_cast<int>(t.origin)]) : tr("not marked");
    if (there && t.accepted) state += tr(", accepted");
    if (t.locked) state += tr(", locked");
    if (t.hidden) state += tr(", hidden");
    if (there && t.origin == Origin::Found && !s_.photo())
        state += tr("<br>expected error %1; the views differ by %2; %3 from where its neighbours put it")
                     .arg(length_text(t.expected_mm, 1), length_text(t.spread_mm, 1), length_text(t.off_mm, 1));
    item->setToolTip(
        0,
        tr("<b>%1</b> (%2)<br>%3<br><i>%4</i>").arg(c_.plain(name), QString::fromStdString(name), definition, state));
    if (!there || t.hidden) item->setForeground(0, theme::ink().dim);
    for (int column : {1, 2}) item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    if (there && t.origin == Origin::Found && !t.accepted)
        item->setText(1, (s_.photo() ? QString::number(t.expected_mm, 'f', 1) : length_number(t.expected_mm, 1)) +
                             (doubted ? "?" : ""));
    if (off >= 0) item->setText(2, length_number(off, 1));
}

void MarkPanel::refresh() {
    const Source* source = s_.state().source();
    const FitRecord* fit = s_.state().fit();
    const bool on_scan = fit && !s_.photo();
    const std::map<std::string, double> fitted = on_scan ? fit->figures.landmark_mm : std::map<std::string, double>();
    const auto residuals = s_.photo() || !source ? std::map<std::string, double>() : c_.residuals();
    const auto& rank = fitted.empty() ? residuals : fitted;
    std::vector<std::string> names = c_.known_points();
    for (const std::string& curve : c_.known_curves()) names.push_back(curve);
    // the doubted ones first, the worst before; then marked ones by what the fit or the base says; then
    // those still to be marked, in the order in which they are asked for
    const auto key = [&](const std::string& name) {
        if (!c_.marked(name)) return std::pair(2, 0.0);
        if (c_.doubted(name)) return std::pair(0, -c_.trust_of(name).expected_mm);
        const auto r = rank.find(name);
        return std::pair(1, r == rank.end() ? 0.0 : -r->second);
    };
    std::map<std::string, std::pair<int, double>> keys;
    for (const std::string& name : names) keys[name] = key(name);
    std::stable_sort(names.begin(), names.end(),
                     [&](const std::string& a, const std::string& b) { return keys[a] < keys[b]; });
    filling_ = true;
    list_->clear();
    int marked = 0, doubted = 0;
    for (const std::string& name : names) {
        const auto r = rank.find(name);
        add_line(name, r == rank.end() ? -1 : r->second);
        marked += keys[name].first < 2, doubted += keys[name].first == 0;
    }
    filling_ = false;
    set_->setCurrentIndex(static_cast<int>(s_.state().asked));
    QString text = tr("%1 of %2 marked").arg(marked).arg(names.size());
    if (doubted) text += tr(", %1 unsure").arg(doubted);
    double sum = 0;
    for (const auto& [name, r] : residuals) sum += r * r;
    if (!residuals.empty())
        text += tr("; %1 rms to the base's own")
                    .arg(length_text(std::sqrt(sum / static_cast<double>(residuals.size())), 1));
    summary_ = text;
    find_->setText(s_.detecting() ? tr("Cancel") : tr("Find landmarks"));
    find_->setEnabled(s_.has_kit() && (source || s_.photo()) && (!s_.busy() || s_.detecting()));
    if (s_.photo().has_value() != in_pixels_) {
        in_pixels_ = s_.photo().has_value();
        within_->set_other(in_pixels_ ? tr(" px") : QString());
        within_->setValue(in_pixels_ ? 5 : 1.5);
    }
    for (const char* name : {"mark_mirror", "mark_mirror_all"}) findChild<QPushButton*>(name)->setEnabled(!s_.photo());
    // of whole figures: a head alone has none worth a line here
    joints_row_->setVisible(s_.has_kit() && !s_.photo() && source && !s_.state().kit->joints.empty() &&
                            (c_.joints().known() || s_.state().asked == PointSet::Body));
    joints_->setEnabled(c_.joints().known());
    find_joints_->setEnabled(c_.joints().can_find());
    refresh_suspicions();
    show_selection();
}

QString MarkPanel::asked_joint() const {
    const std::string& joint = c_.joints().selected();
    return c_.joints().by_hand(joint) ? tr("You placed it; fits keep it there. Del gives it back to the program.")
                                      : tr("Found by the program. Drag it to where it belongs; the others follow.");
}

void MarkPanel::refresh_suspicions() {
    suspicions_ = c_.suspicions();
    finding_row_->setVisible(!suspicions_.empty());
    if (suspicions_.empty()) return;
    QString text = c_.describe(suspicions_.front());
    if (suspicions_.size() > 1) text += tr(" (and others)");
    finding_text_->setText("⚠ " + text);
}

void MarkPanel::show_selection() {
    const std::string& name = s_.selected();
    filling_ = true;
    list_->clearSelection();
    for (int i = 0; i < list_->topLevelItemCount(); ++i) {
        QTreeWidgetItem* item = list_->topLevelItem(i);
        const std::string here = item->data(0, Qt::UserRole).toString().toStdString();
        if (here == name) {
            list_->setCurrentItem(item, 0, QItemSelectionModel::NoUpdate);
            list_->scrollToItem(item);
        }
        item->setSelected(here == name || s_.also_selected().contains(here));
    }
    filling_ = false;
    accept_->setEnabled(c_.trust_of(name).origin == Origin::Found && !c_.trust_of(name).accepted);
    const auto dim = [](const QString& text) {
        return QString("<br><span style='color:%1'>%2</span>").arg(theme::ink().dim.name(), text);
    };
    const SchemePoint* p = landmark_scheme().point(name);
    const SchemeCurve* c = landmark_scheme().curve(name);
    const QString definition = p   ? QString::fromStdString(p->definition)
                               : c ? QString::fromStdString(c->definition)
                                   : tr("Your own landmark.");
    if (!s_.state().source() && !s_.photo())
        ask_->setText(tr("Add a scan first (Gather)."));
    else if (!c_.joints().selected().empty())
        ask_->setText("<b>" + joint_text(c_.joints().selected()) + "</b>" + dim(asked_joint()));
    else if (name.empty())
        ask_->setText(tr("Select a landmark in the list, or press N for the first missing one."));
    else if (!s_.also_selected().empty())
        ask_->setText(tr("<b>%1 landmarks</b>").arg(s_.also_selected().size() + 1) +
                      dim(tr("Drag one to move all; arrows nudge, Ctrl+arrows turn and spread.")));
    else
        ask_->setText("<b>" + c_.plain(name) + "</b>" + dim(definition));
    show_picture();
}

// The base around the point, drawn by the core's own eye: the same picture on every machine.
void MarkPanel::show_picture() {
    const ProjectState& state = s_.state();
    if (!isVisible() && !picture_->pixmap(Qt::ReturnByValue).isNull()) return;
    if (!state.kit) return;
    if (look_of_ != state.kit) look_of_ = state.kit, look_ = look_at_base(*state.kit, false);
    const Points& x = state.kit->mesh.positions;
    std::vector<SurfacePoint> places;
    if (const auto at = state.base_points.find(s_.selected()); at != state.base_points.end()) places = {at->second};
    if (const auto at = state.base_curves.find(s_.selected()); at != state.base_curves.end()) places = at->second;
    if (places.empty()) return picture_->clear();
    const SurfacePoint& middle = places[places.size() / 2];
    const Vec3 normal = middle.normal(x);
    double yaw = std::atan2(normal.x(), normal.z()) * 180 / M_PI;
    yaw = 0.75 * (std::abs(normal.y()) > 0.85 ? 0 : yaw);
    const bool body = middle.at(x).y() < x[state.kit->neck_ring.empty() ? 0 : state.kit->neck_ring.front()].y() - 40;
    ViewCamera camera = portrait_camera(middle.at(x) + Vec3(0, 0, -20), body ? 170 : 80, yaw,
                                        std::clamp(std::asin(normal.y()) * 50, -55.0, 40.0));
    const double ratio = devicePixelRatioF();
    camera.size = static_cast<int>(kPicture * ratio);
    const Pixels px = draw_view(look_, camera, Skin::Clay, 1);
    QImage image(px.rgba.data(), px.width, px.height, 4 * px.width, QImage::Format_RGBA8888);
    QPixmap pixmap = QPixmap::fromImage(image);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    QPolygonF line;
    for (const SurfacePoint& p : places) {
        const Vec2 q = camera.project(p.at(x));
        line << QPointF(q.x(), q.y());
    }
    if (line.size() > 1) {
        GuideLine drawn{{}, theme::kOchre, true, false};
        draw_guide_line(painter, drawn, line);
    } else {
        Marker m;
        m.shape = MarkerShape::Diamond, m.colour = theme::kOchre, m.selected = true;
        draw_marker(painter, m, line.front(), px.width);
    }
    painter.end();
    pixmap.setDevicePixelRatio(ratio);
    picture_->setPixmap(pixmap);
}

}  // namespace veld
