// The session's watch on the project's inbox.
#include <QDateTime>

#include "app/session.h"

namespace veld {

void Session::set_inbox(const QString& folder) {
    ProjectState next = state();
    next.inbox = folder.toStdString();
    change(folder.isEmpty() ? tr("Close the inbox") : tr("Choose the inbox"), std::move(next));
}

void Session::look_into_inbox() {
    const std::string& folder = state().inbox;
    if (folder.empty()) {
        inbox_.reset();
        if (!deliveries_.empty()) {
            deliveries_.clear();
            emit inbox_changed();
        }
        return;
    }
    if (!inbox_ || inbox_->folder() != folder) inbox_ = std::make_unique<Inbox>(folder);
    std::vector<Delivery> now = inbox_->look(QDateTime::currentMSecsSinceEpoch());
    // what is a source already was taken in an earlier session
    std::erase_if(now, [&](const Delivery& d) {
        for (const Subject& subject : state().subjects) {
            for (const Source& s : subject.sources) {
                if (s.path == d.path && s.stamp == file_stamp(d.path)) return true;
            }
            for (const PhotoSet& set : subject.photo_sets) {
                if (d.kind == DeliveryKind::Photos && set.name == d.name && set.photos->size() == d.files.size()) return true;
            }
        }
        return false;
    });
    const bool same = std::equal(now.begin(), now.end(), deliveries_.begin(), deliveries_.end(), [](const Delivery& a, const Delivery& b) { return a.stamp == b.stamp && a.complete == b.complete && a.waiting_for == b.waiting_for; });
    if (same) return;
    deliveries_ = std::move(now);
    emit inbox_changed();
}

void Session::take_delivery(std::size_t i) {
    if (i >= deliveries_.size() || !deliveries_[i].complete || busy()) return;
    const Delivery delivery = deliveries_[i];
    if (delivery.kind == DeliveryKind::Scan) {
        dismiss_delivery(i);
        return load_sources({QString::fromStdString(delivery.path)});
    }
    auto photos = read_photos(delivery.name, delivery.files);
    if (!photos) return report(photos.error());   // it stays on offer
    dismiss_delivery(i);
    put_photos(std::move(*photos));
}

void Session::put_photos(PhotoSet&& photos) {
    ProjectState next = state();
    if (next.subjects.empty()) next.subjects.push_back({"Subject 1", {}, {}});
    if (!next.current()) next.subject = 0;
    std::vector<std::string> taken;   // a fit knows its set by name
    for (const PhotoSet& set : next.current()->photo_sets) taken.push_back(set.name);
    for (const Source& source : next.current()->sources) taken.push_back(source.name);
    photos.name = free_name(photos.name, taken);
    const QString label = tr("Add %1").arg(QString::fromStdString(photos.name));
    next.current()->photo_sets.push_back(std::move(photos));
    change(label, std::move(next));
}

void Session::add_photos(const QStringList& files) {
    std::vector<std::string> paths;
    for (const QString& f : files) paths.push_back(f.toStdString());
    auto photos = read_photos("portraits", paths);
    if (!photos) return report(photos.error());
    put_photos(std::move(*photos));
}

void Session::dismiss_delivery(std::size_t i) {
    if (i >= deliveries_.size()) return;
    inbox_->forget(deliveries_[i]);
    deliveries_.erase(deliveries_.begin() + static_cast<std::ptrdiff_t>(i));
    emit inbox_changed();
}

}  // namespace veld
