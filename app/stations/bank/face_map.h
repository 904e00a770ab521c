#pragma once
// The base's head, front and side, in which regions are pointed at.
#include <set>

#include "app/stations/bank/two_sides.h"
#include "core/morph/region_mix.h"

namespace veld {

class Session;

class FaceMap : public TwoSides {
    Q_OBJECT
 public:
    explicit FaceMap(Session& session, QWidget* parent = nullptr);
    void show_regions(const BaseRegions& regions);
    // selected: ochre; mixed: regions that have shapes of their own, with a teal mark
    void show_state(const std::string& selected, const std::set<std::string>& mixed);
    QSize sizeHint() const override { return {264, 190}; }
    // where a region is pointed at, on the base
    std::optional<Vec3> place_of(const std::string& region) const;

 signals:
    void picked(const QString& region);

 private:
    const std::string* region_at(const Ray& ray) const;
    void point_at(Viewport& view, const Ray& ray);
    void colour();
    void mark();

    Session& s_;
    std::shared_ptr<DisplayMesh> mesh_;
    std::shared_ptr<const BaseKit> kit_;  // whose mesh that is
    BaseRegions regions_;
    std::vector<Index> middles_;
    std::string selected_, hovered_;
    std::set<std::string> mixed_;
};

}  // namespace veld
