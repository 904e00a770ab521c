// What is dragged over the window: said before it is dropped, and why it cannot be taken.
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QLabel>
#include <QMimeData>

#include "app/stations/base/base_controller.h"
#include "app/stations/base/new_base_tab.h"
#include "app/stations/mark/mark_controller.h"
#include "app/views/view_set.h"
#include "app/widgets.h"
#include "app/window/main_window.h"

namespace veld {
namespace {

constexpr int kFromEdge = 44;  // pixels; titles stay to be read

const QString kReadable =
    "*.obj *.ply *.stl *.glb *.gltf *.zip *.fbx *.dae *.3ds *.off *.jpg *.jpeg *.png *.tif *.tiff *.heic *.heif";

bool readable(const QString& path) { return kReadable.split(' ').contains("*." + QFileInfo(path).suffix().toLower()); }

}  // namespace

QString MainWindow::source_filter() { return tr("Scans, sculpts and photographs (%1)").arg(kReadable); }

MainWindow::Dragged MainWindow::look_at(const QMimeData& data) const {
    Dragged out;
    QString other;
    for (const QUrl& url : data.urls()) {
        const QString path = url.toLocalFile(), name = QFileInfo(path).fileName();
        if (path.endsWith(".veldstone")) return {Dragged::Project, {path}, tr("Opens the project %1").arg(name)};
        if (QFileInfo::exists(path + "/figure.json"))
            return {Dragged::Kit, {path}, tr("Begins a project with the base kit %1").arg(name)};
        if (path.endsWith(".json"))
            out.landmarks << path;
        else if (readable(path))
            out.files << path;
        else if (other.isEmpty())
            other = path.isEmpty() ? url.toString() : name;
    }
    const bool any = !out.files.isEmpty() || !out.landmarks.isEmpty();
    const Source* source = session_.state().source();
    if (!any) {
        out.says = tr("%1 cannot be read. Drop a scan, a sculpt, photographs, a project or a kit's folder: %2")
                       .arg(other, QString(kReadable).remove("*."));
    } else if (base_dropped(out.files)) {
        out.what = Dragged::Base;
        out.says = tr("Begins a base kit with %1; a scan is dropped when a project or a kit is open")
                       .arg(QFileInfo(out.files.first()).fileName());
    } else if (!session_.has_kit()) {
        out.says = tr("Open a project or a base kit first, then drop the scan.");
    } else if (out.files.isEmpty() && !source && !session_.photo()) {
        out.says = tr("Landmarks belong to a source: add a scan first.");
    } else {
        out.what = Dragged::Sources;
        out.says = out.files.isEmpty()
                       ? tr("Reads landmarks for %1").arg(QString::fromStdString(source ? source->name : ""))
                       : tr("Adds %n file(s) to %1", nullptr, static_cast<int>(out.files.size()))
                             .arg(session_.subject_name(session_.subject()));
    }
    return out;
}

// A mesh where there is no kit yet, or at the place where kits are made.
bool MainWindow::base_dropped(const QStringList& files) const {
    const bool making = station_ == Station::Base && base_->page() == BaseController::Page::New;
    return (!session_.has_kit() || making) && files.size() == 1 && !is_picture_name(files.first().toStdString()) &&
           !files.first().endsWith(".zip", Qt::CaseInsensitive);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (!event->mimeData()->hasUrls()) return;
    event->acceptProposedAction();  // also what cannot be taken: the drop says so once more
    const Dragged what = look_at(*event->mimeData());
    if (!drop_says_) {
        drop_says_ = text_label({}, "ask", centralWidget());
        drop_says_->setObjectName("drop_says");
    }
    drop_says_->setText(what.says);
    drop_says_->setProperty("refused", what.what == Dragged::Nothing);
    QWidget* over = session_.has_kit() ? static_cast<QWidget*>(views_) : centralWidget();
    const QPoint at = over->mapTo(centralWidget(), QPoint(kFromEdge, kFromEdge));
    const int wide = std::max(200, over->width() - 2 * kFromEdge);
    drop_says_->setGeometry(QRect(at, QSize(wide, drop_says_->heightForWidth(wide))));
    drop_says_->show();
    drop_says_->raise();
}

void MainWindow::dragLeaveEvent(QDragLeaveEvent*) {
    if (drop_says_) drop_says_->hide();
}

void MainWindow::dropEvent(QDropEvent* event) {
    if (drop_says_) drop_says_->hide();
    const Dragged what = look_at(*event->mimeData());
    switch (what.what) {
        case Dragged::Nothing:
            return show_error(what.says);
        case Dragged::Project:
            return leave_then([this, path = what.files.first()] { open_project(path); });
        case Dragged::Kit:
            return leave_then([this, path = what.files.first()] { new_from(path); });
        case Dragged::Base:
            go_to(Station::Base);
            base_->set_page(BaseController::Page::New);
            return panel<NewBaseTab>().set_mesh(what.files.first());
        case Dragged::Sources:
            break;
    }
    for (const QString& path : what.landmarks) {
        if (auto ok = mark_->read(path); !ok) show_error(QString::fromStdString(ok.error().message));
    }
    if (!what.files.isEmpty()) session_.load_sources(what.files);
}

}  // namespace veld
