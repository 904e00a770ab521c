#include "app/window/subject_tree.h"

#include <QBuffer>
#include <QDropEvent>
#include <QFileInfo>
#include <QImageReader>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QSignalBlocker>
#include <QUrl>

#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/kit/kit_surface.h"
#include "core/morph/morph.h"
#include "core/project/sources.h"
#include "core/spatial/small_picture.h"

namespace veld {
namespace {
constexpr int kLineRole = Qt::UserRole, kIconSide = 22;
constexpr std::size_t kShownMorphs = 20, kKeptIcons = 200;
}  // namespace

SubjectTree::SubjectTree(Session& session, QWidget* parent) : QWidget(parent), s_(session) {
    auto* column = panel_column(this);
    column->setContentsMargins(8, 8, 6, 8);
    tree_ = new QTreeWidget;
    tree_->setObjectName("subjects");
    tree_->setAccessibleName(tr("The project's things"));
    tree_->setHeaderHidden(true);
    tree_->setIndentation(12);
    tree_->setRootIsDecorated(false);
    tree_->setTextElideMode(Qt::ElideMiddle);
    tree_->setIconSize({kIconSide, kIconSide});
    tree_->setContextMenuPolicy(Qt::CustomContextMenu);
    tree_->setAcceptDrops(true);
    tree_->installEventFilter(this);
    tree_->viewport()->installEventFilter(this);
    connect(tree_, &QTreeWidget::itemClicked, this, &SubjectTree::activated);
    connect(tree_, &QWidget::customContextMenuRequested, this, &SubjectTree::show_menu);
    column->addWidget(tree_, 1);
    auto* add = button(tr("New subject…"), "subject_add");
    connect(add, &QPushButton::clicked, this, &SubjectTree::add_subject);
    column->addWidget(add);
    connect(&s_, &Session::changed, this, &SubjectTree::refresh);
    refresh();
}

QTreeWidgetItem* SubjectTree::add_line(QTreeWidgetItem* parent, const QString& text, Line line, bool dim) {
    auto* item = parent ? new QTreeWidgetItem(parent) : new QTreeWidgetItem(tree_);
    item->setText(0, text);
    item->setToolTip(0, text);
    item->setData(0, kLineRole, static_cast<int>(lines_.size()));
    if (dim) item->setForeground(0, theme::ink().dim);
    lines_.push_back(std::move(line));
    return item;
}

void SubjectTree::refresh() {
    const QSignalBlocker quiet(tree_);
    tree_->clear();
    lines_.clear();
    const ProjectState& state = s_.state();
    for (const Subject& subject : state.subjects) add_subject_lines(subject, &subject == state.current());
    if (!state.bank.empty()) add_bank_lines();
    tree_->expandAll();
}

void SubjectTree::add_subject_lines(const Subject& subject, bool current) {
    const SubjectId id = subject.id;
    auto* top = add_line(nullptr, QString::fromStdString(subject.name), {Station::Gather, id, id, {}});
    QFont bold = top->font(0);
    bold.setBold(current);
    top->setFont(0, bold);
    if (subject.sources.empty() && subject.photo_sets.empty())
        add_line(top, tr("no source yet"), {Station::Gather, id, {}, {}}, true);
    for (const Source& s : subject.sources) {
        const QString name = QString::fromStdString(s.name);
        const bool newer = file_changed(s);
        auto* source = add_line(top, newer ? tr("↻ %1").arg(name) : name, {Station::Gather, id, s.id, {}});
        if (newer) source->setToolTip(0, tr("%1: the file on disk is newer").arg(name));
        source->setForeground(0, theme::ink().source);
        const std::size_t n = s.landmarks.points.size();
        add_line(source,
                 n ? tr("%n landmark(s), %1 curves", nullptr, static_cast<int>(n)).arg(s.landmarks.curves.size())
                   : tr("no landmarks yet"),
                 {Station::Mark, id, {}, {}}, n == 0);
    }
    add_photo_lines(top, subject);
    for (const FitRecord& f : subject.fits) {
        const bool of_surface = f.figures.surface.vertices > 0;
        const QString name = QString::fromStdString(f.name);
        add_line(top, of_surface ? name + "  " + length_text(f.figures.surface.median, 3) : name,
                 {Station::Fit, id, f.id, {}}, &f != subject.fit())
            ->setIcon(0, fit_icon(f));
    }
}

void SubjectTree::add_photo_lines(QTreeWidgetItem* top, const Subject& subject) {
    for (const PhotoSet& set : subject.photo_sets) {
        auto* photos = add_line(top,
                                tr("%1, %n photograph(s)", nullptr, static_cast<int>(set.photos->size()))
                                    .arg(QString::fromStdString(set.name)),
                                {Station::Gather, subject.id, set.id, {}});
        for (std::size_t p = 0; p < set.photos->size(); ++p) {
            const std::size_t n = p < set.marks.size() ? set.marks[p].points.size() : 0;
            const QString name = QString::fromStdString((*set.photos)[p].name);
            auto* photo = add_line(photos, n ? tr("%1, %n landmark(s)", nullptr, static_cast<int>(n)).arg(name) : name,
                                   {Station::Mark, subject.id, {}, Session::PhotoPlace{set.id, p}}, n == 0);
            photo->setIcon(0, photo_icon(set, p));
        }
    }
}

void SubjectTree::add_bank_lines() {
    const ProjectState& state = s_.state();
    auto* bank = add_line(nullptr, tr("Bank, %n morph(s)", nullptr, static_cast<int>(state.bank.size())),
                          {Station::Bank, {}, {}, {}});
    // a few, or what is in use: hundreds are looked through in the Bank itself
    for (const BankEntry& e : state.bank) {
        if (state.bank.size() <= kShownMorphs || e.amount != 0)
            add_line(bank, QString::fromStdString(e.morph->name) + "  " + QString::number(e.amount, 'f', 2),
                     {Station::Bank, {}, e.id, {}}, e.amount == 0);
    }
}

// Its face, drawn once for each shape that it had.
QIcon SubjectTree::fit_icon(const FitRecord& fit) {
    std::erase_if(faces_, [](const auto& one) { return one.second.of.expired(); });
    Face& face = faces_[fit.id.value];
    if (face.of.lock() == fit.positions) return face.icon;
    const BaseKit& kit = *s_.state().kit;
    Box box;
    for (const Index v : kit.region("head_skin")) box.add((*fit.positions)[v]);
    if (box.empty()) box = bounding_box(*fit.positions);
    constexpr int kSide = 2 * kIconSide;
    const SmallPicture small = small_picture(*fit.positions, solid_triangles(kit), box, kSide);
    QImage picture(kSide, kSide, QImage::Format_ARGB32);
    for (int y = 0; y < kSide; ++y) {
        for (int x = 0; x < kSide; ++x) {
            const auto at = static_cast<std::size_t>(y * kSide + x);
            const int light = small.grey[at];
            picture.setPixel(x, y,
                             small.seen[at] ? qRgb(light, light * 93 / 100, light * 84 / 100) : qRgba(0, 0, 0, 0));
        }
    }
    face = {fit.positions, QIcon(QPixmap::fromImage(picture))};
    return face.icon;
}

// Small, read once: the pictures themselves are large.
QIcon SubjectTree::photo_icon(const PhotoSet& set, std::size_t photo) {
    if (icons_.size() > kKeptIcons) icons_.clear();
    const Image& image = (*set.photos)[photo];
    QIcon& icon = icons_[{set.id.value, photo, image.bytes.size()}];
    if (!icon.isNull()) return icon;
    QByteArray bytes = QByteArray::fromRawData(reinterpret_cast<const char*>(image.bytes.data()),
                                               static_cast<qsizetype>(image.bytes.size()));
    QBuffer buffer(&bytes);
    QImageReader reader(&buffer);
    reader.setAutoTransform(true);
    const QSize whole = reader.size();
    if (whole.isValid()) reader.setScaledSize(whole.scaled(2 * kIconSide, 2 * kIconSide, Qt::KeepAspectRatio));
    const QImage small = reader.read();
    icon = small.isNull() ? theme::icon("front", &theme::Ink::dim) : QIcon(QPixmap::fromImage(small));
    return icon;
}

const SubjectTree::Line* SubjectTree::line_of(const QTreeWidgetItem* item) const {
    return item ? &lines_.at(static_cast<std::size_t>(item->data(0, kLineRole).toInt())) : nullptr;
}

void SubjectTree::make_current(SubjectId subject) {
    if (!subject || subject == s_.subject()) return;
    ProjectState next = s_.state();
    const Subject* wanted = find_subject(next, subject);
    if (!wanted) return;
    next.subject = static_cast<int>(wanted - next.subjects.data());
    s_.change(tr("Make %1 current").arg(QString::fromStdString(wanted->name)), std::move(next));
}

// The document's change rebuilds the tree and deletes the item: all that is asked of it is asked before.
void SubjectTree::activated(QTreeWidgetItem* item) {
    const Line line = *line_of(item);
    make_current(line.subject);
    s_.look_at_photo(line.photo);
    emit go_to(line.station);
}

void SubjectTree::add_subject() {
    if (!s_.has_kit()) return;
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("New subject"), tr("Name:"), QLineEdit::Normal, {}, &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    ProjectState next = s_.state();
    next.subjects.push_back({name.toStdString(), {}, {}});
    next.subject = static_cast<int>(next.subjects.size()) - 1;
    s_.change(tr("Add %1").arg(name), std::move(next));
}

// --- what is done to a thing

void SubjectTree::change(const QString& label, const std::function<bool(ProjectState&)>& edit) {
    if (s_.refuse_while_busy()) return;
    ProjectState next = s_.state();
    if (edit(next)) s_.change(label, std::move(next));
}

void SubjectTree::ask_name(const Thing& thing) {
    const QString old = QString::fromStdString(name_of(s_.state(), thing));
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Rename"), tr("Name:"), QLineEdit::Normal, old, &ok).trimmed();
    if (ok)
        change(tr("Rename %1").arg(old), [&](ProjectState& s) { return rename_thing(s, thing, name.toStdString()); });
}

void SubjectTree::show_menu(const QPoint& at) {
    const Line* line = line_of(tree_->itemAt(at));
    if (line && line->photo) return show_photo_menu(*line->photo, at);
    if (!line || !line->thing) return;
    const Thing thing = *line->thing;
    const QString name = QString::fromStdString(name_of(s_.state(), thing));
    QMenu menu(this);
    menu.setObjectName("thing_menu");
    // after the menu: what is done rebuilds the tree
    const auto item = [&](const char* id, const QString& title, const QKeySequence& key, auto act) {
        QAction* action = menu.addAction(title);
        action->setObjectName(id);
        action->setShortcut(key);
        connect(action, &QAction::triggered, this, act, Qt::QueuedConnection);
    };
    item("thing_rename", tr("Rename…"), Qt::Key_F2, [this, thing] { ask_name(thing); });
    item("thing_duplicate", tr("Duplicate"), {}, [this, thing, name] {
        change(tr("Duplicate %1").arg(name), [&](ProjectState& s) { return duplicate_thing(s, thing).has_value(); });
    });
    item("thing_up", tr("Move up"), QKeySequence("Ctrl+Up"), [this, thing, name] {
        change(tr("Move %1").arg(name), [&](ProjectState& s) { return move_thing(s, thing, -1); });
    });
    item("thing_down", tr("Move down"), QKeySequence("Ctrl+Down"), [this, thing, name] {
        change(tr("Move %1").arg(name), [&](ProjectState& s) { return move_thing(s, thing, 1); });
    });
    menu.addSeparator();
    item("thing_remove", tr("Remove"), QKeySequence::Delete, [this, thing, name] {
        change(tr("Remove %1").arg(name), [&](ProjectState& s) { return remove_thing(s, thing); });
    });
    menu.exec(tree_->viewport()->mapToGlobal(at));
}

void SubjectTree::show_photo_menu(const Session::PhotoPlace& place, const QPoint& at) {
    QMenu menu(this);
    menu.setObjectName("thing_menu");
    QAction* remove = menu.addAction(tr("Remove"));
    remove->setObjectName("thing_remove");
    remove->setShortcut(Qt::Key_Delete);
    connect(
        remove, &QAction::triggered, this, [this, place] { remove_one(place); }, Qt::QueuedConnection);
    menu.exec(tree_->viewport()->mapToGlobal(at));
}

void SubjectTree::remove_one(const Session::PhotoPlace& place) {
    const PhotoSet* set = find_photo_set(s_.state(), place.set);
    if (!set || place.photo >= set->photos->size()) return;
    change(tr("Remove %1").arg(QString::fromStdString((*set->photos)[place.photo].name)),
           [&](ProjectState& s) { return remove_photo(s, place.set, place.photo); });
}

bool SubjectTree::key_pressed(const QKeyEvent& event) {
    const bool control = event.modifiers().testFlag(Qt::ControlModifier);
    const int key = event.key();
    const bool ours =
        key == Qt::Key_F2 || key == Qt::Key_Delete || (control && (key == Qt::Key_Up || key == Qt::Key_Down));
    const Line* line = ours ? line_of(tree_->currentItem()) : nullptr;
    if (line && line->photo && key == Qt::Key_Delete) {
        if (event.type() == QEvent::KeyPress) remove_one(Session::PhotoPlace(*line->photo));
        return true;
    }
    if (!line || !line->thing) return false;
    if (event.type() == QEvent::ShortcutOverride) return true;
    const Thing thing = *line->thing;
    const QString name = QString::fromStdString(name_of(s_.state(), thing));
    if (key == Qt::Key_F2) {
        ask_name(thing);
    } else if (key == Qt::Key_Delete) {
        change(tr("Remove %1").arg(name), [&](ProjectState& s) { return remove_thing(s, thing); });
    } else {
        change(tr("Move %1").arg(name),
               [&](ProjectState& s) { return move_thing(s, thing, key == Qt::Key_Up ? -1 : 1); });
    }
    return true;
}

// Files for the subject that they are dropped on. now: else only asked whether they would be taken.
bool SubjectTree::dropped(QDropEvent& event, bool now) {
    const Line* line = line_of(tree_->itemAt(event.position().toPoint()));
    QStringList files;
    for (const QUrl& url : event.mimeData()->urls()) {
        const QString file = url.toLocalFile();
        // projects, landmarks and kits are the window's
        if (file.endsWith(".veldstone") || file.endsWith(".json") || QFileInfo::exists(file + "/figure.json"))
            return false;
        if (!file.isEmpty()) files << file;
    }
    if (!line || !line->subject || files.isEmpty()) return false;
    event.acceptProposedAction();
    const SubjectId subject = line->subject;
    if (!now) {
        tree_->setCurrentItem(tree_->itemAt(event.position().toPoint()));  // where it would land
        return true;
    }
    make_current(subject);
    s_.load_sources(files);
    return true;
}

bool SubjectTree::eventFilter(QObject* object, QEvent* event) {
    switch (event->type()) {
        case QEvent::ShortcutOverride:
            if (object == tree_ && key_pressed(*static_cast<QKeyEvent*>(event))) return event->accept(), true;
            break;
        case QEvent::KeyPress:
            if (object == tree_ && key_pressed(*static_cast<QKeyEvent*>(event))) return true;
            if (object == tree_ && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Return && tree_->currentItem())
                return activated(tree_->currentItem()), true;
            break;
        case QEvent::DragEnter:
        case QEvent::DragMove:
            if (object == tree_->viewport() && dropped(*static_cast<QDropEvent*>(event), false)) return true;
            break;
        case QEvent::Drop:
            if (object == tree_->viewport() && dropped(*static_cast<QDropEvent*>(event), true)) return true;
            break;
        default:
            break;
    }
    return QWidget::eventFilter(object, event);
}

}  // namespace veld
