// The session's watch on the project's inbox.
#include <QDateTime>

#include "app/session_parts.h"

namespace veld {

void Session::set_inbox(const QString& folder) {
    ProjectState next = state();
    next.inbox = folder.toStdString();
    change(folder.isEmpty() ? tr("Close the inbox") : tr("Set the inbox"), std::move(next));
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
                if (d.kind == DeliveryKind::Photos && set.name == d.name && set.photos->size() == d.files.size())
                    return true;
            }
        }
        return false;
    });
    const bool same = std::equal(
        now.begin(), now.end(), deliveries_.begin(), deliveries_.end(), [](const Delivery& a, const Delivery& b) {
            return a.stamp == b.stamp && a.complete == b.complete && a.waiting_for == b.waiting_for;
        });
    if (same) return;
    deliveries_ = std::move(now);
    emit inbox_changed();
}

void Session::take_delivery(const std::string& path) {
    const auto at =
        std::find_if(deliveries_.begin(), deliveries_.end(), [&](const Delivery& d) { return d.path == path; });
    if (at == deliveries_.end() || !at->complete || refuse_while_busy()) return;
    const Delivery delivery = *at;
    if (delivery.kind == DeliveryKind::Scan) {
        dismiss_delivery(path);
        return load_sources({QString::fromStdString(delivery.path)});
    }
    read_photos_for(delivery.name, delivery.files, path);
}

void Session::put_photos(SubjectId to, PhotoSet&& photos) {
    ProjectState next = state();
    Subject* subject = subject_to_fill(next, to);
    if (!subject) return emit noticed(tr("The subject has been removed; nothing was added."));
    photos.name = free_name(photos.name, source_names(*subject));
    const QString label = tr("Add %1").arg(QString::fromStdString(photos.name));
    subject->photo_sets.push_back(std::move(photos));
    change(label, std::move(next));
}

void Session::add_photos(const QStringList& files) {
    std::vector<std::string> paths;
    for (const QString& f : files) paths.push_back(f.toStdString());
    read_photos_for("portraits", paths, {});
}

// In the background: large pictures take their time. delivery: dismissed when it worked; empty: none.
void Session::read_photos_for(const std::string& name, const std::vector<std::string>& files,
                              const std::string& delivery) {
    if (!has_kit()) return;
    JobInfo info{JobKind::Read, tr("Reading %1").arg(QString::fromStdString(name)), subject()};
    info.memory_bytes = std::size_t{400} << 20;
    jobs_.start<PhotoSet>(
        std::move(info), [name, files](const Progress&) { return read_photos(name, files); },
        [this, to = subject(), delivery](Result<PhotoSet>&& photos) {
            if (!photos) return say_why_not(photos.error());  // a delivery stays on offer
            if (!delivery.empty()) dismiss_delivery(delivery);
            put_photos(to, std::move(*photos));
        });
}

void Session::dismiss_delivery(const std::string& path) {
    const auto at =
        std::find_if(deliveries_.begin(), deliveries_.end(), [&](const Delivery& d) { return d.path == path; });
    if (at == deliveries_.end()) return;
    if (inbox_) inbox_->forget(*at);
    deliveries_.erase(at);
    emit inbox_changed();
}

}  // namespace veld
