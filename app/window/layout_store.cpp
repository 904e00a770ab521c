#include "app/window/layout_store.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QFileInfo>
#include <QSettings>
#include <algorithm>

namespace veld {
namespace {

const QString kOfMachine = "window/", kOfProjects = "projects", kWhen = "used";
constexpr std::size_t kMostProjects = 40;  // those that were open last

QString place_of(const QString& path) {
    if (path.isEmpty()) return {};
    const QByteArray name = QFileInfo(path).absoluteFilePath().toUtf8();
    return kOfProjects + "/" +
           QString::fromLatin1(QCryptographicHash::hash(name, QCryptographicHash::Sha1).toHex().left(16)) + "/";
}

void drop_oldest() {
    QSettings settings;
    settings.beginGroup(kOfProjects);
    std::vector<std::pair<qint64, QString>> all;
    for (const QString& one : settings.childGroups())
        all.emplace_back(settings.value(one + "/" + kWhen).toLongLong(), one);
    if (all.size() <= kMostProjects) return;
    std::sort(all.begin(), all.end());
    for (std::size_t i = 0; i + kMostProjects < all.size(); ++i) settings.remove(all[i].second);
}

}  // namespace

void LayoutStore::set_project(const QString& path) {
    const QString place = place_of(path);
    if (place == project_) return;
    project_ = place;
    emit changed();
}

QVariant LayoutStore::value(const QString& key, const QVariant& otherwise) const {
    const QSettings settings;
    if (!project_.isEmpty() && settings.contains(project_ + key)) return settings.value(project_ + key);
    return settings.value(kOfMachine + key, otherwise);
}

void LayoutStore::set(const QString& key, const QVariant& value) {
    QSettings settings;
    settings.setValue(kOfMachine + key, value);
    if (project_.isEmpty()) return;
    settings.setValue(project_ + key, value);
    settings.setValue(project_ + kWhen, QDateTime::currentSecsSinceEpoch());
    drop_oldest();
}

}  // namespace veld
