#pragma once
// The nearest of many points, within a reach that is known before: a grid of cells as large as the reach.
#include <unordered_map>

#include "core/base/types.h"

namespace veld {

class NearestPoints {
 public:
    // points: must outlive it.
    NearestPoints(const Points& points, double reach);
    // kNone: none within reach; of equally near ones the first
    Index nearest(const Vec3& p) const;

 private:
    std::uint64_t cell_of(const Vec3& p, int dx, int dy, int dz) const;

    const Points& points_;
    double reach_;
    std::unordered_map<std::uint64_t, std::vector<Index>> cells_;
};

}  // namespace veld
