#include "core/spatial/self_intersections.h"

#include <embree3/rtcore.h>

#include <algorithm>
#include <mutex>

namespace veld {
namespace {

constexpr std::size_t kFew = 1000;  // triangles: no tree is worth while

// Does the open segment p-q pass through the inside of triangle abc?
bool crosses(const Vec3& p, const Vec3& q, const Vec3& a, const Vec3& b, const Vec3& c) {
    const Vec3 n = (b - a).cross(c - a);
    const double dp = n.dot(p - a), dq = n.dot(q - a);
    if (dp * dq >= 0) return false;  // one side, or touching only
    const Vec3 x = p + (q - p) * (dp / (dp - dq));
    return n.dot((b - a).cross(x - a)) > 0 && n.dot((c - b).cross(x - b)) > 0 && n.dot((a - c).cross(x - c)) > 0;
}

struct Search {
    const Points& positions;
    const std::vector<Triangle>& triangles;
    const TriangleIndices* only;  // null: all
    std::mutex mutex;
    std::vector<std::pair<Index, Index>> found;

    Index number(unsigned primitive) const { return only ? (*only)[primitive] : primitive; }
    bool edges_cross(const Triangle& s, const Triangle& t) const {
        const auto& x = positions;
        for (int k = 0; k < 3; ++k) {
            const Index p = s[static_cast<std::size_t>(k)], q = s[static_cast<std::size_t>((k + 1) % 3)];
            const auto shared = [&](Index v) { return v == t[0] || v == t[1] || v == t[2]; };
            if (shared(p) || shared(q)) continue;
            if (crosses(x[p], x[q], x[t[0]], x[t[1]], x[t[2]])) return true;
        }
        return false;
    }
    bool intersects(Index a, Index b) const {
        const Triangle &s = triangles[a], &t = triangles[b];
        int shared = 0;
        for (Index v : s) shared += v == t[0] || v == t[1] || v == t[2];
        if (shared >= 2) return false;
        return edges_cross(s, t) || edges_cross(t, s);
    }
};

// Sweep and prune [Cohen et al. 1995]: boxes in order of where they begin, each against those that begin inside it.
void sweep(Search& search) {
    const std::size_t count = search.only ? search.only->size() : search.triangles.size();
    std::vector<std::pair<Eigen::AlignedBox3d, Index>> boxes;
    Eigen::AlignedBox3d all;
    for (Index i = 0; i < count; ++i) {
        Eigen::AlignedBox3d box;
        for (const Index v : search.triangles[search.number(i)]) box.extend(search.positions[v]);
        all.extend(box);
        boxes.emplace_back(box, search.number(i));
    }
    int axis = 0;
    if (count > 0) all.sizes().maxCoeff(&axis);
    std::sort(boxes.begin(), boxes.end(),
              [&](const auto& a, const auto& b) { return a.first.min()[axis] < b.first.min()[axis]; });
    for (std::size_t i = 0; i < boxes.size(); ++i)
        for (std::size_t k = i + 1; k < boxes.size() && boxes[k].first.min()[axis] <= boxes[i].first.max()[axis];
             ++k) {
            if (!boxes[i].first.intersects(boxes[k].first)) continue;
            const auto [a, b] = std::minmax(boxes[i].second, boxes[k].second);
            if (search.intersects(a, b)) search.found.emplace_back(a, b);
        }
}

void triangle_bounds(const RTCBoundsFunctionArguments* args) {
    const auto& s = *static_cast<const Search*>(args->geometryUserPtr);
    const Triangle& t = s.triangles[s.number(args->primID)];
    Eigen::AlignedBox3d box;
    for (Index v : t) box.extend(s.positions[v]);
    const double grow = 1e-3;  // single precision of coordinates up to a few metres
    RTCBounds& out = *args->bounds_o;
    out.lower_x = static_cast<float>(box.min().x() - grow);
    out.lower_y = static_cast<float>(box.min().y() - grow);
    out.lower_z = static_cast<float>(box.min().z() - grow);
    out.upper_x = static_cast<float>(box.max().x() + grow);
    out.upper_y = static_cast<float>(box.max().y() + grow);
    out.upper_z = static_cast<float>(box.max().z() + grow);
}

void on_candidates(void* user, RTCCollision* pairs, unsigned count) {
    auto& s = *static_cast<Search*>(user);
    std::vector<std::pair<Index, Index>> local;
    for (unsigned i = 0; i < count; ++i) {
        const Index a = s.number(pairs[i].primID0), b = s.number(pairs[i].primID1);
        if (a < b && s.intersects(a, b)) local.emplace_back(a, b);
    }
    if (local.empty()) return;
    const std::lock_guard lock(s.mutex);
    s.found.insert(s.found.end(), local.begin(), local.end());
}

}  // namespace

std::vector<std::pair<Index, Index>> self_intersections(const Points& positions,
                                                        const std::vector<Triangle>& triangles,
                                                        const TriangleIndices* only) {
    Search search{positions, triangles, only, {}, {}};
    if ((only ? only->size() : triangles.size()) <= kFew) {
        sweep(search);
        std::sort(search.found.begin(), search.found.end());
        return std::move(search.found);
    }
    RTCDevice device = rtcNewDevice(nullptr);
    RTCScene scene = rtcNewScene(device);
    RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_USER);
    rtcSetGeometryUserPrimitiveCount(geometry, static_cast<unsigned>(only ? only->size() : triangles.size()));
    rtcSetGeometryUserData(geometry, &search);
    rtcSetGeometryBoundsFunction(geometry, triangle_bounds, nullptr);
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(scene, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(scene);
    rtcCollide(scene, scene, on_candidates, &search);
    rtcReleaseScene(scene);
    rtcReleaseDevice(device);
    std::sort(search.found.begin(), search.found.end());
    search.found.erase(std::unique(search.found.begin(), search.found.end()), search.found.end());
    return std::move(search.found);
}

TriangleIndices triangles_near(const Points& positions, const std::vector<Triangle>& triangles,
                               const VertexMask& marked) {
    Eigen::AlignedBox3d box;
    for (const Triangle& t : triangles) {
        if (!marked[t[0]] && !marked[t[1]] && !marked[t[2]]) continue;
        for (const Index v : t) box.extend(positions[v]);
    }
    TriangleIndices out;
    for (Index i = 0; i < triangles.size(); ++i) {
        Eigen::AlignedBox3d own;
        for (const Index v : triangles[i]) own.extend(positions[v]);
        if (box.intersects(own)) out.push_back(i);
    }
    return out;
}

}  // namespace veld
