#pragma once
// Regions of a fit: the kit's and those painted for this subject, what each is told, and the brush that paints.
#include <QObject>

#include "app/session.h"
#include "app/views/camera.h"
#include "app/weight_brush.h"

namespace veld {

class RegionController : public QObject {
    Q_OBJECT
 public:
    explicit RegionController(Session& session, QObject* parent = nullptr);

    // --- the region that is looked at; its weights are shown on the base
    void show(const std::string& region);  // empty: none
    const std::string& shown() const { return shown_; }
    bool shows() const { return !shown_.empty() && !weights_.empty(); }
    QString shown_name() const;
    const std::vector<float>& weights() const { return weights_; }
    bool is_painted(const std::string& region) const { return s_.state().settings.own_regions.contains(region); }

    // --- what a fit does there
    RegionSetting setting(const std::string& region) const;
    void set(const QString& label, const std::string& region, const RegionSetting& setting);
    // A new painted region, empty or beginning as the shown one; it is shown then.
    void add_painted(bool from_shown);
    void remove_painted();

    // --- painting, on the base (kit frame)
    double radius_mm = 14;
    bool mirrored = true;
    void set_painting(bool on);
    bool painting() const { return painting_ && is_painted(shown_); }
    QString prompt() const;
    void begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray);
    void end_stroke();

 signals:
    void changed();

 private:
    void refresh();
    void paint(const Ray& ray);

    Session& s_;
    std::string shown_;
    std::vector<float> weights_;
    bool painting_ = false, stroking_ = false, erasing_ = false;
    WeightBrush brush_;
};

}  // namespace veld
