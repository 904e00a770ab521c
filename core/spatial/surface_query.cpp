#include "core/spatial/surface_query.h"

#include <embree3/rtcore.h>

namespace veld {

struct SurfaceQuery::Inside {
    const Vec3* positions;  // of the arrays, which may be moved from one vector to another
    const Triangle* triangles;
    Points normals;
    Vec3 centre = Vec3::Zero();
    RTCDevice device = nullptr;
    RTCScene scene = nullptr;

    ~Inside() {
        if (scene) rtcReleaseScene(scene);
        if (device) rtcReleaseDevice(device);
    }
};

SurfaceHit closest_on_triangle(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c) {
    SurfaceHit hit;
    const auto at = [&](double u, double v, double w) {
        hit.barycentric = {u, v, w};
        hit.position = u * a + v * b + w * c;
        hit.distance = (hit.position - p).norm();
        return hit;
    };
    const Vec3 ab = b - a, ac = c - a, ap = p - a;
    const double d1 = ab.dot(ap), d2 = ac.dot(ap);
    if (d1 <= 0 && d2 <= 0) return at(1, 0, 0);
    const Vec3 bp = p - b;
    const double d3 = ab.dot(bp), d4 = ac.dot(bp);
    if (d3 >= 0 && d4 <= d3) return at(0, 1, 0);
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) {
        const double v = d1 / (d1 - d3);
        return at(1 - v, v, 0);
    }
    const Vec3 cp = p - c;
    const double d5 = ab.dot(cp), d6 = ac.dot(cp);
    if (d6 >= 0 && d5 <= d6) return at(0, 0, 1);
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) {
        const double w = d2 / (d2 - d6);
        return at(1 - w, 0, w);
    }
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const double w = (d4 - d3) / ((d4 - d3) + (d5 - d6));
        return at(0, 1 - w, w);
    }
    const double total = va + vb + vc;
    if (!(total > 0)) return at(1, 0, 0);  // no area
    return at(va / total, vb / total, vc / total);
}

SurfaceQuery::SurfaceQuery(const Points& positions, const std::vector<Triangle>& triangles)
    : inside_(std::make_unique<Inside>()) {
    Inside& in = *inside_;
    in.positions = positions.data();
    in.triangles = triangles.data();
    Vec3 low = Vec3::Constant(1e300), high = -low;
    for (const Vec3& p : positions) low = low.cwiseMin(p), high = high.cwiseMax(p);
    if (!positions.empty()) in.centre = 0.5 * (low + high);
    in.normals.reserve(triangles.size());
    for (const Triangle& t : triangles) {
        const Vec3 n = (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]);
        in.normals.push_back(n.squaredNorm() > 0 ? Vec3(n.normalized()) : Vec3(Vec3::Zero()));
    }
    in.device = rtcNewDevice(nullptr);
    in.scene = rtcNewScene(in.device);
    rtcSetSceneFlags(in.scene, RTC_SCENE_FLAG_ROBUST);
    RTCGeometry geometry = rtcNewGeometry(in.device, RTC_GEOMETRY_TYPE_TRIANGLE);
    auto* vertices = static_cast<float*>(
        rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 12, positions.size()));
    for (std::size_t v = 0; v < positions.size(); ++v) {
        for (int k = 0; k < 3; ++k) vertices[3 * v + k] = static_cast<float>(positions[v][k] - in.centre[k]);
    }
    auto* corners = static_cast<Index*>(
        rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, triangles.size()));
    for (std::size_t t = 0; t < triangles.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) corners[3 * t + k] = triangles[t][k];
    }
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(in.scene, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(in.scene);
}

SurfaceQuery::~SurfaceQuery() = default;
SurfaceQuery::SurfaceQuery(SurfaceQuery&&) noexcept = default;
SurfaceQuery& SurfaceQuery::operator=(SurfaceQuery&&) noexcept = default;

const Points& SurfaceQuery::triangle_normals() const { return inside_->normals; }

SurfaceHit SurfaceQuery::closest(const Vec3& point, double max_distance, const FacingFilter* facing) const {
    struct Search {
        const Inside* in;
        Vec3 point;
        const FacingFilter* facing;
        SurfaceHit best;
        double limit;
    } search{inside_.get(), point, facing, {}, max_distance};
    RTCPointQueryContext context;
    rtcInitPointQueryContext(&context);
    const Vec3 local = point - inside_->centre;
    RTCPointQuery query;
    query.x = static_cast<float>(local.x());
    query.y = static_cast<float>(local.y());
    query.z = static_cast<float>(local.z());
    query.time = 0;
    // a little more than asked: the tree is single precision
    const auto reach = [](double d) { return static_cast<float>(d * (1 + 1e-5) + 2e-3); };
    query.radius = reach(max_distance);
    const auto visit = [](RTCPointQueryFunctionArguments* args) -> bool {
        auto& s = *static_cast<Search*>(args->userPtr);
        const Index id = args->primID;
        if (s.facing && s.in->normals[id].dot(s.facing->normal) < s.facing->min_cosine) return false;
        const Triangle& t = s.in->triangles[id];
        const Vec3* x = s.in->positions;
        SurfaceHit hit = closest_on_triangle(s.point, x[t[0]], x[t[1]], x[t[2]]);
        const bool nearer =
            hit.distance < s.best.distance || (hit.distance == s.best.distance && id < s.best.triangle);
        if (!nearer || hit.distance > s.limit) return false;
        hit.triangle = id;
        s.best = hit;
        const float radius = static_cast<float>(hit.distance * (1 + 1e-5) + 2e-3);
        if (radius >= args->query->radius) return false;
        args->query->radius = radius;
        return true;
    };
    rtcPointQuery(inside_->scene, &query, &context, visit, &search);
    return search.best;
}

namespace {

RTCRayHit cast(RTCScene scene, const Vec3& o, const Vec3& d, float from,
               float to = std::numeric_limits<float>::infinity()) {
    RTCRayHit ray{};
    ray.ray.org_x = static_cast<float>(o.x());
    ray.ray.org_y = static_cast<float>(o.y());
    ray.ray.org_z = static_cast<float>(o.z());
    ray.ray.dir_x = static_cast<float>(d.x());
    ray.ray.dir_y = static_cast<float>(d.y());
    ray.ray.dir_z = static_cast<float>(d.z());
    ray.ray.tnear = from;
    ray.ray.tfar = to;
    ray.ray.mask = 0xffffffffu;
    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    rtcIntersect1(scene, &context, &ray);
    return ray;
}

SurfaceHit hit_of(const RTCRayHit& ray, const Vec3* x, const Triangle* triangles, const Vec3& origin) {
    SurfaceHit hit;
    hit.triangle = ray.hit.primID;
    const double u = ray.hit.u, v = ray.hit.v;
    hit.barycentric = {1 - u - v, u, v};
    const Triangle& t = triangles[hit.triangle];
    hit.position = hit.barycentric[0] * x[t[0]] + u * x[t[1]] + v * x[t[2]];
    hit.distance = (hit.position - origin).norm();
    return hit;
}

}  // namespace

SurfaceHit SurfaceQuery::first_hit(const Vec3& origin, const Vec3& direction) const {
    const double length = direction.norm();
    if (!(length > 0)) return {};
    const RTCRayHit ray = cast(inside_->scene, origin - inside_->centre, direction / length, 0);
    if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return {};
    return hit_of(ray, inside_->positions, inside_->triangles, origin);
}

SurfaceHit SurfaceQuery::first_front_hit(const Vec3& origin, const Vec3& direction) const {
    const double length = direction.norm();
    if (!(length > 0)) return {};
    const Vec3 d = direction / length;
    float from = 0;
    for (int sheet = 0; sheet < 64; ++sheet) {  // more sheets than that in one line of sight: noise
        const RTCRayHit ray = cast(inside_->scene, origin - inside_->centre, d, from);
        if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return {};
        if (inside_->normals[ray.hit.primID].dot(d) < 0)
            return hit_of(ray, inside_->positions, inside_->triangles, origin);
        from = ray.ray.tfar * (1 + 1e-6f) + 1e-6f;
    }
    return {};
}

SurfaceHit SurfaceQuery::nearest_along(const Vec3& point, const Vec3& direction, double reach,
                                       double min_cosine) const {
    SurfaceHit best;
    const Vec3 origin = point + reach * direction;  // looking back along it: fronts are met as fronts
    float from = 0, to = static_cast<float>(2 * reach);
    for (int sheet = 0; sheet < 64 && from < to; ++sheet) {
        const RTCRayHit ray = cast(inside_->scene, origin - inside_->centre, -direction, from, to);
        if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) break;
        from = ray.ray.tfar * (1 + 1e-6f) + 1e-6f;
        if (inside_->normals[ray.hit.primID].dot(direction) < min_cosine) continue;
        SurfaceHit hit = hit_of(ray, inside_->positions, inside_->triangles, origin);
        hit.distance = direction.dot(hit.position - point);
        if (best && std::abs(hit.distance) >= std::abs(best.distance)) break;
        best = hit;
        if (hit.distance <= 0) break;  // what follows lies farther behind
        // of what may still be nearer, the far end lies as far behind
        to = std::min(to, static_cast<float>(reach + hit.distance));
    }
    return best;
}

}  // namespace veld
