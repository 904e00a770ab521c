#include "app/stations/fit/region_controller.h"

#include "app/region_names.h"
#include "core/fit/problem.h"

namespace veld {

RegionController::RegionController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] {
        stroking_ = painting_ = false;
        shown_.clear(), weights_.clear();
    });
    connect(&s_, &Session::changed, this, &RegionController::refresh);
}

void RegionController::refresh() {
    if (stroking_) return;
    weights_.clear();
    if (s_.has_kit() && !shown_.empty()) weights_ = region_weights(*s_.state().kit, s_.state().settings, shown_);
    emit changed();
}

void RegionController::show(const std::string& region) {
    if (region == shown_) return;
    shown_ = region;
    refresh();
}

QString RegionController::shown_name() const {
    return is_painted(shown_) ? QString::fromStdString(shown_) : plain_region(shown_);
}

RegionSetting RegionController::setting(const std::string& region) const {
    const auto at = s_.state().settings.regions.find(region);
    return at == s_.state().settings.regions.end() ? RegionSetting() : at->second;
}

void RegionController::set(const QString& label, const std::string& region, const RegionSetting& setting) {
    ProjectState next = s_.state();
    if (setting == RegionSetting())
        next.settings.regions.erase(region);
    else
        next.settings.regions[region] = setting;
    if (next.settings == s_.state().settings) return;
    s_.change(label, std::move(next), "region " + region);
}

void RegionController::add_painted(bool from_shown) {
    if (!s_.has_kit()) return;
    ProjectState next = s_.state();
    std::vector<std::string> taken;
    for (const auto& [name, weights] : next.settings.own_regions) taken.push_back(name);
    for (const auto& [name, vertices] : next.kit->regions) taken.push_back(name);
    const bool copy = from_shown && shows();
    const std::string name =
        free_name(copy ? (shown_name() + tr(" painted")).toStdString() : tr("Painted").toStdString(), taken);
    next.settings.own_regions[name] = copy ? soft_weights(weights_) : SoftWeights();
    next.settings.regions[name] = copy ? setting(shown_) : RegionSetting{0, 1, 0, 0};  // not matched, to begin with
    shown_ = name;
    painting_ = true;
    s_.change(tr("New painted region"), std::move(next));
}

void RegionController::remove_painted() {
    if (!is_painted(shown_)) return;
    ProjectState next = s_.state();
    next.settings.own_regions.erase(shown_);
    next.settings.regions.erase(shown_);
    const QString label = tr("Remove the region %1").arg(QString::fromStdString(shown_));
    shown_.clear();
    s_.change(label, std::move(next));
}

void RegionController::set_painting(bool on) {
    painting_ = on;
    emit changed();
}

QString RegionController::prompt() const { return tr("Paint %1 on the base; Ctrl removes.").arg(shown_name()); }

void RegionController::begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys) {
    stroking_ = true;
    erasing_ = keys.testFlag(Qt::ControlModifier);
    paint(ray);
}

void RegionController::move_stroke(const Ray& ray) {
    if (stroking_) paint(ray);
}

void RegionController::paint(const Ray& ray) {
    if (!brush_.paint(s_.state().kit, ray, radius_mm, erasing_, mirrored, weights_)) return;
    emit changed();
}

void RegionController::end_stroke() {
    if (!stroking_) return;
    stroking_ = false;
    if (!is_painted(shown_)) return;  // undone under the hand
    ProjectState next = s_.state();
    next.settings.own_regions[shown_] = soft_weights(weights_);
    s_.change(erasing_ ? tr("Remove from a region") : tr("Paint a region"), std::move(next));
}

}  // namespace veld
